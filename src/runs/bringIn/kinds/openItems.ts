import { correctedRows } from '@/intake/corrected'
import { type IntakeItem, readOpenItems } from '@/intake/openItems'
import type { Decided, Reading } from '@/intake/reading'
import type { Rows } from '@/intake/rows'
import { settled } from '@/intake/settled'
import { type Books, inOneStep } from '@/store/books'
import { correctionsOf, leftOutOf } from '@/store/corrections'
import type { LedgerRow } from '@/store/ledger'
import { rowsIn } from '@/store/sheet'
import { acceptExtract, type ExtractReview, reviewExtract, whyNotAccepted } from '../../extract'
import { type Known, knownBooks } from '../knownBooks'
import { type Entered, type Entering, type KindRules, standing, type Taken, type Taking } from './kind'

/** What an extract says beside the ledger. */
function extractIn(
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
function takeItemsOpen({ books, fileId, known, reading, decided, rows, refuse, left, record }: Taking): Taken {
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
			said: '',
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

function enterExtract({ books, desk, file, sheet, reading, review }: Entering): Entered {
	const known = knownBooks(books)
	const leftOut = new Set(leftOutOf(books, file.id).map(({ row }) => row))
	const rows = correctedRows(rowsIn(sheet), correctionsOf(books, file.id), leftOut, reading.lineFrom)
	const evidence = JSON.parse(file.look ?? '{}').evidence ?? []
	const extract = extractIn(books, file.id, rows, reading, settled(rows, reading, evidence, known.own), known)
	return { words: acceptExtract(books, desk, file.id, extract, reading.ours), left: { ...review, standings: {} } }
}

export const openItemsRules: KindRules = {
	take: takeItemsOpen,
	enter: (entering, end) => inOneStep(entering.books, () => end(enterExtract(entering))),
	brings: (review, accepted) => standing(review, 'new item', 'changed item', ...(accepted ? [] : ['same item'])),
	one: 'open item',
	several: 'open items',
}
