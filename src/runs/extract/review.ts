import { addDays, type Day } from '@/core/calendar'
import { leastIn } from '@/core/leasts'
import { type IntakeItem, itemKey, type OpenItemsResult } from '@/intake/openItems'
import type { Reading } from '@/intake/reading'
import type { Books } from '@/store/books'
import { homeCurrency } from '@/store/company'
import { latestExtract } from '@/store/extracts'
import { appliedAfter, itemsUpTo, paymentsFrom, type RowThen, settledHere } from '@/store/ledgerThen'
import { readSettings, type Settings } from '@/store/settings'

/** An item of the file and what the ledger has of it, as of the file's day. */
export type Pair = { item: IntakeItem; before: RowThen }
/** A payment entered here that may be the same money as what the extract settles. */
type Twin = {
	payment: RowThen
	/** What of it is unapplied, or was applied after the file's day to what the file settles (minor units). */
	free: number
	/** What the file settles of this account (minor units). */
	settles: number
}
const twinAnswers = ['same', 'other'] as const
export type TwinAnswer = (typeof twinAnswers)[number]

/** What an extract does to a currency's part of the ledger, signed minor units as of its day: what it had, and what each of these adds. */
type Currency = {
	currency: string
	had: number
	added: number
	changed: number
	gone: number
	/** What is here and not in the file: it stays, or is taken as settled. */
	here: number
	hereSettled: number
	/** Of what is settled, what a payment entered here is the same money as. */
	same: number
	will: number
	/** What the rows of the file come to, how many there are, and what its own control total says. */
	file: number
	items: number
	control: number | null
	/** What is left as it is, since its row was refused or left out, or it was paid here and not there yet. */
	left: number
	/** What is settled in all, unsigned, and what was open, unsigned. */
	settles: number
	open: number
}

/** What an extract says beside what the ledger holds, before it is accepted. */
export type ExtractReview = OpenItemsResult & {
	asOf: Day | ''
	/** Day of the extract before. */
	previous: Day | null
	added: IntakeItem[]
	/** Otherwise in the file: what is open of it, its amount, its days, its sign. */
	changed: Pair[]
	/** The same but for the customer. */
	moved: Pair[]
	/** As many stand in both just the same, or are paid here and not there yet. */
	same: Pair[]
	/** In an extract before, open here, and no longer in this one. */
	gone: RowThen[]
	/** Entered here and open, and in no extract yet. */
	ours: RowThen[]
	/** Left as they are, since what the file says of them was not taken. */
	untouchedItems: RowThen[]
	twins: Twin[]
	settlements: Settlement[]
	currencies: Currency[]
	/** Why it is accepted with a reason alone: it settles much, or its control total is out. */
	doubts: string[]
}

/** An amount in minor units, negative on the credit side. */
export const signed = (amount: number, side: string): number => (side === 'debit' ? amount : -amount)
const datedOf = ({ dated, day }: RowThen): Day => dated || day

/** What would be open of an item by what it was here, were its amount that of the extract. */
const expected = ({ item, before }: Pair): number => before.open_then + item.amount - before.amount_then

/**
 * What of an item is open by the extract, beside what was applied here: as much of that as the extract does not know yet stays applied.
 * Below zero where more was applied here than the extract leaves of its amount.
 */
export function openThere(pair: Pair, paidHere: number): number {
	const { item, before } = pair
	if (item.side !== before.side) return item.open
	const here = expected(pair)
	if (item.open <= here) return item.open
	return item.open <= here + paidHere ? here : item.open - paidHere
}

const isSame = ({ item, before }: Pair, paidHere: number): boolean =>
	item.side === before.side &&
	openThere({ item, before }, paidHere) === before.open_then &&
	before.amount_then === item.amount &&
	before.due_then === item.due &&
	datedOf(before) === item.day

type Given = { ours: Reading['ours']; twins: Record<string, TwinAnswer> }

/** Compares an extract with the ledger as of its day. */
export function reviewExtract(
	books: Books,
	fileId: number,
	read: OpenItemsResult,
	asOf: Day | '',
	customerId: (number: string) => number | undefined,
	given: Given,
): ExtractReview {
	const previous = latestExtract(books, fileId)
	const held = asOf === '' ? [] : itemsUpTo(books, asOf)
	const paid = asOf === '' ? new Map<number, number>() : settledHere(books, asOf)
	const byKey = new Map(
		[...held]
			// Of two items with one number (a revised invoice), the one that is open, and then the later, is meant.
			.sort((a, b) => Number(a.open > 0) - Number(b.open > 0) || a.id - b.id)
			.map((item) => [itemKey({ ...item, customerId: item.customer_id }), item]),
	)
	const named = new Set<number>()
	const parts = { added: [] as IntakeItem[], changed: [] as Pair[], same: [] as Pair[] }
	for (const item of read.items) {
		const before = byKey.get(itemKey(item))
		if (!before) parts.added.push(item)
		else {
			named.add(before.id)
			const pair = { item, before }
			parts[isSame(pair, paid.get(before.id) ?? 0) ? 'same' : 'changed'].push(pair)
		}
	}
	const isUntouched = untouchedBy(read, customerId)
	const gone: RowThen[] = []
	const ours: RowThen[] = []
	const untouchedItems: RowThen[] = []
	for (const item of held) {
		if (item.open_then === 0 || named.has(item.id)) continue
		if (isUntouched(item)) untouchedItems.push(item)
		else (item.in_extract === 1 ? gone : ours).push(item)
	}
	const { moved, stay, left } = movedBetween(parts.added, gone)
	const review: ExtractReview = {
		...read,
		...parts,
		asOf,
		previous: previous?.as_of ?? null,
		added: left,
		moved,
		gone: stay,
		ours,
		untouchedItems,
		twins: [],
		settlements: [],
		currencies: [],
		doubts: [],
	}
	review.twins = twinsOf(books, review, paid)
	review.settlements = asOf === '' ? [] : settlementsOf(books, review, paid, given.twins)
	review.currencies = currenciesOf(review, given, paid, held)
	review.doubts = doubtsOf(review, readSettings(books).extractLimits, homeCurrency(books))
	return review
}

/** What a refused or left out row names cannot be gone; one that names no item keeps all of its customer's, or all there are. */
function untouchedBy({ untouched }: OpenItemsResult, customerId: (number: string) => number | undefined) {
	const rows = untouched.map(({ customer, number }) => ({ customer: customerId(customer), number }))
	const all = rows.some(({ customer, number }) => customer === undefined && number === '')
	const customers = new Set(
		rows.flatMap(({ customer, number }) => (customer !== undefined && number === '' ? [customer] : [])),
	)
	const numbers = new Map<string, (number | undefined)[]>()
	for (const { customer, number } of rows) numbers.set(number, [...(numbers.get(number) ?? []), customer])
	return (item: RowThen): boolean =>
		all ||
		customers.has(item.customer_id) ||
		(numbers.get(item.number.toUpperCase()) ?? []).some(
			(customer) => customer === undefined || customer === item.customer_id,
		)
}

/** Of what is new and what is gone, what only went over to another customer. */
function movedBetween(added: IntakeItem[], gone: RowThen[]) {
	const key = (item: { number: string; currency: string; kind: string }) =>
		JSON.stringify([item.number.toUpperCase(), item.currency, item.kind])
	const left = new Map<string, RowThen[]>()
	for (const item of gone) left.set(key(item), [...(left.get(key(item)) ?? []), item])
	const moved: Pair[] = []
	const fresh: IntakeItem[] = []
	for (const item of added) {
		const [before, another] = left.get(key(item)) ?? []
		if (before && another === undefined && before.side === item.side && before.amount_then === item.amount) {
			moved.push({ item, before })
			left.delete(key(item))
		} else fresh.push(item)
	}
	const went = new Set(moved.map(({ before }) => before.id))
	return { moved, stay: gone.filter(({ id }) => !went.has(id)), left: fresh }
}

/** What the extract settles of an item as of its day, and with which money (minor units). */
export type Settlement = {
	before: RowThen
	amount: number
	/** Payments entered here that are the same money: what they paid later stays, and what of them is applied to it. */
	parts: { payment: RowThen; stays: number; applied: number }[]
	/** What is settled alone. */
	rest: number
}

/** What the extract settles, by item: what is gone, or less open than here. */
function settledOf({ gone, changed }: Pick<ExtractReview, 'gone' | 'changed'>, paid: ReadonlyMap<number, number>) {
	const less = changed.flatMap((pair) => {
		const { item, before } = pair
		const amount = item.side === before.side ? expected(pair) - openThere(pair, paid.get(before.id) ?? 0) : 0
		return amount > 0 ? [{ before, amount, by: item.amount - before.amount_then }] : []
	})
	return [...gone.map((before) => ({ before, amount: before.open_then, by: 0 })), ...less]
}

/** What is settled with which money: that of payments that a person said to be the same first, then alone. */
function settlementsOf(
	books: Books,
	review: ExtractReview,
	paid: ReadonlyMap<number, number>,
	answers: Record<string, TwinAnswer>,
): Settlement[] {
	const same = review.twins.filter(({ payment }) => answers[payment.id] === 'same')
	const later = appliedAfter(
		books,
		review.asOf,
		same.map(({ payment }) => payment.id),
	)
	const left = new Map(same.map(({ payment, free }) => [payment.id, { free, open: payment.open }]))
	return settledOf(review, paid).map(({ before, amount, by }): Settlement => {
		let rest = amount
		let open = before.open + Math.max(0, by)
		const parts: Settlement['parts'] = []
		for (const { payment } of before.side === 'debit' ? same : []) {
			const has = left.get(payment.id)
			if (!has || payment.customer_id !== before.customer_id || payment.currency !== before.currency) continue
			const stays = Math.min(rest, has.free, later.get(`${payment.id} ${before.id}`) ?? 0)
			const applied = Math.min(rest - stays, has.free - stays, has.open, open)
			if (stays + applied <= 0) continue
			rest -= stays + applied
			open -= applied
			left.set(payment.id, { free: has.free - stays - applied, open: has.open - applied })
			parts.push({ payment, stays, applied })
		}
		return { before, amount, parts, rest }
	})
}

/** Payments entered here that may be the money by which the extract settles what it does: unapplied, or applied later to just that. */
function twinsOf(books: Books, review: ExtractReview, paid: ReadonlyMap<number, number>): Twin[] {
	if (review.asOf === '') return []
	const settles = new Map<string, number>()
	const items = new Set<number>()
	for (const { before, amount } of settledOf(review, paid)) {
		if (before.side !== 'debit') continue
		const key = `${before.customer_id} ${before.currency}`
		settles.set(key, (settles.get(key) ?? 0) + amount)
		items.add(before.id)
	}
	if (settles.size === 0) return []
	return paymentsFrom(books, review.asOf, items).flatMap(({ free, ...payment }) => {
		const amount = settles.get(`${payment.customer_id} ${payment.currency}`) ?? 0
		return amount > 0 && free > 0 ? [{ payment, free, settles: amount }] : []
	})
}

function currenciesOf(
	review: ExtractReview,
	given: Given,
	paid: ReadonlyMap<number, number>,
	held: readonly RowThen[],
): Currency[] {
	const all = new Map<string, Currency>()
	const of = (currency: string): Currency => {
		const known = all.get(currency)
		if (known) return known
		const fresh: Currency = {
			...{ currency, had: 0, added: 0, changed: 0, gone: 0, here: 0, hereSettled: 0, same: 0, will: 0 },
			...{ file: 0, items: 0, control: review.control.get(currency) ?? null, left: 0, settles: 0, open: 0 },
		}
		all.set(currency, fresh)
		return fresh
	}
	for (const item of held) {
		of(item.currency).had += signed(item.open_then, item.side)
		of(item.currency).open += item.open_then
	}
	for (const currency of review.control.keys()) of(currency)
	for (const item of review.items) {
		const sum = of(item.currency)
		sum.items++
		sum.file += signed(item.open, item.side)
	}
	for (const item of review.added) of(item.currency).added += signed(item.open, item.side)
	for (const { item, before } of review.moved) {
		const delta = signed(item.open, item.side) - signed(before.open_then, before.side)
		of(item.currency).changed += delta
	}
	for (const pair of review.changed) {
		const { item, before } = pair
		const there = openThere(pair, paid.get(before.id) ?? 0)
		of(item.currency).changed += signed(there, item.side) - signed(before.open_then, before.side)
		of(item.currency).left += signed(there, item.side) - signed(item.open, item.side)
	}
	for (const { item, before } of review.same)
		of(item.currency).left += signed(before.open_then, before.side) - signed(item.open, item.side)
	for (const item of review.gone) of(item.currency).gone -= signed(item.open_then, item.side)
	for (const item of review.ours) {
		const sum = of(item.currency)
		sum.here += signed(item.open_then, item.side)
		if (given.ours === 'taken as settled' && item.document_id !== null)
			sum.hereSettled -= signed(item.open_then, item.side)
	}
	for (const item of review.untouchedItems) of(item.currency).left += signed(item.open_then, item.side)
	for (const { before, amount, rest } of review.settlements) {
		of(before.currency).settles += amount
		of(before.currency).same += amount - rest
	}
	for (const sum of all.values()) sum.will = sum.had + sum.added + sum.changed + sum.gone + sum.hereSettled + sum.same
	return [...all.values()].sort((a, b) => b.items - a.items || (a.currency < b.currency ? -1 : 1))
}

/** Why it takes a person's reason to accept it. */
function doubtsOf(
	{ currencies }: ExtractReview,
	{ percent, amount, amounts }: Settings['extractLimits'],
	home: string,
): string[] {
	const leasts = { least: amount, leasts: amounts }
	return currencies.flatMap(({ currency, settles, open, file, control }) => {
		const much = BigInt(settles) > leastIn(leasts, currency, currency === home) && settles * 100 > open * percent
		const share = open === 0 ? 0 : Math.round((settles * 100) / open)
		return [
			...(much ? [`much ${currency} ${settles} ${share}`] : []),
			...(control !== null && control !== file ? [`control ${currency} ${control - file}`] : []),
		]
	})
}

/** Whether what it leaves ties: what the ledger will have is what the file has, what is here beside it, and what is left as it is. */
const untied = ({ currencies }: Pick<ExtractReview, 'currencies'>): Currency[] =>
	currencies.filter(({ will, file, here, hereSettled, left, same }) => will !== file + here + hereSettled + left + same)

/** The first day on which what is new may count: the past stays as the extract before left it, and closed books as they are. */
export function countsFrom(books: Books, { previous, asOf }: Pick<ExtractReview, 'previous' | 'asOf'>, day: Day): Day {
	const { closedTo } = readSettings(books)
	const first = [previous ?? '', closedTo].sort().at(-1) ?? ''
	const from = first === '' || day > first ? day : addDays(first, 1)
	return asOf !== '' && from > asOf ? asOf : from
}

/** Why an extract cannot be accepted; null when it can. */
export function whyNotAccepted(books: Books, review: ExtractReview): string | null {
	const { closedTo } = readSettings(books)
	if (review.asOf === '') return 'Give the day that the file shows: everything that was open on it.'
	if (review.previous !== null && review.asOf <= review.previous)
		return `An extract as of ${review.previous} was accepted; this one must be of a later day.`
	if (closedTo !== '' && review.asOf <= closedTo)
		return `The books are closed to ${closedTo}: an extract as of ${review.asOf} would change them. Open them under Company first.`
	const [out] = untied(review)
	return out
		? `What the ledger would have in ${out.currency} does not tie with the file. Nothing can be accepted.`
		: null
}
