import type Database from 'better-sqlite3'
import { expect, test } from 'vitest'
import type { Books } from '@/store/books'
import { billed, nextStep } from './runs'
import { stated } from './stated'
import { desk } from './support'
import { openInWeb } from './web'

// Every page, and every answer that pages fetch, is read once over small books; of each statement that it uses, SQLite says how it would go
// about it (EXPLAIN QUERY PLAN, sqlite.org/eqp.html). None may go through the whole of a large table where that was not meant.

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
	[
		/FROM \(SELECT i\.id, i\.customer_id, i\.currency, i\.side, coalesce\(\(SELECT h\.due_was/,
		'what was owed in all on a day past: the ledger up to then',
	],
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
]

type Used = { text: string; by: Set<string> }

/** Notes every statement that is prepared on the books while `work` goes. */
async function noting(books: Books, used: Map<string, Used>, by: string, work: () => Promise<unknown>): Promise<void> {
	const note = (text: string) => {
		const known = used.get(text) ?? { text, by: new Set<string>() }
		known.by.add(by)
		used.set(text, known)
	}
	const { db, sql } = books
	const prepare = db.prepare.bind(db)
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
function scanned(db: Database.Database, text: string): string[] {
	if (!/^\s*(SELECT|WITH)/i.test(text)) return []
	const plan = db.prepare<[], { detail: string }>(`EXPLAIN QUERY PLAN ${text}`)
	const bare = text.replace(/[?]\d*|[@:$]\w+/g, 'NULL')
	const rows = (() => {
		try {
			return db.prepare<[], { detail: string }>(`EXPLAIN QUERY PLAN ${bare}`).all()
		} catch {
			return plan.all()
		}
	})()
	// An alias stands for its table.
	const names = new Map(large.map((table) => [table, table]))
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
	const parts = db
		.prepare<[], { name: string }>(`SELECT name FROM sqlite_schema WHERE type = 'index' AND sql LIKE '% WHERE %'`)
		.all()
	return rows.flatMap(({ detail }) => {
		const name =
			few || parts.some((index) => detail.endsWith(` ${index.name}`)) ? undefined : /^SCAN (\w+)/.exec(detail)?.[1]
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
	const wrong = [...used.values()].flatMap(({ text, by }) => {
		const tables = scanned(books.db, text)
		return tables.length === 0 || meant.some(([start]) => start.test(text.trim()))
			? []
			: [`${[...by].join(', ')}: ${tables.join('; ')}: ${text.replace(/\s+/g, ' ').slice(0, 300)}`]
	})
	expect(wrong).toEqual([])
})
