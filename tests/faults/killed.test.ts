import { rmSync } from 'node:fs'
import { join } from 'node:path'
import { expect, test } from 'vitest'
import type { StatementChoice } from '@/core/statement'
import { arrivalOf, openPracticePost } from '@/post/practiceMail'
import { closeRun } from '@/runs/close'
import { printed } from '@/runs/hold'
import { decideMessage } from '@/runs/postroom'
import { startStatements } from '@/runs/statements'
import { askStep, startRun } from '@/runs/steps'
import { nextAct, tallyOf } from '@/runs/tally'
import { verify } from '@/runs/verify'
import { type Books, inOneStep, openBooks } from '@/store/books'
import { customerByNumber, saveCustomer } from '@/store/customers'
import { latestJob } from '@/store/jobs'
import { addItem } from '@/store/ledger'
import { benchRows, runGroups } from '@/store/places'
import { inPostroom } from '@/store/postroom'
import { saveRegister } from '@/store/registers'
import { bringOrders, customer, desk, firmInto, plainRegister } from '../support'
import { freePort, pause, prepare, type Running, startProcess, startWeb, temporaryFolder } from './processes'

const documents = 300
const kills = 30
const statementKills = 8

/** What a clerk does next: asks for the next step, decides on what is unsure by looking whether it arrived, notes prints. */
function clerkActs(books: Books, run: number): 'going' | 'finished' {
	const job = latestJob(books, run)
	if (job && ['waiting', 'working', 'stopping'].includes(job.state)) return 'going'
	const rows = benchRows(books, run)
	const next = nextAct(runGroups(books, run))
	if (next.act === 'number' || next.act === 'make' || next.act === 'send')
		askStep(books, desk, run, next.act, next.count)
	if (next.act === 'print')
		for (const { id, made_at, email, printed_at } of rows)
			if (made_at && !email && !printed_at) printed(books, desk, id)
	if (next.act === 'decide') {
		const post = openPracticePost(join(books.folder, 'practice-mail'))
		for (const message of inPostroom(books))
			decideMessage(books, desk, message, arrivalOf(post, message.message_id) ? 'sent' : 'again')
		post.close()
	}
	return next.act === 'close' ? 'finished' : 'going'
}

const choice: StatementChoice = {
	asOf: '2026-12-31',
	form: 'open items',
	since: '',
	show: 'past-due',
	credits: 'apart',
	least: 0,
	hold: false,
	copies: false,
	charges: false,
	customers: [],
}

/** Sixty customers with three late items each; gives how many. */
function oweSomething(books: Books): number {
	for (let index = 0; index < 60; index++) {
		const number = `S${index}`
		saveCustomer(books, desk, customer(number))
		for (const [place, day] of ['2026-08-01', '2026-09-01', '2026-10-01'].entries())
			addItem(books, desk, {
				customer_id: customerByNumber(books, number)?.id ?? 0,
				kind: 'invoice',
				side: 'debit',
				number: `CS-${index}-${place}`,
				day,
				due_day: day,
				currency: 'GBP',
				amount: 1000 + index,
				their_order: '',
				note: '',
				document_id: null,
				extract_id: null,
			})
	}
	return 60
}

test(`a run of ${documents} survives ${kills} kills of the runner or the web, statements ${statementKills} more: nothing twice, nothing missing`, {
	timeout: 240_000,
}, async () => {
	await prepare()
	const data = temporaryFolder()
	const books = openBooks(data)
	firmInto(books)
	saveRegister(books, desk, { ...plainRegister, kind: 'statement', prefix: 'S-', digits: 3, next: 1 })
	const numbers = Array.from({ length: documents }, (_, index) => 9000 + index)
	await bringOrders(
		books,
		...numbers.map(
			(number, index) =>
				`${number},03/10/2026,${index % 40 === 7 ? 'B1' : 'A1'},ROPE,Line,${(index % 9) + 1},2.${10 + (index % 80)},,STD,,${index % 3 ? '' : '6.50'}`,
		),
	)
	const [smtp, port] = [await freePort(), await freePort()]
	const practice = await startProcess('practice', data, smtp)
	let runner: Running = await startProcess('runner', data, smtp)
	let web = startWeb(data, port)
	const states = new Set<string>()
	/** Lets the clerk take a run to its end while runner or web are killed at random moments; then the run is closed. */
	const throughKills = async (run: number, times: number) => {
		let done = false
		for (let kill = 0; kill < times; kill++) {
			const until = Date.now() + Math.random() * 250
			while (Date.now() < until) {
				if (clerkActs(books, run) === 'finished') done = true
				await pause(10)
			}
			const job = latestJob(books, run)
			states.add(`${job?.kind} ${job?.state}`)
			if (kill % 5 === 4) {
				await web.kill('SIGKILL')
				web = startWeb(data, port)
			} else {
				await runner.kill('SIGKILL')
				runner = await startProcess('runner', data, smtp)
			}
		}
		while (!done) {
			done = clerkActs(books, run) === 'finished'
			await pause(25)
		}
		expect(closeRun(books, desk, run)).toEqual({ ok: true })
	}
	const started = startRun(books, desk, '2026-10-31', '2026-10-31')
	const run = started.ok ? (started.id ?? 0) : 0
	await throughKills(run, kills)
	const owed = inOneStep(books, () => oweSomething(books))
	const stated = startStatements(books, desk, choice)
	const statements = stated.ok ? (stated.id ?? 0) : 0
	await throughKills(statements, statementKills)
	expect((await fetch(`http://127.0.0.1:${port}/runs/${run}`)).status).toBe(200)
	for (const running of [runner, practice, web]) await running.kill('SIGTERM')

	// It was killed in the middle of the work, not beside it.
	expect([...states].filter((state) => state.endsWith('working')).length).toBeGreaterThan(0)
	const rows = benchRows(books, run)
	expect(rows.map(({ number }) => Number(number?.slice(2))).sort((a, b) => a - b)).toEqual(
		numbers.map((_, index) => 41 + index),
	)
	expect(rows.every(({ file_sha256 }) => file_sha256 !== null)).toBe(true)
	const strip = tallyOf(books, run)[0]
	for (const { orders, net, gap } of strip?.stages ?? [])
		expect([orders, net, gap.documents]).toEqual([documents, strip?.stages[0]?.net, 0])
	const sent = benchRows(books, statements)
	expect(sent.filter(({ message_state }) => message_state === 'sent').length).toBeGreaterThanOrEqual(owed)
	expect(new Set(sent.map(({ number }) => number)).size).toBe(sent.length)
	for (const { gap } of tallyOf(books, statements)[0]?.stages ?? []) expect(gap.documents).toBe(0)
	for (const { check, looked, wrong } of verify(books)) {
		expect(wrong, check).toEqual([])
		expect(looked, check).toBeGreaterThan(0)
	}
	books.db.close()
	rmSync(data, { recursive: true, force: true })
})
