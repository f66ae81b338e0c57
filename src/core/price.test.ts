import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { type PriceInput, price, pricedText } from './price'
import { working } from './working'

const taxCodes = [
	{ code: 'STD', rate: '20' },
	{ code: 'RED', rate: '5' },
	{ code: 'ODD', rate: '8.875' },
]
const decimal = (max: number, places: number) =>
	fc.integer({ min: 0, max: max * 10 ** places }).map((units) => (units / 10 ** places).toFixed(places))
const percent = decimal(50, 2).map((value) => ({ percent: value }))
const line = fc.record({
	quantity: fc.integer({ min: 1, max: 5000 }).map((units) => (units / 8).toFixed(3)),
	unitPrice: decimal(900, 4),
	taxCode: fc.constantFrom('STD', 'RED', 'ODD'),
	discounts: fc.array(percent, { maxLength: 2 }),
	discountable: fc.boolean(),
})
const document = fc.record({
	currency: fc.constantFrom('GBP', 'JPY', 'KWD'),
	taxCodes: fc.constant(taxCodes),
	lines: fc.array(line, { minLength: 1, maxLength: 8 }),
	discounts: fc.array(percent, { maxLength: 2 }),
	charges: fc.array(fc.record({ percent: decimal(20, 2), taxCode: fc.constantFrom('STD', 'RED') }), { maxLength: 2 }),
	taxRounding: fc.constantFrom('per-group' as const, 'per-line' as const),
	rounding: fc.constantFrom('half-away' as const, 'half-even' as const),
})
const figures = (input: PriceInput) => {
	const priced = price(input)
	if (!priced.ok) throw new Error(`${priced.refusal.path}: ${priced.refusal.message}`)
	return priced.value
}
const sum = (amounts: bigint[]) => amounts.reduce((total, amount) => total + amount, 0n)

describe('for every document', () => {
	test('the shares of the document discount add up to it', () => {
		fc.assert(
			fc.property(document, (input) => {
				const { lines, discountTotal } = figures(input)
				expect(sum(lines.map(({ documentDiscount }) => documentDiscount))).toBe(discountTotal)
			}),
		)
	})

	test('total = net + tax, and the tax bases add up to the net', () => {
		fc.assert(
			fc.property(document, (input) => {
				const { net, taxTotal, total, taxes } = figures(input)
				expect(total).toBe(net + taxTotal)
				expect(sum(taxes.map(({ base }) => base))).toBe(net)
				expect(sum(taxes.map(({ tax }) => tax))).toBe(taxTotal)
			}),
		)
	})

	test('prices that include tax are never moved by a penny: the total is what the lines say', () => {
		fc.assert(
			fc.property(document, (input) => {
				const { subtotal, discountTotal, chargeTotal, net, taxTotal, total } = figures({
					...input,
					pricesIncludeTax: true,
				})
				expect(total).toBe(subtotal - discountTotal + chargeTotal)
				expect(net + taxTotal).toBe(total)
			}),
		)
	})

	test('the order of its lines changes no total', () => {
		fc.assert(
			fc.property(document, (input) => {
				const forward = figures({ ...input, taxRounding: 'per-group' })
				const backward = figures({ ...input, taxRounding: 'per-group', lines: [...input.lines].reverse() })
				expect([backward.subtotal, backward.discountTotal, backward.chargeTotal]).toEqual([
					forward.subtotal,
					forward.discountTotal,
					forward.chargeTotal,
				])
				// With one rate the spare units of the discount cannot change the tax either.
				const one = input.lines.map((each) => ({ ...each, taxCode: 'STD' }))
				expect(figures({ ...input, charges: [], taxRounding: 'per-group', lines: [...one].reverse() }).total).toBe(
					figures({ ...input, charges: [], taxRounding: 'per-group', lines: one }).total,
				)
			}),
		)
	})

	test('a credit of it, with each quantity turned, is its exact negative', () => {
		fc.assert(
			fc.property(document, (input) => {
				const invoice = pricedText(figures(input))
				const credit = pricedText(
					figures({ ...input, lines: input.lines.map((each) => ({ ...each, quantity: `-${each.quantity}` })) }),
				)
				const turn = (amount: string) =>
					/^0(\.0+)?$/.test(amount) ? amount : amount.startsWith('-') ? amount.slice(1) : `-${amount}`
				expect([credit.total, credit.net, credit.taxTotal, credit.discountTotal]).toEqual(
					[invoice.total, invoice.net, invoice.taxTotal, invoice.discountTotal].map(turn),
				)
				expect(credit.lines.map(({ documentDiscount }) => documentDiscount)).toEqual(
					invoice.lines.map(({ documentDiscount }) => turn(documentDiscount)),
				)
			}),
		)
	})
})

describe('what cannot be priced is refused at its place', () => {
	const good: PriceInput = { currency: 'GBP', taxCodes, lines: [{ quantity: '1', unitPrice: '4', taxCode: 'STD' }] }
	const one = good.lines[0]
	if (!one) throw new Error('one line')
	test.each<[path: string, input: PriceInput]>([
		['currency', { ...good, currency: 'POUND' }],
		['lines.0.quantity', { ...good, lines: [{ ...one, quantity: 'ten' }] }],
		['lines.0.quantity', { ...good, lines: [{ ...one, quantity: '1.1234567' }] }],
		['lines.0.unitPrice', { ...good, lines: [{ ...one, unitPrice: '1e3' }] }],
		['lines.0.pricePer', { ...good, lines: [{ ...one, pricePer: '0' }] }],
		['lines.0.discounts.0.percent', { ...good, lines: [{ ...one, discounts: [{ percent: '101' }] }] }],
		['lines.0.discounts.0.amount', { ...good, lines: [{ ...one, discounts: [{ amount: '-1' }] }] }],
		['lines.0.discounts.0.amount', { ...good, lines: [{ ...one, discounts: [{ amount: '0.005' }] }] }],
		['discounts.0.percent', { ...good, discounts: [{ percent: '-1' }] }],
		['charges.0.taxCode', { ...good, charges: [{ amount: '1', taxCode: 'NOPE' }] }],
		['charges.0.amount', { ...good, charges: [{ amount: '-1', taxCode: 'STD' }] }],
		['taxCodes.0.rate', { ...good, taxCodes: [{ code: 'STD', rate: '120' }] }],
		['prepaid', { ...good, prepaid: 'some' }],
	])('%s', (path, input) => {
		const priced = price(input)
		expect(priced).toMatchObject({ ok: false, refusal: { path } })
	})

	test('amounts far beyond what a float holds stay exact', () => {
		const { total } = figures({
			...good,
			lines: [{ ...one, quantity: '999999999.999999', unitPrice: '999999999.999999' }],
		})
		// (10⁹ − 10⁻⁶)² is 10¹⁸ − 2,000 and a hair; in pennies, and a fifth more.
		expect(total).toBe(119_999_999_999_999_760_000n)
	})
})

test('the working of a figure is told in words and numbers', () => {
	const steps = working({
		currency: 'GBP',
		taxCodes,
		lines: [
			{
				quantity: '250',
				unitPrice: '4.85',
				pricePer: '100',
				taxCode: 'STD',
				discounts: [{ percent: '15' }, { amount: '1' }],
			},
			{ quantity: '1', unitPrice: '101', taxCode: 'RED' },
		],
		discounts: [{ percent: '2.5' }],
		charges: [{ amount: '6.50', taxCode: 'STD' }],
		prepaid: '10',
	})
	const text = (path: string) => (steps.ok ? steps.value.find((step) => step.path === path)?.text : undefined)
	expect(text('lines.0.gross')).toBe('250 × 4.85 ÷ 100 is 12.13, rounded from 12.125')
	expect(text('lines.0.discounts.0')).toBe('15% of 12.13 (the gross of the line) is 1.82, rounded from 1.8195')
	expect(text('lines.0.net')).toBe('12.13 − 2.82 is 9.31')
	expect(text('subtotal')).toBe('9.31 + 101.00: the nets of the lines')
	expect(text('lines.0.documentDiscount')).toContain('shared out in whole units')
	expect(text('taxes.1.tax')).toBe('RED: 5% of 98.47 is 4.92, rounded from 4.9235')
	expect(text('net')).toBe('110.31 lines − 2.76 discount + 6.50 charges')
	expect(text('amountDue')).toMatch(/− 10\.00 paid already$/)
	// What there is none of is not said.
	const plain = working({ currency: 'GBP', taxCodes, lines: [{ quantity: '2', unitPrice: '5', taxCode: 'RED' }] })
	expect(plain.ok && plain.value.find(({ path }) => path === 'net')?.text).toBe('10.00 lines')
})
