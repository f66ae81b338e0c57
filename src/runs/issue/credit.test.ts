import { describe, expect, test } from 'vitest'
import { pdfOf } from '@/runs/files/pdfOf'
import { writeMessages } from '@/runs/send/send'
import { nextAct, tallyOf } from '@/runs/tally/tally'
import type { Books } from '@/store/books'
import { readBill } from '@/store/documents'
import { creditsOf } from '@/store/issued'
import { waitingOrders } from '@/store/orders'
import { benchRows, runGroups } from '@/store/places'
import { givenNumbers, nextValue, registerFor, saveRegister } from '@/store/registers'
import { readRun } from '@/store/runs'
import { changeSettings } from '@/store/settings'
import { billed, line, nextStep, sendRun } from '../../../tests/runs'
import { desk, firmBooks } from '../../../tests/support'
import { creditable, creditSchema, startCredit } from './credit'
import { verify } from './verify'
import { voidDocument } from './void'

const rows = [
	'8801,03/10/2026,A1,ROPE,Line,10,2.15,5,STD,10,6.50',
	'8801,03/10/2026,A1,ROPE,More line,2.5,1.99,,ZERO,10,6.50',
]
const fail = (): never => {
	throw new Error('there is no such document')
}
const wrong = (books: Books) => verify(books).flatMap((found) => found.wrong)
const credit = (lines: [line: number, quantity: string][], freight = false) =>
	creditSchema.parse({
		lines: lines.map(([at, quantity]) => ({ line: at, quantity })),
		freight,
		reason: 'came back wet',
	})

/** Books with one made invoice and a register for credit notes. */
async function invoiced() {
	const books = firmBooks()
	saveRegister(books, desk, {
		kind: 'credit-note',
		prefix: 'CN-{year}-',
		digits: 3,
		next: 1,
		first: 1,
		yearly: 1,
		year: 2026,
	})
	changeSettings(books, desk, { workDate: '2026-11-05' })
	const run = await billed(books, ...rows)
	const invoice = benchRows(books, run)[0]
	if (!invoice) throw new Error('no invoice')
	return { books, run, invoice }
}

describe('a credit note', () => {
	test('of the whole invoice is its exact negative, has its own number, and refers to it', async () => {
		const { books, invoice } = await invoiced()
		const started = startCredit(
			books,
			desk,
			invoice.id,
			credit(
				[
					[0, '10'],
					[1, '2.5'],
				],
				true,
			),
		)
		const run = started.ok ? (started.id ?? 0) : 0
		const before = (await pdfOf(books, invoice.id))?.sha256
		await nextStep(books, run)
		await nextStep(books, run)
		const [note] = benchRows(books, run)
		expect(note).toMatchObject({
			number: 'CN-2026-001',
			net: -invoice.net,
			tax: -invoice.tax,
			total: -invoice.total,
			credits_id: invoice.id,
		})
		expect(readBill(books, note?.id ?? 0)?.content).toMatchObject({
			kind: 'credit-note',
			refersTo: { number: 'T-0041', day: '2026-10-31' },
			day: '2026-11-05',
		})
		expect(readRun(books, run)?.kind).toBe('credit-note')
		expect((await pdfOf(books, invoice.id))?.sha256).toBe(before)
		writeMessages(books, desk, run)
		const took: Buffer[] = []
		await sendRun(books, desk, run, [line('sent', took)])
		expect(took[0]?.toString()).toContain('Subject: Credit note CN-2026-001 from Tarn Chandlers')
		expect(wrong(books)).toEqual([])
	})

	test('of some lines leaves the rest to be credited later, and never more than was invoiced', async () => {
		const { books, invoice } = await invoiced()
		expect(startCredit(books, desk, invoice.id, credit([[0, '4']]))).toMatchObject({ ok: true })
		expect(creditable(books, invoice.id, readBill(books, invoice.id)?.content ?? fail())).toEqual({
			lines: ['6', '2.5'],
			freight: true,
		})
		expect(startCredit(books, desk, invoice.id, credit([[0, '6.5']]))).toMatchObject({
			ok: false,
			message: 'Line 1: 6.5 is more than the 6 that can still be credited.',
		})
		expect(startCredit(books, desk, invoice.id, credit([[0, '-1']]))).toMatchObject({ ok: false })
		expect(
			startCredit(
				books,
				desk,
				invoice.id,
				credit(
					[
						[0, '6'],
						[1, '2.5'],
					],
					true,
				),
			),
		).toMatchObject({ ok: true })
		expect(startCredit(books, desk, invoice.id, credit([[0, '0']], true))).toMatchObject({
			ok: false,
			message: 'Nothing is left to credit on this invoice.',
		})
		expect(creditsOf(books, invoice.id)).toHaveLength(2)
		const sum = creditsOf(books, invoice.id).reduce((total, note) => total + note.total, 0)
		expect(Math.abs(sum + invoice.total)).toBeLessThanOrEqual(1)
	})

	test('needs an issued invoice, a register and a reason', async () => {
		const { books, invoice } = await invoiced()
		expect(creditSchema.safeParse({ lines: [], freight: false, reason: ' ' }).success).toBe(false)
		expect(startCredit(books, desk, 9999, credit([[0, '1']]))).toMatchObject({ ok: false })
		books.db.exec("DELETE FROM register WHERE kind = 'credit-note'")
		const started = startCredit(books, desk, invoice.id, credit([[0, '1']]))
		const run = started.ok ? (started.id ?? 0) : 0
		expect(await nextStep(books, run)).toMatchObject({
			state: 'failed',
			words: expect.stringContaining('no number register for credit notes'),
		})
	})
})

describe('making void', () => {
	test('keeps the number with the reason, frees the orders, and stands in the tally', async () => {
		const { books, run, invoice } = await invoiced()
		expect(voidDocument(books, desk, invoice.id, '')).toMatchObject({ ok: false })
		expect(voidDocument(books, desk, invoice.id, 'billed to the wrong yard')).toEqual({ ok: true })
		expect(voidDocument(books, desk, invoice.id, 'again')).toMatchObject({ ok: false })
		expect(waitingOrders(books).map(({ number }) => number)).toEqual(['8801'])
		expect(givenNumbers(books, registerFor(books, 'invoice')?.id ?? 0, 9)).toMatchObject([
			{ number: 'T-0041', void_reason: 'billed to the wrong yard', void_by: 'Wren' },
		])
		expect(tallyOf(books, run)[0]?.stages[2]?.gapRows[0]?.reason).toBe(
			'void, made so by Wren: billed to the wrong yard',
		)
		expect(nextAct(runGroups(books, run)).act).toBe('close')
		expect(writeMessages(books, desk, run).written).toBe(0)
		const again = await billed(books)
		expect(benchRows(books, again)[0]).toMatchObject({ number: 'T-0042', order_numbers: '8801' })
		expect(wrong(books)).toEqual([])
	})

	test('is refused once it reached the customer, or may have', async () => {
		const { books, run, invoice } = await invoiced()
		writeMessages(books, desk, run)
		await sendRun(books, desk, run, [line('unsure')])
		expect(voidDocument(books, desk, invoice.id, 'too late')).toMatchObject({
			ok: false,
			message: expect.stringContaining('Credit it instead'),
		})
	})

	test('a message that waits is not sent any more', async () => {
		const { books, run, invoice } = await invoiced()
		writeMessages(books, desk, run)
		voidDocument(books, desk, invoice.id, 'wrong yard')
		const took: Buffer[] = []
		await sendRun(books, desk, run, [line('sent', took)])
		expect(took).toEqual([])
	})
})

test('a yearly register begins again with the year of the document, and no number comes twice', async () => {
	const books = firmBooks()
	saveRegister(books, desk, {
		kind: 'invoice',
		prefix: 'Y{year}-',
		digits: 3,
		next: 7,
		first: 1,
		yearly: 1,
		year: 2026,
	})
	const numberOn = async (day: string, order: string) => {
		const run = await billed(books, { documentDay: day }, `${order},03/10/2026,A1,ROPE,Line,1,2.00,,STD,,`)
		return benchRows(books, run)[0]?.number
	}
	expect(await numberOn('2026-12-31', '1')).toBe('Y2026-007')
	expect(await numberOn('2027-01-01', '2')).toBe('Y2027-001')
	expect(await numberOn('2027-01-02', '3')).toBe('Y2027-002')
	// The year before counts on by itself.
	expect(await numberOn('2026-12-31', '4')).toBe('Y2026-008')
	const register = registerFor(books, 'invoice')
	expect([2026, 2027, 2028].map((year) => register && nextValue(books, register, year))).toEqual([9, 3, 1])
	expect(wrong(books)).toEqual([])
})

test.each([
	['the return first', 1],
	['what was sold first', 0],
])('an invoice with a return is credited line by line, %s, and verify finds nothing', async (_, first) => {
	const books = firmBooks()
	saveRegister(books, desk, { kind: 'credit-note', prefix: 'CN-', digits: 3, next: 1, first: 1, yearly: 0, year: 2026 })
	const run = await billed(books, '1,03/10/2026,A1,,Sold,4,50.00,,STD,,', '1,03/10/2026,A1,,Back,-1,30.00,,STD,,')
	const [invoice] = benchRows(books, run)
	const quantities = ['4', '-1']
	for (const place of [first, 1 - first]) {
		const started = startCredit(books, desk, invoice?.id ?? 0, credit([[place, quantities[place] ?? '']]))
		expect(started).toMatchObject({ ok: true })
		await nextStep(books, started.ok ? (started.id ?? 0) : 0)
		expect(wrong(books)).toEqual([])
	}
	const credits = creditsOf(books, invoice?.id ?? 0)
	expect(credits.map(({ number }) => number).every(Boolean)).toBe(true)
	expect(credits.reduce((sum, { total }) => sum + total, 0)).toBe(-(invoice?.total ?? 0))
})

test('a part that comes to nothing is refused, with what can be done', async () => {
	const books = firmBooks()
	const run = await billed(books, '1,03/10/2026,A1,,Pins,1000,0.002,,STD,,')
	const id = benchRows(books, run)[0]?.id ?? 0
	expect(startCredit(books, desk, id, credit([[0, '1']]))).toMatchObject({
		ok: false,
		message: 'What is chosen comes to 0.00 GBP. Credit more of it, or another line with it.',
	})
	expect(startCredit(books, desk, id, credit([[0, '10']]))).toMatchObject({ ok: true })
})
