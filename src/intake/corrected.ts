import { type Cell, type SheetRow, textOf } from './cell'
import type { Rows } from './rows'

/** What a person says of a source that stays as it came: another value in one row or (row 0) wherever one stands in a column. */
export type CellCorrection = { row: number; place: number; field: string; was: string; now: string }

/** A row that a person corrected or left out; the places of the row's lines follow those of the row, as in a reading. */
export function correctedRows(
	rows: Rows,
	corrections: readonly CellCorrection[],
	leftOut: ReadonlySet<number>,
	lineFrom: number,
): Rows {
	if (corrections.length === 0 && leftOut.size === 0) return rows
	const inRow = new Map<number, CellCorrection[]>()
	const everywhere = new Map<number, Map<string, string>>()
	for (const one of corrections) {
		if (one.row > 0) inRow.set(one.row, [...(inRow.get(one.row) ?? []), one])
		else {
			const values = everywhere.get(one.place) ?? new Map<string, string>()
			values.set(one.was, one.now)
			everywhere.set(one.place, values)
		}
	}
	const set = (cells: Cell[], place: number, now: string) => {
		while (cells.length <= place) cells.push('')
		cells[place] = now
	}
	const correct = (row: SheetRow): SheetRow => {
		const own = inRow.get(row.row)
		const out = leftOut.has(row.row)
		if (!own && everywhere.size === 0) return out ? { ...row, leftOut: true } : row
		const cells = [...row.cells]
		const lines = row.lines?.map((line) => [...line])
		for (const [place, values] of everywhere) {
			const target =
				place < lineFrom || !lines
					? [{ cells, at: place }]
					: lines.map((line) => ({ cells: line, at: place - lineFrom }))
			for (const one of target) {
				const now = values.get(textOf(one.cells[one.at]))
				if (now !== undefined) set(one.cells, one.at, now)
			}
		}
		let given: Record<string, string> | undefined
		for (const { place, field, was, now } of own ?? []) {
			if (field !== '') {
				given = { ...given, [field]: now }
				continue
			}
			if (place < lineFrom || !lines) set(cells, place, now)
			else
				for (const line of lines)
					if (textOf(line[place - lineFrom]) === was) {
						set(line, place - lineFrom, now)
						break
					}
		}
		return {
			row: row.row,
			cells,
			...(lines ? { lines } : {}),
			...(out ? { leftOut: true } : {}),
			...(given ? { given } : {}),
			...(row.trouble && !own ? { trouble: row.trouble } : {}),
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
