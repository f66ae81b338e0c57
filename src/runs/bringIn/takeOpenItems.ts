import { type IntakeItem, readOpenItems } from '@/intake/openItems'
import type { Decided, Reading } from '@/intake/reading'
import type { Rows } from '@/intake/rows'
import type { Books } from '@/store/books'
import type { LedgerRow } from '@/store/ledger'
import { type ExtractReview, reviewExtract, whyNotAccepted } from '../extract'
import type { Known } from './knownBooks'
import type { Taken, Taking } from './take'

/** What an extract says beside the ledger. */
export function extractIn(
	books: Books,
	fileId: number,
	rows: Rows,
	reading: Reading,
	decided: Decided,
	known: Known,
): ExtractReview {
	const read = readOpenItems(rows, reading, decided, known, known.home)
	return reviewExtract(books, fileId, read, reading.asOf, (number) =>
		number === '' ? undefined : known.customer(number)?.id,
	)
}

const signed = (amount: number, side: string): number => (side === 'debit' ? amount : -amount)

/** Takes an extract: every item that is new, changed, gone, or the same. */
export function takeItemsOpen({ books, fileId, known, reading, decided, rows, refuse, left, record }: Taking): Taken {
	const review = extractIn(books, fileId, rows, reading, decided, known)
	for (const refusal of review.refused) refuse(refusal)
	for (const { row, why } of review.left) left(row, why)
	const names = new Map([...known.customers.values()].map(({ id, name }) => [id, name]))
	const say = (
		what: string,
		row: number,
		item: Pick<IntakeItem, 'number' | 'kind' | 'currency'> & { customer: number; due: string },
		was: number | null,
		is: number | null,
	) =>
		record({
			key: item.number,
			first_row: row,
			standing: what,
			brief: JSON.stringify({
				customer: names.get(item.customer) ?? '',
				kind: item.kind,
				due: item.due,
				currency: item.currency,
				was,
				is,
			}),
			body: '',
		})
	const fromFile = (item: IntakeItem) => ({ ...item, customer: item.customerId })
	const fromBooks = (item: LedgerRow) => ({
		number: item.number,
		kind: item.kind,
		currency: item.currency,
		customer: item.customer_id,
		due: item.due_day,
	})
	for (const { item, before } of review.changed)
		say('changed item', item.row, fromFile(item), signed(before.open_then, before.side), signed(item.open, item.side))
	for (const item of review.gone) say('gone', 0, fromBooks(item), signed(item.open, item.side), null)
	for (const item of review.ours) say('not in it', 0, fromBooks(item), signed(item.open, item.side), null)
	for (const item of review.added) say('new item', item.row, fromFile(item), null, signed(item.open, item.side))
	for (const { item } of review.same)
		say('same item', item.row, fromFile(item), signed(item.open, item.side), signed(item.open, item.side))
	return {
		rows: review.items.length,
		extract: {
			asOf: review.asOf,
			previous: review.previous,
			hindered: whyNotAccepted(review),
			totals: review.totals,
		},
	}
}
