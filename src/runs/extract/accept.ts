import { type Day, dayText } from '@/core/calendar'
import { amountText } from '@/core/currency'
import { formatAmount, formatMinor } from '@/core/format'
import { openFrom } from '@/core/ledger'
import type { IntakeItem } from '@/intake/openItems'
import type { Reading } from '@/intake/reading'
import { agedTotals } from '@/store/accounts'
import type { Books } from '@/store/books'
import type { Desk } from '@/store/events'
import { addExtract, addExtractRow } from '@/store/extracts'
import {
	addApplication,
	addItem,
	applicationsOfItem,
	carryDispute,
	changeItem,
	entryOf,
	wasTakenBack,
} from '@/store/ledger'
import { type RowThen, settledHere } from '@/store/ledgerThen'
import { applyAgain, applyOn, unapplyOn } from '../receivables/apply'
import { later } from '../receivables/days'
import type { Ended } from './doubts'
import type { Likely, Pair } from './likely'
import { openOfReplaced, openThere } from './replacing'
import { countsFrom, kindThen } from './review'
import type { ExtractReview, Settlement } from './reviewed'

type Given = { ours: Reading['ours']; reason: string; ended: Ended }
type Accepting = { books: Books; desk: Desk; asOf: Day; extract: number; words: string }

/**
 * Makes the ledger what the extract says, as of its day: what is new is entered, what is otherwise becomes so from that day on, what is
 * gone is settled. Days before keep what they had, and what was paid here after the day stays paid. Within the transaction that accepts the file.
 * @throws where the ledger then is not what the review said it would be
 */
export function acceptExtract(books: Books, desk: Desk, fileId: number, review: ExtractReview, given: Given): string {
	const { asOf } = review
	if (asOf === '') throw new Error('An extract needs its day.')
	const extract = addExtract(books, desk, fileId, asOf, given.reason, given.ended)
	const at: Accepting = { books, desk, asOf, extract, words: `the extract of ${dayText(asOf)}` }
	const note = (item: IntakeItem, item_id: number, number = '') =>
		addExtractRow(books, extract, {
			...{ source_row: item.row, item_id, number, kind: item.kind, due_day: item.due },
			...{ amount: item.amount, open: item.open },
		})
	const paid = settledHere(books, asOf)
	const settlements = new Map(review.settlements.map((one) => [one.before.id, one]))
	for (const item of review.added) note(item, enterNew(at, item, countsFrom(books, review, item.day), ''))
	for (const one of review.replaced) note(one.item, replace(at, one))
	const written = ({ item, before }: Pair) => (item.number === before.number ? '' : item.number)
	for (const pair of review.changed)
		note(
			pair.item,
			changeTo(at, pair, paid.get(pair.before.id) ?? 0, settlements.get(pair.before.id)?.parts),
			written(pair),
		)
	for (const pair of review.same) note(pair.item, pair.before.id, written(pair))
	for (const item of review.gone)
		settle(at, item, item.open_then, `no longer in ${at.words}`, settlements.get(item.id)?.parts)
	if (given.ours === 'taken as settled')
		for (const item of review.ours.filter(({ document_id }) => document_id !== null))
			settle(at, item, item.open_then, `not in ${at.words}`)
	asReviewed(books, asOf, review)
	return inWords(review, given)
}

function enterNew({ books, desk, asOf, extract }: Accepting, item: IntakeItem, day: Day, note: string): number {
	const id = addItem(books, desk, {
		customer_id: item.customerId,
		...{ kind: item.kind, side: item.side, number: item.number, called: item.called },
		...{ day, dated: day === item.day ? '' : item.day, due_day: item.due },
		...{ currency: item.currency, amount: item.amount, their_order: item.theirOrder, note },
		...{ document_id: null, extract_id: extract },
	})
	const part = item.amount - item.open
	const [debit_id, credit_id] = item.side === 'debit' ? [id, null] : [null, id]
	if (part > 0)
		addApplication(books, desk, {
			...{ debit_id, credit_id, day: asOf, amount: part, extract_id: extract },
			reason: 'settled in part before it came here',
		})
	return id
}

/** What of an item is otherwise where another stands for it, in words: "to another customer", "50.00 to −50.00". */
const turnedInto = ({ item, before, ways }: Likely): string => {
	const other = item.currency !== before.currency
	const figure = (side: string, amount: number, currency: string) =>
		`${formatMinor(side === 'debit' ? amount : -amount, currency)}${other ? ` ${currency}` : ''}`
	const parts = [
		ways.includes('customer') ? 'to another customer' : '',
		ways.includes('number') ? `to ${item.number}` : '',
		ways.includes('sign') || ways.includes('currency')
			? `${figure(before.side, before.amount_then, before.currency)} to ${figure(item.side, item.amount, item.currency)}`
			: '',
	]
	return parts.filter(Boolean).join(', ')
}

/** Settles an item that went over to another customer, side or currency, and enters what stands for it; the money paid here goes where a person said. */
function replace(at: Accepting, one: Likely): number {
	const { books, desk, asOf, extract, words } = at
	const { item, before, answer, paid } = one
	const reason = `changed in ${words}: ${turnedInto(one)}`
	const freed = answer === 'credit' ? paid : 0
	if (freed > 0)
		for (const { id, day, debit_id, credit_id, known_there, takes_back } of applicationsOfItem(books, before.id))
			if (
				debit_id !== null &&
				credit_id !== null &&
				known_there === 0 &&
				takes_back === null &&
				day <= asOf &&
				!wasTakenBack(books, id)
			)
				unapplyOn(books, desk, id, asOf, reason, { extract })
	settle(at, before, before.open_then + freed, reason)
	const id = enterNew(at, { ...item, open: openOfReplaced(one) }, asOf, reason)
	carryDispute(books, desk, before.id, id, asOf)
	return id
}

/** Settles so much of an item as of the extract's day; by the payments that are the same money first. */
function settle(at: Accepting, item: RowThen, amount: number, reason: string, parts: Settlement['parts'] = []): void {
	const { books, desk, asOf, extract } = at
	let rest = amount
	for (const { payment, stays, applied } of parts) {
		// What it paid later stays: it is that money.
		rest -= stays + applied
		if (applied === 0) continue
		applyOn(books, desk, {
			...{ debit: item.id, credit: payment.id, amount: applied, extract, knownThere: 1 },
			...{ from: later(payment.day, asOf), reason: `the same money as in ${at.words}` },
		})
	}
	if (rest <= 0) return
	const freed = makeRoom(at, item.id, rest)
	const [debit_id, credit_id] = item.side === 'debit' ? [item.id, null] : [null, item.id]
	addApplication(books, desk, { debit_id, credit_id, day: asOf, amount: rest, reason, extract_id: extract })
	for (const again of freed) applyAgain(books, desk, again)
}

/**
 * Opens so much more of an item as of the extract's day: of what extracts settled alone, then of what was applied as the same money, which is
 * then no longer there either.
 */
function reopen(at: Accepting, { id: itemId, side }: RowThen, amount: number): void {
	const { books, desk, asOf, extract, words } = at
	const settled = applicationsOfItem(books, itemId).reduce(
		(sum, { debit_id, credit_id, amount: of }) => (debit_id === null || credit_id === null ? sum + of : sum),
		0,
	)
	const alone = Math.min(amount, Math.max(0, settled))
	const one = { day: asOf, extract_id: extract, reason: `more is open in ${words}` }
	const [debit_id, credit_id] = side === 'debit' ? [itemId, null] : [null, itemId]
	if (alone > 0) addApplication(books, desk, { ...one, debit_id, credit_id, amount: -alone })
	let rest = amount - alone
	for (const {
		id,
		debit_id: debit,
		credit_id: credit,
		amount: of,
		known_there,
		takes_back,
		reason,
	} of applicationsOfItem(books, itemId)) {
		if (rest === 0) break
		if (known_there === 0 || takes_back !== null || debit === null || credit === null || wasTakenBack(books, id))
			continue
		const gone = Math.min(rest, of)
		rest -= gone
		unapplyOn(books, desk, id, asOf, one.reason, { extract })
		addApplication(books, desk, { ...one, debit_id: null, credit_id: credit, amount: gone })
		if (of > gone)
			applyOn(books, desk, { debit, credit, amount: of - gone, from: asOf, reason, extract, knownThere: 1 })
	}
	if (rest > 0) throw new Error('More is open in the extract than was ever settled of the item.')
}

type Freed = {
	debit: number
	credit: number
	amount: number
	from: Day
	reason: string
	knownThere: number
	extract: number
}

/** Takes back what was applied here to an item, the latest first, until so much of it is open from the extract's day on. */
function makeRoom({ books, desk, asOf, extract, words }: Accepting, itemId: number, amount: number): Freed[] {
	const freed: Freed[] = []
	const applied = applicationsOfItem(books, itemId)
		.filter(({ id, takes_back }) => takes_back === null && !wasTakenBack(books, id))
		.sort((a, b) => (a.day > b.day ? -1 : a.day < b.day ? 1 : b.id - a.id))
	for (const { id, debit_id, credit_id, day: its, amount: of, reason, known_there } of applied) {
		// What an extract settled alone is no application of anything here.
		if (debit_id === null || credit_id === null) continue
		const entry = entryOf(books, itemId)
		if (!entry || openFrom(entry, asOf) >= amount) break
		const day = later(its, asOf)
		unapplyOn(books, desk, id, day, `settled before in ${words}`, { extract })
		freed.push({
			...{ debit: debit_id, credit: credit_id, amount: of, from: day },
			...{ reason, knownThere: known_there, extract },
		})
	}
	return freed.reverse()
}

/** Makes an item what the extract says of it, as of its day; gives the id of what stands for it then. */
function changeTo(at: Accepting, pair: Pair, paidHere: number, parts?: Settlement['parts']): number {
	const { books, desk, asOf, extract, words } = at
	const { item, before } = pair
	const by = item.amount - before.amount_then
	const dated = item.day === before.day ? '' : item.day
	const kind = kindThen(item, before)
	const kinds =
		kind === before.kind ? ({ kind_was: '', kind_is: '' } as const) : { kind_was: before.kind, kind_is: kind }
	const differs = by !== 0 || before.due_day !== item.due || before.dated !== dated || kinds.kind_is !== ''
	const alter = () => {
		if (!differs) return
		changeItem(books, desk, {
			...{ item_id: before.id, day: asOf, amount_was: before.amount, amount_is: before.amount + by },
			...{ due_was: before.due_day, due_is: item.due, dated_was: before.dated, dated_is: dated },
			...{ ...kinds, reason: `changed in ${words}`, extract_id: extract },
		})
	}
	// What is open may never be below zero on the way: the amount rises first, and falls last, once what was applied here has made room.
	if (by >= 0) alter()
	const less = before.open_then + by - openThere(pair, paidHere)
	if (less > 0) settle(at, before, less, `less is open in ${words}`, parts)
	else if (less < 0) reopen(at, before, -less)
	if (by < 0) {
		const freed = makeRoom(at, before.id, -by)
		alter()
		for (const again of freed) applyAgain(books, desk, again)
	}
	return before.id
}

/** @throws where the ledger as of the day is not what the review said that it would be */
function asReviewed(books: Books, asOf: Day, { currencies }: ExtractReview): void {
	const now = new Map(agedTotals(books, asOf).map(({ currency, balance }) => [currency, balance]))
	for (const { currency, will } of currencies) {
		const is = now.get(currency) ?? 0
		if (is !== will)
			throw new Error(
				`The ledger would have ${amountText(BigInt(is), currency)} ${currency} as of ${dayText(asOf)}, not the ${amountText(BigInt(will), currency)} that was shown. Nothing was accepted.`,
			)
	}
}

function inWords(
	{ asOf, added, changed, replaced, stillVoid, gone, same, ours, refused, currencies }: ExtractReview,
	given: Given,
): string {
	const own = ours.length > 0 ? `; ${ours.length} entered here and not in it ${given.ours}` : ''
	const left = stillVoid.length > 0 ? `; ${stillVoid.length} void here and left so` : ''
	const no = refused.length > 0 ? `; ${refused.length} refusals` : ''
	const money = currencies
		.filter(({ had, will }) => had !== will)
		.map(
			({ currency, had, will }) =>
				`${formatAmount(amountText(BigInt(had), currency))} to ${formatAmount(amountText(BigInt(will), currency))} ${currency}`,
		)
		.join(', ')
	const why = given.reason === '' ? '' : ` Accepted all the same: ${given.reason}.`
	return `As of ${asOf}: ${added.length} new, ${changed.length + replaced.length} changed, ${gone.length} gone, ${same.length} the same${own}${left}${no}${money ? `; ${money}` : ''}.${why}`
}
