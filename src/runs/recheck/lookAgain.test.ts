import { describe, expect, test } from 'vitest'
import { closeRun, giveRunBack } from '@/runs/bench/close'
import { panelOf } from '@/runs/bench/panel'
import { startRun } from '@/runs/bench/steps'
import { askToLookAgain, changeCustomer } from '@/runs/customers/changeCustomer'
import { changeDraft, changeSchema } from '@/runs/drafts/change'
import { divideDraft } from '@/runs/drafts/divide'
import { mergeDrafts } from '@/runs/drafts/merge'
import { netOfOrder } from '@/runs/drafts/orderNets'
import { verify } from '@/runs/issue/verify'
import type { Books } from '@/store/books'
import { saveDiscount, saveExchangeRate, saveTaxRate } from '@/store/catalogue'
import { saveCompany } from '@/store/company'
import { customerByNumber, saveCustomer } from '@/store/customers'
import { findingsOf, readBill } from '@/store/documents'
import { waitingOrders } from '@/store/orders'
import { benchRows } from '@/store/places'
import { saveRegister } from '@/store/registers'
import { changeSettings } from '@/store/settings'
import { billed, gatherRun, nextStep, work } from '../../../tests/runs'
import { bringOrders, company, customer, desk, firmBooks, plainRegister } from '../../../tests/support'
import { holdBack } from './hold'
import { lookAgain } from './lookAgain'

const row = (order: string, more = 'A1,ROPE,Line,10,2.10,,STD,,') => `${order},03/10/2026,${more}`
const idOf = (books: Books, run: number, order: string) =>
	benchRows(books, run).find(({ order_numbers }) => order_numbers === order)?.id ?? 0
const briefs = (books: Books, id: number) => findingsOf(books, id).map(({ brief }) => brief)
const change = (more: object = {}) =>
	changeSchema.parse({ lines: [], dueDay: '2026-11-30', email: 'a1@shore.example', reason: 'agreed by phone', ...more })

test('what concerns one customer reads the drafts of that customer alone', async () => {
	const books = firmBooks()
	const run = await gatherRun(books, [row('1'), '2,03/10/2026,C1,ROPE,Line,10,2.10,,STD,,'])
	// Whoever reads the other draft breaks on it.
	const changed = books.db
		.prepare("UPDATE document_content SET content = '{' WHERE document_id = ?")
		.run(idOf(books, run, '2'))
	expect(changed.changes).toBe(1)
	saveCustomer(books, desk, customer('A1', { hold: 'insolvent' }))
	const id = customerByNumber(books, 'A1')?.id ?? 0
	expect(lookAgain(books, desk, run, id)).toEqual([expect.stringMatching(/^Customer A1, 1: now: customer on hold/)])
	expect(() => lookAgain(books, desk, run)).toThrow()
})

describe('what was true at gathering is looked at again at numbering, and nothing passes by', () => {
	const cases: [name: string, act: (books: Books) => void, says: RegExp][] = [
		[
			'the books are closed',
			(books) => changeSettings(books, desk, { closedTo: '2026-10-31' }),
			/now: in closed books/,
		],
		[
			'the customer is put on hold',
			(books) => void saveCustomer(books, desk, customer('A1', { hold: 'insolvent' })),
			/now: customer on hold/,
		],
		[
			'a rate is changed',
			(books) => void saveTaxRate(books, desk, { code: 'STD', name: 'VAT STD', rate: '21', from_day: '2026-10-01' }),
			/total 25.20 → 25.41; rates STD 20% → STD 21%/,
		],
		[
			'the limit is lowered',
			(books) => void saveCustomer(books, desk, customer('A1', { credit_limit: 100 })),
			/now: over limit/,
		],
		[
			'the customer moves',
			(books) => void saveCustomer(books, desk, customer('A1', { address: '9 Hill\nTarn TA9 9ZZ' })),
			/Customer A1, 1: address/,
		],
	]
	test.each(cases)('%s', async (_, act, says) => {
		const books = firmBooks()
		const run = await gatherRun(books, [row('1')])
		act(books)
		expect(await nextStep(books, run)).toMatchObject({ state: 'failed', words: expect.stringMatching(says) })
		const id = idOf(books, run, '1')
		expect(readBill(books, id)?.number).toBeNull()
		expect(panelOf(books, id)?.history[0]).toMatchObject({ act: 'looked at again' })
		expect(verify(books).flatMap(({ wrong }) => wrong)).toEqual([])
	})

	test('the same order in another open run', async () => {
		const books = firmBooks()
		const first = await gatherRun(books, [row('1')])
		const second = await gatherRun(books, [row('1b')])
		expect(briefs(books, idOf(books, second, '1b'))).toContain('same as 1 in run 1')
		expect(await nextStep(books, first)).toMatchObject({
			state: 'failed',
			words: expect.stringContaining('now: same as 1b in run 2'),
		})
		expect(await nextStep(books, first)).toMatchObject({ state: 'done' })
	})

	test('where nothing changed, nothing is asked', async () => {
		const books = firmBooks()
		const run = await gatherRun(books, [row('1'), row('2', 'B1,ROPE,Line,1,2.10,,STD,,')])
		holdBack(books, desk, idOf(books, run, '2'), 'to be asked')
		expect(await nextStep(books, run)).toMatchObject({ state: 'done', words: '1 numbered, T-0041.' })
	})
})

describe('a remedy works from where it is given, and clears its finding at once', () => {
	test('under Accounts: hold, email, address, limit, tax number', async () => {
		const books = firmBooks()
		const odd = {
			hold: 'asked',
			email: 'no mailbox',
			address: 'Tarn',
			credit_limit: 100,
			tax: 'reverse-charge',
		} as const
		saveCustomer(books, desk, customer('A1', odd))
		const run = await gatherRun(books, [row('1', 'A1,ROPE,Line,10,2.10,,ZERO,,')])
		const id = idOf(books, run, '1')
		const found = ['no tax number', 'customer on hold', 'email malformed', 'address incomplete', 'over limit']
		expect(briefs(books, id)).toEqual(expect.arrayContaining(found))
		changeCustomer(
			books,
			desk,
			customer('A1', { tax: 'reverse-charge', tax_number: 'GB123456727', credit_limit: 900_000 }),
		)
		await work(books)
		expect(briefs(books, id)).toEqual(['first invoice'])
		expect(readBill(books, id)).toMatchObject({
			email: 'a1@shore.example',
			content: { customer: { taxNumber: 'GB123456727', address: ['2 Shore Road', 'Tarn TA2 2BB'] } },
		})
		expect(panelOf(books, id)?.history[0]?.detail).toContain('no longer: customer on hold')
	})

	test('an address that a person gave this draft alone stays its own', async () => {
		const books = firmBooks()
		const run = await gatherRun(books, [row('1')])
		const id = idOf(books, run, '1')
		changeDraft(books, desk, id, change({ email: 'yard@shore.example' }))
		changeCustomer(books, desk, customer('A1', { email: 'new@shore.example' }))
		await work(books)
		expect(readBill(books, id)?.email).toBe('yard@shore.example')
	})

	test('under Items and rates: a tax code, a currency’s worth; under Company: the tax number', async () => {
		const books = firmBooks()
		saveCompany(books, desk, { ...company, tax_number: '' })
		saveCustomer(books, desk, customer('A1', { currency: 'EUR' }))
		const run = await gatherRun(books, [row('1', 'A1,,Line,10,2.00,,NEW,,'), row('2', 'A1,,Other,10,2.00,,STD,,')])
		const [one, two] = [idOf(books, run, '1'), idOf(books, run, '2')]
		expect(briefs(books, one)).toEqual(expect.arrayContaining(['tax code NEW', 'firm without tax number']))
		expect(briefs(books, two)).toContain('no rate of EUR')
		saveTaxRate(books, desk, { code: 'NEW', name: 'VAT new', rate: '10', from_day: '2026-01-01' })
		saveExchangeRate(books, desk, { currency: 'EUR', day: '2026-10-01', rate: '0.8612' })
		saveCompany(books, desk, company)
		askToLookAgain(books, desk, 'all of these')
		await work(books)
		expect([...briefs(books, one), ...briefs(books, two)]).toEqual(['first invoice', 'first invoice'])
		expect(readBill(books, two)?.content.home).toEqual({
			currency: 'GBP',
			rate: '0.8612',
			day: '2026-10-01',
			tax: '3.44',
		})
	})

	test('freight and a discount that ran out can be put on with Change', async () => {
		const books = firmBooks()
		const fair = {
			label: 'Fair',
			percent: '',
			amount: '5.00',
			currency: 'GBP',
			from_day: '2026-01-01',
			to_day: '2026-09-30',
		}
		saveDiscount(books, desk, { ...fair, for_all: 0 })
		await bringOrders(books, row('1'))
		books.db.exec(`UPDATE sales_order SET discount_label = 'Fair'`)
		const run = await gatherRun(books, [])
		const id = idOf(books, run, '1')
		expect(briefs(books, id)).toContain('Fair not taken')
		expect(changeDraft(books, desk, id, change({ discounts: ['Fair'], charges: ['4%'] }))).toEqual({ ok: true })
		// 21.00 less 5.00 is 16.00; 4% of that is 0.64.
		expect(readBill(books, id)).toMatchObject({ net: 1664 })
		expect(briefs(books, id)).not.toContain('Fair not taken')
		expect(panelOf(books, id)?.changes[0]?.words).toBe('with Fair 5.00; with Freight 4%')
		expect(changeSchema.safeParse({ ...change(), charges: ['a lot'] }).success).toBe(false)
	})

	test('the limit counts each invoice once', async () => {
		const books = firmBooks()
		saveCustomer(books, desk, customer('A1', { credit_limit: 1440 }))
		const rows = ['1', '2', '3'].map((order) => row(order, `A1,ROPE,Line ${order},2,2.00,,STD,,`))
		const run = await gatherRun(books, rows)
		const third = idOf(books, run, '3')
		expect(briefs(books, third)).not.toContain('over limit')
		holdBack(books, desk, third, 'later')
		await nextStep(books, run)
		changeCustomer(books, desk, customer('A1', { credit_limit: 1440, note: 'asked' }))
		await work(books)
		expect(briefs(books, third)).not.toContain('over limit')
		expect(changeDraft(books, desk, third, change({ dueDay: '2026-11-29' }))).toMatchObject({ ok: true })
		expect(briefs(books, third)).not.toContain('over limit')
	})
})

test('2 and 2.00 are the same, in orders of one customer entered twice', async () => {
	const books = firmBooks()
	const run = await gatherRun(books, [
		row('1', 'A1,ROPE,Line,2,2.10,0,STD,,'),
		row('2', 'A1,ROPE,Line,2.00,2.1,0.0,STD,,'),
		row('3', 'A1,ROPE,Line,2.01,2.1,0.0,STD,,'),
	])
	expect(['1', '2', '3'].map((order) => briefs(books, idOf(books, run, order)))).toEqual([
		expect.arrayContaining(['same as 2']),
		expect.arrayContaining(['same as 1']),
		['first invoice'],
	])
})

describe('what waits again waits as it was agreed', () => {
	test('a divided order given back is whole under To bill, and so is a part that is left', async () => {
		const books = firmBooks()
		const run = await gatherRun(books, [row('1', 'A1,,x,1,100.00,,STD,,'), row('1', 'A1,,y,1,300.00,,STD,,')])
		divideDraft(books, desk, idOf(books, run, '1'), { lines: [1], to: 'own', reason: 'two sites' })
		giveRunBack(books, desk, run)
		expect(waitingOrders(books).map((order) => [order.number, netOfOrder(books, order), order.line_count])).toEqual([
			['1', 40_000, 2],
		])
	})

	test('two drafts put together keep what each had off', async () => {
		const books = firmBooks()
		const fair = { label: 'Fair', percent: '', amount: '5.00', currency: 'GBP', from_day: '2026-01-01', to_day: '' }
		saveDiscount(books, desk, { ...fair, for_all: 0 })
		await bringOrders(books, row('1', 'A1,,x,1,120.00,,STD,,'), row('2', 'A1,,y,1,120.00,,STD,,'))
		books.db.exec(`UPDATE sales_order SET discount_label = 'Fair'`)
		const run = await gatherRun(books, [])
		const [one, two] = [idOf(books, run, '1'), idOf(books, run, '2')]
		expect(mergeDrafts(books, desk, one, { other: two, reason: 'one parcel' })).toMatchObject({ ok: true })
		expect(readBill(books, one)).toMatchObject({
			net: 23_000,
			content: { discounts: [{ label: 'Fair', amount: '10.00' }] },
		})
	})

	test('a price stays, To bill shows the rest, and the history goes with the order', async () => {
		const books = firmBooks()
		const run = await gatherRun(books, [row('1'), row('2', 'A1,ROPE,Other,100,4.00,,STD,,')])
		const id = idOf(books, run, '1')
		const line = {
			line: 0,
			quantity: '10',
			unitPrice: '9.00',
			discountPercent: '0',
			description: 'Line',
			taxCode: 'STD',
		}
		changeDraft(books, desk, id, change({ lines: [line] }))
		giveRunBack(books, desk, run)
		expect(waitingOrders(books).map((order) => [order.number, netOfOrder(books, order)])).toEqual([
			['1', 9000],
			['2', 40_000],
		])
		saveCustomer(books, desk, customer('A0', { name: 'Aaa' }))
		const again = await gatherRun(books, [row('3', 'A0,ROPE,Line,1,2.00,,STD,,')])
		expect(readBill(books, idOf(books, again, '1'))?.content.lines[0]?.unitPrice).toBe('9.00')
		const told = (order: string) => JSON.stringify(panelOf(books, idOf(books, again, order))?.history)
		expect(told('1')).toContain('price 2.10 → 9.00 (Wren: agreed by phone)')
		expect(told('3')).not.toContain('agreed by phone')
	})

	test.each([
		['a percent of freight', 44_000, { percent: '10', amount: '' }, ''],
		['an amount of freight', 41_200, { percent: '', amount: '12.00' }, ''],
		['a named discount', 39_000, { percent: '', amount: '' }, 'Fair'],
	])('%s is neither lost nor counted twice when lines are left for the next run', async (_, whole, freight, label) => {
		const books = firmBooks()
		changeSettings(books, desk, { freight })
		const fair = { label: 'Fair', percent: '', amount: '10.00', currency: 'GBP', from_day: '2026-01-01', to_day: '' }
		saveDiscount(books, desk, { ...fair, for_all: 0 })
		await bringOrders(books, row('1', 'A1,,x,1,100.00,,STD,,'), row('1', 'A1,,y,1,300.00,,STD,,'))
		books.db.exec(`UPDATE sales_order SET discount_label = '${label}'`)
		const run = await gatherRun(books, [])
		const id = idOf(books, run, '1')
		expect(readBill(books, id)?.net).toBe(whole)
		divideDraft(books, desk, id, { lines: [1], to: 'next run', reason: 'not in yet' })
		await nextStep(books, run)
		books.db.exec(`UPDATE document SET printed_at = 'x', made_at = 'x' WHERE number IS NOT NULL`)
		expect(closeRun(books, desk, run)).toEqual({ ok: true })
		const next = await gatherRun(books, [])
		await nextStep(books, next)
		const nets = [run, next].flatMap((one) =>
			benchRows(books, one)
				.filter(({ number }) => number)
				.map(({ net }) => net),
		)
		expect(nets).toHaveLength(2)
		expect(nets.reduce((sum, net) => sum + net, 0)).toBe(whole)
		expect(verify(books).flatMap(({ wrong }) => wrong)).toEqual([])
	})
})

test('what the law asks decides rates and is looked at: day of supply, reverse charge, a firm without a register for returns', async () => {
	const books = firmBooks()
	saveTaxRate(books, desk, { code: 'STD', name: 'VAT STD', rate: '25', from_day: '2026-11-01' })
	const run = await gatherRun(books, [row('1')], '2026-11-02')
	expect(readBill(books, idOf(books, run, '1'))).toMatchObject({
		tax: 420,
		content: { supply: { from: '2026-10-03', to: '2026-10-03' }, taxCodes: [{ code: 'STD', rate: '20' }] },
	})
	changeSettings(books, desk, { rateBy: 'document' })
	expect(await nextStep(books, run)).toMatchObject({ words: expect.stringContaining('rates STD 20% → STD 25%') })
	const back = await gatherRun(books, [row('9', 'A1,ROPE,Back,-1,2.10,,STD,,')])
	expect(briefs(books, idOf(books, back, '9'))).toContain('below zero')
	expect(findingsOf(books, idOf(books, back, '9'))[0]).toMatchObject({ level: 'stop' })
	saveRegister(books, desk, { ...plainRegister, kind: 'credit-note', prefix: 'C-', digits: 3, next: 1 })
	askToLookAgain(books, desk, 'a number register')
	await work(books)
	expect(findingsOf(books, idOf(books, back, '9'))[0]).toMatchObject({ code: 'below-zero', level: 'look' })
	expect(startRun(books, desk, '2026-10-31', '2026-10-31')).toMatchObject({ ok: false })
	expect(await billed(books, row('10', 'A1,ROPE,Line,1,2.10,,STD,,'))).toBeGreaterThan(back)
})
