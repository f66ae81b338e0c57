import { z } from 'zod'
import { type Day, isDay } from '@/core/calendar'
import { amountText, isCurrency, parseAmount, typedAmount } from '@/core/currency'
import type { DocumentContent } from '@/core/document'
import { formatMinor } from '@/core/format'
import { namedIn, oldestFirst } from '@/core/ledger'
import { chargeNumber, type StatementContent } from '@/core/statement'
import { type Books, inOneStep } from '@/store/books'
import { forgetCharged, noteCharged } from '@/store/chases'
import { readCustomer } from '@/store/customers'
import { type Desk, record } from '@/store/events'
import {
	addApplication,
	addDispute,
	addItem,
	endDispute,
	itemOfDocument,
	type LedgerRow,
	openItems,
	readApplication,
	readItem,
	wasTakenBack,
} from '@/store/ledger'
import { workDate } from '@/store/settings'
import type { Outcome } from './acts'
import { keepPromises } from './chase'

const no = (message: string): Outcome => ({ ok: false, message })
const later = (...days: Day[]): Day => days.sort().at(-1) ?? ''
const today = (books: Books, desk: Desk): Day => workDate(books, desk.now().slice(0, 10))
const money = (minor: number, currency: string): string => `${formatMinor(minor, currency)} ${currency}`

/** Issued documents as they enter the ledger. */
export type Issue = {
	id: number
	customer_id: number
	content: DocumentContent
	total: bigint | number
	/** The invoice that a credit note credits. */
	credits_id: number | null
}

/** Enters an issued document; within the transaction that issues it. A credit note is applied to the invoice that it credits. */
export function enterDocument(books: Books, desk: Desk, { id, customer_id, content, total, credits_id }: Issue): void {
	const amount = Number(total)
	if (amount === 0) return
	const { number, day, dueDay, currency, orders } = content
	const itemId = addItem(books, desk, {
		customer_id,
		kind: amount > 0 ? 'invoice' : 'credit',
		side: amount > 0 ? 'debit' : 'credit',
		number,
		day,
		due_day: amount > 0 ? dueDay : day,
		currency,
		amount: Math.abs(amount),
		their_order: [...new Set(orders.map(({ purchaseOrder }) => purchaseOrder).filter(Boolean))].join(', '),
		note: '',
		document_id: id,
		extract_id: null,
	})
	const invoice = credits_id === null ? null : itemOfDocument(books, credits_id)
	const share = invoice ? Math.min(invoice.open, Math.abs(amount)) : 0
	if (invoice && share > 0 && amount < 0)
		addApplication(books, desk, {
			debit_id: invoice.id,
			credit_id: itemId,
			day: later(day, invoice.day),
			amount: share,
			reason: `credits ${invoice.number}`,
		})
}

/** Enters the late charge that a statement brings, with how it was reached; within the transaction that numbers it. */
export function enterCharge(
	books: Books,
	desk: Desk,
	documentId: number,
	customerId: number,
	content: StatementContent,
): void {
	const { charge, day, currency, number } = content
	if (!charge) return
	addItem(books, desk, {
		customer_id: customerId,
		kind: 'charge',
		side: 'debit',
		number: chargeNumber(number),
		day,
		due_day: day,
		currency,
		amount: Number(parseAmount(charge.amount, currency, 'charge')),
		their_order: '',
		note: charge.working.join('; '),
		document_id: documentId,
		extract_id: null,
	})
	noteCharged(books, documentId, charge.items, day)
}

/** Takes a document that is void, or that a revision stands in for, off the ledger: what is open of it is adjusted away. */
export function leaveLedger(books: Books, desk: Desk, documentId: number, reason: string): void {
	const item = itemOfDocument(books, documentId)
	if (item && item.open > 0) adjustAway(books, desk, item, reason)
	forgetCharged(books, documentId)
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
	currency: z.string().trim().toUpperCase().refine(isCurrency, 'Write the currency as its code, such as GBP.'),
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

/** Takes an application back as of the day worked on; the balances of days before stay as they were. */
export function takeBack(books: Books, desk: Desk, applicationId: number): Outcome {
	return inOneStep(books, (): Outcome => {
		const application = readApplication(books, applicationId)
		const item = readItem(books, application?.debit_id ?? application?.credit_id ?? 0)
		if (!application || !item || application.takes_back !== null) return no('There is no such application.')
		if (application.extract_id !== null) return no('It comes from the extract; the next extract says otherwise.')
		if (wasTakenBack(books, applicationId)) return no('It was taken back before.')
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
