import fc from 'fast-check'
import { expect, test } from 'vitest'
import { invoice } from '../../tests/papers'
import { bringing, turnedOver } from './brought'
import { divideBill } from './divideBill'
import type { BillContent, Brought, Unpriced } from './document'
import { pricedText } from './price'
import { priceBill } from './priceBill'

const pounds = (pence: number) => (pence / 100).toFixed(2)
/** A bill of lines in pence, returns below nought, each of an order that may have an amount off. */
function billOf(lines: { pence: number; order: number }[], off: number[]): Unpriced {
	const plain = invoice(
		lines.map(({ pence }) => ({ quantity: pence < 0 ? '-1' : '1', unitPrice: pounds(Math.abs(pence)) })),
	)
	const [first] = plain.orders
	if (!first) throw new Error('no order')
	const orders = off.map((_, place) => ({ ...first, id: place + 1, number: String(place + 1) }))
	const brought = off.map(
		(pence): Brought => ({
			...{ discounts: pence === 0 ? [] : [{ label: 'Fair', amount: pounds(pence) }], charges: [], as: 'ruled' },
		}),
	)
	const own = plain.lines.map((line, place) => ({ ...line, order: lines[place]?.order ?? 0 }))
	return bringing({ ...plain, orders, lines: own, charges: [] }, brought)
}
/** What is off, with its sign; null where it has no figures. */
const offOf = (bill: Unpriced): bigint | null => {
	const priced = turnedOver(bill) ? null : priceBill(bill)
	return priced?.ok ? priced.value.discountTotal : null
}

test('what is off a bill is off its parts, to the unit and with its sign, also where returns turn a part or the whole', () => {
	const line = fc.record({ pence: fc.integer({ min: -9000, max: 9000 }), order: fc.nat(1), leaves: fc.boolean() })
	let compared = 0
	fc.assert(
		fc.property(fc.array(line, { minLength: 2, maxLength: 6 }), fc.nat(900), fc.nat(900), (given, one, two) => {
			const present = [0, 1].filter((order) => given.some((each) => each.order === order))
			const lines = given.map(({ pence, order }) => ({ pence, order: present.indexOf(order) }))
			const whole = billOf(lines, [one, two].slice(0, present.length))
			const priced = turnedOver(whole) ? null : priceBill(whole)
			if (!priced?.ok) return
			const content: BillContent = { ...whole, priced: pricedText(priced.value) }
			const gone = new Set(given.flatMap(({ leaves }, place) => (leaves ? [place] : [])))
			if (gone.size === 0 || gone.size === given.length) return
			const { stays, leaves } = divideBill(content, gone)
			const [left, right] = [offOf(stays), offOf(leaves)]
			if (left === null || right === null) return
			compared++
			expect(left + right).toBe(priced.value.discountTotal)
		}),
		{ numRuns: 2000 },
	)
	expect(compared).toBeGreaterThan(500)
})

test('an amount off an order that comes to the other side of nothing than the bill is named', () => {
	const turned = (one: number, two: number, off: number[]) =>
		turnedOver(
			billOf(
				[
					{ pence: one, order: 0 },
					{ pence: two, order: 1 },
				],
				off,
			),
		)
	expect(turned(5000, -9000, [700, 0])).toBe('1')
	expect(turned(5000, -9000, [0, 700])).toBeNull()
	expect(turned(9000, -5000, [0, 700])).toBe('2')
	expect(turned(9000, -5000, [700, 0])).toBeNull()
	expect(turned(9000, 5000, [700, 300])).toBeNull()
})
