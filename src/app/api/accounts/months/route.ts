import { answering } from '@/app/reading'
import { endOfMonth, isDay } from '@/core/calendar'
import { isCurrency } from '@/core/currency'
import { owedAtEnds } from '@/store/accounts'
import { whileUnchanged } from '@/store/books'

/** What was owed in a currency at the end of each of the past twelve months, by bucket. */
export const GET = answering(({ books, today }, request) => {
	const { searchParams } = new URL(request.url)
	const currency = searchParams.get('currency') ?? ''
	if (!isCurrency(currency)) return new Response('Name the currency by its code, such as GBP.', { status: 400 })
	const asked = searchParams.get('asOf') ?? ''
	const asOf = isDay(asked) ? asked : today
	// The month that is going on is shown as of the day itself.
	const days = [...Array.from({ length: 11 }, (_, back) => endOfMonth(asOf, back - 11)), asOf]
	const sums = whileUnchanged(books, `months ${currency} ${asOf}`, () => owedAtEnds(books, currency, days))
	return Response.json(days.map((day, place) => ({ day, amounts: sums[place] })))
})
