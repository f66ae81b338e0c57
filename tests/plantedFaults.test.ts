import { expect, test } from 'vitest'
import { creditSchema, startCredit } from '@/runs/issue/credit'
import { numberDocuments } from '@/runs/issue/number'
import { verify, verifyOne } from '@/runs/issue/verify'
import { lookAgain } from '@/runs/recheck/lookAgain'
import { writeMessages } from '@/runs/send/send'
import type { Books } from '@/store/books'
import { benchRows } from '@/store/places'
import { saveRegister } from '@/store/registers'
import { unsealed } from '@/store/seals'
import { billed, line, nextStep, sendRun } from './runs'
import { stated } from './stated'
import { desk, plainRegister } from './support'

// Facts changed behind the program's back, each in books that hold: whatever another fact determines is seen by `verify`.

/** Books with invoices, statements, a credit note, messages that went, and a register that was moved on. */
async function books(): Promise<Books> {
	const { books } = await stated()
	const rows = [
		'1,03/10/2026,A1,ROPE,Line,10,2.15,5,STD,10,6.50',
		'1,03/10/2026,A1,ROPE,Other,2.5,1.99,,ZERO,10,6.50',
		'2,04/10/2026,C1,ROPE,Line,3,5.00,,STD,,',
		'3,05/10/2026,C1,ROPE,More,4,5.00,,STD,,',
	]
	const run = await billed(books, ...rows)
	writeMessages(books, desk, run)
	await sendRun(books, desk, run, [line('sent')])
	saveRegister(books, desk, { ...plainRegister, kind: 'credit-note', prefix: 'CN-', digits: 3, next: 1 })
	saveRegister(books, desk, { ...plainRegister, kind: 'invoice', prefix: 'T-', digits: 4, next: 60 })
	const [invoice] = benchRows(books, run)
	const credit = creditSchema.parse({ lines: [{ line: 0, quantity: '4' }], freight: false, reason: 'wet' })
	const started = startCredit(books, desk, invoice?.id ?? 0, credit)
	await nextStep(books, started.ok ? (started.id ?? 0) : 0)
	const more = await billed(books, '4,06/10/2026,A1,ROPE,Later,1,9.00,,STD,,')
	expect(benchRows(books, more)[0]?.number).toBe('T-0060')
	const statements = books.db.prepare<[], number>(`SELECT id FROM run WHERE kind = 'statement'`).pluck().get() ?? 0
	// What changed since they were drafted is shown first; what is no longer true waits.
	lookAgain(books, desk, statements)
	const drafts = benchRows(books, statements).filter(({ place }) => place === 'to number').length
	expect(numberDocuments(books, desk, statements, drafts)).toMatchObject({ ok: true, count: expect.any(Number) })
	return books
}
const wrong = (of: Books) => verify(of).flatMap((found) => found.wrong)

/** Kinds of documents that faults are planted in, by how they are picked. */
const picks = {
	invoice: `(SELECT min(id) FROM document WHERE kind = 'invoice' AND number IS NOT NULL)`,
	'credit note': `(SELECT min(id) FROM document WHERE kind = 'credit-note' AND number IS NOT NULL)`,
	statement: `(SELECT min(id) FROM document WHERE kind = 'statement' AND number IS NOT NULL)`,
}

const alike = (names: string[], why: string): Record<string, string> =>
	Object.fromEntries(names.map((name) => [name, why]))

/** Columns of an issued document's row that nothing else determines, with why; all others are determined. */
const freeOfDocument: Record<string, string> = {
	position: 'the order in which a clerk had the drafts numbered',
	email: 'may be given to one document by a person',
	level: 'what checks found as it was a draft',
	...alike(['held_reason', 'held_by', 'held_at', 'looked_by', 'looked_at'], 'of a draft: who held it, or looked'),
	...alike(
		['printed_at', 'printed_by', 'only_filed_at', 'only_filed_by', 'went_on', 'message_held'],
		'what a person did with the paper; the record has it',
	),
	...alike(
		['void_reason', 'void_at', 'void_by', 'replaced_at', 'replaced_by', 'replaced_reason'],
		'a correction; what follows from it is compared, who and why is in the record',
	),
	...alike(
		['dropped_at', 'dropped_by', 'dropped_reason', 'files_away_at', 'files_away_by', 'files_away_reason'],
		'what was put away, by whom and why; the record has it',
	),
	...alike(['file_size', 'pages', 'made_at', 'filed_as'], 'of the file, whose hash is compared'),
	...alike(['changed', 'let_stand'], 'what of a statement was otherwise as it waited'),
	numbered_at: 'the moment; what was known then is compared',
	revises_id: 'of a revision alone',
	stage: 'compared on statements',
	past_due: 'compared on statements',
}
const freeOfStatement: Record<string, string> = {
	order_count: 'how many items its account had open, also those that are not on it',
	order_numbers: 'the same in words',
}

/** A row of each other table that has no seal, and of its columns which are free, with why; a free `row` may be gone or doubled. */
const rows: Record<string, { row: string; free?: Record<string, string> }> = {
	ledger_item: {
		row: `document_id = ${picks.invoice}`,
		free: {
			entered_at: 'when; the record has it of the numbering',
			entered_by: 'by whom; the record has it of the numbering',
			extract_id: 'which extract it stood in last; what extracts changed of it is sealed',
		},
	},
	order_line: {
		row: `document_id = ${picks.invoice}`,
		free: { looked_up: 'whose names for an item a file used' },
	},
	sales_order: {
		row: `document_id = ${picks.invoice}`,
		free: {
			...alike(
				['apart', 'source_file_id', 'acceptance_id', 'content_sha256', 'same_as', 'looked_up', 'line_count'],
				'how it came in',
			),
			...alike(
				['discount_percent', 'discount_amount', 'discount_label', 'freight', 'freight_percent', 'freight_tax_code'],
				'what its invoice has of it is in the content, whose hash the record has; the rules of the day go before it',
			),
			...alike(
				['part_of', 'joined_to', 'shared'],
				'how it was divided and put together, each by a change that is sealed',
			),
			...alike(
				['held_reason', 'held_by', 'held_at', 'away_reason', 'away_by', 'away_at'],
				'of an order that waits, or counts no more',
			),
			note: 'for the firm; on no invoice',
			row: 'two orders may be alike but for their ids, where a part of one was divided',
		},
	},
	run_order: {
		row: `(run_id, order_id) = (SELECT d.run_id, o.id FROM document d JOIN sales_order o ON o.document_id = d.id WHERE d.id = ${picks.invoice})`,
	},
	extract_row: {
		row: 'extract_id = (SELECT min(extract_id) FROM extract_row)',
		free: alike(
			['item_id', 'number', 'kind', 'due_day', 'amount', 'open', 'row'],
			'what an extract said; what it made of the ledger is compared with what was applied and changed',
		),
	},
	finding: {
		row: 'document_id = (SELECT min(document_id) FROM finding)',
		free: alike(
			['document_id', 'code', 'place', 'level', 'brief', 'text', 'order_number', 'row'],
			'of a draft; found anew as it is numbered',
		),
	},
	row_taken: {
		row: 'file_id = (SELECT min(file_id) FROM row_taken)',
		free: alike(['said', 'row'], 'which row of a file came in before'),
	},
	account_moves: {
		row: 'customer_id = (SELECT max(customer_id) FROM account_moves)',
		free: alike(['customer_id', 'moves', 'row'], 'how often something was written; what it moved from is drafted anew'),
	},
	statement_look: {
		row: 'document_id = (SELECT max(document_id) FROM statement_look)',
		free: alike(
			['document_id', 'moves', 'day', 'row'],
			'when a statement was found true; without it it is looked at again',
		),
	},
	job: {
		row: 'id = (SELECT min(id) FROM job)',
		free: alike(
			[
				'kind',
				'lane',
				'payload',
				'run_id',
				'file_id',
				'state',
				'asked_at',
				'asked_by',
				'started_at',
				'ended_at',
				'done',
				'total',
				'words',
				'row',
			],
			'what the runner did; what came of it is compared',
		),
	},
}

test('whatever of an issued document another fact determines is seen when it is changed, emptied, doubled or gone', async () => {
	const own = await books()
	expect(wrong(own)).toEqual([])
	const { db } = own
	db.pragma('foreign_keys = OFF')
	const triggers = db.prepare<[], string>(`SELECT name FROM sqlite_schema WHERE type = 'trigger'`).pluck().all()
	for (const name of triggers) db.exec(`DROP TRIGGER ${name}`)
	const unseen: string[] = []
	let planted = 0
	/** Plants a fault, looks, and takes it back; a fault that the tables refuse is none. */
	const plant = (name: string, sql: string) => {
		db.exec('SAVEPOINT fault')
		try {
			if (db.prepare(sql).run().changes === 0) return
			planted++
			if (wrong(own).length === 0) unseen.push(name)
		} catch (error) {
			if (!(error instanceof Error) || !String('code' in error && error.code).startsWith('SQLITE_CONSTRAINT'))
				throw error
		} finally {
			db.exec('ROLLBACK TO fault; RELEASE fault')
		}
	}
	const columnsOf = (table: string) =>
		(db.pragma(`table_info(${table})`) as { name: string; type: string; notnull: number }[]).filter(
			({ name }) => name !== 'id',
		)
	const otherwise = (name: string, type: string) =>
		type === 'INTEGER' ? `coalesce(${name}, 0) + 1` : `coalesce(${name}, '') || 'x'`

	for (const [kind, id] of Object.entries(picks)) {
		expect([kind, db.prepare(`SELECT ${id}`).pluck().get()]).toEqual([kind, expect.any(Number)])
		for (const { name, type } of columnsOf('document')) {
			if (freeOfDocument[name] || (kind === 'statement' && freeOfStatement[name])) continue
			// A date is changed to another, and a kind to another.
			const value =
				name === 'day' || name === 'due_day'
					? `date(${name}, '+1 day')`
					: name === 'kind'
						? `'invoice-x'`
						: otherwise(name, type)
			plant(`${kind}: document.${name}`, `UPDATE document SET ${name} = ${value} WHERE id = ${id}`)
		}
		const text =
			db.prepare<[], string>(`SELECT content FROM document_content WHERE document_id = ${id}`).pluck().get() ?? '{}'
		for (const path of leaves(JSON.parse(text) as unknown)) {
			plant(
				`${kind}: content ${path}`,
				`UPDATE document_content SET content = json_set(content, '${path}',
					CASE json_type(content, '${path}') WHEN 'integer' THEN json_extract(content, '${path}') + 1 WHEN 'true' THEN json('false') WHEN 'false' THEN json('true')
					ELSE coalesce(json_extract(content, '${path}'), '') || '9' END) WHERE document_id = ${id}`,
			)
		}
		plant(`${kind}: its content gone`, `DELETE FROM document_content WHERE document_id = ${id}`)
		plant(`${kind}: not frozen`, `UPDATE document_content SET frozen = 0 WHERE document_id = ${id}`)
	}
	for (const { name, type } of columnsOf('event'))
		plant(
			`event.${name}`,
			`UPDATE event SET ${name} = ${otherwise(name, type)} WHERE id = (SELECT max(id) / 2 FROM event)`,
		)
	plant('an event gone', 'DELETE FROM event WHERE id = (SELECT max(id) / 2 FROM event)')
	expect([...Object.keys(rows), 'document', 'document_content', 'event', 'row_seal'].sort()).toEqual(
		Object.keys(unsealed).sort(),
	)
	for (const [table, { row, free = {} }] of Object.entries(rows)) {
		expect([table, db.prepare(`SELECT count(*) FROM ${table} WHERE ${row}`).pluck().get()]).toEqual([
			table,
			expect.anything(),
		])
		const columns = columnsOf(table)
		for (const { name, type, notnull } of columns) {
			if (free[name] !== undefined) continue
			plant(`${table}.${name}`, `UPDATE ${table} SET ${name} = ${otherwise(name, type)} WHERE ${row}`)
			const empty = notnull === 0 ? 'NULL' : type === 'INTEGER' ? '0' : `''`
			plant(
				`${table}.${name} emptied`,
				`UPDATE ${table} SET ${name} = ${empty} WHERE ${row} AND ${name} IS NOT ${empty}`,
			)
		}
		if (free.row !== undefined) continue
		plant(`${table}: a row gone`, `DELETE FROM ${table} WHERE ${row}`)
		const names = columns.map(({ name }) => name)
		plant(
			`${table}: a row doubled`,
			`INSERT INTO ${table} (${names.join(', ')}) SELECT ${names.map((name) => (name === 'number' ? `number || '*'` : name)).join(', ')} FROM ${table} WHERE ${row}`,
		)
	}
	plant('a register moved on', `UPDATE register_count SET next = next + 5`)
	plant(
		'a false skip',
		"INSERT INTO register_skip (register_id, year, first, last, at, clerk) SELECT register_id, year, 200, 210, 'x', 'Wren' FROM register_count LIMIT 1",
	)
	for (const name of ['first', 'last']) plant(`register_skip.${name}`, `UPDATE register_skip SET ${name} = ${name} - 1`)
	plant(
		'a file as it came',
		`UPDATE source_part SET bytes = bytes || x'20' WHERE file_id = (SELECT min(file_id) FROM source_part)`,
	)
	plant(
		'a file’s hash',
		`UPDATE source_file SET sha256 = sha256 || 'x' WHERE id = (SELECT min(file_id) FROM source_part)`,
	)

	expect(planted).toBeGreaterThan(350)
	expect(unseen).toEqual([])
	expect(wrong(own)).toEqual([])
	expect(verifyOne(own, 'T-0041')).toEqual([])
	expect(verifyOne(own, 'T-9999')).toBeNull()
})

/** The paths of every value within a JSON value, as SQLite writes them. */
function leaves(value: unknown, path = '$'): string[] {
	if (Array.isArray(value)) return value.flatMap((one, at) => leaves(one, `${path}[${at}]`))
	if (typeof value === 'object' && value !== null)
		return Object.entries(value).flatMap(([key, one]) => leaves(one, `${path}.${key}`))
	return value === null ? [] : [path]
}
