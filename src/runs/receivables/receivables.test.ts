import { describe, expect, test } from 'vitest'
import { verify } from '@/runs/issue/verify'
import type { Books } from '@/store/books'
import { addItem, applicationsOfCustomer, itemsOfCustomer } from '@/store/ledger'
import { changeSettings } from '@/store/settings'
import { desk, firmBooks } from '../../../tests/support'
import { accountOf } from './account'
import { undoAct } from './acts'
import { applyCredit } from './apply'
import { correctPayment, removeEntry } from './correct'
import { whyNotOn } from './days'
import { debitNote } from './debitNote'
import { setDispute } from './dispute'
import { enterPayment, foreseen, type Payment, paymentSchema } from './payment'
import { refund } from './refund'
import { returnPayment } from './returned'
import { setOff } from './setOff'
import { takeBack } from './takeBack'
import { writeOff } from './writeOff'

/** Books with SK-1048 of 100.00, SK-10480 of 50.00 and the credit note CN-12 of 10.00 on A1, and C1 owing 80.00; worked on 31 Oct 2026. */
function owing() {
	const books = firmBooks()
	const enter = (customer_id: number, number: string, amount: number, due_day: string) =>
		addItem(books, desk, {
			...{ customer_id, number, kind: amount > 0 ? 'invoice' : 'credit', side: amount > 0 ? 'debit' : 'credit' },
			...{ day: '2026-09-01', due_day, currency: 'GBP', amount: Math.abs(amount), their_order: '', note: '' },
			...{ document_id: null, extract_id: null },
		})
	const items = {
		first: enter(1, 'SK-1048', 10_000, '2026-10-01'),
		second: enter(1, 'SK-10480', 5000, '2026-10-05'),
		note: enter(1, 'CN-12', -1000, '2026-09-10'),
		theirs: enter(3, 'SK-9', 8000, '2026-10-10'),
	}
	changeSettings(books, desk, { workDate: '2026-10-31' })
	return { books, items }
}
const payment = (more: Partial<Payment> = {}): Payment =>
	paymentSchema.parse({
		...{ customer: 1, day: '2026-10-20', amount: '100.00', currency: 'GBP', reference: 'BACS', to: 'named', ...more },
	})
const open = (books: Books, customer = 1) =>
	Object.fromEntries(
		itemsOfCustomer(books, customer)
			.filter((item) => item.open > 0)
			.map(({ number, side, open: left }) => [number, side === 'debit' ? left : -left]),
	)
const balance = (books: Books, asOf: string, customer = 1) => accountOf(books, customer, asOf)[0]?.aged.balance
const actOf = (outcome: { ok: boolean; id?: number }) => outcome.id ?? 0
const last = (books: Books) => itemsOfCustomer(books, 1).reduce((one, other) => (other.id > one.id ? other : one))

describe('a payment', () => {
	test('goes to all that its reference names, with the credit note that it names; what was recognised is seen before', () => {
		const { books } = owing()
		const given = payment({ amount: '140', reference: 'SK1048/SK-10480 less CN12' })
		expect(foreseen(books, given)).toEqual({
			ok: true,
			words:
				'Recognised: SK-1048, SK-10480, CN-12. It goes to SK-1048 10.00 from CN-12, SK-1048 90.00, SK-10480 50.00.',
		})
		expect(open(books)).toEqual({ 'SK-1048': 10_000, 'SK-10480': 5000, 'CN-12': -1000 })
		expect(enterPayment(books, desk, given)).toMatchObject({ words: '140.00 GBP to SK-1048, SK-10480, with CN-12' })
		expect(open(books)).toEqual({})
	})

	test('passes over what is in dispute, unless that is named', () => {
		const { books, items } = owing()
		setDispute(books, desk, items.first, 'wet')
		enterPayment(books, desk, payment({ amount: '60', to: 'oldest' }))
		expect(open(books)).toMatchObject({ 'SK-1048': 10_000, BACS: -1000 })
	})

	test('of a closed month, of 1900 or 9999 is refused; one of a day ahead, and the same again, are asked about', () => {
		const { books } = owing()
		for (const day of ['1900-01-01', '9999-12-31', '1999-12-31'])
			expect(enterPayment(books, desk, payment({ day }))).toMatchObject({ ok: false })
		expect(enterPayment(books, desk, payment({ day: '2026-11-02' }))).toMatchObject({ ok: false, ask: 'ahead' })
		expect(enterPayment(books, desk, payment({ day: '2026-11-02', sure: ['ahead'] }))).toMatchObject({ ok: true })
		expect(enterPayment(books, desk, payment({ day: '2026-11-02', sure: ['ahead'] }))).toMatchObject({
			ok: false,
			ask: 'again',
		})
		changeSettings(books, desk, { closedTo: '2026-10-25' })
		expect(enterPayment(books, desk, payment())).toMatchObject({
			ok: false,
			message: expect.stringContaining('closed to 25 Oct'),
		})
		changeSettings(books, desk, { closedTo: '2026-10-31' })
		expect(writeOff(books, desk, last(books).id, 'x')).toMatchObject({ ok: false })
	})

	test('taken back and dated anew leaves no day with more applied than there was', () => {
		const { books, items } = owing()
		enterPayment(books, desk, payment({ day: '2026-10-12', reference: 'first', to: [items.first] }))
		takeBack(books, desk, applicationsOfCustomer(books, 1)[0]?.id ?? 0)
		enterPayment(books, desk, payment({ day: '2026-10-20', reference: 'second', to: [items.first] }))
		for (const asOf of ['2026-10-11', '2026-10-12', '2026-10-25', '2026-10-31'])
			expect(accountOf(books, 1, asOf)[0]?.history.length).toBeGreaterThan(0)
		expect(balance(books, '2026-10-25')).toBe(14_000n - 20_000n)
		expect(open(books)).toMatchObject({ first: -10_000 })
		expect(verify(books).flatMap(({ wrong }) => wrong)).toEqual([])
	})

	test('is corrected or removed with a reason, as a movement of the day, and undone as one', () => {
		const { books } = owing()
		enterPayment(books, desk, payment({ amount: '10.00', reference: 'SK-1048' }))
		const id = last(books).id
		expect(correctPayment(books, desk, id, { ...payment({ reference: 'SK-1048' }), reason: '' })).toMatchObject({
			ok: false,
		})
		const corrected = correctPayment(books, desk, id, {
			...payment({ reference: 'SK-1048' }),
			reason: 'a nought was lost',
		})
		expect(corrected).toMatchObject({ ok: true })
		expect(open(books)).toEqual({ 'SK-10480': 5000, 'CN-12': -1000 })
		// As of the 20th both stand; from the work date on only the right one does.
		expect([balance(books, '2026-10-20'), balance(books, '2026-10-31')]).toEqual([3000n, 4000n])
		expect(undoAct(books, desk, actOf(corrected))).toEqual({ ok: true })
		expect(open(books)).toEqual({ 'SK-1048': 9000, 'SK-10480': 5000, 'CN-12': -1000 })
		const removed = removeEntry(books, desk, id, 'of another customer')
		expect(open(books)).toMatchObject({ 'SK-1048': 10_000 })
		expect(undoAct(books, desk, actOf(removed))).toEqual({ ok: true })
		expect(open(books)).toMatchObject({ 'SK-1048': 9000 })
		expect(verify(books).flatMap(({ wrong }) => wrong)).toEqual([])
	})

	test('that comes back is owed again from that day on, with its charge; undone, it has paid again', () => {
		const { books } = owing()
		enterPayment(books, desk, payment({ reference: 'SK-1048' }))
		const given = { payment: last(books).id, day: '2026-10-25', charge: '15.00', reason: 'no funds' }
		expect(returnPayment(books, desk, { ...given, day: '2026-10-19' })).toMatchObject({ ok: false })
		const returned = returnPayment(books, desk, given)
		expect(returned).toMatchObject({ ok: true })
		expect([balance(books, '2026-10-24'), balance(books, '2026-10-25')]).toEqual([4000n, 15_500n])
		expect(open(books)).toEqual({ 'SK-1048': 10_000, 'SK-10480': 5000, 'CN-12': -1000, 'SK-1048 charge': 1500 })
		expect(returnPayment(books, desk, given)).toMatchObject({ ok: false })
		expect(accountOf(books, 1, '2026-10-31')[0]?.history.map(({ called }) => called)).toContain('returned payment')
		expect(undoAct(books, desk, actOf(returned))).toEqual({ ok: true })
		expect(open(books)).toEqual({ 'SK-10480': 5000, 'CN-12': -1000 })
	})
})

test('a credit goes to the invoice that a reference names; given back it is used up, and not beyond', () => {
	const { books, items } = owing()
	expect(applyCredit(books, desk, items.note, { reference: 'SK-77' })).toMatchObject({ ok: false })
	expect(applyCredit(books, desk, items.note, { reference: 'for Inv.SK-10480' })).toEqual({ ok: true })
	expect(open(books)).toEqual({ 'SK-1048': 10_000, 'SK-10480': 4000 })
	enterPayment(books, desk, payment({ amount: '30', to: 'nothing' }))
	const given = {
		credit: last(books).id,
		day: '2026-10-30',
		amount: '30.01',
		reference: 'OUT 4',
		reason: 'paid too much',
	}
	expect(refund(books, desk, given)).toMatchObject({ ok: false, message: expect.stringContaining('Only 30.00') })
	const back = refund(books, desk, { ...given, amount: '20' })
	expect([balance(books, '2026-10-29'), balance(books, '2026-10-30')]).toEqual([11_000n, 13_000n])
	expect(undoAct(books, desk, actOf(back))).toEqual({ ok: true })
	expect(undoAct(books, desk, actOf(back))).toMatchObject({ ok: false })
	expect(open(books)).toMatchObject({ BACS: -3000 })
})

test('all that stands to a customer’s credit may be given back, and all that the other account owes be set off, no penny more', () => {
	const { books } = owing()
	enterPayment(books, desk, payment({ amount: '100', reference: 'on account', to: 'named' }))
	const credit = last(books).id
	const set = { customer: 1, other: 'C1', currency: 'GBP', reason: 'one firm' }
	expect(setOff(books, desk, { ...set, amount: '80.01' })).toMatchObject({
		ok: false,
		message: expect.stringContaining('owes only 80.00'),
	})
	const given = { credit, day: '2026-10-31', reference: 'OUT 5', reason: 'paid twice' }
	expect(refund(books, desk, { ...given, amount: '100.01' })).toMatchObject({ ok: false })
	const back = refund(books, desk, { ...given, amount: '100' })
	expect(back).toMatchObject({ ok: true })
	expect(open(books)).toEqual({ 'SK-1048': 10_000, 'SK-10480': 5000, 'CN-12': -1000 })
	expect(undoAct(books, desk, actOf(back))).toEqual({ ok: true })
	expect(setOff(books, desk, { ...set, amount: '80' })).toMatchObject({ ok: true })
	expect(open(books, 3)).toEqual({})
	expect(verify(books).flatMap(({ wrong }) => wrong)).toEqual([])
})

test('a write-off that is taken back restores the debt', () => {
	const { books, items } = owing()
	writeOff(books, desk, items.first, 'too old')
	expect(balance(books, '2026-10-31')).toBe(4000n)
	const application = applicationsOfCustomer(books, 1).at(-1)
	expect(takeBack(books, desk, application?.id ?? 0)).toEqual({ ok: true })
	expect(open(books)).toEqual({ 'SK-1048': 10_000, 'SK-10480': 5000, 'CN-12': -1000 })
	expect(balance(books, '2026-10-31')).toBe(14_000n)
})

test('a debit note is owed from its day; a set-off moves a credit of one account against the debt of another, and is undone on both', () => {
	const { books } = owing()
	const note = { customer: 1, number: 'DN-1', day: '2026-10-30', due: '2026-11-15', amount: '7.50', currency: 'GBP' }
	expect(debitNote(books, desk, { ...note, due: '2026-10-01', reason: 'freight' })).toMatchObject({ ok: false })
	expect(debitNote(books, desk, { ...note, reason: 'freight' })).toMatchObject({ ok: true })
	const given = { customer: 1, other: 'c1', amount: '10.00', currency: 'GBP', reason: 'one firm' }
	expect(setOff(books, desk, { ...given, amount: '10.01' })).toMatchObject({ ok: false })
	expect(setOff(books, desk, { ...given, other: 'A1' })).toMatchObject({ ok: false })
	const set = setOff(books, desk, given)
	expect(open(books)).toEqual({ 'SK-1048': 10_000, 'SK-10480': 5000, 'DN-1': 750 })
	expect(open(books, 3)).toEqual({ 'SK-9': 7000 })
	expect(balance(books, '2026-10-31', 3)).toBe(7000n)
	expect(undoAct(books, desk, actOf(set))).toEqual({ ok: true })
	expect(open(books, 3)).toEqual({ 'SK-9': 8000 })
	expect(verify(books).flatMap(({ wrong }) => wrong)).toEqual([])
})

test('an act on which something was built is not undone before that', () => {
	const { books } = owing()
	const note = { customer: 1, number: 'DN-1', day: '2026-10-30', due: '2026-11-15', amount: '7.50', currency: 'GBP' }
	const entered = debitNote(books, desk, { ...note, reason: 'freight' })
	enterPayment(books, desk, payment({ amount: '7.50', reference: 'DN-1' }))
	expect(undoAct(books, desk, actOf(entered))).toMatchObject({ ok: false, message: expect.stringContaining('DN-1') })
	takeBack(books, desk, applicationsOfCustomer(books, 1)[0]?.id ?? 0)
	expect(undoAct(books, desk, actOf(entered))).toEqual({ ok: true })
})

test('the account says which entries can still be put right: not what was adjusted, used up by an act, or came of a document', () => {
	const { books, items } = owing()
	enterPayment(books, desk, payment({ amount: '20.00', reference: 'FREE' }))
	const free = last(books).id
	const before = () => accountOf(books, 1, '2026-10-31')[0]?.history ?? []
	const payments = () => before().flatMap(({ payment }) => payment ?? [])
	const entries = () => before().flatMap(({ item }) => item ?? [])
	expect(payments()).toEqual([free])
	expect(entries()).toEqual(expect.arrayContaining([items.first, items.second, items.note, free]))
	expect(writeOff(books, desk, items.second, 'small')).toMatchObject({ ok: true })
	// What was adjusted, and the adjustment itself, are taken back by their act alone.
	expect(entries()).not.toContain(items.second)
	expect(entries()).toHaveLength(3)
	expect(before().filter(({ act }) => act !== null)).not.toEqual([])
	const back = { payment: free, day: '2026-10-30', charge: '', reason: 'bounced' }
	expect(returnPayment(books, desk, back)).toMatchObject({ ok: true })
	expect(payments()).toEqual([])
})

test('what is open stands with the oldest due first, of one day in the order in which it was entered', () => {
	const { books } = owing()
	const enter = (number: string, due_day: string) =>
		addItem(books, desk, {
			...{ customer_id: 1, number, kind: 'invoice', side: 'debit', day: '2026-09-02', due_day, currency: 'GBP' },
			...{ amount: 100, their_order: '', note: '', document_id: null, extract_id: null },
		})
	for (const [number, due] of [
		['X-3', '2026-10-05'],
		['X-1', '2026-09-20'],
		['X-2', '2026-10-05'],
	] as const)
		enter(number, due)
	const numbers = accountOf(books, 1, '2026-10-31')[0]?.open.map(({ number }) => number)
	expect(numbers).toEqual(['CN-12', 'X-1', 'SK-1048', 'SK-10480', 'X-3', 'X-2'])
})

test('nothing is entered more than a year ahead of the day that is worked on', () => {
	const { books } = owing()
	expect(whyNotOn(books, desk, '2027-10-31')).toBeNull()
	expect(whyNotOn(books, desk, '2027-11-01')).toBe('1 Nov 2027 is more than a year ahead. Give the day of the entry.')
	expect(whyNotOn(books, desk, '2000-01-01')).toBeNull()
	expect(whyNotOn(books, desk, '1999-12-31')).toContain('is before 1 Jan 2000')
})

test('of a long account no more is read than is shown, and its figures are of all of it', () => {
	const books = firmBooks()
	books.db.exec(`WITH RECURSIVE n (x) AS (SELECT 1 UNION ALL SELECT x + 1 FROM n WHERE x < 3000)
		INSERT INTO ledger_item (customer_id, kind, side, number, day, due_day, currency, amount, open, entered_at, entered_by, their_order, note)
		SELECT 1, 'invoice', 'debit', 'B-' || x, '2026-08-01', iif(x % 3 = 0, '2026-12-01', '2026-09-01'), 'GBP', 100, 100, 'x', 'x', '', '' FROM n`)
	const [account] = accountOf(books, 1, '2026-10-31', { bucket: 'not due', offered: 20 })
	expect(account).toMatchObject({
		items: 3000,
		picked: 1000,
		more: true,
		aged: { balance: 300_000n, pastDue: 200_000n },
	})
	expect([account?.open, account?.debits, account?.history].map((shown) => shown?.length)).toEqual([100, 20, 100])
	expect(account?.history.at(-1)).toMatchObject({ words: 'B-3000', balance: 300_000 })
	expect(accountOf(books, 1, '2026-10-31', { page: 30 })[0]).toMatchObject({ more: false })
	expect(accountOf(books, 1, '2026-10-31', { page: 30 })[0]?.history[0]).toMatchObject({ words: 'B-1', balance: 100 })
})
