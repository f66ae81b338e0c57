import { isCurrency, parseAmount } from '@/core/currency'
import { attempt } from '@/core/refusal'
import type { KnownBooks } from './orders'
import { type Reading, type RowRefusal, readRows } from './reading'
import type { Table } from './table'

/** A payment as a file has it; `amount` is minor units, above zero. */
export type IntakePayment = {
	row: number
	customerId: number
	day: string
	amount: number
	currency: string
	reference: string
}
export type PaymentsResult = {
	payments: IntakePayment[]
	refused: RowRefusal[]
	totals: { currency: string; payments: number; amount: number }[]
}

/** Turns rows into payments, one a row; each is refused by itself. */
export function readPayments(
	table: Table,
	reading: Reading,
	{ customers }: Pick<KnownBooks, 'customers'>,
): PaymentsResult {
	const refused: RowRefusal[] = []
	const payments: IntakePayment[] = []
	for (const row of readRows(table, reading, refused)) {
		const before = refused.length
		const customer = customers.get(row.get('customer').toUpperCase())
		if (!customer)
			row.refuse(
				'customer',
				'No customer has this number. Add the customer under Accounts, or correct the number in the source.',
			)
		if (row.raw('day') === '') row.refuse('day', 'Every payment needs its date. Give it in the source.')
		const currency = row.get('currency').toUpperCase() || (customer?.currency ?? '')
		if (currency !== '' && !isCurrency(currency))
			row.refuse('currency', 'This is not a currency code such as GBP. Correct it in the source.')
		const amount =
			isCurrency(currency) && row.get('amount') !== ''
				? attempt(() => Number(parseAmount(row.get('amount'), currency, 'amount')))
				: null
		if (row.raw('amount') === '') row.refuse('amount', 'Every payment needs its amount. Give it in the source.')
		else if (amount && !amount.ok) row.refuse('amount', amount.refusal.message)
		else if (amount?.ok && amount.value <= 0)
			row.refuse('amount', 'A payment is above zero. Leave money given back out, and enter it as a charge.')
		if (refused.some((refusal, place) => place >= before || refusal.row === row.row) || !customer || !amount?.ok)
			continue
		const reference = row.get('reference')
		payments.push({
			row: row.row,
			customerId: customer.id,
			day: row.get('day'),
			amount: amount.value,
			currency,
			reference,
		})
	}
	const totals = new Map<string, PaymentsResult['totals'][number]>()
	for (const { currency, amount } of payments) {
		const total = totals.get(currency) ?? { currency, payments: 0, amount: 0 }
		totals.set(currency, { currency, payments: total.payments + 1, amount: total.amount + amount })
	}
	return { payments, refused, totals: [...totals.values()].sort((a, b) => b.payments - a.payments) }
}
