import type { DocumentContent } from './document'
import { formatDay, formatMoney } from './format'

/** What a letter may name, in the order it is offered. */
export const mergeFields = [
	'customer',
	'number',
	'amount',
	'due date',
	'firm',
	'your order',
	'credited invoice',
] as const
export type MergeField = (typeof mergeFields)[number]
export type FieldValues = Record<MergeField, string>

/** The values of a document's merge fields, in its customer's figures and dates. */
export function fieldValues(content: DocumentContent): FieldValues {
	return {
		customer: content.customer.name,
		number: content.number,
		amount: formatMoney(content.priced.amountDue, content.currency, content.locale),
		'due date': formatDay(content.dueDay, content.locale),
		firm: content.issuer.name,
		'credited invoice': content.refersTo?.number ?? '',
		'your order': [...new Set(content.orders.map(({ purchaseOrder }) => purchaseOrder).filter(Boolean))].join(', '),
	}
}

/** Fills {field} marks in; a mark that names no field stays as it is. */
export function fillLetter(text: string, values: FieldValues): string {
	return text.replace(/\{([^{}]+)\}/g, (mark, name: string) => {
		const field = mergeFields.find((known) => known === name.trim().toLowerCase())
		return field === undefined ? mark : values[field]
	})
}

export type LetterKind = DocumentContent['kind']
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
}
