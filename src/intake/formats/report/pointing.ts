import { documentReader, isPassedOver } from './documents'
import type { Printed } from './lines'
import { findSpot, type Marks } from './marks'

/** What a person dragged over: lines by their places among all that are in view, columns from the first to after the last. */
export type Picked = { first: number; last: number; from: number; to: number }
export type Marked = { ok: true; marks: Marks } | { ok: false; message: string }

/** What was pointed at cannot be marked so, and why. */
export const no = (message: string): Marked => ({ ok: false, message })
/** The places among the lines of those that begin a document; the first of all where none is marked. */
export const beginnings = (marks: Marks, lines: readonly Printed[]): number[] => {
	const { begins } = marks
	if (!begins) return [0]
	return lines.flatMap((line, place) => (!isPassedOver(line, marks) && findSpot(line.text, begins) >= 0 ? [place] : []))
}

/** Marks without some names. @param valuesOnly leave the columns of rows */
export function withoutName(marks: Marks, names: readonly string[], valuesOnly = false): Marks {
	const values = marks.values.filter((one) => !one.names.some((name) => names.includes(name)))
	if (!marks.rows || valuesOnly) return { ...marks, values }
	const columns = marks.rows.columns.filter(({ name }) => !names.includes(name))
	return { ...marks, values, rows: columns.length === 0 ? null : { ...marks.rows, columns } }
}

/** What is read as rows by marks: where each begins, the texts of these lines, and which are without trouble. */
export function rowsRead(marks: Marks, lines: readonly Printed[]) {
	const begun = new Map<string, boolean>()
	const documents = documentReader(marks, {
		row: () => {},
		total: () => {},
		taken: ({ page, of }, as) => {
			if (as === 'row' || as === 'trouble') begun.set(`${page}:${of}`, as === 'trouble')
		},
	})
	for (const line of lines) documents.line(line)
	documents.end()
	const places = lines.flatMap(({ page, of }, place) => (begun.has(`${page}:${of}`) ? [place] : []))
	return {
		places,
		texts: places.map((place) => lines[place]?.text ?? ''),
		isSound: (place: number) => begun.get(`${lines[place]?.page}:${lines[place]?.of}`) === false,
	}
}
