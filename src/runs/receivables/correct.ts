import { type Day, dayText } from '@/core/calendar'
import { amountText } from '@/core/currency'
import { namedAfter } from '@/core/entryNames'
import { no, type Outcome } from '@/core/outcome'
import { takeFromPromises } from '@/runs/customers/promises'
import type { Books } from '@/store/books'
import type { Desk } from '@/store/events'
import { type LedgerRow, readItem } from '@/store/ledger'
import { type Acting, actOn, takeOff } from './acts'
import { applicationsInForce, money, unapplyOn } from './apply'
import { enterPayment, type Payment } from './payment'

/** Why an entry is not removed or corrected by hand, with what to do instead; null where it may be. */
function whyNotByHand(books: Books, item: LedgerRow): string | null {
	if (item.away === 1) return 'It was taken back with its extract.'
	if (item.document_id !== null)
		return `${item.number} was issued here. Credit it, make it void or revise it on its own page.`
	if (item.extract_id !== null)
		return `${item.number} came in an extract. The next one may say otherwise; what is open of it can be written off.`
	if (item.kind === 'adjustment') return `${item.number} is part of another act. Undo that.`
	if (item.act_id !== null) return `${item.number} is part of another act (${item.called}). Undo that.`
	const bound = applicationsInForce(books, item.id).find(({ extract }) => extract)
	return bound ? `An extract settled ${item.number}; only the next extract can say otherwise.` : null
}

/** Takes an entry off the account within an act: what was applied is free again. */
function removeWithin(books: Books, desk: Desk, item: LedgerRow, { id, day }: Acting, reason: string): string | null {
	for (const one of applicationsInForce(books, item.id)) {
		const other = readItem(books, one.otherId ?? 0)
		if (other?.act_id) return `${other.number} used up a part of it. Undo that first.`
		unapplyOn(books, desk, one.id, day, reason, { act: id })
	}
	const now = readItem(books, item.id)
	if (!now || now.open < now.amount) return `A part of ${item.number} is settled otherwise.`
	takeOff(books, desk, now, { day, number: namedAfter(item.number, 'removed'), called: 'removed', reason, act: id })
	if (item.kind === 'payment' && item.side === 'credit')
		takeFromPromises(books, desk, {
			...{ customer: item.customer_id, currency: item.currency, amount: item.amount },
			...{ item: item.id, payment: item.number, act: id },
		})
	return null
}

/** Removes an entry that was made here by hand, as of the day worked on: it counts no more from then on, and what it paid is owed again. */
export function removeEntry(books: Books, desk: Desk, itemId: number, reason: string): Outcome {
	const item = readItem(books, itemId)
	const hindered = item ? whyNotByHand(books, item) : 'There is no such entry.'
	if (!item || hindered) return no(hindered ?? '')
	return actOn(books, desk, { customer: item.customer_id, what: 'removal', reason }, (acting) => {
		const trouble = removeWithin(books, desk, item, acting, reason)
		return trouble ? no(trouble) : { ok: true, words: `${item.number}, ${money(item.amount, item.currency)}` }
	})
}

/** What a payment should have been. */
type Corrected = Pick<Payment, 'day' | 'amount' | 'reference' | 'to'> & { reason: string }

/** Puts a payment right that was entered by hand: it is removed as of the day worked on, and entered as it should have been. */
export function correctPayment(books: Books, desk: Desk, itemId: number, is: Corrected): Outcome {
	const item = readItem(books, itemId)
	const hindered = item ? whyNotByHand(books, item) : 'There is no such payment.'
	if (!item || hindered) return no(hindered ?? '')
	if (item.kind !== 'payment') return no('Only a payment is corrected here. Remove the entry, and make another.')
	const day: Day = is.day
	return actOn(books, desk, { customer: item.customer_id, what: 'correction', reason: is.reason }, (acting) => {
		const trouble = removeWithin(books, desk, item, acting, is.reason)
		if (trouble) return no(trouble)
		const payment: Payment = {
			...{ customer: item.customer_id, currency: item.currency, day, amount: is.amount },
			...{ reference: is.reference, to: is.to, sure: ['again'] },
		}
		const entered = enterPayment(books, desk, payment, acting.id)
		if (!entered.ok) return no(entered.message)
		const was = `${amountText(BigInt(item.amount), item.currency)} of ${dayText(item.day)}`
		return { ok: true, words: `${item.number}: ${was} is now ${entered.words}` }
	})
}
