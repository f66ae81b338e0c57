import { mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { gunzipSync } from 'node:zlib'
import Database from 'better-sqlite3'
import { expect, test } from 'vitest'
import { numberDocuments } from '@/runs/issue/number'
import { verify } from '@/runs/issue/verify'
import { openBooks } from '@/store/openBooks'
import { linesOut } from '@/store/orders'
import { readSettings } from '@/store/settings'
import { desk, opened } from './support'

// Books as they were made by acts that have been mended since: each holds one fault, over which the tally tied and `verify` was silent.
const folder = join(import.meta.dirname, 'books/broken')

const faults: Record<string, string | RegExp> = {
	'line-on-two-drafts': /the draft of 1 bills row 3 of order 1, which is not there/,
	'line-billed-twice': /T-0041 bills row 3 of order 1, which is not there/,
	'history-of-another': /\(Wren changed\) speaks of draft 1, which was thrown away; its id went to T-0041 of Aaa/,
	'credit-raised': /line 1 of T-0041 is credited beyond what was billed/,
	'credit-positive': /CN-001 is a credit note above zero/,
	'credit-took-the-order': /order 1 counts as billed but stands on no numbered document/,
	'void-credit-still-applied': /CN-001 is void, but T-0041 is still applied/,
	'void-invoice-still-paid': /T-0041 is void, but BACS is still applied/,
	'revised-payment-left-behind': /T-0041 is replaced, but BACS is still applied/,
	'void-statement-charge-stays': /S-001 is void, but BACS is still applied/,
	'freight-lost-on-the-rest': /T-0042 has not the freight 10% that its order had before/,
	'discount-taken-twice': /Fair was 1000 before, and is 2000 on T-0041 and T-0042/,
	'discount-lost-put-together': /Fair was 1000 before, and is 500 on T-0041/,
	'rate-changed-before-numbering': /T-0041 has STD at 20%, which was 21% on its day/,
	'credit-before-its-invoice': /CN-001 of 2026-10-20 credits T-0041 of 2026-10-31/,
	'credits-above-the-invoice':
		/the net of line 1 of T-0041 is credited beyond what was billed: -0\.0\d of \d+\.\d\d is left/,
}

function openKept(name: string, before: (db: Database.Database) => void = () => {}) {
	const data = mkdtempSync(join(tmpdir(), 'north-tally-broken-'))
	const file = join(data, 'north-tally.db')
	writeFileSync(file, gunzipSync(readFileSync(join(folder, `${name}.db.gz`))))
	const db = new Database(file)
	before(db)
	db.close()
	const books = openBooks(data)
	opened.push(books)
	return books
}

/** What is wrong, but for files that were not kept with the books. */
const wrong = (name: string) =>
	verify(openKept(name))
		.filter(({ check }) => !check.startsWith('each made document has the file'))
		.flatMap(({ wrong }) => wrong)

test.each(Object.entries(faults))('verify finds what is wrong in books with a %s', (name, says) => {
	expect(wrong(name).join('\n')).toMatch(says)
})

test('each says its own fault and no book is without one', () => {
	expect(readdirSync(folder).map((file) => file.replace('.db.gz', ''))).toEqual(
		[...Object.keys(faults), 'skip-that-was-not'].sort(),
	)
	expect(wrong('rate-changed-before-numbering')).toEqual(
		expect.arrayContaining([
			'T-0042 was numbered while Customer B1 was on hold: insolvent',
			'T-0041 was numbered in books that were closed to 2026-10-31',
		]),
	)
})

test('a run with a line on two drafts is numbered no more, and the bench says why', () => {
	const books = openKept('line-on-two-drafts')
	expect(linesOut(books, 1).map(({ words }) => words)).toEqual([
		'Customer A1: 1 has 3 lines of orders, of which 2 stand on it',
	])
	expect(numberDocuments(books, desk, 1, 2)).toMatchObject({
		ok: false,
		message: expect.stringContaining('The tally does not tie'),
	})
})

test('a register that was moved on and back is put right: only what was left out in truth counts so', () => {
	expect(wrong('skip-that-was-not')).toEqual([])
	const books = openKept('skip-that-was-not')
	expect(books.db.prepare('SELECT first, last, clerk FROM register_skip').all()).toEqual([
		{ first: 42, last: 44, clerk: 'Wren' },
	])
})

test('books of before keep their stages of letters, their late charges, and what they wrote at which stage', () => {
	const books = openKept('void-statement-charge-stays', (db) => {
		db.exec(`INSERT INTO setting (key, value) VALUES ('stageDays', '[3,20,50]'), ('letterDays', '9')`)
		db.exec(`INSERT INTO promise (customer_id, currency, day, amount, note, at, clerk, ended)
			VALUES (1, 'GBP', '2026-10-01', 500, '', 'x', 'x', 'kept'), (1, 'GBP', '2026-11-01', 700, '', 'x', 'x', NULL)`)
	})
	expect(readSettings(books)).toMatchObject({
		// The first after days past due; each next so many days after the one before as it stood later.
		stages: [
			{ name: 'Friendly', days: 3, least: 0, read: false },
			{ name: 'Firm', days: 17, least: 0, read: false },
			{ name: 'Final', days: 30, least: 0, read: false },
		],
		lateTerms: { rates: [{ from: '', percent: '12' }], per: 'year', grace: 0, minimum: 100, year: '365' },
	})
	expect(books.db.prepare('SELECT received FROM promise ORDER BY id').pluck().all()).toEqual([500, 0])
	const stages = books.db
		.prepare(
			`SELECT d.stage, json_extract(c.content, '$.letter') AS letter FROM document d JOIN document_content c ON c.document_id = d.id
			 WHERE d.kind = 'statement'`,
		)
		.all()
	expect(stages).toEqual([{ stage: 3, letter: 'past-due-3' }])
	expect(books.db.pragma('foreign_key_check')).toEqual([])
})
