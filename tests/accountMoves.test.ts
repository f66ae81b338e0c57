import { expect, test } from 'vitest'
import { isStatement } from '@/kinds'
import { notePromise } from '@/runs/customers/promises'
import { setDispute } from '@/runs/receivables/dispute'
import { enterPayment, paymentSchema } from '@/runs/receivables/payment'
import { lookAgain } from '@/runs/recheck/lookAgain'
import { writeMessages } from '@/runs/send/send'
import { makeAllAnew } from '@/runs/statements/compare'
import { startStatements } from '@/runs/statements/start'
import { truthOf } from '@/runs/statements/truth'
import { everyCustomer } from '@/store/customers'
import { readAnyDocument } from '@/store/documents'
import { itemsOfCustomer } from '@/store/ledger'
import { changeSettings, readSettings } from '@/store/settings'
import { line, nextStep, sendRun, work } from './runs'
import { choice, stated } from './stated'
import { desk } from './support'

// What a statement would say now is told by the count of its account: whatever column of whatever table is otherwise, it comes out as it was, or the
// count moved.

test('no write changes what a statement would say without moving the count of its account', async () => {
	const { books, run: first } = await stated({ charges: true }, (books) => {
		changeSettings(books, desk, {
			lateTerms: { ...readSettings(books).lateTerms, rates: [{ from: '', percent: '8' }] },
		})
		notePromise(books, desk, { customer: 1, day: '2026-11-30', amount: '10', currency: 'GBP', note: '' })
		setDispute(books, desk, itemsOfCustomer(books, 1)[1]?.id ?? 0, 'wet')
	})
	const payment = {
		customer: 3,
		day: '2026-10-31',
		amount: '5',
		currency: 'GBP',
		reference: 'CS-5',
		to: 'named',
		sure: [],
	}
	enterPayment(books, desk, paymentSchema.parse(payment))
	// Letters that went, and another run whose drafts wait.
	for (let step = 0; step < 2; step++) {
		makeAllAnew(books, desk, first)
		lookAgain(books, desk, first)
	}
	makeAllAnew(books, desk, first)
	for (let step = 0; step < 2; step++) await nextStep(books, first)
	writeMessages(books, desk, first)
	await sendRun(books, desk, first, [line('sent')])
	changeSettings(books, desk, { workDate: '2026-11-20' })
	startStatements(books, desk, choice({ asOf: '2026-11-18', charges: true }))
	await work(books)
	const { db } = books
	db.pragma('foreign_keys = OFF')
	const statements = db
		.prepare<[], { id: number; run_id: number }>(
			`SELECT id, run_id FROM document WHERE kind = 'statement' ORDER BY past_due DESC LIMIT 6`,
		)
		.all()
	expect(statements).toHaveLength(6)
	const today = '2026-11-20'
	const moves = db.prepare<[], { customer_id: number; moves: number }>('SELECT * FROM account_moves ORDER BY 1')
	const run = statements[0]?.run_id ?? 0
	/** What they would say now, each with whether it is true; in words where it cannot be told. */
	const said = (): string[] => {
		try {
			const truth = truthOf(books, run, today, everyCustomer)
			return statements.map(({ id }) => {
				const row = readAnyDocument(books, id)
				return row && isStatement(row.content) ? truth({ ...row, content: row.content }).words : 'none'
			})
		} catch (error) {
			return statements.map(() => String(error))
		}
	}
	const before = said()
	const tables = db
		.prepare<[], string>(
			`SELECT name FROM sqlite_schema WHERE type = 'table' AND name NOT LIKE 'sqlite_%' ORDER BY name`,
		)
		.pluck()
		.all()
	const unmoved: string[] = []
	let otherwise = 0
	for (const table of tables) {
		const columns = db.pragma(`table_info(${table})`) as { name: string; type: string; pk: number }[]
		for (const { name, type, pk } of columns) {
			// What a row is by its key, and what a run was asked for, no act changes.
			if (pk > 0 || `${table}.${name}` === 'run_statement.choice') continue
			db.exec('SAVEPOINT other')
			try {
				const counted = JSON.stringify(moves.all())
				const value = type === 'INTEGER' ? `${name} + 1` : `coalesce(${name}, '') || '1'`
				const { changes } = db.prepare(`UPDATE OR IGNORE ${table} SET ${name} = ${value}`).run()
				const now = changes === 0 ? before : said()
				if (JSON.stringify(now) === JSON.stringify(before)) continue
				otherwise++
				if (JSON.stringify(moves.all()) === counted) unmoved.push(`${table}.${name}`)
			} catch (error) {
				if (!(error instanceof Error && 'code' in error)) throw error
			} finally {
				db.exec('ROLLBACK TO other; RELEASE other')
			}
		}
	}
	expect(otherwise).toBeGreaterThan(20)
	expect(unmoved).toEqual([])
})
