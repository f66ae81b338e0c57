import { addDays, type Day } from '@/core/calendar'
import type { ItemKind } from '@/core/ledger'
import { numberForms } from '@/core/numberForms'
import { type IntakeItem, itemKey, type OpenItemsResult } from '@/intake/openItems'
import type { Books } from '@/store/books'
import { homeCurrency } from '@/store/company'
import { latestExtract, rowsOfExtract } from '@/store/extracts'
import { appliedAfter, itemsUpTo, paymentsFrom, type RowThen, settledHere } from '@/store/ledgerThen'
import { readSettings } from '@/store/settings'
import { doubtsOf, type Ended } from './doubts'
import { asked as askedOf, likelyPairs, type Pair, staysOne, type Way } from './likely'
import { expected, openThere } from './replacing'
import type { ExtractReview, Given, Settlement, Twin, TwinAnswer } from './reviewed'
import { currenciesOf, untied } from './sums'

const datedOf = ({ dated, day }: RowThen): Day => dated || day

const isSame = ({ item, before }: Pair, paidHere: number): boolean =>
	openThere({ item, before }, paidHere) === before.open_then &&
	before.amount_then === item.amount &&
	before.due_then === item.due &&
	datedOf(before) === item.day &&
	kindThen(item, before) === before.kind

/** The kind that an item has by a file: what was issued here stays what it was issued as. */
export const kindThen = ({ kind }: IntakeItem, before: RowThen): ItemKind =>
	before.document_id === null && before.called === '' ? kind : before.kind

/** Compares an extract with the ledger as of its day. @param ended how its file ends; `worked` the day that is worked on */
export function reviewExtract(
	books: Books,
	fileId: number,
	read: OpenItemsResult,
	asOf: Day | '',
	customerId: (number: string) => number | undefined,
	given: Given,
	{ worked, ended }: { worked: Day; ended: Ended },
): ExtractReview {
	const previous = latestExtract(books, fileId)
	const held = asOf === '' ? [] : itemsUpTo(books, asOf)
	const paid = asOf === '' ? new Map<number, number>() : settledHere(books, asOf)
	const byKey = new Map<string, RowThen>()
	// Of two items with one number (a revised invoice), the one that is open, and then the later, is meant; by its own number before by what it was called.
	const inTurn = [...held].sort((a, b) => Number(a.open > 0) - Number(b.open > 0) || a.id - b.id)
	for (const calledThere of [true, false])
		for (const item of inTurn) for (const key of keysOf(item, calledThere)) byKey.set(key, item)
	const named = new Set<number>()
	const fresh: IntakeItem[] = []
	const pairs: Pair[] = []
	const turned: Pair[] = []
	const again: Pair[] = []
	for (const item of read.items) {
		const before = byKey.get(itemKey(item))
		if (!before || named.has(before.id)) {
			fresh.push(item)
			continue
		}
		named.add(before.id)
		const pair = { item, before }
		if (before.void === 1 && !isSame(pair, 0)) again.push(pair)
		else (item.side === before.side ? pairs : turned).push(pair)
	}
	const isUntouched = untouchedBy(read, customerId)
	const ask =
		(way: Way) =>
		({ item, before }: Pair) =>
			askedOf(item, before, [way], paid.get(before.id) ?? 0, given.pairs)
	const likely = [
		...turned.map(ask('sign')),
		...again.map(ask('void')),
		...likelyPairs(
			fresh,
			held.filter((item) => !named.has(item.id) && !isUntouched(item)),
			paid,
			given.pairs,
		),
	].sort((a, b) => a.item.row - b.item.row)
	const one = likely.filter(({ answer }) => answer !== 'other')
	const same = one.filter(({ ways }) => !ways.includes('void') && staysOne(ways))
	for (const { before } of one) named.add(before.id)
	for (const { before } of likely.filter(({ answer }) => answer === 'other')) named.delete(before.id)
	const rows = new Set(one.map(({ item }) => item.row))
	const gone: RowThen[] = []
	const ours: RowThen[] = []
	const untouchedItems: RowThen[] = []
	for (const item of held) {
		if (item.open_then === 0 || named.has(item.id)) continue
		if (isUntouched(item)) untouchedItems.push(item)
		else (item.called_there === '' ? ours : gone).push(item)
	}
	const others = [...turned, ...again].filter(({ item }) => !rows.has(item.row)).map(({ item }) => item)
	const stay = [...pairs, ...same].sort((a, b) => a.item.row - b.item.row)
	const isAsItWas = (pair: Pair) => isSame(pair, paid.get(pair.before.id) ?? 0)
	const review: ExtractReview = {
		...read,
		asOf,
		previous: previous?.as_of ?? null,
		added: [...fresh.filter(({ row }) => !rows.has(row)), ...others].sort((a, b) => a.row - b.row),
		changed: stay.filter((pair) => !isAsItWas(pair)),
		same: stay.filter(isAsItWas),
		likely,
		replaced: one.filter(({ ways }) => !ways.includes('void') && !staysOne(ways)),
		stillVoid: one.filter(({ ways }) => ways.includes('void')),
		gone,
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
	review.doubts = doubtsOf(read, review.currencies, readSettings(books).extractLimits, {
		...{ home: homeCurrency(books), asOf, worked, ended },
		before: previous && {
			...{ totalled: previous.totalled === 1, line: previous.line_ended === 1 },
			items: rowsOfExtract(books, previous.id),
		},
	})
	return review
}

/** The keys by which an item here is found: by its own number and kind, or by those that the latest extract has of it. */
function keysOf(item: RowThen, calledThere: boolean): string[] {
	const own = { customerId: item.customer_id, currency: item.currency }
	if (!calledThere) return [itemKey({ ...own, number: item.number, kind: item.kind })]
	const [kind = '', ...number] = item.called_there.split('\n')
	if (kind === '') return []
	return [itemKey({ ...own, number: number.join('\n') || item.number, kind: kind as ItemKind })]
}

/** What a refused or left out row names cannot be gone; one that names no item keeps all of its customer's, or all there are. */
function untouchedBy({ untouched }: OpenItemsResult, customerId: (number: string) => number | undefined) {
	const rows = untouched.map(({ customer, number }) => ({ customer: customerId(customer), number }))
	const all = rows.some(({ customer, number }) => customer === undefined && number === '')
	const customers = new Set(
		rows.flatMap(({ customer, number }) => (customer !== undefined && number === '' ? [customer] : [])),
	)
	const numbers = new Map<string, (number | undefined)[]>()
	for (const { customer, number } of rows)
		for (const key of waysToWrite(number)) numbers.set(key, [...(numbers.get(key) ?? []), customer])
	return (item: RowThen): boolean =>
		all ||
		customers.has(item.customer_id) ||
		waysToWrite(item.number).some((key) =>
			(numbers.get(key) ?? []).some((customer) => customer === undefined || customer === item.customer_id),
		)
}

/** Keys that two ways of writing one number have in common. */
function waysToWrite(number: string): string[] {
	const { groups, run } = numberForms(number)
	return groups === '' ? [number.toUpperCase()] : [`groups ${groups}`, `run ${run}`]
}

/** What the extract settles, by item: what is gone, or less open than here. */
function settledOf({ gone, changed }: Pick<ExtractReview, 'gone' | 'changed'>, paid: ReadonlyMap<number, number>) {
	const less = changed.flatMap((pair) => {
		const { item, before } = pair
		const amount = expected(pair) - openThere(pair, paid.get(before.id) ?? 0)
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
