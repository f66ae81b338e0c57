import { readFileSync } from 'node:fs'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { fieldsFor } from '../../kinds'
import { sourceOf } from '../../source'
import { tryMarks } from '../../tryMarks'
import { recognise } from '..'
import { printedSample, readPrinted, report } from '.'
import { documentReader, type ReportRow } from './documents'
import { type Printed, printedLines } from './lines'
import { markBegin, markEnd, markPass, markValue, namesFor, withNeeds } from './marking'
import { type Marks, marksSchema } from './marks'
import type { Marked, Picked } from './pointing'
import { columnsNamed, markRows } from './rowMarking'

const sample = (name: string) => sourceOf(name, readFileSync(`demo/samples/${name}`))
const fields = fieldsFor('orders', [])
const own = (made: Marked): Marks => {
	if (!made.ok) throw new Error(made.message)
	return made.marks
}
const linesOf = (text: string, control = false, pageLines = 0): Printed[] => {
	const lines: Printed[] = []
	const printed = printedLines({ control, pageLines }, (line) => lines.push(line))
	printed.write(text)
	printed.end()
	return lines
}

/** Points at things on a page as a person would: by the words that stand there. */
function marker(lines: Printed[], first: Marks) {
	let marks = first
	const at = (words: string, line = words, down = 0): Picked => {
		const place = lines.findIndex(({ text }) => text.includes(line) && text.includes(words))
		const from = lines[place]?.text.indexOf(words) ?? -1
		if (from < 0) throw new Error(`“${words}” stands nowhere.`)
		return { first: place, last: place + down, from, to: from + words.length }
	}
	const pen = {
		at,
		now: () => withNeeds(marks, fields),
		set: (next: Marks) => {
			marks = next
		},
		pass: (from: number, to: number) =>
			pen.set(own(markPass(marks, lines, { first: from, last: to, from: 0, to: 200 }))),
		begins: (words: string, line?: string) => pen.set(own(markBegin(marks, lines, at(words, line)))),
		ends: (words: string) => pen.set(own(markEnd(marks, lines, at(words)))),
		value: (label: string, words: string, line?: string, down = 0) => {
			const field = fields.find((one) => one.label === label)
			const names = field ? namesFor(field, down + 1, fields) : [label]
			pen.set(own(markValue(withNeeds(marks, fields), lines, at(words, line, down), names, !field)))
		},
		rows: (line: string, down = 0) =>
			pen.set(own(markRows(marks, lines, at(line, line, down), fields, ['description'], 'quantity'))),
		name: (from: string, to: string) => pen.set(columnsNamed(marks, from, to)),
	}
	return pen
}
const read = (lines: Printed[], marks: Marks) => {
	const rows: ReportRow[] = []
	const totals: string[] = []
	const documents = documentReader(marks, { row: (row) => rows.push(row), total: (figure) => totals.push(figure) })
	for (const line of lines) documents.line(line)
	documents.end()
	return { rows, totals, troubles: rows.flatMap(({ trouble }) => trouble || []) }
}

describe('the reports of the demo, marked as a clerk would', () => {
	it('labels, wrapped texts, orders that run over pages: all is read but the one row that is wrong', async () => {
		const marks = await report.propose(sample('tarn-billing.txt'))
		const { text, whole } = printedSample(sample('tarn-billing.txt'), marks.encoding, 1e6)
		expect(whole).toBe(true)
		const lines = linesOf(text)
		const pen = marker(lines, marks)
		pen.pass(0, 1)
		pen.begins('ORDER:')
		pen.value('Order number', '0088123')
		pen.value('Order date', '05/10/26', '0088123')
		pen.value('Customer number', 'WICK01', '0088123')
		pen.value('Deliver to', 'WICKROW DIVING', 'SHIP TO:', 2)
		pen.rows('BUOY-L2', 4)
		pen.value('Order total', '2,409.30')
		pen.value('Total of all', '464,284.85')
		const tried = tryMarks(lines, pen.now(), 'orders', [], 'GBP', 1)
		expect(tried.names.filter(({ unread }) => unread > 0)).toEqual([])
		expect([tried.documents, tried.rows, tried.ties]).toEqual([162, 582, { tie: 161, out: 0 }])
		expect(tried.misfits.map(({ place, words }) => [place.page, words.split(',')[0]])).toEqual([[16, 'Line total “1']])
		expect(tried.total).toEqual({ figure: '464284.85', sum: '464283.85', ties: false })
		expect(tried.unused.map((one) => one.text)).toContain('(CONTINUED)')
		const { rows } = read(lines, pen.now())
		expect(rows[0]?.cells).toMatchObject({
			'Order number': '0088123',
			'Deliver to': 'WICKROW DIVING',
			'Delivery address 3': 'WICKROW WR5 6DV',
			Description: 'LATERAL MARK BUOY 1.5 M, STEEL, PORT HAND',
			Quantity: '1',
			'Line total': '1,890.00',
		})
	})

	it('carriage control, values by place, rows of two lines, commas and trailing minus', async () => {
		const marks = await report.propose(sample('yard-dockets.prn'))
		expect(marks.control).toBe(true)
		const lines: Printed[] = []
		readPrinted(sample('yard-dockets.prn'), marks, (line) => lines.push(line))
		expect(lines[0]?.text).toMatch(/^NESS YARD {11}DOCKETS FOR CHARGING/)
		const pen = marker(lines, marks)
		pen.pass(0, 2)
		pen.begins('4407')
		pen.ends('*END')
		pen.value('Order number', '4407')
		pen.value('Order date', '28.10.2026', '4407')
		pen.value('Customer number', 'FLAM01', '4407')
		pen.rows('CLT-10')
		const names = ['Item', 'Quantity', 'Unit', 'Unit price', 'Line total']
		for (const [place, name] of names.entries()) pen.name(`Column ${place + 1}`, name)
		const { rows } = pen.now()
		if (rows) pen.set({ ...pen.now(), rows: { ...rows, height: 2, key: ['Quantity'] } })
		pen.value('Description', 'Mooring cleat 10 in, galvanised')
		pen.value('Total of all', '478.274,15')
		const tried = tryMarks(lines, pen.now(), 'orders', [], 'EUR', 1)
		expect([tried.documents, tried.rows, tried.misfits]).toEqual([237, 740, []])
		expect(tried.total?.ties).toBe(true)
	})
})

const page = (...lines: string[]) => lines.join('\n')
const two = page(
	'YARD LIST      PAGE 1',
	'NO 0001   CUST A1',
	'  ROPE-12   LINE 12 MM        10    2.00',
	'  ROPE-16   LINE 16 MM         5    3.00',
	'SUM            35.00',
	'NO 0002   CUST B1',
	'  ROPE-12   LINE 12 MM         7    2.00',
	'SUM            14.00',
	'',
)
function marked(text: string) {
	const lines = linesOf(text)
	const pen = marker(linesOf(two), marksSchema.parse({}))
	pen.pass(0, 0)
	pen.begins('NO')
	pen.value('Order number', '0001')
	pen.value('Customer number', 'A1', 'NO 0001')
	pen.rows('ROPE-12', 1)
	for (const [place, name] of ['Item', 'Description', 'Quantity', 'Unit price'].entries())
		pen.name(`Column ${place + 1}`, name)
	pen.value('Order total', '35.00')
	return { ...read(lines, pen.now()), lines }
}

describe('what is not as it was marked', () => {
	it('as it is, all is read', () => {
		expect(marked(two).rows.map(({ cells }) => [cells['Order number'], cells.Item, cells.Quantity])).toEqual([
			['0001', 'ROPE-12', '10'],
			['0001', 'ROPE-16', '5'],
			['0002', 'ROPE-12', '7'],
		])
		expect(marked(two).troubles).toEqual([])
	})

	it.each([
		[
			'a beginning that is printed otherwise',
			two.replace('NO 0002 ', 'Nr 0002 '),
			/stands twice and differs.*Is a beginning missed/,
		],
		[
			'a text too long for its column',
			two.replace('LINE 12 MM        10', 'LINE 12 MM, BRAIDED110'),
			/cuts “BRAIDED110”/,
		],
		[
			'a line among the rows that is none',
			two.replace('SUM            35', '  CARRIER: NORTHLINK\nSUM            35'),
			/what is none: “CARRIER: NORTHLINK”|cuts “NORTHLINK”/,
		],
		['a beginning without its number', two.replace('NO 0002   CUST', 'NO        CUST'), /there is no Order number/],
		['a number too long for its place', two.replace('0002  ', '00022 '), /cuts “00022”/],
	])('%s is told, and bills nothing in silence', (_, text, words) => {
		expect(marked(text).troubles.join(' ')).toMatch(words)
	})

	it('a head that has a line more on some page hides no row of it', () => {
		const second = '\fYARD LIST      PAGE 2\n  ROPE-16   LINE 16 MM         1    9.00\n'
		const torn = two.replace('SUM            14.00\n', `${second}SUM            23.00\n`)
		expect(marked(torn).rows.map(({ cells }) => cells['Unit price'])).toEqual(['2.00', '3.00', '2.00', '9.00'])
		const bare = torn.replace('YARD LIST      PAGE 2\n', '')
		expect(marked(bare).rows.map(({ cells }) => cells['Unit price'])).toEqual(['2.00', '3.00', '2.00', '9.00'])
	})

	it('what prints twice, goes back, tells the printer or counts pages by lines is there once', () => {
		expect(linesOf('AB\rAB  C\n\u001b&l0OX\b_Y\tZ\n').map(({ text }) => text)).toEqual(['AB  C', 'XY      Z'])
		expect(linesOf('1A\n 1\n+__\n0B\n1C\n', true).map(({ page, of, text }) => [page, of, text])).toEqual([
			[1, 1, 'A'],
			[1, 2, '1'],
			[1, 3, ''],
			[1, 4, 'B'],
			[2, 1, 'C'],
		])
		expect(linesOf('a\nb\n\nc\n', false, 2).map(({ page, text }) => [page, text])).toEqual([
			[1, 'a'],
			[1, 'b'],
			[2, 'c'],
		])
		expect(() => linesOf('x'.repeat(30_000))).toThrow(/characters/)
	})
})

/** Orders at random, printed at random; a model apart from the reading. */
const word = fc.stringMatching(/^[A-Z]{2,9}$/)
const line = fc.record({
	item: fc.stringMatching(/^[A-Z]{3}-[0-9]{2}$/),
	text: fc.array(word, { minLength: 1, maxLength: 7 }),
	quantity: fc.integer({ min: -99, max: 9999 }),
	cents: fc.integer({ min: 1, max: 999_999 }),
})
const orders = fc.uniqueArray(
	fc.record({
		number: fc.integer({ min: 10_000, max: 99_999 }),
		customer: fc.stringMatching(/^[A-Z]{4}0[1-9]$/),
		lines: fc.array(line, { minLength: 1, maxLength: 14 }),
	}),
	{ selector: ({ number }) => number, minLength: 1, maxLength: 12 },
)
const style = fc.record({
	length: fc.integer({ min: 12, max: 40 }),
	pages: fc.constantFrom('feed', 'control', 'lines'),
	/** Whether an order's beginning is printed again on the next page. */
	again: fc.boolean(),
	heads: fc.boolean(),
	returns: fc.boolean(),
})
const money = (cents: number) => (cents / 100).toFixed(2)

function print(
	list: typeof orders extends fc.Arbitrary<infer T> ? T : never,
	how: typeof style extends fc.Arbitrary<infer T> ? T : never,
) {
	const pages: string[][] = []
	const fresh = (order?: string[]) => {
		pages.push([
			`SKARVIK STORES                         LISTING                PAGE ${String(pages.length + 1).padStart(3)}`,
		])
		if (order && how.again) put(order)
	}
	const put = (lines: string[]) => pages.at(-1)?.push(...lines)
	const room = (need: number, order?: string[]) => {
		if ((pages.at(-1)?.length ?? 0) + need > how.length) fresh(order)
	}
	fresh()
	for (const { number, customer, lines } of list) {
		const head = [`ORDER ${number}          ACCOUNT ${customer}`]
		if (how.heads) head.push('CODE      WHAT IT IS                     QTY       PRICE')
		room(head.length + 3)
		put(head)
		for (const { item, text, quantity, cents } of lines) {
			const wrapped: string[] = ['']
			for (const one of text) {
				const last = wrapped.at(-1) ?? ''
				if (`${last} ${one}`.length > 26) wrapped.push(one)
				else wrapped[wrapped.length - 1] = `${last} ${one}`.trim()
			}
			const shown = quantity < 0 ? `${-quantity}-` : `${quantity} `
			room(wrapped.length, head)
			put([`${item}    ${(wrapped[0] ?? '').padEnd(28)} ${shown.padStart(6)} ${money(cents).padStart(11)}`])
			put(wrapped.slice(1).map((more) => `          ${more}`))
		}
		room(1, head)
		put(['------'])
	}
	const end = how.returns ? '\r\n' : '\n'
	if (how.pages === 'control')
		return pages.map((lines) => lines.map((text, place) => `${place === 0 ? '1' : ' '}${text}${end}`).join('')).join('')
	if (how.pages === 'lines')
		return pages
			.map((lines) => [...lines, ...Array(how.length + 4 - lines.length).fill('')].map((text) => text + end).join(''))
			.join('')
	return pages.map((lines) => lines.map((text) => text + end).join('')).join('\f')
}

it('orders printed in whatever way are read as they were, or it is told what does not fit', () => {
	const runs = Number(process.env.RUNS ?? 150)
	fc.assert(
		fc.property(orders, style, (list, how) => {
			const text = print(list, how)
			const lines = linesOf(text, how.pages === 'control', how.pages === 'lines' ? how.length + 4 : 0)
			const pen = marker(lines, marksSchema.parse({}))
			const [first] = list
			if (!first) return
			pen.pass(0, 0)
			pen.begins('ORDER')
			pen.value('Order number', String(first.number), `ORDER ${first.number}`)
			pen.value('Customer number', first.customer, `ORDER ${first.number}`)
			const marks: Marks = {
				...pen.now(),
				rows: {
					under: how.heads ? { text: 'CODE', at: 0, like: 'text' } : null,
					after: 1,
					height: 1,
					key: ['Quantity'],
					columns: [
						{ name: 'Item', line: 0, from: 0, to: 10, wraps: false },
						{ name: 'Description', line: 0, from: 10, to: 39, wraps: true },
						{ name: 'Quantity', line: 0, from: 39, to: 46, wraps: false },
						{ name: 'Unit price', line: 0, from: 46, to: null, wraps: false },
					],
				},
			}
			const { rows, troubles } = read(lines, marks)
			expect(troubles).toEqual([])
			expect(
				rows.map(({ cells }) => [
					cells['Order number'],
					cells['Customer number'],
					cells.Item,
					cells.Description,
					cells.Quantity,
					cells['Unit price'],
				]),
			).toEqual(
				list.flatMap(({ number, customer, lines: own }) =>
					own.map(({ item, text: words, quantity, cents }) => [
						String(number),
						customer,
						item,
						words.join(' '),
						quantity < 0 ? `${-quantity}-` : String(quantity),
						money(cents),
					]),
				),
			)
		}),
		{ numRuns: runs },
	)
})

it('of a report in which one line is lost, doubled, moved or torn, no order is read otherwise in silence', () => {
	type Plain = { number: number; customer: string; lines: { item: string; quantity: number; cents: number }[] }
	const printPlain = (list: Plain[], per: number): string[] => {
		const pages: string[][] = []
		const put = (text: string) => {
			if ((pages.at(-1)?.length ?? per) >= per)
				pages.push([
					`${pages.length > 0 ? '\f' : ''}YARD LISTING      PAGE ${String(pages.length + 1).padStart(3)}`,
					'',
				])
			pages.at(-1)?.push(text)
		}
		for (const { number, customer, lines } of list) {
			put(`ORDER ${number}          ACCOUNT ${customer}`)
			put('CODE         QTY       PRICE')
			for (const { item, quantity, cents } of lines)
				put(`${item}    ${String(quantity).padStart(6)} ${money(cents).padStart(11)}`)
			put(`TOTAL     ${money(lines.reduce((sum, one) => sum + one.quantity * one.cents, 0)).padStart(12)}`)
		}
		return pages.flat()
	}
	const value = (name: string, label: string, at: number, from: number, to: number | null) => ({
		...{ names: [name], label: { text: label, at, like: 'text' as const } },
		...{ line: 0, lines: 1, from, to, whole: false },
	})
	const marks = marksSchema.parse({
		top: ['YARD LISTING      PAGE   1'],
		begins: { text: 'ORDER', at: 0, like: 'text' },
		number: 'Order number',
		need: ['Order number', 'Customer number'],
		values: [
			value('Order number', 'ORDER', 0, 5, 13),
			value('Customer number', 'ACCOUNT', 21, 7, null),
			value('Order total', 'TOTAL', 0, 5, null),
		],
		rows: {
			...{ under: { text: 'CODE', at: 0, like: 'text' }, after: 1, height: 1, key: ['Quantity'] },
			columns: [
				{ name: 'Item', line: 0, from: 0, to: 10, wraps: false },
				{ name: 'Quantity', line: 0, from: 10, to: 17, wraps: false },
				{ name: 'Unit price', line: 0, from: 17, to: null, wraps: false },
			],
		},
	})
	const plain = orders.map((list) =>
		list.map(({ number, customer, lines }) => ({
			number,
			customer,
			lines: lines.map(({ item, quantity, cents }) => ({ item, quantity: Math.abs(quantity) + 1, cents })),
		})),
	)
	const damage = fc.record({
		how: fc.constantFrom('lost', 'doubled', 'right', 'left', 'swapped', 'joined'),
		at: fc.nat(500),
	})
	fc.assert(
		fc.property(plain, fc.integer({ min: 8, max: 30 }), damage, (list, per, { how, at }) => {
			const lines = printPlain(list, per)
			const place = at % lines.length
			const [own = '', next = ''] = lines.slice(place, place + 2)
			if (how === 'lost') lines.splice(place, 1)
			if (how === 'doubled') lines.splice(place, 0, own.replace('\f', ''))
			if (how === 'right') lines[place] = ` ${own}`
			if (how === 'left') lines[place] = own.slice(1)
			if (how === 'swapped' && place + 1 < lines.length) lines.splice(place, 2, next, own)
			if (how === 'joined' && place + 1 < lines.length) lines.splice(place, 2, own + next)
			const printed = linesOf(lines.join('\n'))
			if (tryMarks(printed, marks, 'orders', [], 'GBP', 1).misfits.length > 0) return
			const said = (rows: { number: string; customer: string; item: string; quantity: string; price: string }[]) =>
				rows.map((row) => Object.values(row).join(' ')).sort()
			const wanted = list.flatMap(({ number, customer, lines: rows }) =>
				rows.map(({ item, quantity, cents }) => ({
					...{ number: String(number), customer, item },
					...{ quantity: String(quantity), price: money(cents) },
				})),
			)
			const got = read(printed, marks).rows.map(({ cells }) => ({
				...{ number: cells['Order number'] ?? '', customer: cells['Customer number'] ?? '', item: cells.Item ?? '' },
				...{ quantity: cells.Quantity ?? '', price: cells['Unit price'] ?? '' },
			}))
			expect([how, own, said(got)]).toEqual([how, own, said(wanted)])
		}),
		{ numRuns: Number(process.env.RUNS ?? 200) },
	)
})

it('a row whose second line is lost does not take the next row’s first for it', () => {
	const rows = {
		...{ under: null, after: 0, height: 2, key: ['Quantity'] },
		columns: [
			{ name: 'Item', line: 0, from: 0, to: 8, wraps: false },
			{ name: 'Quantity', line: 0, from: 8, to: 14, wraps: false },
			{ name: 'Unit price', line: 0, from: 14, to: null, wraps: false },
			{ name: 'Description', line: 1, from: 0, to: null, wraps: false },
		],
	}
	const text = 'AB-1    5     2.00\nRope, 12 mm, blue\nAB-2    7     3.00\nRope 1 2 3 4\n'
	expect(read(linesOf(text), marksSchema.parse({ rows })).troubles).toEqual([])
	const lost = read(linesOf(text.replace('Rope, 12 mm, blue\n', '')), marksSchema.parse({ rows }))
	expect(lost.troubles.join(' ')).toMatch(/what looks like a row, where the one above goes on: “AB-2 7 3.00”/)
})

it('rows without documents go on through a report of any length', () => {
	const many = 12_345
	const text = Array.from({ length: many }, (_, row) =>
		row % 50 === 0 ? `${row > 0 ? '\f' : ''}LIST\nI-${row}      ${row + 1}` : `I-${row}      ${row + 1}`,
	).join('\n')
	const { rows, troubles } = read(
		linesOf(text),
		marksSchema.parse({
			top: ['LIST'],
			rows: {
				under: null,
				after: 0,
				height: 1,
				key: ['Quantity'],
				columns: [
					{ name: 'Item', line: 0, from: 0, to: 9, wraps: false },
					{ name: 'Quantity', line: 0, from: 9, to: null, wraps: false },
				],
			},
		}),
	)
	expect(troubles).toEqual([])
	expect(rows.map(({ cells }) => cells.Item)).toEqual(Array.from({ length: many }, (_, row) => `I-${row}`))
})

it('is known by how it is printed; a table is not', () => {
	const found = recognise(sample('tarn-billing.txt'))
	expect(found.ok && found.value.name).toBe('report')
	const table = recognise(sourceOf('a.csv', Buffer.from('Order,Qty\n1,2\n2,3\n3,4\n4,5\n5,6\n6,7\n')))
	expect(table.ok && table.value.name).toBe('csv')
	const fed = recognise(sourceOf('b.csv', Buffer.from('Order;Qty;Note\n1;2;a\fb\n\f2;3;\n3;4;\n')))
	expect(fed.ok && fed.value.name).toBe('csv')
})
