import fc from 'fast-check'
import { expect, test } from 'vitest'
import { walks } from '../../tests/walks'
import { type SheetRow, textOf } from './cell'
import { correctedRows } from './corrected'
import { rowsOf } from './rows'

const text = fc.constantFrom('', 'a', 'b')
const cells = fc.array(text, { minLength: 2, maxLength: 2 })
const row = fc.record({
	cells,
	lines: fc.array(cells, { minLength: 1, maxLength: 4 }),
	nested: fc.boolean(),
	trouble: fc.boolean(),
})
const at = { place: fc.integer({ min: 0, max: 3 }), was: text, now: text }
const ofRow = { row: fc.integer({ min: 1, max: 3 }) }
const correction = fc.oneof(
	fc.record({ ...at, row: fc.constant(0), field: fc.constant('') }),
	fc.record({ ...at, ...ofRow, field: fc.constant('') }),
	// What no column holds is given to one row.
	fc.record({ ...at, ...ofRow, field: fc.constant('note') }),
)

test('corrections count one after the other: one of a row mends the first that stands so, one of a column every one', () => {
	fc.assert(
		fc.property(
			fc.array(row, { minLength: 1, maxLength: 3 }),
			fc.array(correction, { maxLength: 8 }),
			fc.uniqueArray(fc.integer({ min: 1, max: 3 })),
			(list, corrections, leftOut) => {
				const rows = list.map(
					(one, place): SheetRow => ({
						row: place + 1,
						cells: one.cells,
						...(one.nested ? { lines: one.lines } : {}),
						...(one.trouble ? { trouble: 'cut short' } : {}),
					}),
				)
				const wide = correctedRows(rowsOf(rows), corrections, new Set(leftOut), 2)
				for (const { row: number } of rows) {
					// By a model of its own: the cells of a row and of its lines, by the places of a reading.
					const one = list[number - 1]
					const model = one && { cells: [...one.cells], lines: one.lines.map((line) => [...line]) }
					if (!model || !one) throw new Error('no such row')
					let mended = false
					const given: Record<string, string> = {}
					for (const { row: of, place, field, was, now } of corrections) {
						if (of !== 0 && of !== number) continue
						if (field !== '') {
							given[field] = now
							continue
						}
						const stacks = place < 2 || !one.nested ? [model.cells] : model.lines
						const at = place < 2 || !one.nested ? place : place - 2
						const found = stacks.filter((stack) => (stack[at] ?? '') === was)
						for (const stack of of === 0 ? found : found.slice(0, 1)) {
							while (stack.length <= at) stack.push('')
							stack[at] = now
							mended ||= of !== 0
						}
					}
					const got = wide.get(number)
					const full = (texts: readonly string[]) => [0, 1, 2, 3].map((place) => texts[place] ?? '')
					expect(full(got?.cells.map(textOf) ?? [])).toEqual(full(model.cells))
					expect(got?.lines?.map((line) => full(line.map(textOf)))).toEqual(
						one.nested ? model.lines.map(full) : undefined,
					)
					expect(got?.leftOut ?? false).toBe(leftOut.includes(number))
					expect(got?.given ?? {}).toEqual(given)
					expect(got?.trouble).toBe(one.trouble && !mended ? 'cut short' : undefined)
				}
				expect([...wide.each()]).toEqual(rows.map(({ row: number }) => wide.anywhere()(number)))
			},
		),
		{ numRuns: walks(300) },
	)
})
