import { z } from 'zod'
import type { OwnField } from '@/core/ownFields'
import { readDay } from '@/core/readDay'
import { type Field, type FileKind, fieldsFor, fileKinds, plainName } from './kinds'
import type { Table } from './table'
import { findDayFormat, findDecimalMark, readDecimal } from './values'

/** How a file is read: what it holds, which column (by place) is which field, how days and decimals are written. */
export const readingSchema = z.object({
	kind: z.enum(fileKinds),
	columns: z.record(z.string(), z.number().int().min(0)),
	dayFormat: z.enum(['year first', 'day first', 'month first']),
	decimalMark: z.enum(['.', ',']),
	/** The day that a file of open items shows; empty until it is known. */
	asOf: z.string().default(''),
	/** What becomes of documents issued here that such a file does not have. */
	ours: z.enum(['kept open', 'taken as settled']).default('kept open'),
	/** What payments are applied to. */
	to: z.enum(['named', 'named then oldest', 'oldest', 'nothing']).default('named then oldest'),
})
export type Reading = z.infer<typeof readingSchema>

/** A value that was not taken: the file's own row and column, what stood there, what to do. */
export type RowRefusal = { row: number; column: string; value: string; remedy: string }

const firstValues = (table: Table, column: number | undefined, most: number): string[] =>
	column === undefined ? [] : table.rows.slice(0, most).map(({ cells }) => cells[column] ?? '')

/** The best reading of a table: the kind whose fields it names most of, unless one is given. */
export function proposeReading(table: Table, kind?: FileKind, own: readonly OwnField[] = []): Reading {
	const best = kind ?? bestKind(table, own)
	const columns = matchColumns(table, best, own)
	const ofType = (type: Field['type']) =>
		fieldsFor(best, own)
			.filter((field) => field.type === type)
			.flatMap(({ key }) => firstValues(table, columns[key], 500))
	return {
		kind: best,
		columns,
		dayFormat: findDayFormat(ofType('day')),
		decimalMark: findDecimalMark(ofType('decimal')),
		asOf: '',
		ours: 'kept open',
		to: 'named then oldest',
	}
}

function bestKind(table: Table, own: readonly OwnField[]): FileKind {
	const score = (kind: FileKind) => {
		const matched = matchColumns(table, kind, own)
		const required = fieldsFor(kind, own).filter(({ required }) => required)
		const missing = required.filter(({ key }) => matched[key] === undefined).length
		return Object.keys(matched).length - missing * 2
	}
	return fileKinds.reduce((best, kind) => (score(kind) > score(best) ? kind : best))
}

/** Gives each field the column that bears one of its names; the earlier name counts more, a column serves once. */
function matchColumns(table: Table, kind: FileKind, own: readonly OwnField[]): Record<string, number> {
	const fields = fieldsFor(kind, own)
	const names = table.head.map(plainName)
	const taken = new Set<number>()
	const columns: Record<string, number> = {}
	const most = Math.max(...fields.map((field) => field.names.length))
	for (let rank = 0; rank < most; rank++) {
		for (const field of fields) {
			const place = names.indexOf(field.names[rank] ?? '\u0000')
			if (place < 0 || taken.has(place) || columns[field.key] !== undefined) continue
			columns[field.key] = place
			taken.add(place)
		}
	}
	return columns
}

/** Required fields that no column was matched to. */
export const missingFields = (reading: Reading): Field[] =>
	fieldsFor(reading.kind, []).filter(({ key, required }) => required && reading.columns[key] === undefined)

/** A row: `get` gives a value in our form (empty when it could not be read), `raw` what stands in the file. */
export type RowValues = {
	row: number
	get: (key: string) => string
	raw: (key: string) => string
	refuse: (key: string, remedy: string) => void
}

/** Goes through the rows with each value read by its field's type; values that cannot be read are added to `refused`. */
export function* readRows(
	table: Table,
	reading: Reading,
	refused: RowRefusal[],
	own: readonly OwnField[] = [],
): Generator<RowValues> {
	const fields = fieldsFor(reading.kind, own)
	for (const { row, cells } of table.rows) {
		const raw = (key: string) => cells[reading.columns[key] ?? -1] ?? ''
		const refuse = (key: string, remedy: string) => {
			const place = reading.columns[key]
			refused.push({ row, column: place === undefined ? key : (table.head[place] ?? key), value: raw(key), remedy })
		}
		const values: Record<string, string> = {}
		for (const { key, type, label } of fields) {
			const text = raw(key)
			const read =
				text === ''
					? ''
					: type === 'day'
						? readDay(text, reading.dayFormat)
						: type === 'decimal'
							? readDecimal(text, reading.decimalMark)
							: text
			if (read === null) {
				refuse(
					key,
					type === 'day'
						? `${label} must be a day that exists, such as 31/10/2026. Correct it in the source.`
						: `${label} must be a number. Correct it in the source.`,
				)
			}
			values[key] = read ?? ''
		}
		yield { row, get: (key) => values[key] ?? '', raw, refuse }
	}
}
