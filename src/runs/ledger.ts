import { z } from 'zod'
import { type Day, isDay } from '@/core/calendar'
import { amountText, currencyCode, typedAmount } from '@/core/currency'
import { formatMinor } from '@/core/format'
import { namedIn, oldestFirst } from '@/core/ledger'
import { type AnyContent, entering } from '@/kinds'
import { type Books, inOneStep } from '@/store/books'
import { forgetCharged, noteCharged } from '@/store/chases'
import { readCustomer } from '@/store/customers'
import { readAnyDocument } from '@/store/documents'
import { type Desk, record } from '@/store/events'
import {
	addApplication,
	addDispute,
	addItem,
	applicationsOfItem,
	endDispute,
	itemOfDocument,
	type LedgerRow,
	openItems,
	readApplication,
	readItem,
	wasTakenBack,
} from '@/store/ledger'
import { workDate } from '@/store/settings'
import { keepPromises } from './chase'
import { no, type Outcome } from './outcome'

const later = (...days: Day[]): Day => days.sort().at(-1) ?? ''
const today = (books: Books, desk: Desk): Day => workDate(books, desk.now().slice(0, 10))
const money = (minor: number, currency: string): string => `${formatMinor(minor, currency)} ${currency}`

/** An issued document as it enters the ledger. */
export type Issue = {
	id: number
	customer_id: number
	content: AnyContent
	/** The document that it credits. */
	credits_id: number | null
	/** From when on it counts, where that is after its own day: a revision, so that no day past owes both it and the first. */
	from?: Day
}

/**
 * Enters what issuing a document owes or is owed; within the transaction that issues it. What credits another document is applied to it.
 * @returns the ledger's item, or null when nothing is entered
 */
export function enterDocument(
	books: Books,
	desk: Desk,
	{ id, customer_id, content, credits_id, from }: Issue,
): number | null {
	const entry = entering(content)
	if (!entry) return null
	const itemId = addItem(books, desk, {
		customer_id,
		kind: entry.kind,
		side: entry.side,
		number: entry.number,
		day: from ? later(from, entry.day) : entry.day,
		due_day: entry.dueDay,
		currency: content.currency,
		amount: Number(entry.amount),
		their_order: entry.theirOrder,
		note: entry.note,
		document_id: id,
		extract_id: null,
	})
	if (entry.charged.length > 0) noteCharged(books, id, entry.charged, entry.day)
	const credited = credits_id === null ? null : itemOfDocument(books, credits_id)
	const share = credited ? Math.min(credited.open, Number(entry.amount)) : 0
	if (credited && share > 0 && credited.side !== entry.side) {
		const [debit_id, credit_id] = entry.side === 'credit' ? [credited.id, itemId] : [itemId, credited.id]
		addApplication(books, desk, {
			debit_id,
			credit_id,
			day: later(entry.day, credited.day),
			amount: share,
			reason: `credits ${credited.number}`,
		})
	}
	return itemId
}

/** Why what a document entered cannot be taken off the ledger, with what to do first; null when it can. */
export function whyNotLeft(books: Books, documentId: number): string | null {
	const item = itemOfDocument(books, documentId)
	if (!item) return null
	for (const { otherId, extract } of standingOf(books, item.id)) {
		if (extract) return `An extract settled ${item.number}; only the next extract, or a credit note, can say otherwise.`
		const other = otherId === null ? null : readItem(books, otherId)
		if (other?.kind === 'adjustment')
			return `${item.number} was written off in part or whole (${other.note}). Take that back on the account first.`
		if (other?.kind === 'credit' && item.side === 'debit' && other.document_id !== null)
			return `The credit ${other.number} was applied to ${item.number}. Take that back on the account first.`
	}
	return null
}

/** What stands of the applications of an item, by the other item: what was taken back is left out. */
function standingOf(
	books: Books,
	itemId: number,
): { id: number; otherId: number | null; amount: number; extract: boolean }[] {
	const all = applicationsOfItem(books, itemId)
	const back = new Set(all.flatMap(({ takes_back }) => takes_back ?? []))
	return all
		.filter(({ id, takes_back }) => takes_back === null && !back.has(id))
		.map(({ id, debit_id, credit_id, amount, extract_id }) => ({
			id,
			otherId: debit_id === itemId ? credit_id : debit_id,
			amount,
			extract: extract_id !== null,
		}))
}

/** What stands applied to or from what a document entered, in words; empty for nothing. */
export function settledWords(books: Books, documentId: number): string {
	const item = itemOfDocument(books, documentId)
	if (!item) return ''
	return standingOf(books, item.id)
		.map(({ otherId, amount }) => {
			const other = otherId === null ? null : readItem(books, otherId)
			return `${money(amount, item.currency)} of ${other?.number ?? 'an extract'} is applied to it.`
		})
		.join(' ')
}

/**
 * Takes what a document entered off the ledger, since it is void or a revision stands in for it: what was applied to it is taken back,
 * and applied to the revision's item as far as that reaches; what is open of it then is adjusted away.
 * @param revised the ledger's item of the revision; null for none
 * @returns what became of payments and the like, in words
 */
export function leaveLedger(
	books: Books,
	desk: Desk,
	documentId: number,
	reason: string,
	revised: number | null,
): string[] {
	const item = itemOfDocument(books, documentId)
	const words: string[] = []
	if (!item) return words
	for (const { id, otherId, amount } of standingOf(books, item.id)) {
		const application = readApplication(books, id)
		const other = otherId === null ? null : readItem(books, otherId)
		if (!application || !other) continue
		const day = later(today(books, desk), application.day)
		const { debit_id, credit_id } = application
		addApplication(books, desk, { debit_id, credit_id, day, amount: -amount, reason, takes_back: id })
		const to = revised === null ? null : readItem(books, revised)
		const share = to && to.side === item.side ? Math.min(to.open, amount) : 0
		if (to && share > 0)
			addApplication(books, desk, {
				debit_id: item.side === 'debit' ? to.id : otherId,
				credit_id: item.side === 'debit' ? otherId : to.id,
				day: later(day, to.day),
				amount: share,
				reason: `stays on the revision of ${item.number}`,
			})
		if (share > 0) words.push(`${money(share, item.currency)} of ${other.number} stays on it`)
		if (amount > share)
			words.push(
				other.side === 'credit'
					? `${money(amount - share, item.currency)} of ${other.number} is unapplied again`
					: `${money(amount - share, item.currency)} of ${other.number} is open again`,
			)
	}
	const left = readItem(books, item.id)
	if (left && left.open > 0) adjustAway(books, desk, left, reason)
	forgetCharged(books, documentId)
	for (const detail of words)
		record(books, desk, { subject: 'customer', id: item.customer_id, act: `${item.number}: ${reason}`, detail })
	return words
}

/** Adjusts what is open of an item away, by an adjustment of the other side that is applied to it. */
function adjustAway(books: Books, desk: Desk, item: LedgerRow, reason: string): void {
	const day = later(today(books, desk), item.day)
	const debit = item.side === 'debit'
	const id = addItem(books, desk, {
		customer_id: item.customer_id,
		kind: 'adjustment',
		side: debit ? 'credit' : 'debit',
		number: `${item.number} adjusted`,
		day,
		due_day: day,
		currency: item.currency,
		amount: item.open,
		their_order: '',
		note: reason,
		document_id: null,
		extract_id: null,
	})
	const [debit_id, credit_id] = debit ? [item.id, id] : [id, item.id]
	addApplication(books, desk, { debit_id, credit_id, day, amount: item.open, reason })
}

export const paymentSchema = z.object({
	customer: z.number().int().positive(),
	day: z.string().refine(isDay, 'Give the day of the payment.'),
	amount: z.string().trim(),
	currency: currencyCode,
	reference: z.string().trim().max(200),
	/** What it is for: the numbers in its reference and then the oldest, the oldest, chosen items, or nothing yet. */
	to: z.union([z.enum(['named', 'named then oldest', 'oldest', 'nothing']), z.array(z.number().int().positive())]),
})
export type Payment = z.infer<typeof paymentSchema>

/** Enters a payment and applies it. What is over stays unapplied, as a credit of the customer. */
export function enterPayment(books: Books, desk: Desk, payment: Payment): Outcome & { words?: string } {
	const { currency, day, reference } = payment
	const read = typedAmount(payment.amount, currency, 'amount')
	if (!read.ok) return no(`Amount: ${read.refusal.message}`)
	if (read.value <= 0) return no('A payment is above zero. Enter money given back as a charge.')
	return inOneStep(books, (): Outcome & { words?: string } => {
		const customer = readCustomer(books, payment.customer)
		if (!customer) return no('There is no such customer.')
		const id = addItem(books, desk, {
			customer_id: customer.id,
			kind: 'payment',
			side: 'credit',
			number: reference || `Payment of ${day}`,
			day,
			due_day: day,
			currency,
			amount: read.value,
			their_order: '',
			note: '',
			document_id: null,
			extract_id: null,
		})
		const applied = applyTo(books, desk, id, payment.to, day)
		keepPromises(books, desk, customer.id, currency, read.value, reference || `a payment of ${day}`)
		const rest = read.value - applied.amount
		const words = `${money(read.value, currency)}${applied.words}${rest > 0 ? `, ${money(rest, currency)} unapplied` : ''}`
		record(books, desk, { subject: 'customer', id: customer.id, act: 'entered a payment', detail: words })
		return { ok: true, id, words }
	})
}

/** What of a credit goes to which debits of its customer and currency, and what is left of it. */
export function sharesOf(
	credit: { number: string; open: number },
	debits: LedgerRow[],
	to: Payment['to'],
): { shares: { debit: LedgerRow; amount: number }[]; named: LedgerRow[]; left: number } {
	const named = namedIn(credit.number, debits)
	const chosen = Array.isArray(to)
		? to.flatMap((id) => debits.find((debit) => debit.id === id) ?? [])
		: to === 'named' || to === 'named then oldest'
			? named
			: []
	const shares: { debit: LedgerRow; amount: number }[] = []
	let left = credit.open
	const take = (debit: LedgerRow, most = debit.open) => {
		const amount = Math.min(left, most)
		if (amount > 0) shares.push({ debit, amount })
		left -= amount
	}
	for (const debit of chosen) take(debit)
	if (to === 'oldest' || to === 'named then oldest') {
		const others = debits.filter((debit) => !chosen.includes(debit))
		for (const { debit, amount } of oldestFirst(others, left)) take(debit, amount)
	}
	return { shares, named, left }
}

/** Applies what is open of a credit to debits of the same customer and currency. */
function applyTo(
	books: Books,
	desk: Desk,
	creditId: number,
	to: Payment['to'],
	from: Day,
): { amount: number; words: string } {
	const credit = readItem(books, creditId)
	if (!credit) return { amount: 0, words: '' }
	const debits = openItems(books, credit.customer_id, credit.currency, 'debit')
	const { shares, named, left } = sharesOf(credit, debits, to)
	for (const { debit, amount } of shares) {
		const reason = Array.isArray(to) ? 'chosen' : named.includes(debit) ? 'named in the reference' : 'the oldest due'
		const day = later(from, credit.day, debit.day)
		addApplication(books, desk, { debit_id: debit.id, credit_id: credit.id, day, amount, reason })
	}
	const words = shares.length === 0 ? '' : ` to ${shares.map(({ debit }) => debit.number).join(', ')}`
	return { amount: credit.open - left, words }
}

/** Applies what is unapplied of a credit, as of the day worked on, to chosen items or the oldest due. */
export function applyCredit(books: Books, desk: Desk, creditId: number, to: 'oldest' | number[]): Outcome {
	return inOneStep(books, (): Outcome => {
		const credit = readItem(books, creditId)
		if (credit?.side !== 'credit' || credit.open === 0) return no('Nothing of it is unapplied.')
		const applied = applyTo(books, desk, creditId, to, today(books, desk))
		if (applied.amount === 0) return no('There is no open item that it could be applied to.')
		const detail = `${money(applied.amount, credit.currency)} of ${credit.number}${applied.words}`
		record(books, desk, { subject: 'customer', id: credit.customer_id, act: 'applied a credit', detail })
		return { ok: true }
	})
}

/** Why an item is owed no more for good, since its document is void or revised; null when it stands. */
function notStanding(books: Books, itemId: number): string | null {
	const item = readItem(books, itemId)
	const document = item?.document_id == null ? null : readAnyDocument(books, item.document_id)
	if (!item || !document) return null
	if (document.void_at) return `${item.number} is void`
	return document.replaced_at ? `A revision stands in for ${item.number}` : null
}

/** Takes an application back as of the day worked on; the balances of days before stay as they were. */
export function takeBack(books: Books, desk: Desk, applicationId: number): Outcome {
	return inOneStep(books, (): Outcome => {
		const application = readApplication(books, applicationId)
		const item = readItem(books, application?.debit_id ?? application?.credit_id ?? 0)
		if (!application || !item || application.takes_back !== null) return no('There is no such application.')
		if (application.extract_id !== null) return no('It comes from the extract; the next extract says otherwise.')
		if (wasTakenBack(books, applicationId)) return no('It was taken back before.')
		const gone = [application.debit_id, application.credit_id].flatMap((id) =>
			id === null ? [] : (notStanding(books, id) ?? []),
		)
		if (gone[0]) return no(`${gone[0]}; what settled it stays.`)
		const { debit_id, credit_id, amount } = application
		const day = later(today(books, desk), application.day)
		addApplication(books, desk, {
			debit_id,
			credit_id,
			day,
			amount: -amount,
			reason: 'taken back',
			takes_back: applicationId,
		})
		const detail = `${money(application.amount, item.currency)} of ${item.number}`
		record(books, desk, { subject: 'customer', id: item.customer_id, act: 'took an application back', detail })
		return { ok: true }
	})
}

/** Writes off what is open of an item, with the reason, as of the day worked on. */
export function writeOff(books: Books, desk: Desk, itemId: number, reason: string): Outcome {
	const words = reason.trim()
	if (!words) return no('Say why it is written off; the account shows the reason.')
	return inOneStep(books, (): Outcome => {
		const item = readItem(books, itemId)
		if (!item || item.open === 0) return no('Nothing of it is open.')
		adjustAway(books, desk, item, words)
		const detail = `${money(item.open, item.currency)} of ${item.number}: ${words}`
		record(books, desk, { subject: 'customer', id: item.customer_id, act: 'wrote off', detail })
		return { ok: true }
	})
}

/** Notes that an item is in dispute, or (with an empty note) that it no longer is, as of the day worked on. */
export function setDispute(books: Books, desk: Desk, itemId: number, note: string): Outcome {
	return inOneStep(books, (): Outcome => {
		const item = readItem(books, itemId)
		if (!item) return no('There is no such item.')
		const day = today(books, desk)
		const words = note.trim()
		const ended = endDispute(books, itemId, day)
		if (words) addDispute(books, desk, itemId, day, words)
		else if (!ended) return no('It is not in dispute. Say what the dispute is about.')
		const act = words ? 'noted a dispute' : 'ended a dispute'
		record(books, desk, { subject: 'customer', id: item.customer_id, act, detail: `${item.number} ${words}`.trim() })
		return { ok: true }
	})
}

/** An amount of minor units as decimal text, for forms. */
export const openText = (item: Pick<LedgerRow, 'open' | 'currency'>): string =>
	amountText(BigInt(item.open), item.currency)
