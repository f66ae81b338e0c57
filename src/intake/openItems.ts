import { isCurrency, minorNumber } from '@/core/currency'
import { type ItemKind, itemKinds, type Side, sideOf } from '@/core/ledger'
import { attempt } from '@/core/refusal'
import type { Decided, Reading, RowRefusal } from './reading'
import { atOdds, type LeftWhy, type Rows, type RowValues, readRows } from './rows'

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
	left: { row: number; why: LeftWhy }[]
	/** Items whose row was refused, as far as it names them: they are left as they are here. */
	untouched: { customer: string; number: string }[]
	/** The file's own control totals, signed minor units by currency; a currency without one is left out. */
	control: Map<string, number>
}

/** Customers by number, in any case. */
export type CustomerBooks = { customer: (number: string) => { id: number; currency: string } | undefined }

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
	rows: Rows,
	reading: Reading,
	decided: Decided,
	books: CustomerBooks,
	homeCurrency: string,
): OpenItemsResult {
	const refused: RowRefusal[] = []
	const left: OpenItemsResult['left'] = []
	const untouched: OpenItemsResult['untouched'] = []
	const control = new Map<string, number>()
	const rowsOf = new Map<string, number>()
	const items: IntakeItem[] = []
	const out = {
		refuse: (refusal: RowRefusal) => refused.push(refusal),
		left: (row: number, why: LeftWhy) => left.push({ row, why }),
	}
	const each = readRows(rows, reading, decided, [], out)
	for (;;) {
		const before = refused.length
		const next = each.next()
		if (next.done) {
			// Rows that could not be looked at at all, after the last that could.
			for (let place = before; place < refused.length; place++) untouched.push({ customer: '', number: '' })
			break
		}
		const row = next.value
		for (let place = before; place < refused.length; place++)
			if (refused[place]?.row !== row.row) untouched.push({ customer: '', number: '' })
		if (isTotal(row)) {
			const { currency, odd } = currencyIn(row)
			if (odd) row.refuse(odd.key, odd.words)
			if (odd) continue
			const total = attempt(() => minorNumber(row.get('open') || row.get('amount'), currency || homeCurrency, 'total'))
			// What a total leaves empty or says in words is no fault of an item.
			for (let place = refused.length - 1; place >= before; place--)
				if (refused[place]?.row === row.row) refused.splice(place, 1)
			if (total.ok) {
				control.set(currency || homeCurrency, total.value)
				left.push({ row: row.row, why: 'total' })
			} else row.refuse('open', 'The control total is not an amount of its currency. Correct it here.')
			continue
		}
		const item = readItem(row, books, homeCurrency, reading.asOf)
		const bad = refused.length > before && refused.slice(before).some((refusal) => refusal.row === row.row)
		if (!item || bad) {
			untouched.push({ customer: row.raw('customer').toUpperCase(), number: row.raw('number').toUpperCase() })
			continue
		}
		const first = rowsOf.get(itemKey(item))
		if (first === undefined) {
			rowsOf.set(itemKey(item), row.row)
			items.push(item)
		} else {
			row.refuse('number', `Row ${first} holds the same item. Leave one of them out.`)
			untouched.push({ customer: row.raw('customer').toUpperCase(), number: row.raw('number').toUpperCase() })
		}
	}
	return { items, refused, left, untouched, control }
}

const isTotal = (row: RowValues): boolean =>
	/^(control )?total/i.test(row.raw('customer')) ||
	(row.raw('customer') === '' && /^(control )?total/i.test(row.raw('number')))

/** The currency that a row names, in its own column or with its figures (READING, rule 18); `odd` where these are at odds. */
function currencyIn(row: RowValues): { currency: string; odd: { key: string; words: string } | null } {
	const named = row.get('currency').toUpperCase()
	const currency = named || row.value('open').currency || row.value('amount').currency
	const other = ['open', 'amount'].find((key) => !['', currency].includes(row.value(key).currency))
	if (!other) return { currency, odd: null }
	return { currency, odd: { key: other, words: atOdds(row.value(other).currency, currency) } }
}

function readItem(row: RowValues, books: CustomerBooks, homeCurrency: string, asOf: string): IntakeItem | null {
	const customer = books.customer(row.get('customer'))
	if (!customer) row.refuse('customer', 'No customer has this number. Make one of it here, or correct the number.')
	if (row.get('number') === '') row.refuse('number', 'Every item needs its number. Give it here.')
	const kind = kindWords[row.get('kind').toLowerCase()]
	if (!kind && row.value('kind').why === '')
		row.refuse('kind', `A kind is one of ${itemKinds.join(', ')}. Correct it in the source.`)
	for (const key of ['day', 'due'])
		if (row.raw(key) === '' && row.get(key) === '') row.refuse(key, 'Every item needs this day. Give it here.')
	if (asOf !== '' && row.get('day') > asOf)
		row.refuse('day', 'It is dated after the day of the file. Correct the day of the file above, or the row here.')
	const said = currencyIn(row)
	if (said.odd) row.refuse(said.odd.key, said.odd.words)
	const currency = said.currency || customer?.currency || homeCurrency
	if (!isCurrency(currency)) {
		row.refuse('currency', 'This is not a currency code such as GBP. Correct it here.')
		return null
	}
	const read = (key: string) => attempt(() => minorNumber(row.get(key), currency, key))
	const [amount, open] = [read('amount'), read('open')]
	if (!amount.ok && row.value('amount').why === '') row.refuse('amount', amount.refusal.message)
	if (!open.ok && row.value('open').why === '') row.refuse('open', open.refusal.message)
	if (!customer || !kind || !amount.ok || !open.ok) return null
	if (open.value === 0 || amount.value === 0) row.refuse('open', 'Nothing of it is open. Leave it out here.')
	else if (Math.sign(amount.value) !== Math.sign(open.value) || Math.abs(open.value) > Math.abs(amount.value))
		row.refuse('open', 'More is open than the item comes to, or of the other sign. Correct it here.')
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
