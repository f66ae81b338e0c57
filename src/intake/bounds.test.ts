import { createHash } from 'node:crypto'
import { expect, test } from 'vitest'
import { type IntakeOrder, type KnownBooks, orderForBooks } from './ordersForBooks'
import type { ReadLine, ReadOrder } from './readOrder'

const plain: ReadLine = {
	...{ row: 2, item: '', description: 'Rope', quantity: '10', unit: 'm', unitPrice: '2.00', pricePer: '1' },
	...{ discountPercent: '0', discountAmount: '', taxCode: 'STD', own: '{}', net: null },
}
const order = (part: Partial<ReadOrder>, line: Partial<ReadLine> = {}): ReadOrder => ({
	...{ number: '1', day: '2026-10-05', customer: 'A1', currency: 'GBP', purchaseOrder: '', note: '', total: '' },
	...{
		discountPercent: '0',
		discountAmount: '',
		discountName: '',
		freight: '',
		freightPercent: '',
		delivery: '',
		own: '{}',
	},
	...{ lines: [{ ...plain, ...line }], rows: [2] },
	...part,
})
const half = {
	label: 'Half',
	percent: '50',
	amount: '',
	currency: '',
	from_day: '2026-01-01',
	to_day: '',
	for_all: 0,
} as const
const books: KnownBooks = {
	customer: () => ({ id: 1, currency: 'GBP' }),
	item: () => undefined,
	discount: () => half,
}
function taken(given: ReadOrder): { made: IntakeOrder | null; told: string[] } {
	const told: string[] = []
	return { made: orderForBooks(given, books, (field, why) => told.push(`${field}: ${why}`)), told }
}

// Each would be a wrong figure without a word: a net of nought, or one that a number cannot hold.
test.each([
	[
		'freight finer than a penny',
		order({ freight: '5.005' }),
		'freight: It is finer than the smallest unit of GBP (2 decimals)',
	],
	[
		'freight in part of a yen',
		order({ freight: '5.5', currency: 'JPY' }),
		'freight: It is finer than the smallest unit of JPY (0 decimals)',
	],
	['money off finer than a penny', order({ discountAmount: '0.001' }), 'orderDiscount: It is finer than'],
	['a line’s money off finer than a penny', order({}, { discountAmount: '0.333' }), 'lineDiscount: It is finer than'],
	[
		'money off beyond the order',
		order({ discountAmount: '20.01' }),
		'orderDiscount: The discount is more than the lines, which come to 20.00',
	],
	[
		'money off beyond a line',
		order({}, { discountAmount: '20.01' }),
		'lineDiscount: The discount is more than the line, which comes to 20.00',
	],
	['percents beyond the whole', order({ discountPercent: '60', discountName: 'Half' }), 'order: It cannot be priced.'],
	[
		'a line beyond what a number holds',
		order({}, { quantity: '999999999999999', unitPrice: '999999999999' }),
		'quantity: It comes to more than can be billed',
	],
	[
		'lines that are so together',
		order({ lines: [1, 2].map(() => ({ ...plain, quantity: '1', unitPrice: '6000000000000' })) }),
		'order: It comes to more than can be billed',
	],
	['freight below zero', order({ freight: '-1' }), 'freight: Freight cannot be below zero'],
	['money off below zero', order({ discountAmount: '-1.00' }), 'orderDiscount: A discount cannot be below zero'],
])('%s is refused in words', (_, given, words) => {
	const { made, told } = taken(given)
	expect(made).toBeNull()
	expect(told.join('\n')).toContain(words)
})

test('what is just within is taken, to the smallest unit', () => {
	expect(taken(order({ discountAmount: '20.00' })).made?.net).toBe(0n)
	expect(taken(order({ freight: '0.01', discountPercent: '50' })).made?.net).toBe(1001n)
	expect(taken(order({ discountPercent: '50', discountName: 'Half' })).made?.net).toBe(0n)
	expect(taken(order({}, { quantity: '-10', discountAmount: '5' })).made?.net).toBe(-1500n)
	// As taken off, where the order's own total bears it out; otherwise its total is told.
	expect(taken(order({ discountAmount: '-5.00', total: '15.00' })).made).toMatchObject({
		net: 1500n,
		discountAmount: '5.00',
	})
	expect(taken(order({ discountAmount: '-5.00', total: '25.00' })).told[0]).toMatch(
		/^orderTotal: The file says .* 25\.00/,
	)
})

test('what was ordered has the hash that it has had from the first: of its text as JSON, without what is not named', () => {
	const content = (more: object, line: object = {}) =>
		createHash('sha256')
			.update(
				JSON.stringify({
					...{ customerId: 1, day: '2026-10-05', currency: 'GBP', purchaseOrder: '', note: '', discountPercent: '0' },
					freight: '0',
					lines: [1, 2].map(() => ({
						...{ item: '', description: 'Rope', quantity: '10', unit: 'm', unitPrice: '2.00', pricePer: '1' },
						...{ discountPercent: '0', taxCode: 'STD' },
						...line,
					})),
					...more,
				}),
			)
			.digest('hex')
	const two = (part: Partial<ReadOrder>, line: Partial<ReadLine> = {}) =>
		taken(order({ lines: [1, 2].map(() => ({ ...plain, ...line })), ...part })).made?.sameAs
	expect(two({})).toBe(content({}))
	expect(two({ number: '2' })).toBe(content({}))
	expect(two({ freight: '3', delivery: 'Quay' })).toBe(content({ freight: '3', delivery: 'Quay' }))
	expect(two({ discountName: 'HALF', freightPercent: '5' })).toBe(
		content({ discountLabel: 'half', freightPercent: '5' }),
	)
	expect(two({ discountAmount: '1' }, { discountAmount: '2', own: '{"a":"b"}' })).toBe(
		content({ discountAmount: '1' }, { own: '{"a":"b"}', discountAmount: '2' }),
	)
})
