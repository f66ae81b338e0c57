import { spawn } from 'node:child_process'
import { rmSync } from 'node:fs'
import { join } from 'node:path'
import { expect, test } from 'vitest'
import type { StatementChoice } from '@/core/statement'
import { arrivalCounts, arrivalOf, openPracticePost } from '@/post/practiceMail'
import { closeRun } from '@/runs/bench/close'
import { askStep, startRun } from '@/runs/bench/steps'
import { askToAccept, receiveFile } from '@/runs/bringIn/receive'
import { reviewOf } from '@/runs/bringIn/review'
import { verify } from '@/runs/issue/verify'
import { printed } from '@/runs/recheck/hold'
import { decideMessage } from '@/runs/send/postroom'
import { startStatements } from '@/runs/statements/start'
import { nextAct, tallyOf } from '@/runs/tally/tally'
import { type Books, inOneStep } from '@/store/books'
import { customerByNumber, readCustomer, saveCustomer } from '@/store/customers'
import { readFile } from '@/store/files'
import { isGoing, latestFileJob, latestJob } from '@/store/jobs'
import { addItem } from '@/store/ledger'
import { messageOfDocument } from '@/store/messages'
import { openBooks } from '@/store/openBooks'
import { benchRows, runGroups } from '@/store/places'
import { inPostroom } from '@/store/postroom'
import { saveRegister } from '@/store/registers'
import { root } from '../browser/tally'
import { customer, desk, firmInto, plainRegister } from '../support'
import { freePort, pause, prepare, startProcess, startWeb, temporaryFolder } from './processes'

/** How often something is killed; `KILLS=300` for the long walk (docs/performance.md). */
const kills = Number(process.env.KILLS ?? 8)
/** Orders that each month brings in and bills, and payments that it enters. */
const orders = 120

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

/** What is to be done next with a file: it is accepted as it was read, once. */
function fileActs(books: Books, id: number): 'going' | 'finished' {
	if (isGoing(latestFileJob(books, id))) return 'going'
	const file = readFile(books, id)
	if (!file || file.state === 'accepted') return 'finished'
	const digest = reviewOf(file)?.digest
	if (digest) askToAccept(books, desk, id, digest)
	return 'going'
}

/** Files that a clerk brings in: found again by their names where the one before was killed over it. */
function bring(books: Books, name: string, head: string, rows: string[]): number {
	const received = receiveFile(books, desk, name, Buffer.from([head, ...rows, ''].join('\n')))
	if (!received.ok) throw new Error(received.message)
	return received.id ?? 0
}

/** The three processes, and the ways to kill them. */
async function processesOn(data: string) {
	const [smtp, port] = [await freePort(), await freePort()]
	let practice = await startProcess('practice', data, smtp)
	let runner = await startProcess('runner', data, smtp)
	let web = startWeb(data, port)
	const killRunner = async () => {
		await runner.kill('SIGKILL')
		runner = await startProcess('runner', data, smtp)
	}
	const killWeb = async () => {
		await web.kill('SIGKILL')
		web = startWeb(data, port)
	}
	/** All of it as a person starts it; then what started it is killed, and the others go with it. */
	const killStarter = async (meanwhile: () => Promise<void>) => {
		for (const one of [runner, web, practice]) await one.kill('SIGKILL')
		const starter = spawn(process.execPath, [join(root, 'scripts/start.mjs')], {
			cwd: root,
			env: { ...process.env, NORTH_TALLY_DATA: data, PORT: String(port), NORTH_TALLY_SMTP_PORT: String(smtp) },
			stdio: ['ignore', 'pipe', 'inherit'],
		})
		await new Promise<void>((done) => starter.stdout.on('data', (chunk) => String(chunk).includes('is open') && done()))
		await meanwhile()
		starter.kill('SIGKILL')
		for (let tries = 0; tries < 100; tries++) {
			const gone = await fetch(`http://127.0.0.1:${port}/api/alive`).then(
				() => false,
				() => true,
			)
			if (gone) break
			await pause(50)
		}
		practice = await startProcess('practice', data, smtp)
		runner = await startProcess('runner', data, smtp)
		web = startWeb(data, port)
	}
	const stop = async () => {
		for (const one of [runner, practice, web]) await one.kill('SIGTERM')
	}
	return { port, killRunner, killWeb, killStarter, stop }
}

test(`months of orders, invoices, messages, payments and statements survive ${kills} kills of the runner, the web, both, or what started them: nothing twice, nothing missing`, async () => {
	await prepare()
	const data = temporaryFolder()
	const books = openBooks(data)
	firmInto(books)
	saveRegister(books, desk, { ...plainRegister, kind: 'statement', prefix: 'S-', digits: 3, next: 1 })
	const running = await processesOn(data)
	const killed = new Map<string, number>()
	let sum = 0
	const doing = () => {
		const going = books.db
			.prepare<[], { kind: string }>("SELECT kind FROM job WHERE state = 'working' ORDER BY id DESC LIMIT 1")
			.get()
		return going?.kind ?? 'nothing'
	}
	/** How often each step is killed over in a month, so that all of them have their turn. */
	const each = kills < 100 ? 1 : 3
	const turns = new Map<string, number>()
	const strike = async () => {
		if (sum % 6 === 3) await running.killWeb()
		else if (sum % 6 === 5) await Promise.all([running.killRunner(), running.killWeb()])
		else await running.killRunner()
	}
	/** Takes something to its end by what the clerk does next, while things are killed a moment after a step began. */
	const through = async (act: () => 'going' | 'finished') => {
		while (act() === 'going') {
			const step = doing()
			const turn = turns.get(step) ?? 0
			if (step === 'nothing' || turn >= each || sum >= kills) {
				await pause(5)
				continue
			}
			turns.set(step, turn + 1)
			if (sum % 8 === 7)
				await running.killStarter(async () => {
					for (const until = performance.now() + 1000; performance.now() < until && doing() === 'nothing'; ) {
						act()
						await pause(4)
					}
					await pause(Math.random() * 120)
				})
			else await pause(Math.random() * (step === 'send' ? 400 : 120))
			const over = doing()
			killed.set(over, (killed.get(over) ?? 0) + 1)
			if (sum % 8 !== 7) await strike()
			sum++
		}
	}
	let month = 0
	const runs: number[] = []
	for (; month === 0 || sum < kills; month++) {
		const first = 10_000 + month * orders
		const rows = Array.from(
			{ length: orders },
			(_, index) =>
				`${first + index},2026-10-03,${index % 40 === 7 ? 'B1' : 'A1'},ROPE,Line,${(index % 9) + 1},2.${10 + (index % 80)},STD,${index % 3 ? '' : '6.50'}`,
		)
		const file = bring(
			books,
			`orders ${month}.csv`,
			'Order No,Order date,Cust. No,Item,Description,Qty,Unit price,VAT code,Freight',
			rows,
		)
		turns.clear()
		await through(() => fileActs(books, file))
		const started = startRun(books, desk, '2026-10-31', '2026-10-31')
		const run = started.ok ? (started.id ?? 0) : 0
		runs.push(run)
		await through(() => clerkActs(books, run))
		expect(closeRun(books, desk, run)).toEqual({ ok: true })
		const paid = benchRows(books, run).map(
			({ number, customer_id, total }) =>
				`${readCustomer(books, customer_id)?.number},2026-10-31,${(total / 100).toFixed(2)},${number},GBP`,
		)
		const payments = bring(books, `payments ${month}.csv`, 'Customer No,Paid on,Amount,Reference,Currency', paid)
		turns.clear()
		await through(() => fileActs(books, payments))
	}
	const owed = inOneStep(books, () => oweSomething(books))
	const stated = startStatements(books, desk, choice, true)
	const statements = stated.ok ? (stated.id ?? 0) : 0
	await through(() => clerkActs(books, statements))
	expect((await fetch(`http://127.0.0.1:${running.port}/runs/${runs[0]}`)).status).toBe(200)
	await running.stop()
	console.log(`${sum} kills over ${month} months, while it was at: ${JSON.stringify(Object.fromEntries(killed))}`)

	// It was killed in the middle of the work, not beside it.
	for (const step of kills >= 300 ? ['gather', 'accept file', 'make', 'send'] : ['make', 'send'])
		expect(killed.get(step) ?? 0, step).toBeGreaterThan(0)
	const all = runs.flatMap((run) => benchRows(books, run))
	expect(all.map(({ number }) => Number(number?.slice(2))).sort((a, b) => a - b)).toEqual(
		Array.from({ length: orders * month }, (_, index) => 41 + index),
	)
	expect(new Set(all.flatMap(({ order_numbers }) => order_numbers.split(', '))).size).toBe(orders * month)
	expect(all.every(({ file_sha256 }) => file_sha256 !== null)).toBe(true)
	for (const run of runs)
		for (const { orders: taken, net, gap } of tallyOf(books, run)[0]?.stages ?? [])
			expect([taken, net, gap.documents]).toEqual([orders, tallyOf(books, run)[0]?.stages[0]?.net, 0])
	// Each message reached the other side once, whatever the books say of it.
	const post = openPracticePost(join(data, 'practice-mail'))
	const arrived = arrivalCounts(post)
	post.close()
	for (const { id } of all) {
		const message = messageOfDocument(books, id)
		if (message)
			expect([message.number, arrived.get(`${message.message_id} ${message.recipient}`)]).toEqual([message.number, 1])
	}
	// Each payment was entered once, and nothing is owed but what came after.
	const entered = books.db
		.prepare<[], { n: number; amount: number }>(
			"SELECT count(*) AS n, sum(amount) AS amount FROM ledger_item WHERE kind = 'payment'",
		)
		.get()
	expect(entered).toEqual({ n: all.length, amount: all.reduce((amount, { total }) => amount + total, 0) })
	const sent = benchRows(books, statements)
	expect(sent.filter(({ message_state }) => message_state === 'sent').length).toBeGreaterThanOrEqual(owed)
	expect(new Set(sent.map(({ number }) => number)).size).toBe(sent.length)
	for (const { check, looked, wrong } of verify(books)) {
		expect(wrong, check).toEqual([])
		expect(looked, check).toBeGreaterThan(0)
	}
	books.db.close()
	rmSync(data, { recursive: true, force: true })
})
