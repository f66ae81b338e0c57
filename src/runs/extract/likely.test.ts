import { describe, expect, test } from 'vitest'
import { acceptNow, doFileJobs, lookAt } from '@/runs/bringIn/atOnce'
import { answer } from '@/runs/bringIn/receive'
import { takeFileBack } from '@/runs/bringIn/takeBack'
import { fileView } from '@/runs/bringIn/view'
import { verify } from '@/runs/issue/verify'
import { voidDocument } from '@/runs/issue/void'
import { accountOf } from '@/runs/receivables/account'
import { setDispute } from '@/runs/receivables/dispute'
import { enterPayment, paymentSchema } from '@/runs/receivables/payment'
import type { Books } from '@/store/books'
import { readAnyDocument } from '@/store/documents'
import { itemsOfCustomer } from '@/store/ledger'
import { billed } from '../../../tests/runs'
import { desk, firmBooks } from '../../../tests/support'
import type { PairAnswer } from './likely'

const head = 'Customer no,Document no,Type,Document date,Due date,Amount,Outstanding,Curr,PO ref'
/** A row of an extract: whose, number, kind, amount, open, currency. */
const row = (
	customer: string,
	number: string,
	amount: string,
	{ open = amount, kind = 'Invoice', curr = 'GBP', due = '31/08/2026' } = {},
) => `${customer},${number},${kind},01/08/2026,${due},${amount},${open},${curr},`
const receive = (books: Books, name: string, rows: string[], end = '\n'): Promise<number> =>
	lookAt(books, desk, name, Buffer.from([head, ...rows].join('\n') + end), { days: 'day first' })
const extract = async (books: Books, day: string, rows: string[]): Promise<number> => {
	const id = await receive(books, `open-items-${day}.csv`, rows)
	expect(await acceptNow(books, desk, id)).toMatchObject({ ok: true })
	return id
}
const saidOf = (books: Books, id: number) => fileView(books, id, 1)?.review?.extract
const say = async (books: Books, id: number, said: PairAnswer) => {
	const pairs = Object.fromEntries((saidOf(books, id)?.likely ?? []).map(({ key }) => [key, said]))
	answer(books, desk, id, { pairs })
	await doFileJobs(books, desk)
}
const pay = (books: Books, day: string, amount: string, reference: string) =>
	expect(
		enterPayment(
			books,
			desk,
			paymentSchema.parse({ customer: 1, day, amount, currency: 'GBP', reference, to: 'named', sure: [] }),
		),
	).toMatchObject({ ok: true })
/** What is open of items that count, by number, of one who owes it; a credit below zero. */
const open = (books: Books, customer: number) =>
	Object.fromEntries(
		itemsOfCustomer(books, customer)
			.filter((item) => item.away === 0 && item.open > 0)
			.map((item) => [`${item.number} ${item.currency}`, item.side === 'debit' ? item.open : -item.open]),
	)
const whole = (books: Books) => expect(verify(books).flatMap(({ wrong }) => wrong)).toEqual([])
const balances = (books: Books) =>
	['2026-09-30', '2026-10-15', '2026-10-31', '2026-11-02'].map((day) =>
		[1, 3].map((customer) => accountOf(books, customer, day).map(({ aged }) => [aged.currency, aged.balance])),
	)

describe('an item that another system has otherwise', () => {
	const was = row('A1', 'X-1', '100.00')
	test.each<[string, string, string[], PairAnswer, object, object]>([
		['customer', row('C1', 'X-1', '100.00'), ['stays', 'along', 'credit', 'other'], 'stays', {}, { 'X-1 GBP': 10_000 }],
		['customer', row('C1', 'X-1', '100.00'), ['stays', 'along', 'credit', 'other'], 'along', {}, { 'X-1 GBP': 7000 }],
		[
			'customer',
			row('C1', 'X-1', '100.00'),
			['stays', 'along', 'credit', 'other'],
			'credit',
			{ 'X-1 paid GBP': -3000 },
			{ 'X-1 GBP': 10_000 },
		],
		['sign', row('A1', 'X-1', '-100.00'), ['stays', 'credit', 'other'], 'stays', { 'X-1 GBP': -10_000 }, {}],
		[
			'sign',
			row('A1', 'X-1', '-100.00'),
			['stays', 'credit', 'other'],
			'credit',
			{ 'X-1 GBP': -10_000, 'X-1 paid GBP': -3000 },
			{},
		],
		[
			'currency',
			row('A1', 'X-1', '117.00', { curr: 'EUR' }),
			['stays', 'credit', 'other'],
			'credit',
			{ 'X-1 EUR': 11_700, 'X-1 paid GBP': -3000 },
			{},
		],
		['number', row('A1', 'X 01', '100.00'), ['stays', 'other'], 'stays', { 'X-1 GBP': 7000 }, {}],
		['number', row('A1', 'Inv. X1', '120.00'), ['stays', 'other'], 'stays', { 'X-1 GBP': 9000 }, {}],
		['number', row('A1', '1', '100.00'), ['stays', 'other'], 'other', { '1 GBP': 10_000 }, {}],
		['kind', row('A1', 'X-1', '100.00', { kind: 'Debit note' }), ['stays', 'other'], 'stays', { 'X-1 GBP': 7000 }, {}],
	])(
		'%s: %s is asked about (%s), and with “%s” nothing that was paid here is lost',
		async (way, now, answers, said, a1, c1) => {
			const books = firmBooks()
			const other = row('C1', 'Z-9', '5.00')
			await extract(books, '2026-09-30', [was, other])
			pay(books, '2026-10-20', '30.00', 'X-1 paid')
			const before = balances(books)
			const id = await receive(books, 'open-items-2026-10-31.csv', [now, other])
			expect(fileView(books, id, 1)?.open).toEqual(['pairs'])
			expect(saidOf(books, id)?.likely).toMatchObject([{ ways: [way], answers, here: { number: 'X-1' } }])
			expect(fileView(books, id, 1)?.records.filter(({ standing }) => standing === 'likely item')).toHaveLength(1)
			expect(await acceptNow(books, desk, id)).toMatchObject({ ok: false })
			await say(books, id, said)
			expect(await acceptNow(books, desk, id)).toMatchObject({ ok: true })
			expect([open(books, 1), open(books, 3)]).toEqual([a1, { 'Z-9 GBP': 500, ...c1 }])
			whole(books)
			// The next one has it as this one had: known by now, nothing is asked.
			const next = await receive(books, 'open-items-2026-11-01.csv', [`${now} `, other])
			expect(saidOf(books, next)).toMatchObject({ likely: [], doubts: ['ahead 2026-10-31'] })
			// Taken back, every day has what it had, the dispute of it too.
			expect(await takeFileBack(books, desk, id, 'not so')).toMatchObject({ ok: true })
			expect(balances(books)).toEqual(before)
			expect(open(books, 1)).toEqual({ 'X-1 GBP': 7000 })
			whole(books)
		},
	)

	test('a dispute goes with it, and comes back', async () => {
		const books = firmBooks()
		await extract(books, '2026-09-30', [was])
		setDispute(books, desk, itemsOfCustomer(books, 1)[0]?.id ?? 0, 'torn')
		const id = await receive(books, 'open-items-2026-10-31.csv', [row('C1', 'X-1', '100.00')])
		await say(books, id, 'stays')
		await acceptNow(books, desk, id)
		const disputed = () =>
			[1, 3].map((customer) => accountOf(books, customer, '2026-10-31').flatMap(({ aged }) => aged.disputed))
		const there = disputed()
		await takeFileBack(books, desk, id, 'not so')
		expect([there, disputed()]).toEqual([
			[[0n], [10_000n]],
			[[10_000n], []],
		])
	})

	test('what was paid in whole here, and is another customer’s there, is not lost', async () => {
		const books = firmBooks()
		await extract(books, '2026-09-30', [was])
		pay(books, '2026-10-20', '100.00', 'X-1 paid')
		const id = await receive(books, 'open-items-2026-10-31.csv', [row('C1', 'X 1', '100.00')])
		expect(saidOf(books, id)?.likely).toMatchObject([{ ways: ['customer', 'number'], paid: 10_000 }])
		await say(books, id, 'credit')
		expect(await acceptNow(books, desk, id)).toMatchObject({ ok: true })
		expect([open(books, 1), open(books, 3)]).toEqual([{ 'X-1 paid GBP': -10_000 }, { 'X 1 GBP': 10_000 }])
		whole(books)
	})

	test('numbers of others, and of what was settled long ago, are no likely pairs', async () => {
		const books = firmBooks()
		await extract(books, '2026-09-30', [was, row('A1', 'Y-7', '9.00'), row('A1', 'N-3', '4.00')])
		const id = await receive(books, 'open-items-2026-10-31.csv', [
			// Another customer, another amount, written otherwise; a payment of the same number; a number within a number.
			row('C1', 'X 1', '55.00'),
			row('A1', 'Y-7', '-9.00', { kind: 'Payment' }),
			row('A1', 'N-33', '4.00'),
			was,
		])
		expect(saidOf(books, id)?.likely).toEqual([])
	})

	test('an invoice of ours that is void here is not opened again: it stays so, or another stands for it', async () => {
		for (const said of ['stays', 'other'] as const) {
			const books = firmBooks()
			const run = await billed(books, '8801,03/10/2026,A1,ROPE,Line,2,2.00,,STD,,')
			const { id: document, number } = documentOf(books, run)
			voidDocument(books, desk, document, 'typed twice')
			const mine = `A1,${number},Invoice,31/10/2026,30/11/2026,4.80,4.80,GBP,`
			const id = await receive(books, 'open-items-2026-10-31.csv', [mine, was])
			expect(saidOf(books, id)?.likely).toMatchObject([{ ways: ['void'], answers: ['stays', 'other'] }])
			await say(books, id, said)
			expect(await acceptNow(books, desk, id)).toMatchObject({ ok: true })
			expect(open(books, 1)).toEqual({ 'X-1 GBP': 10_000, ...(said === 'other' ? { [`${number} GBP`]: 480 } : {}) })
			whole(books)
		}
	})

	test('what an extract changed of an invoice of ours is its word: the books hold, and keep what was issued', async () => {
		const books = firmBooks()
		const run = await billed(books, '8801,03/10/2026,A1,ROPE,Line,2,2.00,,STD,,')
		const { number } = documentOf(books, run)
		const id = await receive(books, 'open-items-2026-10-31.csv', [
			`A1,${number},Charge,31/10/2026,15/12/2026,6.00,6.00,GBP,`,
		])
		await say(books, id, 'stays')
		expect(await acceptNow(books, desk, id)).toMatchObject({ ok: true })
		whole(books)
		books.db.prepare('DROP TRIGGER item_change_keeps').run()
		books.db.prepare('UPDATE item_change SET amount_was = amount_was + 1').run()
		expect(
			verify(books)
				.flatMap(({ wrong }) => wrong)
				.join('; '),
		).toContain(`${number} stands in the ledger otherwise`)
	})
})
const documentOf = (books: Books, run: number) => {
	const row = books.db
		.prepare<[number], { id: number }>('SELECT id FROM document WHERE run_id = ? AND number IS NOT NULL')
		.get(run)
	const document = readAnyDocument(books, row?.id ?? 0)
	return { id: document?.id ?? 0, number: document?.number ?? '' }
}

describe('signs of a file that is not whole', () => {
	const thirty = Array.from({ length: 30 }, (_, place) => row(place % 2 ? 'A1' : 'C1', `T-${100 + place}`, '10.00'))
	const total = 'Total,,,,,,300.00,GBP,'
	test.each<[string, string[], string, string[]]>([
		['a last row that is cut', [...thirty.slice(0, 29), 'A1,T-129,Invoice,01/08/20'], '\n', ['cut 31', 'untotalled']],
		[
			'one cut within its last figure',
			[...thirty.slice(0, 29), 'A1,T-129,Invoice,01/08/2026,31/08/2026,10.00,1'],
			'',
			['cut 31', 'untotalled', 'unended'],
		],
		['far fewer rows', thirty.slice(0, 13), '\n', ['untotalled', 'fewer 13 30']],
		['a count that is out', [...thirty.slice(0, 28), 'Records: 30'], '\n', ['count 30 28']],
		['a total that is out', [...thirty.slice(0, 29), total], '\n', ['control GBP 1000']],
		['nothing of that', [...thirty.slice(0, 29), 'Records,29'], '\n', []],
		['a count of all its rows', [...thirty.slice(0, 29), 'Total,,,,,,290.00,GBP,', 'END 32'], '\n', []],
	])('%s is a doubt of its own', async (_, rows, end, doubts) => {
		const books = firmBooks()
		await extract(books, '2026-09-30', [...thirty, total])
		const id = await receive(books, 'open-items-2026-10-31.csv', rows, end)
		expect(saidOf(books, id)?.doubts).toEqual(doubts)
		expect((await acceptNow(books, desk, id)).ok).toBe(doubts.length === 0)
	})

	test('the same bytes are the same file, but for a later day, on which nothing was otherwise', async () => {
		const books = firmBooks()
		await extract(books, '2026-09-30', thirty)
		const same = await receive(books, 'open-items-2026-09-30.csv', thirty)
		expect(fileView(books, same, 1)?.file.state).toBe('dropped')
		const later = await receive(books, 'open-items-2026-10-31.csv', thirty)
		expect(await acceptNow(books, desk, later)).toMatchObject({
			ok: true,
			words: expect.stringContaining('30 the same'),
		})
		const nameless = await receive(books, 'items.csv', thirty)
		expect(saidOf(books, nameless)?.hindered).toContain('Give the day')
	})

	test('a refused row leaves what it may mean as it is, however that is written', async () => {
		const books = firmBooks()
		await extract(books, '2026-09-30', [row('A1', 'X-1', '100.00'), row('A1', 'Y-1', '9.00')])
		const id = await receive(books, 'open-items-2026-10-31.csv', [row('A1', 'X 01', 'n/a'), row('A1', 'Y-1', '9.00')])
		expect(fileView(books, id, 1)?.records.filter(({ standing }) => standing === 'gone')).toEqual([])
	})
})
