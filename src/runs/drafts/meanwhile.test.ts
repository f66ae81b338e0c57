import fc from 'fast-check'
import { expect, test } from 'vitest'
import { panelOf } from '@/runs/bench/panel'
import { runView } from '@/runs/bench/runView'
import { askStep } from '@/runs/bench/steps'
import { numberDocuments } from '@/runs/issue/number'
import { holdBack, looksRight, releaseHeld } from '@/runs/recheck/hold'
import { writeOwnMessage } from '@/runs/send/ownMessage'
import { type Books, inOneStep } from '@/store/books'
import { latestEventId } from '@/store/events'
import { askFor, endJob, latestJob } from '@/store/jobs'
import { openBooks } from '@/store/openBooks'
import { benchRows } from '@/store/places'
import { gatherRun, nextStep, work } from '../../../tests/runs'
import { desk, firmBooks } from '../../../tests/support'
import { walks } from '../../../tests/walks'
import { changeDraft, changeSchema } from './change'
import { onSeen } from './meanwhile'
import { undoChange } from './undo'

const wren = desk
const tam = { ...desk, clerk: 'Tam' }
const rows = ['8801,03/10/2026,A1,ROPE,Line,2,5.00,,STD,,', '8802,03/10/2026,C1,ROPE,Line,3,5.00,,STD,,']

/** The change dialog's content with another price. */
function priced(books: Books, id: number, unitPrice: string) {
	const view = panelOf(books, id)
	if (!view) throw new Error('no draft')
	return changeSchema.parse({
		lines: view.lines.map(({ order: _, item: __, ...line }, place) => ({ ...line, line: place, unitPrice })),
		dueDay: view.document.due_day,
		email: view.document.email,
		reason: 'agreed',
	})
}
const price = (books: Books, id: number) => panelOf(books, id)?.lines[0]?.unitPrice

test('of two on one draft the later keeps nothing in silence: it hears what the other did, and may keep it once more on top', async () => {
	const books = firmBooks()
	const run = await gatherRun(books, rows)
	const id = benchRows(books, run)[0]?.id ?? 0
	const [first, second] = [panelOf(books, id)?.seen ?? 0, panelOf(books, id)?.seen ?? 0]
	expect(onSeen(books, id, first, () => changeDraft(books, tam, id, priced(books, id, '9.00')))).toEqual({ ok: true })
	const refused = onSeen(books, id, second, () => changeDraft(books, wren, id, priced(books, id, '7.00')))
	expect(refused).toMatchObject({ ok: false, ask: 'changed', message: expect.stringContaining('Tam changed') })
	expect(price(books, id)).toBe('9.00')
	const again = panelOf(books, id)?.seen ?? 0
	expect(onSeen(books, id, again, () => changeDraft(books, wren, id, priced(books, id, '7.00')))).toEqual({ ok: true })
	await nextStep(books, run)
	expect(
		onSeen(books, id, latestEventId(books), () => changeDraft(books, wren, id, priced(books, id, '1.00'))),
	).toMatchObject({
		ok: false,
		ask: 'changed',
		message: expect.stringContaining('numbered meanwhile, as T-0041'),
	})
	// Its message may still be written, unless another wrote it.
	const text = { subject: 'Yours', body: 'Here it is.' }
	const seen = latestEventId(books)
	expect(onSeen(books, id, seen, () => writeOwnMessage(books, tam, id, text), 'message')).toEqual({ ok: true })
	expect(onSeen(books, id, seen, () => writeOwnMessage(books, wren, id, text), 'message')).toMatchObject({
		ask: 'changed',
	})
})

test('what is numbered is what the clerk had in view: drafts that changed since are named and asked about, also on the way to it', async () => {
	const books = firmBooks()
	const run = await gatherRun(books, rows)
	const [first] = benchRows(books, run)
	const seen = latestEventId(books)
	changeDraft(books, tam, first?.id ?? 0, priced(books, first?.id ?? 0, '9.00'))
	expect(askStep(books, wren, run, 'number', 2, seen)).toMatchObject({
		ok: false,
		ask: 'changed',
		message: expect.stringMatching(/A draft changed since you saw them: Customer A1 \(8801\): Tam changed/),
	})
	// To be asked about again only by what happens after what was told.
	const told = askStep(books, wren, run, 'number', 2, seen)
	expect(told).toMatchObject({ upTo: latestEventId(books) })
	// Asked for with what is in view now, and changed before the runner comes to it.
	expect(askStep(books, wren, run, 'number', 2, latestEventId(books)).ok).toBe(true)
	changeDraft(books, tam, first?.id ?? 0, priced(books, first?.id ?? 0, '4.00'))
	await work(books)
	expect(latestJob(books, run)).toMatchObject({
		state: 'failed',
		words: expect.stringContaining('Nothing was numbered'),
	})
	expect(benchRows(books, run).every(({ number }) => number === null)).toBe(true)
	await nextStep(books, run)
	expect(benchRows(books, run).every(({ number }) => number !== null)).toBe(true)
})

const acts = ['open', 'keep', 'hold', 'release', 'undo', 'look', 'number'] as const
test('forms of two clerks opened and kept in random order: each keeps what it was opened on, or hears that it changed', async () => {
	await fc.assert(
		fc.asyncProperty(
			fc.array(fc.tuple(fc.constantFrom('Wren', 'Tam'), fc.constantFrom(...acts)), { minLength: 3, maxLength: 25 }),
			async (steps) => {
				const books = firmBooks()
				const run = await gatherRun(books, rows)
				const id = benchRows(books, run)[0]?.id ?? 0
				// The model: how often the draft changed, what each form saw of that, and whether it is numbered.
				let changes = 0
				let numbered = false
				const forms = new Map<string, { seen: number; changes: number }>()
				let next = 1
				for (const [clerk, step] of steps) {
					const by = { ...desk, clerk }
					const form = forms.get(clerk)
					const tried = (work: () => { ok: boolean }) => {
						if (!form) return
						const stale = numbered || form.changes !== changes
						const before = price(books, id)
						let begun = false
						const outcome = onSeen(books, id, form.seen, () => {
							begun = true
							return work() as { ok: true }
						})
						expect(begun).toBe(!stale)
						if (stale) expect([outcome.ok, price(books, id)]).toEqual([false, before])
						if (outcome.ok) changes++
					}
					if (step === 'open') forms.set(clerk, { seen: latestEventId(books), changes })
					else if (step === 'keep') tried(() => changeDraft(books, by, id, priced(books, id, `${next++}.00`)))
					else if (step === 'hold') tried(() => holdBack(books, by, id, 'wait'))
					else if (step === 'undo') tried(() => undoChange(books, by, id))
					else if (step === 'release') {
						if (releaseHeld(books, by, id).ok) changes++
					} else if (step === 'look') looksRight(books, by, id, true)
					else if (!numbered && benchRows(books, run)[0]?.place === 'to number') {
						const seen = form?.seen ?? latestEventId(books)
						const stale = form !== undefined && form.changes !== changes
						const outcome = numberDocuments(books, by, run, 2, seen)
						if (stale) expect(outcome.ok).toBe(false)
						numbered = outcome.ok
					}
				}
				books.db.close()
			},
		),
		{ numRuns: walks(15) },
	)
})

/** The books, where something is done before each statement. */
const watched = (books: Books, before: () => void): Books => ({
	...books,
	sql: ((text: string) => {
		before()
		return books.sql(text)
	}) as Books['sql'],
})

test('what a page shows is of one moment, wherever in its reading another process writes', async () => {
	const books = firmBooks()
	const run = await gatherRun(books, rows)
	const id = benchRows(books, run)[0]?.id ?? 0
	const other = openBooks(books.folder)
	let price = 10
	/** A step ends and a draft is another, in one commit. */
	const write = () =>
		inOneStep(other, () => {
			changeDraft(other, tam, id, priced(other, id, `${++price}.00`))
			const job = askFor(other, tam, { kind: 'make', run, expected: 0 })
			endJob(other, job ?? 0, 'done', '', desk.now())
		})
	for (const view of [(of: Books) => runView(of, run, 10), (of: Books) => panelOf(of, id)]) {
		let statements = 0
		view(watched(books, () => statements++))
		expect(statements).toBeGreaterThan(5)
		for (let place = 0; place < statements; place++) {
			let left = place
			const before = view(books)
			const seen = view(watched(books, () => left-- === 0 && write()))
			const after = view(books)
			expect(after).not.toEqual(before)
			expect([JSON.stringify(before), JSON.stringify(after)], `torn at statement ${place}`).toContain(
				JSON.stringify(seen),
			)
		}
	}
	other.db.close()
})
