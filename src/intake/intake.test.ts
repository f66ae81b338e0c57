import { describe, expect, test } from 'vitest'
import type { OwnField } from '@/core/ownFields'
import { readDay } from '@/core/readDay'
import { type KnownBooks, readOrders } from './orders'
import { missingFields, proposeReading } from './reading'
import { readRecords } from './records'
import { readTable, type Table } from './table'
import { findDayFormat, findDecimalMark, readDecimal } from './values'

const table = (text: string | Buffer): Table => {
	const read = readTable(Buffer.from(text))
	if (!read.ok) throw new Error(read.refusal.message)
	return read.value
}
const books: KnownBooks = {
	customers: new Map([
		['A1', { id: 7, currency: 'GBP' }],
		['N1', { id: 8, currency: 'NOK' }],
	]),
	items: new Map([['ROPE', { description: 'Mooring line', unit: 'm', tax_code: 'STD' }]]),
	orders: new Map(),
	discounts: new Map([
		[
			'fair',
			{ label: 'Fair', percent: '10', amount: '', currency: 'GBP', from_day: '2026-10-01', to_day: '', for_all: 0 },
		],
	]),
	own: [],
}
const read = (text: string, known = books) => {
	const parsed = table(text)
	return readOrders(parsed, proposeReading(parsed), known)
}
const head = 'Order No,Order date,Cust. No,Item,Qty,Unit price'

test('fields of the firm’s own come from columns of their names; an order’s rows must agree on its own', () => {
	const own: OwnField[] = [
		{ of: 'order', key: 'promised', name: 'Promised for', type: 'day' },
		{ of: 'line', key: 'batch', name: 'Batch', type: 'text' },
		{ of: 'line', key: 'weight', name: 'Weight kg', type: 'number' },
		{ of: 'item', key: 'shelf', name: 'Shelf', type: 'text' },
	]
	const known = { ...books, own }
	const rows = (more: string) => table(`${head},PROMISED FOR,batch,Weight kg,Deliver to,Delivery address 2\n${more}`)
	const parsed = rows(
		'1,31/10/2026,A1,ROPE,2,3,07/11/2026,B-7,"1.5",Slip 4,North quay\n1,31/10/2026,A1,ROPE,1,3,07/11/2026,,2,Slip 4,North quay\n',
	)
	const { orders, refused } = readOrders(parsed, proposeReading(parsed, undefined, own), known)
	expect(refused).toEqual([])
	expect(orders[0]).toMatchObject({ own: '{"promised":"2026-11-07"}', delivery: 'Slip 4\nNorth quay' })
	expect(orders[0]?.lines.map((line) => line.own)).toEqual(['{"batch":"B-7","weight":"1.5"}', '{"weight":"2"}'])
	const torn = rows(
		'1,31/10/2026,A1,ROPE,2,3,07/11/2026,,x,,\n2,31/10/2026,A1,ROPE,1,3,07/11/2026,,,A,\n2,31/10/2026,A1,ROPE,1,3,08/11/2026,,,B,\n',
	)
	const read = readOrders(torn, proposeReading(torn, undefined, own), known)
	expect(read.orders).toEqual([])
	expect(read.refused.map(({ row, column }) => `${row} ${column}`)).toEqual(
		['2 Weight kg', '4 Deliver to', '4 PROMISED FOR', '3 Order No'].sort(),
	)
	// An order without any of these has the hash that it always had.
	const plain = table(`${head}\n1,31/10/2026,A1,ROPE,2,3\n`)
	const [before] = readOrders(plain, proposeReading(plain), books).orders
	const [after] = readOrders(plain, proposeReading(plain, undefined, own), known).orders
	expect(after?.contentSha256).toBe(before?.contentSha256)
})

describe('a file as a table', () => {
	test.each([
		['commas', 'a,b\n1,"x, y"\n', ['1', 'x, y']],
		['semicolons', 'a;b\r\n1;2,5\r\n', ['1', '2,5']],
		['tabs', 'a\tb\n1\t2\n', ['1', '2']],
		['a byte order mark', '\ufeffa,b\n1,2\n', ['1', '2']],
		['Windows-1252', Buffer.from('a,b\nM\xf8rkvik,\x80 5\n', 'latin1'), ['Mørkvik', '€ 5']],
	])('with %s', (_, text, cells) => {
		expect(table(text).rows).toEqual([{ row: 2, cells }])
	})

	test('rows keep their place in the file over blank ones', () => {
		expect(table('a,b\n1,2\n\n,\n3,4\n').rows.map(({ row }) => row)).toEqual([2, 5])
	})

	test.each([
		['an empty file', '', 'empty'],
		['a picture', Buffer.from([0x89, 0x50, 0, 1]), 'not a text file'],
		['one column', 'a\n1\n', 'No columns'],
		['a stray quotation mark', 'a,b\n1,"x"y\n', 'quotation mark is out of place'],
	])('%s is refused with the remedy', (_, text, words) => {
		const result = readTable(Buffer.from(text))
		expect(result.ok ? '' : result.refusal.message).toContain(words)
	})
})

describe('values as files write them', () => {
	test.each([
		['1,240.50', '.', '1240.50'],
		['1 240,50', ',', '1240.50'],
		['1.240,5', ',', '1240.5'],
		['£12', '.', '12'],
		['12.5%', '.', '12.5'],
		['(3.00)', '.', '-3.00'],
		['3.00-', '.', '-3.00'],
		['−4', '.', '-4'],
		['1O', '.', null],
		['1,2', '.', null],
		['12,34,567', '.', null],
		['', '.', null],
	] as const)('%s with "%s" is %s', (text, mark, value) => {
		expect(readDecimal(text, mark)).toBe(value)
	})

	test.each([
		['03/10/2026', 'day first', '2026-10-03'],
		['10/03/2026', 'month first', '2026-10-03'],
		['2026-10-03', 'day first', '2026-10-03'],
		['3 Oct 26', 'day first', '2026-10-03'],
		['3.10.2026', 'day first', '2026-10-03'],
		['31/09/2026', 'day first', null],
		['yesterday', 'day first', null],
	] as const)('%s, %s, is %s', (text, format, value) => {
		expect(readDay(text, format)).toBe(value)
	})

	test('the format that all values agree with is found', () => {
		expect(findDayFormat(['03/10/2026', '13/10/2026'])).toBe('day first')
		expect(findDayFormat(['03/10/2026', '10/13/2026'])).toBe('month first')
		expect(findDecimalMark(['1.234,50', '2,5'])).toBe(',')
		expect(findDecimalMark(['1234', '2.5'])).toBe('.')
	})
})

describe('columns are matched by name, tolerantly', () => {
	test('another case, other signs and other words for the same thing', () => {
		const { kind, columns } = proposeReading(
			table('ORDER-NO;order_date;ACCOUNT;Qty.;price each\n1;2026-10-01;A1;2;3\n'),
		)
		expect(kind).toBe('orders')
		expect(columns).toMatchObject({ order: 0, day: 1, customer: 2, quantity: 3, unitPrice: 4 })
	})

	test('what is missing is named, never filled with blanks', () => {
		const reading = proposeReading(table('Order No,Customer number,Qty,Renamed\n1,A1,2,3\n'), 'orders')
		expect(missingFields(reading).map(({ label }) => label)).toEqual(['Order date', 'Unit price'])
	})

	test('a file of customers, items or tax codes is known as one', () => {
		expect(proposeReading(table('Cust. No,Customer,Email,Terms\nA1,X,,\n')).kind).toBe('customers')
		expect(proposeReading(table('Item,Description,Unit price,VAT code\nA,B,1,STD\n')).kind).toBe('items')
		expect(proposeReading(table('Code,Name,Rate %\nSTD,VAT,20\n')).kind).toBe('tax codes')
	})
})

describe('orders', () => {
	test('rows of one number make one order, with its net and what the item knows', () => {
		const { orders, refused, totals } = read(
			`${head},Disc %,Order disc %,Freight\n8801,03/10/2026,a1,rope,10,"1,000.00",10,5,6.50\n8801,03/10/2026,A1,rope,1,2.10,,5,6.50\n`,
		)
		expect(refused).toEqual([])
		expect(orders).toHaveLength(1)
		expect(orders[0]).toMatchObject({
			number: '8801',
			customerId: 7,
			day: '2026-10-03',
			currency: 'GBP',
			discountPercent: '5',
			freight: '6.50',
		})
		expect(orders[0]?.lines[0]).toMatchObject({
			sourceRow: 2,
			item: 'ROPE',
			description: 'Mooring line',
			unit: 'm',
			unitPrice: '1000.00',
			taxCode: 'STD',
		})
		// 9,000.00 + 2.10, less 5% of it (450.11), and freight.
		expect(totals).toEqual([{ currency: 'GBP', orders: 1, lines: 2, net: 855849n }])
	})

	test.each([
		['an unknown customer', '8801,03/10/2026,ZZ,ROPE,1,2', 'Cust. No', 'No customer has this number'],
		['a letter in a quantity', '8801,03/10/2026,A1,ROPE,1O,2', 'Qty', 'must be a number'],
		['a day that does not exist', '8801,31/09/2026,A1,ROPE,1,2', 'Order date', 'must be a day that exists'],
		['no order number', ',03/10/2026,A1,ROPE,1,2', 'Order No', 'needs its order number'],
		['no quantity', '8801,03/10/2026,A1,ROPE,,2', 'Qty', 'needs a quantity'],
		['a price below zero', '8801,03/10/2026,A1,ROPE,1,-2', 'Unit price', 'cannot be below zero'],
		['too many decimals', '8801,03/10/2026,A1,ROPE,1,2.1234567', 'Unit price', 'At most six decimals'],
	])('%s is refused with row, column and remedy', (_, row, column, words) => {
		const { orders, refused } = read(`${head}\n${row}\n`)
		expect(orders).toEqual([])
		expect(refused).toEqual([expect.objectContaining({ row: 2, column, remedy: expect.stringContaining(words) })])
	})

	test('an order with one bad row is refused whole, and rows that disagree about it are named', () => {
		const { orders, refused } = read(
			`${head}\n8801,03/10/2026,A1,ROPE,1,2\n8801,04/10/2026,A1,ROPE,1,2\n8802,03/10/2026,A1,ROPE,1,2\n`,
		)
		expect(orders.map(({ number }) => number)).toEqual(['8802'])
		expect(refused.map(({ row, remedy }) => [row, remedy])).toEqual([
			[2, 'Order 8801 is refused whole, because row 3 was.'],
			[3, 'Row 2 of the same order says "2026-10-03". Make the rows agree in the source.'],
		])
	})

	test('a missing price is taken in, to be stopped at the check', () => {
		const { orders, withoutPrice } = read(`${head}\n8801,03/10/2026,A1,ROPE,1,\n`)
		expect(orders[0]?.lines[0]?.unitPrice).toBeNull()
		expect(withoutPrice).toBe(1)
	})

	test('an order that is in the books is left out when it is the same, and refused when it is not', () => {
		const text = `${head}\n8801,03/10/2026,A1,ROPE,1,2\n`
		const hash = read(text).orders[0]?.contentSha256 ?? ''
		expect(read(text, { ...books, orders: new Map([['8801', hash]]) })).toMatchObject({
			orders: [],
			known: ['8801'],
			refused: [],
		})
		const changed = read(text.replace(',1,2', ',1,3'), { ...books, orders: new Map([['8801', hash]]) })
		expect(changed.refused[0]?.remedy).toContain('in the books already with other content')
	})

	test('an order entered twice under two numbers has one content', () => {
		const { orders } = read(
			`${head}\n8801,03/10/2026,A1,ROPE,1,2\n8802,03/10/2026,A1,ROPE,1,2\n8803,03/10/2026,A1,ROPE,2,2\n`,
		)
		expect(orders[0]?.contentSha256).toBe(orders[1]?.contentSha256)
		expect(orders[0]?.contentSha256).not.toBe(orders[2]?.contentSha256)
	})
})

test('customers are read with terms, grouping and limits, and a wrong one is named', () => {
	const parsed = table(
		'Cust. No,Customer,Address 1,Address 2,Currency,Terms,Invoices,Credit limit,Tax treatment\na1,Ardlow,Quay,Tarn,JPY,15th of next month,all,"9,000",exempt\nb1,B,,,,whenever,,,\n',
	)
	const { records, refused } = readRecords(parsed, proposeReading(parsed), 'GBP')
	expect(records).toEqual([
		{
			row: 2,
			fields: expect.objectContaining({
				number: 'A1',
				address: 'Quay\nTarn',
				currency: 'JPY',
				terms: 'Day 15 of next month',
				grouping: 'all',
				credit_limit: 9000,
				tax: 'exempt',
			}),
		},
	])
	expect(refused).toEqual([expect.objectContaining({ row: 3, column: 'Terms', value: 'whenever' })])
})
