import fc from 'fast-check'
import { expect, test } from 'vitest'
import { checkLayout } from './check'
import {
	bands,
	copyPiece,
	freeId,
	insertPiece,
	movePiece,
	newPiece,
	outline,
	pieceOf,
	piecesOf,
	removePiece,
	replacePiece,
	type Spot,
	spotOf,
	stepPiece,
	typesFor,
} from './edit'
import { fieldsByKey } from './fields'
import { looksOf, paperKinds } from './looks'
import type { LinesPiece } from './pieces/linesSchema'
import { readLayout } from './readLayout'
import { type Layout, layoutSchema, withinOf } from './schema'

const layout = layoutSchema.parse(looksOf('invoice')[1])
const ids = (own: Layout) => piecesOf(own).map(({ id }) => id)

/** The stacks of a layout as lists of ids, by where they are: a model apart, flat. */
function flat(own: Layout): Map<string, string[]> {
	const stacks = new Map<string, string[]>()
	const walk = (pieces: Layout['body'], key: string) => {
		stacks.set(
			key,
			pieces.map(({ id }) => id),
		)
		for (const piece of pieces) for (const [at, stack] of withinOf(piece).entries()) walk(stack, `${piece.id} ${at}`)
	}
	for (const band of bands) walk(own[band], band)
	return stacks
}

test('pieces put together in random orders: moved, put in, copied and taken away, all others stay where they are', () => {
	const act = fc.tuple(
		fc.constantFrom('move', 'step up', 'step down', 'remove', 'copy', 'insert'),
		fc.nat(),
		fc.nat(),
		fc.nat(),
	)
	fc.assert(
		fc.property(fc.array(act, { minLength: 1, maxLength: 25 }), (acts) => {
			let own = layout
			for (const [what, a, b, c] of acts) {
				const all = ids(own)
				const id = all[a % Math.max(all.length, 1)]
				const model = flat(own)
				const [key = '', stack = []] = [...model][b % model.size] ?? []
				const index = c % (stack.length + 1)
				const [within = '', at = '0'] = key.split(' ')
				const spot: Spot = bands.some((band) => band === key)
					? { band: key as 'body', within: null, stack: 0, index }
					: { band: 'body', within, stack: Number(at), index }
				const real = bands.some((band) => band === key) ? spot : { ...spot, band: spotOf(own, within)?.band ?? 'body' }
				const before = flat(own)
				if (what === 'insert') {
					const made = newPiece('rule', own)
					own = insertPiece(own, real, made)
					expect(flat(own).get(key)).toEqual([...stack.slice(0, index), made.id, ...stack.slice(index)])
				} else if (!id) continue
				else if (what === 'remove') {
					const gone = [
						id,
						...withinOf(pieceOf(own, id) ?? newPiece('rule', own)).flatMap((inner) => inner.map((piece) => piece.id)),
					]
					own = removePiece(own, id)
					for (const one of gone) expect(pieceOf(own, one)).toBeNull()
				} else if (what === 'copy') {
					const made = copyPiece(own, id)
					expect(new Set(ids(made.layout)).size).toBe(ids(made.layout).length)
					const from = spotOf(own, id)
					expect(spotOf(made.layout, made.id)).toEqual({ ...from, index: (from?.index ?? 0) + 1 })
					own = made.layout
				} else {
					own = what === 'move' ? movePiece(own, id, real) : stepPiece(own, id, what === 'step up' ? -1 : 1)
					expect(ids(own).sort()).toEqual(all.sort())
					// Only the stacks that it left and came to are otherwise.
					const after = flat(own)
					const touched = [...after]
						.filter(([one, now]) => JSON.stringify(now) !== JSON.stringify(before.get(one)))
						.map(([one]) => one)
					expect(touched.length).toBeLessThanOrEqual(2)
					for (const one of touched)
						expect([after.get(one), before.get(one)].some((list) => list?.includes(id))).toBe(true)
				}
			}
			expect(new Set(ids(own)).size).toBe(ids(own).length)
		}),
		{ numRuns: 300 },
	)
})

test('stepped down all the way and up again, a piece passes every place once and comes back', () => {
	for (const id of ['title', 'window', 'pay-code', 'closing']) {
		let own = layout
		const seen: string[] = []
		for (let count = 0; count < 200; count++) {
			const next = stepPiece(own, id, 1)
			if (next === own) break
			own = next
			seen.push(JSON.stringify(spotOf(own, id)))
		}
		expect(new Set(seen).size).toBe(seen.length)
		expect(spotOf(own, id)).toMatchObject({ band: 'foot', within: null })
		for (let count = 0; count < 300; count++) own = stepPiece(own, id, -1)
		expect(spotOf(own, id)).toMatchObject({ band: 'head', within: null, index: 0 })
	}
})

test('the first piece of a column, stepped up, comes last in the column before it', () => {
	const columns = piecesOf(layout).flatMap((piece) => (piece.type === 'beside' ? [piece.columns] : []))
	expect(columns.length).toBeGreaterThan(0)
	for (const [before, second] of columns) {
		const [first] = second?.pieces ?? []
		const spot = first && spotOf(layout, first.id)
		const after = first && spotOf(stepPiece(layout, first.id, -1), first.id)
		expect(after).toEqual(spot && { ...spot, stack: 0, index: before?.pieces.length })
	}
})

test('nothing can be put into itself, and what there is not changes nothing', () => {
	expect(movePiece(layout, 'pay-box', { band: 'body', within: 'pay-row', stack: 0, index: 0 })).toBe(layout)
	expect(stepPiece(layout, 'gone', 1)).toBe(layout)
	expect(removePiece(layout, 'gone').body).toBe(layout.body)
	expect(freeId(layout, 'title')).toBe('title-2')
	const spot = spotOf(layout, 'title')
	expect(spot && movePiece(layout, 'title', spot)).toBe(layout)
})

test('a new piece of every type is one that the schema takes, in its kind of paper', () => {
	for (const kind of paperKinds) {
		const [look] = looksOf(kind)
		if (!look) continue
		for (const type of typesFor(kind)) {
			const next = insertPiece(look, { band: 'body', within: null, stack: 0, index: 0 }, newPiece(type, look))
			const read = readLayout(JSON.stringify(next))
			expect([type, read.ok ? [] : read.faults]).toEqual([type, []])
			if (read.ok) expect(checkLayout(read.layout).filter(({ level }) => level === 'stop')).toEqual([])
		}
	}
})

test('the outline says what each piece is, and when it is shown', () => {
	const rows = outline(layout, fieldsByKey)
	expect(rows).toHaveLength(ids(layout).length)
	const row = (id: string) => rows.find(({ piece }) => piece.id === id)
	expect(row('lines')).toMatchObject({ name: 'Lines', depth: 0, band: 'body' })
	expect(row('window')).toMatchObject({ name: 'Address: customer', about: 'in the window' })
	expect(row('pay-code')).toMatchObject({ name: 'Code: payment', about: 'when currency is EUR' })
	expect(row('running-band')?.about).toBe('following pages')
	expect(row('lines')?.about).toBe('')
	const only = { all: [{ field: 'line.item', is: 'is' as const, value: 'ROPE' }] }
	const few = replacePiece(layout, 'lines', { ...(pieceOf(layout, 'lines') as LinesPiece), only })
	expect(outline(few, fieldsByKey).find(({ piece }) => piece.id === 'lines')?.about).toBe(
		'only those whose item is ROPE',
	)
})

test.each<[string, string, string]>([
	['no JSON', '{"format": 1', 'It is no JSON'],
	['a piece inside itself without end', `${'{"body":['.repeat(5000)}`, 'nested more than 60 deep'],
	['a name that there is not', JSON.stringify({ ...layout, body: [{ type: 'spinner', id: 'x' }] }), 'body.0'],
	[
		'a property that there is not',
		JSON.stringify({ ...layout, body: [{ type: 'rule', id: 'x', onclick: 'alert(1)' }] }),
		'body.0',
	],
	[
		'a path in place of a picture',
		JSON.stringify({
			...layout,
			body: [{ type: 'picture', id: 'x', of: { image: '../../etc/passwd' }, width: 9, height: 9 }],
		}),
		'body.0',
	],
	[
		'two pieces of one id',
		JSON.stringify({
			...layout,
			body: [
				{ type: 'rule', id: 'x' },
				{ type: 'rule', id: 'x' },
			],
		}),
		'Two pieces have the id',
	],
	[
		'boxes in boxes in boxes',
		JSON.stringify({
			...layout,
			body: [
				Array.from({ length: 9 }).reduce<object>((inner, _, at) => ({ type: 'box', id: `b${at}`, pieces: [inner] }), {
					type: 'rule',
					id: 'x',
				}),
			],
		}),
		'more than 5 deep',
	],
	[
		'three hundred and one pieces',
		JSON.stringify({
			...layout,
			body: Array.from({ length: 301 }, (_, at) => ({ type: 'rule', id: `r${at}` })),
		}),
		'body',
	],
	['over two megabytes', JSON.stringify({ ...layout, name: 'x'.repeat(2_100_000) }), 'over 2 MB'],
])('a layout with %s is refused, with the place', (_what, text, words) => {
	const read = readLayout(text)
	expect(read.ok).toBe(false)
	if (!read.ok) expect(read.faults.map(({ path, message }) => `${path} ${message}`).join('; ')).toContain(words)
})

test('changing one piece leaves all others the same objects', () => {
	const title = pieceOf(layout, 'title')
	const next = replacePiece(layout, 'title', { ...title, size: 30 } as never)
	expect(pieceOf(next, 'lines')).toBe(pieceOf(layout, 'lines'))
	expect(next.foot).toBe(layout.foot)
	expect(next.body).not.toBe(layout.body)
})
