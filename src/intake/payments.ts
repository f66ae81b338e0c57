import { isCurrency, minorNumber } from '@/core/currency'
import { attempt } from '@/core/refusal'
import { atOdds } from './kinds/master'
import type { Decided, Reading } from './reading'
import { type Rows, type RowsOut, type RowValues, readRows } from './rows'

/** A payment as a file has it; `amount` is minor units, above zero. */
export type IntakePayment = {
	row: number
	customerId: number
	day: string
	amount: number
	currency: string
	reference: string
}
/** Who a payment may be from, by what it names; offered, never taken. */
export type Likely = { number: string; name: string; why: string }
type PaymentBooks = {
	customer: (number: string) => { id: number; currency: string } | undefined
	homeCurrency: string
	/** Likely customers of a payment that names none. */
	likely: (payment: { reference: string; payer: string; amount: number | null; currency: string }) => Likely[]
	/** Where a payment like it was entered before; null where none was. */
	before: (payment: Omit<IntakePayment, 'row'>) => string | null
	today: string
	/** Why nothing is entered as of a day; null where it may be. */
	whyNotOn: (day: string) => string | null
}
type PaymentsOut = RowsOut & {
	payment: (payment: IntakePayment, standing: 'new' | 'again', words: string) => void
}

/** Turns rows into payments, one a row; each is refused by itself. One that was entered before is asked about. */
export function takePayments(
	rows: Rows,
	reading: Reading,
	decided: Decided,
	books: PaymentBooks,
	out: PaymentsOut,
): void {
	let refused = false
	const heard: RowsOut = {
		left: out.left,
		refuse: (refusal) => {
			refused = true
			out.refuse(refusal)
		},
	}
	const seen = new Map<string, number>()
	const each = readRows(rows, reading, decided, [], heard)
	for (;;) {
		refused = false
		const next = each.next()
		if (next.done) return
		const payment = readPayment(next.value, books)
		if (refused || !payment) continue
		const { row: _, ...same } = payment
		const key = JSON.stringify(same)
		const twin = seen.get(key)
		seen.set(key, twin ?? payment.row)
		const before = books.before(same)
		const words = twin !== undefined ? `row ${twin} says the same` : (before ?? '')
		out.payment(payment, words === '' ? 'new' : 'again', words)
	}
}

function readPayment(row: RowValues, books: PaymentBooks): IntakePayment | null {
	const number = row.get('customer')
	const given = row.value('amount')
	const customer = number === '' ? undefined : books.customer(number)
	const named = row.get('currency').toUpperCase() || given.currency
	if (named !== '' && !isCurrency(named))
		row.refuse('currency', 'This is not a currency code such as GBP. Correct it here.')
	if (given.currency !== '' && named !== given.currency) row.refuse('amount', atOdds(given.currency, named))
	const currency = named || customer?.currency || books.homeCurrency
	const amount =
		isCurrency(currency) && given.text !== '' ? attempt(() => minorNumber(given.text, currency, 'amount')) : null
	if (row.raw('day') === '' && row.get('day') === '') row.refuse('day', 'Every payment needs its date. Give it here.')
	else if (row.get('day') > books.today)
		row.refuse(
			'day',
			`It is dated after the day that is worked on, ${books.today}. Correct it, or bring the file in later.`,
		)
	else {
		const closed = row.get('day') === '' ? null : books.whyNotOn(row.get('day'))
		if (closed) row.refuse('day', closed)
	}
	if (given.text === '' && given.why === '') row.refuse('amount', 'Every payment needs its amount. Give it here.')
	else if (amount && !amount.ok) row.refuse('amount', amount.refusal.message)
	else if (amount?.ok && amount.value <= 0)
		row.refuse(
			'amount',
			'A payment is above zero. Leave money given back out, and enter it as a refund on its account.',
		)
	const reference = row.get('reference')
	if (!customer) {
		const likely = books.likely({
			reference,
			payer: row.get('name') || number,
			amount: amount?.ok ? amount.value : null,
			currency,
		})
		row.refuse(
			'customer',
			`${number === '' ? 'It names no customer.' : 'No customer has this number.'} ${likely.length === 0 ? 'Give the customer’s number here.' : 'Take one of those that are likely, or give the number here.'}`,
			likely.map((one) => ({ value: one.number, words: `${one.name}, ${one.why}` })),
		)
	}
	if (!customer || !amount?.ok || row.get('day') === '') return null
	return { row: row.row, customerId: customer.id, day: row.get('day'), amount: amount.value, currency, reference }
}
