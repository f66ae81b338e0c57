import { z } from 'zod'
import { isDay } from '@/core/calendar'
import { currencyCode, typedAmount } from '@/core/currency'
import { formatMinor } from '@/core/format'
import { type Books, inOneStep } from '@/store/books'
import { addPromise, endPromise, promisesOf, setPeace } from '@/store/chases'
import { readCustomer } from '@/store/customers'
import { type Desk, record } from '@/store/events'
import { no, type Outcome } from './outcome'

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
	return inOneStep(books, () => {
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

/** A payment keeps the promises of its currency that it covers, the earliest first. `payment` says which it is. */
export function keepPromises(
	books: Books,
	desk: Desk,
	customerId: number,
	currency: string,
	amount: number,
	payment: string,
): void {
	let left = amount
	const awaited = promisesOf(books, customerId).filter((one) => one.ended === null && one.currency === currency)
	for (const promise of awaited.reverse()) {
		if (promise.amount > left) continue
		endPromise(books, promise.id, 'kept')
		left -= promise.amount
		const detail = `${formatMinor(promise.amount, currency)} ${currency} promised for ${promise.day}, by ${payment}`
		record(books, desk, { subject: 'customer', id: customerId, act: 'a promise was kept', detail })
	}
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
