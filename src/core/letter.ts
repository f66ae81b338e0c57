import type { DocumentContent } from './document'
import { formatAmount, formatDay, formatDecimal, formatMoney } from './format'
import { tableText } from './messageBody'
import type { PaperContent } from './paper'
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
] as const
export type MergeField = (typeof mergeFields)[number]
export type FieldValues = Record<MergeField, string>

/** The values of a document's merge fields, in its customer's figures and dates. */
export function fieldValues(content: PaperContent): FieldValues {
	if (content.kind === 'statement') {
		const { locale, currency } = content
		const late = content.items.filter(({ pastDue }) => pastDue)
		return {
			...none,
			customer: content.customer.name,
			number: content.number,
			amount: formatMoney(content.total, currency, locale),
			firm: content.issuer.name,
			'as of': formatDay(content.day, locale),
			'past due': formatMoney(content.pastDue, currency, locale),
			'days late': String(content.oldest),
			items: itemTable(content.items, content),
			'items past due': itemTable(late, content),
		}
	}
	return {
		...none,
		customer: content.customer.name,
		number: content.number,
		amount: formatMoney(content.priced.amountDue, content.currency, content.locale),
		'due date': formatDay(content.dueDay, content.locale),
		firm: content.issuer.name,
		'credited invoice': content.refersTo?.number ?? '',
		items: lineTable(content),
		'your order': [...new Set(content.orders.map(({ purchaseOrder }) => purchaseOrder).filter(Boolean))].join(', '),
	}
}

const none: FieldValues = {
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
}

/** The table of items in a letter about what is owed. A column that would be empty for all is left out. */
function itemTable(
	items: readonly StatementItem[],
	{ locale, currency }: { locale: string; currency: string },
): string {
	return tableText(
		['Number', 'Your order', 'Due', 'Days late', `Open, ${currency}`],
		items.map(({ number, due, open, theirOrder, daysPastDue, kind }) => [
			number,
			theirOrder,
			kind === 'credit' || kind === 'payment' ? kind : formatDay(due, locale),
			daysPastDue > 0 ? String(daysPastDue) : '',
			formatAmount(open, locale),
		]),
	)
}

/** The table of lines in a letter that goes with an invoice or credit note. */
const lineTable = ({ lines, priced, locale, currency }: DocumentContent): string =>
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

export const letterKinds = ['invoice', 'credit-note', 'statement', 'past-due-1', 'past-due-2', 'past-due-3'] as const
export type LetterKind = (typeof letterKinds)[number]
export const letterName: Record<LetterKind, string> = {
	invoice: 'Invoice',
	'credit-note': 'Credit note',
	statement: 'Statement',
	'past-due-1': 'Past due, friendly',
	'past-due-2': 'Past due, firm',
	'past-due-3': 'Past due, final',
}

/** The letter that goes with a document. */
export const letterOf = (content: PaperContent): LetterKind =>
	content.kind === 'statement' ? content.letter : content.kind
export type Letter = { kind: LetterKind; subject: string; body: string }

/** The letters that go with documents until the firm writes its own. */
export const firstLetters: Record<LetterKind, Letter> = {
	invoice: {
		kind: 'invoice',
		subject: 'Invoice {number} from {firm}',
		body: `Dear {customer},

our invoice {number} for {amount} is attached. It is due on {due date}.

Please quote {number} with your payment. If anything on it is not as you expect, answer this message and we will look at it at once.

With kind regards
{firm}`,
	},
	'credit-note': {
		kind: 'credit-note',
		subject: 'Credit note {number} from {firm}',
		body: `Dear {customer},

our credit note {number} for {amount} is attached. It credits our invoice {credited invoice}; nothing is to be paid on it.

With kind regards
{firm}`,
	},
	statement: {
		kind: 'statement',
		subject: 'Statement {number} from {firm}, as of {as of}',
		body: `Dear {customer},

our statement {number} as of {as of} is attached. It comes to {amount}, of which {past due} is past due.

If a payment has crossed with this message, or anything is not as you expect, answer it and we will look at it at once.

With kind regards
{firm}`,
	},
	'past-due-1': {
		kind: 'past-due-1',
		subject: 'Statement {number} from {firm}: {past due} past due',
		body: `Dear {customer},

our statement as of {as of} is attached. {past due} of it is past its due date:

{items past due}

It may have slipped by; would you see to it, or tell us when we may expect it? If your payment has crossed with this message, please forget it.

With kind regards
{firm}`,
	},
	'past-due-2': {
		kind: 'past-due-2',
		subject: '{past due} is past due: statement {number} from {firm}',
		body: `Dear {customer},

{past due} is past due on your account, the oldest item by {days late} days:

{items past due}

Please pay it within seven days, or tell us what keeps you from it. The statement as of {as of} is attached.

{firm}`,
	},
	'past-due-3': {
		kind: 'past-due-3',
		subject: 'Last request: {past due} past due, statement {number} from {firm}',
		body: `Dear {customer},

we have written before about what is past due on your account. It is now {past due}, the oldest item by {days late} days:

{items past due}

Unless it is paid within seven days we must hold further deliveries and take the matter on. If you dispute an item, tell us which and why.

{firm}`,
	},
}
