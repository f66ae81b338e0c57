import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { sourceOf } from '@/archive/source'
import { linesOf, marker, readAll } from '../../../../tests/printed'
import { mostSaid, tryMarks } from '../../tryMarks'
import { recognise } from '..'
import { printedSample, readPrinted, report } from '.'
import type { Printed } from './lines'
import { markPass } from './marking'
import { isMarked, marksSchema } from './marks'
import { labelBefore } from './propose'
import { tableMarks } from './rowMarking'

const sample = (name: string) => sourceOf(name, readFileSync(`demo/samples/${name}`))

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
		const { rows } = readAll(lines, pen.now())
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
	return { ...readAll(lines, pen.now()), lines }
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
	expect(readAll(linesOf(text), marksSchema.parse({ rows })).troubles).toEqual([])
	const lost = readAll(linesOf(text.replace('Rope, 12 mm, blue\n', '')), marksSchema.parse({ rows }))
	expect(lost.troubles.join(' ')).toMatch(/what looks like a row, where the one above goes on: “AB-2 7 3.00”/)
})

it('rows without documents go on through a report of any length', () => {
	const many = 12_345
	const text = Array.from({ length: many }, (_, row) =>
		row % 50 === 0 ? `${row > 0 ? '\f' : ''}LIST\nI-${row}      ${row + 1}` : `I-${row}      ${row + 1}`,
	).join('\n')
	const { rows, troubles } = readAll(
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

it('a report in the letters of DOS with drawn frames is read by its words', async () => {
	const bytes = Buffer.from(
		[
			'ORDRE 1001    KUNDE A1    DATO 05.10.2026',
			'\xda\xc4\xc4\xc4\xc4\xc4\xc2\xc4\xc4\xc4\xc4\xc4\xc4\xc4\xc4\xc2\xc4\xc4\xc4\xc4\xbf',
			'\xb3TAU  \xb3 GR\x9dNN  \xb3  10\xb3',
			'\xb3KJET \xb3 BL\x8fTT  \xb3   2\xb3',
			'\xc0\xc4\xc4\xc4\xc4\xc4\xc1\xc4\xc4\xc4\xc4\xc4\xc4\xc4\xc4\xc1\xc4\xc4\xc4\xc4\xd9',
			'',
		].join('\n'),
		'latin1',
	)
	const { encoding } = await report.propose(sourceOf('x.prn', bytes))
	expect(encoding).toBe('Code page 850')
	expect(linesOf(printedSample(sourceOf('x.prn', bytes), encoding, 1000).text).map(({ text }) => text)).toEqual([
		'ORDRE 1001    KUNDE A1    DATO 05.10.2026',
		' ----- -------- ----',
		' TAU    GRØNN     10',
		' KJET   BLÅTT      2',
		' ----- -------- ----',
	])
})

it('what a report takes off an order in money is found by the order’s total, and ties at once', () => {
	const page = (number: number, off: string, total: string) =>
		`ORDER ${number}    ACCOUNT A1    DATE 2026-10-05\nCODE       QTY      PRICE\nROPE-24     10      10.00\nCHN-13       2      25.50\n${off === '' ? '' : `DISC    ${off}\n`}SUM    ${total}\n\n`
	const lines = linesOf(
		`${page(1001, '5.00-', '146.00')}${page(1002, '', '151.00')}${page(1003, '7.50-', '142.50')}${page(1004, '1.25-', '149.75')}`,
	)
	const pen = marker(lines, marksSchema.parse({}))
	pen.begins('ORDER', 'ORDER 1001')
	pen.value('Order number', '1001')
	pen.value('Customer number', 'A1', 'ORDER 1001')
	pen.value('Order date', '2026-10-05', 'ORDER 1001')
	pen.rows('ROPE-24')
	pen.value('Order discount', '5.00-', 'DISC    5.00-')
	pen.value('Order total', '146.00', 'SUM    146.00')
	const { ties, misfits } = tryMarks(lines, pen.now(), 'orders', [], 'GBP', 1)
	// One says 142.50, and comes to 143.50.
	expect(ties).toEqual({ tie: 3, out: 1 })
	expect(misfits.map(({ words }) => words).join(' ')).toMatch(/Order 1003 says that it comes to 142.5; .*143.50/)
})

const table = page(
	'TARN YARD                  LIST',
	'',
	'Order number  Order date  Customer number  Item      Quantity  Unit price',
	'------------  ----------  ---------------  --------  --------  ----------',
	'',
	'1001          2026-10-05  A1               ROPE-24         10        2.00',
	'',
	'1002          2026-10-06  A2               CHN-13           2       25.50',
	'1003          2026-10-06  A3               CLT-10           1        9.00',
	'',
)
it('a table under a line of names marks itself, whatever blank or passed lines stand between; what is no table does not', () => {
	const lines = linesOf(table)
	const pass = [{ text: '------------', at: 0, like: 'text' as const }]
	const marks = tableMarks(marksSchema.parse({ pass }), lines)
	if (!marks) throw new Error('not marked')
	const { rows, troubles } = readAll(lines, marks)
	expect(troubles).toEqual([])
	expect(
		rows.map(({ cells }) => [cells['Order number'], cells['Customer number'], cells.Quantity, cells['Unit price']]),
	).toEqual([
		['1001', 'A1', '10', '2.00'],
		['1002', 'A2', '2', '25.50'],
		['1003', 'A3', '1', '9.00'],
	])
	// So it does without any blank line.
	const dense = linesOf(table.replace(/\n+/g, '\n'))
	expect(tableMarks(marksSchema.parse({ pass }), dense)?.rows?.columns).toEqual(marks.rows?.columns)
	// One row alone tells no columns; without a name that a kind needs, it is no table of that kind.
	const some = (count: number) => lines.slice(0, lines.findIndex(({ text }) => text.startsWith(`100${count}`)) + 1)
	expect(tableMarks(marksSchema.parse({ pass }), some(1))).toBeNull()
	expect(tableMarks(marksSchema.parse({ pass }), some(2))).not.toBeNull()
	expect(
		tableMarks(marksSchema.parse({}), linesOf(table.replace('Item      Quantity', 'Berth     Depth   '))),
	).toBeNull()
	expect(tableMarks(marksSchema.parse({}), linesOf('A LETTER\n\nDear Sir,\nthe Item you want is sold.\n'))).toBeNull()
})

it('something is marked where rows are, or documents with a value of their own', () => {
	const value = (whole: boolean) => ({ names: ['Total'], label: null, line: 0, lines: 1, from: 0, to: null, whole })
	const begins = { text: 'ORDER', at: 0, like: 'text' }
	const rows = {
		under: null,
		after: 0,
		height: 1,
		key: [],
		columns: [{ name: 'Item', line: 0, from: 0, to: null, wraps: false }],
	}
	const is = (more: object) => isMarked(marksSchema.parse(more))
	expect([is({}), is({ begins }), is({ values: [value(false)] })]).toEqual([false, false, false])
	expect([is({ begins, values: [value(true)] }), is({ begins, values: [value(true), value(false)] })]).toEqual([
		false,
		true,
	])
	expect([is({ rows }), is({ rows, begins, values: [value(true)] })]).toEqual([true, true])
})

it('the head of a page that is passed over is that page’s alone', () => {
	const lines = linesOf('LIST 1\nHEAD\nrow 1\n\fLIST 2\nHEAD\nrow 2\n')
	const passed = (first: number, last: number) => {
		const made = markPass(marksSchema.parse({}), lines, { first, last, from: 0, to: 200 })
		return made.ok ? made.marks.top : made.message
	}
	expect(passed(0, 1)).toEqual(['LIST 1', 'HEAD'])
	expect(passed(3, 4)).toEqual(['LIST 2', 'HEAD'])
})

it('a label is words: no rule, no figure, no piece without a letter', () => {
	const before = (text: string) => labelBefore(text, text.length)?.text ?? null
	expect(before('DATE: ')).toBe('DATE:')
	expect(before('Yard 7  DATE: ')).toBe('DATE:')
	expect(['-----  ', '12.50  ', '(7)  ', '# :  '].map(before)).toEqual([null, null, null, null])
})

it('what ends a document is taken as its end, and nothing else of its line', () => {
	const lines = linesOf('ORDER 1\nA  1\nEND of it\nORDER 2\nB  2\n')
	const value = { names: ['Order number'], label: null, line: 0, lines: 1, from: 6, to: 7, whole: false }
	const marks = marksSchema.parse({
		...{ begins: { text: 'ORDER', at: 0, like: 'text' }, ends: { text: 'END', at: 0, like: 'text' }, values: [value] },
		rows: {
			...{ under: null, after: 1, height: 1, key: ['Quantity'] },
			columns: [
				{ name: 'Item', line: 0, from: 0, to: 2, wraps: false },
				{ name: 'Quantity', line: 0, from: 2, to: null, wraps: false },
			],
		},
	})
	const { unused, taken, misfits } = tryMarks(lines, marks, 'orders', [], 'GBP', 1)
	expect(unused.map(({ text }) => text)).toEqual(['of it'])
	expect([...taken.keys()].length).toBeGreaterThan(0)
	expect(misfits.length).toBe(misfits.filter(({ words }) => words !== '').length)
})

it('of what does not fit, only so much is told', () => {
	const many = mostSaid + 50
	const text = Array.from({ length: many }, (_, at) => `ORDER ${at}\nA${at}    x\n`).join('')
	const marks = marksSchema.parse({
		begins: { text: 'ORDER', at: 0, like: 'text' },
		number: 'Order number',
		need: ['Customer number'],
		values: [{ names: ['Order number'], label: null, line: 0, lines: 1, from: 6, to: null, whole: false }],
		rows: {
			...{ under: null, after: 1, height: 1, key: ['Quantity'] },
			columns: [
				{ name: 'Item', line: 0, from: 0, to: 6, wraps: false },
				{ name: 'Quantity', line: 0, from: 6, to: null, wraps: false },
			],
		},
	})
	expect(tryMarks(linesOf(text), marks, 'orders', [], 'GBP', 1).misfits).toHaveLength(mostSaid)
})
