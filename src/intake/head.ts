import { readDay } from '@/core/readDay'
import { isBlank, type SheetRow, textOf } from './cell'
import { knownNames } from './kinds'
import { plainName } from './kinds/field'
import { readFigure } from './values/figure'

const filled = ({ cells }: SheetRow) => cells.filter((cell) => textOf(cell) !== '')
const lastFilled = ({ cells }: SheetRow): number => {
	let last = cells.length - 1
	while (last >= 0 && textOf(cells[last]) === '') last--
	return last
}

const isValue = (text: string): boolean =>
	readDay(text, 'day first') !== null ||
	readDay(text, 'month first') !== null ||
	readFigure(text, 'point', 'amount').ok ||
	readFigure(text, 'comma', 'amount').ok

/**
 * The place among the first rows of the one that names the columns (READING, rule 5): where at least three cells are names that we know,
 * else the first of at least three filled cells, none a number or a day, with rows of as many cells under it, else one of two names.
 */
export function findHead(rows: readonly SheetRow[]): number | null {
	const known = knownNames()
	const names = rows.map((row) => filled(row).filter((cell) => known.has(plainName(textOf(cell)))).length)
	const place = names.findIndex((count) => count >= 3)
	if (place >= 0) return place
	const shaped = rows.findIndex((row, index) => {
		const cells = filled(row)
		if (cells.length < 3 || cells.some((cell) => typeof cell !== 'string' || isValue(cell))) return false
		const under = rows.slice(index + 1).filter((one) => !isBlank(one))
		const [next] = under
		if (!next) return false
		return (
			lastFilled(next) <= lastFilled(row) &&
			(next.cells.length === row.cells.length || filled(next).length * 2 >= cells.length)
		)
	})
	if (shaped >= 0) return shaped
	const few = rows.findIndex((row, index) => names[index] === 2 && filled(row).length === 2)
	return few >= 0 ? few : null
}
