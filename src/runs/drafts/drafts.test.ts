import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { chargeName } from '@/core/freight'
import { closeRun, giveRunBack } from '@/runs/bench/close'
import { panelOf } from '@/runs/bench/panel'
import { netOfOrder } from '@/runs/drafts/orderNets'
import { orderDrafts } from '@/runs/issue/number'
import { verify } from '@/runs/issue/verify'
import { holdBack, releaseHeld } from '@/runs/recheck/hold'
import { tallyOf } from '@/runs/tally/tally'
import { saveDiscount } from '@/store/catalogue'
import { saveCustomer } from '@/store/customers'
import { readBill } from '@/store/documents'
import { ordersOfRun, waitingOrders } from '@/store/orders'
import { benchRows } from '@/store/places'
import { changeSettings } from '@/store/settings'
import { gatherRun, nextStep } from '../../../tests/runs'
import { bringOrders, customer, desk, firmBooks } from '../../../tests/support'
import { walks } from '../../../tests/walks'
import { changeDraft, changeSchema } from './change'
import { divideDraft } from './divide'
import { mergeDrafts } from './merge'
import { undoChange } from './undo'

const rows = [
	'8801,03/10/2026,A1,ROPE,Line,10,2.00,,STD,,6.50',
	'8801,03/10/2026,A1,ROPE,Cleat,3,5.00,,ZERO,,6.50',
	'8802,04/10/2026,A1,ROPE,Buoy,1,9.00,,STD,,',
]
/** The run's documents: orders, net, and why it is held. */
const bench = (books: ReturnType<typeof firmBooks>, run: number) =>
	benchRows(books, run).map(({ order_numbers, net, held_reason }) => [order_numbers, net, held_reason])
const idOf = (books: ReturnType<typeof firmBooks>, run: number, orders: string): number =>
	benchRows(books, run).find(({ order_numbers }) => order_numbers === orders)?.id ?? 0
const gathered = async () => {
	const books = firmBooks()
	return { books, run: await gatherRun(books, rows) }
}

describe('a draft is divided', () => {
	test('lines left for the next run are held back with the reason, and wait as an order of their own after closing', async () => {
		const { books, run } = await gathered()
		const id = idOf(books, run, '8801')
		const left = divideDraft(books, desk, id, { lines: [1], to: 'next run', reason: 'cleats not in' })
		expect(left.ok).toBe(true)
		expect(bench(books, run)).toEqual([
			// Freight of 6.50 goes with the lines: 3.71 and 2.79.
			['8801', 2371, null],
			['8801/2', 1779, 'left for the next run: cleats not in'],
			['8802', 900, null],
		])
		expect(panelOf(books, id)?.changes[0]).toMatchObject({
			words: '1 of 2 lines left for the next run',
			reason: 'cleats not in',
		})
		expect(tallyOf(books, run)[0]?.stages[1]?.gapRows).toMatchObject([{ orders: '8801/2', net: 1779 }])
		for (const _ of [1, 2, 3]) await nextStep(books, run)
		expect(verify(books).flatMap(({ wrong }) => wrong)).toEqual([])
		const message = readBill(books, id)
		expect(message?.content.lines.map(({ description }) => description)).toEqual(['Line'])
		books.db.exec(`UPDATE document SET printed_at = 'x' WHERE number IS NOT NULL`)
		expect(closeRun(books, desk, run)).toEqual({ ok: true })
		expect(waitingOrders(books).map((order) => [order.number, netOfOrder(books, order), order.line_count])).toEqual([
			['8801/2', 1779, 1],
		])
		const next = await gatherRun(books, [])
		expect(bench(books, next)).toEqual([['8801/2', 1779, null]])
	})

	test('what is billed beside a draft counts towards the credit limit as soon as it changes', async () => {
		const books = firmBooks()
		books.db.exec('UPDATE customer SET credit_limit = 5000 WHERE id = 1')
		const run = await gatherRun(books, rows)
		const over = () =>
			benchRows(books, run).map(({ id, order_numbers }) => [
				order_numbers,
				panelOf(books, id)?.findings.some(({ code }) => code === 'over-limit'),
			])
		expect(over()).toEqual([
			['8801', true],
			['8802', true],
		])
		divideDraft(books, desk, idOf(books, run, '8801'), { lines: [1], to: 'next run', reason: 'cleats not in' })
		expect(over()).toEqual([
			['8801', false],
			['8801/2', true],
			['8802', false],
		])
		releaseHeld(books, desk, idOf(books, run, '8801/2'))
		expect(over().map(([, is]) => is)).toEqual([true, true, true])
		holdBack(books, desk, idOf(books, run, '8802'), 'asks for the price')
		expect(over().map(([, is]) => is)).toEqual([false, false, true])
		releaseHeld(books, desk, idOf(books, run, '8802'))
		books.db.exec('UPDATE customer SET credit_limit = 6060 WHERE id = 1')
		expect(undoChange(books, desk, idOf(books, run, '8801/2'))).toEqual({ ok: true })
		expect(over().map(([, is]) => is)).toEqual([false, false])
	})

	test('it is undone from either part, the order whole again, unless a part was changed since', async () => {
		const { books, run } = await gathered()
		const id = idOf(books, run, '8801')
		divideDraft(books, desk, id, { lines: [0], to: 'own', reason: 'two sites' })
		expect(bench(books, run).map(([orders]) => orders)).toEqual(['8801', '8801/2', '8802'])
		const part = idOf(books, run, '8801/2')
		const email = { lines: [], dueDay: '2026-12-24', email: 'b@shore.example', reason: 'their site' }
		changeDraft(books, desk, part, changeSchema.parse(email))
		expect(undoChange(books, desk, id)).toMatchObject({ ok: false, message: expect.stringContaining('changed since') })
		undoChange(books, desk, part)
		expect(undoChange(books, desk, part)).toEqual({ ok: true })
		expect(bench(books, run)).toEqual([
			['8801', 4150, null],
			['8802', 900, null],
		])
		expect(undoChange(books, desk, id)).toMatchObject({ ok: false })
	})

	test('divided by any of its lines and put together again, it is what it was', async () => {
		const books = firmBooks()
		const lines = [1, 2, 3, 4].map((line) => `8801,03/10/2026,C1,ROPE,Line ${line},${line},3.33,,STD,7.5,6.50`)
		const run = await gatherRun(books, [...lines, '8802,04/10/2026,C1,ROPE,Buoy,1,9.99,,ZERO,7.5,'])
		const id = idOf(books, run, '8801, 8802')
		const before = readBill(books, id)
		const chosen = fc.uniqueArray(fc.integer({ min: 0, max: 4 }), { minLength: 1, maxLength: 4 })
		fc.assert(
			fc.property(chosen, fc.constantFrom('own' as const, 'next run' as const), (lines, to) => {
				expect(divideDraft(books, desk, id, { lines, to, reason: 'x' }).ok).toBe(true)
				const nets = bench(books, run).map(([, net]) => Number(net))
				expect(nets).toHaveLength(2)
				// Each part's discount is rounded by itself.
				expect(Math.abs(nets.reduce((sum, net) => sum + net, 0) - (before?.net ?? 0))).toBeLessThanOrEqual(1)
				expect(undoChange(books, desk, id)).toEqual({ ok: true })
				expect(readBill(books, id)).toMatchObject({
					content: before?.content,
					net: before?.net,
					total: before?.total,
				})
				expect(ordersOfRun(books, run).map(({ number, line_count }) => [number, line_count])).toEqual([
					['8801', 4],
					['8802', 1],
				])
			}),
			{ numRuns: walks(10) },
		)
	})

	test('a run given back has its orders as they came', async () => {
		const { books, run } = await gathered()
		divideDraft(books, desk, idOf(books, run, '8801'), { lines: [0], to: 'own', reason: 'two sites' })
		giveRunBack(books, desk, run)
		expect(waitingOrders(books).map(({ number, line_count }) => [number, line_count])).toEqual([
			['8801', 2],
			['8802', 1],
		])
	})

	test('not all of it, not without lines, and not once it is numbered', async () => {
		const { books, run } = await gathered()
		const id = idOf(books, run, '8801')
		const all = { lines: [0, 1], to: 'own' as const, reason: 'x' }
		expect(divideDraft(books, desk, id, all)).toMatchObject({ ok: false })
		expect(divideDraft(books, desk, id, { ...all, lines: [7] })).toMatchObject({ ok: false })
		await nextStep(books, run)
		expect(divideDraft(books, desk, id, { ...all, lines: [0] })).toMatchObject({
			ok: false,
			message: expect.stringContaining('numbered'),
		})
	})
})

describe('two drafts are put together', () => {
	test('with freight named by its order, and taken apart again as they were', async () => {
		const { books, run } = await gathered()
		const [into, other] = [idOf(books, run, '8801'), idOf(books, run, '8802')]
		holdBack(books, desk, other, 'asked')
		expect(mergeDrafts(books, desk, into, { other, reason: 'one parcel' })).toEqual({ ok: true, id: into })
		expect(bench(books, run)).toEqual([['8801, 8802', 5050, 'asked']])
		const content = readBill(books, into)?.content
		expect(content?.charges[0]).toMatchObject({ label: '', amount: '6.50' })
		expect(content && chargeName(content, 0)).toBe('Freight, order 8801')
		expect(content?.lines.map(({ order }) => order)).toEqual([0, 0, 1])
		expect(undoChange(books, desk, into)).toEqual({ ok: true })
		expect(bench(books, run)).toEqual([
			['8801', 4150, null],
			['8802', 900, 'asked'],
		])
	})

	test('only of one customer and with the same discounts', async () => {
		const books = firmBooks()
		const run = await gatherRun(books, [
			...rows,
			'8803,04/10/2026,A1,ROPE,Buoy,1,9.00,,STD,5,',
			'8804,04/10/2026,B1,ROPE,Buoy,1,9.00,,STD,,',
		])
		const merge = (other: string) =>
			mergeDrafts(books, desk, idOf(books, run, '8801'), { other: idOf(books, run, other), reason: 'x' })
		expect(merge('8804')).toMatchObject({ ok: false, message: expect.stringContaining('customer') })
		expect(merge('8803')).toMatchObject({ ok: false, message: expect.stringContaining('discounts') })
	})
})

describe('discounts and freight', () => {
	const fair = {
		label: 'Fair',
		percent: '',
		amount: '5.00',
		currency: 'GBP',
		from_day: '2026-10-01',
		to_day: '2026-10-31',
		for_all: 0,
	}

	test('a customer’s standing discount and the firm’s percent of freight are computed and shown in the Working', async () => {
		const books = firmBooks()
		saveCustomer(books, desk, customer('A1', { discount: '10' }))
		changeSettings(books, desk, { freight: { amount: '', percent: '4' } })
		const run = await gatherRun(books, ['8801,03/10/2026,A1,ROPE,Line,10,2.00,,STD,,'])
		const id = idOf(books, run, '8801')
		// 20.00 less 10% is 18.00; 4% of that is 0.72.
		expect(readBill(books, id)).toMatchObject({ net: 1872, tax: 374, total: 2246 })
		expect(panelOf(books, id)?.working.map(({ figure, text }) => `${figure}: ${text}`)).toEqual(
			expect.arrayContaining([
				'Standing discount: 10% of 20.00 (the discountable lines) is 2.00',
				'Freight: 4% of 18.00 (net of lines and discounts) is 0.72',
			]),
		)
	})

	test('a draft is given one of the firm’s discounts, and it is taken off again', async () => {
		const { books, run } = await gathered()
		saveDiscount(books, desk, fair)
		const id = idOf(books, run, '8802')
		expect(panelOf(books, id)?.discounts).toEqual([{ label: 'Fair', words: 'Fair 5.00', on: false }])
		const change = { lines: [], dueDay: '2026-11-30', email: 'a1@shore.example', reason: 'from the fair' }
		expect(changeDraft(books, desk, id, { ...change, discounts: ['Fair'] })).toEqual({ ok: true })
		expect(readBill(books, id)).toMatchObject({ net: 400 })
		expect(panelOf(books, id)?.changes[0]?.words).toBe('with Fair 5.00')
		expect(changeDraft(books, desk, id, { ...change, discounts: [] })).toEqual({ ok: true })
		expect(readBill(books, id)).toMatchObject({ net: 900 })
	})

	test('an order that names a discount which ran out is billed without it, and worth a look', async () => {
		const books = firmBooks()
		saveDiscount(books, desk, fair)
		await bringOrders(books, '8801,03/10/2026,A1,ROPE,Line,10,2.00,,STD,,')
		books.db.exec(`UPDATE sales_order SET discount_label = 'Fair'`)
		const run = await gatherRun(books, [], '2026-11-02')
		const id = idOf(books, run, '8801')
		expect(readBill(books, id)?.net).toBe(2000)
		expect(panelOf(books, id)?.findings.map(({ brief }) => brief)).toContain('Fair not taken')
	})
})

test('the clerk chooses what the run is numbered by, and the next run begins with it', async () => {
	const books = firmBooks()
	const run = await gatherRun(books, [
		'12,03/10/2026,A1,ROPE,Line,1,2.00,,STD,,',
		'9,05/10/2026,B1,ROPE,Line,1,2.00,,STD,,',
		'10,01/10/2026,C1,ROPE,Line,1,2.00,,STD,,',
	])
	const shown = (id: number) => benchRows(books, id).map(({ order_numbers }) => order_numbers)
	expect(shown(run)).toEqual(['12', '9', '10'])
	orderDrafts(books, desk, run, 'order-day')
	expect(shown(run)).toEqual(['10', '12', '9'])
	orderDrafts(books, desk, run, 'order-number')
	await nextStep(books, run)
	expect(benchRows(books, run).map(({ order_numbers, number }) => [order_numbers, number])).toEqual([
		['9', 'T-0041'],
		['10', 'T-0042'],
		['12', 'T-0043'],
	])
	const next = await gatherRun(books, [
		'21,03/10/2026,A1,ROPE,Line,1,2.00,,STD,,',
		'20,05/10/2026,B1,ROPE,Line,1,2.00,,STD,,',
	])
	expect(shown(next)).toEqual(['20', '21'])
})
