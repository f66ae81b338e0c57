import fc from 'fast-check'
import { expect, test } from 'vitest'
import { sourceOf } from '@/archive/source'
import type { SheetRow } from './cell'
import { proposeReading, readSource } from './look'
import { takeOrders } from './orders'
import type { Reading } from './reading'
import type { ReadOrder } from './readOrder'
import { rowsOf } from './rows'
import { settled } from './settled'

/** Reads a table as the page would, with what a person answered. */
async function read(table: string[][], answer: Partial<Reading> = {}) {
	const kept: SheetRow[] = []
	const text = table.map((row) => row.join(';')).join('\n')
	const look = await readSource(sourceOf('x.csv', Buffer.from(text)), { add: (row) => kept.push(row) })
	if (!look.ok) throw new Error(look.refusal.message)
	const rows = rowsOf(kept)
	const reading = { ...proposeReading(look.value, [], 'orders').reading, ...answer }
	const decided = settled(rows, reading, look.value.evidence, [])
	let orders: ReadOrder[] = []
	let refused: string[] = []
	let places: (number | null)[] = []
	takeOrders(rows, reading, decided, [], () => {
		orders = []
		refused = []
		places = []
		return {
			order: (order) => orders.push(order),
			refuse: ({ row, column, place, remedy }) => {
				refused.push(`${row} ${column}: ${remedy}`)
				places.push(place)
			},
			left: () => {},
			refusedLines: () => {},
			sourceTotal: () => {},
		}
	})
	const off = orders.map(({ discountPercent, discountAmount }) => discountAmount || `${discountPercent}%`)
	return { questions: decided.questions.map(({ name }) => name), off, refused, places, orders }
}

const head = ['Order No', 'Order date', 'Customer number', 'Item', 'Qty', 'Unit price']
const row = (number: string, price: string, ...more: string[]) => [
	number,
	'2026-10-05',
	'C1',
	'P1',
	'1',
	price,
	...more,
]

test('what a discount of an order is stands with it, or in the head, or it is asked; it is never taken for a percent', async () => {
	const bare = [[...head, 'Order discount'], row('1', '80.00', '25.00'), row('2', '80.00', '')]
	expect((await read(bare)).questions).toEqual(['orderDiscount'])
	expect((await read(bare, { orderDiscount: 'amount' })).off).toEqual(['25', '0%'])
	expect((await read(bare, { orderDiscount: 'percent' })).off).toEqual(['25%', '0%'])
	const signed = [
		[...head, 'Order discount'],
		row('1', '80.00', '£25.00'),
		row('2', '80.00', '5%'),
		row('3', '80.00', '0'),
	]
	expect(await read(signed)).toMatchObject({
		questions: [],
		off: ['25', '5%', '0%'],
		orders: [{ currency: 'GBP' }, {}, {}],
	})
	const inHead = [[...head, 'Order discount %'], row('1', '80.00', '25'), row('2', '80.00', '£25.00')]
	expect(await read(inHead)).toMatchObject({
		off: ['25%'],
		refused: ['3 Order discount %: Its column holds percents, but this is money. Correct it here.'],
	})
	const twoMinds = [[...head, 'Order discount'], row('1', '80.00', '5%'), row('1', '10.00', '£5.00')]
	expect((await read(twoMinds)).refused[0]).toMatch(/^3 Order discount: Row 2 of the same order says “5%”/)
})

test('a sign of money says of a line’s discount what it is, and stands in no percent', async () => {
	const lines = [
		[...head, 'Discount', 'Freight %'],
		row('1', '80.00', '£25.00', ''),
		row('2', '80.00', '5%', 'EUR 3.00'),
	]
	const { orders, refused, questions } = await read(lines)
	expect(questions).toEqual([])
	expect(orders.map((order) => order.lines[0])).toMatchObject([
		{ discountAmount: '25', discountPercent: '0', net: 5500n },
	])
	expect(refused).toEqual(['3 Freight %: A currency does not belong here.'])
})

type Form = 'percent' | 'share' | 'amount'
const order = fc.record({
	pence: fc.array(fc.integer({ min: 100, max: 90_000 }), { minLength: 1, maxLength: 4 }),
	/** In hundredths of a percent, or pence. */
	discount: fc.integer({ min: 0, max: 95 }),
})
const shown = (hundredths: number): string =>
	`${Math.floor(hundredths / 100)}.${String(hundredths % 100).padStart(2, '0')}`

test('by the totals of orders it is found what their discount is, and no other is taken; without totals it is asked', async () => {
	let told = 0
	await fc.assert(
		fc.asyncProperty(
			fc.array(order, { minLength: 1, maxLength: 8 }),
			fc.constantFrom<Form>('percent', 'share', 'amount'),
			fc.boolean(),
			async (orders, form, carried) => {
				const written = orders.map(({ pence, discount }, place) => {
					const sum = pence.reduce((all, one) => all + one, 0)
					// Half a penny and more counts as a whole one.
					const off = form === 'amount' ? discount : Math.floor((sum * discount * 2 + 100) / 200)
					const value = form === 'percent' ? String(discount) : shown(discount)
					return pence.map((one, line) =>
						row(String(place + 1), shown(one), ...(carried && line > 0 ? ['', ''] : [value, shown(sum - off)])),
					)
				})
				const table = [[...head, 'Order discount', 'Order total'], ...written.flat()]
				const wanted = orders.map(({ discount }) =>
					form === 'amount' && discount > 0 ? String(Number(shown(discount))) : `${form === 'amount' ? 0 : discount}%`,
				)
				const { questions, off, refused } = await read(table)
				expect(refused).toEqual([])
				if (questions.length === 0) {
					expect(off).toEqual(wanted)
					told++
				}
				const without = await read(table.map((one) => one.slice(0, -1)))
				expect(without.questions).toEqual(orders.some(({ discount }) => discount > 0) ? ['orderDiscount'] : [])
			},
		),
		{ numRuns: 150 },
	)
	expect(told).toBeGreaterThan(100)
})

test('what stands above the head, or says itself what it is, does not tell what the discounts are', async () => {
	const named = [...head, 'Discount', 'Line total']
	const bare = row('1', '80.00', '25.00', '')
	// Above the head, 10 off 100 that comes to 90: a percent, and money too.
	const above = ['', '', '', '', '1', '200.00', '10.00', '190.00']
	expect((await read([above, named, bare], { headRow: 2 })).questions).toEqual(['discount'])
	expect((await read([named, above, bare], { headRow: 1 })).questions).toEqual([])
	// 5% of one order ties with its total as a percent; the bare 25.00 of the other is still asked about.
	const orders = [
		[...head, 'Order discount', 'Order total'],
		row('1', '80.00', '25.00', ''),
		row('2', '80.00', '5%', '76.00'),
	]
	expect((await read(orders)).questions).toEqual(['orderDiscount'])
})

test('an order without a customer or a day is told so once; one that cannot be read says why, and no more', async () => {
	const without = [head, ['1', '2026-10-05', '', 'P1', '1', '80.00'], ['2', '', 'C1', 'P1', '1', '80.00']]
	expect((await read(without)).refused).toEqual([
		'2 Customer number: Every order needs the number of its customer. Give it here.',
		'3 Order date: Every order needs its date. Give it here.',
	])
	// Of an order of several rows, one that says it is enough.
	expect((await read([head, ['1', '2026-10-05', '', 'P1', '1', '80.00'], row('1', '5.00')])).refused).toEqual([])
	const unread = [head, ['1', '2026-10-05', 'C\uFFFD', 'P1', '1', '80.00'], ['2', 'soon', 'C1', 'P1', '1', '80.00']]
	const { refused, places } = await read(unread)
	expect(places).toEqual([2, 1])
	expect(refused).toEqual([
		expect.stringMatching(/^2 Customer number: A letter/),
		expect.stringMatching(/^3 Order date: This is no day/),
	])
	const twice = [...unread, ['1', '2026-10-05', '', 'P1', '1', '80.00']]
	expect((await read(twice)).refused.filter((one) => one.includes('needs the number'))).toEqual([])
})

test('more cells than the head has names are refused in their row', async () => {
	const { refused, orders } = await read([head, row('1', '80.00', 'left over'), row('2', '80.00')])
	expect(refused).toEqual([expect.stringMatching(/^2 column 7: The row has more cells than the head/)])
	expect(orders.map(({ number }) => number)).toEqual(['2'])
})
