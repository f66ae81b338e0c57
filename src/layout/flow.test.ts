import fc from 'fast-check'
import { expect, test } from 'vitest'
import { look, lookNames } from '../../tests/looks'
import { invoice } from '../../tests/support'
import { compileLayout, type Drawn, drawPaper } from './draw'
import type { Content } from './fields'
import type { Mark } from './page'
import type { Tools } from './pieces/kit'
import { type Layout, layoutSchema, type Piece } from './schema'

// Every character half as wide as its size: enough to see where things go.
const tools: Tools = {
	metrics: { width: (text, _face, size) => text.length * size * 0.5 },
	picture: (sha256) => (sha256.startsWith('a') ? { ratio: 2 } : null),
	encode: () => ({ ok: true, cells: [[0, 0, 21, 21]], height: 21 }),
}
const draw = (layout: Layout, content: Content): Drawn => drawPaper(compileLayout(layout), content, tools, null)
const texts = (marks: readonly Mark[]) => marks.flatMap((mark) => (mark.type === 'text' ? [mark.text] : []))

let ids = 0
const id = (type: string) => `${type}-${ids++}`
const field = fc.constantFrom(
	'number',
	'customer.name',
	'customer.address',
	'issuer.bank',
	'day',
	'amount-due',
	'terms',
	'net',
)
const sentence = fc
	.array(fc.constantFrom('quay', 'mooring', 'b', 'Schiffahrtsgesellschaft', 'ø', '—'), { minLength: 1, maxLength: 30 })
	.map((words) => words.join(' '))
const inline = fc.oneof(
	fc.record({ text: sentence, size: fc.constantFrom(7, 9, 14) }),
	field.map((key) => ({ field: key })),
)
const maybe = <Value>(arbitrary: fc.Arbitrary<Value>) => fc.option(arbitrary, { nil: undefined, freq: 2 })
const above = maybe(fc.constantFrom(0, 6, 40, 200))
const leaf: fc.Arbitrary<Piece> = fc.oneof(
	fc
		.record({
			runs: fc.array(inline, { minLength: 1, maxLength: 4 }),
			above,
			list: maybe(fc.constantFrom('dots' as const, 'numbers' as const)),
		})
		.map(
			({ runs, above: space, list }): Piece => ({
				...{ type: 'words', id: id('words'), says: { en: [{ runs, ...(list ? { list } : {}) }, { runs }] } },
				...(space === undefined ? {} : { above: space }),
			}),
		),
	fc
		.record({
			across: fc.constantFrom(1, 2, 3),
			labels: fc.constantFrom('left' as const, 'above' as const),
			keys: fc.array(field, { minLength: 1, maxLength: 6 }),
		})
		.map(
			({ across, labels, keys }): Piece => ({
				...{ type: 'facts', id: id('facts'), across, labels },
				rows: keys.map((key) => ({ label: `The ${key}`, value: [{ field: key }] })),
			}),
		),
	fc
		.constantFrom(
			(): Piece => ({ type: 'address', id: id('address'), of: 'customer' }),
			(): Piece => ({ type: 'rule', id: id('rule') }),
			(): Piece => ({ type: 'space', id: id('space'), height: 30 }),
			(): Piece => ({ type: 'picture', id: id('picture'), of: { image: 'a'.repeat(64) }, width: 120, height: 90 }),
			(): Piece => ({ type: 'code', id: id('code'), symbol: 'qr', value: [{ field: 'number' }], width: 60 }),
			(): Piece => ({
				type: 'totals',
				id: id('totals'),
				rows: [{ row: 'net' }, { row: 'taxes' }, { row: 'total', bold: true }],
			}),
		)
		.map((make) => make()),
)
const piece: fc.Arbitrary<Piece> = fc.oneof(
	{ weight: 5, arbitrary: leaf },
	{
		weight: 1,
		arbitrary: fc
			.array(leaf, { minLength: 1, maxLength: 4 })
			.map((pieces): Piece => ({ type: 'box', id: id('box'), pieces, fill: 'ink', pad: 6 })),
	},
	{
		weight: 1,
		arbitrary: fc.array(fc.array(leaf, { maxLength: 3 }), { minLength: 2, maxLength: 3 }).map(
			(columns): Piece => ({
				type: 'beside',
				id: id('beside'),
				columns: columns.map((pieces) => ({ share: 1, pieces })),
			}),
		),
	},
)
const table = fc
	.record({
		keep: fc.boolean(),
		grouped: fc.boolean(),
		tint: fc.boolean(),
		rules: fc.constantFrom('lines' as const, 'head' as const, 'none' as const),
	})
	.map(
		({ keep, grouped, tint, rules }): Piece => ({
			...{ type: 'lines', id: 'the-table', of: 'lines', rules },
			...(keep ? { keep } : {}),
			...(grouped ? { group: { by: 'line.tax-code', head: [{ text: 'Tax ' }, { field: 'line.tax-code' }] } } : {}),
			...(tint ? { tint: 'ink' } : {}),
			columns: [
				{ id: 'text', head: 'What it was', cell: [[{ field: 'line.description' }]], width: 'rest' },
				{
					id: 'net',
					head: 'Net',
					cell: [[{ field: 'line.net', format: { money: 'none' } }]],
					width: { most: 80 },
					align: 'right',
				},
			],
		}),
	)
const layouts = fc
	.record({
		before: fc.array(piece, { maxLength: 6 }),
		table,
		after: fc.array(piece, { maxLength: 6 }),
		head: fc.array(leaf, { maxLength: 1 }),
		foot: fc.array(
			fc.tuple(leaf, fc.constantFrom('every' as const, 'first' as const, 'following' as const, 'last' as const)),
			{ maxLength: 2 },
		),
		size: fc.constantFrom('A4' as const, 'Letter' as const, 'A5' as const),
		across: fc.boolean(),
	})
	.map(
		({ before, table: own, after, head, foot, size, across }): Layout => ({
			...{ format: 1, kind: 'invoice', name: 'Any', palette: [{ name: 'ink', color: '20262e' }], reckoned: [] },
			page: { size, across, margins: { top: 40, right: 40, bottom: 40, left: 40 } },
			text: { family: 'source-sans', size: 9, color: 'ink' },
			head,
			body: [...before, own, ...after],
			foot: foot.map(([one, on]) => ({ ...one, on })),
		}),
	)
const papers = fc
	.array(fc.tuple(fc.integer({ min: 1, max: 90 }), fc.boolean()), { minLength: 1, maxLength: 80 })
	.map((lines) =>
		invoice(
			lines.map(([words, zero], place) => ({
				...{ quantity: '1', unitPrice: '2.50', taxCode: zero ? 'ZERO' : 'STD' },
				description: [`line${place}x`, ...Array.from({ length: words }, () => 'rope')].join(' '),
			})),
		),
	)

test('whatever the pieces and the data: nothing off the paper, no line lost or doubled, the head of the table on each page of it', () => {
	fc.assert(
		fc.property(layouts, papers, (layout, content) => {
			const { pages, paper, troubles } = draw(layoutSchema.parse(layout), content)
			// A strip that no page could hold is said, and is the one thing that may leave the paper.
			const high = troubles.some(({ what }) => what === 'too high')
			for (const mark of pages.flat()) {
				if (mark.type === 'text')
					expect(mark.x + tools.metrics.width(mark.text, mark.face, mark.size)).toBeLessThan(paper.width - 39.4)
				expect(mark.x).toBeGreaterThan(39)
				expect(mark.y).toBeGreaterThan(39)
				if (!high) expect(mark.y).toBeLessThan(paper.height - 39)
			}
			const firsts = pages.flatMap(texts).flatMap((text) => text.match(/line\d+x/g) ?? [])
			expect(firsts.sort()).toEqual(content.lines.map((_, place) => `line${place}x`).sort())
			const ropes = (all: string[]) => all.join(' ').match(/rope/g)?.length ?? 0
			expect(ropes(pages.flatMap(texts))).toBe(ropes(content.lines.map(({ description }) => description)))
			for (const page of pages)
				if (texts(page).some((text) => /rope|line\d+x/.test(text))) expect(texts(page)).toContain('What it was')
		}),
		{ numRuns: 150 },
	)
})

test('the same layout and paper give the same marks', () => {
	fc.assert(
		fc.property(layouts, papers, (layout, content) => {
			const once = JSON.stringify(draw(layout, content).pages)
			expect(JSON.stringify(draw(structuredClone(layout), structuredClone(content)).pages)).toBe(once)
		}),
		{ numRuns: 30 },
	)
})

test('a group’s head is never parted from its first line, nor the last line from totals that are kept with it', () => {
	for (let count = 1; count <= 90; count++) {
		const content = invoice(
			Array.from({ length: count }, (_, place) => ({
				quantity: '1',
				unitPrice: '1',
				description: `line${place}x`,
				taxCode: place % 11 < 6 ? 'STD' : 'ZERO',
			})),
		)
		for (const name of lookNames) {
			const { pages } = drawPaper(look('invoice', name), content, tools, null)
			const last = pages.findLast((page) => texts(page).includes('Total'))
			expect([name, count, texts(last ?? []).some((text) => text.includes(`line${count - 1}x`))]).toEqual([
				name,
				count,
				true,
			])
			for (const page of pages) {
				const own = texts(page)
				const head = own.findIndex((text) => text.startsWith('Order 8801'))
				if (head >= 0) expect(own.slice(head).some((text) => /line\d+x/.test(text))).toBe(true)
			}
		}
	}
})

test('a filter leaves lines out of the table, and the paper says how many and how much; the figures stay those of the whole', () => {
	const content = invoice([
		{ quantity: '1', unitPrice: '100', taxCode: 'ZERO' },
		{ quantity: '2', unitPrice: '7.25' },
		{ quantity: '1', unitPrice: '3' },
	])
	const { layout } = look('invoice')
	const only = { all: [{ field: 'line.tax-code', is: 'is' as const, value: 'zero' }] }
	const filtered = { ...layout, body: layout.body.map((one) => (one.type === 'lines' ? { ...one, only } : one)) }
	const drawn = draw(filtered, content)
	expect(drawn.outOfSight).toEqual([1, 2])
	const all = drawn.pages.flatMap(texts)
	expect(all).toContain('Not listed here: 2 lines (Net 17.50)')
	expect(all).toContain('117.50')
	expect(all).not.toContain('7.25')
})

test('a table that is not shown shows no line: all are said to be out of sight', () => {
	const content = invoice([
		{ quantity: '1', unitPrice: '100' },
		{ quantity: '2', unitPrice: '7.25' },
	])
	const { layout } = look('invoice')
	const never = { all: [{ field: 'currency', is: 'is' as const, value: 'JPY' }] }
	const own = layout.body.map((one) => (one.type === 'lines' ? { ...one, when: never } : one))
	const boxed = layout.body.map(
		(one): Piece => (one.type === 'lines' ? { type: 'box', id: 'b', when: never, pieces: [one] } : one),
	)
	for (const body of [own, boxed, layout.body.filter(({ type }) => type !== 'lines')]) {
		const drawn = draw({ ...layout, body }, content)
		expect(drawn.outOfSight).toEqual([0, 1])
		expect(drawn.pages.flatMap(texts)).toContain('Not listed here: 2 lines (Net 114.50)')
	}
})

test('lines are ordered by several keys, grouped with a subtotal, and columns can hang on the paper', () => {
	const content = invoice([
		{ quantity: '1', unitPrice: '5', description: 'beta', taxCode: 'STD' },
		{ quantity: '1', unitPrice: '20', description: 'alpha', taxCode: 'ZERO' },
		{ quantity: '1', unitPrice: '100', description: 'alpha', taxCode: 'STD' },
	])
	const { layout } = look('invoice')
	const drawn = draw(
		{
			...layout,
			body: [
				{
					...{ type: 'lines', id: 't', of: 'lines' },
					sort: [{ field: 'line.description' }, { field: 'line.net', down: true }],
					group: {
						by: 'line.tax-code',
						head: [{ field: 'line.tax-code' }],
						subtotal: { label: 'Together', of: 'line.net' },
					},
					columns: [
						{ id: 'a', head: 'Text', cell: [[{ field: 'line.description' }]], width: 'rest' },
						{
							id: 'b',
							head: 'Less',
							cell: [[{ field: 'line.discount-percent' }]],
							width: { most: 50 },
							when: { all: [{ field: 'reckoned.any-less', is: 'above', value: '0' }] },
						},
						{
							id: 'c',
							head: 'Net',
							cell: [[{ field: 'line.net', format: { money: 'none' } }]],
							width: { most: 80 },
							align: 'right',
						},
					],
				},
			],
		},
		content,
	)
	expect(texts(drawn.pages[0] ?? []).slice(0, 14)).toEqual(
		expect.arrayContaining([
			'Text',
			'Net',
			'STD',
			'alpha',
			'100.00',
			'beta',
			'5.00',
			'Together',
			'105.00',
			'ZERO',
			'20.00',
		]),
	)
	const order = texts(drawn.pages[0] ?? []).filter((text) => /^(\d+\.00|STD|ZERO)$/.test(text))
	expect(order).toEqual(['STD', '100.00', '5.00', '105.00', 'ZERO', '20.00', '20.00'])
	expect(texts(drawn.pages[0] ?? [])).not.toContain('Less')
})

test('the address stands in the window of the envelope, on one hundred papers in the same place; a long one is set smaller, and what shows not is said', () => {
	const address = (lines: number) => ({ address: Array.from({ length: lines }, (_, place) => `Address line ${place}`) })
	const at = (lines: number) => {
		const content = invoice([{ quantity: '1', unitPrice: '1' }])
		return draw(look('invoice', 'Ledger').layout, { ...content, customer: { ...content.customer, ...address(lines) } })
	}
	const place = (drawn: Drawn) =>
		drawn.pages[0]?.find((mark) => mark.type === 'text' && mark.text.startsWith('Mørkvik'))
	const windowed = [1, 3, 5].map((lines) => place(at(lines)))
	expect(new Set(windowed.map((mark) => `${mark?.x} ${mark?.y}`)).size).toBe(1)
	expect(windowed[0]?.x).toBeCloseTo(56.69, 1)
	expect(at(5).troubles).toEqual([])
	expect(at(14).troubles.map(({ what }) => what)).toContain('cut')
})
