import { describe, expect, test } from 'vitest'
import { acceptNow, doFileJobs, lookAt } from '@/runs/bringIn/atOnce'
import { correctValue, leaveRowsOut } from '@/runs/bringIn/correct'
import { answer, changeReading } from '@/runs/bringIn/receive'
import { takeFileBack, whyNotBack } from '@/runs/bringIn/takeBack'
import { fileView } from '@/runs/bringIn/view'
import { verify } from '@/runs/issue/verify'
import { accountOf } from '@/runs/receivables/account'
import { enterPayment, paymentSchema } from '@/runs/receivables/payment'
import { agedTotals } from '@/store/accounts'
import type { Books } from '@/store/books'
import { itemsOfCustomer } from '@/store/ledger'
import { changeSettings } from '@/store/settings'
import { billed } from '../../../tests/runs'
import { desk, firmBooks } from '../../../tests/support'

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
		totals: view?.review?.extract?.currencies,
	}
}
const refusedIn = (books: Books, id: number) =>
	fileView(books, id, 1)?.refused.rows.flatMap(({ row, reasons }) =>
		reasons.map(({ column_name: column, value, remedy }) => ({ row, column, value, remedy })),
	)
const pay = (books: Books, day: string, amount: string, reference: string, to: 'named' | 'nothing' = 'named') => {
	const payment = { customer: 1, day, amount, currency: 'GBP', reference, to, sure: ['ahead'] }
	expect(enterPayment(books, desk, paymentSchema.parse(payment)).ok).toBe(true)
}
/** Answers every pair that is likely one item in the same way. */
const sayOfPairs = async (books: Books, id: number, said: 'stays' | 'other') => {
	await doFileJobs(books, desk)
	const likely = fileView(books, id, 1)?.review?.extract?.likely ?? []
	answer(books, desk, id, { pairs: Object.fromEntries(likely.map(({ key }) => [key, said])) })
	await doFileJobs(books, desk)
}
/** What is open of A1's items that count, by number; a credit below zero. */
const openByNumber = (books: Books) =>
	Object.fromEntries(
		itemsOfCustomer(books, 1)
			.filter(({ away }) => away === 0)
			.map(({ number, side, open }) => [number, side === 'debit' ? open : -open || 0]),
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
			totals: [{ currency: 'GBP', items: 4, had: 0, added: 11_400, will: 11_400, file: 11_400, control: 17_100 }],
		})
		// It does not tie: that takes a reason, which is kept.
		expect(await acceptNow(books, desk, id)).toMatchObject({ ok: false })
		answer(books, desk, id, { reason: 'NOPE is a customer of the sister firm' })
		await doFileJobs(books, desk)
		expect(await acceptNow(books, desk, id)).toMatchObject({
			ok: true,
			words:
				'As of 2026-09-30: 4 new, 0 changed, 0 gone, 0 the same; 1 refusals; 0.00 to 114.00 GBP. Accepted all the same: NOPE is a customer of the sister firm.',
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
		pay(books, '2026-11-05', '100.00', 'CS-1')
		const id = await receive(books, 'open-items-2026-10-31.csv', [
			...september.slice(0, 1),
			'A1,CS-2,Invoice,10/09/2026,10/10/2026,50.00,5.00,GBP,',
			...september.slice(2),
		])
		expect(says(books, id)).toMatchObject({ changed: [['CS-2', 2000, 500]], gone: [] })
		expect(await acceptNow(books, desk, id)).toMatchObject({ ok: true })
		expect([balance(books, '2026-10-31'), balance(books, '2026-11-05')]).toEqual([10_000n, 0n])
	})

	test.each([
		// 40.00 came in there before: of the 100.00 that came in here later, 60.00 were left to pay, and 40.00 stand to their credit.
		['other', [6000n, -4000n], { 'CS-1': 0, 'BACS CS-1': -4000 }],
		// The 40.00 that they have are of the same 100.00: counted once.
		['same', [10_000n, 0n], { 'CS-1': 0, 'BACS CS-1': 0 }],
	] as const)(
		'what was paid here after its day stays paid; whether it is the %s money is asked',
		async (said, balances, left) => {
			const books = firmBooks()
			await acceptNow(books, desk, await receive(books, 'open-items-2026-09-30.csv', september.slice(0, 1)))
			pay(books, '2026-11-05', '100.00', 'BACS CS-1')
			const id = await receive(books, 'open-items-2026-11-04.csv', [
				'A1,CS-1,Invoice,01/08/2026,31/08/2026,100.00,60.00,GBP,PO-1',
			])
			const twins = fileView(books, id, 1)?.review?.extract?.twins
			expect(twins).toMatchObject([{ reference: 'BACS CS-1', free: 10_000, settles: 4000 }])
			expect(await acceptNow(books, desk, id)).toMatchObject({ ok: false })
			expect(fileView(books, id, 1)?.review?.extract?.doubts).toEqual(['ahead 2026-10-31'])
			answer(books, desk, id, { twins: { [twins?.[0]?.id ?? 0]: said }, reason: 'of tomorrow morning' })
			await doFileJobs(books, desk)
			expect(await acceptNow(books, desk, id)).toMatchObject({ ok: true })
			expect([balance(books, '2026-11-04'), balance(books, '2026-11-05')]).toEqual(balances)
			expect(openByNumber(books)).toEqual(left)
			expect(verify(books).flatMap(({ wrong }) => wrong)).toEqual([])
		},
	)

	test.each([
		['other', -7000n],
		['same', 0n],
	] as const)('money that was entered here and not applied, and is gone there, is the %s money', async (said, owed) => {
		const books = firmBooks()
		const item = 'A1,CS-9,Invoice,01/08/2026,31/08/2026,70.00,70.00,GBP,'
		const other = 'C1,CS-8,Invoice,01/08/2026,31/08/2026,70.00,70.00,GBP,'
		await acceptNow(books, desk, await receive(books, 'open-items-2026-09-30.csv', [item, other]))
		pay(books, '2026-10-20', '70.00', 'thanks', 'nothing')
		const id = await receive(books, 'open-items-2026-10-31.csv', [other])
		const [twin] = fileView(books, id, 1)?.review?.extract?.twins ?? []
		expect(twin).toMatchObject({ reference: 'thanks', free: 7000, settles: 7000 })
		answer(books, desk, id, { twins: { [twin?.id ?? 0]: said } })
		await doFileJobs(books, desk)
		expect(await acceptNow(books, desk, id)).toMatchObject({ ok: true })
		expect(balance(books, '2026-10-31')).toBe(owed)
	})

	test('what was paid here before its day, and is not known there yet, stays paid; once it is known nothing is counted twice', async () => {
		const books = firmBooks()
		const [first = ''] = september
		await acceptNow(books, desk, await receive(books, 'open-items-2026-09-30.csv', [first]))
		pay(books, '2026-10-20', '100.00', 'CS-1')
		const id = await receive(books, 'open-items-2026-10-31.csv', [`${first} `])
		expect(says(books, id)).toMatchObject({ changed: [], gone: [], totals: [{ will: 0, file: 10_000, left: -10_000 }] })
		await acceptNow(books, desk, id)
		const next = await receive(books, 'open-items-2026-11-30.csv', [
			'C1,N-1,Invoice,05/11/2026,05/12/2026,9.00,9.00,GBP,',
		])
		await acceptNow(books, desk, next)
		expect(balance(books, '2026-11-30')).toBe(0n)
	})

	test('a past day keeps what it had: amounts, due dates, dates, signs and customers become otherwise on the day of the extract', async () => {
		const books = firmBooks()
		await acceptNow(books, desk, await receive(books, 'open-items-2026-09-30.csv', september))
		const before = (asOf: string) => [1, 3].map((customer) => accountOf(books, customer, asOf).map(({ aged }) => aged))
		const days = ['2026-09-30', '2026-10-15', '2026-10-30']
		const was = days.map(before)
		const listed = days.map((asOf) => agedTotals(books, asOf).map(({ buckets, balance: owed }) => [buckets, owed]))
		const id = await receive(books, 'open-items-2026-10-31.csv', [
			'A1,CS-1,Invoice,03/08/2026,15/11/2026,120.00,120.00,GBP,PO-1',
			'A1,CS-2,Invoice,10/09/2026,10/10/2026,-50.00,-20.00,GBP,',
			'C1,CRN-1,Credit,12/09/2026,12/09/2026,-5.00,-5.00,GBP,',
			'C1,JNL-1,Adjustment,12/09/2026,12/09/2026,-1.00,-1.00,GBP,',
			// Of September, and first heard of in October's: it counts from 1 October on.
			'C1,LATE-1,Invoice,20/09/2026,20/10/2026,9.00,9.00,GBP,',
		])
		await sayOfPairs(books, id, 'stays')
		expect(says(books, id)).toMatchObject({
			added: ['LATE-1'],
			changed: [
				['CS-1', 10_000, 12_000],
				['CS-2', 2000, -2000],
				['CRN-1', -500, -500],
			],
			gone: [],
			totals: [{ had: 11_400, added: 900, changed: -2000, gone: 0, will: 10_300, file: 10_300 }],
		})
		expect(await acceptNow(books, desk, id)).toMatchObject({ ok: true })
		expect([before(days[0] ?? ''), before(days[1] ?? '')[0], before(days[2] ?? '')[0]]).toEqual([
			was[0],
			was[1]?.[0],
			was[2]?.[0],
		])
		expect(agedTotals(books, '2026-09-30').map(({ buckets, balance: owed }) => [buckets, owed])).toEqual(listed[0])
		expect(balance(books, '2026-10-31')).toBe(10_000n)
		const words = accountOf(books, 1, '2026-10-31')[0]?.history.map((happening) => happening.words)
		expect(words).toContainEqual(
			'CS-1: changed in the extract of 31 Oct 2026: 100.00 to 120.00, due 31 Aug 2026 to 15 Nov 2026, dated 3 Aug 2026',
		)
		expect(accountOf(books, 1, '2026-10-31')[0]?.aged).toMatchObject({ pastDue: 0n, notDue: 12_000n })
		expect(verify(books).flatMap(({ wrong }) => wrong)).toEqual([])
	})

	test('says of what turned from owed to credit, or back, what it was and is', async () => {
		const books = firmBooks()
		const row = (number: string, kind: string, amount: string) =>
			`A1,${number},${kind},01/09/2026,30/09/2026,${amount},${amount},GBP,`
		await acceptNow(
			books,
			desk,
			await receive(books, 'open-items-2026-09-30.csv', [
				row('T-1', 'Invoice', '10.00'),
				row('T-2', 'Credit', '-4.00'),
			]),
		)
		const id = await receive(books, 'open-items-2026-10-31.csv', [
			row('T-1', 'Invoice', '-3.00'),
			row('T-2', 'Credit', '7.00'),
			row('T-3', 'Credit', '-1.00'),
		])
		await sayOfPairs(books, id, 'stays')
		expect(await acceptNow(books, desk, id)).toMatchObject({ ok: true })
		const words = accountOf(books, 1, '2026-10-31')[0]
			?.history.map((happening) => happening.words)
			.join('; ')
		expect(words).toContain('changed in the extract of 31 Oct 2026: 10.00 to −3.00')
		expect(words).toContain('changed in the extract of 31 Oct 2026: −4.00 to 7.00')
		expect(openByNumber(books)).toMatchObject({ 'T-1': -300, 'T-2': 700 })
	})

	test('is taken back while nothing was built on it: every day has what it had, and it can be accepted again', async () => {
		const books = firmBooks()
		await acceptNow(books, desk, await receive(books, 'open-items-2026-09-30.csv', september))
		pay(books, '2026-11-05', '100.00', 'CS-1')
		const days = ['2026-09-30', '2026-10-15', '2026-10-31', '2026-11-05']
		const state = () =>
			days.map((asOf) => [1, 3].map((customer) => accountOf(books, customer, asOf)[0]?.aged.balance ?? 0n))
		const was = state()
		const rows = [
			'A1,CS-1,Invoice,01/08/2026,15/11/2026,80.00,40.00,GBP,PO-1',
			'A1,CS-7,Invoice,01/10/2026,31/10/2026,11.00,6.00,GBP,',
			'C1,CS-2,Invoice,10/09/2026,10/10/2026,50.00,20.00,GBP,',
		]
		const id = await receive(books, 'open-items-2026-10-31.csv', rows)
		const accept = async () => {
			for (const { id: twin } of fileView(books, id, 1)?.review?.extract?.twins ?? [])
				answer(books, desk, id, { twins: { [twin]: 'other' } })
			await sayOfPairs(books, id, 'stays')
			return acceptNow(books, desk, id)
		}
		expect(await accept()).toMatchObject({ ok: true })
		const now = state()
		expect(now).not.toEqual(was)
		expect(await takeFileBack(books, desk, id, 'the wrong month')).toMatchObject({ ok: true })
		expect(state()).toEqual(was)
		expect(openByNumber(books)).toMatchObject({ 'CS-1': 0, 'CS-2': 2000 })
		expect(verify(books).flatMap(({ wrong }) => wrong)).toEqual([])
		expect(accountOf(books, 1, '2026-10-31')[0]?.history.some(({ words }) => /CS-7|31 Oct/.test(words))).toBe(false)
		await doFileJobs(books, desk)
		const again = await receive(
			books,
			'once-more-2026-10-31.csv',
			rows.map((row) => `${row} `),
		)
		for (const { id: twin } of fileView(books, again, 1)?.review?.extract?.twins ?? [])
			answer(books, desk, again, { twins: { [twin]: 'other' } })
		await sayOfPairs(books, again, 'stays')
		expect(await acceptNow(books, desk, again)).toMatchObject({ ok: true })
		expect(state()).toEqual(now)
		// Something was built on it now.
		pay(books, '2026-11-06', '1.00', 'CS-7')
		expect(whyNotBack(books, again)).toContain('CS-7 was applied to or from CS-7')
		expect(await takeFileBack(books, desk, again, 'no')).toMatchObject({ ok: false })
	})

	test('that would settle much, or is cut off, is accepted with a reason alone, which is kept', async () => {
		const books = firmBooks()
		changeSettings(books, desk, { extractLimits: { percent: 30, amount: 1000 } })
		await acceptNow(books, desk, await receive(books, 'open-items-2026-09-30.csv', september))
		const id = await receive(books, 'open-items-2026-10-31.csv', september.slice(1))
		expect(fileView(books, id, 1)?.review?.extract?.doubts).toEqual(['much GBP 10000 79'])
		expect(await acceptNow(books, desk, id)).toMatchObject({ ok: false })
		answer(books, desk, id, { reason: 'A1 paid it all' })
		await doFileJobs(books, desk)
		expect(await acceptNow(books, desk, id)).toMatchObject({
			ok: true,
			words: expect.stringContaining('A1 paid it all'),
		})
		expect(books.db.prepare('SELECT reason FROM extract ORDER BY id').pluck().all()).toEqual(['', 'A1 paid it all'])
	})

	test('says by its signs who owes what; where none of its credits has one, that is asked', async () => {
		const books = firmBooks()
		const rows = [
			'A1,N-1,Invoice,01/08/2026,31/08/2026,-100.00,-100.00,GBP,',
			'A1,N-2,Charge,01/08/2026,31/08/2026,-9.00,-9.00,GBP,',
			'A1,N-3,Refund,01/08/2026,31/08/2026,30.00,30.00,GBP,',
			'A1,N-4,Payment,01/08/2026,31/08/2026,-7.00,-7.00,GBP,',
		]
		await acceptNow(books, desk, await receive(books, 'open-items-2026-09-30.csv', rows))
		expect(itemsOfCustomer(books, 1).map(({ number, side, called, amount }) => [number, side, called, amount])).toEqual(
			[
				['N-1', 'credit', '', 10_000],
				['N-2', 'credit', '', 900],
				['N-3', 'debit', 'refund', 3000],
				['N-4', 'credit', '', 700],
			],
		)
		const bare = await receive(books, 'open-items-2026-10-31.csv', [
			'A1,N-4,Payment,01/08/2026,31/08/2026,7.00,7.00,GBP,',
		])
		expect(fileView(books, bare, 1)?.open).toContain('signs')
		expect(await acceptNow(books, desk, bare)).toMatchObject({ ok: false })
		changeReading(books, desk, bare, { signs: 'by kind' })
		await doFileJobs(books, desk)
		expect(says(books, bare)).toMatchObject({ changed: [], gone: ['N-1', 'N-2', 'N-3'] })
	})

	test('leaves an item as it is whose row a person leaves out', async () => {
		const books = firmBooks()
		await acceptNow(books, desk, await receive(books, 'open-items-2026-09-30.csv', september))
		const id = await receive(books, 'open-items-2026-10-31.csv', september)
		leaveRowsOut(books, desk, id, [2], 'not sure of it')
		await doFileJobs(books, desk)
		expect(says(books, id).gone).toEqual([])
		await acceptNow(books, desk, id)
		expect(openByNumber(books)).toMatchObject({ 'CS-1': 10_000 })
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
		['Document date', 'A1,CS-1,Invoice,01/01/1900,31/08/2026,100.00,100.00,GBP,', 'before the year 2000'],
		['Due date', 'A1,CS-1,Invoice,01/08/2026,31/12/9999,100.00,100.00,GBP,', 'no day that exists'],
		['Document no', 'A1,CS-2,Invoice,10/09/2026,10/10/2026,50.00,20.00,GBP,', 'holds the same item'],
	])('refuses a row by its %s', async (column, row, remedy) => {
		const books = firmBooks()
		const id = await receive(books, 'open-items-2026-09-30.csv', [september[1] ?? '', row])
		expect(refusedIn(books, id)).toMatchObject([{ row: 3, column, remedy: expect.stringContaining(remedy) }])
	})
})
