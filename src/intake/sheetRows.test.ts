import fc from 'fast-check'
import { expect, test } from 'vitest'
import type { OwnField } from '@/core/ownFields'
import { sheetWays } from '@/core/paperKind'
import { walks } from '../../tests/walks'
import { decide, type RowRefusal, readingSchema } from './reading'
import { rowsOf } from './rows'
import { type SheetPaper, takeSheetRows } from './sheetRows'

// Rows at random, whose keys differ by case and spaces, are empty, or disagree: which papers come of them is said by a model that knows nothing
// of ours. Every row is taken, refused or left out, once; a paper has all its rows or does not come.

const ownFields: OwnField[] = [
	{ of: 'sheet', key: 'berth', name: 'Berth', type: 'text' },
	{ of: 'row', key: 'fee', name: 'Fee', type: 'number' },
]
const head = ['Key', 'Name', 'Email', 'Berth', 'Fee']
const columns = { key: 0, name: 1, email: 2, 'own sheet berth': 3, 'own row fee': 4 }
const keys = ['', 'alpha', 'Alpha ', 'ALPHA', ' beta', 'be  ta', 'be ta', 'gamma', 'ß', 'SS']
const cells = fc.record({
	key: fc.constantFrom(...keys),
	name: fc.constantFrom('', 'Ada', 'ada', 'Ben'),
	email: fc.constantFrom('', '', 'a@b.example', 'c@d.example', 'a@b.example; c@d.example', 'none'),
	berth: fc.constantFrom('', 'A1', 'a1', 'B2'),
	fee: fc.constantFrom('', '1.50', '2', 'many'),
	blank: fc.boolean(),
})
type Cells = typeof cells extends fc.Arbitrary<infer One> ? One : never

const plain = (text: string) => text.trim().split(/\s+/).join(' ').toLowerCase()
/** Rows of each paper that comes, by a model of its own: a first pass by itself, then papers with a wrong row fall. */
function expected(list: Cells[], way: (typeof sheetWays)[number]): number[][] {
	const papers = new Map<string, { rows: number[]; wrong: boolean; said: Record<string, string> }>()
	list.forEach((cell, at) => {
		const row = at + 2
		const all = [cell.key.trim(), cell.name, cell.email, cell.berth, cell.fee]
		if (cell.blank || all.every((text) => text === '')) return
		const key = way === 'whole' ? 'all' : way === 'row' ? String(row) : plain(cell.key)
		const alone = way === 'key' && key === ''
		const paper = (alone ? undefined : papers.get(key)) ?? { rows: [], wrong: false, said: {} }
		if (!alone) papers.set(key, paper)
		let wrong =
			alone || cell.name === '' || !['', 'a@b.example', 'c@d.example'].includes(cell.email) || cell.fee === 'many'
		if (way === 'row' && cell.fee === 'many') wrong = true
		for (const [what, text] of Object.entries({ name: cell.name, email: cell.email, berth: cell.berth })) {
			if (text === '') continue
			const before = paper.said[what]
			if (before === undefined) paper.said[what] = text
			else if (plain(before) !== plain(text)) wrong = true
		}
		paper.rows.push(row)
		if (wrong) paper.wrong = true
	})
	return [...papers.values()].filter(({ wrong }) => !wrong).map(({ rows }) => rows)
}

test('rows become papers as a model of its own says; each row is taken, refused or left out once', () => {
	fc.assert(
		fc.property(fc.array(cells, { maxLength: 14 }), fc.constantFrom(...sheetWays), (list, way) => {
			const rows = list.map((cell, at) => ({
				row: at + 2,
				cells: cell.blank
					? ['', '', '', '', '']
					: [cell.key.trim() === '' ? '' : cell.key, cell.name, cell.email, cell.berth, cell.fee],
			}))
			const reading = readingSchema.parse({ kind: 'rows', head, lineFrom: head.length, headRow: 1, columns })
			const papers: SheetPaper[] = []
			const refusals: RowRefusal[] = []
			const left: number[] = []
			takeSheetRows(
				rowsOf([{ row: 1, cells: head }, ...rows]),
				reading,
				decide(reading, [], ownFields),
				ownFields,
				way,
				'sheet',
				{ isCustomer: () => false },
				{
					refuse: (refusal) => refusals.push(refusal),
					left: (row) => left.push(row),
					paper: (paper) => papers.push(paper),
				},
			)
			expect(papers.map((paper) => paper.rows)).toEqual(expected(list, way))
			const told = [...papers.flatMap((paper) => paper.rows), ...new Set(refusals.map(({ row }) => row)), ...left]
			expect(told.sort((a, b) => a - b)).toEqual(rows.map(({ row }) => row))
			const titles = papers.map(({ key }) => plain(key))
			expect(new Set(titles).size).toBe(titles.length)
		}),
		{ numRuns: walks(150) },
	)
})
