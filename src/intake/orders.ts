import { createHash } from 'node:crypto'
import { isCurrency } from '@/core/currency'
import { asDocumentDiscount, isDiscountOn, type NamedDiscount } from '@/core/documentDiscounts'
import { orderNet } from '@/core/orderNet'
import { type OwnField, type OwnOf, ownText } from '@/core/ownFields'
import { deliveryOf, ownColumn } from './kinds'
import { type Reading, type RowRefusal, type RowValues, readRows } from './reading'
import type { Table } from './table'

export type IntakeLine = {
	sourceRow: number
	item: string
	description: string
	quantity: string
	unit: string
	/** Null where the file has none. */
	unitPrice: string | null
	pricePer: string
	discountPercent: string
	taxCode: string
	/** Values of the firm's own fields, JSON by key. */
	own: string
}
export type IntakeOrder = {
	number: string
	customerId: number
	day: string
	currency: string
	purchaseOrder: string
	note: string
	discountPercent: string
	/** Name of one of the firm's discounts; empty for none. */
	discountLabel: string
	/** Amount of freight; empty where the file names none. */
	freight: string
	freightPercent: string
	/** Where its goods go, a line each; empty where the file does not say. */
	delivery: string
	own: string
	lines: IntakeLine[]
	/** Minor units: lines less discounts, and freight; a line without a price counts as nothing. */
	net: bigint
	/** Hash of what was ordered, without the order's number: equal for an order that was entered twice. */
	contentSha256: string
	/** The same for orders that differ in how their figures are written alone. */
	sameAs: string
}
export type IntakeResult = {
	orders: IntakeOrder[]
	refused: RowRefusal[]
	/** Orders that are in the books already, as they stand here. */
	known: string[]
	totals: { currency: string; orders: number; lines: number; net: bigint }[]
	withoutPrice: number
}
/** What of the books the reading of orders needs. */
export type KnownBooks = {
	/** By customer number in upper case. */
	customers: Map<string, { id: number; currency: string }>
	items: Map<string, { description: string; unit: string; tax_code: string }>
	/** Content hash by order number in upper case. */
	orders: Map<string, string>
	/** The firm's discounts by name in lower case. */
	discounts: Map<string, NamedDiscount>
	/** The firm's own fields. */
	own: readonly OwnField[]
}

const orderFields = [
	'customer',
	'day',
	'purchaseOrder',
	'currency',
	'orderDiscount',
	'discountName',
	'freight',
	'freightPercent',
	...[1, 2, 3, 4, 5, 6].map((line) => `delivery${line}`),
]

/**
 * Turns rows into orders, one row a line, rows of one order number together. An order with a row that cannot be read is
 * refused whole, so that no part of an order is billed by itself.
 */
export function readOrders(table: Table, reading: Reading, books: KnownBooks): IntakeResult {
	const refused: RowRefusal[] = []
	const groups = new Map<string, RowValues[]>()
	for (const row of readRows(table, reading, refused, books.own)) {
		const number = row.get('order')
		if (number === '') {
			row.refuse('order', 'Every line needs its order number. Give it in the source.')
			continue
		}
		const key = number.toUpperCase()
		const rows = groups.get(key)
		if (rows) rows.push(row)
		else groups.set(key, [row])
	}
	const badRows = () => new Set(refused.map(({ row }) => row))
	const together = [...orderFields, ...books.own.filter(({ of }) => of === 'order').map(ownColumn)]
	const known: string[] = []
	const orders: IntakeOrder[] = []
	for (const [key, rows] of groups) {
		checkTogether(rows, together)
		for (const row of rows) checkRow(row, books)
		const bad = badRows()
		if (rows.some(({ row }) => bad.has(row))) {
			const first = rows.find(({ row }) => bad.has(row))
			for (const row of rows)
				if (!bad.has(row.row))
					row.refuse('order', `Order ${row.get('order')} is refused whole, because row ${first?.row} was.`)
			continue
		}
		const order = makeOrder(rows, books)
		const before = books.orders.get(key)
		if (before === undefined) orders.push(order)
		else if (before === order.contentSha256) known.push(order.number)
		else
			for (const row of rows)
				row.refuse(
					'order',
					`Order ${order.number} is in the books already with other content. Give a changed order a new number.`,
				)
	}
	refused.sort((a, b) => a.row - b.row)
	return {
		orders,
		refused,
		known,
		totals: totalsOf(orders),
		withoutPrice: orders.filter(({ lines }) => lines.some(({ unitPrice }) => unitPrice === null)).length,
	}
}

/** What belongs to the order must be the same on each of its rows. */
function checkTogether(rows: RowValues[], fields: readonly string[]): void {
	const [first, ...others] = rows
	for (const row of others) {
		for (const key of fields) {
			if (first && row.get(key).toUpperCase() !== first.get(key).toUpperCase()) {
				row.refuse(
					key,
					`Row ${first.row} of the same order says "${first.get(key)}". Make the rows agree in the source.`,
				)
			}
		}
	}
}

function checkRow(row: RowValues, books: KnownBooks): void {
	const customer = books.customers.get(row.get('customer').toUpperCase())
	if (!customer)
		row.refuse(
			'customer',
			'No customer has this number. Add the customer under Accounts, or correct the number in the source.',
		)
	if (row.raw('day') === '') row.refuse('day', 'Every order needs its date. Give it in the source.')
	if (row.raw('quantity') === '') row.refuse('quantity', 'Every line needs a quantity. Give it in the source.')
	const currency = row.get('currency').toUpperCase()
	if (currency !== '' && !isCurrency(currency))
		row.refuse('currency', 'This is not a currency code such as GBP. Correct it in the source.')
	if (row.get('unitPrice').startsWith('-'))
		row.refuse('unitPrice', 'A price cannot be below zero. For a return, make the quantity negative in the source.')
	const name = row.get('discountName')
	if (name !== '' && !books.discounts.has(name.toLowerCase()))
		row.refuse('discountName', 'No discount has this name. Add it under Items and rates, or correct it in the source.')
	if (row.get('freight') !== '' && row.get('freightPercent') !== '')
		row.refuse('freightPercent', 'Freight is an amount or a percent, not both. Leave one empty in the source.')
	for (const key of ['lineDiscount', 'orderDiscount', 'freightPercent']) {
		const percent = row.get(key)
		if (percent !== '' && !(Number(percent) >= 0 && Number(percent) <= 100))
			row.refuse(key, 'This is a percent from 0 to 100. Correct it in the source.')
	}
	for (const key of ['quantity', 'unitPrice', 'pricePer']) {
		if ((row.get(key).split('.')[1]?.length ?? 0) > 6)
			row.refuse(key, 'At most six decimals are kept. Round it in the source.')
	}
	const per = row.get('pricePer')
	if (per !== '' && !(Number(per) > 0))
		row.refuse('pricePer', 'The quantity that a price is for must be above zero. Correct it in the source.')
	if (row.get('freight').startsWith('-'))
		row.refuse('freight', 'Freight cannot be below zero. Correct it in the source.')
}

function makeOrder(rows: RowValues[], books: KnownBooks): IntakeOrder {
	const [first] = rows
	const get = (key: string) => first?.get(key) ?? ''
	const customer = books.customers.get(get('customer').toUpperCase())
	const ownOf = (of: OwnOf, row: RowValues | undefined) =>
		ownText(
			Object.fromEntries(
				books.own.filter((one) => one.of === of).map((one) => [one.key, row?.get(ownColumn(one)) ?? '']),
			),
		)
	const lines = rows.map((row): IntakeLine => {
		const code = row.get('item').toUpperCase()
		const item = books.items.get(code)
		return {
			sourceRow: row.row,
			item: code,
			description: row.get('description') || item?.description || code,
			quantity: row.get('quantity'),
			unit: row.get('unit') || item?.unit || '',
			unitPrice: row.get('unitPrice') || null,
			pricePer: row.get('pricePer') || '1',
			discountPercent: row.get('lineDiscount') || '0',
			taxCode: row.get('taxCode').toUpperCase() || item?.tax_code || '',
			own: ownOf('line', row),
		}
	})
	const order = {
		customerId: customer?.id ?? 0,
		day: get('day'),
		currency: get('currency').toUpperCase() || (customer?.currency ?? ''),
		purchaseOrder: get('purchaseOrder'),
		note: get('note'),
		discountPercent: get('orderDiscount') || '0',
		freight: get('freight'),
		lines,
	}
	const more = {
		discountLabel: get('discountName'),
		freightPercent: get('freightPercent'),
		delivery: deliveryOf(get),
		own: ownOf('order', first),
	}
	// What an order does not name is left out, so that its hash is that of before it could be named.
	const content = {
		...order,
		note: '',
		freight: order.freight || '0',
		lines: lines.map(({ sourceRow: _, own, ...line }) => (own === '{}' ? line : { ...line, own })),
		...(more.discountLabel ? { discountLabel: more.discountLabel.toLowerCase() } : {}),
		...(more.freightPercent ? { freightPercent: more.freightPercent } : {}),
		...(more.delivery ? { delivery: more.delivery } : {}),
		...(more.own === '{}' ? {} : { own: more.own }),
	}
	const named = books.discounts.get(more.discountLabel.toLowerCase())
	return {
		...order,
		...more,
		number: get('order'),
		net: orderNet(
			{
				currency: order.currency,
				discount_percent: order.discountPercent,
				freight: order.freight,
				freight_percent: more.freightPercent,
			},
			lines.map((line) => ({
				quantity: line.quantity,
				unit_price: line.unitPrice,
				price_per: line.pricePer,
				discount_percent: line.discountPercent,
			})),
			null,
			named && isDiscountOn(named, order.day, order.currency) ? [asDocumentDiscount(named)] : [],
		),
		contentSha256: hashOf(content),
		sameAs: hashOf(inOneWay(content)),
	}
}

const hashOf = (content: unknown): string => createHash('sha256').update(JSON.stringify(content)).digest('hex')

/** A content with every figure written in one way: 2.00 as 2. */
function inOneWay<Content extends { lines: object[] }>(content: Content): Content {
	const plain = (value: unknown): unknown =>
		typeof value === 'string' && /^-?\d+(\.\d+)?$/.test(value)
			? value
					.replace(/^(-?)0+(?=\d)/, '$1')
					.replace(/(\.\d*?)0+$/, '$1')
					.replace(/\.$/, '')
			: value
	const figures = ['quantity', 'unitPrice', 'pricePer', 'discountPercent', 'freight', 'freightPercent']
	const each = <Part extends object>(part: Part): Part => ({
		...part,
		...Object.fromEntries(
			Object.entries(part)
				.filter(([key]) => figures.includes(key))
				.map(([key, value]) => [key, plain(value)]),
		),
	})
	return { ...each(content), lines: content.lines.map(each) }
}

function totalsOf(orders: IntakeOrder[]): IntakeResult['totals'] {
	const totals = new Map<string, { currency: string; orders: number; lines: number; net: bigint }>()
	for (const { currency, lines, net } of orders) {
		const total = totals.get(currency) ?? { currency, orders: 0, lines: 0, net: 0n }
		totals.set(currency, {
			currency,
			orders: total.orders + 1,
			lines: total.lines + lines.length,
			net: total.net + net,
		})
	}
	return [...totals.values()].sort((a, b) => b.orders - a.orders)
}
