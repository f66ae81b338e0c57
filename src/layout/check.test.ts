import { expect, test } from 'vitest'
import { metrics } from '@/pdf/fontKit'
import { look, lookNames } from '../../tests/looks'
import { tools } from '../../tests/pieces'
import { invoice } from '../../tests/support'
import { checkLayout, contrast, emptyOn, type LayoutFinding, missingWords } from './check'
import { checkPaper } from './checkPaper'
import { compileLayout, drawPaper } from './draw'
import { differences, removeColour, renameColour } from './edit'
import type { Content } from './fieldTypes'
import { languages } from './languages'
import { looksOf, paperKinds } from './looks'
import type { LinesPiece } from './pieces/linesSchema'
import { samplePaper } from './sample'
import { type Layout, layoutSchema, type Piece } from './schema'
import { fieldsOf } from './values'

const plain = layoutSchema.parse(look('invoice').layout)
const real = { ...tools, metrics }
const findings = (layout: Layout, content: Content): LayoutFinding[] =>
	checkPaper(content, drawPaper(compileLayout(layout), content, real, null))
const codes = (found: readonly LayoutFinding[]) => found.map(({ level, code }) => `${level} ${code}`)
const with_ = (change: (piece: Piece) => Piece): Layout =>
	layoutSchema.parse({ ...plain, body: plain.body.map(change) })
const table = (change: (piece: LinesPiece) => LinesPiece) =>
	with_((piece) => (piece.type === 'lines' && piece.of === 'lines' ? change(piece) : piece))
const content = invoice([
	{ quantity: '12.5', unitPrice: '1234567.89', description: 'Mooring line' },
	{ quantity: '3', unitPrice: '2', description: 'Shackle' },
])
const columnOf = (piece: LinesPiece, field: string) =>
	piece.columns.filter(({ cell }) => cell.flat().some((inline) => 'field' in inline && inline.field === field))

test.each([
	['line.description', 'the text of a line'],
	['line.quantity', 'the quantity of a line'],
	['line.price', 'the unit price of a line'],
])('a table without %s does not bear %s (article 226)', (field, what) => {
	const without = table((piece) => ({
		...piece,
		columns: piece.columns.filter((own) => !columnOf(piece, field).includes(own)),
	}))
	const [found] = findings(without, content).filter(({ code }) => code === 'must bear')
	expect(found?.level).toBe('stop')
	expect(found?.words).toContain(what)
	expect(findings(plain, content).filter(({ code }) => code === 'must bear')).toEqual([])
})

test('lines that are out of sight need not be told, those in sight must', () => {
	const some = table((piece) => ({ ...piece, only: { all: [{ field: 'line.net', is: 'above', value: '100' }] } }))
	expect(codes(findings(some, content))).toEqual(['look out of sight'])
})

test('a figure that its column must break stops a release; a long word is only said', () => {
	const narrow = (field: string) =>
		table((piece) => ({
			...piece,
			columns: piece.columns.map((own) => (columnOf(piece, field).includes(own) ? { ...own, width: 30 } : own)),
		}))
	const figure = findings(narrow('line.net'), content).find(({ code }) => code === 'too wide')
	expect(figure?.level).toBe('stop')
	expect(figure?.words).toMatch(/“15,432,098\.6.” is wider than its column/)
	const worded = invoice([{ quantity: '1', unitPrice: '1', description: 'Donaudampfschifffahrtsgesellschaft' }])
	const text = findings(narrow('line.description'), worded).filter(({ words }) =>
		words.includes('wider than its column'),
	)
	expect(codes(text)).toEqual(['look note'])
	expect(codes(findings(plain, content))).toEqual([])
})

test('what stands alone at the head of a page is said, with its place', () => {
	const counts = Array.from({ length: 60 }, (_, count) => count + 20)
	const found = counts.flatMap((count) => {
		const long = invoice(Array.from({ length: count }, () => ({ quantity: '1', unitPrice: '1' })))
		return findings(plain, long).filter(({ code }) => code === 'alone')
	})
	for (const { level, piece, words } of found) {
		expect(level).toBe('look')
		expect(piece).not.toBe('')
		expect(words).toMatch(/alone at the head of page [2-9]/)
	}
	// A last paragraph pushed to a page of its own.
	const pushed = layoutSchema.parse({
		...plain,
		page: { ...plain.page, margins: { top: 50, right: 50, bottom: 50, left: 50 } },
		head: [],
		foot: [],
		body: [
			{
				...{ id: 'high', type: 'words', size: 60, lead: 1 },
				says: { en: Array.from({ length: 12 }, () => ({ runs: [{ text: 'H' }] })) },
			},
			{ id: 'last', type: 'words', size: 30, says: { en: [{ runs: [{ text: 'Left over' }] }] } },
		],
	})
	expect(
		findings(pushed, content)
			.filter(({ code }) => code === 'alone')
			.map(({ piece }) => piece),
	).toEqual(['last'])
})

test.each(paperKinds.flatMap((kind) => lookNames.map((name) => [kind, name] as const)))(
	'the %s of the look %s has words in every language',
	(kind, name) => {
		for (const language of languages) expect(missingWords(look(kind, name).layout, language)).toEqual([])
	},
)

test('a language without a word is said, at its piece; words that are one for all lack none', () => {
	const half: Piece[] = [
		{ id: 'a', type: 'words', says: { en: [{ runs: [{ text: 'Thank you' }] }], de: [{ runs: [{ text: 'Danke' }] }] } },
		{ id: 'b', type: 'facts', rows: [{ label: { en: 'Reason', fr: 'Motif', de: '' }, value: [{ field: 'reason' }] }] },
		{ id: 'c', type: 'words', says: { en: [{ runs: [{ text: 'Only English' }] }] } },
		{
			id: 'd',
			type: 'facts',
			rows: [{ label: 'VAT', value: [{ field: 'number', before: { en: 'no. ', nl: 'nr. ' } }] }],
		},
	]
	const layout = layoutSchema.parse({ ...plain, head: [], foot: [], body: half })
	const missing = (language: (typeof languages)[number]) => missingWords(layout, language).map(({ piece }) => piece)
	expect(missing('en')).toEqual([])
	expect(missing('de')).toEqual(['b', 'c', 'd'])
	expect(missing('fr')).toEqual(['a', 'c', 'd'])
	expect(missing('nl')).toEqual(['a', 'b', 'c'])
})

test('fields that are empty on some papers are counted, with the first of them', () => {
	const papers = ['1', '2', '3'].map((number) => ({
		name: number,
		at: {
			...{ content: { ...samplePaper('invoice'), number: number === '2' ? '' : number }, languages },
			...{ place: -1, row: 0, page: 1, pages: 1 },
		},
	}))
	const layout = layoutSchema.parse({
		...plain,
		head: [],
		foot: [],
		body: [{ id: 'w', type: 'words', says: { en: [{ runs: [{ field: 'number' }] }] } }],
	})
	expect(emptyOn(layout, papers)).toEqual([{ piece: 'w', field: 'Number', count: 1, first: ['2'] }])
})

test('a colour renamed stays where it stood; one taken away gives way to another; the same layout where that cannot be', () => {
	const rich = layoutSchema.parse(looksOf('invoice')[1])
	for (const { name } of rich.palette) {
		const renamed = renameColour(rich, name, 'new name')
		expect(checkLayout(renamed).filter(({ code }) => code === 'colour')).toEqual([])
		expect(JSON.stringify(renamed).replaceAll('"new name"', `"${name}"`)).toBe(JSON.stringify(rich))
		const less = removeColour(rich, name)
		expect(less.palette.map((own) => own.name)).not.toContain(name)
		expect(checkLayout(less).filter(({ code }) => code === 'colour')).toEqual([])
		expect(layoutSchema.safeParse(less).success).toBe(true)
	}
	const [first, second] = rich.palette
	for (const to of ['', first?.name ?? '', second?.name ?? ''])
		expect(renameColour(rich, first?.name ?? '', to)).toBe(rich)
	expect(removeColour(rich, 'none such')).toBe(rich)
	const one = { ...rich, palette: rich.palette.slice(0, 1) }
	expect(removeColour(one, first?.name ?? '')).toBe(one)
})

test('two layouts compared: what is gone, new, changed or elsewhere is named, and nothing else', () => {
	const fields = fieldsOf({ reckoned: [] })
	const said = (after: Partial<Layout>) => differences(plain, layoutSchema.parse({ ...plain, ...after }), fields)
	expect(said({})).toEqual([])
	expect(said({ page: { ...plain.page, across: true } })).toEqual(['paper and margins'])
	expect(said({ under: 'a'.repeat(64), palette: [...plain.palette, { name: 'x', color: '000000' }] })).toEqual([
		'colours',
		'letter paper',
	])
	const [rule] = plain.body.filter(({ type }) => type === 'rule')
	if (!rule) throw new Error('no rule')
	expect(said({ body: plain.body.filter((piece) => piece !== rule) })).toEqual(['gone: Rule'])
	expect(said({ body: [...plain.body, { id: 'more', type: 'space', height: 9 }] })).toEqual(['new: Space'])
	expect(said({ body: plain.body.map((piece) => (piece === rule ? { ...piece, thickness: 3 } : piece)) })).toEqual([
		'changed: Rule',
	])
	expect(said({ body: [...plain.body.filter((piece) => piece !== rule), rule] })).toEqual(['the order of pieces'])
	// A change within a box names what is within, not the box.
	const box = plain.body.find(({ type }) => type === 'beside')
	if (box?.type !== 'beside') throw new Error('nothing side by side')
	const inner = {
		...box,
		columns: box.columns.map((column) => ({
			...column,
			pieces: column.pieces.map((piece) => ({ ...piece, above: 33 })),
		})),
	}
	const words = said({ body: plain.body.map((piece) => (piece === box ? inner : piece)) })
	expect(words.length).toBeGreaterThan(0)
	expect(words.every((one) => one.startsWith('changed: ') && one !== 'changed: Side by side')).toBe(true)
})

test('contrast is that of WCAG 2.2: 21 for black on white, the same either way', () => {
	const pairs = [
		['000000', 'ffffff', 21],
		['777777', 'ffffff', 4.478],
		['ffffff', '767676', 4.542],
		['123456', '123456', 1],
		['ff0000', '0000ff', 2.149],
	] as const
	for (const [text, ground, ratio] of pairs) expect(contrast(text, ground)).toBeCloseTo(ratio, 2)
})
