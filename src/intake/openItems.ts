import { isCurrency, parseAmount } from '@/core/currency'
import { type ItemKind, itemKinds, type Side, sideOf } from '@/core/ledger'
import { attempt } from '@/core/refusal'
import type { KnownBooks } from './orders'
import { type Reading, type RowRefusal, type RowValues, readRows } from './reading'
import type { Table } from './table'

/** An open item as an extract has it: minor units, never below zero; `side` says whether it is owed or credited. */
export type IntakeItem = {
	row: number
	customerId: number
	number: string
	kind: ItemKind
	side: Side
	day: string
	due: string
	amount: number
	open: number
	currency: string
	theirOrder: string
}
export type OpenItemsResult = {
	items: IntakeItem[]
	refused: RowRefusal[]
	/** The file's own control totals, signed minor units by currency; a currency without one is left out. */
	control: Map<string, number>
}

const kindWords: Record<string, ItemKind> = {
	inv: 'invoice',
	'credit note': 'credit',
	'credit memo': 'credit',
	cn: 'credit',
	crn: 'credit',
	receipt: 'payment',
	'payment on account': 'payment',
	fee: 'charge',
	interest: 'charge',
	'late charge': 'charge',
	journal: 'adjustment',
	adj: 'adjustment',
	...Object.fromEntries(itemKinds.map((kind) => [kind, kind])),
}

/** What names one item: its customer, number, currency and side. */
export const itemKey = (item: { customerId: number; number: string; currency: string; side: Side }): string =>
	JSON.stringify([item.customerId, item.number.toUpperCase(), item.currency, item.side])

/**
 * Turns the rows of an extract into items, each refused by itself. A row that names no customer and calls itself a total holds a
 * control total: its open amount, in its currency.
 */
export function readOpenItems(
	table: Table,
	reading: Reading,
	{ customers }: Pick<KnownBooks, 'customers'>,
	homeCurrency: string,
): OpenItemsResult {
	const refused: RowRefusal[] = []
	const control = new Map<string, number>()
	const rowsOf = new Map<string, number>()
	const items: IntakeItem[] = []
	for (const row of readRows(table, reading, refused)) {
		if (isTotal(row)) {
			const currency = row.get('currency').toUpperCase() || homeCurrency
			const total = attempt(() => Number(parseAmount(row.get('open') || row.get('amount'), currency, 'total')))
			if (total.ok) control.set(currency, total.value)
			else row.refuse('open', 'The control total is not an amount of its currency. Correct it in the source.')
			continue
		}
		const item = readItem(row, customers, homeCurrency, reading.asOf)
		if (!item || refused.some((refusal) => refusal.row === row.row)) continue
		const first = rowsOf.get(itemKey(item))
		if (first === undefined) {
			rowsOf.set(itemKey(item), row.row)
			items.push(item)
		} else row.refuse('number', `Row ${first} holds the same item. Leave one of them out in the source.`)
	}
	return { items, refused, control }
}

const isTotal = (row: RowValues): boolean =>
	/^(control )?total/i.test(row.raw('customer')) ||
	(row.raw('customer') === '' && /^(control )?total/i.test(row.raw('number')))

function readItem(
	row: RowValues,
	customers: KnownBooks['customers'],
	homeCurrency: string,
	asOf: string,
): IntakeItem | null {
	const customer = customers.get(row.get('customer').toUpperCase())
	if (!customer)
		row.refuse(
			'customer',
			'No customer has this number. Add the customer under Accounts, or correct the number in the source.',
		)
	if (row.get('number') === '') row.refuse('number', 'Every item needs its number. Give it in the source.')
	const kind = kindWords[row.get('kind').toLowerCase()]
	if (!kind) row.refuse('kind', `A kind is one of ${itemKinds.join(', ')}. Correct it in the source.`)
	for (const key of ['day', 'due'])
		if (row.raw(key) === '') row.refuse(key, 'Every item needs this day. Give it in the source.')
	if (asOf !== '' && row.get('day') > asOf)
		row.refuse(
			'day',
			'It is dated after the day of the file. Correct the day of the file above, or the row in the source.',
		)
	const currency = row.get('currency').toUpperCase() || customer?.currency || homeCurrency
	if (!isCurrency(currency)) {
		row.refuse('currency', 'This is not a currency code such as GBP. Correct it in the source.')
		return null
	}
	const read = (key: string) => attempt(() => Number(parseAmount(row.get(key), currency, key)))
	const [amount, open] = [read('amount'), read('open')]
	if (!amount.ok) row.refuse('amount', amount.refusal.message)
	if (!open.ok) row.refuse('open', open.refusal.message)
	if (!customer || !kind || !amount.ok || !open.ok) return null
	if (open.value === 0 || amount.value === 0) row.refuse('open', 'Nothing of it is open. Leave it out in the source.')
	else if (Math.sign(amount.value) !== Math.sign(open.value) || Math.abs(open.value) > Math.abs(amount.value))
		row.refuse('open', 'More is open than the item comes to, or of the other sign. Correct it in the source.')
	return {
		row: row.row,
		customerId: customer.id,
		number: row.get('number'),
		kind,
		side: sideOf[kind] ?? (amount.value < 0 ? 'credit' : 'debit'),
		day: row.get('day'),
		due: row.get('due'),
		amount: Math.abs(amount.value),
		open: Math.abs(open.value),
		currency,
		theirOrder: row.get('theirOrder'),
	}
}
