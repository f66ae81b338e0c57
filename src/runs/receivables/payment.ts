import { z } from 'zod'
import { appliedTo, sharesOf } from '@/core/applying'
import { dayText, isDay } from '@/core/calendar'
import { currencyCode, typedAmount } from '@/core/currency'
import { named } from '@/core/entryNames'
import { formatMinor } from '@/core/format'
import { no, type Outcome } from '@/core/outcome'
import { keepPromises } from '@/runs/customers/promises'
import { type Books, inOneStep } from '@/store/books'
import { readCustomer } from '@/store/customers'
import { type Desk, record } from '@/store/events'
import { addItem, paymentLike } from '@/store/ledger'
import { applyTo, money, openOf } from './apply'
import { today, whyNotOn } from './days'

/** What is asked of a payment before it is entered; a person may say that it is so. */
export const paymentQuestions = ['ahead', 'again'] as const
type PaymentQuestion = (typeof paymentQuestions)[number]

export const paymentSchema = z.object({
	customer: z.number().int().positive(),
	day: z.string().refine(isDay, 'Give the day of the payment.'),
	amount: z.string().trim(),
	currency: currencyCode,
	reference: z.string().trim().max(200),
	/** What it is for: the numbers in its reference and then the oldest, the oldest, chosen items, or nothing yet. */
	to: z.union([z.enum(appliedTo), z.array(z.number().int().positive())]),
	/** What was asked of it, and said to be so. */
	sure: z.array(z.enum(paymentQuestions)).default([]),
})
export type Payment = z.infer<typeof paymentSchema>

/** How a payment is called: by its reference, or its day. */
export const paymentNumber = ({ reference, day }: Pick<Payment, 'reference' | 'day'>): string =>
	reference || named('Payment of', day)

/** What there is to ask of a payment; null where it is entered as it is. */
function questionOf(
	books: Books,
	desk: Desk,
	payment: Payment,
	amount: number,
): { ask: PaymentQuestion; message: string } | null {
	const { day, sure, customer: customerId, currency, reference } = payment
	const worked = today(books, desk)
	if (day > worked && !sure.includes('ahead'))
		return {
			ask: 'ahead',
			message: `It is dated ${dayText(day)}, after the day that is worked on, ${dayText(worked)}. Is it to be entered all the same?`,
		}
	const before = sure.includes('again') ? null : paymentLike(books, { customerId, day, amount, currency, reference })
	return before === null
		? null
		: {
				ask: 'again',
				message: `A payment of the same day, amount and reference was entered ${before.entered_at.slice(0, 10)} by ${before.entered_by}. Is this another one?`,
			}
}

/** Enters a payment and applies it. What is over stays unapplied, as a credit of the customer. */
export function enterPayment(books: Books, desk: Desk, payment: Payment, act: number | null = null): Outcome {
	const { currency, day, reference } = payment
	const read = typedAmount(payment.amount, currency, 'amount')
	if (!read.ok) return no(`Amount: ${read.refusal.message}`)
	if (read.value <= 0)
		return no('A payment is above zero. Enter money given back as a refund, on the credit that it uses up.')
	const hindered = whyNotOn(books, desk, day)
	if (hindered) return no(hindered)
	return inOneStep(books, (): Outcome => {
		const customer = readCustomer(books, payment.customer)
		if (!customer) return no('There is no such customer.')
		const question = questionOf(books, desk, payment, read.value)
		if (question) return { ok: false, ...question }
		const id = addItem(books, desk, {
			...{ customer_id: customer.id, kind: 'payment', side: 'credit', number: paymentNumber(payment) },
			...{ day, due_day: day, currency, amount: read.value, their_order: '', note: '' },
			...{ document_id: null, extract_id: null, act_id: act },
		})
		const applied = applyTo(books, desk, id, { to: payment.to, from: day, act })
		keepPromises(books, desk, {
			...{ customer: customer.id, currency, amount: read.value, item: id, act },
			payment: reference || `a payment of ${day}`,
		})
		const rest = read.value - applied.amount
		const words = `${money(read.value, currency)}${applied.words}${rest > 0 ? `, ${money(rest, currency)} unapplied` : ''}`
		record(books, desk, { subject: 'customer', id: customer.id, act: 'entered a payment', detail: words })
		return { ok: true, id, words }
	})
}

/** What a payment would be applied to if it were entered now, in words: what was recognised is seen before anything is done. */
export function foreseen(books: Books, payment: Payment): Outcome {
	const { currency, customer, to } = payment
	const read = typedAmount(payment.amount, currency, 'amount')
	if (!read.ok || read.value <= 0) return { ok: true, words: '' }
	const { debits, credits } = openOf(books, customer, currency)
	const { shares, named, left } = sharesOf({ reference: payment.reference, open: read.value }, debits, to, credits)
	const list = shares
		.slice(0, 12)
		.map(({ debit, credit, amount }) =>
			credit
				? `${debit.number} ${formatMinor(amount, currency)} from ${credit.number}`
				: `${debit.number} ${formatMinor(amount, currency)}${debit.disputed ? ' (in dispute)' : ''}`,
		)
	const words = [
		named.length === 0 ? '' : `Recognised: ${named.map(({ number }) => number).join(', ')}.`,
		list.length === 0
			? ''
			: `It goes to ${list.join(', ')}${shares.length > 12 ? ` and ${shares.length - 12} more` : ''}.`,
		left > 0 ? `${money(left, currency)} stay unapplied.` : '',
	]
	return { ok: true, words: words.filter(Boolean).join(' ') }
}
