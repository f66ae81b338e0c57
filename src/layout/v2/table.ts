import { type Flow, margin, need, right } from './frame'
import { type Face, hair, ink, type Metrics, mute, wrap, write } from './page'

/** A column of a table: what its head says, how wide it may grow, and whether it takes the width that the others leave. */
export type Column = { head: string; align: 'left' | 'right'; most?: number; rest?: boolean }
export type Cell = { text: string; color?: string; face?: Face; size?: number }
/** Where a column lies: its left edge and its width. */
export type Place = { x: number; width: number }

const gap = 8
const least = 30
const lead = 11.5

/**
 * Lays columns out over the page's width: each as wide as its widest cell, up to its most; the one that takes the rest has at least 110
 * points, for which the widest of the others give way and wrap.
 */
export function placeColumns(
	columns: readonly Column[],
	rows: readonly (readonly Cell[])[],
	metrics: Metrics,
): Place[] {
	const widths = columns.map(({ head, most = Number.POSITIVE_INFINITY, rest }, index) => {
		if (rest) return 0
		const widest = rows.reduce(
			(width, row) => {
				const { text = '', face = 'regular', size = 9 } = row[index] ?? {}
				return Math.max(width, metrics.width(text, face, size))
			},
			metrics.width(head, 'regular', 8.5),
		)
		return Math.min(widest + 0.5, most)
	})
	const room = right - margin - gap * (columns.length - 1)
	const sum = () => widths.reduce((total, width) => total + width, 0)
	while (room - sum() < 110) {
		const widest = widths.indexOf(Math.max(...widths))
		if ((widths[widest] ?? 0) <= least) break
		widths[widest] = Math.max(least, (widths[widest] ?? 0) - 2)
	}
	const left = room - sum()
	let x = margin
	return columns.map(({ rest }, index) => {
		const width = rest ? left : (widths[index] ?? 0)
		const place = { x, width }
		x += width + gap
		return place
	})
}

/** The head of a table, with its rule. */
export function tableHead(flow: Flow, columns: readonly Column[], places: readonly Place[]): void {
	const heads = columns.map(({ head }, index) => wrap(head, places[index]?.width ?? 0, flow.metrics, 'regular', 8.5))
	const height = Math.max(...heads.map(({ length }) => length)) * 10.5
	heads.forEach((lines, index) => {
		lines.forEach((line, place) => {
			put(flow, columns[index], places[index], flow.y + 9 + place * 10.5, { text: line, size: 8.5, color: mute })
		})
	})
	flow.y += height + 3.5
	flow.page.push({ type: 'rule', x: margin, y: flow.y, width: right - margin, thickness: 0.8, color: ink })
	flow.y += 2
}

function put(flow: Flow, column: Column | undefined, place: Place | undefined, y: number, cell: Cell): void {
	if (!column || !place) return
	const x = column.align === 'right' ? place.x + place.width : place.x
	const { text, size = 9, color = ink, face = 'regular' } = cell
	write(flow.page, flow.metrics, x, y, text, { size, color, face, align: column.align })
}

/** A row broken into the lines of its cells. */
export type Broken = { cells: { cell: Cell; lines: string[] }[]; height: number; lines: number }

/** The cells of a row broken into lines, by the widths of their columns. */
export function breakRow(flow: Flow, places: readonly Place[], row: readonly Cell[]): Broken {
	const cells = row.map((cell, index) => ({
		cell,
		lines: wrap(cell.text, places[index]?.width ?? 0, flow.metrics, cell.face ?? 'regular', cell.size ?? 9),
	}))
	const lines = Math.max(...cells.map((cell) => cell.lines.length))
	return { cells, lines, height: lines * lead + 5 }
}

/**
 * Draws a row. One that fits no page, or that wraps long, goes on over the next pages line by line.
 * @param after height of what must stand on the page of its last lines
 */
export function tableRow(
	flow: Flow,
	columns: readonly Column[],
	places: readonly Place[],
	row: Broken,
	after = 0,
): void {
	const whole = row.lines <= 12
	if (whole) need(flow, row.height + after)
	for (let line = 0; line < row.lines; line++) {
		const last = line >= row.lines - 2
		if (!whole) need(flow, lead + 5 + (last ? lead + after : 0))
		row.cells.forEach(({ cell, lines }, index) => {
			const text = lines[line]
			if (text !== undefined) put(flow, columns[index], places[index], flow.y + 11, { ...cell, text })
		})
		flow.y += lead
	}
	flow.y += 5
	flow.page.push({ type: 'rule', x: margin, y: flow.y, width: right - margin, thickness: 0.4, color: hair })
}
