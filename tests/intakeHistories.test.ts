import fc from 'fast-check'
import { expect, test } from 'vitest'
import { blankLine, orderFormSchema } from '@/intake/orderForm'
import { giveRunBack } from '@/runs/bench/close'
import { startRun } from '@/runs/bench/steps'
import { acceptNow, doFileJobs, lookAt } from '@/runs/bringIn/atOnce'
import { correctValue } from '@/runs/bringIn/correct'
import { answer, askToTakeBack } from '@/runs/bringIn/receive'
import { reviewOf } from '@/runs/bringIn/review'
import { holdWaiting, withdrawOrder } from '@/runs/bringIn/takeBack'
import { gather } from '@/runs/drafts/gather'
import { writeOrder } from '@/runs/drafts/orderForm'
import { verify } from '@/runs/issue/verify'
import type { Books } from '@/store/books'
import { readFile } from '@/store/files'
import { endJob, nextJob } from '@/store/jobs'
import { desk, firmBooks } from './support'
import { walks } from './walks'

// Files looked at, accepted, amended and taken back, orders written in the form, held, withdrawn and gathered, in random orders, against a model apart from the
// product's code: it knows only which order counts, with what quantity, from which file, and whether it waits.

type Order = { quantity: number; file: number; place: 'waits' | 'in a run'; held: boolean }
type Looked = {
	id: number
	orders: Map<string, number>
	replaces: boolean
	/** Orders that cannot be read until they are mended, by their rows. */
	bad: Map<string, number>
	/** What it brought, with its quantity; not again, whatever became of it. */
	brought: Map<string, number>
}
type Model = { orders: Map<string, Order>; files: Looked[]; accepted: Set<number>; run: number | null }
type Step = { act: string; pick: number; orders: [number, number][] }

/** Every order that counts, by number: its quantity, and whether it waits. */
function counted(books: Books): [string, number, string][] {
	const rows = books.db
		.prepare<[], { number: string; quantity: string; run_id: number | null }>(
			'SELECT o.number, l.quantity, o.run_id FROM order_in o JOIN order_line l ON l.order_id = o.id ORDER BY o.number',
		)
		.all()
	return rows.map(({ number, quantity, run_id }) => [number, Number(quantity), run_id === null ? 'waits' : 'in a run'])
}
const idOf = (books: Books, number: string): number =>
	books.db.prepare<[string], { id: number }>('SELECT id FROM order_in WHERE number = ?').get(number)?.id ?? 0

/** What accepting a file does by its rules: what is new comes in, what waits is replaced where that was wanted, all else stays. */
function acceptInModel(model: Model, file: Looked): void {
	const again = model.accepted.has(file.id)
	for (const [number, quantity] of file.orders) {
		if (file.bad.has(number) || (again && file.brought.get(number) === quantity)) continue
		const known = model.orders.get(number)
		const replaces = known && known.quantity !== quantity && known.place === 'waits' && file.replaces
		if (known && !replaces) continue
		model.orders.set(number, { quantity, file: file.id, place: 'waits', held: false })
		file.brought.set(number, quantity)
	}
	model.accepted.add(file.id)
}

/** Accepts a file as it stands; where it comes out otherwise than it was looked at, it is looked at again. */
async function accept(books: Books, model: Model, file: Looked): Promise<void> {
	const first = await acceptNow(books, desk, file.id)
	// What came out otherwise since it was looked at is shown anew, and accepted then.
	const accepted = first.ok ? first : await acceptNow(books, desk, file.id)
	if (accepted.ok) acceptInModel(model, file)
	const review = reviewOf(readFile(books, file.id) ?? { review: null })
	const { all = 0, taken = 0, refused = 0, left = [] } = review?.rows ?? {}
	expect(taken + refused + left.reduce((sum, { rows }) => sum + rows, 0)).toBe(all)
}

let made = 0
async function take(books: Books, model: Model, { act, pick, orders }: Step): Promise<void> {
	const numbers = [...model.orders.keys()].sort()
	const number = numbers[pick % Math.max(1, numbers.length)] ?? ''
	const order = model.orders.get(number)
	if (act === 'look') {
		const own = new Map(orders.map(([place, quantity]) => [`N${place}`, quantity]))
		const bad = new Map([...own.keys()].flatMap((one, place) => ((pick + place) % 4 === 0 ? [[one, place + 2]] : [])))
		const rows = [...own].map(([one, quantity]) => `${one},2026-10-05,A1,ROPE,${quantity}${bad.has(one) ? 'x' : ''}`)
		const content = `Order No,Order date,Cust. No,Item,Qty,Remark\n${rows.map((row) => `${row},${made++}`).join('\n')}\n`
		const id = await lookAt(books, desk, `file ${made}.csv`, Buffer.from(content))
		const replaces = pick % 2 === 0
		answer(books, desk, id, { amended: replaces ? 'replace' : 'leave' })
		await doFileJobs(books, desk)
		model.files.push({ id, orders: own, replaces, bad, brought: new Map() })
	}
	if (act === 'accept') {
		const file = model.files[pick % Math.max(1, model.files.length)]
		if (file) await accept(books, model, file)
	}
	if (act === 'mend') {
		const some = model.files.filter(({ bad }) => bad.size > 0)
		const file = some[pick % Math.max(1, some.length)]
		const [one, row] = [...(file?.bad ?? [])][0] ?? []
		if (!file || one === undefined || row === undefined) return
		const now = String(file.orders.get(one))
		expect(correctValue(books, desk, file.id, { row, place: 4, was: `${now}x`, now })).toEqual({ ok: true })
		file.bad.delete(one)
		file.replaces = pick % 3 === 0
		answer(books, desk, file.id, { amended: file.replaces ? 'replace' : 'leave' })
		await doFileJobs(books, desk)
		if (pick % 2 === 0) await accept(books, model, file)
	}
	if (act === 'write') {
		const [place = 0, quantity = 0] = orders[0] ?? []
		const line = { ...blankLine, item: 'ROPE', quantity: String(quantity) }
		const form = { key: `writing ${made++}`, number: `N${place}`, customer: 'A1', day: '05/10/2026', lines: [line] }
		// Sent twice now and then, as over a line that broke.
		const written = [1, 2].slice(pick % 2).map(() => writeOrder(books, desk, orderFormSchema.parse(form), '2026-10-31'))
		const isNew = !model.orders.has(`N${place}`)
		expect(written.map(({ ok }) => ok)).toEqual(written.map(() => isNew))
		if (isNew) model.orders.set(`N${place}`, { quantity, file: -1, place: 'waits', held: false })
	}
	if (act === 'withdraw') {
		const outcome = withdrawOrder(books, desk, idOf(books, number), 'by mistake')
		expect(outcome.ok).toBe(order?.place === 'waits')
		if (outcome.ok) model.orders.delete(number)
	}
	if (act === 'hold' && order?.place === 'waits') {
		expect(holdWaiting(books, desk, idOf(books, number), order.held ? null : 'asked').ok).toBe(true)
		order.held = !order.held
	}
	if (act === 'gather' && model.run === null) {
		const started = startRun(books, desk, '2026-10-31', '2026-10-31')
		if (!started.ok || !started.id) return
		gather(books, desk, started.id, '2026-10-31')
		const job = nextJob(books, 'reading')
		if (job) endJob(books, job.id, 'done', '', desk.now())
		model.run = started.id
		for (const one of model.orders.values()) if (!one.held) one.place = 'in a run'
	}
	if (act === 'give back' && model.run !== null) {
		expect(giveRunBack(books, desk, model.run).ok).toBe(true)
		for (const one of model.orders.values()) one.place = 'waits'
		model.run = null
	}
	if (act === 'take back') {
		const [...accepted] = model.accepted
		const file = accepted[pick % Math.max(1, accepted.length)] ?? 0
		const own = [...model.orders].filter(([, one]) => one.file === file)
		const asked = askToTakeBack(books, desk, file, 'the wrong export')
		await doFileJobs(books, desk)
		expect(asked.ok).toBe(file !== 0 && own.every(([, one]) => one.place === 'waits'))
		if (!asked.ok) return
		for (const [one] of own) model.orders.delete(one)
		model.accepted.delete(file)
		model.files.find(({ id }) => id === file)?.brought.clear()
	}
}

test('random histories of bringing in keep every order once, with its quantity, where the model has it', async () => {
	const act = fc.constantFrom(
		'look',
		'look',
		'accept',
		'accept',
		'accept',
		'mend',
		'mend',
		'write',
		'withdraw',
		'hold',
		'gather',
		'give back',
		'take back',
	)
	const orders = fc.array(fc.tuple(fc.integer({ min: 1, max: 6 }), fc.integer({ min: 1, max: 3 })), {
		minLength: 1,
		maxLength: 4,
	})
	const step = fc.record({ act, pick: fc.nat(100), orders })
	await fc.assert(
		fc.asyncProperty(fc.array(step, { minLength: 25, maxLength: 25 }), async (steps) => {
			const books = firmBooks()
			const model: Model = { orders: new Map(), files: [], accepted: new Set(), run: null }
			for (const [turn, one] of steps.entries()) {
				await take(books, model, one)
				const wanted = [...model.orders].map(([number, { quantity, place }]) => [number, quantity, place]).sort()
				expect([turn, one.act, counted(books)]).toEqual([turn, one.act, wanted])
			}
			expect(verify(books).flatMap(({ wrong }) => wrong)).toEqual([])
			books.db.close()
		}),
		{ numRuns: walks(6), endOnFailure: true },
	)
})
