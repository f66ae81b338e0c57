import { z } from 'zod'
import { addDays, dayText, isDay } from '@/core/calendar'
import { currencyCode, typedAmount } from '@/core/currency'
import { formatMinor } from '@/core/format'
import { no, type Outcome } from '@/core/outcome'
import { type Books, inOneStep } from '@/store/books'
import { addPromise, endPromise, promisesOf, receiveOnPromise, setPeace } from '@/store/chases'
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

/** Money that came, or did not stand: minor units, and which payment it is. */
type Paid = { customer: number; currency: string; amount: number; payment: string }

/** What is paid is received on the promises of its currency, the earliest first, also in parts; one that is covered is kept. */
export function keepPromises(
	books: Books,
	desk: Desk,
	{ customer: customerId, currency, amount, payment }: Paid,
): void {
	let left = amount
	const awaited = promisesOf(books, customerId).filter((one) => one.ended === null && one.currency === currency)
	for (const promise of awaited.reverse()) {
		const part = Math.min(left, promise.amount - promise.received)
		if (part <= 0) continue
		left -= part
		receiveOnPromise(books, promise.id, part)
		const whole = promise.received + part === promise.amount
		if (whole) endPromise(books, promise.id, 'kept')
		const of = `${formatMinor(promise.amount, currency)} ${currency} promised for ${promise.day}`
		record(books, desk, {
			subject: 'customer',
			id: customerId,
			act: whole ? 'a promise was kept' : 'a promise was kept in part',
			detail: whole ? `${of}, by ${payment}` : `${formatMinor(part, currency)} of ${of}, by ${payment}`,
		})
	}
}

/** What was received on promises and came back or was removed is awaited again, the latest promise first. */
export function takeFromPromises(
	books: Books,
	desk: Desk,
	{ customer: customerId, currency, amount, payment }: Paid,
): void {
	let left = amount
	for (const promise of promisesOf(books, customerId)) {
		const part = Math.min(left, promise.received)
		if (part <= 0 || promise.currency !== currency) continue
		left -= part
		receiveOnPromise(books, promise.id, -part)
		record(books, desk, {
			subject: 'customer',
			id: customerId,
			act: 'a promise is awaited again',
			detail: `${formatMinor(part, currency)} ${currency} promised for ${promise.day}, since ${payment} did not stand`,
		})
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
