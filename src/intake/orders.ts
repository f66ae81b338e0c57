import { isCurrency } from '@/core/currency'
import { type LineDiscount, lineNet, minorOf } from '@/core/lineNet'
import { type OwnField, type OwnOf, ownText } from '@/core/ownFields'
import { type SheetRow, textOf } from './cell'
import { ownColumn } from './kinds'
import { deliveryOf } from './kinds/shared'
import { hasLine, linesIn, ordersGathered, ordersInTurn, Scattered } from './orderIndex'
import { type Decided, type DiscountQuestion, headSaysPercent, type Reading, type RowRefusal } from './reading'
import type { OrdersOut, ReadLine, ReadOrder } from './readOrder'
import {
	cellReader,
	defaultOf,
	type Placed,
	type Rows,
	refusalOf,
	type Shape,
	shapeOf,
	shareOrPercent,
	troubleOf,
	type Value,
} from './rows'
import { percentOfShare } from './values/share'

const orderKeys = [
	'customer',
	'day',
	'purchaseOrder',
	'currency',
	'orderDiscount',
	'discountName',
	'freight',
	'freightPercent',
	'orderTotal',
	...[1, 2, 3, 4, 5, 6].map((line) => `delivery${line}`),
]
/** A currency (ISO 4217), or GBP for what is none: the row is refused already, and its figures need some decimals to be read by. */
export const currencyOrPound = (currency: string): string => (isCurrency(currency) ? currency : 'GBP')

/**
 * Turns rows into orders (READING, rules 9 to 14): rows of one number are one order, wherever they stand, and one that has a row that
 * cannot be read is refused whole.
 * @param begin gives where to put what comes of the rows; called again, to begin anew, where the rows of an order stand apart
 */
export function takeOrders(
	rows: Rows,
	reading: Reading,
	decided: Decided,
	ownFields: readonly OwnField[],
	begin: () => OrdersOut,
): void {
	const shape = shapeOf(reading, ownFields)
	const read = cellReader(decided)
	const ownOf = (of: OwnOf) =>
		ownFields.filter((one) => one.of === of).map((one) => ({ key: one.key, column: ownColumn(one) }))
	const ownOrder = ownOf('order')
	const together = [...orderKeys, ...ownOrder.map(({ column }) => column)].filter((key) =>
		shape.row.some(({ field }) => field.key === key),
	)
	const context: Context = { reading, decided, shape, read, together, ownOrder, ownLine: ownOf('line') }
	const through = (go: typeof ordersInTurn) => {
		const out = begin()
		go({ rows, reading, shape, read, out }, (own) => takeOrder(own, context, out))
	}
	try {
		through(ordersInTurn)
	} catch (error) {
		if (!(error instanceof Scattered)) throw error
		through(ordersGathered)
	}
}

type Context = {
	reading: Reading
	decided: Decided
	shape: Shape
	read: ReturnType<typeof cellReader>
	/** Fields that all rows of an order must agree on. */
	together: string[]
	ownOrder: { key: string; column: string }[]
	ownLine: { key: string; column: string }[]
}
type Values = Record<string, Value>
type LineAt = { row: SheetRow; line: number; placed: Placed; read: ReadLine }

function takeOrder(rows: SheetRow[], context: Context, out: OrdersOut): void {
	const { reading, shape } = context
	const refusals: RowRefusal[] = []
	const [first] = rows
	if (!first) return
	// An order is left out whole, as it is refused.
	if (rows.some(({ leftOut }) => leftOut)) {
		for (const { row } of rows) out.left(row, 'left out')
		return
	}
	const refuse = (row: SheetRow, placed: Placed, line: number, key: string, remedy: string) =>
		refusals.push(refusalOf(row, reading, shape, placed, line, key, remedy))
	const values: { row: SheetRow; values: Values }[] = []
	const lines: LineAt[] = []
	const currencies: { row: SheetRow; key: string; placed: Placed; line: number; currency: string }[] = []
	for (const row of rows) {
		const trouble = troubleOf(row, shape, reading)
		if (trouble) {
			refusals.push(trouble)
			continue
		}
		// Most rows say of the order just what its first does.
		if (row === first || !saysTheSame(row, first, shape)) {
			const own = readValues(row, 0, shape.row, context, (key, why) => refuse(row, shape.row, 0, key, why))
			values.push({ row, values: own })
			const named = own.currency?.text.toUpperCase() ?? ''
			if (named !== '') currencies.push({ row, key: 'currency', placed: shape.row, line: 0, currency: named })
			for (const key of ['freight', 'orderTotal', 'orderDiscount'])
				if (own[key]?.currency)
					currencies.push({ row, key, placed: shape.row, line: 0, currency: own[key]?.currency ?? '' })
		}
		for (let line = 0; line < linesIn(row, shape); line++) {
			if (!hasLine(row, shape, line)) continue
			const placed = shape.lines[shape.nested ? 0 : line] ?? []
			const tell = (key: string, why: string) => refuse(row, placed, line, key, why)
			const own = readValues(row, line, placed, context, tell)
			for (const key of ['unitPrice', 'lineTotal', 'lineDiscount', 'lineDiscountAmount'])
				if (own[key]?.currency) currencies.push({ row, key, placed, line, currency: own[key]?.currency ?? '' })
			lines.push({ row, line, placed, read: makeLine(row.row, own, context, tell) })
		}
	}
	const head = orderHead(values, context, (row, key, why) => refuse(row, shape.row, 0, key, why))
	const currency = oneCurrency(currencies, head.currency, (one, why) =>
		refuse(one.row, one.placed, one.line, one.key, why),
	)
	for (const { row, line, placed, read } of lines) {
		const why = checkLine(read, currencyOrPound(currency), row, line, placed, context)
		if (why) refuse(row, placed, line, why.key, why.words)
	}
	if (lines.length === 0 && refusals.length === 0)
		refuse(first, shape.lines[0] ?? [], 0, 'quantity', 'The order has no line. Give it one, or leave it out.')
	const order: ReadOrder = { ...head, currency, lines: lines.map(({ read }) => read), rows: rows.map(({ row }) => row) }
	if (refusals.length === 0)
		out.order(order, (key, remedy, line) => {
			const at = line === undefined ? undefined : lines[line]
			if (at) refuse(at.row, at.placed, at.line, key, remedy)
			else refuse(first, shape.row, 0, key, remedy)
		})
	if (refusals.length === 0) return
	out.refusedLines(order.customer, currency, order.lines)
	for (const refusal of refusals) out.refuse(refusal)
	const bad = new Set(refusals.map(({ row }) => row))
	const [worst] = refusals
	for (const row of rows)
		if (!bad.has(row.row))
			out.refuse({
				...refusalOf(
					row,
					reading,
					shape,
					shape.row,
					0,
					'order',
					`Order ${order.number} is refused whole, because row ${worst?.row} was.`,
				),
				follows: true,
			})
}

/** Whether the cells of what is of the order are the same in two rows, and text. */
function saysTheSame(row: SheetRow, other: SheetRow, shape: Shape): boolean {
	for (const { place = 0 } of shape.row) if (row.cells[place] !== other.cells[place]) return false
	return true
}

function readValues(
	row: SheetRow,
	line: number,
	placed: Placed,
	context: Context,
	tell: (key: string, why: string) => void,
): Values {
	const { reading, shape, read } = context
	const values: Values = {}
	for (const { field, place } of placed) {
		const cell = shape.cell(row, line, place)
		const value = read(cell === '' ? defaultOf(reading, field) : cell, field.type)
		const why = value.why || shareOrPercent(value, field, reading.head[place ?? -1])
		if (why !== '') tell(field.key, why)
		values[field.key] = value
	}
	return values
}

const ownValues = (columns: Context['ownOrder'], values: Values): string =>
	columns.length === 0
		? '{}'
		: ownText(Object.fromEntries(columns.map(({ key, column }) => [key, values[column]?.text ?? ''])))

function makeLine(row: number, values: Values, context: Context, tell: (key: string, why: string) => void): ReadLine {
	const text = (key: string) => values[key]?.text ?? ''
	const quantity = values.quantity
	const unit = text('unit')
	if (quantity && quantity.unit !== '' && unit !== '' && plainUnit(unit) !== plainUnit(quantity.unit))
		tell('quantity', `It is in ${quantity.unit}, but the row's unit is ${unit}. Make them agree.`)
	if (quantity?.text === '' && quantity.why === '') tell('quantity', 'Every line needs a quantity. Give it here.')
	if (text('unitPrice') === '' && text('item') === '' && (values.unitPrice?.why ?? '') === '')
		tell('unitPrice', 'A line needs a price, or an item whose price is known. Give one of them here.')
	const discount = discountIn('discount', values.lineDiscount, context)
	if (discount.why !== '') tell('lineDiscount', discount.why)
	if (discount.amount !== '' && text('lineDiscountAmount') !== '')
		tell('lineDiscountAmount', 'There are two discounts in money. Leave one of them empty.')
	const amount = discount.amount || text('lineDiscountAmount')
	return {
		row,
		item: text('item'),
		description: text('description'),
		quantity: quantity?.text ?? '',
		unit: unit || (quantity?.unit ?? ''),
		unitPrice: text('unitPrice') || null,
		pricePer: text('pricePer') || '1',
		discountPercent: discount.percent,
		discountAmount: amount === '0' ? '' : amount,
		taxCode: text('taxCode'),
		own: ownValues(context.ownLine, values),
		net: null,
	}
}

const plainUnit = (unit: string): string => unit.toLowerCase().replace(/\.$/, '')

/** A discount as it counts: by its own sign, else by what its column holds. An amount is empty where it is none, a percent '0'. */
function discountIn(
	name: DiscountQuestion,
	value: Value | undefined,
	{ decided, reading }: Context,
): { percent: string; amount: string; why: string } {
	const figure = value?.text || '0'
	const inMoney = value !== undefined && value.currency !== ''
	if (inMoney && headSaysPercent(reading, name))
		return { percent: '0', amount: '', why: 'Its column holds percents, but this is money. Correct it here.' }
	const form = value?.percent ? 'percent' : inMoney ? 'amount' : (decided[name] ?? 'percent')
	if (form === 'amount') return { percent: '0', amount: figure === '0' ? '' : figure, why: '' }
	return { percent: form === 'share' ? percentOfShare(figure) : figure, amount: '', why: '' }
}

/** Checks a line's own total against its figures (rule 19), and its discount; notes what it comes to. */
function checkLine(
	read: ReadLine,
	currency: string,
	row: SheetRow,
	line: number,
	placed: Placed,
	{ shape, read: readCell }: Context,
): { key: string; words: string } | null {
	if (/^-/.test(read.discountPercent) || /^-/.test(read.discountAmount))
		return { key: 'lineDiscount', words: 'A discount cannot be below zero. Correct it here.' }
	if (Number(read.discountPercent) > 100)
		return { key: 'lineDiscount', words: 'A discount is a percent from 0 to 100. Correct it here.' }
	if (read.pricePer === '0' || read.pricePer.startsWith('-'))
		return { key: 'pricePer', words: 'The quantity that a price is for must be above zero. Correct it here.' }
	const place = placed.find(({ field }) => field.key === 'lineTotal')?.place
	const cell = shape.cell(row, line, place)
	const total = cell === '' ? '' : readCell(cell, 'amount').text
	if (read.quantity === '' || read.unitPrice === null) {
		read.net = total === '' ? null : minorOf(total, currency)
		return null
	}
	const net = lineNet({ ...read, unitPrice: read.unitPrice }, discountOf(read), currency)
	read.net = net
	if (total === '') return null
	const out = minorOf(total, currency) - net
	return out > 1n || out < -1n
		? {
				key: 'lineTotal',
				words: `The row says ${textOf(cell)}, but its quantity, price and discount come to ${minorText(net, currency)}. Correct one of them.`,
			}
		: null
}

const minorText = (minor: bigint, currency: string): string => {
	const digits = minorOf('1', currency).toString().length - 1
	const size = (minor < 0n ? -minor : minor).toString().padStart(digits + 1, '0')
	const text = digits === 0 ? size : `${size.slice(0, -digits)}.${size.slice(-digits)}`
	return minor < 0n ? `-${text}` : text
}

/** The discount of a line: an amount where there is one, else a percent. */
export const discountOf = (line: Pick<ReadLine, 'discountPercent' | 'discountAmount'>): LineDiscount =>
	line.discountAmount !== ''
		? { form: 'amount', value: line.discountAmount }
		: { form: 'percent', value: line.discountPercent }

type OrderHead = Omit<ReadOrder, 'lines' | 'rows' | 'currency'> & { currency: string }

/** What is of the order must be the same on each of its rows; a row that leaves it empty says nothing (rules 9 and 10). */
function orderHead(
	values: { row: SheetRow; values: Values }[],
	context: Context,
	refuse: (row: SheetRow, key: string, why: string) => void,
): OrderHead {
	const [first] = values
	const said: Record<string, { text: string; row: SheetRow; value: Value | undefined }> = {}
	for (const key of context.together) {
		for (const { row, values: own } of values) {
			const value = own[key]
			const text = `${value?.text ?? ''}${value?.percent ? '%' : ''}`
			if (text === '') continue
			const before = said[key]
			if (!before) said[key] = { text, row, value }
			else if (before.text.toUpperCase() !== text.toUpperCase())
				refuse(row, key, `Row ${before.row.row} of the same order says “${before.text}”. Make the rows agree.`)
		}
	}
	const text = (key: string) => said[key]?.value?.text ?? ''
	const discount = discountIn('orderDiscount', said.orderDiscount?.value, context)
	if (said.orderDiscount && discount.why !== '') refuse(said.orderDiscount.row, 'orderDiscount', discount.why)
	if (first && text('customer') === '' && values.every(({ values: own }) => (own.customer?.why ?? '') === ''))
		refuse(first.row, 'customer', 'Every order needs the number of its customer. Give it here.')
	if (first && text('day') === '' && values.every(({ values: own }) => (own.day?.why ?? '') === ''))
		refuse(first.row, 'day', 'Every order needs its date. Give it here.')
	return {
		number: first?.values.order?.text ?? '',
		day: text('day'),
		customer: text('customer'),
		currency: text('currency').toUpperCase(),
		purchaseOrder: text('purchaseOrder'),
		note: first?.values.note?.text ?? '',
		discountPercent: discount.percent,
		discountAmount: discount.amount,
		discountName: text('discountName'),
		freight: text('freight'),
		freightPercent: text('freightPercent'),
		total: text('orderTotal'),
		delivery: deliveryOf(text),
		own:
			context.ownOrder.length === 0
				? '{}'
				: ownText(Object.fromEntries(context.ownOrder.map(({ key, column }) => [key, text(column)]))),
	}
}

/** The one currency of an order, by its column or by what stands with its figures (rules 9 and 18). */
function oneCurrency<Said extends { currency: string; row: SheetRow; key: string }>(
	said: Said[],
	named: string,
	refuse: (one: Said, why: string) => void,
): string {
	const [first] = said
	const currency = named || (first?.currency ?? '')
	for (const one of said) {
		if (!isCurrency(one.currency)) refuse(one, 'This is not a currency code such as GBP. Correct it here.')
		else if (one.currency !== currency)
			refuse(one, `It is in ${one.currency}, but the order is in ${currency}. Make them agree.`)
	}
	return currency
}
