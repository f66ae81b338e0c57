import fc from 'fast-check'
import type { Tools } from '@/layout/pieces/kit'
import { leaves } from '@/layout/pieces/leaves'
import type { Layout, Piece } from '@/layout/schema'
import { invoice } from './papers'

// Random layouts and papers, and tools that are plain enough to see where things go.

// Every character half as wide as its size: enough to see where things go.
export const tools: Tools = {
	metrics: { width: (text, _face, size) => text.length * size * 0.5 },
	picture: (sha256) => (sha256.startsWith('a') ? { ratio: 2 } : null),
	encode: () => ({ ok: true, cells: [[0, 0, 21, 21]], height: 21 }),
}
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
/** Every type of piece that an invoice can have, as it is first put in; tables stand apart, since each line must be seen once. */
const freshOnes = (which: (piece: Piece) => boolean): (() => Piece)[] =>
	Object.values(leaves)
		.filter(({ name, fits }) => name !== 'Lines' && fits('invoice'))
		.map(({ fresh }) => (): Piece => {
			const made: Piece = fresh('', { kind: 'invoice', text: { color: 'ink' } })
			return { ...made, id: id(made.type) }
		})
		.filter((make) => which(make()))
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
			...freshOnes(({ type }) => type !== 'turn'),
			(): Piece => ({ type: 'picture', id: id('picture'), of: { image: 'a'.repeat(64) }, width: 120, height: 90 }),
		)
		.map((make) => make()),
)
const piece: fc.Arbitrary<Piece> = fc.oneof(
	{ weight: 5, arbitrary: leaf },
	// What begins a page stands where text flows, alone.
	{ weight: 1, arbitrary: fc.constantFrom(...freshOnes(({ type }) => type === 'turn')).map((make) => make()) },
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
export const layouts = fc
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
/** Invoices whose lines are known by their first word, line0x and on. */
export const papers = fc
	.array(fc.tuple(fc.integer({ min: 1, max: 90 }), fc.boolean()), { minLength: 1, maxLength: 80 })
	.map((lines) =>
		invoice(
			lines.map(([words, zero], place) => ({
				...{ quantity: '1', unitPrice: '2.50', taxCode: zero ? 'ZERO' : 'STD' },
				description: [`line${place}x`, ...Array.from({ length: words }, () => 'rope')].join(' '),
			})),
		),
	)
