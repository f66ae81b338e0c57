import { type Cell, type SheetRow, textOf } from './cell'
import type { Rows } from './rows'

/** What a person says of a source that stays as it came: another value in one row or (row 0) wherever one stands in a column. */
type CellCorrection = { row: number; place: number; field: string; was: string; now: string }

type Ordered = CellCorrection & { order: number }

function set(cells: Cell[], place: number, now: string): void {
	while (cells.length <= place) cells.push('')
	cells[place] = now
}

/**
 * A row that a person corrected or left out; the places of the row's lines follow those of the row, as in a reading.
 * Corrections count one after the other, as they were made.
 */
export function correctedRows(
	rows: Rows,
	corrections: readonly CellCorrection[],
	leftOut: ReadonlySet<number>,
	lineFrom: number,
): Rows {
	if (corrections.length === 0 && leftOut.size === 0) return rows
	const inRow = new Map<number, Ordered[]>()
	const everywhere = new Map<number, Ordered[]>()
	for (const [order, one] of corrections.entries()) {
		const [map, key] = one.row > 0 ? [inRow, one.row] : [everywhere, one.place]
		map.set(key, [...(map.get(key) ?? []), { ...one, order }])
	}
	const places = [...everywhere].map(([place, list]) => ({ place, list, now: new Map<string, string>() }))
	const ofAll = [...everywhere.values()].flat()
	// What a value becomes by all corrections of its column, one after the other.
	const becomes = ({ list, now }: (typeof places)[number], text: string): string => {
		const known = now.get(text)
		if (known !== undefined) return known
		const value = list.reduce((value, one) => (one.was === value ? one.now : value), text)
		if (now.size > 20_000) now.clear()
		now.set(text, value)
		return value
	}
	const correct = (row: SheetRow): SheetRow => {
		const own = inRow.get(row.row)
		const out = leftOut.has(row.row)
		if (!own && places.length === 0) return out ? { ...row, leftOut: true } : row
		const cells = [...row.cells]
		const lines = row.lines?.map((line) => [...line])
		const at = (place: number) =>
			place < lineFrom || !lines ? [{ cells, at: place }] : lines.map((line) => ({ cells: line, at: place - lineFrom }))
		if (!own)
			for (const one of places)
				for (const target of at(one.place)) {
					const text = textOf(target.cells[target.at])
					const now = becomes(one, text)
					if (now !== text) set(target.cells, target.at, now)
				}
		let given: Record<string, string> | undefined
		let mended = false
		for (const one of own ? [...ofAll, ...own].sort((a, b) => a.order - b.order) : []) {
			if (one.field !== '') {
				given = { ...given, [one.field]: one.now }
				continue
			}
			// One that was made of another value than stands there, the file being read otherwise since, changes nothing.
			const targets = at(one.place).filter((target) => textOf(target.cells[target.at]) === one.was)
			for (const target of one.row > 0 ? targets.slice(0, 1) : targets) {
				set(target.cells, target.at, one.now)
				mended ||= one.row > 0
			}
		}
		return {
			row: row.row,
			cells,
			...(lines ? { lines } : {}),
			...(out ? { leftOut: true } : {}),
			...(given ? { given } : {}),
			...(row.trouble && !mended ? { trouble: row.trouble } : {}),
		}
	}
	return {
		last: rows.last,
		*each() {
			for (const row of rows.each()) yield correct(row)
		},
		get: (number) => {
			const row = rows.get(number)
			return row && correct(row)
		},
		anywhere: () => {
			const get = rows.anywhere()
			return (number) => {
				const row = get(number)
				return row && correct(row)
			}
		},
	}
}
