import { describe, expect, test } from 'vitest'
import { mostRows } from '@/core/statement'
import type { MailLine } from '@/post/smtp'
import { bringIn } from '@/runs/bringIn/atOnce'
import { notePromise } from '@/runs/customers/promises'
import { numberDocuments } from '@/runs/issue/number'
import { verify } from '@/runs/issue/verify'
import { undoAct } from '@/runs/receivables/acts'
import { removeEntry } from '@/runs/receivables/correct'
import { debitNote } from '@/runs/receivables/debitNote'
import { setDispute } from '@/runs/receivables/dispute'
import { enterPayment, paymentSchema } from '@/runs/receivables/payment'
import { returnPayment } from '@/runs/receivables/returned'
import { setOff } from '@/runs/receivables/setOff'
import { holdBack, releaseHeld } from '@/runs/recheck/hold'
import { lookAgainEverywhere } from '@/runs/recheck/lookAgain'
import { holdToRead, writeOwnMessage } from '@/runs/send/ownMessage'
import { actOnPost } from '@/runs/send/postroom'
import { writeMessages } from '@/runs/send/send'
import type { Books } from '@/store/books'
import { chasesOf, promisesOf } from '@/store/chases'
import { oneCustomer, saveCustomer } from '@/store/customers'
import { addItem, itemsOfCustomer } from '@/store/ledger'
import { benchRows } from '@/store/places'
import { saveRegister } from '@/store/registers'
import { changeSettings, readSettings } from '@/store/settings'
import { line, nextStep, sendRun, work } from '../../../tests/runs'
import { choice, contentOf } from '../../../tests/stated'
import { customer, desk, firmBooks, plainRegister } from '../../../tests/support'
import { holdUntrue } from './beforeSending'
import { makeAnew } from './compare'
import { startStatements } from './start'

// What leaves is true when it leaves. Customers by number: 1 is A1, 2 is B1 (to print), 3 is C1, 4 is D1.

type Owed = { customer: number; number: string; amount: number; due: string; day?: string; currency?: string }
/** Books with such invoices, as another system would have brought them. */
function owing(owed: Owed[], workDate = '2026-10-31'): Books {
	const books = firmBooks()
	saveCustomer(books, desk, customer('D1'))
	saveRegister(books, desk, { ...plainRegister, kind: 'statement', prefix: 'S-', digits: 3, next: 1 })
	changeSettings(books, desk, { workDate })
	for (const { customer: customer_id, number, amount, due, day = '2026-08-01', currency = 'GBP' } of owed)
		addItem(books, desk, {
			...{ customer_id, kind: 'invoice', side: 'debit', number, day, due_day: due, currency, amount },
			...{ their_order: '', note: '', document_id: null, extract_id: null },
		})
	return books
}
const late = { due: '2026-10-01' }
async function gathered(books: Books, more: Parameters<typeof choice>[0] = {}): Promise<number> {
	const started = startStatements(books, desk, choice({ least: 0, ...more }))
	if (!started.ok) throw new Error(started.message)
	await work(books)
	return started.id ?? 0
}
const of = (books: Books, run: number, id: number, currency = 'GBP') =>
	benchRows(books, run).find((row) => row.customer_id === id && row.currency === currency)
const number = (books: Books, run: number) =>
	numberDocuments(books, desk, run, benchRows(books, run).filter(({ place }) => place === 'to number').length)
const pay = (books: Books, id: number, amount: string, reference: string, day = '2026-11-03') =>
	enterPayment(
		books,
		desk,
		paymentSchema.parse({
			...{ customer: id, day, amount, currency: 'GBP', reference, to: 'named then oldest', sure: ['ahead', 'again'] },
		}),
	)
/** Sends what is made of a run; gives to whom it went. */
async function sent(books: Books, run: number): Promise<number[]> {
	holdUntrue(books, desk, run)
	writeMessages(books, desk, run)
	await sendRun(books, desk, run, [line('sent')])
	return benchRows(books, run)
		.filter(({ place }) => place === 'sent')
		.map(({ customer_id }) => customer_id)
}
const at = (books: Books, workDate: string) => changeSettings(books, desk, { workDate })
const three = [
	{ customer: 1, number: 'A-1', amount: 10_000, ...late },
	{ customer: 3, number: 'C-1', amount: 4000, ...late },
	{ customer: 4, number: 'D-1', amount: 6000, ...late },
]

describe('a letter does not leave for what was paid, whatever was looked at in between', () => {
	test('of one that was held while another was numbered', async () => {
		const books = owing(three)
		const run = await gathered(books)
		holdBack(books, desk, of(books, run, 1)?.id ?? 0, 'ask first')
		pay(books, 1, '100', 'A-1', '2026-10-31')
		expect(number(books, run)).toMatchObject({ ok: true })
		releaseHeld(books, desk, of(books, run, 1)?.id ?? 0)
		expect(number(books, run)).toMatchObject({
			ok: false,
			message: expect.stringMatching(/owed in all 100.00 → 0.00|nothing is open/),
		})
	})

	test('of one that was made when another was numbered after', async () => {
		const books = owing(three)
		const run = await gathered(books)
		holdBack(books, desk, of(books, run, 3)?.id ?? 0, 'ask first')
		number(books, run)
		await nextStep(books, run)
		at(books, '2026-11-03')
		pay(books, 1, '100', 'A-1')
		releaseHeld(books, desk, of(books, run, 3)?.id ?? 0)
		number(books, run)
		await nextStep(books, run)
		expect((await sent(books, run)).sort()).toEqual([3, 4])
		expect(of(books, run, 1)?.changed).toMatch(/it asks for 100.00, and 0.00 is asked for now; A-1 100.00 → 0.00/)
	})

	test('of one that was made before all drafts were looked at again', async () => {
		const books = owing(three)
		const run = await gathered(books)
		number(books, run)
		await nextStep(books, run)
		at(books, '2026-11-03')
		pay(books, 1, '100', 'A-1')
		// As saving an item asks for.
		lookAgainEverywhere(books, desk, null)
		expect((await sent(books, run)).sort()).toEqual([3, 4])
	})

	test('of one of several items, where another fell due meanwhile', async () => {
		const books = owing([
			{ customer: 1, number: 'A-1', amount: 10_000, ...late },
			{ customer: 1, number: 'A-2', amount: 15_000, due: '2026-10-31' },
		])
		const run = await gathered(books, { show: 'past-due' })
		number(books, run)
		await nextStep(books, run)
		at(books, '2026-11-05')
		pay(books, 1, '100', 'A-1')
		expect(await sent(books, run)).toEqual([])
		expect(of(books, run, 1)?.changed).toMatch(/A-1 100.00 → 0.00/)
	})

	test('paid while the others are being sent', async () => {
		const books = owing(three)
		const run = await gathered(books)
		number(books, run)
		await nextStep(books, run)
		at(books, '2026-11-03')
		writeMessages(books, desk, run)
		const slow = line('sent')
		let first = true
		const paying: MailLine = {
			...slow,
			send: async (envelope, raw) => {
				if (first)
					for (const [id, amount, item] of [
						[1, '100', 'A-1'],
						[3, '40', 'C-1'],
						[4, '60', 'D-1'],
					] as const)
						pay(books, id, amount, item)
				first = false
				return slow.send(envelope, raw)
			},
		}
		await sendRun(books, desk, run, [paying])
		expect(
			benchRows(books, run)
				.map(({ place }) => place)
				.sort(),
		).toEqual(['kept back', 'kept back', 'sent'])
		expect(verify(books).flatMap(({ wrong }) => wrong)).toEqual([])
	})

	test('nor the same letter twice from two runs as of a day past', async () => {
		const books = owing(three)
		at(books, '2026-11-03')
		for (const again of [false, true]) {
			const run = await gathered(books, { show: 'past-due' })
			expect(of(books, run, 1)?.stage).toBe(again ? 0 : 1)
			if (again) break
			number(books, run)
			await nextStep(books, run)
			expect(await sent(books, run)).toHaveLength(3)
		}
	})

	test('a message that a person takes as sent counts as one that was sent', async () => {
		const books = owing(three.slice(0, 1))
		const run = await gathered(books)
		number(books, run)
		await nextStep(books, run)
		writeMessages(books, desk, run)
		at(books, '2026-11-20')
		await sendRun(books, desk, run, [line('unsure')])
		actOnPost(books, desk, { words: '', state: 'unsure', expected: 1 }, 'arrived', '')
		expect(chasesOf(books, '2026-11-20', oneCustomer(1))(1, 'GBP').written).toEqual([
			{ customer_id: 1, currency: 'GBP', stage: 1, day: '2026-11-20' },
		])
	})
})

test('a set-off that is undone makes the statements of both accounts untrue', async () => {
	const books = owing([
		{ customer: 1, number: 'A-1', amount: 10_000, ...late },
		{ customer: 3, number: 'C-1', amount: 4000, ...late },
		{ customer: 3, number: 'C-2', amount: 4000, ...late },
	])
	pay(books, 1, '140', 'A-1', '2026-10-31')
	// What is in dispute is passed over.
	setDispute(books, desk, itemsOfCustomer(books, 3)[0]?.id ?? 0, 'wet')
	const done = setOff(books, desk, { customer: 1, other: 'C1', amount: '30', currency: 'GBP', reason: 'one firm' })
	expect(done).toMatchObject({ ok: true })
	expect(
		itemsOfCustomer(books, 3)
			.filter(({ side }) => side === 'debit')
			.map(({ open }) => open),
	).toEqual([4000, 1000])
	expect(
		setOff(books, desk, { customer: 1, other: 'C1', amount: '10.01', currency: 'GBP', reason: 'one firm' }).ok,
	).toBe(false)
	const run = await gathered(books)
	undoAct(books, desk, done.ok ? (done.id ?? 0) : 0)
	expect(number(books, run)).toMatchObject({
		ok: false,
		message: expect.stringMatching(/Customer C1: owed in all 50.00 → 80.00/),
	})
})

test('a message written by hand that names what is otherwise by now is read again', async () => {
	const books = owing([
		{ customer: 1, number: 'A-1', amount: 10_000, ...late },
		{ customer: 1, number: 'A-2', amount: 7000, ...late },
	])
	const run = await gathered(books)
	const id = of(books, run, 1)?.id ?? 0
	writeOwnMessage(books, desk, id, { subject: 'What you owe', body: 'You owe 170.00.' })
	pay(books, 1, '100', 'A-1', '2026-10-31')
	expect(number(books, run)).toMatchObject({ ok: false })
	makeAnew(books, desk, id)
	number(books, run)
	await nextStep(books, run)
	expect(of(books, run, 1)?.place).toBe('to read')
	expect(await sent(books, run)).toEqual([])
	holdToRead(books, desk, id, false)
	expect(await sent(books, run)).toEqual([1])
})

describe('as of a day past', () => {
	const head = 'Customer no,Document no,Type,Document date,Due date,Amount,Outstanding,Curr'
	const extract = (books: Books, day: string, row: string) =>
		bringIn(books, desk, `open-items-${day}.csv`, Buffer.from(`${head}\n${row}\n`), { days: 'day first' })

	test.each<[was: string, is: string, owed: string]>([
		['100.00,100.00', '120.00,120.00', '100.00'],
		['100.00,10.00', '300.00,10.00', '10.00'],
	])('what an extract changed after it (%s to %s) is not taken off twice', async (was, is, owed) => {
		const books = owing([], '2026-10-31')
		await extract(books, '2026-09-30', `A1,X-1,Invoice,01/08/2026,31/08/2026,${was},GBP`)
		await extract(books, '2026-10-31', `A1,X-1,Invoice,01/08/2026,31/08/2026,${is},GBP`)
		const run = await gathered(books, { asOf: '2026-10-15' })
		expect(contentOf(books, of(books, run, 1)?.id)).toMatchObject({ balance: owed })
	})

	test('a late charge is of its account alone, whoever is gathered with it and whenever', async () => {
		const lateTerms = {
			rates: [{ from: '' as const, percent: '8' }],
			per: 'year',
			grace: 0,
			minimum: 0,
			year: '365',
		} as const
		for (const customers of [[4], []]) {
			const books = owing([
				{ customer: 4, number: 'D-1', amount: 100_000, due: '2026-08-31' },
				{ customer: 1, number: 'A-1', amount: 10_000, due: '2026-08-31' },
			])
			changeSettings(books, desk, { lateTerms: { ...lateTerms, rates: [...lateTerms.rates] }, workDate: '2026-09-15' })
			const letters = await gathered(books, { asOf: '2026-09-15', customers: [1] })
			number(books, letters)
			await nextStep(books, letters)
			await sent(books, letters)
			at(books, '2026-10-31')
			pay(books, 4, '900', 'D-1', '2026-10-30')
			const run = await gathered(books, { charges: true, customers })
			expect(contentOf(books, of(books, run, 4)?.id).charge?.amount).toBe('12.98')
		}
	})

	test('nothing is charged in closed books, and a plain statement as of a closed day is no fault', async () => {
		const books = owing(three)
		const lateTerms = { ...readSettings(books).lateTerms, rates: [{ from: '' as const, percent: '8' }] }
		changeSettings(books, desk, { lateTerms })
		const charging = await gathered(books, { charges: true })
		changeSettings(books, desk, { closedTo: '2026-10-31', workDate: '2026-11-03' })
		expect(startStatements(books, desk, choice({ charges: true }))).toMatchObject({
			ok: false,
			message: expect.stringMatching(/books are closed/),
		})
		expect(number(books, charging)).toMatchObject({ ok: false })
		expect(benchRows(books, charging).map(({ brief }) => brief)).toEqual([
			'books closed',
			'books closed',
			'books closed',
		])
		const plain = await gathered(books, { customers: [1] })
		expect(number(books, plain)).toMatchObject({ ok: true })
		expect(verify(books).flatMap(({ wrong }) => wrong)).toEqual([])
		expect(setDispute(books, { ...desk, now: () => '2026-11-03T09:00:00.000Z' }, 1, 'wet')).toMatchObject({ ok: true })
	})

	test('a day after the one that is worked on is asked about', () => {
		const books = owing(three)
		expect(startStatements(books, desk, choice({ asOf: '2036-10-31' }))).toMatchObject({ ok: false, ask: 'ahead' })
		expect(startStatements(books, desk, choice({ asOf: '2036-10-31' }), true)).toMatchObject({ ok: true })
	})
})

test('an act that is undone gives promises back what it took', () => {
	const acts: ((books: Books, id: number) => unknown)[] = [
		(books, id) => removeEntry(books, desk, id, 'slip'),
		(books, id) => returnPayment(books, desk, { payment: id, day: '2026-10-31', charge: '', reason: 'bounced' }),
	]
	for (const act of acts) {
		const books = owing(three)
		for (const day of ['2026-11-10', '2026-11-20'])
			notePromise(books, desk, { customer: 1, day, amount: '30', currency: 'GBP', note: '' })
		pay(books, 1, '30', 'A-1', '2026-10-31')
		const before = promisesOf(books, 1)
		expect(before.map(({ received, ended }) => [received, ended])).toEqual([
			[0, null],
			[3000, 'kept'],
		])
		act(books, itemsOfCustomer(books, 1).find(({ kind }) => kind === 'payment')?.id ?? 0)
		expect(promisesOf(books, 1).map(({ received, ended }) => [received, ended])).toEqual([
			[0, null],
			[0, null],
		])
		undoAct(books, desk, 1)
		expect(promisesOf(books, 1)).toEqual(before)
	}
})

test('of a promise from before it was kept by which payment no more goes away than had come', () => {
	const books = owing(three)
	for (const reference of ['x', 'y']) pay(books, 1, '20', reference, '2026-10-31')
	notePromise(books, desk, { customer: 1, day: '2026-11-10', amount: '40', currency: 'GBP', note: '' })
	books.db.exec('UPDATE promise SET received = 3000')
	for (const { id } of itemsOfCustomer(books, 1).filter(({ kind }) => kind === 'payment'))
		expect(removeEntry(books, desk, id, 'slip')).toMatchObject({ ok: true })
	expect(promisesOf(books, 1)).toMatchObject([{ received: 0, ended: null }])
})

test('a debit note bears a late charge as an invoice does, a fee none', async () => {
	const books = owing([])
	changeSettings(books, desk, {
		lateTerms: { ...readSettings(books).lateTerms, grace: 0, rates: [{ from: '', percent: '8' }] },
	})
	const given = { customer: 1, day: '2026-09-01', amount: '1000', currency: 'GBP', reason: 'freight' }
	expect(debitNote(books, desk, { ...given, number: 'DN-1', due: '2026-10-01' })).toMatchObject({ ok: true })
	const run = await gathered(books, { charges: true })
	expect(contentOf(books, of(books, run, 1)?.id).charge?.amount).toBe('6.58')
})

test('the least worth a letter is an amount of its currency', async () => {
	const books = owing([{ customer: 1, number: 'J-1', amount: 450, ...late, currency: 'JPY' }])
	expect(of(books, await gathered(books, { least: 500 }), 1, 'JPY')?.held_reason).toBeNull()
	expect(of(books, await gathered(books, { least: 500, leasts: { JPY: 451 } }), 1, 'JPY')?.held_reason).toMatch(
		/below the least/,
	)
})

test('a statement of more rows than can be listed is not made, and says what to do; a balance forward of them is', async () => {
	const books = owing([{ customer: 3, number: 'Z-1', amount: 450, ...late }])
	books.db.exec(`WITH RECURSIVE n (x) AS (SELECT 1 UNION ALL SELECT x + 1 FROM n WHERE x <= ${mostRows})
		INSERT INTO ledger_item (customer_id, kind, side, number, day, due_day, currency, amount, open, entered_at, entered_by, their_order, note)
		SELECT 1, 'invoice', 'debit', 'B-' || x, '2026-08-01', '2026-12-01', 'GBP', 100, 100, '2026-08-01', 'x', '', '' FROM n`)
	const run = await gathered(books)
	const findings = (id: number | undefined) =>
		books.db.prepare('SELECT level, text FROM finding WHERE document_id = ?').all(id) as {
			level: string
			text: string
		}[]
	const long = of(books, run, 1)?.id
	expect(findings(long)).toMatchObject([{ level: 'stop', text: expect.stringContaining('some 313 pages') }])
	expect(contentOf(books, long)).toMatchObject({ items: [], balance: '10001.00' })
	expect(number(books, run)).toMatchObject({ ok: true, count: 1 })
	const forward = await gathered(books, { form: 'balance forward', since: '2026-10-01' })
	expect(findings(of(books, forward, 1)?.id)).toEqual([])
	expect(number(books, forward)).toMatchObject({ ok: true })
	expect(verify(books).flatMap(({ wrong }) => wrong)).toEqual([])
})
