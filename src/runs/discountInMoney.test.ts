import { expect, test } from 'vitest'
import { readBill } from '@/store/documents'
import { benchRows } from '@/store/places'
import { pdfText } from '../../tests/browser/pdf'
import { nextStep, work } from '../../tests/runs'
import { desk, firmBooks } from '../../tests/support'
import { bringIn } from './bringIn/atOnce'
import { startCredit } from './credit'
import { pdfOf } from './pdfOf'
import { startRun } from './steps'
import { verify } from './verify'

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
