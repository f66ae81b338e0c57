import { records } from './records'

export const delimiters = [';', ',', '\t', '|'] as const

/** A first line that names the delimiter itself ("sep=;"). */
export const namedDelimiter = (start: string): string | null => /^sep=(.)\r?(?:\n|$)/i.exec(start)?.[1] ?? null

const linesOf = (cells: readonly string[]): number =>
	cells.reduce((lines, cell) => lines + cell.split(/\r\n|\n|\r/).length - 1, 1)

/**
 * The mark that gives most rows the same count of at least two cells (READING, rule 3), a row of several lines counting as so many, since by
 * another mark its quotes part nothing; of two that do, the one with more cells.
 */
export function findDelimiter(start: string): string {
	const named = namedDelimiter(start)
	if (named) return named
	let best = { delimiter: ',', rows: 0, cells: 0 }
	for (const delimiter of delimiters) {
		const counts = new Map<number, number>()
		for (const cells of records(start, delimiter))
			if (cells.length > 1) counts.set(cells.length, (counts.get(cells.length) ?? 0) + linesOf(cells))
		for (const [cells, rows] of counts)
			if (rows > best.rows || (rows === best.rows && cells > best.cells)) best = { delimiter, rows, cells }
	}
	return best.delimiter
}
