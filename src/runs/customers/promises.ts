import { z } from 'zod'
import { addDays, dayText, isDay } from '@/core/calendar'
import { currencyCode, typedAmount } from '@/core/currency'
import { formatMinor } from '@/core/format'
import { no, type Outcome } from '@/core/outcome'
import { type Books, inOneStep } from '@/store/books'
import {
	addPromise,
	endPromise,
	promisesOf,
	readPromise,
	receiptsOfAct,
	receivedBy,
	receivedOn,
	receiveOnPromise,
	setPeace,
} from '@/store/chases'
import { readCustomer } from '@/store/customers'
import { type Desk, record } from '@/store/events'
import { readSettings, workDate } from '@/store/settings'

export const promiseSchema = z.object({
	customer: z.number().int().positive(),
	day: z.string().refine(isDay, 'Give the day that the payment is promised for.'),
	amount: z.string().trim(),
	currency: currencyCode,
	note: z.string().trim(),
})

/** Notes a payment that a customer promised for a day; until then they get no past-due letter. */
export function notePromise(books: Books, desk: Desk, promise: z.infer<typeof promiseSchema>): Outcome {
	const { customer, day, currency, note } = promise
	const amount = typedAmount(promise.amount, currency, 'amount')
	if (!amount.ok || amount.value <= 0) return no('Give the amount that is promised, above zero.')
	const { promiseDays } = readSettings(books)
	const last = addDays(workDate(books, desk.now().slice(0, 10)), promiseDays)
	if (day > last)
		return no(
			`A promise is taken for at most ${promiseDays} days ahead, to ${dayText(last)}, as set under Letters. Give an earlier day, or leave them in peace with the reason.`,
		)
	return inOneStep(books, () => {
		if (!readCustomer(books, customer)) return no('There is no such customer.')
		addPromise(books, desk, { customer_id: customer, currency, day, amount: amount.value, note })
		const detail = `${formatMinor(amount.value, currency)} ${currency} for ${day}${note ? `: ${note}` : ''}`
		record(books, desk, { subject: 'customer', id: customer, act: 'noted a promise', detail })
		return { ok: true }
	})
}

/** Says what became of a promise. */
export function settlePromise(books: Books, desk: Desk, customerId: number, id: number, kept: boolean): Outcome {
	return inOneStep(books, () => {
		const promise = promisesOf(books, customerId).find((one) => one.id === id)
		if (!promise || !endPromise(books, id, kept ? 'kept' : 'not kept'))
			return no('That promise is not awaited any more.')
		record(books, desk, {
			subject: 'customer',
			id: customerId,
			act: kept ? 'a promise was kept' : 'a promise was not kept',
			detail: `${formatMinor(promise.amount, promise.currency)} ${promise.currency} promised for ${promise.day}`,
		})
		return { ok: true }
	})
}

/** Money that came, or did not stand: minor units, the payment's entry in the ledger, what it is called, and the act that it is part of. */
type Paid = { customer: number; currency: string; amount: number; item: number; payment: string; act: number | null }

/** What is paid is received on the promises of its currency, the earliest first, also in parts; one that is covered is kept. */
export function keepPromises(
	books: Books,
	desk: Desk,
	{ customer: customerId, currency, amount, item, payment, act }: Paid,
): void {
	let left = amount
	const awaited = promisesOf(books, customerId).filter((one) => one.ended === null && one.currency === currency)
	for (const promise of awaited.reverse()) {
		const part = Math.min(left, promise.amount - promise.received)
		if (part <= 0) continue
		left -= part
		receiveOnPromise(books, { promise_id: promise.id, item_id: item, amount: part, act_id: act })
		noteReceived(books, desk, promise.id, part, `by ${payment}`)
	}
}

/** What was received on promises by a payment that came back or was removed is awaited again. */
export function takeFromPromises(books: Books, desk: Desk, { item, payment, act, ...paid }: Paid): void {
	const received = receivedBy(books, item)
	for (const { promise_id, amount } of received.length > 0 ? received : receivedBefore(books, paid)) {
		receiveOnPromise(books, { promise_id, item_id: item, amount: -amount, act_id: act })
		noteReceived(books, desk, promise_id, -amount, `since ${payment} did not stand`)
	}
}

/** Of a payment of which it was not kept what it was received on: the latest promises. */
function receivedBefore(
	books: Books,
	{ customer, currency, amount }: Pick<Paid, 'customer' | 'currency' | 'amount'>,
): { promise_id: number; amount: number }[] {
	let left = amount
	return promisesOf(books, customer).flatMap((promise) => {
		const known = receivedOn(books, promise.id)
		const part = Math.min(left, promise.received - known)
		if (part <= 0 || promise.currency !== currency) return []
		left -= part
		return [{ promise_id: promise.id, amount: part }]
	})
}

/** Gives promises back what an act took from them, and takes what it brought. */
export function undoOnPromises(books: Books, desk: Desk, actId: number, why: string): void {
	for (const { promise_id, item_id, amount } of receiptsOfAct(books, actId).reverse()) {
		receiveOnPromise(books, { promise_id, item_id, amount: -amount, act_id: null })
		noteReceived(books, desk, promise_id, -amount, why)
	}
}

function noteReceived(books: Books, desk: Desk, id: number, by: number, why: string): void {
	const promise = readPromise(books, id)
	if (!promise) return
	const money = (minor: number) => `${formatMinor(minor, promise.currency)} ${promise.currency}`
	const act =
		by < 0
			? 'a promise is awaited again'
			: promise.received >= promise.amount
				? 'a promise was kept'
				: 'a promise was kept in part'
	const part = Math.abs(by) === promise.amount ? '' : `${money(Math.abs(by))} of `
	const detail = `${part}${money(promise.amount)} promised for ${promise.day}, ${why}`
	record(books, desk, { subject: 'customer', id: promise.customer_id, act, detail })
}

/** Leaves a customer in peace until a day, with the reason; an empty day ends it. */
export function leaveInPeace(books: Books, desk: Desk, customerId: number, until: string, reason: string): Outcome {
	const words = reason.trim()
	if (until !== '' && !isDay(until)) return no('Give the day until which they are left in peace.')
	if (until !== '' && !words) return no('Say why they are left in peace.')
	return inOneStep(books, () => {
		if (!readCustomer(books, customerId)) return no('There is no such customer.')
		setPeace(books, customerId, until, until === '' ? '' : words)
		const act = until === '' ? 'ended the peace' : 'left in peace'
		record(books, desk, { subject: 'customer', id: customerId, act, detail: until && `until ${until}: ${words}` })
		return { ok: true }
	})
}
