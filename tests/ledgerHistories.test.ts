import fc from 'fast-check'
import { expect, test } from 'vitest'
import { addDays, type Day } from '@/core/calendar'
import { accountsAsOf, entriesAsOf } from '@/core/ledger'
import type { Outcome } from '@/core/outcome'
import { startRun } from '@/runs/bench/steps'
import { acceptNow, doFileJobs, lookAt } from '@/runs/bringIn/atOnce'
import { answer } from '@/runs/bringIn/receive'
import { takeFileBack } from '@/runs/bringIn/takeBack'
import { fileView } from '@/runs/bringIn/view'
import { changeSchema } from '@/runs/drafts/change'
import { gather } from '@/runs/drafts/gather'
import { creditSchema, startCredit } from '@/runs/issue/credit'
import { numberDocuments } from '@/runs/issue/number'
import { reviseDocument } from '@/runs/issue/revise'
import { verify } from '@/runs/issue/verify'
import { voidDocument } from '@/runs/issue/void'
import { accountOf } from '@/runs/receivables/account'
import { undoAct } from '@/runs/receivables/acts'
import { applyCredit } from '@/runs/receivables/apply'
import { removeEntry } from '@/runs/receivables/correct'
import { debitNote } from '@/runs/receivables/debitNote'
import { enterPayment, paymentSchema } from '@/runs/receivables/payment'
import { refund } from '@/runs/receivables/refund'
import { returnPayment } from '@/runs/receivables/returned'
import { takeBack } from '@/runs/receivables/takeBack'
import { writeOff } from '@/runs/receivables/writeOff'
import { agedTotals } from '@/store/accounts'
import type { Books } from '@/store/books'
import { readBill } from '@/store/documents'
import { endJob, nextJob } from '@/store/jobs'
import { applicationsOfCustomer, itemsOfCustomer } from '@/store/ledger'
import { benchRows } from '@/store/places'
import { saveRegister } from '@/store/registers'
import { changeSettings } from '@/store/settings'
import { entriesOf } from './runs'
import { bringOrders, desk, firmBooks, plainRegister } from './support'
import { walks } from './walks'

// Billing, paying (also of days past), taking back, crediting, making void, revising, writing off, refunds, payments that come back, entries
// removed, acts undone, and extracts of another system that are accepted and taken back, in random orders, a day each, against a model that
// knows only from which day on each act should move what the customer owes, in whole pence.

type Movement = { day: Day; by: number; of: string }
/** An item of the other system: what it comes to, and what of it is open. */
type Theirs = { amount: number; open: number; day: Day; due: Day }
type Model = {
	movements: Movement[]
	bills: Map<number, number>
	theirs: Map<string, Theirs>
	/** The day of the extract before. */
	extract: Day | ''
	/** How the latest extract is undone: the file, and the model as it was. */
	back: { file: number; theirs: Map<string, Theirs>; extract: Day | '' } | null
	/** Acts that can be undone, and what undoing them moves. */
	acts: Map<number, number>
}
const customer = 1

function numberRun(books: Books, run: number): number[] {
	const ids = benchRows(books, run).filter(({ number }) => number === null)
	const numbered = numberDocuments(books, desk, run, ids.length)
	// What changed since is shown first; asked again, it is numbered.
	if (!numbered.ok) expect(numberDocuments(books, desk, run, ids.length)).toMatchObject({ ok: true })
	return ids.map(({ id }) => id)
}

/** Bills an order, and with it what waits again since its invoice was made void. */
async function bill(books: Books, order: string, pence: number, day: Day): Promise<number[]> {
	await bringOrders(books, `${order},03/10/2026,A1,,Goods ${order},4,${(pence / 100).toFixed(2)},,STD,,`)
	const started = startRun(books, desk, '2026-10-31', day)
	if (!started.ok || !started.id) throw new Error('no run')
	gather(books, desk, started.id, day)
	const job = nextJob(books)
	if (job) endJob(books, job.id, 'done', '', desk.now())
	return numberRun(books, started.id)
}

const totalOf = (books: Books, id: number): number => readBill(books, id)?.total ?? 0

/** What the customer owes now, by the product. */
const balance = (books: Books): number =>
	itemsOfCustomer(books, customer).reduce((sum, { side, open }) => sum + (side === 'debit' ? open : -open), 0)
/** The same as of a day, by the core's ageing of every entry. */
const balanceOn = (books: Books, day: Day): number =>
	Number(accountsAsOf(entriesAsOf(entriesOf(books, customer), day))[0]?.balance ?? 0n)

/** The balance after the last, and before the first, of all that happened, read page by page back from now. */
function pastOf(books: Books): { now: number; before: number } {
	const pages = []
	for (let page = 1, more = true; more; page++) {
		const [account] = accountOf(books, customer, '2026-12-31', { page })
		pages.unshift(...(account?.history ?? []))
		more = account?.more ?? false
	}
	const [first, last] = [pages[0], pages.at(-1)]
	return { now: last?.balance ?? 0, before: (first?.balance ?? 0) - (first?.change ?? 0) }
}

type Step = { act: string; pick: number; pence: number; back: number }

const some = <One>(list: readonly One[], pick: number): One | undefined => list[pick % Math.max(1, list.length)]
const pounds = (pence: number) => (pence / 100).toFixed(2)
const british = (day: Day) => day.split('-').reverse().join('/')

/** Does a step; gives by how much what is owed should move, and from which day on. */
async function take(books: Books, model: Model, step: Step, turn: number, day: Day): Promise<void> {
	const { act, pick, pence, back } = step
	const bills = [...model.bills.keys()]
	const id = some(bills, pick) ?? 0
	const was = model.bills.get(id) ?? 0
	const moves = (by: number, of = act, from = day) => model.movements.push({ day: from, by, of })
	const items = itemsOfCustomer(books, customer)
	/** Open entries made here; those of the other system are left to it. */
	const open = items.filter((item) => item.open > 0 && item.extract_id === null)
	const credits = open.filter(({ side, kind }) => side === 'credit' && kind !== 'adjustment')
	const undoable = (outcome: Outcome, by: number) => {
		if (!outcome.ok) return
		model.acts.set(outcome.id ?? 0, -by)
		moves(by)
	}
	if (act === 'bill') {
		for (const one of await bill(books, `L${turn}`, pence, day)) {
			model.bills.set(one, totalOf(books, one))
			moves(totalOf(books, one))
		}
	} else if (act === 'pay') {
		// Of a day past, now and then; to nothing, or to some bills of theirs.
		const from = addDays(day, -back)
		const debits = open.filter(({ side }) => side === 'debit').map((item) => item.id)
		const to = pick % 3 === 0 || debits.length === 0 ? 'nothing' : debits.slice(pick % debits.length)
		const payment = paymentSchema.parse({
			...{ customer, day: from, amount: pounds(pence), currency: 'GBP', reference: `P${turn}`, to },
		})
		expect(enterPayment(books, desk, payment).ok).toBe(true)
		moves(-pence, act, from)
	} else if (act === 'apply') {
		const debits = open.filter(({ side }) => side === 'debit').map((item) => item.id)
		const credit = some(credits, pick)
		if (credit && debits.length > 0) applyCredit(books, desk, credit.id, debits)
	} else if (act === 'take back') {
		const plain = applicationsOfCustomer(books, customer).filter(({ act_id }) => act_id === null)
		const one = some(plain, pick)
		if (one) takeBack(books, desk, one.id)
	} else if (act === 'credit') {
		const quantity = String(1 + (pick % 2))
		const credit = creditSchema.parse({ lines: [{ line: 0, quantity }], freight: false, reason: 'back' })
		const started = startCredit(books, desk, id, credit)
		if (!started.ok || !started.id) return
		for (const note of numberRun(books, started.id)) moves(totalOf(books, note))
	} else if (act === 'void') {
		if (!voidDocument(books, desk, id, 'wrong').ok) return
		model.bills.delete(id)
		moves(-was)
	} else if (act === 'revise') {
		const line = {
			...{ line: 0, quantity: String(1 + (pick % 7)), unitPrice: pounds(pence), discountPercent: '0' },
			...{ description: 'Goods', taxCode: 'STD' },
		}
		const change = changeSchema.parse({ lines: [line], dueDay: addDays(day, 30), email: '', reason: 'other' })
		const outcome = reviseDocument(books, desk, id, change)
		if (!outcome.ok || !outcome.id) return
		model.bills.delete(id)
		model.bills.set(outcome.id, totalOf(books, outcome.id))
		moves(totalOf(books, outcome.id) - was)
	} else if (act === 'write off') {
		const item = some(
			open.filter(({ kind }) => kind !== 'adjustment'),
			pick,
		)
		if (item) undoable(writeOff(books, desk, item.id, 'too small'), item.side === 'debit' ? -item.open : item.open)
	} else if (act === 'refund') {
		const credit = some(credits, pick)
		const amount = Math.min(pence, credit?.open ?? 0)
		const given = {
			credit: credit?.id ?? 0,
			day,
			amount: pounds(amount),
			reference: `R${turn}`,
			reason: 'asked for it',
		}
		if (credit) undoable(refund(books, desk, given), amount)
	} else if (act === 'came back') {
		const payment = some(
			items.filter(({ kind, side }) => kind === 'payment' && side === 'credit'),
			pick,
		)
		const on = addDays(day, -back)
		const given = { payment: payment?.id ?? 0, day: on, charge: '0.50', reason: 'no funds' }
		const outcome = payment && on >= payment.day ? returnPayment(books, desk, given) : null
		if (!outcome?.ok || !payment) return
		model.acts.set(outcome.id ?? 0, -payment.amount - 50)
		moves(payment.amount + 50, act, on)
	} else if (act === 'remove') {
		const payment = some(
			items.filter(({ kind, side }) => kind === 'payment' && side === 'credit'),
			pick,
		)
		if (payment) undoable(removeEntry(books, desk, payment.id, 'entered twice'), payment.amount)
	} else if (act === 'debit note') {
		const given = {
			customer,
			number: `D${turn}`,
			day,
			due: day,
			amount: pounds(pence),
			currency: 'GBP',
			reason: 'agreed',
		}
		undoable(debitNote(books, desk, given), pence)
	} else if (act === 'undo') {
		const [one, by] = some([...model.acts], pick) ?? [0, 0]
		if (!undoAct(books, desk, one).ok) return
		model.acts.delete(one)
		moves(by)
	} else if (act === 'extract') await extract(books, model, step, turn, day)
	else if (act === 'extract back' && model.back) {
		if (!(await takeFileBack(books, desk, model.back.file, 'the wrong one')).ok) return
		model.movements = model.movements.filter(({ of }) => of !== `extract ${model.back?.file}`)
		model.theirs = model.back.theirs
		model.extract = model.back.extract
		model.back = null
	}
}

/** Brings in what the other system has open: some of it as before, some otherwise, some gone, and what is new, which may be of a day past. */
async function extract(books: Books, model: Model, { pick, pence, back }: Step, turn: number, day: Day): Promise<void> {
	const before = new Map(model.theirs)
	const after = new Map<string, Theirs>()
	const moved: Omit<Movement, 'of'>[] = []
	;[...before].forEach(([number, one], place) => {
		const how = (pick >> place) % 5
		if (how === 0) moved.push({ day, by: -one.open })
		else {
			const amount = how === 1 ? Math.max(1, one.amount + (pence % 400) - 200) : one.amount
			const open = how === 2 ? Math.max(1, Math.floor(one.open / 2)) : how === 1 ? amount : one.open
			const due = how === 3 ? addDays(one.due, 5) : one.due
			after.set(number, { ...one, amount, open, due })
			moved.push({ day, by: open - one.open })
		}
	})
	const dated = addDays(day, -back)
	const amount = 1 + pence
	const open = Math.max(1, Math.floor(amount / (1 + (pick % 3))))
	const number = `X-${turn}`
	after.set(number, { amount, open, day: dated, due: addDays(dated, 30) })
	// The past stays as the extract before left it.
	const counts = model.extract !== '' && dated <= model.extract ? addDays(model.extract, 1) : dated
	moved.push({ day: counts, by: amount }, { day, by: open - amount })
	const rows = [...after].map(
		([key, one]) =>
			`A1,${key},Invoice,${british(one.day)},${british(one.due)},${pounds(one.amount)},${pounds(one.open)},GBP`,
	)
	const head = 'Customer no,Document no,Type,Document date,Due date,Amount,Outstanding,Curr'
	const text = [head, ...rows, ''].join('\n')
	const file = await lookAt(books, desk, `open-items-${day}.csv`, Buffer.from(text), { days: 'day first' })
	// Payments here are other money than theirs, in this world.
	const twins = fileView(books, file, 1)?.review?.extract?.twins ?? []
	const said = Object.fromEntries(twins.map(({ id }) => [id, 'other' as const]))
	answer(books, desk, file, { twins: said, reason: 'so it is' })
	await doFileJobs(books, desk)
	const accepted = await acceptNow(books, desk, file)
	expect([turn, accepted]).toMatchObject([turn, { ok: true }])
	for (const one of moved) model.movements.push({ ...one, of: `extract ${file}` })
	model.back = { file, theirs: before, extract: model.extract }
	model.theirs = after
	model.extract = day
}

test('random histories of an account come to what the model owes, on every day', async () => {
	const act = fc.constantFrom(
		...['bill', 'bill', 'pay', 'pay', 'pay', 'apply', 'take back', 'credit', 'void', 'revise', 'write off'],
		...['refund', 'came back', 'remove', 'debit note', 'undo', 'extract', 'extract', 'extract back'],
	)
	const step = fc.record({
		...{ act, pick: fc.nat(1000), pence: fc.integer({ min: 1, max: 50_000 }) },
		back: fc.oneof(fc.constant(0), fc.nat(12)),
	})
	await fc.assert(
		fc.asyncProperty(fc.array(step, { minLength: 24, maxLength: 24 }), async (steps) => {
			const books = firmBooks()
			saveRegister(books, desk, { ...plainRegister, kind: 'credit-note', prefix: 'C-', digits: 3, next: 1 })
			const model: Model = {
				...{ movements: [], bills: new Map(), theirs: new Map(), extract: '', back: null },
				acts: new Map(),
			}
			for (const [turn, one] of steps.entries()) {
				const day = addDays('2026-11-01', turn)
				changeSettings(books, desk, { workDate: day })
				await take(books, model, one, turn, day)
				const owed = (on: Day) => model.movements.reduce((sum, { day: from, by }) => (from <= on ? sum + by : sum), 0)
				// What is owed now, and what was on every day before, by the core and by the database.
				expect([turn, one.act, balance(books)]).toEqual([turn, one.act, owed('9999-12-31')])
				for (let back = 0; back < 20; back += 1 + (one.pick % 3)) {
					const on = addDays(day, -back)
					expect([turn, one.act, on, balanceOn(books, on)]).toEqual([turn, one.act, on, owed(on)])
					const listed = agedTotals(books, on).find(({ currency }) => currency === 'GBP')?.balance ?? 0
					expect([turn, one.act, on, listed]).toEqual([turn, one.act, on, owed(on)])
				}
			}
			expect(pastOf(books)).toEqual({ now: balance(books), before: 0 })
			expect(verify(books).flatMap(({ wrong }) => wrong)).toEqual([])
			books.db.close()
		}),
		{ numRuns: walks(10), endOnFailure: true },
	)
})

test('extracts beside payments on the very same items: the past stays, nothing is lost, and what is taken back never was', async () => {
	const cents = fc.integer({ min: 1, max: 9000 })
	const turn = fc.record({
		/** What the other system has of each of six items, by its place: its amount, and how much of a hundred of it is open; none is gone. */
		theirs: fc.array(fc.option(fc.record({ amount: cents, part: fc.integer({ min: 1, max: 100 }) })), {
			minLength: 6,
			maxLength: 6,
		}),
		/** Payments before and after the day of the extract: how much, how many days off, and whether they are applied. */
		payments: fc.array(fc.record({ pence: cents, off: fc.integer({ min: -9, max: 9 }), applied: fc.boolean() }), {
			maxLength: 3,
		}),
		same: fc.boolean(),
		back: fc.boolean(),
	})
	await fc.assert(
		fc.asyncProperty(fc.array(turn, { minLength: 3, maxLength: 4 }), async (turns) => {
			const books = firmBooks()
			const days = Array.from({ length: 140 }, (_, at) => addDays('2026-08-20', at))
			const owed = () => days.map((day) => balanceOn(books, day))
			let previous: Day = ''
			for (const [place, { theirs, payments, same, back }] of turns.entries()) {
				const asOf = addDays('2026-09-01', place * 20)
				for (const [at, { pence, off, applied }] of payments.entries()) {
					const given = { customer, day: addDays(asOf, off), amount: pounds(pence), currency: 'GBP' }
					const to = applied ? 'oldest' : 'nothing'
					const payment = paymentSchema.parse({ ...given, reference: `P${place}-${at}`, to, sure: ['ahead'] })
					expect(enterPayment(books, desk, payment).ok).toBe(true)
				}
				const rows = theirs.flatMap((one, at) => {
					if (!one) return []
					const open = Math.max(1, Math.floor((one.amount * one.part) / 100))
					return [`A1,N-${at},Invoice,25/08/2026,25/09/2026,${pounds(one.amount)},${pounds(open)},GBP`]
				})
				if (rows.length === 0) continue
				const head = 'Customer no,Document no,Type,Document date,Due date,Amount,Outstanding,Curr'
				// A row of another customer tells this file from any other.
				const other = `C1,O-${place},Invoice,25/08/2026,25/09/2026,1.00,1.00,GBP`
				const text = [head, ...rows, other].join('\n')
				const before = owed()
				const bring = async (name: string, end: string) => {
					const file = await lookAt(books, desk, `${name}-${asOf}.csv`, Buffer.from(text + end), { days: 'day first' })
					const twins = fileView(books, file, 1)?.review?.extract?.twins ?? []
					const said = same ? ('same' as const) : ('other' as const)
					answer(books, desk, file, {
						twins: Object.fromEntries(twins.map(({ id }) => [id, said])),
						reason: 'so it is',
					})
					await doFileJobs(books, desk)
					expect(await acceptNow(books, desk, file)).toMatchObject({ ok: true })
					return file
				}
				const file = await bring('open-items', '')
				expect(verify(books).flatMap(({ wrong }) => wrong)).toEqual([])
				const after = owed()
				// Up to the extract before nothing moved; from the latest day on only what the extract and the payments make it.
				days.forEach((day, at) => {
					if (day <= previous) expect([day, after[at]]).toEqual([day, before[at]])
				})
				if (back) {
					expect(await takeFileBack(books, desk, file, 'once more')).toMatchObject({ ok: true })
					expect(['taken back', ...owed()]).toEqual(['taken back', ...before])
					expect(verify(books).flatMap(({ wrong }) => wrong)).toEqual([])
					await bring('again', ' ')
					expect(['again', ...owed()]).toEqual(['again', ...after])
				}
				previous = asOf
			}
			books.db.close()
		}),
		{ numRuns: walks(6), endOnFailure: true },
	)
})
