import { amountText, isTooMuch, minorDigits } from '@/core/currency'
import { withDecimals } from '@/core/decimal'
import { asDocumentDiscount, isDiscountOn, type NamedDiscount } from '@/core/documentDiscounts'
import { lineNet, minorOf } from '@/core/lineNet'
import { discountOf } from './orders'
import { netOf, takenOff, tiesWith } from './orderTerms'
import type { ReadLine, ReadOrder, RefuseIn } from './readOrder'
import { sha256 } from './sha256'

/** A line as the books take it: what the source does not carry is looked up; `lookedUp` names it, with commas between. */
type IntakeLine = Omit<ReadLine, 'row'> & { sourceRow: number; lookedUp: string }
export type IntakeOrder = {
	number: string
	customerId: number
	day: string
	currency: string
	purchaseOrder: string
	note: string
	discountPercent: string
	/** Of the whole order, in its currency; empty for none. */
	discountAmount: string
	/** Name of one of the firm's discounts; empty for none. */
	discountLabel: string
	/** Amount of freight; empty where the file names none. */
	freight: string
	freightPercent: string
	/** Where its goods go, a line each; empty where the file does not say. */
	delivery: string
	own: string
	lookedUp: string
	lines: IntakeLine[]
	/** Minor units: lines less discounts, and freight; a line without a price counts as nothing. */
	net: bigint
	/** Hash of what was ordered, without the order's number: equal for an order that was entered twice. */
	sameAs: string
}

type KnownItem = {
	description: string
	unit: string
	unit_price: string
	price_per: string
	currency: string
	tax_code: string
}
/** What of the books the reading of orders needs. */
export type KnownBooks = {
	/** By number, in any case. */
	customer: (number: string) => { id: number; currency: string } | undefined
	item: (code: string) => KnownItem | undefined
	discount: (label: string) => NamedDiscount | undefined
}

/**
 * Makes an order that was read one of the books: its customer found, and what it does not carry looked up (currency from the customer;
 * text, price, unit and tax from the item). What hinders that is refused.
 * @returns null when something was refused
 */
export function orderForBooks(order: ReadOrder, books: KnownBooks, refuse: RefuseIn): IntakeOrder | null {
	let refused = false
	const tell: RefuseIn = (...what) => {
		refused = true
		refuse(...what)
	}
	const customer = books.customer(order.customer)
	if (!customer) tell('customer', 'No customer has this number. Make one of it here, or correct the number.')
	const currency = order.currency || (customer?.currency ?? '')
	const named = order.discountName === '' ? undefined : books.discount(order.discountName)
	if (order.discountName !== '' && !named)
		tell('discountName', 'No discount has this name. Add it under Items and rates, or correct it here.')
	if (order.freight !== '' && order.freightPercent !== '')
		tell('freightPercent', 'Freight is an amount or a percent, not both. Leave one empty.')
	if (order.freight.startsWith('-')) tell('freight', 'Freight cannot be below zero. Correct it here.')
	for (const [key, percent] of [
		['orderDiscount', order.discountPercent],
		['freightPercent', order.freightPercent],
	] as const)
		if (percent !== '' && !(Number(percent) >= 0 && Number(percent) <= 100))
			tell(key, 'This is a percent from 0 to 100. Correct it here.')
	const discountAmount = takenOff(order)
	for (const [key, amount] of [
		['freight', order.freight],
		['orderDiscount', discountAmount],
	] as const)
		if (isFiner(amount, currency)) tell(key, finer(currency))
	if (discountAmount.startsWith('-')) tell('orderDiscount', 'A discount cannot be below zero. Correct it here.')
	const lines = order.lines.map((line, place) =>
		lineForBooks(line, currency, books, (key, why) => tell(key, why, place)),
	)
	if (refused || !customer) return null
	const made: IntakeOrder = {
		number: order.number,
		customerId: customer.id,
		day: order.day,
		currency,
		purchaseOrder: order.purchaseOrder,
		note: order.note,
		discountPercent: order.discountPercent,
		discountAmount,
		discountLabel: order.discountName,
		freight: order.freight,
		freightPercent: order.freightPercent,
		delivery: order.delivery,
		own: order.own,
		lookedUp: order.currency === '' ? 'currency' : '',
		lines,
		net: 0n,
		sameAs: '',
	}
	if (discountAmount !== '') {
		const whole = lines.reduce((sum, { net }) => sum + (net ?? 0n), 0n)
		const size = whole < 0n ? -whole : whole
		if (minorOf(discountAmount, currency) > size && lines.every(({ net }) => net !== null)) {
			tell(
				'orderDiscount',
				`The discount is more than the lines, which come to ${amountText(whole, currency)}. Correct it here.`,
			)
			return null
		}
	}
	const taken = named && isDiscountOn(named, made.day, currency) ? [asDocumentDiscount(named)] : []
	const net = netOf(made, taken)
	if (!net.ok) {
		tell('order', `It cannot be priced. ${net.refusal.message}`)
		return null
	}
	made.net = net.value
	if (isTooMuch(made.net)) {
		tell('order', tooMuch)
		return null
	}
	if (order.total !== '' && lines.every(({ net }) => net !== null) && !tiesWith(order.total, made, taken)) {
		tell(
			'orderTotal',
			`The file says that the order comes to ${order.total}, but its lines less discounts come to ${amountText(made.net, currency)}. Correct what is wrong, or empty this cell to let it stand.`,
		)
		return null
	}
	made.sameAs = sha256(contentText(made))
	// Money stands in the books with the decimals of its currency, as people write it.
	const digits = minorDigits(currency)
	made.freight = withDecimals(made.freight, digits)
	made.discountAmount = withDecimals(made.discountAmount, digits)
	for (const line of lines) {
		if (line.unitPrice !== null) line.unitPrice = withDecimals(line.unitPrice, digits)
		line.discountAmount = withDecimals(line.discountAmount, digits)
	}
	return made
}

const isFiner = (amount: string, currency: string): boolean =>
	(amount.split('.')[1] ?? '').length > minorDigits(currency)
const finer = (currency: string): string =>
	`It is finer than the smallest unit of ${currency} (${minorDigits(currency)} decimals). Round it here.`
const tooMuch = 'It comes to more than can be billed at once. Correct its quantity or its price.'

const quoted = (text: string | null): string => JSON.stringify(text)

/**
 * What was ordered, as one text; written out, since it is made a million times. What an order does not name is left out, so that its hash is
 * that of before it could be named.
 */
function contentText(order: IntakeOrder): string {
	let lines = ''
	for (const line of order.lines) {
		lines += `${lines === '' ? '' : ','}{"item":${quoted(line.item)},"description":${quoted(line.description)},"quantity":"${line.quantity}","unit":${quoted(line.unit)},"unitPrice":${quoted(line.unitPrice)},"pricePer":"${line.pricePer}","discountPercent":"${line.discountPercent}","taxCode":${quoted(line.taxCode)}`
		if (line.own !== '{}') lines += `,"own":${quoted(line.own)}`
		if (line.discountAmount !== '') lines += `,"discountAmount":"${line.discountAmount}"`
		lines += '}'
	}
	let text = `{"customerId":${order.customerId},"day":"${order.day}","currency":"${order.currency}","purchaseOrder":${quoted(order.purchaseOrder)},"note":"","discountPercent":"${order.discountPercent}","freight":"${order.freight || '0'}","lines":[${lines}]`
	if (order.discountAmount) text += `,"discountAmount":"${order.discountAmount}"`
	if (order.discountLabel) text += `,"discountLabel":${quoted(order.discountLabel.toLowerCase())}`
	if (order.freightPercent) text += `,"freightPercent":"${order.freightPercent}"`
	if (order.delivery) text += `,"delivery":${quoted(order.delivery)}`
	if (order.own !== '{}') text += `,"own":${quoted(order.own)}`
	return `${text}}`
}

function lineForBooks(
	line: ReadLine,
	currency: string,
	books: KnownBooks,
	refuse: (key: string, why: string) => void,
): IntakeLine {
	const code = line.item.toUpperCase()
	const item = code === '' ? undefined : books.item(code)
	let lookedUp = ''
	const look = (name: string, known: string | undefined): string => {
		if (known === undefined || known === '') return ''
		lookedUp += lookedUp === '' ? name : `,${name}`
		return known
	}
	if (line.unitPrice?.startsWith('-'))
		refuse('unitPrice', 'A price cannot be below zero. For a return, make the quantity negative.')
	const priced = item && item.currency === currency && item.unit_price !== '' ? item : undefined
	const unitPrice = line.unitPrice || look('price', priced?.unit_price)
	const isLookedUp = lookedUp !== ''
	const pricePer = isLookedUp ? (priced?.price_per ?? '1') : line.pricePer
	const plain = unitPrice === '' || unitPrice.startsWith('-') ? null : { quantity: line.quantity, unitPrice, pricePer }
	const net = plain && lineNet(plain, discountOf(line), currency)
	if (net !== null && isTooMuch(net)) refuse('quantity', tooMuch)
	if (isFiner(line.discountAmount, currency)) refuse('lineDiscount', finer(currency))
	if (plain && line.discountAmount !== '') {
		const gross = lineNet(plain, { form: 'percent', value: '0' }, currency)
		if (minorOf(line.discountAmount, currency) > (gross < 0n ? -gross : gross))
			refuse('lineDiscount', `The discount is more than the line, which comes to ${amountText(gross, currency)}.`)
	}
	return {
		sourceRow: line.row,
		item: code,
		description: line.description || look('text', item?.description) || code,
		quantity: line.quantity,
		unit: line.unit || look('unit', item?.unit),
		unitPrice: unitPrice || null,
		pricePer,
		discountPercent: line.discountPercent,
		discountAmount: line.discountAmount,
		taxCode: line.taxCode.toUpperCase() || look('tax', item?.tax_code),
		own: line.own,
		lookedUp,
		net,
	}
}
