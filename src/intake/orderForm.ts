import { z } from 'zod'
import { isCurrency } from '@/core/currency'
import { type OwnField, type OwnOf, ownText } from '@/core/ownFields'
import { fieldsFor, ownColumn } from './kinds'
import type { ReadLine, ReadOrder } from './readOrder'
import { cellReader, type Value } from './rows'

const text = z.string().max(2000).default('')
const ownValues = z.record(z.string(), z.string().max(2000)).default({})

const formLineSchema = z.object({
	item: text,
	description: text,
	quantity: text,
	unit: text,
	unitPrice: text,
	lineDiscount: text,
	taxCode: text,
	own: ownValues,
})
export type FormLine = z.infer<typeof formLineSchema>
/** An order as it is typed; every value as it stands. */
export const orderFormSchema = z.object({
	/** Tells one writing of the form from another, so that sending it twice makes one order. */
	key: z.string().min(8).max(60),
	/** Empty for the next number. */
	number: text,
	customer: text,
	day: text,
	purchaseOrder: text,
	currency: text,
	discount: text,
	discountName: text,
	/** An amount, or a percent where it ends with its sign. */
	freight: text,
	note: text,
	delivery: text,
	own: ownValues,
	lines: z.array(formLineSchema).max(2000),
})
export type OrderForm = z.infer<typeof orderFormSchema>

export const blankLine: FormLine = {
	item: '',
	description: '',
	quantity: '',
	unit: '',
	unitPrice: '',
	lineDiscount: '',
	taxCode: '',
	own: {},
}

/** What is wrong, or missing, at a field of the form; `line` counts all lines in view from nought, null for the order's own. */
export type FormTrouble = { field: string; line: number | null; words: string; missing: boolean }

const isBlankLine = ({ own, ...line }: FormLine): boolean =>
	[...Object.values(line), ...Object.values(own)].every((value) => value.trim() === '')

/** A discount as a form has it: a percent, or money where its currency stands with it. */
const discountOf = ({ text, currency }: Value): { discountPercent: string; discountAmount: string } =>
	currency === '' || text === '0'
		? { discountPercent: text || '0', discountAmount: '' }
		: { discountPercent: '0', discountAmount: text }

/**
 * Reads a form's values as a file's are read, but with days that begin with the day and a point before decimals, since that is what the form
 * asks for. A line that has nothing is none.
 * @returns the order with the places of its lines in the form; lines that cannot be read are left out of it, and told
 */
export function readForm(
	form: OrderForm,
	ownFields: readonly OwnField[],
): { order: ReadOrder; places: number[]; troubles: FormTrouble[] } {
	const fields = new Map(fieldsFor('orders', ownFields).map((field) => [field.key, field]))
	const read = cellReader({ days: 'day first', decimal: 'point' })
	const troubles: FormTrouble[] = []
	const tell = (field: string, line: number | null, words: string, missing = false) =>
		troubles.push({ field, line, words, missing })
	const value = (key: string, typed: string, line: number | null, as = key) => {
		const found = read(typed.trim(), fields.get(key)?.type ?? 'text')
		if (found.why !== '') tell(as, line, found.why)
		return found
	}
	const ownOf = (of: OwnOf, given: Record<string, string>, line: number | null): string =>
		ownText(
			Object.fromEntries(
				ownFields
					.filter((one) => one.of === of && one.type !== 'picture')
					.map((one) => [one.key, value(ownColumn(one), given[one.key] ?? '', line, `own ${one.key}`).text]),
			),
		)
	const currency = value('currency', form.currency, null).text.toUpperCase()
	if (currency !== '' && !isCurrency(currency)) tell('currency', null, 'This is not a currency code such as GBP.')
	const isPercent = form.freight.trim().endsWith('%')
	const freight = isPercent
		? value('freightPercent', form.freight, null, 'freight')
		: value('freight', form.freight, null)
	const day = value('day', form.day, null).text
	if (form.day.trim() === '') tell('day', null, 'Every order needs its date.', true)
	if (form.customer.trim() === '') tell('customer', null, 'Every order needs its customer.', true)
	const lines: ReadLine[] = []
	const places: number[] = []
	const said = { currency }
	/** What stands with a figure is the order's currency, and of two one is wrong. */
	const inCurrency = (field: string, line: number | null, figure: Value) => {
		if (figure.currency !== '' && said.currency !== '' && figure.currency !== said.currency)
			tell(field, line, `It is in ${figure.currency}, but the order is in ${said.currency}.`)
		said.currency ||= figure.currency
	}
	for (const [place, line] of form.lines.entries()) {
		if (isBlankLine(line)) continue
		const before = troubles.length
		const quantity = value('quantity', line.quantity, place)
		const price = value('unitPrice', line.unitPrice, place)
		const discount = value('lineDiscount', line.lineDiscount, place)
		if (line.quantity.trim() === '') tell('quantity', place, 'How many?', true)
		if (line.unitPrice.trim() === '' && line.item.trim() === '')
			tell('unitPrice', place, 'A line needs a price, or an item whose price is known.', true)
		const less = discountOf(discount)
		if (discount.text.startsWith('-') || Number(less.discountPercent) > 100)
			tell('lineDiscount', place, 'A discount is a percent from 0 to 100, or an amount with its currency.')
		inCurrency('unitPrice', place, price)
		inCurrency('lineDiscount', place, discount)
		const ownLine = ownOf('line', line.own, place)
		if (troubles.length > before) continue
		places.push(place)
		lines.push({
			row: place + 1,
			item: line.item.trim(),
			description: line.description.trim(),
			quantity: quantity.text,
			unit: line.unit.trim() || quantity.unit,
			unitPrice: price.text || null,
			pricePer: '1',
			...less,
			taxCode: line.taxCode.trim(),
			own: ownLine,
			net: null,
		})
	}
	if (form.lines.every(isBlankLine)) tell('lines', null, 'Every order needs a line.', true)
	const discount = value('orderDiscount', form.discount, null, 'discount')
	if (discount.text.startsWith('-')) tell('discount', null, 'A discount cannot be below zero.')
	inCurrency('discount', null, discount)
	inCurrency('freight', null, freight)
	const order: ReadOrder = {
		number: form.number.trim(),
		day,
		customer: form.customer.trim(),
		currency: said.currency,
		purchaseOrder: form.purchaseOrder.trim(),
		note: form.note.trim(),
		...discountOf(discount),
		discountName: form.discountName.trim(),
		freight: isPercent ? '' : freight.text,
		freightPercent: isPercent ? freight.text : '',
		total: '',
		delivery: form.delivery
			.split('\n')
			.map((one) => one.trim())
			.filter(Boolean)
			.slice(0, 6)
			.join('\n'),
		own: ownOf('order', form.own, null),
		lines,
		rows: lines.map(({ row }) => row),
	}
	return { order, places, troubles }
}
