import type { At } from '../fieldTypes'
import type { Align, Span } from '../text'
import { type Doc, type Frame, type Look, type Runs, say } from './kit'
import type { LinesColumn } from './linesSchema'

/** Space between columns. */
const between = 8
/** A column is never narrower, and the one that takes the rest has at least this share of the table. */
const least = 24
const leastRest = 0.22

export type Column = {
	own: LinesColumn
	align: Align | undefined
	shown: (at: At) => boolean
	cell: Runs[]
	head: Look
	picture: ((at: At) => string) | null
}
/** A record with its cells, each of them spans a line. */
export type Written = { at: At; cells: Span[][][] }
/** Where a column lies. */
export type Place = { x: number; width: number }
/** Columns across the table: as wide as they are said to be, or as their widest cell up to a most; one takes what is left. */
export function placeColumns(columns: readonly Column[], records: readonly Written[], frame: Frame, doc: Doc): Place[] {
	const { metrics } = doc.tools
	const widths = columns.map(({ own, head, picture }, index) => {
		if (own.width === 'rest') return 0
		if (typeof own.width === 'number') return own.width
		const { most } = own.width
		let widest = metrics.width(say(doc, own.head), head.face, head.size)
		if (picture) widest = Math.max(widest, own.picture?.width ?? 0)
		for (const { cells } of records) {
			if (widest >= most) return most
			for (const spans of cells[index] ?? []) {
				let wide = 0
				for (const { text, face, size } of spans) wide += metrics.width(text, face, size)
				if (wide > widest) widest = wide
			}
		}
		return Math.min(widest + 0.5, most)
	})
	const room = frame.width - between * (columns.length - 1)
	const sum = () => widths.reduce((total, width) => total + width, 0)
	const resting = columns.filter(({ own }) => own.width === 'rest').length
	const wanted = resting > 0 ? frame.width * leastRest * resting : 0
	// Where the others leave too little, the widest of them give way and wrap.
	while (room - sum() < wanted) {
		const widest = widths.indexOf(Math.max(...widths))
		if ((widths[widest] ?? 0) <= least) break
		widths[widest] = Math.max(least, (widths[widest] ?? 0) - 2)
	}
	const left = Math.max(least, (room - sum()) / Math.max(resting, 1))
	let x = frame.x
	return columns.map(({ own }, index) => {
		const width = own.width === 'rest' ? left : (widths[index] ?? 0)
		const place = { x, width }
		x += width + between
		return place
	})
}
