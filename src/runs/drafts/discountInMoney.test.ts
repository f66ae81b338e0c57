import { expect, test } from 'vitest'
import { startRun } from '@/runs/bench/steps'
import { bringIn } from '@/runs/bringIn/atOnce'
import { netOfOrder } from '@/runs/drafts/orderNets'
import { pdfOf } from '@/runs/files/pdfOf'
import { startCredit } from '@/runs/issue/credit'
import { verify } from '@/runs/issue/verify'
import { readBill } from '@/store/documents'
import { waitingOrders } from '@/store/orders'
import { benchRows } from '@/store/places'
import { pdfText } from '../../../tests/browser/pdf'
import { nextStep, work } from '../../../tests/runs'
import { desk, firmBooks } from '../../../tests/support'
import { divideDraft } from './divide'

test('a discount in money on a line is taken, printed with its currency, credited in part with its part, and verified', async () => {
	const books = firmBooks()
	const content = Buffer.from(
		'Order No,Order date,Cust. No,Item,Qty,Unit price,Discount,Line total,VAT code\n1,2026-10-05,A1,ROPE,10,100.00,50.00,950.00,STD\n',
	)
	expect(await bringIn(books, desk, 'orders.csv', content)).toMatchObject({ ok: true })
	const started = startRun(books, desk, '2026-10-31', '2026-10-31')
	await work(books)
	const run = started.ok ? (started.id ?? 0) : 0
	const [draft] = benchRows(books, run, 5)
	expect(draft).toMatchObject({ net: 95_000 })
	await nextStep(books, run)
	await nextStep(books, run)
	const id = draft?.id ?? 0
	const made = await pdfOf(books, id)
	expect((await pdfText(made?.bytes ?? Buffer.alloc(0))).join(' ')).toMatch(/GBP\s50\.00/)
	const credited = startCredit(books, desk, id, {
		reason: 'two came damaged',
		lines: [{ line: 0, quantity: '2' }],
		freight: false,
	})
	expect(credited).toMatchObject({ ok: true })
	const [note] = benchRows(books, credited.ok ? (credited.id ?? 0) : 0, 5)
	expect(readBill(books, note?.id ?? 0)?.content.lines[0]).toMatchObject({ quantity: '-2', discountAmount: '10.00' })
	expect(note).toMatchObject({ net: -19_000 })
	expect(verify(books).flatMap(({ wrong }) => wrong)).toEqual([])
})

test('money off an order is taken off that order alone, spread over its rates, divided, credited and verified', async () => {
	const books = firmBooks()
	const content = Buffer.from(
		[
			'Order No,Order date,Cust. No,Item,Qty,Unit price,VAT code,Order discount,Order total',
			'1,2026-10-05,A1,ROPE,1,60.00,STD,10.00-,90.00',
			'1,2026-10-05,A1,ROPE,1,40.00,RED,10.00-,90.00',
			'2,2026-10-05,A1,ROPE,1,50.00,STD,,50.00',
			'3,2026-10-05,A1,ROPE,1,8.00,STD,9.00,-1.00',
			'',
		].join('\n'),
	)
	expect(await bringIn(books, desk, 'orders.csv', content)).toMatchObject({ ok: true })
	expect(waitingOrders(books).map((order) => [order.number, netOfOrder(books, order), order.discount_amount])).toEqual([
		['1', 9000, '10.00'],
		['2', 5000, ''],
	])
	const started = startRun(books, desk, '2026-10-31', '2026-10-31')
	await work(books)
	const run = started.ok ? (started.id ?? 0) : 0
	const drafts = benchRows(books, run, 5)
	expect(drafts.map(({ net }) => net).sort()).toEqual([5000, 9000])
	const id = drafts.find(({ net }) => net === 9000)?.id ?? 0
	const { priced, discounts } = readBill(books, id)?.content ?? {}
	expect(discounts).toEqual([{ label: '', amount: '10.00' }])
	expect(priced?.taxes.map(({ code, base }) => [code, base])).toEqual([
		['STD', '54.00'],
		['RED', '36.00'],
	])
	expect(divideDraft(books, desk, id, { lines: [1], to: 'own', reason: 'sent later' })).toMatchObject({ ok: true })
	const halves = benchRows(books, run, 5).map(({ net }) => net)
	expect(halves.sort()).toEqual([3600, 5000, 5400])
	await nextStep(books, run)
	await nextStep(books, run)
	const made = await pdfOf(books, id)
	expect((await pdfText(made?.bytes ?? Buffer.alloc(0))).join(' ')).toMatch(/Discount.*6\.00/)
	expect(
		startCredit(books, desk, id, { reason: 'all came back', lines: [{ line: 0, quantity: '1' }], freight: false }),
	).toMatchObject({ ok: true })
	expect(verify(books).flatMap(({ wrong }) => wrong)).toEqual([])
})
