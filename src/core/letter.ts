import type { BillContent } from './document'
import { formatAmount, formatDay, formatDecimal } from './format'
import { tableText } from './messageBody'
import type { StatementItem } from './statement'

/** What a letter may name, in the order it is offered. */
export const mergeFields = [
	'customer',
	'number',
	'amount',
	'due date',
	'firm',
	'your order',
	'credited invoice',
	'as of',
	'past due',
	'days late',
	'items',
	'items past due',
	'paper',
	'last day',
] as const
export type MergeField = (typeof mergeFields)[number]
export type FieldValues = Record<MergeField, string>

/** Every field empty, for a kind of document to fill its own in. */
export const noFields: FieldValues = {
	customer: '',
	number: '',
	amount: '',
	'due date': '',
	firm: '',
	'your order': '',
	'credited invoice': '',
	'as of': '',
	'past due': '',
	'days late': '',
	items: '',
	'items past due': '',
	paper: '',
	'last day': '',
}

/** The table of items in a letter about what is owed, and below it what is taken off. A column that would be empty for all is left out. */
export function itemTable(
	items: readonly StatementItem[],
	{ locale, currency }: { locale: string; currency: string },
	less: readonly (readonly [words: string, amount: string])[] = [],
): string {
	return tableText(
		['Number', 'Your order', 'Due', 'Days late', `Open, ${currency}`],
		[
			...items.map(({ number, due, open, theirOrder, daysPastDue, kind }) => [
				number,
				theirOrder,
				open.startsWith('-') && (kind === 'credit' || kind === 'payment') ? kind : formatDay(due, locale),
				daysPastDue > 0 ? String(daysPastDue) : '',
				formatAmount(open, locale),
			]),
			...less.map(([words, amount]) => [words, '', '', '', formatAmount(amount, locale)]),
		],
	)
}

/** The table of lines in a letter that goes with an invoice or credit note. */
export const lineTable = ({ lines, priced, locale, currency }: BillContent): string =>
	tableText(
		['Item', 'Quantity', `Net, ${currency}`],
		lines.map(({ description, item, quantity, unit }, place) => [
			description || item,
			`${formatDecimal(quantity, locale)} ${unit}`.trim(),
			formatAmount(priced.lines[place]?.net ?? '0', locale),
		]),
	)

/** Fills {field} marks in; a mark that names no field stays as it is. */
export function fillLetter(text: string, values: FieldValues): string {
	return text.replace(/\{([^{}]+)\}/g, (mark, name: string) => {
		const field = mergeFields.find((known) => known === name.trim().toLowerCase())
		return field === undefined ? mark : values[field]
	})
}

/** The fields that a letter names, each once. */
export const fieldsIn = (text: string): MergeField[] =>
	mergeFields.filter((field) => text.toLowerCase().includes(`{${field}}`))

/** Marks of a letter that name no field. */
export const unknownFields = (text: string): string[] =>
	[...text.matchAll(/\{([^{}]+)\}/g)].flatMap(([mark, name = '']) =>
		mergeFields.some((field) => field === name.trim().toLowerCase()) ? [] : [mark],
	)
