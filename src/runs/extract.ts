import type { Day } from '@/core/calendar'
import { type IntakeItem, itemKey, type OpenItemsResult } from '@/intake/openItems'
import type { Reading } from '@/intake/reading'
import type { Books } from '@/store/books'
import type { Desk } from '@/store/events'
import { addExtract, addExtractRow, latestExtract } from '@/store/extracts'
import { addApplication, addItem, correctItem, itemsUpTo, type LedgerRow, type RowThen } from '@/store/ledger'

/** An item of the file and what the ledger has of it, as of the file's day. */
export type Changed = { item: IntakeItem; before: RowThen }
/** What an extract says beside what the ledger holds, before it is accepted. */
export type ExtractReview = OpenItemsResult & {
	asOf: Day | ''
	/** Day of the extract before. */
	previous: Day | null
	added: IntakeItem[]
	changed: Changed[]
	/** As many stand in both just the same. */
	same: Changed[]
	/** In the extract before, open here, and no longer in this one. */
	gone: LedgerRow[]
	/** Issued here and open, and in no extract yet. */
	ours: LedgerRow[]
	/** Signed minor units by currency: what the rows add up to, and what the file's own control total says. */
	totals: { currency: string; items: number; open: number; control: number | null }[]
}

/** Compares an extract with the ledger as of its day. */
export function reviewExtract(
	books: Books,
	fileId: number,
	read: OpenItemsResult,
	asOf: Day | '',
	customerId: (number: string) => number | undefined,
): ExtractReview {
	const previous = latestExtract(books, fileId)
	const held = asOf === '' ? [] : itemsUpTo(books, asOf)
	const byKey = new Map(
		held
			// Of two items with one number (a revised invoice), the one that is open, and then the later, is meant.
			.sort((a, b) => Number(a.open > 0) - Number(b.open > 0) || a.id - b.id)
			.map((item) => [itemKey({ ...item, customerId: item.customer_id }), item]),
	)
	const review: ExtractReview = {
		...read,
		asOf,
		previous: previous?.as_of ?? null,
		added: [],
		changed: [],
		same: [],
		gone: [],
		ours: [],
		totals: totalsOf(read),
	}
	const named = new Set<number>()
	for (const item of read.items) {
		const before = byKey.get(itemKey(item))
		if (!before) review.added.push(item)
		else {
			named.add(before.id)
			const same = before.open_then === item.open && before.amount === item.amount && before.due_day === item.due
			review[same ? 'same' : 'changed'].push({ item, before })
		}
	}
	// What a refused row names cannot be gone; one that names no item keeps all of its customer's, or all there are.
	const untouched = read.untouched.map(({ customer, number }) => ({ customer: customerId(customer), number }))
	const isUntouched = (item: LedgerRow) =>
		untouched.some(
			({ customer, number }) =>
				(customer === undefined || customer === item.customer_id) &&
				(number === '' || number === item.number.toUpperCase()),
		)
	for (const item of held) {
		if (item.open === 0 || named.has(item.id) || isUntouched(item)) continue
		if (item.extract_id !== null) review.gone.push(item)
		else if (item.document_id !== null) review.ours.push(item)
	}
	return review
}

function totalsOf({ items, control }: OpenItemsResult): ExtractReview['totals'] {
	const currencies = new Set([...items.map(({ currency }) => currency), ...control.keys()])
	return [...currencies]
		.map((currency) => {
			const own = items.filter((item) => item.currency === currency)
			const open = own.reduce((sum, item) => sum + (item.side === 'debit' ? item.open : -item.open), 0)
			return { currency, items: own.length, open, control: control.get(currency) ?? null }
		})
		.sort((a, b) => b.items - a.items)
}

/** Why an extract cannot be accepted; null when it can. */
export function whyNotAccepted(review: ExtractReview): string | null {
	if (review.asOf === '') return 'Give the day that the file shows: everything that was open on it.'
	if (review.previous !== null && review.asOf <= review.previous)
		return `An extract as of ${review.previous} was accepted; this one must be of a later day.`
	return null
}

/**
 * Makes the ledger what the extract says, as of its day: new items entered, open amounts moved by an application that names the
 * extract, what is gone settled. Within the transaction that accepts the file.
 */
export function acceptExtract(
	books: Books,
	desk: Desk,
	fileId: number,
	review: ExtractReview,
	ours: Reading['ours'],
): string {
	const { asOf } = review
	const extract_id = addExtract(books, desk, fileId, asOf)
	const settle = (item: { id: number; side: LedgerRow['side'] }, amount: number, reason: string) => {
		if (amount === 0) return
		const [debit_id, credit_id] = item.side === 'debit' ? [item.id, null] : [null, item.id]
		addApplication(books, desk, { debit_id, credit_id, day: asOf, amount, reason, extract_id })
	}
	const note = (item: IntakeItem, item_id: number) =>
		addExtractRow(books, extract_id, {
			source_row: item.row,
			item_id,
			kind: item.kind,
			due_day: item.due,
			amount: item.amount,
			open: item.open,
		})
	for (const item of review.added) {
		const id = addItem(books, desk, {
			customer_id: item.customerId,
			kind: item.kind,
			side: item.side,
			number: item.number,
			day: item.day,
			due_day: item.due,
			currency: item.currency,
			amount: item.amount,
			their_order: item.theirOrder,
			note: '',
			document_id: null,
			extract_id,
		})
		settle({ id, side: item.side }, item.amount - item.open, 'settled in part before it came here')
		note(item, id)
	}
	for (const { item, before } of [...review.changed, ...review.same]) {
		// What was applied since the file's day stands; no more can be settled than is still open.
		const moved = item.amount - item.open - (before.amount - before.open_then)
		const amount = Math.min(moved, before.open + Math.max(0, item.amount - before.amount))
		const correct = () => correctItem(books, before.id, { extract_id, due_day: item.due, amount: item.amount })
		// What is open may never be below zero or above the amount on the way.
		if (item.amount >= before.amount) correct()
		settle(before, amount, amount > 0 ? 'less is open in the extract' : 'more is open in the extract')
		if (item.amount < before.amount) correct()
		note(item, before.id)
	}
	for (const item of review.gone) settle(item, item.open, 'no longer in the extract')
	if (ours === 'taken as settled') for (const item of review.ours) settle(item, item.open, 'not in the extract')
	const { added, changed, same, gone } = review
	const own = review.ours.length > 0 ? `; ${review.ours.length} issued here and not in it ${ours}` : ''
	const refused = review.refused.length > 0 ? `; ${review.refused.length} refusals` : ''
	return `As of ${asOf}: ${added.length} new, ${changed.length} changed, ${gone.length} gone, ${same.length} the same${own}${refused}.`
}
