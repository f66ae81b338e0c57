// Statements from ledger to recorded PDFs, and how fast the accounts open: node statements.mjs COUNT

import { rmSync } from 'node:fs'
import { join } from 'node:path'
import { chromium } from '@playwright/test'
import Piscina from 'piscina'
import { addDays } from '@/core/calendar'
import type { StatementChoice } from '@/core/statement'
import { doJob, type Shop } from '@/runner/work'
import { panelOf } from '@/runs/bench/panel'
import { startStatements } from '@/runs/statements/start'
import { agedAccounts } from '@/store/accounts'
import { type Books, inOneStep } from '@/store/books'
import { allCustomers, saveCustomer } from '@/store/customers'
import { askFor, latestJob, nextJob, type Step } from '@/store/jobs'
import { addApplication, addItem } from '@/store/ledger'
import type { MadeFile } from '@/store/made'
import { saveRegister } from '@/store/registers'
import { seatClerk } from '@/store/settings'
import { browserOptions } from '../../scripts/setup.mjs'
import { freePort, pause, startWeb } from '../faults/processes'
import { customer } from '../firm'
import { benchBooks, benchDesk } from './books'

const amountOf = (id: number, place: number): number => 1000 + ((id * 131 + place * 977) % 90_000)

/**
 * Books of so many customers with so many items each, some of them late, some credits; `open` of each ten are not settled. The first customer
 * has `first` items.
 */
function owing(customers: number, each: number, open = 10, first = each): Books {
	const books = benchBooks(0)
	inOneStep(books, () => {
		saveRegister(books, benchDesk, {
			kind: 'statement',
			prefix: 'S-',
			digits: 6,
			next: 1,
			first: 1,
			yearly: 0,
			year: 0,
		})
		for (let index = 500; index < customers; index++)
			saveCustomer(books, benchDesk, customer(`C${index}`, { name: `Customer ${index} of the Northern Harbours` }))
		for (const { id } of allCustomers(books).slice(0, customers))
			for (let place = 0; place < (id === 1 ? first : each); place++) {
				const day = addDays('2026-10-31', -((id * 7 + place * 11) % 200))
				const credit = place % 10 === 9
				const item = addItem(books, benchDesk, {
					customer_id: id,
					kind: credit ? 'credit' : 'invoice',
					side: credit ? 'credit' : 'debit',
					number: `I-${id}-${place}`,
					day,
					due_day: credit ? day : addDays(day, 30),
					currency: 'GBP',
					amount: amountOf(id, place),
					their_order: place % 3 ? '' : `PO-${place}`,
					note: '',
					document_id: null,
					extract_id: null,
				})
				if ((id + place) % 10 < open) continue
				addApplication(books, benchDesk, {
					debit_id: credit ? null : item,
					credit_id: credit ? item : null,
					day: '2026-10-30',
					amount: amountOf(id, place),
					reason: 'settled',
				})
			}
	})
	return books
}

const row = (name: string, value: string) => console.log(`${name.padEnd(58)} ${value}`)
const count = Number(process.argv[2] ?? 2000)
const books = owing(count, 20)
const pool = new Piscina<never, MadeFile[]>({
	filename: join(import.meta.dirname, 'makeWorker.mjs'),
	minThreads: 2,
	maxThreads: 2,
})
const shop: Shop = {
	books,
	now: benchDesk.now,
	makeBatch: (batch) => pool.run(batch as never),
	makers: 2,
	practicePort: 0,
}
const choice: StatementChoice = {
	...{ asOf: '2026-10-31', form: 'open items', since: '', show: 'all', credits: 'apart', least: 0 },
	...{ hold: false, copies: false, charges: false, customers: [] },
}
const started = startStatements(books, benchDesk, choice, true)
const run = started.ok ? (started.id ?? 0) : 0
const step = async (name: Step) => {
	const numbered = books.db
		.prepare<[], { n: number }>('SELECT count(*) AS n FROM document WHERE held_reason IS NULL')
		.get()
	if (name !== 'gather') askFor(books, benchDesk, { kind: name, run, expected: numbered?.n ?? 0 })
	const job = nextJob(books)
	if (!job) throw new Error(`No job for ${name}.`)
	const from = performance.now()
	await doJob(shop, job)
	if (latestJob(books, run)?.state !== 'done') throw new Error(`${name}: ${latestJob(books, run)?.words}`)
	return performance.now() - from
}
console.log(`${count} statements of 20 items, 2 workers, one run of this machine\n`)
const times = { gather: await step('gather'), number: await step('number'), make: await step('make') }
const total = times.gather + times.number + times.make
row('gather', `${times.gather.toFixed(0)} ms`)
row('number and freeze', `${times.number.toFixed(0)} ms`)
row('make and record', `${times.make.toFixed(0)} ms`)
row('ledger to recorded PDFs', `${total.toFixed(0)} ms, ${((count * 1000) / total).toFixed(0)} statements a second`)
books.db.close()
rmSync(books.folder, { recursive: true, force: true })

const middle = (times: number[]) => times.sort((a, b) => a - b)[Math.floor(times.length / 2)] ?? 0

/** How long the accounts take to add up, and their page to open. */
async function accounts(open: number): Promise<void> {
	const many = owing(5000, 40, open)
	seatClerk(many, benchDesk)
	const times = async (turns: number, work: () => unknown) => {
		const each: number[] = []
		for (let turn = 0; turn < turns; turn++) {
			const from = performance.now()
			await work()
			each.push(performance.now() - from)
		}
		return `${middle(each).toFixed(0)} ms`
	}
	// Something is written between two readings, so that nothing of the one can serve the other.
	let turn = 0
	const rename = many.db.prepare<[string]>('UPDATE customer SET name = ? WHERE id = 1')
	const touch = () => rename.run(`Customer 0, turn ${++turn}`)
	const added = await times(9, () => {
		touch()
		return agedAccounts(many, '2026-10-31')
	})
	const port = await freePort()
	const web = startWeb(many.folder, port)
	const page = `http://127.0.0.1:${port}/accounts?asOf=2026-10-31`
	for (let tries = 0; tries < 200; tries++) {
		try {
			if ((await fetch(page)).ok) break
		} catch {
			await pause(50)
		}
	}
	const read = async (path = page) => (await fetch(path)).arrayBuffer()
	const again = await times(15, () => read())
	const opened = await times(15, () => {
		touch()
		return read()
	})
	const months = await times(3, () => {
		touch()
		return read(page.replace('accounts?', 'api/accounts/months?currency=GBP&'))
	})
	console.log(`\naccounts of 5,000 customers, 200,000 items, ${open * 10}% of them open`)
	row('added up', added)
	row('the page, after something was written', opened)
	row('the page, again', again)
	row('the twelve months of its chart', months)
	await web.kill('SIGTERM')
	many.db.close()
	rmSync(many.folder, { recursive: true, force: true })
}
await accounts(10)
await accounts(2)

/** A ledger with one account of 5,000 items: its page and its bench, and the gathering of every account in either form. */
async function large(): Promise<void> {
	const many = owing(5000, 40, 10, 5000)
	seatClerk(many, benchDesk)
	const own: Shop = { ...shop, books: many }
	const timed = async (work: () => unknown) => {
		const from = performance.now()
		await work()
		return performance.now() - from
	}
	console.log('\n5,000 customers, 205,000 items, one account with 5,000 of them')
	const runs: number[] = []
	for (const form of ['open items', 'balance forward'] as const) {
		const since = form === 'open items' ? '' : '2026-10-01'
		const begun = startStatements(many, benchDesk, { ...choice, form, since }, true)
		runs.push(begun.ok ? (begun.id ?? 0) : 0)
		const job = nextJob(many)
		if (!job) throw new Error('No job to gather.')
		// How long a writer beside it waits at most: the longest that the gathering holds the books.
		let longest = 0
		let last = performance.now()
		const watch = setInterval(() => {
			longest = Math.max(longest, performance.now() - last)
			last = performance.now()
		}, 1)
		row(`gathered, ${form}`, `${(await timed(() => doJob(own, job))).toFixed(0)} ms`)
		clearInterval(watch)
		row('  its longest step, while which nobody else writes', `${longest.toFixed(0)} ms`)
	}
	const statement = many.db
		.prepare<[number], { id: number }>('SELECT id FROM document WHERE run_id = ? AND customer_id = 1')
		.get(runs[0] ?? 0)
	row('the panel of its statement, read', `${(await timed(() => panelOf(many, statement?.id ?? 0))).toFixed(0)} ms`)
	const port = await freePort()
	const web = startWeb(many.folder, port)
	const at = `http://127.0.0.1:${port}`
	for (let tries = 0; tries < 200; tries++) {
		try {
			if ((await fetch(`${at}/letters`)).ok) break
		} catch {
			await pause(50)
		}
	}
	const browser = await chromium.launch(browserOptions())
	const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
	const opened = async (path: string, seen: () => Promise<unknown>) => {
		const times: number[] = []
		for (let turn = 0; turn < 5; turn++)
			times.push(
				await timed(async () => {
					await page.goto(`${at}${path}`)
					await seen()
				}),
			)
		const nodes = await page.evaluate(() => document.querySelectorAll('*').length)
		return `${middle(times).toFixed(0)} ms, ${nodes} nodes`
	}
	const account = await opened('/accounts/1', () => page.getByRole('table', { name: 'Open items in GBP' }).waitFor())
	row('its account, opened in the browser', account)
	const bench = await opened(`/runs/${runs[0]}?doc=${statement?.id}&tab=working`, () =>
		page.getByRole('table', { name: 'Why each item is on it or not' }).waitFor(),
	)
	row('its bench with its items, opened in the browser', bench)
	await browser.close()
	await web.kill('SIGTERM')
	many.db.close()
	rmSync(many.folder, { recursive: true, force: true })
}
/** One account of 200,000 items beside a small one: the page of each alone, and the small one's while the long one's is read. */
async function long(): Promise<void> {
	const many = owing(100, 20, 5, 200_000)
	seatClerk(many, benchDesk)
	const port = await freePort()
	const web = startWeb(many.folder, port)
	const read = async (id: number) => {
		const from = performance.now()
		await (await fetch(`http://127.0.0.1:${port}/accounts/${id}`)).arrayBuffer()
		return performance.now() - from
	}
	for (let tries = 0; tries < 200; tries++) {
		try {
			if ((await fetch(`http://127.0.0.1:${port}/letters`)).ok) break
		} catch {
			await pause(50)
		}
	}
	await read(2)
	const each = { small: [] as number[], long: [] as number[], beside: [] as number[] }
	for (let turn = 0; turn < 7; turn++) {
		each.small.push(await read(2))
		each.long.push(await read(1))
		const [, beside] = await Promise.all([read(1), read(2)])
		each.beside.push(beside)
	}
	const [small, own, beside] = [middle(each.small), middle(each.long), middle(each.beside)]
	console.log('\none account of 200,000 items, half of them open, beside one of 20')
	row('the small account’s page', `${small.toFixed(0)} ms`)
	row('the long one’s', `${own.toFixed(0)} ms, ${(own / small).toFixed(1)} times as long`)
	row('the small one’s while the long one’s is read', `${beside.toFixed(0)} ms`)
	await web.kill('SIGTERM')
	many.db.close()
	rmSync(many.folder, { recursive: true, force: true })
}
await large()
await long()
await pool.destroy()
