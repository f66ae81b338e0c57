import { z } from 'zod'
import type { OwnField } from '@/core/ownFields'
import type { DayFormat } from '@/core/readDay'
import { matchColumns } from './columns'
import { type ColumnSays, type Example, together } from './evidence'
import { type FileKind, fieldsFor, fileKindRules, fileKinds } from './kinds'
import { type Field, plainName } from './kinds/field'
import type { DecimalMark } from './values/figure'

export const discountForms = ['percent', 'share', 'amount'] as const
export type DiscountForm = (typeof discountForms)[number]

/** How a source is read: its format, where its columns stand, which is which field, and what a person answered. Kept as a reader. */
export const readingSchema = z.object({
	format: z.string().default('csv'),
	settings: z.record(z.string(), z.unknown()).default({}),
	/** The row that names the columns; null where none does. */
	headRow: z.number().int().nullable().default(1),
	/** Whether a person said which row that is. */
	headSaid: z.boolean().default(false),
	/** The names of the columns; those of lines within a record from `lineFrom` on. */
	head: z.array(z.string()).default([]),
	lineFrom: z.number().int().default(0),
	kind: z.enum(fileKinds),
	columns: z.record(z.string(), z.number().int().min(0)),
	/** Further lines that stand side by side in a row. */
	groups: z.array(z.record(z.string(), z.number().int().min(0))).default([]),
	/** Fields whose column was guessed by a name that could mean something else. */
	guessed: z.array(z.string()).default([]),
	/** Answers of a person, or of the reader; null where the file itself decides. */
	days: z.enum(['year first', 'day first', 'month first']).nullable().default(null),
	decimal: z.enum(['point', 'comma']).nullable().default(null),
	discount: z.enum(discountForms).nullable().default(null),
	orderDiscount: z.enum(discountForms).nullable().default(null),
	/** What counts where a field has no column, or its cell is empty. */
	defaults: z.record(z.string(), z.string()).default({}),
	/** The day that a file of open items shows; empty until it is known. */
	asOf: z.string().default(''),
	/** What becomes of documents issued here that such a file does not have. */
	ours: z.enum(['kept open', 'taken as settled']).default('kept open'),
	/** How the signs of open items are read; null where the file itself decides. */
	signs: z.enum(['as they stand', 'by kind']).nullable().default(null),
	/** The kind of paper that its rows are for; 0 until it is said. */
	paperKind: z.number().int().min(0).default(0),
	/** What payments are applied to. */
	to: z.enum(['named', 'named then oldest', 'oldest', 'nothing']).default('named then oldest'),
})
export type Reading = z.infer<typeof readingSchema>

/** A value that was not taken: the source's own row and column, what stood there, why and what to do. */
export type RowRefusal = {
	row: number
	/** The field that it is about, and its place in the row; null where no column bears it. */
	field: string
	place: number | null
	column: string
	value: string
	remedy: string
	/** Set where nothing is wrong with the row itself: another of its order was refused. */
	follows?: true
	/** Values that are likely meant, each with why; offered, never taken. */
	offers?: Offer[]
}
export type Offer = { value: string; words: string }

/** The head of a source as it was found. */
export type Head = { row: number | null; names: string[]; lineFrom: number }

/** The kind whose fields a head names best; null where it names too little of any to tell. */
export function bestKind(head: Head, ownFields: readonly OwnField[]): FileKind | null {
	const score = (kind: FileKind) => {
		const fields = fieldsFor(kind, ownFields)
		const { columns, guessed } = matchColumns(head.names, head.lineFrom, fields)
		const missing = fields.filter(({ key, needed }) => needed && columns[key] === undefined).length
		return Object.keys(columns).length - guessed.length / 2 - missing * 2
	}
	// Rows for papers may be anything: they are said to be so, and not told by their head.
	const scores = fileKinds.filter((kind) => fileKindRules[kind].told).map((kind) => ({ kind, score: score(kind) }))
	const best = scores.reduce((one, other) => (other.score > one.score ? other : one))
	return best.score > 0 ? best.kind : null
}

/** Matches the columns of a head for a kind anew; what was answered stays. */
export function matchedFor(
	head: Head,
	kind: FileKind,
	ownFields: readonly OwnField[],
): Pick<Reading, 'columns' | 'groups' | 'guessed'> {
	return matchColumns(head.names, head.lineFrom, fieldsFor(kind, ownFields))
}

/** Needed fields that no column and no default serves. Of an order's lines a price or an item is needed. */
export function missingFields(reading: Reading, ownFields: readonly OwnField[] = []): Field[] {
	const fields = fieldsFor(reading.kind, ownFields)
	const serves = (key: string) => reading.columns[key] !== undefined || (reading.defaults[key] ?? '') !== ''
	const missing = fields.filter(({ key, needed }) => needed && !serves(key))
	const price = fields.find(({ key }) => key === 'unitPrice')
	if (reading.kind === 'orders' && price && !serves('unitPrice') && !serves('item')) missing.push(price)
	return missing
}

/** Columns that no field takes, by place. */
export function notUsed(reading: Reading): { place: number; name: string }[] {
	const used = new Set([...Object.values(reading.columns), ...reading.groups.flatMap((group) => Object.values(group))])
	return reading.head.flatMap((name, place) => (used.has(place) || name === '' ? [] : [{ place, name }]))
}

export const questionNames = ['days', 'decimal', 'discount', 'orderDiscount'] as const
export type QuestionName = (typeof questionNames)[number]
/** What is asked of discounts, and of which field. */
export const discountFields = { discount: 'lineDiscount', orderDiscount: 'orderDiscount' } as const
export type DiscountQuestion = keyof typeof discountFields
/** What a source leaves open: examples, and what each answer would make of them. */
type Question = { name: QuestionName; examples: Example[]; disagree: boolean }

/** How days, figures and discounts are read, whether by what the values say or by an answer, and what is open. */
export type Decided = {
	days: DayFormat
	decimal: DecimalMark
	/** Null while nothing says it: then discounts may only be nought. */
	discount: DiscountForm | null
	orderDiscount: DiscountForm | null
	by: Record<QuestionName, 'values' | 'answer' | 'nothing'>
	questions: Question[]
}

const placesOf = (reading: Reading, keys: readonly string[]): number[] =>
	[reading.columns, ...reading.groups].flatMap((columns) => keys.flatMap((key) => columns[key] ?? []))

/** Decides what can be decided from what the columns say (READING, rules 15, 16 and 19). */
export function decide(
	reading: Reading,
	evidence: readonly ColumnSays[],
	ownFields: readonly OwnField[] = [],
): Decided {
	const fields = fieldsFor(reading.kind, ownFields)
	const says = (types: readonly Field['type'][]) =>
		placesOf(
			reading,
			fields.filter(({ type }) => types.includes(type)).map(({ key }) => key),
		).flatMap((place) => evidence[place] ?? [])
	const questions: Question[] = []
	const ask = (name: QuestionName, examples: Example[], disagree: boolean) => {
		questions.push({ name, examples, disagree })
	}

	const dayColumns = says(['day'])
	const [dayFirst, monthFirst, eitherDay] = (['day first', 'month first', 'day either'] as const).map((saying) =>
		together(dayColumns, saying),
	)
	const daysTorn = (dayFirst?.count ?? 0) > 0 && (monthFirst?.count ?? 0) > 0
	const daysOpen = (dayFirst?.count ?? 0) + (monthFirst?.count ?? 0) === 0 && (eitherDay?.count ?? 0) > 0
	if (reading.days === null && (daysTorn || daysOpen))
		ask(
			'days',
			daysTorn ? [...(dayFirst?.examples ?? []), ...(monthFirst?.examples ?? [])] : (eitherDay?.examples ?? []),
			daysTorn,
		)

	const figures = says(['amount', 'quantity', 'percent', 'discount', 'number'])
	const [point, comma, eitherMark] = (['point', 'comma', 'mark either'] as const).map((saying) =>
		together(figures, saying),
	)
	const marksTorn = (point?.count ?? 0) > 0 && (comma?.count ?? 0) > 0
	const marksOpen = (point?.count ?? 0) + (comma?.count ?? 0) === 0 && (eitherMark?.count ?? 0) > 0
	if (reading.decimal === null && (marksTorn || marksOpen))
		ask(
			'decimal',
			marksTorn ? [...(point?.examples ?? []), ...(comma?.examples ?? [])] : (eitherMark?.examples ?? []),
			marksTorn,
		)

	const saysDays = (monthFirst?.count ?? 0) > 0 || (dayFirst?.count ?? 0) > 0
	const saysMark = (point?.count ?? 0) > 0 || (comma?.count ?? 0) > 0
	const formOf = (name: DiscountQuestion) => reading[name] ?? (headSaysPercent(reading, name) ? 'percent' : null)
	const formBy = (name: DiscountQuestion) =>
		reading[name] ? 'answer' : headSaysPercent(reading, name) ? 'values' : 'nothing'
	return {
		days: reading.days ?? ((monthFirst?.count ?? 0) > 0 && !daysTorn ? 'month first' : 'day first'),
		decimal: reading.decimal ?? ((comma?.count ?? 0) > 0 && !marksTorn ? 'comma' : 'point'),
		discount: formOf('discount'),
		orderDiscount: formOf('orderDiscount'),
		by: {
			days: reading.days ? 'answer' : saysDays ? 'values' : 'nothing',
			decimal: reading.decimal ? 'answer' : saysMark ? 'values' : 'nothing',
			discount: formBy('discount'),
			orderDiscount: formBy('orderDiscount'),
		},
		questions,
	}
}

/** Whether a column's name says that it holds percents. */
export const saysPercent = (head: string): boolean =>
	/%|percent|prozent|pct|pourcent|prosent|porcentaje/.test(plainName(head))

/** Whether the head of a column says that its figures are percents. */
export const headSaysPercent = (reading: Reading, name: DiscountQuestion): boolean =>
	placesOf(reading, [discountFields[name]]).some((place) => saysPercent(reading.head[place] ?? ''))

/** Whether the rows must be asked what a discount is: there is a column of them that says nothing by itself and is not all nought. */
export const discountIsOpen = (
	name: DiscountQuestion,
	reading: Reading,
	decided: Decided,
	evidence: readonly ColumnSays[],
): boolean =>
	reading.kind === 'orders' &&
	decided[name] === null &&
	placesOf(reading, [discountFields[name]]).some((place) => (evidence[place]?.figures ?? 0) > 0)
