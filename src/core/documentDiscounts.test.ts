import { expect, test } from 'vitest'
import { invoice } from '../../tests/support'
import { billSchema } from './document'
import { documentDiscounts, isDiscountOn, type NamedDiscount } from './documentDiscounts'
import { freightOf } from './freight'
import { compareForNumbering, type Numbering } from './numbering'

const named = (label: string, more: Partial<NamedDiscount> = {}): NamedDiscount => ({
	label,
	percent: '10',
	amount: '',
	currency: 'GBP',
	from_day: '2026-10-01',
	to_day: '2026-10-31',
	for_all: 0,
	...more,
})

test('a named discount counts from its first day to its last, an amount in its own currency alone', () => {
	const fair = named('Fair')
	const on = (day: string, currency = 'GBP', discount = fair) => isDiscountOn(discount, day, currency)
	expect(['2026-09-30', '2026-10-01', '2026-10-31', '2026-11-01'].map((day) => on(day))).toEqual([
		false,
		true,
		true,
		false,
	])
	expect(on('2030-01-01', 'GBP', named('Fair', { to_day: '' }))).toBe(true)
	expect(on('2026-10-05', 'NOK')).toBe(true)
	expect(on('2026-10-05', 'NOK', named('Fair', { percent: '', amount: '5' }))).toBe(false)
})

test('a document takes the order’s own, the one it names, the standing one, and those for every invoice', () => {
	const discounts = [named('Autumn', { for_all: 1, percent: '', amount: '5.00' }), named('Fair'), named('Staff')]
	const on = (day: string) =>
		documentDiscounts({
			day,
			currency: 'GBP',
			own: { percent: '2.5', amount: '', label: 'FAIR' },
			standing: '3',
			named: discounts,
		})
	expect(on('2026-10-31')).toEqual([
		{ label: '', percent: '2.5' },
		{ label: 'Fair', percent: '10' },
		{ label: 'Standing discount', percent: '3', standing: true },
		{ label: 'Autumn', amount: '5.00' },
	])
	expect(on('2026-11-01').map(({ label }) => label)).toEqual(['', 'Standing discount'])
})

test('freight is what the order says, none where it says 0, else the firm’s rule in the home currency', () => {
	const order = (freight: string, freight_percent = '', currency = 'GBP') => ({ freight, freight_percent, currency })
	const amount = { amount: '7.50', percent: '' }
	expect(freightOf(order('6.50'), amount, 'GBP')).toEqual({ amount: '6.50' })
	expect(freightOf(order('0'), amount, 'GBP')).toBeNull()
	expect(freightOf(order('', '4'), amount, 'GBP')).toEqual({ percent: '4' })
	expect(freightOf(order(''), amount, 'GBP')).toEqual({ amount: '7.50' })
	expect(freightOf(order('', '', 'NOK'), amount, 'GBP')).toBeNull()
	expect(freightOf(order('', '', 'NOK'), { amount: '', percent: '2' }, 'GBP')).toEqual({ percent: '2' })
	expect(freightOf(order(''), { amount: '', percent: '' }, 'GBP')).toBeNull()
})

test('documents are numbered by customer, order date or order number, 9 before 10', () => {
	const keys = [
		{ customer: 'Brack', day: '2026-10-01', order: '10' },
		{ customer: 'Ardlow', day: '2026-10-02', order: '9' },
		{ customer: 'Ardlow', day: '2026-10-03', order: '11' },
	]
	const sorted = (by: Numbering) => [...keys].sort(compareForNumbering(by)).map(({ order }) => order)
	expect(sorted('customer')).toEqual(['9', '11', '10'])
	expect(sorted('order-day')).toEqual(['10', '9', '11'])
	expect(sorted('order-number')).toEqual(['9', '10', '11'])
})

test('a document frozen before discounts had names reads as the same discounts without one', () => {
	const { discounts: _, revision: __, ...old } = invoice([{ quantity: '1', unitPrice: '10' }])
	expect(billSchema.parse({ ...old, discountPercents: ['5', '2.5'] })).toMatchObject({
		revision: 1,
		discounts: [
			{ label: '', percent: '5' },
			{ label: '', percent: '2.5' },
		],
	})
})
