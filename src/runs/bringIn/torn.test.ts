import { expect, test } from 'vitest'
import { startRun } from '@/runs/bench/steps'
import { gather } from '@/runs/drafts/gather'
import type { Books } from '@/store/books'
import { acceptancesOf, readFile } from '@/store/files'
import { waitingCount } from '@/store/orders'
import { desk, firmBooks } from '../../../tests/support'
import { acceptFile } from './accept'
import { acceptNow, doFileJobs, lookAt } from './atOnce'
import { correctValue } from './correct'
import { Stopped } from './kinds/kind'
import { makeCustomer } from './make'
import { saveReader } from './readerActs'
import { answer, askToTakeBack, beginUpload, changeReading, endUpload, receivePart } from './receive'
import { reviewOf } from './review'
import { fileView } from './view'

const many = 2500
const contentOf = (orders: number) =>
	Buffer.from(
		`Order No,Order date,Cust. No,Item,Qty\n${Array.from({ length: orders }, (_, at) => `K${at},2026-10-05,A1,ROPE,${1 + (at % 9)}`).join('\n')}\n`,
	)
const digestOf = (books: Books, id: number): string => reviewOf(readFile(books, id) ?? { review: null })?.digest ?? ''
const rowsOf = (books: Books) =>
	books.db
		.prepare<[], { orders: number; lines: number }>(
			'SELECT (SELECT count(*) FROM sales_order) AS orders, (SELECT count(*) FROM order_line) AS lines',
		)
		.get()

test('an accepting that is torn goes on where it was: nothing counts before all of it does, and nothing comes in twice', async () => {
	const books = firmBooks()
	const twice = many * 2
	const id = await lookAt(books, desk, 'many.csv', contentOf(twice))
	const seen = digestOf(books, id)
	for (const _ of [1, 2]) {
		// As if the process had ended between two steps.
		const torn = acceptFile(books, desk, id, seen, {
			seen: () => {
				throw new Error('killed')
			},
		})
		await expect(torn).rejects.toThrow('killed')
		expect(waitingCount(books)).toBe(0)
	}
	expect(rowsOf(books)?.orders).toBe(4000)
	expect(await acceptFile(books, desk, id, seen, { seen: () => {} })).toMatchObject({
		ok: true,
		words: expect.stringContaining(`${twice} orders with ${twice} lines were added`),
	})
	expect([waitingCount(books), rowsOf(books)]).toEqual([twice, { orders: twice, lines: twice }])
	expect(acceptancesOf(books, id).map(({ state }) => state)).toEqual(['done'])
})

test('one that is stopped leaves nothing behind, and can be accepted again', async () => {
	const books = firmBooks()
	const id = await lookAt(books, desk, 'many.csv', contentOf(many))
	const stopped = acceptFile(books, desk, id, digestOf(books, id), {
		seen: () => {
			throw new Stopped()
		},
	})
	await expect(stopped).rejects.toThrow()
	expect(rowsOf(books)).toEqual({ orders: 0, lines: 0 })
	expect(await acceptNow(books, desk, id)).toMatchObject({ ok: true })
	expect(waitingCount(books)).toBe(many)
})

test('a run that is gathered while a file comes in takes all of it or nothing; one gathered since keeps it from being taken back', async () => {
	const books = firmBooks()
	const id = await lookAt(books, desk, 'many.csv', contentOf(many))
	let asked = 0
	const accepted = await acceptFile(books, desk, id, digestOf(books, id), {
		seen: () => {
			asked++
			expect(startRun(books, desk, '2026-10-31', '2026-10-31')).toMatchObject({
				ok: false,
				message: 'No order waits up to that day.',
			})
		},
	})
	expect([accepted.ok, asked]).toEqual([true, 2])
	const started = startRun(books, desk, '2026-10-31', '2026-10-31')
	expect(askToTakeBack(books, desk, id, 'the wrong export').ok).toBe(true)
	// It was asked for before the run took its orders up, and is done after: it is too late.
	if (started.ok) gather(books, desk, started.id ?? 0, '2026-10-31')
	expect(await doFileJobs(books, desk)).toEqual([
		expect.stringContaining(`stand in run ${started.ok ? started.id : ''}`),
	])
	expect(rowsOf(books)?.orders).toBe(many)
	expect(books.db.prepare('SELECT count(*) AS n FROM order_in').get()).toEqual({ n: many })
})

test('a file that waits keeps the way it was read by when its reader is changed', async () => {
	const books = firmBooks()
	const file = (number: string) =>
		Buffer.from(`Order No,Order date,Cust. No,Item,Qty,Remark\n${number},2026-10-05,A1,ROPE,1,x\n`)
	await acceptNow(books, desk, await lookAt(books, desk, 'tarn 09.csv', file('1')))
	const [waiting, other] = [
		await lookAt(books, desk, 'tarn 10.csv', file('2')),
		await lookAt(books, desk, 'tarn 11.csv', file('3')),
	]
	const before = readFile(books, waiting)
	const places = fileView(books, other, 1)?.reading?.columns ?? {}
	changeReading(books, desk, other, { columns: { ...places, purchaseOrder: 5 } })
	await doFileJobs(books, desk)
	expect(saveReader(books, desk, other, 'tarn')).toMatchObject({ ok: true })
	expect(readFile(books, waiting)).toEqual(before)
	expect(fileView(books, waiting, 1)?.reader?.version).toBe((before?.reader_version ?? 0) + 1)
	expect(fileView(books, await lookAt(books, desk, 'tarn 12.csv', file('4')), 1)?.reading?.columns.purchaseOrder).toBe(
		5,
	)
})

test('what the clerk had in view is what is accepted: where the books or the file changed since, it is shown anew', async () => {
	const books = firmBooks()
	const rows =
		'Order No,Order date,Cust. No,Item,Qty,Unit price\n1,2026-10-05,A1,ROPE,1,2.00\n2,2026-10-05,NEW1,ROPE,1,2.00\n3,2026-10-05,NEW1,ROPE,1O,2.00\n'
	const id = await lookAt(books, desk, 'orders.csv', Buffer.from(rows))
	const seen = digestOf(books, id)
	expect(makeCustomer(books, desk, id, { number: 'NEW1', name: 'New' })).toEqual({ ok: true })
	// The customer is there now, and the file was not looked at again yet.
	expect(await acceptFile(books, desk, id, seen, { seen: () => {} })).toMatchObject({ ok: false })
	await doFileJobs(books, desk)
	expect(await acceptNow(books, desk, id)).toMatchObject({
		ok: true,
		words: '2 orders with 2 lines were added; one row was refused.',
	})
	// A refused row is mended after that, by one person, and taken in later; the file stays as it came.
	const mend = { row: 4, place: 4, was: '1O', now: '10' }
	expect(correctValue(books, desk, id, mend)).toEqual({ ok: true })
	expect(correctValue(books, { ...desk, clerk: 'Tam' }, id, { ...mend, now: '100' })).toMatchObject({
		ok: false,
		message: expect.stringContaining('says “10” by now'),
	})
	await doFileJobs(books, desk)
	expect(fileView(books, id, 1)?.review?.standings).toEqual({ known: 2, new: 1 })
	expect(await acceptNow(books, desk, id)).toMatchObject({
		ok: true,
		words: '1 order with 1 line was added; 2 were here already.',
	})
	expect(waitingCount(books)).toBe(3)
})

test('of two files with the same orders the second brings nothing twice, whichever is accepted first', async () => {
	const books = firmBooks()
	const file = (more: string) => Buffer.from(`Order No,Order date,Cust. No,Item,Qty\n1,2026-10-05,A1,ROPE,1\n${more}`)
	const [one, other] = [
		await lookAt(books, desk, 'one.csv', file('2,2026-10-05,A1,ROPE,2\n')),
		await lookAt(books, desk, 'other.csv', file('3,2026-10-05,A1,ROPE,3\n')),
	]
	expect(await acceptNow(books, desk, other)).toMatchObject({ ok: true })
	// It comes out otherwise than it was seen: that is said first.
	expect(await acceptNow(books, desk, one)).toMatchObject({
		ok: false,
		message: expect.stringContaining('comes out otherwise now'),
	})
	expect(await acceptNow(books, desk, one)).toMatchObject({
		ok: true,
		words: '1 order with 1 line was added; 1 was here already.',
	})
	expect(waitingCount(books)).toBe(3)
})

test('the number of another year is asked about, and then is an order of its own', async () => {
	const books = firmBooks()
	const file = (year: string, quantity: number) =>
		Buffer.from(`Order No,Order date,Cust. No,Item,Qty\n8801,${year}-10-05,A1,ROPE,${quantity}\n`)
	await acceptNow(books, desk, await lookAt(books, desk, 'then.csv', file('2025', 1)))
	const id = await lookAt(books, desk, 'now.csv', file('2026', 1))
	const { open, ofAnother } = fileView(books, id, 1) ?? { open: [], ofAnother: [] }
	expect(open).toEqual(['again'])
	expect(ofAnother[0]?.words).toContain('order 8801 of 2025-10-05')
	expect(await acceptNow(books, desk, id)).toMatchObject({ ok: false })
	answer(books, desk, id, { again: 'others' })
	await doFileJobs(books, desk)
	expect(await acceptNow(books, desk, id)).toMatchObject({ ok: true })
	expect(books.db.prepare('SELECT number, apart FROM order_in ORDER BY id').all()).toEqual([
		{ number: '8801', apart: '' },
		{ number: '8801', apart: '2026' },
	])
})

test('a file whose line broke goes on where it was; parts that are torn or missing are told', () => {
	const books = firmBooks()
	const bytes = Buffer.alloc(2_500_000, 'a')
	const file = { name: '../../etc/lång\u202enamn.csv', size: bytes.length, changed: 7 }
	const begun = beginUpload(books, desk, file)
	if (!begun.ok) throw new Error(begun.refusal.message)
	const { id, partSize } = begun.value
	const part = (at: number) => bytes.subarray(at * partSize, (at + 1) * partSize)
	expect(readFile(books, id)?.name).toBe('långnamn.csv')
	expect(receivePart(books, id, 0, part(0))).toEqual({ ok: true })
	expect(receivePart(books, id, 1, part(1).subarray(9))).toMatchObject({ ok: false })
	expect(endUpload(books, desk, id)).toMatchObject({ ok: false })
	expect(beginUpload(books, desk, file)).toMatchObject({ ok: true, value: { id, have: [0] } })
	for (const at of [1, 2]) expect(receivePart(books, id, at, part(at))).toEqual({ ok: true })
	expect(endUpload(books, desk, id)).toMatchObject({ ok: true })
	expect(beginUpload(books, desk, { ...file, size: 200_000_001 })).toMatchObject({ ok: false })
})
