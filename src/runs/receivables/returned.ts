import { z } from 'zod'
import { isDay } from '@/core/calendar'
import { typedAmount } from '@/core/currency'
import { namedAfter } from '@/core/entryNames'
import { no, type Outcome } from '@/core/outcome'
import { takeFromPromises } from '@/runs/customers/promises'
import type { Books } from '@/store/books'
import type { Desk } from '@/store/events'
import { readItem } from '@/store/ledger'
import { actOn } from './acts'
import { applicationsInForce, applyOn, money, unapplyOn } from './apply'

export const returnedSchema = z.object({
	payment: z.number().int().positive(),
	day: z.string().refine(isDay, 'Give the day on which it came back.'),
	/** What the customer is charged for it; empty for nothing. */
	charge: z.string().trim(),
	reason: z.string().trim(),
})

/**
 * Enters that a payment came back (a bounced cheque, a debit that was not honoured), as of the day on which it did: what it paid is owed
 * again from that day on, and what the bank took may be charged.
 */
export function returnPayment(books: Books, desk: Desk, given: z.infer<typeof returnedSchema>): Outcome {
	const payment = readItem(books, given.payment)
	if (payment?.kind !== 'payment' || payment.side !== 'credit' || payment.away === 1)
		return no('Only a payment can come back.')
	const charge = given.charge === '' ? null : typedAmount(given.charge, payment.currency, 'charge')
	if (charge && (!charge.ok || charge.value < 0)) return no('Give the charge as an amount, or leave it empty.')
	if (given.day < payment.day) return no('It came back before it came. Give the day on which it came back.')
	const { customer_id, currency, number } = payment
	const about = { customer: customer_id, what: 'returned payment', reason: given.reason, day: given.day }
	return actOn(books, desk, about, ({ id, day, enter }) => {
		for (const one of applicationsInForce(books, payment.id)) {
			const other = readItem(books, one.otherId ?? 0)
			if (one.extract) return no(`An extract settled ${number}; only the next extract can say otherwise.`)
			if (other?.kind === 'payment' || other?.kind === 'adjustment')
				return no(`${other.number} used up a part of it. Undo that first.`)
			unapplyOn(books, desk, one.id, day, 'the payment came back', { act: id })
		}
		const now = readItem(books, payment.id)
		if (!now || now.open < now.amount) return no(`A part of ${number} is settled otherwise.`)
		const debit = enter(customer_id, {
			...{ kind: 'payment', side: 'debit', called: 'returned payment', number: namedAfter(number, 'returned') },
			...{ currency, amount: now.amount },
		})
		applyOn(books, desk, { debit, credit: now.id, amount: now.amount, from: day, reason: 'came back', act: id })
		if (charge?.ok && charge.value > 0)
			enter(customer_id, {
				...{ kind: 'charge', side: 'debit', called: '', number: namedAfter(number, 'charge') },
				...{ currency, amount: charge.value },
			})
		takeFromPromises(books, desk, {
			...{ customer: customer_id, currency, amount: now.amount, item: now.id, payment: number, act: id },
		})
		return { ok: true, words: `${money(now.amount, currency)}, ${number}` }
	})
}
