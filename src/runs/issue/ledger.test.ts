import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { buckets } from '@/core/age'
import { accountsAsOf, entriesAsOf } from '@/core/ledger'
import { panelOf } from '@/runs/bench/panel'
import { acceptNow, lookAt } from '@/runs/bringIn/atOnce'
import { fileView } from '@/runs/bringIn/view'
import { accountOf } from '@/runs/receivables/account'
import { applyCredit } from '@/runs/receivables/apply'
import { setDispute } from '@/runs/receivables/dispute'
import { enterPayment, type Payment, paymentSchema } from '@/runs/receivables/payment'
import { takeBack } from '@/runs/receivables/takeBack'
import { writeOff } from '@/runs/receivables/writeOff'
import { agedAccounts, agedTotals, itemsOwed, owedAtEnds } from '@/store/accounts'
import type { Books } from '@/store/books'
import {
	addApplication,
	addItem,
	allBalances,
	applicationsOfCustomer,
	balanceOf,
	itemsOfCustomer,
} from '@/store/ledger'
import { benchRows } from '@/store/places'
import { saveRegister } from '@/store/registers'
import { changeSettings } from '@/store/settings'
import { billed, entriesOf } from '../../../tests/runs'
import { desk, firmBooks, plainRegister } from '../../../tests/support'
import { walks } from '../../../tests/walks'
import { creditSchema, startCredit } from './credit'
import { voidDocument } from './void'

const rows = ['8801,03/10/2026,A1,ROPE,Line,10,2.00,,STD,,', '8802,04/10/2026,A1,ROPE,Line,5,2.00,,STD,,']
const payment = (more: Partial<Payment> = {}): Payment =>
	paymentSchema.parse({
		customer: 1,
		day: '2026-11-20',
		amount: '10.00',
		currency: 'GBP',
		reference: '',
		to: 'named',
		sure: ['ahead'],
		...more,
	})
/** Open by number; a credit below zero. */
const open = (books: Books) =>
	Object.fromEntries(
		itemsOfCustomer(books, 1)
			.filter((item) => item.open > 0)
			.map((item) => [item.number, item.side === 'debit' ? item.open : -item.open]),
	)

/** Books with two invoices to A1: T-0041 of 24.00 and T-0042 of 12.00, both due on 30 Nov 2026. */
async function invoiced() {
	const books = firmBooks()
	const run = await billed(books, ...rows)
	return { books, run }
}

describe('what is issued here enters the ledger', () => {
	test('in the transaction that numbers it, with its due date; a void one leaves it again', async () => {
		const { books, run } = await invoiced()
		expect(itemsOfCustomer(books, 1)).toMatchObject([
			{ kind: 'invoice', number: 'T-0041', amount: 2400, open: 2400, due_day: '2026-11-30' },
			{ kind: 'invoice', number: 'T-0042', amount: 1200, open: 1200 },
		])
		voidDocument(books, desk, benchRows(books, run)[0]?.id ?? 0, 'wrong yard')
		expect(open(books)).toEqual({ 'T-0042': 1200 })
		expect(itemsOfCustomer(books, 1)).toHaveLength(3)
	})

	test('a credit note is applied to the invoice that it credits', async () => {
		const { books, run } = await invoiced()
		saveRegister(books, desk, { ...plainRegister, kind: 'credit-note', prefix: 'C-', digits: 3, next: 1 })
		const lines = [{ line: 0, quantity: '4' }]
		const wanted = creditSchema.parse({ lines, freight: false, reason: 'came back' })
		const credit = startCredit(books, desk, benchRows(books, run)[0]?.id ?? 0, wanted)
		const { numberDocuments } = await import('./number')
		numberDocuments(books, desk, credit.ok ? (credit.id ?? 0) : 0, 1)
		expect(open(books)).toEqual({ 'T-0041': 1440, 'T-0042': 1200 })
	})

	test('and counts towards the credit limit of what is billed next', async () => {
		const { books } = await invoiced()
		expect(allBalances(books).get('1 GBP')).toBe(3600)
		books.db.exec('UPDATE customer SET credit_limit = 4000 WHERE id = 1')
		const run = await billed(books, '8803,05/10/2026,A1,ROPE,Line,2,2.00,,STD,,')
		const found = panelOf(books, benchRows(books, run)[0]?.id ?? 0)?.findings.find(({ code }) => code === 'over-limit')
		expect(found?.text).toBe(
			'4.80 GBP, with 36.00 GBP that they owe already, is more than the credit limit of 40.00 GBP. Hold it back, or raise the limit under Accounts.',
		)
	})
})

describe('a payment', () => {
	test('goes to the numbers in its reference; what is over stays unapplied', async () => {
		const { books } = await invoiced()
		expect(enterPayment(books, desk, payment({ amount: '1,213.00', reference: 'BACS T-0042' }))).toMatchObject({
			words: '1,213.00 GBP to T-0042, 1,201.00 GBP unapplied',
		})
		expect(open(books)).toEqual({ 'T-0041': 2400, 'BACS T-0042': -120_100 })
	})

	test('goes to the oldest due, in part where it is short, or to chosen items', async () => {
		const { books } = await invoiced()
		enterPayment(books, desk, payment({ amount: '30', to: 'oldest' }))
		expect(open(books)).toEqual({ 'T-0042': 600 })
		enterPayment(books, desk, payment({ amount: '1', to: [itemsOfCustomer(books, 1)[1]?.id ?? 0] }))
		expect(open(books)).toEqual({ 'T-0042': 500 })
	})

	test('is taken back and applied elsewhere as of today; the balance of yesterday stays', async () => {
		const { books } = await invoiced()
		enterPayment(books, desk, payment({ amount: '24', reference: 'BACS T-0041' }))
		changeSettings(books, desk, { workDate: '2026-11-24' })
		const yesterday = () => accountOf(books, 1, '2026-11-23').map(({ aged }) => aged)
		const before = yesterday()
		const [application] = applicationsOfCustomer(books, 1)
		expect(takeBack(books, desk, application?.id ?? 0)).toEqual({ ok: true })
		expect(takeBack(books, desk, application?.id ?? 0)).toMatchObject({ ok: false })
		expect(open(books)).toEqual({ 'T-0041': 2400, 'T-0042': 1200, 'BACS T-0041': -2400 })
		const credit = itemsOfCustomer(books, 1).find(({ kind }) => kind === 'payment')
		expect(credit?.open).toBe(2400)
		expect(applyCredit(books, desk, credit?.id ?? 0, [itemsOfCustomer(books, 1)[1]?.id ?? 0])).toEqual({ ok: true })
		expect(applyCredit(books, desk, credit?.id ?? 0, 'oldest')).toEqual({ ok: true })
		expect(applyCredit(books, desk, credit?.id ?? 0, 'oldest')).toMatchObject({ ok: false })
		expect(balanceOf(books, 1, 'GBP')).toBe(1200)
		expect(yesterday()).toEqual(before)
	})

	test('in two parts or in one ends the same', async () => {
		const ends = async (...amounts: string[]) => {
			const { books } = await invoiced()
			for (const amount of amounts) enterPayment(books, desk, payment({ amount, to: 'oldest' }))
			return accountOf(books, 1, '2026-12-31').map(({ aged, open: left }) => ({
				...{ aged, left: left.map(({ number, open: some }) => [number, some]) },
			}))
		}
		expect(await ends('10', '8.50')).toEqual(await ends('18.50'))
	})

	test('of nothing, of an unknown customer or in no currency is refused', async () => {
		const { books } = await invoiced()
		expect(enterPayment(books, desk, payment({ amount: '0' }))).toMatchObject({ ok: false })
		expect(enterPayment(books, desk, payment({ amount: 'ten' }))).toMatchObject({ ok: false })
		expect(enterPayment(books, desk, payment({ customer: 99 }))).toMatchObject({ ok: false })
		expect(paymentSchema.safeParse({ ...payment(), currency: 'POUND' }).success).toBe(false)
	})

	test('comes from a file, row by row, and the same file changes nothing', async () => {
		const { books } = await invoiced()
		changeSettings(books, desk, { workDate: '2026-11-30' })
		const content = Buffer.from(
			'Date,Customer no,Amount,Curr,Reference\n20/11/2026,A1,24.00,GBP,CHQ T-0041\n21/11/2026,NOPE,5,GBP,x\n21/11/2026,A1,-5,GBP,x\n22/11/2026,A1,2.00,,on account\n',
		)
		const id = await lookAt(books, desk, 'payments.csv', content, { to: 'named' })
		const view = fileView(books, id, 1)
		expect(view?.review?.payments).toEqual([{ currency: 'GBP', payments: 2, amount: 2600 }])
		expect(view?.refused.rows.map(({ row, reasons }) => [row, reasons[0]?.column_name])).toEqual([
			[3, 'Customer no'],
			[4, 'Amount'],
		])
		// What each would be applied to is shown before anything is entered.
		expect(view?.records.map(({ brief }) => JSON.parse(brief))).toMatchObject([
			{ applied: [{ number: 'T-0041', amount: 2400 }], over: 0 },
			{ applied: [], over: 200 },
		])
		expect(await acceptNow(books, desk, id)).toEqual({
			ok: true,
			words: '2 payments were entered; 2 rows were refused.',
		})
		await acceptNow(books, desk, id)
		expect(open(books)).toEqual({ 'T-0042': 1200, 'on account': -200 })
	})
})

test('what is written off is adjusted with its reason; a dispute keeps an item out of what is past due, and ends', async () => {
	const { books } = await invoiced()
	changeSettings(books, desk, { workDate: '2026-12-10' })
	const [first, second] = itemsOfCustomer(books, 1)
	expect(writeOff(books, desk, first?.id ?? 0, ' ')).toMatchObject({ ok: false })
	expect(writeOff(books, desk, first?.id ?? 0, 'goodwill')).toMatchObject({ ok: true })
	expect(writeOff(books, desk, first?.id ?? 0, 'again')).toMatchObject({ ok: false })
	expect(setDispute(books, desk, second?.id ?? 0, 'damaged')).toEqual({ ok: true })
	const [account] = accountOf(books, 1, '2026-12-12')
	expect(account?.aged).toMatchObject({ pastDue: 0n, disputed: 1200n, balance: 1200n })
	expect(account?.open[0]).toMatchObject({ why: 'disputed since 10 Dec 2026', dispute: 'damaged' })
	expect(account?.history.map(({ kind, change, balance }) => [kind, change, balance])).toEqual([
		['invoice', 2400, 2400],
		['invoice', 1200, 3600],
		['adjustment', -2400, 1200],
		['applied', null, 1200],
	])
	changeSettings(books, desk, { workDate: '2026-12-14' })
	expect(setDispute(books, desk, second?.id ?? 0, '')).toEqual({ ok: true })
	expect(setDispute(books, desk, second?.id ?? 0, '')).toMatchObject({ ok: false })
	expect(accountOf(books, 1, '2026-12-14')[0]?.aged.pastDue).toBe(1200n)
	expect(accountOf(books, 1, '2026-12-12')[0]?.aged.pastDue).toBe(0n)
})

test('the database allows no more to be applied than is open, and nothing applied is changed or removed', async () => {
	const { books } = await invoiced()
	const [first] = itemsOfCustomer(books, 1)
	const over = { debit_id: first?.id ?? 0, credit_id: null, day: '2026-11-01', amount: 2401, reason: 'x' }
	expect(() => addApplication(books, desk, over)).toThrow(/CHECK/)
	addApplication(books, desk, { ...over, amount: 1 })
	expect(() => books.db.exec('UPDATE application SET amount = 2')).toThrow(/never changed/)
	expect(() => books.db.exec('DELETE FROM application')).toThrow(/never removed/)
	expect(() => books.db.exec('DELETE FROM ledger_item')).toThrow(/never removed/)
})

test('the figures of the list are those of the core, on the day and on any day before; buckets and credits make the balance', () => {
	const books = firmBooks()
	const day = fc
		.integer({ min: 0, max: 180 })
		.map((days) => new Date(Date.UTC(2026, 4, 1 + days)).toISOString().slice(0, 10))
	const items = fc.array(
		fc.record({
			customer: fc.integer({ min: 1, max: 3 }),
			debit: fc.boolean(),
			amount: fc.integer({ min: 2, max: 90_000 }),
			day,
			terms: fc.integer({ min: 0, max: 60 }),
			applied: fc.option(fc.record({ after: fc.integer({ min: 0, max: 90 }), share: fc.integer({ min: 1, max: 4 }) })),
			disputed: fc.boolean(),
		}),
		{ maxLength: 12 },
	)
	const plus = (from: string, days: number) => new Date(Date.parse(from) + days * 86_400_000).toISOString().slice(0, 10)
	fc.assert(
		fc.property(items, day, (list, asOf) => {
			books.db.exec('SAVEPOINT one')
			for (const { customer, debit, amount, day: dated, terms, applied, disputed } of list) {
				const id = addItem(books, desk, {
					customer_id: customer,
					kind: debit ? 'invoice' : 'payment',
					side: debit ? 'debit' : 'credit',
					number: 'X',
					day: dated,
					due_day: plus(dated, terms),
					currency: 'GBP',
					amount,
					their_order: '',
					note: '',
					document_id: null,
					extract_id: null,
				})
				if (applied)
					addApplication(books, desk, {
						debit_id: debit ? id : null,
						credit_id: debit ? null : id,
						day: plus(dated, applied.after),
						amount: Math.ceil(amount / applied.share),
						reason: 'x',
					})
				if (disputed)
					books.db
						.prepare(`INSERT INTO dispute (item_id, since, note, at, clerk) VALUES (?, ?, 'x', 'x', 'x')`)
						.run(id, plus(dated, 20))
			}
			const listed = agedAccounts(books, asOf)
			for (const customer of [1, 2, 3]) {
				const core = accountsAsOf(entriesAsOf(entriesOf(books, customer), asOf))[0]
				// The page of the one account has them too, each of its items as the core has it.
				const [page] = accountOf(books, customer, asOf)
				const { items: ofCore = [], ...sums } = core ?? {}
				if (page) expect(page.aged).toEqual(sums)
				expect(page?.open.map(({ open }) => open).reduce((sum, one) => sum + one, 0) ?? 0).toBe(
					Number(core?.balance ?? 0n),
				)
				expect(page?.items ?? 0).toBe(ofCore.filter(({ open }) => open).length)
				const row = listed.find(({ customer_id }) => customer_id === customer)
				const figures = (name: string) => core?.buckets[name] ?? 0n
				expect(row?.buckets ?? buckets.map(() => 0)).toEqual(buckets.map((name) => Number(figures(name))))
				expect([row?.past_due ?? 0, row?.disputed ?? 0, row?.credits ?? 0, row?.balance ?? 0]).toEqual(
					[core?.pastDue, core?.disputed, core?.unappliedCredits, core?.balance].map((amount) => Number(amount ?? 0n)),
				)
				const owed = (row?.buckets ?? []).reduce((sum, amount) => sum + amount, 0)
				expect(owed - (row?.credits ?? 0)).toBe(row?.balance ?? 0)
			}
			const [total] = agedTotals(books, asOf)
			expect(total?.balance ?? 0).toBe(listed.reduce((sum, { balance }) => sum + balance, 0))
			// Months past and the items that a figure leads to come by other ways through the tables, to the same money.
			const inBuckets = total?.buckets ?? buckets.map(() => 0)
			expect(owedAtEnds(books, 'GBP', [asOf, plus(asOf, -40)])).toEqual([
				inBuckets,
				agedTotals(books, plus(asOf, -40))[0]?.buckets ?? buckets.map(() => 0),
			])
			const of = (pick: string) => itemsOwed(books, { asOf, currency: 'GBP', pick, words: '', customers: null }, 99)
			expect(buckets.map((pick) => of(pick).open)).toEqual(inBuckets)
			expect(['credits', 'past due', 'disputed', ''].map((pick) => of(pick).open)).toEqual(
				[-(total?.credits ?? 0), total?.past_due, total?.disputed, total?.balance].map((amount) => amount || 0),
			)
			expect(of('').rows.length).toBe(of('').items)
			books.db.exec('ROLLBACK TO one; RELEASE one')
		}),
		{ numRuns: walks(20) },
	)
})
