/** A cell of a source: text as it stands, or, in formats that know more, a value with its type. */
export type Cell = string | TypedCell
type TypedCell = {
	/** `text` of a number is plain decimal text, of a percent too (10 for 10%), of a day ISO, of an error what is shown. */
	is: 'number' | 'percent' | 'day' | 'error'
	text: string
}

/** What a cell shows, for people and for fields that hold text. */
export const textOf = (cell: Cell | undefined): string =>
	cell === undefined ? '' : typeof cell === 'string' ? cell : cell.is === 'percent' ? `${cell.text}%` : cell.text

/**
 * A row of a source. `row` is its number as a sheet shows it, from 1. `lines` are the objects that a record of a nested source holds,
 * each by the source's line columns. A row that a person left out says so.
 */
/**
 * `given`: values of fields that the source has no column for, by a person. `trouble`: why its format could not read it rightly; it is
 * refused for it until a person corrects the row.
 */
export type SheetRow = {
	row: number
	cells: Cell[]
	lines?: Cell[][]
	leftOut?: boolean
	given?: Record<string, string>
	trouble?: string
}

/** A column of a source that names its own; `of` a line: its values stand in `lines`. */
export type Column = { name: string; of: 'row' | 'line' }

/** Whether nothing stands in a row. */
export const isBlank = ({ cells, lines }: SheetRow): boolean =>
	cells.every((cell) => cell === '') && (lines === undefined || lines.length === 0)
