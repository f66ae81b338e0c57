import { expect, test } from 'vitest'
import { type Marks, marksSchema } from '@/intake/formats/report/marks'
import { readingSchema } from '@/intake/reading'
import { readingOfMarks } from '@/intake/tryMarks'
import { readFile } from '@/store/files'
import { allReaders } from '@/store/readers'
import { desk, firmBooks } from '../../../tests/support'
import { acceptNow, doFileJobs, lookAt } from './atOnce'
import { correctValue } from './correct'
import { changeReading, readByMarks } from './receive'
import { fileView } from './view'

const month = (first: number, price = '2.00', shift = '') =>
	Buffer.from(
		[0, 1, 2]
			.map((place) =>
				[
					`YARD LIST                         PAGE ${place + 1}`,
					`NO ${first + place}   14/10/26   CUST A1`,
					`${shift}  ROPE   LINE    ${String(10 + place).padStart(4)}  ${price.padStart(8)}`,
					`${shift}  ROPE   LINE       5      3.00`,
					`SUM        ${(Number(price) * (10 + place) + 15).toFixed(2)}`,
					'',
				].join('\n'),
			)
			.join('\f'),
	)
const at = (text: string, place: number | null) => ({ text, at: place, like: 'text' as const })
const value = (name: string, label: string, place: number, from: number, to: number | null) => ({
	names: [name],
	label: at(label, place),
	line: 0,
	lines: 1,
	from,
	to,
	whole: false,
})
const marks: Marks = marksSchema.parse({
	top: ['YARD LIST                         PAGE 1'],
	begins: at('NO', 0),
	number: 'Order number',
	need: ['Order number', 'Order date', 'Customer number'],
	values: [
		value('Order number', 'NO', 0, 2, 8),
		value('Customer number', 'CUST', 21, 4, null),
		value('Order total', 'SUM', 0, 3, null),
		{ ...value('Order date', 'NO', 0, 0, 0), label: null, from: 10, to: 18 },
	],
	rows: {
		under: null,
		after: 1,
		height: 1,
		key: ['Quantity'],
		columns: [
			{ name: 'Item', line: 0, from: 0, to: 9, wraps: false },
			{ name: 'Description', line: 0, from: 9, to: 15, wraps: true },
			{ name: 'Quantity', line: 0, from: 15, to: 21, wraps: false },
			{ name: 'Unit price', line: 0, from: 21, to: null, wraps: false },
		],
	},
})

test('a report is asked for its marks, read by them, kept as a reader, and known by it next month', async () => {
	const books = firmBooks()
	const first = await lookAt(books, desk, 'yard-october.txt', month(1001))
	const view = () => fileView(books, first, 1)
	expect(view()?.unmarked).toBe(true)
	expect((await acceptNow(books, desk, first)).ok).toBe(false)
	expect(changeReading(books, desk, first, { format: 'report', settings: { top: 7 } }).ok).toBe(false)
	// Two clerks at one page: the second is told of the first.
	const was = JSON.stringify(view()?.reading?.settings)
	expect(readByMarks(books, desk, first, was, readingOfMarks({ ...marks, need: [] }, 'orders', []))).toMatchObject({
		ok: true,
	})
	expect(readByMarks(books, desk, first, was, readingOfMarks(marks, 'orders', []))).toMatchObject({ ok: false })

	changeReading(books, desk, first, readingOfMarks(marks, 'orders', []))
	await doFileJobs(books, desk)
	expect(view()?.unmarked).toBe(false)
	expect(view()?.review?.rows).toEqual({ all: 6, taken: 6, refused: 0, left: [] })
	expect(await acceptNow(books, desk, first)).toMatchObject({ ok: true })
	expect(allReaders(books).map(({ name }) => name)).toEqual(['yard october'])

	// One order's total is wrong: that order is refused, and the others are not.
	const wrong = month(1101).toString().replace('SUM        37.00', 'SUM        73.00')
	const second = await lookAt(books, desk, 'yard-november.txt', Buffer.from(wrong))
	const seen = fileView(books, second, 1)
	expect(seen?.reader?.name).toBe('yard october')
	expect(seen?.review?.rows).toMatchObject({ all: 6, taken: 4, refused: 2 })
	expect(seen?.refused.rows[0]?.reasons[0]?.remedy).toMatch(/comes to 73, but its lines less discounts come to 37.00/)
	const { columns } = readingSchema.parse(JSON.parse(readFile(books, second)?.reading ?? ''))
	for (const { row } of seen?.refused.rows ?? [])
		correctValue(books, desk, second, { row, place: columns.orderTotal ?? 0, field: '', was: '73.00', now: '37.00' })
	await doFileJobs(books, desk)
	expect(fileView(books, second, 1)?.review?.rows).toMatchObject({ taken: 6, refused: 0 })

	// The marks were made on letters that every way of writing has; those of another month are read by its own.
	const nordic = month(1301).toString().replace(/LINE /g, 'TAU Å')
	for (const [name, bytes] of [
		['windows', Buffer.from(nordic, 'latin1')],
		['utf', Buffer.from(nordic)],
	] as const) {
		const id = await lookAt(books, desk, `yard-${name}.txt`, bytes)
		expect([name, fileView(books, id, 1)?.fields.find(({ key }) => key === 'description')?.samples[0]?.was]).toEqual([
			name,
			'TAU Å',
		])
	}

	// What is printed elsewhere now is not read by the old marks in silence.
	const moved = await lookAt(books, desk, 'yard-december.txt', month(1201, '2.00', '    '))
	expect(fileView(books, moved, 1)?.unmarked).toBe(true)
})

test('a row that a mark cuts is refused with its order, and counts once it is mended', async () => {
	const books = firmBooks()
	const torn = month(2001)
		.toString()
		.replace('  ROPE   LINE      10', '  ROPE   LINETHI   10')
		.replace('SUM        35.00', 'SUM')
	const id = await lookAt(books, desk, 'yard.txt', Buffer.from(torn))
	changeReading(books, desk, id, readingOfMarks(marks, 'orders', []))
	await doFileJobs(books, desk)
	const view = () => fileView(books, id, 1)
	expect(view()?.review?.rows).toMatchObject({ all: 6, taken: 4, refused: 2 })
	const [row] = view()?.refused.rows ?? []
	expect(row?.reasons[0]?.remedy).toMatch(/the edge of Description cuts “LINETHI”/)
	const { columns } = readingSchema.parse(JSON.parse(readFile(books, id)?.reading ?? ''))
	correctValue(books, desk, id, {
		row: row?.row ?? 0,
		place: columns.quantity ?? 0,
		field: '',
		was: row?.cells[columns.quantity ?? 0]?.value ?? '',
		now: '10',
	})
	await doFileJobs(books, desk)
	expect(view()?.review?.rows).toMatchObject({ taken: 6, refused: 0 })
})

test('a report of another kind is marked in the same way: open items in a block for each customer', async () => {
	const books = firmBooks()
	const block = (customer: string, ...rows: string[]) => [
		`ACCOUNT ${customer}`,
		'  DOCUMENT  KIND         DATED       DUE              AMOUNT        OPEN',
		...rows,
		'',
	]
	const text = [
		'DEBTORS LEDGER        PAGE 1',
		...block(
			'A1',
			'  I-100     invoice      01/09/2026  01/10/2026       120.00      120.00',
			'  I-101     invoice      13/09/2026  13/10/2026        80.00       30.00',
		),
		...block('B1', '  C-7       credit note  13/09/2026  13/09/2026        20.00       20.00'),
	].join('\n')
	const id = await lookAt(books, desk, 'debtors-2026-10-31.txt', Buffer.from(`\f${text}\n`))
	const of = marksSchema.parse({
		top: ['DEBTORS LEDGER        PAGE 1'],
		begins: at('ACCOUNT', 0),
		number: 'Customer number',
		need: ['Customer number'],
		values: [value('Customer number', 'ACCOUNT', 0, 7, null)],
		rows: {
			under: at('DOCUMENT', 2),
			after: 1,
			height: 1,
			key: ['Document number'],
			columns: [
				{ name: 'Document number', line: 0, from: 0, to: 12, wraps: false },
				{ name: 'Kind', line: 0, from: 12, to: 25, wraps: false },
				{ name: 'Document date', line: 0, from: 25, to: 37, wraps: false },
				{ name: 'Due date', line: 0, from: 37, to: 49, wraps: false },
				{ name: 'Amount', line: 0, from: 49, to: 61, wraps: false },
				{ name: 'Open amount', line: 0, from: 61, to: null, wraps: false },
			],
		},
	})
	changeReading(books, desk, id, { ...readingOfMarks(of, 'open items', []), asOf: '2026-10-31' })
	await doFileJobs(books, desk)
	const view = fileView(books, id, 1)
	expect(view?.review?.rows).toEqual({ all: 3, taken: 3, refused: 0, left: [] })
	expect(view?.review?.extract?.unsigned).toMatchObject([{ kind: 'credit', number: 'C-7', amount: '20.00' }])
	// Its credit note stands without a sign: whether the customer is owed it is asked.
	expect((await acceptNow(books, desk, id)).ok).toBe(false)
	changeReading(books, desk, id, { signs: 'by kind' })
	await doFileJobs(books, desk)
	expect(fileView(books, id, 1)?.review?.extract?.currencies).toMatchObject([
		{ currency: 'GBP', items: 3, file: 13_000 },
	])
	expect((await acceptNow(books, desk, id)).ok).toBe(true)
	const items = books.db.prepare<[], { number: string }>('SELECT number FROM ledger_item ORDER BY number').all()
	expect(items.map(({ number }) => number)).toEqual(['C-7', 'I-100', 'I-101'])
})
