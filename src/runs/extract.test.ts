import { describe, expect, test } from 'vitest'
import type { Books } from '@/store/books'
import { itemsOfCustomer } from '@/store/ledger'
import { billed } from '../../tests/runs'
import { desk, firmBooks } from '../../tests/support'
import { accountOf } from './account'
import { acceptNow, doFileJobs, lookAt } from './bringIn/atOnce'
import { correctValue } from './bringIn/correct'
import { changeReading } from './bringIn/receive'
import { fileView } from './bringIn/view'
import { enterPayment, paymentSchema } from './ledger'

const head = 'Customer no,Document no,Type,Document date,Due date,Amount,Outstanding,Curr,PO ref'
const september = [
	'A1,CS-1,Invoice,01/08/2026,31/08/2026,100.00,100.00,GBP,PO-1',
	'A1,CS-2,Invoice,10/09/2026,10/10/2026,50.00,20.00,GBP,',
	'A1,CRN-1,Credit,12/09/2026,12/09/2026,-5.00,-5.00,GBP,',
	'C1,JNL-1,Adjustment,12/09/2026,12/09/2026,-1.00,-1.00,GBP,',
]
const receive = (books: Books, name: string, rows: string[]): Promise<number> =>
	lookAt(books, desk, name, Buffer.from([head, ...rows, ''].join('\n')), { days: 'day first' })
const says = (books: Books, id: number) => {
	const view = fileView(books, id, 1)
	const numbers = (standing: string) =>
		(view?.records ?? []).filter((record) => record.standing === standing).map(({ key }) => key)
	return {
		added: numbers('new item'),
		changed: (view?.records ?? []).flatMap(({ standing, key, brief }) => {
			const { was, is } = JSON.parse(brief)
			return standing === 'changed item' ? [[key, was, is]] : []
		}),
		gone: numbers('gone'),
		ours: numbers('not in it'),
		totals: view?.review?.extract?.totals,
	}
}
const refusedIn = (books: Books, id: number) =>
	fileView(books, id, 1)?.refused.rows.flatMap(({ row, reasons }) =>
		reasons.map(({ column_name: column, value, remedy }) => ({ row, column, value, remedy })),
	)
const balance = (books: Books, asOf: string) => accountOf(books, 1, asOf)[0]?.aged.balance

describe('an extract of open items', () => {
	test('is read as of the day in its name, tied against its control total, and accepted once', async () => {
		const books = firmBooks()
		const id = await receive(books, 'open-items-2026-09-30.csv', [
			...september,
			'NOPE,CS-9,Invoice,01/09/2026,01/10/2026,7.00,7.00,GBP,',
			'Total,,,,,,171.00,GBP,',
		])
		expect(fileView(books, id, 1)?.reading).toMatchObject({ kind: 'open items', asOf: '2026-09-30' })
		expect(refusedIn(books, id)).toMatchObject([{ row: 6, column: 'Customer no', value: 'NOPE' }])
		expect(says(books, id)).toMatchObject({
			added: ['CS-1', 'CS-2', 'CRN-1', 'JNL-1'],
			totals: [{ currency: 'GBP', items: 4, open: 11_400, control: 17_100 }],
		})
		expect(await acceptNow(books, desk, id)).toMatchObject({
			ok: true,
			words: 'As of 2026-09-30: 4 new, 0 changed, 0 gone, 0 the same; 1 refusals.',
		})
		expect(itemsOfCustomer(books, 1).map(({ number, side, amount, open }) => [number, side, amount, open])).toEqual([
			['CS-1', 'debit', 10_000, 10_000],
			['CS-2', 'debit', 5000, 2000],
			['CRN-1', 'credit', 500, 500],
		])
		await acceptNow(books, desk, id)
		expect(itemsOfCustomer(books, 1)).toHaveLength(3)
	})

	test('leaves an item as it is whose row is refused, and takes it in once that is mended', async () => {
		const books = firmBooks()
		await acceptNow(books, desk, await receive(books, 'open-items-2026-09-30.csv', september))
		const torn = september.map((row) => row.replace('100.00,100.00', '100.00,n/a'))
		const id = await receive(books, 'open-items-2026-10-31.csv', [...torn.slice(0, 1), ...torn.slice(2)])
		// CS-2 is not in it, and gone; CS-1 is in it and cannot be read, and so is left as it is.
		expect(says(books, id)).toMatchObject({ gone: ['CS-2'] })
		await acceptNow(books, desk, id)
		const open = () => itemsOfCustomer(books, 1).map(({ number, open: left }) => [number, left])
		expect(open()).toEqual([
			['CS-1', 10_000],
			['CS-2', 0],
			['CRN-1', 500],
		])
		expect(correctValue(books, desk, id, { row: 2, place: 6, was: 'n/a', now: '40.00' })).toEqual({ ok: true })
		await doFileJobs(books, desk)
		expect(await acceptNow(books, desk, id)).toMatchObject({
			ok: true,
			words: expect.stringContaining('0 new, 1 changed, 0 gone'),
		})
		expect(open()[0]).toEqual(['CS-1', 4000])
	})

	test('says what is new, changed and gone since the last; the balance of the days before stays', async () => {
		const books = firmBooks()
		await acceptNow(books, desk, await receive(books, 'open-items-2026-09-30.csv', september))
		const before = balance(books, '2026-10-15')
		const id = await receive(books, 'open-items-2026-10-31.csv', [
			'A1,CS-1,Invoice,01/08/2026,31/08/2026,100.00,40.00,GBP,PO-1',
			'A1,CS-3,Charge,20/10/2026,20/10/2026,3.00,3.00,GBP,',
			'C1,JNL-1,Adjustment,12/09/2026,12/09/2026,-1.00,-1.00,GBP,',
		])
		expect(says(books, id)).toMatchObject({
			added: ['CS-3'],
			changed: [['CS-1', 10_000, 4000]],
			gone: ['CS-2', 'CRN-1'],
		})
		await acceptNow(books, desk, id)
		expect([balance(books, '2026-10-15'), balance(books, '2026-10-31')]).toEqual([before, 4300n])
		expect(accountOf(books, 1, '2026-10-31')[0]?.history.at(-1)).toMatchObject({ balance: 4300 })
	})

	test('is compared as of its day: a payment of a later day stands as it is', async () => {
		const books = firmBooks()
		await acceptNow(books, desk, await receive(books, 'open-items-2026-09-30.csv', september))
		const pay = (day: string, amount: string) =>
			enterPayment(
				books,
				desk,
				paymentSchema.parse({ customer: 1, day, amount, currency: 'GBP', reference: 'CS-1', to: 'named' }),
			)
		pay('2026-11-05', '100.00')
		const id = await receive(books, 'open-items-2026-10-31.csv', [
			...september.slice(0, 1),
			'A1,CS-2,Invoice,10/09/2026,10/10/2026,50.00,5.00,GBP,',
			...september.slice(2),
		])
		expect(says(books, id)).toMatchObject({ changed: [['CS-2', 2000, 500]], gone: [] })
		expect(await acceptNow(books, desk, id)).toMatchObject({ ok: true })
		expect([balance(books, '2026-10-31'), balance(books, '2026-11-05')]).toEqual([10_000n, 0n])
		// Less is open by then than was paid since: no more is settled than is left.
		const later = await receive(books, 'open-items-2026-11-04.csv', [
			'A1,CS-1,Invoice,01/08/2026,31/08/2026,100.00,60.00,GBP,PO-1',
		])
		expect(await acceptNow(books, desk, later)).toMatchObject({ ok: true })
		expect(itemsOfCustomer(books, 1).find(({ number }) => number === 'CS-1')?.open).toBe(0)
	})

	test('corrects an amount or due date that the accounts corrected, up or down', async () => {
		const books = firmBooks()
		await acceptNow(books, desk, await receive(books, 'open-items-2026-09-30.csv', september))
		const id = await receive(books, 'open-items-2026-10-31.csv', [
			'A1,CS-1,Invoice,01/08/2026,15/09/2026,130.00,125.00,GBP,PO-1',
			'A1,CS-2,Invoice,10/09/2026,10/10/2026,20.00,10.00,GBP,',
		])
		await acceptNow(books, desk, id)
		expect(
			itemsOfCustomer(books, 1).map(({ number, due_day, amount, open }) => [number, due_day, amount, open]),
		).toEqual([
			['CS-1', '2026-09-15', 13_000, 12_500],
			['CS-2', '2026-10-10', 2000, 1000],
			['CRN-1', '2026-09-12', 500, 0],
		])
		expect(balance(books, '2026-10-31')).toBe(13_500n)
	})

	test('keeps open what was issued here and is in no extract yet, unless it is to be taken as settled', async () => {
		for (const [ours, left] of [
			['kept open', 480],
			['taken as settled', 0],
		] as const) {
			const books = firmBooks()
			await billed(books, '8801,03/10/2026,A1,ROPE,Line,2,2.00,,STD,,')
			const id = await receive(books, 'open-items-2026-10-31.csv', september)
			expect(says(books, id).ours).toEqual(['T-0041'])
			changeReading(books, desk, id, { ours })
			await doFileJobs(books, desk)
			await acceptNow(books, desk, id)
			expect(itemsOfCustomer(books, 1).find(({ number }) => number === 'T-0041')?.open).toBe(left)
		}
	})

	test('needs its day, and one later than the last', async () => {
		const books = firmBooks()
		const undated = await receive(books, 'items.csv', september)
		expect(await acceptNow(books, desk, undated)).toMatchObject({
			ok: false,
			message: expect.stringContaining('Give the day'),
		})
		changeReading(books, desk, undated, { asOf: '2026-09-30' })
		await doFileJobs(books, desk)
		expect(await acceptNow(books, desk, undated)).toMatchObject({ ok: true })
		const earlier = await receive(books, 'open-items-2026-09-29.csv', september.slice(0, 1))
		expect(await acceptNow(books, desk, earlier)).toMatchObject({
			ok: false,
			message: expect.stringContaining('later day'),
		})
	})

	test.each([
		['Type', 'A1,CS-1,Thing,01/08/2026,31/08/2026,100.00,100.00,GBP,', 'one of invoice, credit'],
		['Outstanding', 'A1,CS-1,Invoice,01/08/2026,31/08/2026,100.00,100.01,GBP,', 'More is open'],
		['Outstanding', 'A1,CS-1,Invoice,01/08/2026,31/08/2026,100.00,0,GBP,', 'Nothing of it is open'],
		['Document date', 'A1,CS-1,Invoice,01/10/2026,31/10/2026,100.00,100.00,GBP,', 'after the day of the file'],
		['Curr', 'A1,CS-1,Invoice,01/08/2026,31/08/2026,100.00,100.00,QQ,', 'not a currency code'],
		['Document no', 'A1,CS-2,Invoice,10/09/2026,10/10/2026,50.00,20.00,GBP,', 'holds the same item'],
	])('refuses a row by its %s', async (column, row, remedy) => {
		const books = firmBooks()
		const id = await receive(books, 'open-items-2026-09-30.csv', [september[1] ?? '', row])
		expect(refusedIn(books, id)).toMatchObject([{ row: 3, column, remedy: expect.stringContaining(remedy) }])
	})
})
