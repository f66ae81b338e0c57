import { amountText, isCurrency, minorNumber } from '@/core/currency'
import { type ItemKind, itemKinds, type Side, sideOf } from '@/core/ledger'
import { attempt } from '@/core/refusal'
import { type SheetRow, textOf } from './cell'
import { formatNamed } from './formats'
import { atOdds } from './kinds/master'
import type { Decided, Reading, RowRefusal } from './reading'
import { type Rows, type RowValues, readRows, reasonSkipped, type SkipReason } from './rows'

/** An open item as an extract has it: minor units, never below zero; `side` says whether it is owed or credited, by its sign. */
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
	/** What it is called where its kind alone does not say it. */
	called: string
}
export type OpenItemsResult = {
	items: IntakeItem[]
	refused: RowRefusal[]
	left: { row: number; why: SkipReason }[]
	/** Items whose row was refused, as far as it names them: they are left as they are here. */
	untouched: { customer: string; number: string }[]
	/** The file's own control totals, signed minor units by currency; a currency without one is left out. */
	control: Map<string, number>
	/**
	 * How signs are read. Null where nothing says it: every credit and payment of the file stands without one, so that each could be owed to
	 * the customer, or by them.
	 */
	signs: Signs | null
	/** What the file itself says of how many rows it has, how many there are, and whether that fits; null where it says nothing. */
	counted: { said: number; rows: number; fits: boolean } | null
	/** Whether it ends with a total or a count of its own. */
	totalled: boolean
	/** The last row, where it breaks off before all others do; null for not. */
	cut: number | null
	/** Credits and payments that stand without a sign, the first few. */
	unsigned: { row: number; kind: string; number: string; amount: string }[]
}
/** Whether a figure says by its sign who owes it, or its kind does. */
const signings = ['as they stand', 'by kind'] as const
type Signs = (typeof signings)[number]

/** Customers by number, in any case. */
type CustomerBooks = { customer: (number: string) => { id: number; currency: string } | undefined }

/** Days before are slips, or what a program writes for none. */
const earliest = '2000-01-01'

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
	'debit memo': 'debit note',
	dn: 'debit note',
	refund: 'payment',
	'returned payment': 'payment',
	journal: 'adjustment',
	adj: 'adjustment',
	...Object.fromEntries(itemKinds.map((kind) => [kind, kind])),
}

/** Kinds that a word of their own says more of, and who owes them whatever the signs of the file. */
const callings: Record<string, string> = {
	refund: 'refund',
	'returned payment': 'returned payment',
}

/** What names one item: its customer, number, currency and kind. */
export const itemKey = (item: { customerId: number; number: string; currency: string; kind: ItemKind }): string =>
	JSON.stringify([item.customerId, item.number.toUpperCase(), item.currency, item.kind])

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
	const found: Found[] = []
	const cellOf = (row: number, field: string): string => {
		const cell = rows.get(row)?.cells[reading.columns[field] ?? -1]
		return cell === undefined ? '' : textOf(cell).trim().toUpperCase()
	}
	const out = {
		refuse: (refusal: RowRefusal) => refused.push(refusal),
		left: (row: number, why: SkipReason) => {
			left.push({ row, why })
			// What a person leaves out of the file says nothing of its item, which stays as it is.
			if (why === 'left out') untouched.push({ customer: cellOf(row, 'customer'), number: cellOf(row, 'number') })
		},
	}
	const widths = widthsOf(rows, reading)
	let said: Trailer | null = null
	let totalled = false
	const each = readRows(widths.rows, reading, decided, [], out)
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
		const trailer = isTotal(row) ? null : trailerIn(widths.text())
		if (trailer && !books.customer(row.get('customer'))) {
			for (let place = refused.length - 1; place >= before; place--)
				if (refused[place]?.row === row.row) refused.splice(place, 1)
			said = trailer.says ?? said
			totalled = true
			widths.isNone()
			left.push({ row: row.row, why: 'total' })
			continue
		}
		if (isTotal(row)) {
			totalled = true
			widths.isNone()
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
			found.push(item)
		} else {
			row.refuse('number', `Row ${first} holds the same item. Leave one of them out.`)
			untouched.push({ customer: row.raw('customer').toUpperCase(), number: row.raw('number').toUpperCase() })
		}
	}
	const unsigned = found.filter(({ sign, natural }) => natural === 'credit' && sign > 0)
	const signed = found.some(({ sign, natural }) => natural === 'credit' && sign < 0)
	const signs = reading.signs ?? (signed || unsigned.length === 0 ? 'as they stand' : null)
	const items = found.map(({ sign, natural, ...item }): IntakeItem => {
		const side = natural === null || signs === 'as they stand' || sign < 0 ? (sign < 0 ? 'credit' : 'debit') : natural
		return { ...item, side }
	})
	return {
		...{ items, refused, left, untouched, control, signs, totalled, cut: widths.cut() },
		counted: said === null ? null : { said: said.count, ...widths.counts(said) },
		unsigned: unsigned.slice(0, 4).map(({ row, kind, number, amount, currency }) => ({
			...{ row, kind, number },
			amount: amountText(BigInt(amount), currency),
		})),
	}
}

const things = '(?:rows?|records?|items?|lines?|entries)'
const countOfItems = [
	new RegExp(`^(?:(?:number|count|total)(?: of)? )?${things}(?: count)?[ :=#]*(\\d+)?$`, 'i'),
	new RegExp(`^(\\d+) ${things}$`, 'i'),
]
/** Says how many rows there are, those that are no items too. */
const countOfAll = [/^(?:count|trailer|trl|end(?: of file)?|eof)[ :=#]*(\d+)?$/i]
type Trailer = { count: number; all: boolean }
/** What a row that only ends a file says: how many rows there are, or nothing; null for one that does not. */
function trailerIn(text: string): { says: Trailer | null } | null {
	for (const trailer of [...countOfItems, ...countOfAll]) {
		const match = trailer.exec(text)
		if (!match) continue
		const count = match[1]
		return { says: count === undefined ? null : { count: Number(count), all: countOfAll.includes(trailer) } }
	}
	return null
}

/** Rows that are gone through, with how many cells each has beside the others. */
function widthsOf(rows: Rows, reading: Reading) {
	const widths = new Map<number, number>()
	let others = reading.headRow === null ? 0 : 1
	let [last, before] = [
		{ row: 0, width: 0, cells: [] as SheetRow['cells'] },
		{ row: 0, width: 0, cells: [] as SheetRow['cells'] },
	]
	const count = (width: number, by: number) => widths.set(width, (widths.get(width) ?? 0) + by)
	const all = () => [...widths.values()].reduce((sum, some) => sum + some, 0)
	return {
		rows: {
			...rows,
			*each() {
				for (const row of rows.each()) {
					if (reasonSkipped(row, reading) === null || row.leftOut) {
						before = last
						last = { row: row.row, width: row.cells.length, cells: row.cells }
						count(last.width, 1)
					}
					yield row
				}
			},
		} satisfies Rows,
		/** What stands in the row that is on. */
		text: () =>
			last.cells
				.map((cell) => textOf(cell).trim())
				.filter(Boolean)
				.join(' '),
		/** The row that is on is none of items. */
		isNone: () => {
			count(last.width, -1)
			others++
			last = before
		},
		counts: (said: Trailer) => ({
			rows: all(),
			fits: said.count === all() || (said.all && said.count === all() + others),
		}),
		cut: () => {
			if (formatNamed(reading.format)?.lines !== true) return null
			const rest = [...widths]
				.filter(([width, some]) => some - Number(width === last.width) > 0)
				.map(([width]) => width)
			return rest.length > 0 && rest.every((width) => width > last.width) ? last.row : null
		},
	}
}

/** An item with its sign (1 or -1), and who owes its kind where nothing else says it. */
type Found = Omit<IntakeItem, 'side'> & { sign: number; natural: Side | null }

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

function readItem(row: RowValues, books: CustomerBooks, homeCurrency: string, asOf: string): Found | null {
	const customer = books.customer(row.get('customer'))
	if (!customer) row.refuse('customer', 'No customer has this number. Make one of it here, or correct the number.')
	if (row.get('number') === '') row.refuse('number', 'Every item needs its number. Give it here.')
	const word = row.get('kind').toLowerCase()
	const kind = kindWords[word]
	const called = callings[word] ?? ''
	if (!kind && row.value('kind').why === '')
		row.refuse('kind', `A kind is one of ${itemKinds.join(', ')}. Correct it in the source.`)
	for (const key of ['day', 'due'])
		if (row.raw(key) === '' && row.get(key) === '') row.refuse(key, 'Every item needs this day. Give it here.')
	if (asOf !== '' && row.get('day') > asOf)
		row.refuse('day', 'It is dated after the day of the file. Correct the day of the file above, or the row here.')
	if (row.get('day') !== '' && row.get('day') < earliest)
		row.refuse('day', 'No open item is dated before the year 2000. Correct it here.')
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
		called,
		sign: Math.sign(amount.value),
		// A refund is owed by the customer, though it is money.
		natural: called === '' ? sideOf(kind) : 'debit',
		day: row.get('day'),
		due: row.get('due'),
		amount: Math.abs(amount.value),
		open: Math.abs(open.value),
		currency,
		theirOrder: row.get('theirOrder'),
	}
}
