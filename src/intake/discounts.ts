import { amountText } from '@/core/currency'
import { lineNet, minorOf } from '@/core/lineNet'
import type { OwnField } from '@/core/ownFields'
import { type SheetRow, textOf } from './cell'
import { linesIn } from './orderIndex'
import { currencyOrPound } from './orders'
import { type Decided, type DiscountForm, discountForms, type Reading } from './reading'
import { cellReader, type Placed, type Rows, shapeOf, type Value } from './rows'

type Fits = Record<DiscountForm, boolean>
const all: Fits = { percent: true, share: true, amount: true }
const onlyOne = (fits: Fits): DiscountForm | null => {
	const left = discountForms.filter((form) => fits[form])
	return left.length === 1 ? (left[0] ?? null) : null
}
/** Whether a discount does not say by a sign of its own what it is. */
const isBare = ({ text, percent, currency }: Value): boolean =>
	text !== '' && text !== '0' && !percent && currency === ''
const types = {
	quantity: 'quantity',
	unitPrice: 'amount',
	lineTotal: 'amount',
	lineDiscount: 'discount',
	pricePer: 'number',
} as const

/** The lines of a source, each with what reads a value of it and a figure of its row. */
function* eachLine(rows: Rows, reading: Reading, decided: Decided, ownFields: readonly OwnField[]) {
	const shape = shapeOf(reading, ownFields)
	const read = cellReader(decided)
	const placeOf = (placed: Placed, key: string) => placed.find(({ field }) => field.key === key)?.place
	for (const row of rows.each()) {
		if (reading.headRow !== null && row.row <= reading.headRow) continue
		for (let line = 0; line < linesIn(row, shape); line++) {
			const placed = shape.lines[shape.nested ? 0 : line] ?? []
			const at = (key: keyof typeof types) => read(shape.cell(row, line, placeOf(placed, key)), types[key])
			yield { row, line, at, read }
		}
	}
}
const currencyIn = (row: SheetRow, reading: Reading, values: Value[]): string => {
	const { currency } = reading.columns
	const own = currency === undefined ? '' : textOf(row.cells[currency] ?? '')
	return currencyOrPound((own || values.find((value) => value.currency !== '')?.currency || '').toUpperCase())
}

/**
 * What a column of discounts holds, by which form makes quantity × price less discount the line's total in every row that has one (rule 19).
 * Null where that decides nothing.
 */
export function decideDiscount(
	rows: Rows,
	reading: Reading,
	decided: Decided,
	ownFields: readonly OwnField[],
): DiscountForm | null {
	const fits = { ...all }
	let spoke = false
	for (const { row, at } of eachLine(rows, reading, decided, ownFields)) {
		const [discount, quantity, price, total] = [at('lineDiscount'), at('quantity'), at('unitPrice'), at('lineTotal')]
		if (!isBare(discount) || quantity.text === '' || price.text === '' || total.text === '') continue
		const currency = currencyIn(row, reading, [price, total])
		spoke = true
		const plain = { quantity: quantity.text, unitPrice: price.text, pricePer: at('pricePer').text || '1' }
		for (const form of discountForms) {
			const out = minorOf(total.text, currency) - lineNet(plain, { form, value: discount.text }, currency)
			if (out > 1n || out < -1n) fits[form] = false
		}
	}
	return spoke ? onlyOne(fits) : null
}

type Gathered = { lines: bigint; discount: string; total: string; currency: string }
/** So many orders tell what a discount is; what does not tie with its total is refused in any case. */
const enoughOrders = 2000

/**
 * The same for a discount of whole orders: the one form by which alone any order's lines less it are its total, of more orders than tie by
 * none (freight may be in a total, and one may be wrong; an order that does not tie is refused in any case).
 */
export function decideOrderDiscount(
	rows: Rows,
	reading: Reading,
	decided: Decided,
	ownFields: readonly OwnField[],
): DiscountForm | null {
	const { order, orderDiscount, orderTotal } = reading.columns
	if (order === undefined || orderDiscount === undefined || orderTotal === undefined) return null
	const orders = new Map<string, Gathered>()
	let number = ''
	for (const { row, line, at, read } of eachLine(rows, reading, decided, ownFields)) {
		const cell = (place: number) => row.cells[place] ?? ''
		number = textOf(cell(order)).toUpperCase() || number
		const [quantity, price] = [at('quantity'), at('unitPrice')]
		const [discount, total] = [read(cell(orderDiscount), 'discount'), read(cell(orderTotal), 'amount')]
		const currency = currencyIn(row, reading, [price, total])
		const known = orders.get(number) ?? { lines: 0n, discount: '', total: '', currency }
		if (orders.size === enoughOrders && !orders.has(number)) break
		if (line === 0 && isBare(discount)) known.discount ||= discount.text.replace('-', '')
		if (line === 0) known.total ||= total.text
		if (quantity.text !== '' && price.text !== '') {
			const less = at('lineDiscount')
			const form = less.percent ? 'percent' : less.currency !== '' ? 'amount' : (decided.discount ?? 'percent')
			const plain = { quantity: quantity.text, unitPrice: price.text, pricePer: at('pricePer').text || '1' }
			known.lines += lineNet(plain, { form, value: less.text || '0' }, known.currency)
		}
		orders.set(number, known)
	}
	const only: Record<DiscountForm, number> = { percent: 0, share: 0, amount: 0 }
	let none = 0
	for (const { lines, discount, total, currency } of orders.values()) {
		if (discount === '' || total === '') continue
		const whole = { quantity: '1', unitPrice: amountText(lines, currency), pricePer: '1' }
		const tying = discountForms.filter((form) => {
			const out = minorOf(total, currency) - lineNet(whole, { form, value: discount }, currency)
			return out <= 1n && out >= -1n
		})
		if (tying.length === 0) none++
		else if (tying.length === 1 && tying[0]) only[tying[0]]++
	}
	const spoke = discountForms.filter((form) => only[form] > 0)
	const [form] = spoke
	return form && spoke.length === 1 && only[form] > none ? form : null
}

/** Whether any discount stands in a field that does not say itself what it is. */
export function discountsSpeak(
	rows: Rows,
	reading: Reading,
	decided: Decided,
	ownFields: readonly OwnField[],
	field: 'lineDiscount' | 'orderDiscount',
): boolean {
	const place = reading.columns.orderDiscount
	for (const { row, at, read } of eachLine(rows, reading, decided, ownFields))
		if (
			isBare(
				field === 'lineDiscount' ? at(field) : read(place === undefined ? '' : (row.cells[place] ?? ''), 'discount'),
			)
		)
			return true
	return false
}
