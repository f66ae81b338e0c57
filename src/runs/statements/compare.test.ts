import { describe, expect, test } from 'vitest'
import type { StatementChoice } from '@/core/statement'
import { leaveInPeace, notePromise } from '@/runs/customers/promises'
import { printList } from '@/runs/files/printAll'
import { numberDocuments } from '@/runs/issue/number'
import { verify } from '@/runs/issue/verify'
import { setDispute } from '@/runs/receivables/dispute'
import { enterPayment, paymentSchema } from '@/runs/receivables/payment'
import { printed, releaseHeld } from '@/runs/recheck/hold'
import { lookAgain } from '@/runs/recheck/lookAgain'
import { holdToRead } from '@/runs/send/ownMessage'
import { actOnPost } from '@/runs/send/postroom'
import { writeMessages } from '@/runs/send/send'
import { tallyOf } from '@/runs/tally/tally'
import type { Books } from '@/store/books'
import { allCustomers, saveCustomer } from '@/store/customers'
import { findingsOf, readAnyDocument } from '@/store/documents'
import { eventsOfDocument } from '@/store/events'
import { askFor } from '@/store/jobs'
import { itemsOfCustomer } from '@/store/ledger'
import { saveLetter, waitingMessages } from '@/store/messages'
import { benchRows } from '@/store/places'
import { changeSettings, readSettings } from '@/store/settings'
import { line, nextStep, sendRun, work } from '../../../tests/runs'
import { choice, contentOf, stated } from '../../../tests/stated'
import { customer, desk } from '../../../tests/support'
import { holdUntrue, untrueOf } from './beforeSending'
import { letStand, makeAllAnew, makeAnew } from './compare'
import { gatherStatements } from './gather'
import { startStatements } from './start'

const pay = (books: Books, id: number, day: string, amount: string, reference = '') =>
	enterPayment(
		books,
		desk,
		paymentSchema.parse({
			...{ customer: id, day, amount, currency: 'GBP', reference },
			...{ to: 'named then oldest', sure: ['ahead'] },
		}),
	)
/** The draft of a customer in pounds. */
const of = (books: Books, run: number, name: string) =>
	benchRows(books, run).find((row) => row.customer_name === `Customer ${name}` && row.currency === 'GBP')
const number = (books: Books, run: number) =>
	numberDocuments(books, desk, run, benchRows(books, run).filter(({ place }) => place === 'to number').length)
const saysOf = (books: Books, id: number) =>
	findingsOf(books, id)
		.filter(({ code }) => code === 'changed-since')
		.map(({ text }) => text)

describe('what a draft says is compared with the ledger before it is numbered', () => {
	test.each<[what: string, act: (books: Books) => void, words: RegExp]>([
		['a payment', (books) => pay(books, 3, '2026-10-31', '15.00', 'CS-5'), /owed in all 40.00 → 25.00/],
		[
			'a dispute',
			(books) => setDispute(books, desk, itemsOfCustomer(books, 3)[0]?.id ?? 0, 'wet'),
			/in dispute 0.00 → 40.00/,
		],
		['peace', (books) => leaveInPeace(books, desk, 3, '2026-11-20', 'flood'), /peace until 20 Nov 2026: flood/],
		[
			'a promise',
			(books) => notePromise(books, desk, { customer: 3, day: '2026-11-09', amount: '40', currency: 'GBP', note: '' }),
			/asked for 40.00 → 0.00/,
		],
		[
			'no statements',
			(books) => saveCustomer(books, desk, customer('C1', { statements: 0 })),
			/set to get no statements/,
		],
	])('%s: it is named and stopped, and made anew or let stand', async (_, act, words) => {
		for (const decide of ['anew', 'stand'] as const) {
			const { books, run } = await stated()
			const id = of(books, run, 'C1')?.id ?? 0
			const before = contentOf(books, id)
			act(books)
			expect(number(books, run)).toMatchObject({ ok: false, message: expect.stringMatching(words) })
			expect(saysOf(books, id)).toEqual([expect.stringMatching(words)])
			expect(of(books, run, 'C1')?.place).toBe('stopped')
			if (decide === 'anew') expect(makeAnew(books, desk, id)).toEqual({ ok: true })
			else {
				expect(letStand(books, desk, id, ' ')).toMatchObject({ ok: false })
				expect(letStand(books, desk, id, 'their payment is another')).toEqual({ ok: true })
			}
			expect(saysOf(books, id)).toEqual([])
			expect(number(books, run)).toMatchObject({ ok: true })
			const now = contentOf(books, id)
			if (decide === 'stand') expect(now).toMatchObject({ balance: before.balance, asked: before.asked, stage: 1 })
			else if (readAnyDocument(books, id)?.held_reason === null) expect(lookAgain(books, desk, run)).toEqual([])
			expect(verify(books).flatMap(({ wrong }) => wrong)).toEqual([])
			books.db.close()
		}
	})

	test('what is known is told once, however often it is looked at', async () => {
		const { books, run } = await stated()
		const id = of(books, run, 'C1')?.id ?? 0
		pay(books, 3, '2026-10-31', '15.00', 'CS-5')
		expect(lookAgain(books, desk, run)).toHaveLength(1)
		const events = eventsOfDocument(books, [id]).length
		// Something else of theirs, that changes nothing on it.
		saveCustomer(books, desk, customer('C1', { note: 'rings on Fridays' }))
		expect(lookAgain(books, desk, run)).toEqual([])
		expect(eventsOfDocument(books, [id])).toHaveLength(events)
		expect(saysOf(books, id)).toHaveLength(1)
	})

	test('one that changes further after it was let stand is found again; all are made anew in one act', async () => {
		const { books, run } = await stated()
		const id = of(books, run, 'C1')?.id ?? 0
		pay(books, 3, '2026-10-31', '15.00', 'CS-5')
		lookAgain(books, desk, run)
		letStand(books, desk, id, 'as agreed')
		pay(books, 3, '2026-10-31', '5.00', 'CS-5')
		pay(books, 1, '2026-10-31', '30.00', 'CS-3')
		expect(lookAgain(books, desk, run)).toHaveLength(2)
		expect(tallyOf(books, run)[0]?.sourceTotal).toBe(24_800 - 5000)
		expect(makeAllAnew(books, desk, run)).toMatchObject({ ok: true, words: '2 made anew' })
		expect(contentOf(books, id)).toMatchObject({ balance: '20.00', asked: '20.00' })
		// The ledger, measured now, and the drafts are the same again.
		expect(tallyOf(books, run)[0]?.stages[0]?.net).toBe(24_800 - 5000)
		expect(makeAllAnew(books, desk, run)).toMatchObject({ ok: false })
	})

	test('a letter of another open run is not written a second time', async () => {
		const { books, run } = await stated({ show: 'past-due' })
		const started = startStatements(books, desk, choice({ show: 'past-due' }))
		await work(books)
		const other = started.ok ? (started.id ?? 0) : 0
		expect(of(books, other, 'C1')?.held_reason).toBe(`a letter of run ${run} waits to go`)
	})

	test('of two open runs only one proposes a charge; the other is named once that is entered', async () => {
		const lateTerms = { rates: [{ from: '', percent: '8' }], per: 'year', grace: 0, minimum: 0, year: '365' } as const
		const { books, run } = await stated({ charges: true, customers: [3] }, (books) =>
			changeSettings(books, desk, { lateTerms: { ...lateTerms, rates: [...lateTerms.rates] } }),
		)
		expect(contentOf(books, of(books, run, 'C1')?.id).charge).not.toBeNull()
		const started = startStatements(books, desk, choice({ charges: true, customers: [3] }))
		await work(books)
		const other = started.ok ? (started.id ?? 0) : 0
		expect(contentOf(books, of(books, other, 'C1')?.id).charge).toBeNull()
		expect(number(books, run)).toMatchObject({ ok: true })
		expect(number(books, other)).toMatchObject({
			ok: false,
			message: expect.stringMatching(/owed in all 40.00 → 40.18/),
		})
		expect(itemsOfCustomer(books, 3).filter(({ kind }) => kind === 'charge')).toHaveLength(1)
	})

	test('an account in credit that is released asks for nothing', async () => {
		const { books, run } = await stated({}, (books) => pay(books, 3, '2026-10-31', '90.00', 'x'))
		const row = of(books, run, 'C1')
		expect(row?.held_reason).toBe('in credit')
		releaseHeld(books, desk, row?.id ?? 0)
		expect(contentOf(books, row?.id)).toMatchObject({ letter: 'statement', asked: '0.00', balance: '-50.00' })
		expect(lookAgain(books, desk, run)).toEqual([])
	})
})

describe('what was numbered is compared again before it is sent', () => {
	/** A run that is made, and what becomes of its messages once something happened. */
	async function made(more: Partial<StatementChoice> = {}) {
		const { books, run } = await stated(more)
		await nextStep(books, run)
		await nextStep(books, run)
		return { books, run, id: of(books, run, 'C1')?.id ?? 0 }
	}
	const send = async (books: Books, run: number) => {
		const held = holdUntrue(books, desk, run)
		writeMessages(books, desk, run)
		const to = waitingMessages(books, run, 99).map(({ customer_name }) => customer_name)
		await sendRun(books, desk, run, [line('sent')])
		return { held, to }
	}

	test('who paid meanwhile gets no letter until a person lets it go, and the others get theirs', async () => {
		const { books, run, id } = await made()
		changeSettings(books, desk, { workDate: '2026-11-03' })
		pay(books, 3, '2026-11-03', '40.00', 'CS-5')
		const { held, to } = await send(books, run)
		expect(held).toEqual([expect.stringMatching(/Customer C1: it asks for 40.00, and 0.00 is asked for now/)])
		expect(to).toEqual(['Customer A1', 'Customer A1'])
		expect(of(books, run, 'C1')?.place).toBe('to read')
		// It is let go as it was read, and not held again for the same.
		expect(holdToRead(books, desk, id, false)).toEqual({ ok: true })
		expect(await send(books, run)).toEqual({ held: [], to: ['Customer C1'] })
		expect(of(books, run, 'C1')?.place).toBe('sent')
	})

	test('who has accounts in two currencies is asked for no less in one by what came in the other', async () => {
		const { books, run } = await made()
		changeSettings(books, desk, { workDate: '2026-11-03' })
		pay(books, 1, '2026-11-03', '30.00', 'CS-3')
		const { held } = await send(books, run)
		expect(held).toEqual([expect.stringMatching(/Customer A1: it asks for 125.00, and 95.00 is asked for now/)])
	})

	test('a payment of a day before its own makes the statement untrue; peace and a promise hold its letter', async () => {
		for (const [act, words] of [
			[(books: Books) => pay(books, 3, '2026-10-30', '1.00', 'CS-5'), /owed in all 40.00 → 39.00/],
			[(books: Books) => leaveInPeace(books, desk, 3, '2026-11-20', 'flood'), /peace until/],
			[
				(books: Books) =>
					notePromise(books, desk, { customer: 3, day: '2026-11-09', amount: '40', currency: 'GBP', note: '' }),
				/asked for 40.00 → 0.00/,
			],
		] as const) {
			const { books, run } = await made()
			act(books)
			const { held, to } = await send(books, run)
			expect(held).toEqual([expect.stringMatching(words)])
			expect(to).not.toContain('Customer C1')
			books.db.close()
		}
	})

	test('one that is written and waits is kept back, and let go from the Postroom', async () => {
		const { books, run } = await made()
		writeMessages(books, desk, run)
		pay(books, 3, '2026-10-31', '40.00', 'CS-5')
		expect(holdUntrue(books, desk, run)).toHaveLength(1)
		expect(of(books, run, 'C1')?.place).toBe('kept back')
		const message = books.db
			.prepare<[], { id: number }>(`SELECT id FROM message WHERE kept_back LIKE 'no longer true%'`)
			.get()
		actOnPost(books, desk, { rows: [{ id: message?.id ?? 0, copy: '' }] }, 'let go', '')
		expect(holdUntrue(books, desk, run)).toEqual([])
		expect(of(books, run, 'C1')?.place).toBe('waiting')
	})

	test('on paper too: what is no longer true is named before it is printed, and noted as posted in a second act alone', async () => {
		const { books, run } = await stated({}, (books) => saveCustomer(books, desk, customer('C1', { email: '' })))
		await nextStep(books, run)
		await nextStep(books, run)
		const { id = 0, place } = of(books, run, 'C1') ?? {}
		expect(place).toBe('to print')
		expect(untrueOf(books, '2026-10-31', printList(books, run))).toEqual([])
		pay(books, 3, '2026-10-31', '15.00', 'CS-5')
		const words = /owed in all 40.00 → 25.00/
		expect(untrueOf(books, '2026-10-31', printList(books, run))).toMatchObject([
			{ words: expect.stringMatching(words) },
		])
		expect(printed(books, desk, id)).toMatchObject({ ok: false, message: expect.stringMatching(words) })
		// Another thing that changed meanwhile is named again; only what was named may go.
		pay(books, 3, '2026-10-31', '5.00', 'CS-5')
		expect(printed(books, desk, id)).toMatchObject({ ok: false, message: expect.stringMatching(/40.00 → 20.00/) })
		expect(of(books, run, 'C1')?.place).toBe('to print')
		expect(printed(books, desk, id)).toEqual({ ok: true })
		expect(of(books, run, 'C1')?.place).toBe('printed')
		expect(readAnyDocument(books, id)?.let_stand).toMatch(/40.00 → 20.00/)
	})

	test('nothing is held where nothing happened, nor for its own late charge', async () => {
		const lateTerms = {
			rates: [{ from: '', percent: '8' }],
			per: 'year' as const,
			grace: 0,
			minimum: 0,
			year: '365' as const,
		}
		const { books, run } = await stated({ charges: true }, (books) => changeSettings(books, desk, { lateTerms }))
		await nextStep(books, run)
		await nextStep(books, run)
		saveCustomer(books, desk, customer('C1', { contact: 'Morag' }))
		expect(holdUntrue(books, desk, run)).toEqual([])
	})

	test('what was read is what goes, also when the letter is changed after', async () => {
		const { books, run, id } = await made({ hold: true })
		holdToRead(books, desk, id, false)
		saveLetter(books, desk, { kind: 'past-due-1', subject: 'Other', body: 'Pay up.' })
		writeMessages(books, desk, run)
		expect(waitingMessages(books, run, 99)).toMatchObject([{ subject: expect.stringContaining('£40.00 past due') }])
	})

	test('a message is not read before it has its number', async () => {
		const { books, run } = await stated({ hold: true })
		expect(holdToRead(books, desk, of(books, run, 'C1')?.id ?? 0, false)).toMatchObject({ ok: false })
	})
})

describe('stages go by what was really sent', () => {
	const ran = async (books: Books, asOf: string) => {
		changeSettings(books, desk, { workDate: asOf })
		const started = startStatements(books, desk, choice({ asOf, customers: [3], show: 'past-due' }))
		await work(books)
		return started.ok ? (started.id ?? 0) : 0
	}
	const stageOf = (books: Books, run: number) => [of(books, run, 'C1')?.stage, of(books, run, 'C1')?.held_reason]
	const goes = async (books: Books, run: number) => {
		await nextStep(books, run)
		await nextStep(books, run)
		writeMessages(books, desk, run)
		await sendRun(books, desk, run, [line('sent')])
	}

	test('one after the other, held to be read where a stage says so, and begun anew once nothing was past due', async () => {
		const { books, run } = await stated({ customers: [3], show: 'past-due' })
		const stages = readSettings(books).stages.map((stage, place) => ({ ...stage, read: place === 1 }))
		changeSettings(books, desk, { stages: [...stages, { name: 'Court', days: 7, least: 0, read: false }] })
		expect(stageOf(books, run)).toEqual([1, null])
		await goes(books, run)
		const second = await ran(books, '2026-11-14')
		expect(stageOf(books, second)).toEqual([2, null])
		expect(of(books, second, 'C1')?.message_held).toBe(1)
		// While the second has not gone, the third does not follow.
		const early = await ran(books, '2026-11-28')
		expect(stageOf(books, early)).toEqual([0, `a letter of run ${second} waits to go`])
		changeSettings(books, desk, { workDate: '2026-11-20' })
		await nextStep(books, second)
		await nextStep(books, second)
		holdToRead(books, desk, of(books, second, 'C1')?.id ?? 0, false)
		writeMessages(books, desk, second)
		await sendRun(books, desk, second, [line('sent')])
		// It went six days after its own day: from then on the days count.
		expect(stageOf(books, await ran(books, '2026-12-03'))[1]).toContain('not again before 4 Dec 2026')
		const third = await ran(books, '2026-12-04')
		expect(stageOf(books, third)).toEqual([3, null])
		await goes(books, third)
		const fourth = await ran(books, '2026-12-12')
		expect(stageOf(books, fourth)).toEqual([4, null])
		await goes(books, fourth)
		expect(stageOf(books, await ran(books, '2027-03-01'))[1]).toContain('the last of the letters went')
		// Paid, and late again months after.
		pay(books, 3, '2027-03-02', '40.00', 'CS-5')
		books.db.exec(
			`INSERT INTO ledger_item (customer_id, kind, side, number, day, due_day, currency, amount, open, their_order, note, entered_at, entered_by)
			 VALUES (3, 'invoice', 'debit', 'CS-50', '2027-03-05', '2027-04-05', 'GBP', 900, 900, '', '', 'x', 'x')`,
		)
		expect(stageOf(books, await ran(books, '2027-04-20'))).toEqual([1, null])
	})

	test('a promise kept in parts covers what has not come of it; for longer than is set it is not taken', async () => {
		const { books, run } = await stated({ customers: [3] })
		const promise = (day: string, amount: string) =>
			notePromise(books, desk, { customer: 3, day, amount, currency: 'GBP', note: '' })
		expect(promise('2027-06-01', '0.01')).toMatchObject({ ok: false, message: expect.stringContaining('60 days') })
		expect(promise('2026-11-20', '30')).toEqual({ ok: true })
		makeAnew(books, desk, of(books, run, 'C1')?.id ?? 0)
		expect(contentOf(books, of(books, run, 'C1')?.id)).toMatchObject({ asked: '10.00', promised: '30.00', stage: 1 })
		pay(books, 3, '2026-10-31', '12.00', 'CS-5')
		makeAnew(books, desk, of(books, run, 'C1')?.id ?? 0)
		// 28.00 are left past due, 18.00 of them promised yet.
		expect(contentOf(books, of(books, run, 'C1')?.id)).toMatchObject({ asked: '10.00', promised: '18.00' })
		pay(books, 3, '2026-10-31', '18.00', 'CS-5')
		expect(books.db.prepare('SELECT ended, received FROM promise').get()).toEqual({ ended: 'kept', received: 3000 })
	})
})

test('balance forward is for accounts that moved and end at nothing too; gathering goes on where it was broken off', async () => {
	const { books } = await stated({}, (books) => pay(books, 3, '2026-10-20', '40.00', 'CS-5'))
	const started = startStatements(books, desk, choice({ form: 'balance forward', since: '2026-10-01' }))
	const run = started.ok ? (started.id ?? 0) : 0
	await work(books)
	expect(of(books, run, 'C1')?.held_reason).toBeNull()
	expect(contentOf(books, of(books, run, 'C1')?.id)).toMatchObject({
		opening: '40.00',
		balance: '0.00',
		movements: [{ words: 'payment CS-5', change: '-40.00', balance: '0.00' }],
	})
	// As if the runner had died after the first customers.
	const drafts = benchRows(books, run).length
	books.db.exec(`DELETE FROM finding; UPDATE document SET dropped_at = 'x' WHERE run_id = ${run} AND customer_id > 1;
		UPDATE run SET state = 'gathering' WHERE id = ${run}`)
	askFor(books, desk, { kind: 'gather', run, expected: 0 })
	const told: string[] = []
	await gatherStatements(
		books,
		desk,
		run,
		(count) => told.push(`${count} drafts`),
		(done, all) => told.push(`${done} of ${all}`),
	)
	const all = allCustomers(books).length
	expect(told).toEqual([`${all} of ${all}`, `${drafts} drafts`])
	expect(benchRows(books, run)).toHaveLength(drafts)
	await work(books)
	expect(benchRows(books, run)).toHaveLength(drafts)
})
