import fc from 'fast-check'
import { expect, test } from 'vitest'
import { closeRun } from '@/runs/bench/close'
import { panelOf } from '@/runs/bench/panel'
import { changeDraft, changeSchema } from '@/runs/drafts/change'
import { undoChange } from '@/runs/drafts/undo'
import { verify } from '@/runs/issue/verify'
import { tallyOf } from '@/runs/tally/tally'
import { type Books, inOneStep } from '@/store/books'
import { saveDiscount } from '@/store/catalogue'
import { readBill } from '@/store/documents'
import { latestJob } from '@/store/jobs'
import { benchRows } from '@/store/places'
import { gatherRun, nextStep } from '../../../tests/runs'
import { desk, firmBooks } from '../../../tests/support'
import { walks } from '../../../tests/walks'

const rows = [
	'8801,03/10/2026,A1,ROPE,Line,2,5.00,,STD,,4.00',
	'8801,03/10/2026,A1,BUOY,Buoy,1,80.00,10,RED,,4.00',
	'8802,04/10/2026,C1,ROPE,Line,3,5.00,,STD,,',
]
const change = (books: Books, id: number, more: object) => {
	const view = panelOf(books, id)
	if (!view) throw new Error('no draft')
	const lines = view.lines.map(({ order: _, item: __, ...line }, place) => ({ ...line, line: place }))
	return changeSchema.parse({
		lines,
		dueDay: view.document.due_day,
		email: view.document.email,
		reason: 'by phone',
		...more,
	})
}
const act = (books: Books, id: number, more: object) => {
	try {
		return inOneStep(books, () => changeDraft(books, desk, id, change(books, id, more)))
	} catch (error) {
		return { ok: false as const, message: error instanceof Error ? error.message : String(error) }
	}
}
const line = (more: object = {}) => ({
	item: 'ROPE',
	description: '',
	quantity: '3',
	unitPrice: '2.50',
	taxCode: '',
	...more,
})

test('lines are added as an order of their own and taken off to wait: the tally ties, each is taken back, and what is numbered holds', async () => {
	const books = firmBooks()
	const run = await gatherRun(books, rows)
	const id = benchRows(books, run).find(({ order_numbers }) => order_numbers === '8801')?.id ?? 0
	const before = benchRows(books, run)[0]?.net ?? 0
	expect(
		act(books, id, {
			added: [line(), line({ item: '', description: 'Splice', unitPrice: '4.00', quantity: '1', taxCode: 'STD' })],
		}),
	).toEqual({ ok: true })
	expect(readBill(books, id)?.net).toBe(before + 750 + 400)
	expect(readBill(books, id)?.content.lines.map(({ item, quantity }) => [item, quantity])).toEqual([
		['ROPE', '2'],
		['BUOY', '1'],
		['ROPE', '3'],
		['', '1'],
	])
	expect(tallyOf(books, run)[0]).toMatchObject({ untied: 0 })
	expect(act(books, id, { off: [1] })).toEqual({ ok: true })
	expect(readBill(books, id)?.content.lines.length).toBe(3)
	expect(benchRows(books, run).find(({ held_reason }) => held_reason)?.held_reason).toContain('by phone')
	expect(tallyOf(books, run)[0]).toMatchObject({ untied: 0 })
	expect([undoChange(books, desk, id).ok, undoChange(books, desk, id).ok]).toEqual([true, true])
	expect(readBill(books, id)?.net).toBe(before)
	// Taken back, the added order is a draft of its own.
	expect(benchRows(books, run).length).toBe(3)
	expect(tallyOf(books, run)[0]).toMatchObject({ untied: 0 })
	await nextStep(books, run)
	expect(latestJob(books, run)?.state).toBe('done')
	expect(verify(books).flatMap(({ wrong }) => wrong)).toEqual([])
})

test('what cannot be added is refused whole, with what is wrong at which line', async () => {
	const books = firmBooks()
	const run = await gatherRun(books, rows)
	const id = benchRows(books, run).find(({ order_numbers }) => order_numbers === '8801')?.id ?? 0
	const before = JSON.stringify([readBill(books, id), benchRows(books, run).length])
	expect(act(books, id, { added: [line(), line({ quantity: 'many' })] })).toMatchObject({
		ok: false,
		message: expect.stringContaining('Added line 2'),
	})
	expect(act(books, id, { added: [line({ item: 'NOPE', description: '', unitPrice: '' })] }).ok).toBe(false)
	expect(act(books, id, { off: [0, 1] })).toMatchObject({
		ok: false,
		message: expect.stringContaining('Some lines must'),
	})
	expect(JSON.stringify([readBill(books, id), benchRows(books, run).length])).toBe(before)
	expect(act(books, id, { off: [0, 1], added: [line()] })).toEqual({ ok: true })
	expect(tallyOf(books, run)[0]).toMatchObject({ untied: 0 })
})

test('a discount and a percent of freight that the invoice bears are those of what is added', async () => {
	const books = firmBooks()
	saveDiscount(books, desk, {
		label: 'Autumn',
		percent: '5',
		amount: '',
		currency: 'GBP',
		from_day: '2026-01-01',
		to_day: '',
		for_all: 0,
	})
	const run = await gatherRun(books, rows)
	const id = benchRows(books, run).find(({ order_numbers }) => order_numbers === '8801')?.id ?? 0
	expect(act(books, id, { discounts: ['Autumn'], charges: ['4%'] })).toEqual({ ok: true })
	expect(act(books, id, { added: [line({ unitPrice: '10.00' })] })).toEqual({ ok: true })
	expect(readBill(books, id)?.content.discounts.map(({ label }) => label)).toEqual(['Autumn'])
	expect(tallyOf(books, run)[0]).toMatchObject({ untied: 0 })
	await nextStep(books, run)
	expect(verify(books).flatMap(({ wrong }) => wrong)).toEqual([])

	const plain = firmBooks()
	const other = await gatherRun(plain, ['8801,03/10/2026,A1,ROPE,Line,10,2.15,,STD,10,'])
	const draft = benchRows(plain, other)[0]?.id ?? 0
	expect(act(plain, draft, { added: [line({ unitPrice: '10.00' })] })).toEqual({ ok: true })
	expect(readBill(plain, draft)?.content.discounts).toMatchObject([{ label: '', percent: '10' }])
	expect(tallyOf(plain, other)[0]).toMatchObject({ untied: 0 })
})

test('lines added, taken off, changed and taken back in random order: the tally ties at every step, and what is numbered holds', async () => {
	const step = fc.oneof(
		fc.record({ kind: fc.constant('add' as const), on: fc.nat(3), quantity: fc.integer({ min: 1, max: 9 }) }),
		fc.record({ kind: fc.constant('off' as const), on: fc.nat(3), line: fc.nat(4) }),
		fc.record({ kind: fc.constant('price' as const), on: fc.nat(3), cents: fc.integer({ min: 100, max: 900 }) }),
		fc.record({ kind: fc.constant('undo' as const), on: fc.nat(3) }),
	)
	await fc.assert(
		fc.asyncProperty(fc.array(step, { minLength: 1, maxLength: 10 }), async (steps) => {
			const books = firmBooks()
			const run = await gatherRun(books, rows)
			// What the run comes to by the model: the orders gathered, and each line that was added and its price changed.
			for (const one of steps) {
				const drafts = benchRows(books, run).filter(({ number }) => number === null)
				const id = drafts[one.on % drafts.length]?.id ?? 0
				const before = drafts.reduce((sum, { net }) => sum + net, 0)
				const sum = () => benchRows(books, run).reduce((all, { net }) => all + net, 0)
				if (one.kind === 'add') {
					const done = act(books, id, { added: [line({ quantity: String(one.quantity) })] })
					if (done.ok) expect(sum()).toBe(before + one.quantity * 250)
					else expect(sum()).toBe(before)
				} else if (one.kind === 'off') {
					act(books, id, { off: [one.line] })
					expect(Math.abs(sum() - before)).toBeLessThanOrEqual(3)
				} else if (one.kind === 'undo') undoChange(books, desk, id)
				else {
					const view = panelOf(books, id)
					const lines = view?.lines.map(({ order: _, item: __, ...own }, place) => ({
						...own,
						line: place,
						unitPrice: (one.cents / 100).toFixed(2),
					}))
					act(books, id, { lines })
				}
				for (const { untied } of tallyOf(books, run)) expect(untied).toBe(0)
			}
			// What was looked at anew (a twin that was added, say) is shown first, and numbered when it is asked for again.
			await nextStep(books, run)
			if (benchRows(books, run).every(({ number }) => number === null)) await nextStep(books, run)
			expect(verify(books).flatMap(({ wrong }) => wrong)).toEqual([])
			for (const { id, number, held_reason } of benchRows(books, run))
				if (number === null && !held_reason) expect(readBill(books, id)?.level).toBe('stop')
			closeRun(books, desk, run)
			expect(verify(books).flatMap(({ wrong }) => wrong)).toEqual([])
			books.db.close()
		}),
		{ numRuns: walks(8) },
	)
})
