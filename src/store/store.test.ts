import { mkdtempSync, readFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import Database from 'better-sqlite3'
import { describe, expect, test } from 'vitest'
import { gather } from '@/runs/drafts/gather'
import { numberDocuments } from '@/runs/issue/number'
import { bringOrders, company, customer, desk, emptyBooks, firmBooks, opened, plainRegister } from '../../tests/support'
import { inOneStep, whileUnchanged } from './books'
import { saveItem, saveTaxRate, taxCodesOn } from './catalogue'
import { readCompany, readImage, saveCompany, saveLogo } from './company'
import { allCustomers, customerSummaries, saveCustomer } from './customers'
import { eventsOf, latestEvents } from './events'
import { find } from './find'
import { askFor, askToHalt, beginJob, endJob, haltAsked, latestJob, nextJob, resume } from './jobs'
import { itemsOfCustomer } from './ledger'
import { openBooks } from './openBooks'
import { waitingOrders } from './orders'
import { nextValue, registerFor, saveRegister } from './registers'
import { addRun } from './runs'
import { changeSettings, clerks, readSettings, seatClerk, workDate } from './settings'

const row = '8801,03/10/2026,A1,ROPE,Line,10,2.00,,STD,,'

/** Books with one numbered invoice. */
async function numberedBooks() {
	const books = firmBooks()
	await bringOrders(books, row)
	const run = addRun(books, desk, '2026-10-31', '2026-10-31')
	gather(books, desk, run, '2026-10-31')
	numberDocuments(books, desk, run, 1)
	return books
}

describe('the books keep what must not change', () => {
	test.each([
		['content', "UPDATE document_content SET content = '{}'"],
		['number', "UPDATE document SET number = 'T-9999'"],
		['total', 'UPDATE document SET total = 1'],
		['the document', 'DELETE FROM document'],
		['its content', 'DELETE FROM document_content'],
		['an event', "UPDATE event SET clerk = 'Nobody'"],
		['the record', 'DELETE FROM event'],
	])('%s of an issued document or the record', async (_, sql) => {
		const books = await numberedBooks()
		expect(() => books.db.exec(sql)).toThrow(/never/)
	})

	test('no number is given twice, even by hand', async () => {
		const books = await numberedBooks()
		expect(() =>
			books.db.exec(
				`INSERT INTO document (run_id, position, kind, customer_id, customer_name, email, currency, order_count, order_numbers, net, tax, total, day, due_day, level, number, register_id, register_year, register_value)
				 SELECT run_id, 9, kind, customer_id, customer_name, email, currency, order_count, order_numbers, net, tax, total, day, due_day, level, number, register_id, register_year, 99 FROM document`,
			),
		).toThrow(/UNIQUE/)
	})

	test('the register only goes up past numbers that were given', async () => {
		const books = await numberedBooks()
		const register = registerFor(books, 'invoice')
		expect(register && nextValue(books, register, 2026)).toBe(42)
		expect(
			saveRegister(books, desk, { ...plainRegister, kind: 'invoice', prefix: 'T-', digits: 4, next: 41 }),
		).toMatchObject({
			ok: false,
		})
		expect(
			saveRegister(books, desk, { ...plainRegister, kind: 'invoice', prefix: 'U-', digits: 6, next: 900 }),
		).toEqual({ ok: true })
	})
})

test('books made by a newer version are not touched', () => {
	const books = emptyBooks()
	books.db.pragma('user_version = 99')
	books.db.close()
	expect(() => openBooks(books.folder)).toThrow('made by a newer North Tally')
})

test('a step that fails half way leaves nothing behind', () => {
	const books = firmBooks()
	expect(() =>
		inOneStep(books, () => {
			saveCustomer(books, desk, customer('Z9'))
			throw new Error('power cut')
		}),
	).toThrow('power cut')
	expect(allCustomers(books).map(({ number }) => number)).toEqual(['A1', 'B1', 'C1'])
})

test('two processes see each other’s work, and a second writer waits its turn', () => {
	const books = firmBooks()
	const other = openBooks(books.folder)
	saveCustomer(other, desk, customer('D1'))
	expect(allCustomers(books)).toHaveLength(4)
	const quick = new Database(join(books.folder, 'north-tally.db'), { timeout: 0 })
	inOneStep(books, () => expect(() => quick.exec('BEGIN IMMEDIATE')).toThrow(/locked/))
	quick.exec('BEGIN IMMEDIATE; ROLLBACK')
	quick.close()
	other.db.close()
})

test('what is kept while nothing changes is worked out anew after a change of this process or another, and within a step', () => {
	const books = firmBooks()
	const other = openBooks(books.folder)
	const names = () => whileUnchanged(books, 'names', () => allCustomers(books).map(({ number }) => number))
	const first = names()
	expect(names()).toBe(first)
	saveCustomer(books, desk, customer('D1'))
	expect(names()).toContain('D1')
	saveCustomer(other, desk, customer('E1'))
	const both = names()
	expect(both).toContain('E1')
	expect(() =>
		inOneStep(books, () => {
			saveCustomer(books, desk, customer('F1'))
			expect(names()).toContain('F1')
			throw new Error('taken back')
		}),
	).toThrow('taken back')
	expect(names()).toEqual(both)
	other.db.close()
})

test('every change leaves who, when, what, before and after', () => {
	const books = emptyBooks()
	saveCompany(books, desk, company)
	saveCompany(books, { ...desk, clerk: 'Tam' }, { ...company, phone: '0' })
	const [last, first] = eventsOf(books, 'company', 1)
	expect(first).toMatchObject({ clerk: 'Wren', before: 'null' })
	expect(last?.clerk).toBe('Tam')
	expect(JSON.parse(last?.before ?? '{}').phone).toBe(company.phone)
	expect(JSON.parse(last?.after ?? '{}').phone).toBe('0')
	expect(latestEvents(books, 1)).toMatchObject([{ subject: 'company', act: 'changed the company' }])
})

test('a customer, item or rate is added once, then changed, then the same', () => {
	const books = emptyBooks()
	expect([
		saveCustomer(books, desk, customer('A1')),
		saveCustomer(books, desk, customer('A1', { note: 'x' })),
		saveCustomer(books, desk, customer('A1', { note: 'x', email: 'a1@shore.example' })),
	]).toEqual(['added', 'changed', 'same'])
	const rate = { code: 'STD', name: 'VAT', rate: '20', from_day: '2020-01-01' }
	expect([
		saveTaxRate(books, desk, rate),
		saveTaxRate(books, desk, rate),
		saveTaxRate(books, desk, { ...rate, rate: '19' }),
	]).toEqual(['added', 'same', 'changed'])
	const item = {
		code: 'ROPE',
		description: 'Line',
		unit: 'm',
		unit_price: '2.10',
		price_per: '1',
		currency: 'GBP',
		tax_code: 'STD',
	}
	expect([
		saveItem(books, desk, item),
		saveItem(books, desk, item),
		saveItem(books, desk, { ...item, unit: 'reel' }),
	]).toEqual(['added', 'same', 'changed'])
})

test('the rate of a tax code is the one of the day', () => {
	const books = emptyBooks()
	for (const [from_day, rate] of [
		['2020-01-01', '17.5'],
		['2026-04-01', '20'],
	] as const)
		saveTaxRate(books, desk, { code: 'STD', name: 'VAT', rate, from_day })
	const on = (day: string) => taxCodesOn(books, day).map(({ rate }) => rate)
	expect([on('2019-12-31'), on('2026-03-31'), on('2026-04-01')]).toEqual([[], ['17.5'], ['20']])
})

test('settings have their usual values, and a password is never recorded', () => {
	const books = emptyBooks()
	expect(readSettings(books)).toMatchObject({ workDate: '', mail: { mode: 'practice' } })
	expect(workDate(books, '2026-11-25')).toBe('2026-11-25')
	changeSettings(books, desk, {
		workDate: '2026-10-31',
		mail: {
			mode: 'real',
			host: 'mail.tarn.example',
			port: 465,
			secure: true,
			user: 'u',
			password: 'hush',
			sender: '',
			replyTo: '',
			bcc: '',
			...{ lines: 4, perLine: 100, perMinute: 0, retry: { minutes: [1], hours: 24 } },
		},
	})
	expect(workDate(books, '2026-11-25')).toBe('2026-10-31')
	expect(readSettings(books).mail.password).toBe('hush')
	expect(JSON.stringify(latestEvents(books, 9))).not.toContain('hush')
	seatClerk(books, desk)
	seatClerk(books, { ...desk, clerk: 'Tam' })
	seatClerk(books, desk)
	expect(clerks(books)).toEqual(['Wren', 'Tam'])
})

test('an image is kept once by its hash, and the company points to it', () => {
	const books = emptyBooks()
	saveCompany(books, desk, company)
	saveLogo(books, desk, { type: 'image/png', bytes: Buffer.from('png') })
	const sha = readCompany(books)?.logo_sha256 ?? ''
	saveLogo(books, desk, null)
	expect(readCompany(books)?.logo_sha256).toBeNull()
	expect(readImage(books, sha)?.bytes.toString()).toBe('png')
})

describe('steps asked of the runner', () => {
	test('one at a time a run; one that was begun comes first again', () => {
		const books = firmBooks()
		const [first, second] = [
			addRun(books, desk, '2026-10-31', '2026-10-31'),
			addRun(books, desk, '2026-10-31', '2026-10-31'),
		]
		const job = askFor(books, desk, { kind: 'number', run: first, expected: 3 })
		expect(askFor(books, desk, { kind: 'make', run: first, expected: 0 })).toBeNull()
		const other = askFor(books, desk, { kind: 'gather', run: second, expected: 0 }) ?? 0
		beginJob(books, other, desk.now())
		expect(nextJob(books)).toMatchObject({ id: other, state: 'working' })
		endJob(books, other, 'done', 'gathered', desk.now())
		expect(nextJob(books)).toMatchObject({ id: job, total: 3 })
		expect(askToHalt(books, first, 'stop', desk.now())).toBe(true)
		expect(haltAsked(books, job ?? 0)).toBe('stopped')
		expect(askToHalt(books, second, 'stop', desk.now())).toBe(false)
		expect(resume(books, first)).toBe(false)
		expect(latestJob(books, second)?.words).toBe('gathered')
	})
})

test('anything is found by part of its name or number, and a percent sign finds only itself', async () => {
	const books = await numberedBooks()
	expect(find(books, 'omer a').map(({ title }) => title)).toEqual(['Customer A1'])
	expect(find(books, '004')).toMatchObject([{ kind: 'document', title: 'T-0041' }])
	expect(find(books, '880')).toMatchObject([{ kind: 'order', title: 'Order 8801' }])
	expect(find(books, '%')).toEqual([])
	// One letter, and a number that many others hold: what is exactly so stands first.
	for (let n = 1; n <= 12; n++)
		saveCustomer(books, desk, { ...customer('A1'), number: `A1${n}`, name: `A firm that holds 41 and ${n}` })
	saveCustomer(books, desk, { ...customer('A1'), number: '4', name: 'Zebra' })
	expect(find(books, '4')[0]).toMatchObject({ kind: 'customer', title: 'Zebra' })
	expect(find(books, 't-0041')[0]).toMatchObject({ kind: 'document', title: 'T-0041' })
	expect(find(books, 'a1')[0]).toMatchObject({ kind: 'customer', number: 'A1' })
	expect(find(books, '8801')[0]).toMatchObject({ kind: 'order', number: '8801' })
	expect(find(books, ' ')).toEqual([])
	expect(customerSummaries(books).find(({ number }) => number === 'A1')).toMatchObject({
		number: 'A1',
		waiting: 0,
		invoices: 1,
		last_invoice: '2026-10-31',
	})
	expect(waitingOrders(books)).toEqual([])
})

test('books from before the ledger have what they issued in it once they are opened, and nothing that is void', () => {
	const folder = mkdtempSync(join(tmpdir(), 'north-tally-unit-'))
	const old = new Database(join(folder, 'north-tally.db'))
	for (const name of ['001-books.sql', '002-discounts-changes-revisions.sql'])
		old.exec(readFileSync(join('src/store/migrations', name), 'utf8'))
	old.pragma('user_version = 2')
	old.exec(`INSERT INTO customer (number, name, address, country, email, contact, currency, locale, terms, tax, tax_number, grouping)
		VALUES ('A1', 'A', '', '', '', '', 'GBP', 'en-GB', '30 days', 'standard', '', 'order');
		INSERT INTO run (kind, up_to, document_day, started_at, started_by, state)
		VALUES ('invoice', '2026-09-30', '2026-09-30', 'x', 'Wren', 'closed')`)
	const issue = (number: string, total: number, voided: string | null) => {
		const { lastInsertRowid } = old
			.prepare(
				`INSERT INTO document (run_id, position, kind, customer_id, customer_name, email, currency, order_count, order_numbers, net, tax,
					total, day, due_day, level, number, numbered_at, void_at)
				 VALUES (1, 1, 'invoice', 1, 'A', '', 'GBP', 1, '1', ?, 0, ?, '2026-09-30', '2026-10-30', 'clear', ?, 'x', ?)`,
			)
			.run(total, total, number, voided)
		old
			.prepare('INSERT INTO document_content (document_id, content, frozen) VALUES (?, ?, 1)')
			.run(lastInsertRowid, JSON.stringify({ number }))
	}
	issue('T-1', 5000, null)
	issue('T-2', -700, null)
	issue('T-3', 900, '2026-10-01')
	old.close()
	const books = openBooks(folder)
	opened.push(books)
	expect(itemsOfCustomer(books, 1).map(({ kind, number, due_day, open }) => [kind, number, due_day, open])).toEqual([
		['invoice', 'T-1', '2026-10-30', 5000],
		['credit', 'T-2', '2026-09-30', 700],
	])
})
