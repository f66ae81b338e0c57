import fc from 'fast-check'
import { expect, test } from 'vitest'
import { readLayout } from '@/layout/readLayout'
import { allWithin, type Layout } from '@/layout/schema'
import { answerForm, bringForm, bringNewerForm, changedSinceMade, makeOfForm } from '@/runs/forms/forms'
import { verify } from '@/runs/issue/verify'
import { marksLeft } from '@/runs/layouts/formMarksLeft'
import { keepStep, moveInSteps } from '@/runs/layouts/layouts'
import { formAnswers, formBody } from '@/store/forms'
import { layoutDraft } from '@/store/layouts'
import { docx, paragraph, run } from './forms/byHand'
import { work } from './runs'
import { desk, firmBooks } from './support'
import { walks } from './walks'

// Acts on a form in random orders, by two clerks, beside a model apart from ours: which mark was given what. A mark is known by where it
// stands and its name, whatever its letters' case; a newer form keeps what was said where that is the same.

type Place = 'paper' | 'lines'
type Mark = { place: Place; name: string }
const paperFields = ['number', 'day', 'customer.name', 'issuer.bank', 'total', 'net']
const names = ['alpha', 'beta', 'gamma', 'delta', 'kappa', 'omega']
/** What every row has, so that it repeats; they are no part of the game. */
const row = ['text', 'qty', 'price']

function formOf(marks: readonly Mark[], upper: boolean): Buffer {
	const shown = ({ name }: Mark) => `{{${upper ? name.toUpperCase() : name}}}`
	const own = marks
		.filter(({ place }) => place === 'lines')
		.map(shown)
		.join(' ')
	const cells = [...row.map((name) => `{{${name}}}`), own]
		.map((text) => `<w:tc>${paragraph(run(text))}</w:tc>`)
		.join('')
	const body = marks
		.filter(({ place }) => place === 'paper')
		.map((mark, at) => paragraph(run(`Words ${at} ${shown(mark)} more`)))
	return docx(`${body.join('')}<w:tbl><w:tr>${cells}</w:tr></w:tbl>`)
}
/** Every field that stands on a layout, where it stands. */
function fieldsIn(layout: Layout): { paper: string[]; lines: string[] } {
	const found: { paper: string[]; lines: string[] } = { paper: [], lines: [] }
	for (const piece of allWithin(layout.body)) {
		if (piece.type === 'beside' || piece.type === 'box') continue
		const own = [...JSON.stringify(piece).matchAll(/"field":"([^"]+)"/g)].map((match) => match[1] ?? '')
		found[piece.type === 'lines' ? 'lines' : 'paper'].push(...own)
	}
	return found
}

const acts = fc.array(
	fc.oneof(
		{
			weight: 6,
			arbitrary: fc.record({ is: fc.constant('say' as const), mark: fc.nat(5), field: fc.nat(5), stale: fc.boolean() }),
		},
		{ weight: 1, arbitrary: fc.record({ is: fc.constant('take back' as const), mark: fc.nat(5) }) },
		{
			weight: 2,
			arbitrary: fc.record({
				is: fc.constant('newer' as const),
				how: fc.constantFrom('rename', 'move', 'gone', 'new', 'case', 'order'),
				mark: fc.nat(5),
			}),
		},
		{ weight: 2, arbitrary: fc.record({ is: fc.constant('make' as const) }) },
		{ weight: 1, arbitrary: fc.record({ is: fc.constant('change the paper' as const) }) },
		{ weight: 1, arbitrary: fc.record({ is: fc.constant('undo' as const) }) },
	),
	{ minLength: 3, maxLength: 25 },
)

test('whatever is done to a form and in which order, its marks are what they were last said to be, and the layout says the same', async () => {
	await fc.assert(
		fc.asyncProperty(acts, async (history) => {
			const books = firmBooks()
			let marks: Mark[] = [
				{ place: 'paper', name: 'alpha' },
				{ place: 'paper', name: 'beta' },
				{ place: 'lines', name: 'gamma' },
			]
			let upper = false
			let form = 0
			let version = 0
			let last = formOf(marks, upper)
			let layout: number | null = null
			/** Whether the layout was changed on the paper since it was made. */
			let changed = false
			let model = new Map<string, string>()
			const keyOf = ({ place, name }: Mark) => `${place}|${name}`
			const begun = bringForm(books, desk, {
				kind: 'invoice',
				name: 'Ours',
				fileName: 'a.docx',
				bytes: last,
			})
			if (!begun.ok || !begun.id) throw new Error('not brought in')
			form = begun.id
			await work(books)
			for (const act of history) {
				if (act.is === 'say') {
					const mark = marks[act.mark % marks.length]
					if (!mark) continue
					const key = keyOf(mark)
					const was = act.stale ? { field: 'title' } : (formAnswers(books, form).marks[key] ?? null)
					const field = paperFields[act.field] ?? ''
					const outcome = answerForm(books, { ...desk, clerk: act.stale ? 'Tam' : 'Wren' }, form, [
						{ about: 'marks', key, was, answer: { field } },
					])
					expect(outcome.ok).toBe(!act.stale)
					if (outcome.ok) model.set(key, field)
				} else if (act.is === 'take back') {
					const mark = marks[act.mark % marks.length]
					if (!mark) continue
					const key = keyOf(mark)
					const was = formAnswers(books, form).marks[key] ?? null
					expect(answerForm(books, desk, form, [{ about: 'marks', key, was, answer: null }]).ok).toBe(true)
					model.delete(key)
				} else if (act.is === 'newer') {
					const at = act.mark % Math.max(1, marks.length)
					const free = names.find((name) => !marks.some((one) => one.name === name))
					const changedMarks: Mark[] =
						act.how === 'gone' && marks.length > 1
							? marks.filter((_, place) => place !== at)
							: act.how === 'rename' && free
								? marks.map((one, place) => (place === at ? { ...one, name: free } : one))
								: act.how === 'move'
									? marks.map((one, place) =>
											place === at ? { ...one, place: one.place === 'paper' ? 'lines' : 'paper' } : one,
										)
									: act.how === 'new' && free
										? [...marks, { place: 'paper', name: free }]
										: act.how === 'order'
											? [...marks].reverse()
											: marks
					const bytes = formOf(changedMarks, act.how === 'case' ? !upper : upper)
					const outcome = bringNewerForm(books, desk, form, { fileName: `${++version}.docx`, bytes })
					// Before a layout is made of it there is none that a newer form could be of; and the same file is none.
					const same = bytes.equals(last)
					expect(outcome.ok).toBe(layout !== null && !same)
					if (!outcome.ok || !outcome.id) continue
					await work(books)
					form = outcome.id
					last = bytes
					marks = changedMarks
					if (act.how === 'case') upper = !upper
					model = new Map([...model].filter(([key]) => marks.some((one) => keyOf(one) === key)))
				} else if (act.is === 'make') {
					const outcome = makeOfForm(books, desk, form)
					if (!outcome.ok) throw new Error(outcome.message)
					expect(layout === null || outcome.id === layout).toBe(true)
					layout = outcome.id ?? null
					changed = false
					const read = readLayout(layoutDraft(books, layout ?? 0)?.body ?? '')
					if (!read.ok || layout === null) throw new Error('no layout')
					const wanted = (place: Place) =>
						marks.filter((one) => one.place === place).flatMap((one) => model.get(keyOf(one)) ?? [])
					expect(fieldsIn(read.layout)).toEqual({ paper: wanted('paper'), lines: wanted('lines') })
					const left = marks.filter((one) => !model.has(keyOf(one))).map(({ name }) => name)
					const said = marksLeft(books, layout, JSON.stringify(read.layout)).map((one) =>
						one.replace(/[{}]/g, '').toLowerCase(),
					)
					expect(said.filter((name) => !row.includes(name)).sort()).toEqual(left.sort())
				} else if (layout !== null) {
					const draft = layoutDraft(books, layout)
					if (!draft) continue
					if (act.is === 'undo') {
						if (draft.step > draft.first) changed = true
						moveInSteps(books, layout, layoutDraft(books, layout)?.step ?? 0, -1)
						continue
					}
					const body = JSON.parse(draft.body)
					const next = JSON.stringify({
						...body,
						foot: [...body.foot, { type: 'rule', id: `mine-${draft.step}-${body.foot.length}` }],
					})
					expect(keepStep(books, desk, layout, draft.step, next, 'a rule').ok).toBe(true)
					changed = true
				}
				expect(formAnswers(books, form).marks).toEqual(
					Object.fromEntries([...model].map(([key, field]) => [key, { field }])),
				)
				if (layout !== null && !changed) expect(changedSinceMade(books, layout)).toBe(false)
				expect(formBody(books, form)).not.toBeNull()
			}
			expect(verify(books).flatMap(({ wrong }) => wrong)).toEqual([])
		}),
		{ numRuns: walks(8) },
	)
})
