import { describe, expect, test } from 'vitest'
import type { Books } from '@/store/books'
import { addItem, itemsOfCustomer } from '@/store/ledger'
import { changeSettings } from '@/store/settings'
import { desk, firmBooks } from '../../../tests/support'
import { setDispute } from '../receivables/dispute'
import { enterPayment, paymentSchema } from '../receivables/payment'
import { acceptNow, doFileJobs, lookAt } from './atOnce'
import { answer, changeReading } from './receive'
import { fileView } from './view'

const head = 'Date,Customer no,Amount,Curr,Reference'

/** Books in which A1 owes SK-1048, SK-10480 and SK-1050, and has the credit note CN-12; worked on 31 Oct 2026. */
function owing() {
	const books = firmBooks()
	const enter = (number: string, pence: number, due_day: string) =>
		addItem(books, desk, {
			...{ customer_id: 1, number, kind: pence > 0 ? 'invoice' : 'credit', side: pence > 0 ? 'debit' : 'credit' },
			...{ day: '2026-09-01', due_day, currency: 'GBP', amount: Math.abs(pence), their_order: '', note: '' },
			...{ document_id: null, extract_id: null },
		})
	enter('SK-1048', 10_000, '2026-10-01')
	enter('SK-10480', 5000, '2026-10-05')
	const late = enter('SK-1050', 2000, '2026-09-15')
	enter('CN-12', -1000, '2026-09-10')
	changeSettings(books, desk, { workDate: '2026-10-31' })
	return { books, late }
}
const bring = (books: Books, ...rows: string[]) =>
	lookAt(books, desk, 'payments.csv', Buffer.from([head, ...rows, ''].join('\n')), { days: 'day first' })
const goesTo = (books: Books, file: number) =>
	fileView(books, file, 1)?.records.map(({ brief }) => {
		const { applied, over } = JSON.parse(brief)
		return [
			...applied.map(({ number, amount }: { number: string; amount: number }) => `${number} ${amount}`),
			`over ${over}`,
		]
	})
const refusals = (books: Books, file: number) =>
	fileView(books, file, 1)?.refused.rows.map(({ row, reasons }) => [row, reasons[0]?.remedy])
const open = (books: Books) =>
	Object.fromEntries(
		itemsOfCustomer(books, 1)
			.filter((item) => item.open > 0)
			.map(({ number, side, open: left }) => [number, side === 'debit' ? left : -left]),
	)

describe('a file of payments', () => {
	test('shows what each reference was recognised as, and applies just that', async () => {
		const { books, late } = owing()
		setDispute(books, desk, late, 'wet')
		const rows = [
			'20/10/2026,A1,30.00,GBP,SK1048/SK-10480',
			'21/10/2026,A1,105.00,GBP,Inv.SK-1048 + 10480 less CN12',
			'22/10/2026,A1,9.00,GBP,SK-104800 thanks',
		]
		const file = await bring(books, ...rows)
		// One after the other, as they are entered; the oldest first passes over what is in dispute.
		expect(goesTo(books, file)).toEqual([
			['SK-1048 3000', 'over 0'],
			['SK-1048 from CN-12 1000', 'SK-1048 6000', 'SK-10480 4500', 'over 0'],
			['SK-10480 500', 'over 400'],
		])
		expect(await acceptNow(books, desk, file)).toMatchObject({ ok: true })
		expect(open(books)).toEqual({ 'SK-1050': 2000, 'SK-104800 thanks': -400 })
	})

	test('refuses what is of closed books, of a day ahead, or of a day before there were any', async () => {
		const { books } = owing()
		changeSettings(books, desk, { closedTo: '2026-09-30' })
		const file = await bring(
			books,
			'30/09/2026,A1,1.00,GBP,a',
			'01/11/2026,A1,1.00,GBP,b',
			'01/01/1999,A1,1.00,GBP,c',
			'01/10/2026,A1,1.00,GBP,d',
		)
		expect(refusals(books, file)).toEqual([
			[2, expect.stringContaining('closed to 30 Sep 2026')],
			[3, expect.stringContaining('after the day that is worked on')],
			[4, expect.stringContaining('before 1 Jan 2000')],
		])
		expect(await acceptNow(books, desk, file)).toMatchObject({
			ok: true,
			words: expect.stringContaining('1 payment was'),
		})
	})

	test('refuses what is no currency or no amount of it, and reads small letters', async () => {
		const { books } = owing()
		const file = await bring(
			books,
			'01/10/2026,A1,1.005,GBP,a',
			'01/10/2026,A1,2.50,gbp,b',
			'01/10/2026,A1,2.50,POUNDS,c',
			'01/10/2026,A1,-3.00,GBP,d',
			'01/10/2026,A1,,GBP,e',
		)
		expect(refusals(books, file)).toEqual([
			[2, expect.stringContaining('finer than the smallest unit of GBP')],
			[4, 'This is not a currency code such as GBP. Correct it here.'],
			[5, expect.stringContaining('A payment is above zero.')],
			[6, 'Every payment needs its amount. Give it here.'],
		])
	})

	test('asks of the same payment again: in the file, in another, and where it was entered by hand', async () => {
		const { books } = owing()
		const given = {
			customer: 1,
			day: '2026-10-20',
			amount: '30.00',
			currency: 'GBP',
			reference: 'BACS 1',
			to: 'nothing',
		}
		expect(enterPayment(books, desk, paymentSchema.parse(given)).ok).toBe(true)
		const file = await bring(
			books,
			'20/10/2026,A1,30.00,GBP,BACS 1',
			'21/10/2026,A1,5.00,GBP,BACS 2',
			'21/10/2026,A1,5.00,GBP,BACS 2',
		)
		expect(fileView(books, file, 1)?.records.map(({ standing }) => standing)).toEqual(['again', 'new', 'again'])
		expect(await acceptNow(books, desk, file)).toMatchObject({ ok: false })
		answer(books, desk, file, { twice: 'leave' })
		changeReading(books, desk, file, { to: 'nothing' })
		await doFileJobs(books, desk)
		await acceptNow(books, desk, file)
		expect(open(books)).toMatchObject({ 'BACS 1': -3000, 'BACS 2': -500 })
		const again = await bring(books, '21/10/2026,A1,5.00,GBP,BACS 2', '22/10/2026,A1,6.00,GBP,BACS 3')
		expect(fileView(books, again, 1)?.records.map(({ standing }) => standing)).toEqual(['again', 'new'])
	})
})
