import { expect, test } from 'vitest'
import { blankLine, type FormLine, type OrderForm, orderFormSchema } from '@/intake/orderForm'
import { bringIn } from '@/runs/bringIn/atOnce'
import { withdrawOrder } from '@/runs/bringIn/takeBack'
import { readFile } from '@/store/files'
import { linesOf, readOrder, waitingOrders } from '@/store/orders'
import { desk, firmBooks } from '../../../tests/support'
import { lookAtForm, writeOrder } from './orderForm'
import { netOfOrder } from './orderNets'

const today = '2026-10-31'
let writing = 0
const form = (part: Partial<OrderForm>, ...lines: Partial<FormLine>[]): OrderForm =>
	orderFormSchema.parse({
		key: `writing ${++writing}`,
		day: '14/10/2026',
		customer: 'A1',
		...part,
		lines: [...lines.map((line) => ({ ...blankLine, ...line })), blankLine],
	})
const said = (given: OrderForm, books = firmBooks()) =>
	lookAtForm(books, given, today).troubles.map(({ field, line, words }) => `${field} ${line ?? ''}: ${words}`)

test('what is known is looked up, and what it comes to is what its invoice would', () => {
	const books = firmBooks()
	const seen = lookAtForm(
		books,
		form(
			{ discount: '10', freight: '5.00' },
			{ item: 'rope', quantity: '10' },
			{ description: 'Splicing', quantity: '1.5 hour', unitPrice: '40', taxCode: 'STD' },
		),
		today,
	)
	expect(seen.troubles).toEqual([])
	expect(seen.lines[0]).toMatchObject({
		description: 'Mooring line',
		unitPrice: '2.10',
		taxCode: 'STD',
		net: '21.00',
		lookedUp: expect.arrayContaining(['price', 'text', 'tax']),
	})
	expect(seen.lines[1]).toMatchObject({ unit: 'hour', net: '60.00' })
	expect(seen.totals).toMatchObject({ lines: '81.00', freight: '5.00', net: '77.90', tax: '15.58', total: '93.48' })
})

test('it waits like an order of a file, keeps what was typed, and is one order however often it is sent', async () => {
	const books = firmBooks()
	const given = form({ purchaseOrder: 'PO 7' }, { item: 'ROPE', quantity: '10' })
	const first = writeOrder(books, desk, given, today)
	expect(first).toMatchObject({ ok: true, number: 'PH-0001' })
	expect(writeOrder(books, desk, given, today)).toMatchObject({
		ok: true,
		number: 'PH-0001',
		words: expect.stringMatching(/already/),
	})
	const [order] = waitingOrders(books)
	expect(order && netOfOrder(books, order)).toBe(2100)
	expect(order).toMatchObject({ number: 'PH-0001', purchase_order: 'PO 7', looked_up: 'currency' })
	expect(linesOf(books, order?.id ?? 0)).toMatchObject([
		{ item_code: 'ROPE', source_row: 1, unit_price: '2.10', looked_up: expect.stringContaining('price') },
	])
	expect(readFile(books, order?.source_file_id ?? 0)).toMatchObject({
		state: 'accepted',
		sha256: expect.stringMatching(/^[0-9a-f]{64}$/),
	})

	// The same order in a file is the same order; another of its number is refused, from either side.
	const row = (quantity: string) =>
		Buffer.from(`Order No,Order date,Cust. No,PO ref,Item,Qty\nPH-0001,14/10/2026,A1,PO 7,ROPE,${quantity}\n`)
	await bringIn(books, desk, 'same.csv', row('10'))
	expect(waitingOrders(books)).toHaveLength(1)
	expect(said(form({ number: 'PH-0001' }, { item: 'ROPE', quantity: '11' }), books)).toEqual([
		expect.stringMatching(/^number : .*waits to be billed already/),
	])

	// A number that was given is not given again, whatever became of its order.
	withdrawOrder(books, desk, order?.id ?? 0, 'they rang again')
	expect(readOrder(books, order?.id ?? 0)?.away_how).toBe('withdrawn')
	expect(writeOrder(books, desk, form({}, { item: 'ROPE', quantity: '1' }), today)).toMatchObject({
		ok: true,
		number: 'PH-0002',
	})
	expect(writeOrder(books, desk, form({ number: 'ph-0009' }, { item: 'ROPE', quantity: '1' }), today).ok).toBe(true)
	expect(
		writeOrder(books, desk, form({ number: 'PH-99999999999999999999' }, { item: 'ROPE', quantity: '1' }), today).ok,
	).toBe(true)
	expect(lookAtForm(books, form({}), today).number).toBe('PH-0010')
})

test('what is missing or wrong is said at its field, and nothing is saved before it is mended', () => {
	const books = firmBooks()
	const given = form(
		{ customer: 'NOBODY', day: '31/02/2026', freight: '5x', currency: 'XXX' },
		{ item: 'NONE', quantity: '1', unitPrice: '2', description: 'x', taxCode: 'STD' },
		{ quantity: '1,5', unitPrice: '2' },
		{ item: 'ROPE', quantity: '2', lineDiscount: '120' },
		{ item: 'ROPE' },
		{ description: 'no price', quantity: '1' },
		{ item: 'ROPE', quantity: '1', unitPrice: '-1' },
	)
	const words = said(given, books).join('\n')
	for (const part of [
		/^customer : No customer has this number/m,
		/^day : This is no day that exists/m,
		/^freight : /m,
		/^currency : /m,
		/^quantity 1: /m,
		/^lineDiscount 2: /m,
		/^quantity 3: How many/m,
		/^unitPrice 4: A line needs a price/m,
		/^unitPrice 5: A price cannot be below zero/m,
	])
		expect(words).toMatch(part)
	expect(
		said(form({}, { item: 'NONE', quantity: '1', unitPrice: '2', description: 'x', taxCode: 'STD' }), books).join(),
	).toMatch(/^item 0: No item has this code/)
	expect(said(form({}), books)).toEqual([expect.stringMatching(/^lines : Every order needs a line/)])
	expect(writeOrder(books, desk, given, today).ok).toBe(false)
	expect(waitingOrders(books)).toEqual([])
})
