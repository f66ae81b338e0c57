import { z } from 'zod'
import { type Day, isDay } from '@/core/calendar'
import { typedAmount } from '@/core/currency'
import { no, type Outcome } from '@/core/outcome'
import type { Books } from '@/store/books'
import type { Desk } from '@/store/events'
import { readItem } from '@/store/ledger'
import { actOn } from './acts'
import { applyOn, money } from './apply'

export const refundSchema = z.object({
	/** The credit that is given back: a payment or credit note with something unapplied. */
	credit: z.number().int().positive(),
	day: z.string().refine(isDay, 'Give the day of the refund.'),
	amount: z.string().trim(),
	reference: z.string().trim().max(200),
	reason: z.string().trim(),
})

/** Enters money given back to a customer: it uses up what stands to their credit, and no more than that. */
export function refund(books: Books, desk: Desk, given: z.infer<typeof refundSchema>): Outcome {
	const credit = readItem(books, given.credit)
	if (credit?.side !== 'credit' || credit.away === 1) return no('There is no such credit.')
	const amount = typedAmount(given.amount, credit.currency, 'amount')
	if (!amount.ok || amount.value <= 0) return no('Give the amount that was given back, above zero.')
	const day: Day = given.day
	const about = { customer: credit.customer_id, what: 'refund', reason: given.reason, day }
	return actOn(books, desk, about, ({ id, enter }) => {
		const now = readItem(books, credit.id)
		const open = now?.open ?? 0
		if (amount.value > open)
			return no(`Only ${money(open, credit.currency)} of ${credit.number} is unapplied. Give no more back than that.`)
		const number = given.reference || `Refund of ${credit.number}`
		const debit = enter(credit.customer_id, {
			...{ kind: 'payment', side: 'debit', called: 'refund', number },
			...{ currency: credit.currency, amount: amount.value },
		})
		applyOn(books, desk, {
			...{ debit, credit: credit.id, amount: amount.value, from: day, reason: 'given back', act: id },
		})
		return { ok: true, words: `${money(amount.value, credit.currency)} of ${credit.number}` }
	})
}
