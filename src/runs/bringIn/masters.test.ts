import { expect, test } from 'vitest'
import type { Books } from '@/store/books'
import { allItems, allTaxRates } from '@/store/catalogue'
import { customerByNumber } from '@/store/customers'
import { desk, firmBooks } from '../../../tests/support'
import { acceptNow, lookAt } from './atOnce'
import { fileView } from './view'

const bring = (books: Books, name: string, ...rows: string[]) =>
	lookAt(books, desk, name, Buffer.from([...rows, ''].join('\n')), { days: 'day first' })
/** What each record would do, as the clerk sees it. */
const changes = (books: Books, file: number) =>
	fileView(books, file, 1)?.records.map(({ key, standing, brief }) => [key, standing, JSON.parse(brief).changes])

test('customers of a file say field by field what changes; what it has no column for stays', async () => {
	const books = firmBooks()
	const before = customerByNumber(books, 'B1')
	const file = await bring(
		books,
		'customers.csv',
		'Customer No,Customer name,Email,Address 1,Address 2,Credit limit',
		`B1,${before?.name},new@b.example,1 Quay,Tarn,500.00`,
		'Z9,New Line,z@z.example,2 Quay,Tarn,',
		`A1,${customerByNumber(books, 'A1')?.name},,${customerByNumber(books, 'A1')?.address.split('\n').join(',')}`,
	)
	expect(changes(books, file)).toEqual([
		[
			'B1',
			'changed fields',
			[
				{ field: 'address', was: before?.address.replace(/\n/g, ', '), now: '1 Quay, Tarn' },
				{ field: 'email', was: 'nothing', now: 'new@b.example' },
				{ field: 'credit limit (smallest units)', was: 'nothing', now: '50000' },
			],
		],
		['Z9', 'added', []],
		['A1', 'changed fields', [{ field: 'email', was: customerByNumber(books, 'A1')?.email, now: 'nothing' }]],
	])
	expect(await acceptNow(books, desk, file)).toMatchObject({
		ok: true,
		words: '1 customers were added, 2 changed, 0 were the same.',
	})
	expect(customerByNumber(books, 'B1')).toMatchObject({ email: 'new@b.example', terms: before?.terms, id: before?.id })
})

test('items are called by the words of the screen; a tax code’s new rate keeps its name', async () => {
	const books = firmBooks()
	const items = await bring(
		books,
		'items.csv',
		'Item code,Description,Unit price',
		'ROPE,Mooring line,2.50',
		'NEW,Hook,1.00',
		'NONE,Eye,',
	)
	expect(changes(books, items)).toEqual([['ROPE', 'changed fields', [{ field: 'price', was: '2.10', now: '2.50' }]]])
	expect(fileView(books, items, 1)?.refused.rows.map(({ reasons }) => reasons[0]?.remedy)).toEqual([
		expect.stringContaining('A new item needs its tax code.'),
		'A new item needs its price. Give it here.',
	])
	expect(await acceptNow(books, desk, items)).toMatchObject({ ok: true })
	expect(allItems(books).find(({ code }) => code === 'ROPE')).toMatchObject({ unit_price: '2.50', unit: 'm' })
	const rates = await bring(books, 'tax.csv', 'Tax code,Rate %,Valid from', 'STD,21,01/01/2027', 'RED,5,01/01/2000')
	expect(changes(books, rates)?.map(([, standing]) => standing)).toEqual(['added', 'same'])
	expect(await acceptNow(books, desk, rates)).toMatchObject({ ok: true })
	expect(allTaxRates(books).filter(({ code }) => code === 'STD')).toMatchObject([
		{ name: 'VAT STD', rate: '21', from_day: '2027-01-01' },
		{ name: 'VAT STD', rate: '20' },
	])
})

test('the page says in which column each field stands, and of none that it has none', async () => {
	const books = firmBooks()
	const file = await bring(books, 'customers.csv', 'Customer No,Customer name,Email', 'B1,New Line,new@b.example')
	const places = new Map(fileView(books, file, 1)?.fields.map(({ key, place }) => [key, place]))
	expect(['number', 'name', 'email', 'terms'].map((key) => places.get(key))).toEqual([0, 1, 2, null])
})

test('a yes or no that is left empty stays as it is; what is neither is refused', async () => {
	const books = firmBooks()
	const name = (number: string) => customerByNumber(books, number)?.name
	const file = await bring(
		books,
		'customers.csv',
		'Customer No,Customer name,Gets statements',
		`A1,${name('A1')},`,
		`B1,${name('B1')},no`,
		`C1,${name('C1')},perhaps`,
	)
	expect(changes(books, file)).toEqual([
		['A1', 'same', []],
		['B1', 'changed fields', [expect.objectContaining({ was: '1', now: '0' })]],
	])
	expect(fileView(books, file, 1)?.refused.rows.map(({ reasons }) => reasons[0]?.remedy)).toEqual(['Write yes or no.'])
})
