import fc from 'fast-check'
import { expect, test } from 'vitest'
import { addDays, type Day } from '@/core/calendar'
import { accountsAsOf } from '@/core/ledger'
import { changeSchema } from '@/runs/change'
import { creditSchema, startCredit } from '@/runs/credit'
import { gather } from '@/runs/gather'
import { numberDocuments } from '@/runs/number'
import { applyCredit } from '@/runs/receivables/apply'
import { enterPayment, paymentSchema } from '@/runs/receivables/payment'
import { takeBack } from '@/runs/receivables/takeBack'
import { writeOff } from '@/runs/receivables/writeOff'
import { reviseDocument } from '@/runs/revise'
import { startRun } from '@/runs/steps'
import { verify } from '@/runs/verify'
import { voidDocument } from '@/runs/void'
import type { Books } from '@/store/books'
import { readBill } from '@/store/documents'
import { endJob, nextJob } from '@/store/jobs'
import { applicationsOfCustomer, entriesOf, itemsOfCustomer } from '@/store/ledger'
import { benchRows } from '@/store/places'
import { saveRegister } from '@/store/registers'
import { changeSettings } from '@/store/settings'
import { bringOrders, desk, firmBooks, plainRegister } from './support'

// Billing, paying, taking back, crediting, making void, revising and writing off in random orders, a day each, against a model that
// knows only what each act should do to what the customer owes, in whole pence.

type Model = { owed: number; bills: Map<number, number>; byDay: Map<Day, number> }
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
	Number(accountsAsOf(entriesOf(books, customer), day)[0]?.balance ?? 0n)

type Step = { act: string; pick: number; pence: number }

/** Does a step; gives by how much what is owed should move. */
async function take(books: Books, model: Model, { act, pick, pence }: Step, turn: number, day: Day): Promise<number> {
	const bills = [...model.bills.keys()]
	const id = bills[pick % Math.max(1, bills.length)] ?? 0
	const was = model.bills.get(id) ?? 0
	if (act === 'bill') {
		const made = await bill(books, `L${turn}`, pence, day)
		for (const one of made) model.bills.set(one, totalOf(books, one))
		return made.reduce((sum, one) => sum + totalOf(books, one), 0)
	}
	if (act === 'pay') {
		const amount = (pence / 100).toFixed(2)
		const to = pick % 3 === 0 ? 'nothing' : 'oldest'
		const payment = paymentSchema.parse({ customer, day, amount, currency: 'GBP', reference: `P${turn}`, to })
		expect(enterPayment(books, desk, payment).ok).toBe(true)
		return -pence
	}
	if (act === 'apply') {
		const credits = itemsOfCustomer(books, customer).filter(({ side, open }) => side === 'credit' && open > 0)
		const credit = credits[pick % Math.max(1, credits.length)]
		if (credit) applyCredit(books, desk, credit.id, 'oldest')
		return 0
	}
	if (act === 'take back') {
		const applied = applicationsOfCustomer(books, customer)
		const one = applied[pick % Math.max(1, applied.length)]
		if (one) takeBack(books, desk, one.id)
		return 0
	}
	if (act === 'credit') {
		const quantity = String(1 + (pick % 2))
		const credit = creditSchema.parse({ lines: [{ line: 0, quantity }], freight: false, reason: 'back' })
		const started = startCredit(books, desk, id, credit)
		if (!started.ok || !started.id) return 0
		return numberRun(books, started.id).reduce((sum, note) => sum + totalOf(books, note), 0)
	}
	if (act === 'void') {
		const outcome = voidDocument(books, desk, id, 'wrong')
		if (!outcome.ok) return 0
		model.bills.delete(id)
		return -was
	}
	if (act === 'revise') {
		const quantity = String(1 + (pick % 7))
		const line = {
			line: 0,
			quantity,
			unitPrice: (pence / 100).toFixed(2),
			discountPercent: '0',
			description: 'Goods',
			taxCode: 'STD',
		}
		const change = changeSchema.parse({ lines: [line], dueDay: addDays(day, 30), email: '', reason: 'other' })
		const outcome = reviseDocument(books, desk, id, change)
		if (!outcome.ok || !outcome.id) return 0
		model.bills.delete(id)
		model.bills.set(outcome.id, totalOf(books, outcome.id))
		return totalOf(books, outcome.id) - was
	}
	const open = itemsOfCustomer(books, customer).filter((item) => item.open > 0 && item.kind !== 'adjustment')
	const item = open[pick % Math.max(1, open.length)]
	if (!item || !writeOff(books, desk, item.id, 'too small').ok) return 0
	return item.side === 'debit' ? -item.open : item.open
}

test('random histories of an account come to what the model owes, on every day', async () => {
	const act = fc.constantFrom(
		'bill',
		'bill',
		'pay',
		'pay',
		'apply',
		'take back',
		'credit',
		'void',
		'revise',
		'write off',
	)
	const step = fc.record({ act, pick: fc.nat(1000), pence: fc.integer({ min: 1, max: 50_000 }) })
	await fc.assert(
		fc.asyncProperty(fc.array(step, { minLength: 20, maxLength: 20 }), async (steps) => {
			const books = firmBooks()
			saveRegister(books, desk, { ...plainRegister, kind: 'credit-note', prefix: 'C-', digits: 3, next: 1 })
			const model: Model = { owed: 0, bills: new Map(), byDay: new Map() }
			for (const [turn, one] of steps.entries()) {
				const day = addDays('2026-11-01', turn)
				changeSettings(books, desk, { workDate: day })
				model.owed += await take(books, model, one, turn, day)
				expect([turn, one.act, balance(books)]).toEqual([turn, one.act, model.owed])
				model.byDay.set(day, model.owed)
			}
			// What was owed on a day past is not moved by what was done later.
			for (const [day, owed] of model.byDay) expect([day, balanceOn(books, day)]).toEqual([day, owed])
			expect(verify(books).flatMap(({ wrong }) => wrong)).toEqual([])
			books.db.close()
		}),
		{ numRuns: Number(process.env.HISTORIES ?? 40), endOnFailure: true },
	)
}, 3_600_000)
