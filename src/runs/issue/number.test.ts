import { expect, test } from 'vitest'
import { places } from '@/core/places'
import { nextAct } from '@/runs/tally/tally'
import { saveTaxRate } from '@/store/catalogue'
import { saveCustomer } from '@/store/customers'
import { readAnyDocument } from '@/store/documents'
import { benchRows, runGroups } from '@/store/places'
import { saveRegister } from '@/store/registers'
import { changeSettings } from '@/store/settings'
import { gatherRun } from '../../../tests/runs'
import { customer, desk, firmBooks, plainRegister } from '../../../tests/support'
import { numberDocuments } from './number'
import { verify, verifyOne } from './verify'

const rows = ['8801,03/10/2026,A1,ROPE,Line,10,2.00,,STD,,', '8802,04/10/2026,A1,ROPE,Line,3,2.00,,STD,,']
const numbers = (books: ReturnType<typeof firmBooks>, run: number) => benchRows(books, run).map(({ number }) => number)

test('another count than was shown numbers nothing, be it more or less', async () => {
	const books = firmBooks()
	const run = await gatherRun(books, rows)
	for (const expected of [0, 1, 3])
		expect(numberDocuments(books, desk, run, expected)).toMatchObject({
			ok: false,
			message: expect.stringContaining(`${expected} were to be numbered, but now it would be 2. Nothing was numbered`),
		})
	expect(numbers(books, run)).toEqual([null, null])
	expect(numberDocuments(books, desk, run, 2)).toMatchObject({ ok: true, count: 2 })
	expect(numbers(books, run)).toEqual(['T-0041', 'T-0042'])
	const issued = benchRows(books, run).map(({ id }) => readAnyDocument(books, id)?.content.issued)
	expect(issued).toEqual([41, 42].map((value) => ({ run, prefix: 'T-', value })))
	expect(numberDocuments(books, desk, run, 2)).toMatchObject({ ok: false })
})

test('a register that is moved on says which numbers were left out, and gives none of them', async () => {
	const books = firmBooks()
	const first = await gatherRun(books, rows.slice(0, 1))
	numberDocuments(books, desk, first, 1)
	saveRegister(books, desk, { ...plainRegister, kind: 'invoice', prefix: 'T-', digits: 4, next: 50 })
	const second = await gatherRun(books, rows.slice(1))
	numberDocuments(books, desk, second, 1)
	expect([...numbers(books, first), ...numbers(books, second)]).toEqual(['T-0041', 'T-0050'])
	const skips = books.db.prepare('SELECT first, last FROM register_skip').all()
	expect(skips).toEqual([{ first: 42, last: 49 }])
	expect(verify(books).flatMap(({ wrong }) => wrong)).toEqual([])
})

test('a draft that changed since it was checked is not numbered, and says why', async () => {
	const books = firmBooks()
	const run = await gatherRun(books, rows)
	changeSettings(books, desk, { closedTo: '2026-10-31' })
	expect(numberDocuments(books, desk, run, 2)).toMatchObject({
		ok: false,
		message: expect.stringContaining('Something changed since the drafts were checked'),
	})
	expect(numbers(books, run)).toEqual([null, null])
	expect(nextAct(runGroups(books, run))).toEqual({ act: 'solve', count: 2 })
	for (const { place } of runGroups(books, run)) expect(places).toContain(place)
})

test('a clock that was set back hinders no numbering, and raises no alarm after', async () => {
	const books = firmBooks()
	const late = { ...desk, now: () => '2027-03-01T09:00:00.000Z' }
	const early = { ...desk, now: () => '2026-01-01T09:00:00.000Z' }
	saveCustomer(books, late, customer('A1', { name: 'Moved Shore', hold: 'waits for payment' }))
	saveCustomer(books, late, customer('A1', { name: 'Moved Shore', address: '9 New Quay\nTarn' }))
	saveTaxRate(books, late, { code: 'STD', name: 'VAT STD', rate: '23', from_day: '2026-01-01' })
	changeSettings(books, late, { closedTo: '2026-12-31' })
	changeSettings(books, late, { closedTo: '' })
	const run = await gatherRun(books, rows)
	expect(numberDocuments(books, early, run, 2)).toMatchObject({ ok: true })
	expect(verify(books).flatMap(({ wrong }) => wrong)).toEqual([])
	expect(verifyOne(books, 'T-0041')).toEqual([])
})
