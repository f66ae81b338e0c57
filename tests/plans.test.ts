import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import type Database from 'better-sqlite3'
import { expect, test } from 'vitest'
import { doJob, type Shop } from '@/runner/work'
import { askStep, startRun } from '@/runs/bench/steps'
import { askToAccept, askToTakeBack, changeReading, receiveFile } from '@/runs/bringIn/receive'
import { reviewOf } from '@/runs/bringIn/review'
import { askToLookAgain } from '@/runs/customers/changeCustomer'
import { makeBatch } from '@/runs/files/make'
import { bringForm } from '@/runs/forms/forms'
import { throwTrialsAway } from '@/runs/papers/keep'
import { askForDue, settleLeftSending } from '@/runs/send/sending'
import { nextAct } from '@/runs/tally/tally'
import type { Books } from '@/store/books'
import { readBill } from '@/store/documents'
import { draftsOf } from '@/store/drafts'
import { readFile } from '@/store/files'
import { askFor, nextJob, taskKinds } from '@/store/jobs'
import { runGroups } from '@/store/places'
import { billed, nextStep } from './runs'
import { stated } from './stated'
import { bringOrders, desk, orderHead } from './support'
import { openInWeb } from './web'

// Every page, and every answer that pages fetch, is read once over small books; of each statement that it uses, SQLite says how it would go
// about it (EXPLAIN QUERY PLAN, sqlite.org/eqp.html). None may go through the whole of a large table where that was not meant.

const form = join(import.meta.dirname, 'forms/brackets.docx')

/** Tables that grow with the firm's work. */
const large = [
	...['ledger_item', 'application', 'item_change', 'extract_row', 'dispute', 'late_charge'],
	...[
		'document',
		'document_content',
		'document_file',
		'document_change',
		'finding',
		'message',
		'message_copy',
		'attempt',
		'own_message',
	],
	...['sales_order', 'order_line', 'run_order', 'paper', 'paper_record', 'event', 'row_taken', 'correction'],
]

/** What goes through a whole table, or what an index has of it, by intent: by the beginning of its statement, with why. */
const meant: [part: RegExp, why: string][] = [
	[/^SELECT o\.customer_id, o\.currency, sum\(o\.open\)/, 'disputes of that day, which are few'],
	[/o\.id IN \(SELECT item_id FROM dispute/, 'the same'],
	[
		/FROM ledger_item i LEFT JOIN application a ON a\.debit_id = i\.id\s+WHERE i\.side = 'debit' AND i\.currency/,
		'the twelve months of the chart, which a person waits for',
	],
	[/^SELECT item_id, day, amount_was, amount_is, due_was FROM item_change/, 'the same'],
	[/length\(c\.content\) AS length/, 'the proof sheet: the hardest of all papers are looked for'],
	[/json_extract\(c\.content, '\$\.layout\.id'\) = \?/, 'how many papers a layout was used for'],
	[/GROUP BY run_id ORDER BY run_id DESC LIMIT/, 'the latest runs with papers of a kind'],
	[
		/SELECT max\(id\) AS document_id, customer_id, customer_name FROM document WHERE kind/,
		'the latest paper of every customer, to show a letter with',
	],
	[/ESCAPE/, 'a search that a person typed'],
	[/\bd\.number IS NULL/, 'drafts, which are few beside what was issued'],
]

/** A statement: the large tables that it goes through as SQLite would run it then, and who runs it. */
type Used = { text: string; tables: string[]; by: Set<string> }

/** Notes every statement that is prepared on the books while `work` goes. */
async function noting(books: Books, used: Map<string, Used>, by: string, work: () => Promise<unknown>): Promise<void> {
	const { db, sql } = books
	const prepare = db.prepare.bind(db)
	// Explained where it is run: what a file brought stands in a database of its own, which is there for that while alone.
	const note = (text: string) => {
		const known = used.get(text) ?? { text, tables: scanned(prepare, text), by: new Set<string>() }
		known.by.add(by)
		used.set(text, known)
	}
	books.sql = ((text: string) => {
		note(text)
		return sql(text)
	}) as Books['sql']
	db.prepare = ((text: string) => {
		note(text)
		return prepare(text)
	}) as typeof db.prepare
	try {
		await work()
	} finally {
		books.sql = sql
		db.prepare = prepare as typeof db.prepare
	}
}

/** Tables that a statement goes through from end to end, as SQLite says. */
function scanned(prepare: Database.Database['prepare'], text: string): string[] {
	if (!/^\s*(SELECT|WITH|UPDATE|DELETE|INSERT)/i.test(text)) return []
	const explain = (one: string) => prepare<[], { detail: string }>(`EXPLAIN QUERY PLAN ${one}`).all()
	const rows = (() => {
		try {
			return explain(text.replace(/[?]\d*|[@:$]\w+/g, 'NULL'))
		} catch {
			return explain(text)
		}
	})()
	// A table is called in a plan by its alias, where it has one. By its own name an INSERT's is called too, for the keys that point to it:
	// those are gone through where one is broken alone.
	const own = (table: string) => new RegExp(`\\b(FROM|JOIN|UPDATE)\\s+${table}\\b(?!\\s+(?:AS\\s+)?[a-z])`).test(text)
	const names = new Map(large.filter(own).map((table) => [table, table]))
	// The view `placed` looks at documents and their messages by these.
	for (const [alias, table] of [
		['d', 'document'],
		['m', 'message'],
	] as const)
		names.set(alias, table)
	for (const [, table = '', alias = ''] of text.matchAll(/\b(?:FROM|JOIN)\s+(\w+)\s+(?:AS\s+)?(\w+)/gi))
		if (large.includes(table)) names.set(alias, table)
	// The latest few are read from the end, and no more.
	const few = /ORDER BY [\w.]*id DESC LIMIT/.test(text) && !rows.some(({ detail }) => detail.includes('TEMP B-TREE'))
	// An index of just the few that are wanted may be gone through.
	const parts = prepare<[], { name: string }>(
		`SELECT name FROM sqlite_schema WHERE type = 'index' AND sql LIKE '% WHERE %'`,
	).all()
	/** One that is looked up by what most rows have none of goes through nearly all of it: the index is of the few that have one. */
	const allButFew = (detail: string) => {
		const [, name = '', column = ''] = /^SEARCH (\w+) USING (?:COVERING )?INDEX \w+ \((\w+)=\?\)$/.exec(detail) ?? []
		const says = (how: string) => new RegExp(`\\b${name}\\.${column} ${how}`).test(text)
		return name !== '' && says('IS NULL') && !says('=') ? name : undefined
	}
	return rows.flatMap(({ detail }) => {
		const whole = /^SCAN (\w+)/.exec(detail)?.[1] ?? allButFew(detail)
		const name = few || parts.some((index) => detail.endsWith(` ${index.name}`)) ? undefined : whole
		const table = name === undefined ? undefined : names.get(name)
		return table === undefined ? [] : [`${table} (${detail})`]
	})
}

test('no statement of a page goes through the whole of a large table unasked', async () => {
	const { books, run } = await stated()
	await nextStep(books, run)
	await nextStep(books, run)
	await billed(books, '8801,03/10/2026,A1,ROPE,Line,10,2.00,,STD,,')
	openInWeb(books)
	books.db.prepare(`INSERT INTO clerk (name, since) VALUES ('Wren', ?) ON CONFLICT DO NOTHING`).run(desk.now())
	const id = (table: string, where = '1') =>
		String(
			books.db.prepare<[], { id: number }>(`SELECT id FROM ${table} WHERE ${where} ORDER BY id LIMIT 1`).get()?.id ?? 1,
		)
	const ids: [part: RegExp, id: string][] = [
		[/accounts/, id('customer', 'id > 0')],
		[/runs/, String(run)],
		[/documents/, id('document', `kind = 'statement' AND number IS NOT NULL`)],
		[/bring-in/, id('source_file')],
		[/orders/, id('sales_order')],
	]
	const pages = import.meta.glob<{ default?: unknown }>('../src/app/**/page.tsx')
	const answers = import.meta.glob<{ GET?: unknown }>('../src/app/api/**/route.ts')
	const used = new Map<string, Used>()
	const failed: string[] = []
	const visit = async (path: string, work: () => Promise<unknown>) => {
		try {
			await noting(books, used, path, work)
		} catch (error) {
			const words = error instanceof Error ? error.message : String(error)
			if (!words.startsWith('went: ')) failed.push(`${path}: ${words}`)
		}
	}
	const params = (path: string) =>
		Promise.resolve({ id: ids.find(([part]) => part.test(path))?.[1] ?? '1', hash: 'x', number: '1' })
	for (const [path, load] of Object.entries(pages)) {
		const page = await load()
		for (const search of [{}, { asOf: '2026-10-15', show: 'a', currency: 'GBP', bucket: '1-30', kind: 'past-due-1' }])
			await visit(path, async () =>
				(page.default as (props: object) => unknown)({ params: params(path), searchParams: Promise.resolve(search) }),
			)
	}
	const { default: Layout } = await import('@/app/layout')
	await visit('layout', async () => (Layout as (props: object) => unknown)({ children: null }))
	for (const [path, load] of Object.entries(answers)) {
		const { GET } = await load()
		if (GET)
			for (const query of ['', '?currency=GBP&asOf=2026-10-15&q=a&show=a&as=csv'])
				await visit(path, async () =>
					(GET as (request: Request, context: object) => unknown)(new Request(`http://x.example/y${query}`), {
						params: params(path),
					}),
				)
	}
	expect(failed).toEqual([])
	expect(used.size).toBeGreaterThan(100)
	expect(unasked(used)).toEqual([])
})

test('no statement of the runner goes through the whole of a large table unasked', async () => {
	const { books, run } = await stated()
	const used = new Map<string, Used>()
	const done = new Set<string>()
	const shop: Shop = { books, now: desk.now, makeBatch, makers: 1, practicePort: 1 }
	/** Does every waiting job, and notes what it runs under the kind of its task. */
	const work = async () => {
		for (let job = nextJob(books); job; job = nextJob(books)) {
			const going = job
			done.add(going.kind)
			await noting(books, used, going.kind, () => doJob(shop, going))
		}
	}
	const step = async (id: number) => {
		const { act, count } = nextAct(runGroups(books, id))
		if (act === 'number' || act === 'make' || act === 'send') askStep(books, desk, id, act, count)
		await work()
	}
	const rows = [orderHead, '8801,03/10/2026,A1,ROPE,Line,10,2.00,,STD,,', '8802,03/10/2026,B1,ROPE,Line,1,2.00,,STD,,']
	const received = receiveFile(books, desk, 'orders.csv', Buffer.from([...rows, ''].join('\n')))
	const file = received.ok ? (received.id ?? 0) : 0
	await work()
	changeReading(books, desk, file, { days: 'day first', orderDiscount: 'percent' })
	await work()
	askToAccept(books, desk, file, reviewOf(readFile(books, file) ?? { review: null })?.digest ?? '')
	await work()
	askToTakeBack(books, desk, file, 'of another month')
	await work()
	await bringOrders(books, ...rows.slice(1).map((row) => row.replace('88', '99')))
	bringForm(books, desk, { kind: 'invoice', name: 'Ours', fileName: 'brackets.docx', bytes: readFileSync(form) })
	const started = startRun(books, desk, '2026-10-31', '2026-10-31')
	const bills = started.ok ? (started.id ?? 0) : 0
	await work()
	askToLookAgain(books, desk, 'a rate')
	askToLookAgain(books, desk, 'an address', readBill(books, draftsOf(books, bills)[0] ?? 0)?.customer_id)
	await work()
	askFor(books, desk, { kind: 'trial print', run: bills })
	await work()
	for (const id of [run, bills]) for (const _ of ['number', 'make', 'send']) await step(id)
	await noting(books, used, 'by itself', async () => {
		askForDue(books, desk)
		throwTrialsAway(books, { ...desk, now: () => '2027-12-01T12:00:00.000Z' })
		await settleLeftSending(books, desk)
	})
	expect(taskKinds.filter((kind) => !done.has(kind))).toEqual([])
	// Nobody takes mail here; all else was done.
	expect(books.db.prepare("SELECT kind, words FROM job WHERE state = 'failed' AND kind <> 'send'").all()).toEqual([])
	expect(unasked(used)).toEqual([])
})

/** Statements that go through a large table though nobody meant it, each with who runs it. */
const unasked = (used: Map<string, Used>): string[] =>
	[...used.values()].flatMap(({ text, tables, by }) => {
		return tables.length === 0 || meant.some(([start]) => start.test(text.trim()))
			? []
			: [`${[...by].join(', ')}: ${tables.join('; ')}: ${text.replace(/\s+/g, ' ').slice(0, 300)}`]
	})
