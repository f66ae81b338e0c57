import fc from 'fast-check'
import { expect, test } from 'vitest'
import { look, lookNames } from '../../tests/looks'
import { layouts, papers, tools } from '../../tests/pieces'
import { invoice } from '../../tests/support'
import { compileLayout, type Drawn, drawPaper } from './draw'
import type { Content } from './fieldTypes'
import type { PageItem } from './page'
import { type Layout, layoutSchema, type Piece } from './schema'

const draw = (layout: Layout, content: Content): Drawn => drawPaper(compileLayout(layout), content, tools, null)
const texts = (marks: readonly PageItem[]) => marks.flatMap((mark) => (mark.type === 'text' ? [mark.text] : []))

test('whatever the pieces and the data: nothing off the paper, no line lost or doubled, the head of the table on each page of it', () => {
	fc.assert(
		fc.property(layouts, papers, (layout, content) => {
			const { pages, paper, troubles } = draw(layoutSchema.parse(layout), content)
			// A strip, or a foot, that no page could hold is said, and is the one thing that may leave the paper, above or below.
			const high = troubles.some(({ what }) => what === 'too high')
			for (const mark of pages.flat()) {
				if (mark.type === 'text')
					expect(mark.x + tools.metrics.width(mark.text, mark.face, mark.size)).toBeLessThan(paper.width - 39.4)
				expect(mark.x).toBeGreaterThan(39)
				if (high) continue
				expect(mark.y).toBeGreaterThan(39)
				expect(mark.y).toBeLessThan(paper.height - 39)
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

test('a foot that reaches up over the top of its page is said', () => {
	const { layout } = look('invoice')
	const long = { type: 'words' as const, id: 'long', says: { en: [{ runs: [{ text: 'Words' }] }] } }
	const troubles = (above: number) =>
		draw(
			{
				...layout,
				page: { ...layout.page, size: 'A5', across: true },
				body: [],
				foot: [long, { ...long, id: 'second', above }],
			},
			invoice([{ quantity: '1', unitPrice: '5', description: 'alpha', taxCode: 'STD' }]),
		).troubles
	const said = { piece: 'long', page: 0, what: 'too high' }
	expect(troubles(100)).not.toContainEqual(said)
	expect(troubles(400)).toContainEqual(said)
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
