import { z } from 'zod'
import { isDay } from '@/core/calendar'
import { currencyCode, typedAmount } from '@/core/currency'
import { no, type Outcome } from '@/core/outcome'
import type { Books } from '@/store/books'
import { readCustomer } from '@/store/customers'
import type { Desk } from '@/store/events'
import { actOn } from './acts'
import { money } from './apply'

export const debitNoteSchema = z.object({
	customer: z.number().int().positive(),
	number: z.string().trim().min(1, 'Give the debit note its number.').max(100),
	day: z.string().refine(isDay, 'Give its day.'),
	due: z.string().refine(isDay, 'Give the day on which it is due.'),
	amount: z.string().trim(),
	currency: currencyCode,
	reason: z.string().trim(),
})

/** Enters what a customer owes beside invoices: an undercharge, freight recharged, a difference agreed. */
export function debitNote(books: Books, desk: Desk, given: z.infer<typeof debitNoteSchema>): Outcome {
	const amount = typedAmount(given.amount, given.currency, 'amount')
	if (!amount.ok || amount.value <= 0) return no('Give the amount that is owed, above zero.')
	if (given.due < given.day) return no('It is due before its own day. Give a later day.')
	const { customer, number, currency, reason, day } = given
	if (!readCustomer(books, customer)) return no('There is no such customer.')
	return actOn(books, desk, { customer, what: 'debit note', reason, day }, ({ enter }) => {
		enter(customer, {
			...{ kind: 'debit note', side: 'debit', number },
			...{ due_day: given.due, currency, amount: amount.value },
		})
		return { ok: true, words: `${number}, ${money(amount.value, currency)}` }
	})
}
