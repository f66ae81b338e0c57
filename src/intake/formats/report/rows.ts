import type { Printed } from './lines'
import { type ColumnMark, findSpot, type Marks, type RowMarks } from './marks'
import { around, cutOut, squeezed, without } from './spans'

/** Where something stands that was read or not: for showing it on its page. */
export type Place = { line: number; page: number; of: number }
export type LineTaken = 'passed over' | 'begins' | 'goes on' | 'value' | 'row' | 'runs on' | 'trouble'
/** What is told of each line while a report is read. */
export type LinesOut = {
	/** What a line was taken as. */
	taken?: (place: Place, as: LineTaken) => void
	/** What a piece of a line was read as. */
	span?: (place: Place, from: number, to: number, as: 'value' | 'cell' | 'total', name: string) => void
}
/** A row as it was read from its line, and what does not fit in it. */
export type OwnRow = { at: Printed; cells: Record<string, string>; troubles: string[] }

/** Any figure. */
export const figure = /\d/

/** Where a printed line stands. */
export const placeOf = ({ line, page, of }: Printed): Place => ({ line, page, of })
/** A place in words. */
export const where = ({ page, of }: Place): string => `page ${page}, line ${of}`

/**
 * Reads the rows among the lines of a document, and tells what does not fit. `use` is told which columns of a line were read.
 * Rows without documents go on from one call to the next.
 */
export function rowReader({ begins, ends, rows: rowMarks }: Marks, out: LinesOut) {
	let carried = { inside: false, headPage: 0, begun: false }

	function readCells(
		row: OwnRow,
		line: Printed,
		depth: number,
		columns: readonly ColumnMark[],
		use: (index: number, from: number, to: number) => void,
		index: number,
	): void {
		for (const column of columns) {
			if (column.line !== depth) continue
			const { value, cut } = cutOut(line.text, column.from, column.to)
			if (cut) row.troubles.push(cutWords(line, column))
			row.cells[column.name] = value
			out.span?.(placeOf(line), column.from, column.to ?? line.text.length, 'cell', column.name)
			use(index, column.from, column.to ?? line.text.length)
		}
	}

	return function readRows(
		lines: readonly Printed[],
		labelled: ReadonlySet<number>,
		use: (index: number, from: number, to: number) => void,
	): { rows: OwnRow[]; lost: string[] } {
		const rows: OwnRow[] = []
		const lost: string[] = []
		if (!rowMarks) return { rows, lost }
		const { under, after, height, columns, key } = rowMarks
		let { inside, headPage } = begins ? { inside: false, headPage: 0 } : carried
		const least = begins || !carried.begun ? after : 0
		inside ||= under === null
		let row: OwnRow | null = null
		// How many lines of the row have come.
		let depth = 0
		for (let index = 0; index < lines.length; index++) {
			const line = lines[index]
			if (!line || line.text === '') continue
			if (under) {
				const at = findSpot(line.text, under)
				if (at >= 0) {
					if (headPage === line.page && rows.length > 0)
						lost.push(`Its rows begin twice on page ${line.page}. Is a beginning missed?`)
					headPage = line.page
					inside = true
					row = null
					use(index, 0, line.text.length)
					continue
				}
			} else if (index < least) continue
			if (labelled.has(index) || (ends && findSpot(line.text, ends) >= 0)) {
				if (under) inside = false
				row = null
				continue
			}
			const begun = beginsRow(line.text, columns, key)
			if (!inside) {
				if (begun && figure.test(filledIn(line.text, columns, key)) && under && headPage > 0)
					lost.push(`At ${where(line)} stands what looks like a row, outside its rows: “${squeezed(line.text)}”.`)
				continue
			}
			const goesOn: boolean = row !== null && depth < height
			if (goesOn && row) {
				if (standsForAnother(line.text, depth, rowMarks))
					row.troubles.push(
						`At ${where(line)} stands what looks like a row, where the one above goes on: “${squeezed(line.text)}”. Is a line of it missed?`,
					)
				readCells(row, line, depth, columns, use, index)
				depth++
				out.taken?.(placeOf(line), 'runs on')
			} else if (begun) {
				row = { at: line, cells: {}, troubles: [] }
				readCells(row, line, 0, columns, use, index)
				depth = 1
				rows.push(row)
				out.taken?.(placeOf(line), row.troubles.length > 0 ? 'trouble' : 'row')
			} else if (row && runsOn(line.text, columns)) {
				for (const column of columns.filter(({ wraps }) => wraps)) {
					const { value, cut } = cutOut(line.text, column.from, column.to)
					if (cut) row.troubles.push(cutWords(line, column))
					if (value !== '') row.cells[column.name] = `${row.cells[column.name] ?? ''} ${value}`.trim()
					use(index, column.from, column.to ?? line.text.length)
					out.span?.(placeOf(line), column.from, column.to ?? line.text.length, 'cell', column.name)
				}
				out.taken?.(placeOf(line), 'runs on')
			} else {
				const words = `At ${where(line)} stands among the rows what is none: “${squeezed(line.text)}”. Pass over such lines, or mark what it is.`
				if (row) row.troubles.push(words)
				else lost.push(words)
				out.taken?.(placeOf(line), 'trouble')
			}
		}
		carried = { inside, headPage, begun: true }
		return { rows, lost }
	}
}

const cutWords = (line: Printed, column: ColumnMark): string =>
	`At ${where(line)}, the edge of ${column.name} cuts “${around(line.text, column.from, column.to)}”.`

const firstLine = (columns: readonly ColumnMark[]) => columns.filter(({ line }) => line === 0)
/** What stands in the columns that tell a row. */
const filledIn = (text: string, columns: readonly ColumnMark[], key: readonly string[]): string => {
	const telling = firstLine(columns).filter(({ name, wraps }) => (key.length > 0 ? key.includes(name) : !wraps))
	return telling.map(({ from, to }) => cutOut(text, from, to).value).join('')
}
const beginsRow = (text: string, columns: readonly ColumnMark[], key: readonly string[]): boolean =>
	filledIn(text, columns, key) !== ''

/** Whether a line stands in the columns as a row does: what tells one is a figure, most are filled, and none is cut. */
export function looksLikeRow(text: string, { columns, key }: RowMarks): boolean {
	if (!figure.test(filledIn(text, columns, key))) return false
	const cells = firstLine(columns).map(({ from, to }) => cutOut(text, from, to))
	return cells.filter(({ value }) => value !== '').length * 2 > cells.length && cells.every(({ cut }) => !cut)
}

/**
 * Whether a line that should go on with a row begins another: it looks like one, what tells a row is a bare figure there, and at this depth
 * stands text that reaches over several columns, so that figures in their places are not what was marked.
 */
function standsForAnother(text: string, depth: number, rows: RowMarks): boolean {
	const { columns, key } = rows
	const reaching = columns
		.filter(({ line }) => line === depth)
		.some(
			(one) =>
				firstLine(columns).filter(({ from, to }) => from < (one.to ?? from + 1) && (to ?? one.from + 1) > one.from)
					.length > 1,
		)
	return reaching && /^[\d.,\-+()]+$/.test(filledIn(text, columns, key)) && looksLikeRow(text, rows)
}

/** Whether nothing stands in a line but text that runs on. */
function runsOn(text: string, columns: readonly ColumnMark[]): boolean {
	const wrapping = columns.filter(({ wraps }) => wraps)
	return (
		wrapping.length > 0 &&
		without(
			text,
			wrapping.map(({ from, to }) => [from, to ?? text.length]),
		) === '' &&
		text.trim() !== ''
	)
}
