import { mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { gunzipSync } from 'node:zlib'
import { expect, test } from 'vitest'
import { numberDocuments } from '@/runs/number'
import { verify } from '@/runs/verify'
import { openBooks } from '@/store/books'
import { linesOut } from '@/store/orders'
import { desk, opened } from './support'

// Books as they were made by acts that have been mended since: each holds one fault, over which the tally tied and `verify` was silent.
const folder = join(import.meta.dirname, 'books')

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
	'credits-above-the-invoice': /T-0041 is 1633, its credit notes come to -1636/,
}

function openKept(name: string) {
	const data = mkdtempSync(join(tmpdir(), 'north-tally-broken-'))
	writeFileSync(join(data, 'north-tally.db'), gunzipSync(readFileSync(join(folder, `${name}.db.gz`))))
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
