import { z } from 'zod'
import { encodings } from '../delimited/encodings'

const column = z.number().int().min(0).max(5000)
const name = z.string().min(1).max(100)

/**
 * Something by which a line is known: text at a column, or wherever it stands (`at` null). By its `shape`, any digit stands for any digit and
 * any letter for any letter, so that a number that is another on each page is known all the same.
 */
const spotSchema = z.object({
	text: z.string().min(1).max(200),
	at: column.nullable(),
	like: z.enum(['text', 'shape']),
})
export type Spot = z.infer<typeof spotSchema>

/**
 * A value that a document has once. It stands at columns counted from its label, or, without one, from the left edge; `line` lines under its
 * label, or under the line that begins the document. Several lines of it go to as many names, or are one text where there is but one name.
 */
const valueSchema = z.object({
	names: z.array(name).min(1).max(12),
	label: spotSchema.nullable(),
	line: z.number().int().min(0).max(200),
	lines: z.number().int().min(1).max(12),
	from: column,
	/** The column after its last; null for all that stands to its right. */
	to: column.nullable(),
	/** Whether it is of the whole report: its own total. */
	whole: z.boolean(),
})
export type ValueMark = z.infer<typeof valueSchema>

const columnSchema = z.object({
	name,
	/** In rows of several lines, the line on which it stands. */
	line: z.number().int().min(0).max(3),
	from: column,
	to: column.nullable(),
	/** Whether its text runs on in lines where nothing else stands. */
	wraps: z.boolean(),
})
export type ColumnMark = z.infer<typeof columnSchema>

const rowsSchema = z.object({
	/** The line under which they stand; null where there is none. */
	under: spotSchema.nullable(),
	/** Without such a line: how many lines under the one that begins the document they can begin. */
	after: z.number().int().min(0).max(200),
	/** Lines that each takes. */
	height: z.number().int().min(1).max(4),
	/** Columns of which one is filled where a row begins. */
	key: z.array(name),
	columns: z.array(columnSchema).min(1).max(100),
})
export type RowMarks = z.infer<typeof rowsSchema>

/** What is what in a printed report, as a person marked it on one of its pages. */
export const marksSchema = z.object({
	encoding: z.enum(encodings).default('UTF-8'),
	/** Whether the first column holds carriage control. */
	control: z.boolean().default(false),
	/** Lines that each page has; 0 where form feeds or carriage control part them. */
	pageLines: z.number().int().min(0).max(500).default(0),
	/** The lines at the head of every page that are passed over, as they stand on one of them. */
	top: z.array(z.string().max(5000)).max(100).default([]),
	pass: z.array(spotSchema).max(100).default([]),
	begins: spotSchema.nullable().default(null),
	ends: spotSchema.nullable().default(null),
	/** The value that tells one document from another. */
	number: z.string().max(100).default(''),
	/** Values that each document must have. */
	need: z.array(name).max(20).default([]),
	values: z.array(valueSchema).max(100).default([]),
	rows: rowsSchema.nullable().default(null),
})
export type Marks = z.infer<typeof marksSchema>

/** Whether anything is marked that rows can be read by. */
export const isMarked = ({ rows, values, begins }: Marks): boolean =>
	rows !== null || (begins !== null && values.some(({ whole }) => !whole))

/** The names of what is read by the marks: of each document, then of its rows. */
export const namesOf = ({ values, rows }: Marks): string[] => [
	...new Set([
		...values.filter(({ whole }) => !whole).flatMap(({ names }) => names),
		...(rows?.columns.map(({ name: own }) => own) ?? []),
	]),
]

/** A text with every digit as 9 and every letter as A. */
export const shapeOf = (text: string): string => text.replace(/\p{L}/gu, 'A').replace(/\d/g, '9')

const isBlankAt = (text: string, place: number): boolean =>
	place < 0 || place >= text.length || (text[place] ?? ' ') === ' '

/** The column at which a line has a spot, or -1. What may stand anywhere stands apart from other words. */
export function findSpot(line: string, { text, at, like }: Spot): number {
	const [where, what] = like === 'shape' ? [shapeOf(line), shapeOf(text)] : [line, text]
	const stands = (place: number): boolean =>
		where.startsWith(what, place) &&
		isBlankAt(line, place - 1) &&
		// A shape is all that stands there; a text may be followed at once by its value.
		(like === 'text' || isBlankAt(line, place + what.length))
	if (at !== null) return stands(at) ? at : -1
	for (let place = where.indexOf(what); place >= 0; place = where.indexOf(what, place + 1))
		if (stands(place)) return place
	return -1
}
