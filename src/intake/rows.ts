import type { OwnField } from '@/core/ownFields'
import { type DayFormat, readDay } from '@/core/readDay'
import { type Cell, isBlank, type SheetRow, textOf } from './cell'
import { fieldsFor } from './kinds'
import type { Field } from './kinds/field'
import { type Decided, type Offer, type Reading, type RowRefusal, saysPercent } from './reading'
import { type FigureRead, readFigure } from './values/figure'
import { percentOfShare } from './values/share'

/** The rows of a source, as they were read from it; from the first to the last, or one by its number. */
export type Rows = {
	/** The highest number of a row. */
	last: number
	each: () => Iterable<SheetRow>
	get: (row: number) => SheetRow | undefined
	/** For getting very many of them in any order. */
	anywhere: () => (row: number) => SheetRow | undefined
}

/** Rows that are in memory, to be gone through as often as wanted. */
export const rowsOf = (rows: readonly SheetRow[]): Rows => {
	const byNumber = new Map(rows.map((row) => [row.row, row]))
	const get = (row: number) => byNumber.get(row)
	return { last: rows.at(-1)?.row ?? 0, each: () => rows, get, anywhere: () => get }
}

const longestText = 2000

/** A value as it was read: in our form, empty where there is none or it could not be read. */
export type Value = { text: string; currency: string; unit: string; percent: boolean; why: string }
const plainValue = (text: string): Value => ({ text, currency: '', unit: '', percent: false, why: '' })
const nothing: Value = { text: '', currency: '', unit: '', percent: false, why: '' }

/** Why a row is not looked at as one of values: nothing stands in it, it stands above the head, it is a total. */
export type SkipReason = 'above the head' | 'blank' | 'total' | 'left out'

const holds = { amount: 'amount', quantity: 'unit', percent: 'percent', discount: 'percent', number: 'amount' } as const
const dayWords: Record<DayFormat, string> = {
	'day first': 'day, month, year, such as 31/10/2026',
	'month first': 'month, day, year, such as 10/31/2026',
	'year first': 'year, month, day, such as 2026-10-31',
}
// What a sheet makes of a long number when it saves it as text: its last digits are gone.
const shortened = /^\d(?:[.,]\d+)?E\+\d+$/i

const lostLetter = 'A letter of it could not be read (�). Set “Letters are written as” otherwise, or correct it here.'

/** Reads cells by the type of their field; values that come again and again are read once. */
export function cellReader(decided: Pick<Decided, 'days' | 'decimal'>) {
	const days = new Map<string, Value>()
	const dayOf = (text: string): Value => {
		const known = days.get(text)
		if (known) return known
		const day = readDay(text, decided.days)
		const value = day
			? plainValue(day)
			: { ...nothing, why: `This is no day that exists, as ${dayWords[decided.days]}.` }
		if (days.size > 20_000) days.clear()
		days.set(text, value)
		return value
	}
	const figures = {
		amount: new Map<string, Value>(),
		quantity: new Map<string, Value>(),
		percent: new Map<string, Value>(),
		discount: new Map<string, Value>(),
		number: new Map<string, Value>(),
	}
	return (cell: Cell, type: Field['type']): Value => {
		if (cell === '') return nothing
		if (typeof cell !== 'string') return typedValue(cell, type)
		if (type === 'text') {
			if (cell.includes('\ufffd')) return { ...nothing, why: lostLetter }
			if (cell.length < 12 && !cell.includes('+')) return plainValue(cell)
			if (cell.length > longestText)
				return { ...nothing, why: `It has ${cell.length} characters; at most 2,000 are kept.` }
			return shortened.test(cell)
				? {
						...nothing,
						why: 'A sheet has shortened this number and lost its last digits. Format its column as text, and export it again.',
					}
				: plainValue(cell)
		}
		if (type === 'day') return dayOf(cell)
		const known = figures[type].get(cell)
		if (known) return known
		const value = figureValue(readFigure(cell, decided.decimal, holds[type]), type)
		if (figures[type].size > 20_000) figures[type].clear()
		figures[type].set(cell, value)
		return value
	}
}

function figureValue(read: FigureRead, type: Field['type']): Value {
	if (!read.ok) return { ...nothing, why: read.why }
	const { value, currency, unit, percent } = read.figure
	if ((type === 'number' || type === 'percent') && currency !== '')
		return { ...nothing, why: 'A currency does not belong here.' }
	return { text: value, currency, unit, percent, why: '' }
}

function typedValue(cell: Exclude<Cell, string>, type: Field['type']): Value {
	const { is, text } = cell
	if (is === 'error') return { ...nothing, why: `The sheet says ${text} here. Mend the formula, and save it again.` }
	if (type === 'text') return { ...nothing, text: textOf(cell) }
	if (type === 'day') {
		if (is === 'day') return { ...nothing, text }
		const day = is === 'number' && /^\d{8}$/.test(text) ? readDay(text, 'year first') : null
		return day
			? { ...nothing, text: day }
			: {
					...nothing,
					why: 'This is a number that is not shown as a day. Format the column as days, and save it again.',
				}
	}
	if (is === 'day') return { ...nothing, why: 'A day stands here where a number belongs.' }
	if (is === 'percent' && type !== 'percent' && type !== 'discount')
		return { ...nothing, why: 'A percent does not belong here.' }
	return figureValue(readFigure(text, 'point', is === 'percent' ? 'percent' : 'amount'), type).why === ''
		? { ...nothing, text, percent: is === 'percent' }
		: figureValue(readFigure(text, 'point', 'amount'), type)
}

/** A set of fields at their places, in a row or in one of its lines. */
export type Placed = { field: Field; place: number | undefined }[]

/** What is known of a source's shape, worked out once for all its rows. */
export function shapeOf(reading: Reading, ownFields: readonly OwnField[]) {
	const fields = fieldsFor(reading.kind, ownFields)
	const nested = reading.lineFrom < reading.head.length
	const placed = (columns: Record<string, number>, of: Field['of'] | 'all'): Placed =>
		fields
			.filter((one) => of === 'all' || one.of === of)
			.filter((one) => columns[one.key] !== undefined || (reading.defaults[one.key] ?? '') !== '')
			.map((one) => ({ field: one, place: columns[one.key] }))
	let lastNamed = reading.head.length - 1
	while (lastNamed >= 0 && reading.head[lastNamed] === '') lastNamed--
	return {
		fields,
		nested,
		/** Beyond this place nothing may stand. */
		lastNamed: reading.headRow === null ? Number.POSITIVE_INFINITY : lastNamed,
		row: placed(reading.columns, 'row'),
		all: placed(reading.columns, 'all'),
		lines: [reading.columns, ...reading.groups].map((columns) => placed(columns, 'line')),
		cell: (row: SheetRow, line: number, place: number | undefined): Cell => {
			if (place === undefined) return ''
			if (nested && place >= reading.lineFrom) return row.lines?.[line]?.[place - reading.lineFrom] ?? ''
			return row.cells[place] ?? ''
		},
	}
}
export type Shape = ReturnType<typeof shapeOf>

/** What counts for a field where nothing stands; it was given in our form, whatever the marks of the source. */
export function defaultOf(reading: Reading, { key, type }: Field): Cell {
	const text = reading.defaults[key] ?? ''
	if (text === '' || type === 'text') return text
	return { is: type === 'day' ? 'day' : 'number', text }
}

/** Where a row stands with regard to the head, or null for one of values. */
export function reasonSkipped(row: SheetRow, reading: Reading): SkipReason | 'head' | null {
	if (isBlank(row)) return 'blank'
	if (reading.headRow !== null && row.row <= reading.headRow)
		return row.row === reading.headRow ? 'head' : 'above the head'
	return row.leftOut ? 'left out' : null
}

/** What makes a whole row unreadable: what its format says of it, a cell beyond the last column that has a name, or an error of the sheet's. */
export function troubleOf(row: SheetRow, shape: Shape, reading: Reading): RowRefusal | null {
	if (row.trouble !== undefined)
		return { row: row.row, field: '', place: null, column: 'the row', value: '', remedy: row.trouble }
	for (let place = row.cells.length - 1; place >= 0; place--) {
		const cell = row.cells[place] ?? ''
		if (cell === '') continue
		if (place > shape.lastNamed)
			return {
				row: row.row,
				field: '',
				place: null,
				column: `column ${place + 1}`,
				value: textOf(cell),
				remedy: `The row has more cells than the head has names: a value of it may stand in the wrong column. Put quotes round a text that holds the delimiter, or name the column.`,
			}
		if (typeof cell !== 'string' && cell.is === 'error')
			return {
				row: row.row,
				field: '',
				place,
				column: reading.head[place] ?? `column ${place + 1}`,
				value: textOf(cell),
				remedy: 'The sheet has an error in this row. Mend the formula, and save it again.',
			}
	}
	return null
}

/** A row of values: `get` gives one in our form (empty when it could not be read), `raw` what stands in the source. */
export type RowValues = {
	row: number
	get: (key: string) => string
	value: (key: string) => Value
	raw: (key: string) => string
	/** Whether the source has a column, or a default, for it. */
	has: (key: string) => boolean
	refuse: (key: string, remedy: string, offers?: Offer[]) => void
}

/** What hinders a percent that may as well be a share of one (0.2 for 20%): nothing where the value or the head has a percent sign. */
export function shareOrPercent({ text, percent }: Value, { type }: Field, head: string | undefined): string {
	if (type !== 'percent' || percent || head === undefined || saysPercent(head) || !/^0\.0*[1-9]/.test(text)) return ''
	return `It may be a percent or a share. Write it with a percent sign, ${text}% or ${percentOfShare(text)}%.`
}

export type RowsOut = { refuse: (refusal: RowRefusal) => void; left: (row: number, why: SkipReason) => void }

/** Goes through the rows of a kind whose records are a row each, with each value read by its field's type. */
export function* readRows(
	rows: Rows,
	reading: Reading,
	decided: Decided,
	ownFields: readonly OwnField[],
	out: RowsOut,
): Generator<RowValues> {
	const shape = shapeOf(reading, ownFields)
	const read = cellReader(decided)
	for (const row of rows.each()) {
		const why = reasonSkipped(row, reading)
		if (why === 'head') continue
		if (why) {
			out.left(row.row, why)
			continue
		}
		const trouble = troubleOf(row, shape, reading)
		if (trouble) {
			out.refuse(trouble)
			continue
		}
		const values: Record<string, Value> = {}
		const refuse = (key: string, remedy: string, offers?: Offer[]) =>
			out.refuse({ ...refusalOf(row, reading, shape, shape.all, 0, key, remedy), ...(offers ? { offers } : {}) })
		for (const { field, place } of shape.all) {
			const cell = shape.cell(row, 0, place)
			const value = read(cell === '' ? defaultOf(reading, field) : cell, field.type)
			const why = value.why || shareOrPercent(value, field, reading.head[place ?? -1])
			if (why !== '') refuse(field.key, why)
			values[field.key] = why === '' ? value : { ...nothing, why }
		}
		for (const [key, text] of Object.entries(row.given ?? {})) values[key] = plainValue(text)
		yield {
			row: row.row,
			get: (key) => values[key]?.text ?? '',
			value: (key) => values[key] ?? nothing,
			raw: (key) => row.given?.[key] ?? textOf(shape.cell(row, 0, reading.columns[key])),
			has: (key) => reading.columns[key] !== undefined || (reading.defaults[key] ?? '') !== '',
			refuse,
		}
	}
}

/** The refusal of a field in a row, or in one of its lines. */
export function refusalOf(
	row: SheetRow,
	reading: Reading,
	shape: Shape,
	placed: Placed,
	line: number,
	key: string,
	remedy: string,
): RowRefusal {
	const found = placed.find(({ field }) => field.key === key)
	const label = found?.field.label ?? shape.fields.find((field) => field.key === key)?.label ?? key
	const place = found?.place
	return {
		row: row.row,
		field: key,
		place: place ?? null,
		column: place === undefined ? label : (reading.head[place] ?? `column ${place + 1}`),
		value: place === undefined ? (row.given?.[key] ?? '') : textOf(shape.cell(row, line, place)),
		remedy,
	}
}
