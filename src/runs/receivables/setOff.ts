import { z } from 'zod'
import { byDue } from '@/core/applying'
import { currencyCode, typedAmount } from '@/core/currency'
import { named } from '@/core/entryNames'
import type { Side } from '@/core/ledger'
import { no, type Outcome } from '@/core/outcome'
import type { Books } from '@/store/books'
import { customerByNumber, readCustomer } from '@/store/customers'
import { type Desk, record } from '@/store/events'
import { disputedItems, type LedgerRow, openItems } from '@/store/ledger'
import { actOn } from './acts'
import { applyOn, money } from './apply'

export const setOffSchema = z.object({
	/** The account that has a credit. */
	customer: z.number().int().positive(),
	/** Number of the account that owes. */
	other: z.string().trim(),
	amount: z.string().trim(),
	currency: currencyCode,
	reason: z.string().trim(),
})

/**
 * Sets what stands to the credit of one account of a firm off against what another of its accounts owes, as of the day worked on: the credit is
 * used up here, and the oldest that is due there is paid by as much. Each account has its own movement; undone, both are.
 */
export function setOff(books: Books, desk: Desk, given: z.infer<typeof setOffSchema>): Outcome {
	const { customer, currency, reason } = given
	const own = readCustomer(books, customer)
	const other = customerByNumber(books, given.other)
	if (!own || !other) return no(`No customer has the number ${given.other}. Give the number of the account that owes.`)
	if (other.id === own.id) return no('That is this account. Give the number of the other one.')
	const amount = typedAmount(given.amount, currency, 'amount')
	if (!amount.ok || amount.value <= 0) return no('Give the amount that is set off, above zero.')
	return actOn(books, desk, { customer, what: 'set-off', reason }, ({ id, day, enter }) => {
		// What is in dispute is passed over, as by any money that is applied to the oldest.
		const credits = undisputed(books, own.id, currency, 'credit')
		const debits = undisputed(books, other.id, currency, 'debit')
		const sum = (items: { open: number }[]) => items.reduce((total, { open }) => total + open, 0)
		if (amount.value > sum(credits))
			return no(`Only ${money(sum(credits), currency)} stands to the credit of ${own.name}. Set off no more than that.`)
		if (amount.value > sum(debits))
			return no(
				`${other.name} owes only ${money(sum(debits), currency)} that is not in dispute. Set off no more than that.`,
			)
		const entry = { kind: 'adjustment' as const, currency, amount: amount.value, called: 'set-off' }
		const debit = enter(own.id, { ...entry, side: 'debit', number: named('Set off against', other.number) })
		const credit = enter(other.id, { ...entry, side: 'credit', number: named('Set off from', own.number) })
		const spread = (items: LedgerRow[], sides: (item: number) => { debit: number; credit: number }) => {
			let left = amount.value
			for (const item of byDue(items)) {
				const share = Math.min(left, item.open)
				if (share > 0) applyOn(books, desk, { ...sides(item.id), amount: share, from: day, reason: 'set off', act: id })
				left -= share
			}
		}
		spread(credits, (item) => ({ debit, credit: item }))
		spread(debits, (item) => ({ debit: item, credit }))
		const words = `${money(amount.value, currency)}, ${own.number} and ${other.number}`
		record(books, desk, { subject: 'customer', id: other.id, act: 'entered: set-off', detail: `${words}: ${reason}` })
		return { ok: true, words }
	})
}

/** What is open of one side of an account and not in dispute. */
function undisputed(books: Books, customerId: number, currency: string, side: Side): LedgerRow[] {
	const disputed = disputedItems(books, customerId)
	return openItems(books, customerId, currency, side).filter(({ id }) => !disputed.has(id))
}
