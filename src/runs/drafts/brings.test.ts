import fc from 'fast-check'
import { expect, test } from 'vitest'
import { putTogether } from '@/core/divideBill'
import type { BillContent } from '@/core/document'
import { drawPaper } from '@/layout/draw'
import { metrics } from '@/pdf/fontKit'
import { giveRunBack } from '@/runs/bench/close'
import { panelOf } from '@/runs/bench/panel'
import { creditSchema, startCredit } from '@/runs/issue/credit'
import { numberDocuments } from '@/runs/issue/number'
import { reviseDocument } from '@/runs/issue/revise'
import { verify } from '@/runs/issue/verify'
import { voidDocument } from '@/runs/issue/void'
import { holdBack } from '@/runs/recheck/hold'
import { lookAgain } from '@/runs/recheck/lookAgain'
import { tallyOf } from '@/runs/tally/tally'
import type { Books } from '@/store/books'
import { saveDiscount, saveExchangeRate, saveTaxRate } from '@/store/catalogue'
import { saveCompany } from '@/store/company'
import { saveCustomer } from '@/store/customers'
import { findingsOf, readBill } from '@/store/documents'
import { waitingOrders } from '@/store/orders'
import { benchRows } from '@/store/places'
import { saveRegister } from '@/store/registers'
import { changeSettings } from '@/store/settings'
import { look } from '../../../tests/looks'
import { tools } from '../../../tests/pieces'
import { gatherRun } from '../../../tests/runs'
import { bringOrders, company, customer, desk, firmBooks, plainRegister } from '../../../tests/support'
import { walks } from '../../../tests/walks'
import { changeDraft, changeSchema } from './change'
import { divideDraft } from './divide'
import { priceDraft } from './draft'
import { mergeDrafts } from './merge'
import { netOfOrder } from './orderNets'
import { readRates } from './rates'
import { undoChange } from './undo'

const named = (label: string, more: object = {}) => ({
	...{ label, percent: '', amount: '7.00', currency: 'GBP', from_day: '2026-01-01', to_day: '' as const, for_all: 0 },
	...more,
})
const idOf = (books: Books, run: number, orders: string) =>
	benchRows(books, run).find((row) => row.order_numbers === orders)?.id ?? 0
const bill = (books: Books, id: number): BillContent => {
	const found = readBill(books, id)
	if (!found) throw new Error('no such bill')
	return found.content
}
const change = (books: Books, id: number, more: object) => {
	const view = panelOf(books, id)
	const lines = (view?.lines ?? []).map(({ order: _, item: __, ...line }, place) => ({ ...line, line: place }))
	const { due_day: dueDay, email } = view?.document ?? { due_day: '', email: '' }
	return changeSchema.parse({ lines, dueDay, email, reason: 'agreed by phone', ...more })
}
const added = (more: object = {}) => [
	{ item: '', description: 'Splice', quantity: '1', unitPrice: '7.50', taxCode: 'STD', ...more },
]
const merge = (books: Books, into: number, other: number) =>
	mergeDrafts(books, desk, into, { other, reason: 'one parcel' })
const waitingNets = (books: Books) => waitingOrders(books).map((order) => [order.number, netOfOrder(books, order)])
const off = ({ discounts }: BillContent) => discounts.map((one) => ('amount' in one ? one.amount : `${one.percent}%`))

/** Books whose standard rate rises on 10 October. */
function risingBooks(): Books {
	const books = firmBooks()
	saveTaxRate(books, desk, { code: 'STD', name: 'VAT STD', rate: '25', from_day: '2026-10-10' })
	return books
}

test.each([
	['1', '2'],
	['2', '1'],
])(
	'a line is taxed at the rate of its own order’s day, whichever draft takes in the other (%s takes in %s)',
	async (a, b) => {
		const books = risingBooks()
		const run = await gatherRun(books, [
			'1,03/10/2026,A1,ROPE,Line,1,50.00,,ZERO,,',
			'2,20/10/2026,A1,ROPE,Line,1,100.00,,STD,,',
		])
		expect(merge(books, idOf(books, run, a), idOf(books, run, b))).toMatchObject({ ok: true })
		const [one] = benchRows(books, run)
		expect(one).toMatchObject({ order_numbers: '1, 2', net: 15_000, tax: 2500 })
		// The line of the earlier order becomes taxed: two rates of one code, which is stopped until they are parted.
		const id = one?.id ?? 0
		const lines = change(books, id, {}).lines.map((line) => ({ ...line, taxCode: 'STD' }))
		expect(changeDraft(books, desk, id, change(books, id, { lines }))).toEqual({ ok: true })
		expect(findingsOf(books, id)[0]).toMatchObject({ code: 'days-differ', level: 'stop' })
		expect(findingsOf(books, id)[0]?.text).toContain(
			'20% for order 1 of 3 Oct 2026, but 25% for order 2 of 20 Oct 2026',
		)
		expect(divideDraft(books, desk, id, { lines: [1], to: 'own', reason: 'two rates' })).toMatchObject({ ok: true })
		expect(benchRows(books, run).map(({ order_numbers, tax, level }) => [order_numbers, tax, level])).toEqual([
			['1', 1000, 'look'],
			['2', 2500, 'look'],
		])
		expect(tallyOf(books, run)[0]).toMatchObject({ untied: 0 })
	},
)

test('orders that need two rates of one code, or two worths of a currency, stay apart, and both ways say so', async () => {
	const books = risingBooks()
	const run = await gatherRun(books, [
		'1,03/10/2026,C1,ROPE,Line,1,50.00,,STD,,',
		'2,20/10/2026,C1,ROPE,Line,1,100.00,,STD,,',
	])
	const [one, two] = [idOf(books, run, '1'), idOf(books, run, '2')]
	for (const [into, from] of [
		[one, two],
		[two, one],
	] as const)
		expect(merge(books, into, from)).toMatchObject({ ok: false, message: expect.stringContaining('stay two invoices') })

	const euro = firmBooks()
	saveCompany(euro, desk, { ...company, currency: 'GBP' })
	saveCustomer(euro, desk, customer('E1', { currency: 'EUR', grouping: 'all' }))
	saveExchangeRate(euro, desk, { currency: 'EUR', day: '2026-10-01', rate: '0.85' })
	saveExchangeRate(euro, desk, { currency: 'EUR', day: '2026-10-10', rate: '0.9' })
	const rows = [
		'1,03/10/2026,E1,,Line,1,100.00,,STD,,',
		'2,20/10/2026,E1,,Line,1,100.00,,STD,,',
		'3,05/10/2026,E1,,Line,1,100.00,,ZERO,,',
		'4,21/10/2026,E1,,Line,1,100.00,,ZERO,,',
	]
	const abroad = await gatherRun(euro, rows)
	// What bears no tax needs no worth, and goes together.
	const orders = benchRows(euro, abroad).map(({ order_numbers }) => order_numbers)
	expect(orders).toEqual(['1', '2', '3, 4'])
	const [first, second, third] = orders.map((numbers) => idOf(euro, abroad, numbers))
	expect(bill(euro, first ?? 0).home).toMatchObject({ tax: '17.00' })
	expect(bill(euro, second ?? 0).home).toMatchObject({ tax: '18.00' })
	for (const [into, from] of [
		[first, second],
		[second, first],
		[first, third],
	])
		expect(merge(euro, into ?? 0, from ?? 0)).toMatchObject({
			ok: false,
			message: expect.stringContaining('1 EUR is'),
		})
})

test('lines are added to what bears money off, a standing discount or freight: nothing counts twice, and they are taxed as it is', async () => {
	const books = risingBooks()
	saveDiscount(books, desk, named('Fair'))
	saveCustomer(books, desk, customer('S1', { discount: '10' }))
	const run = await (async () => {
		await bringOrders(
			books,
			'1,03/10/2026,A1,,Line,1,100.00,,STD,,',
			'2,03/10/2026,S1,,Line,1,100.00,,STD,,4.00',
			'3,03/10/2026,B1,,Line,1,100.00,,STD,,',
		)
		books.db.exec(`UPDATE sales_order SET discount_label = 'Fair' WHERE number = '1';
			UPDATE sales_order SET discount_amount = '10.00' WHERE number = '3'`)
		return gatherRun(books, [])
	})()
	const add = (id: number, more: object = {}) => changeDraft(books, desk, id, change(books, id, { added: added(more) }))
	const [one, two, three] = ['1', '2', '3'].map((order) => idOf(books, run, order))
	expect([add(one ?? 0), add(two ?? 0), add(three ?? 0)]).toEqual([{ ok: true }, { ok: true }, { ok: true }])
	expect(off(bill(books, one ?? 0))).toEqual(['7.00'])
	expect(readBill(books, one ?? 0)?.net).toBe(10_050)
	expect(readBill(books, two ?? 0)).toMatchObject({ net: 10_075, content: { priced: { chargeTotal: '4.00' } } })
	expect(off(bill(books, three ?? 0))).toEqual(['10.00'])
	expect(readBill(books, three ?? 0)?.net).toBe(9750)
	expect(tallyOf(books, run)[0]).toMatchObject({ untied: 0 })
	expect(bill(books, one ?? 0).taxCodes).toMatchObject([{ code: 'STD', rate: '20' }])
	for (const id of [one, two, three]) expect(undoChange(books, desk, id ?? 0)).toEqual({ ok: true })
	expect(off(bill(books, one ?? 0))).toEqual(['7.00'])
	expect(tallyOf(books, run)[0]).toMatchObject({ untied: 0 })
})

test('an order keeps what it had off through putting together and dividing, by order and by line', async () => {
	const books = firmBooks()
	await bringOrders(books, '1,03/10/2026,A1,,Line,1,100.00,,STD,,', '2,03/10/2026,A1,,Line,3,10.00,,STD,,')
	books.db.exec(`UPDATE sales_order SET discount_amount = iif(number = '1', '5.00', '3.00')`)
	const run = await gatherRun(books, [])
	const [one, two] = [idOf(books, run, '1'), idOf(books, run, '2')]
	expect(merge(books, two, one)).toMatchObject({ ok: true })
	expect(off(bill(books, two))).toEqual(['8.00'])
	expect(divideDraft(books, desk, two, { lines: [0], to: 'own', reason: 'apart' })).toMatchObject({ ok: true })
	const nets = benchRows(books, run).map(({ order_numbers, net }) => [order_numbers, net])
	expect(nets.sort()).toEqual([
		['1', 9500],
		['2', 2700],
	])
	giveRunBack(books, desk, run)
	expect(waitingNets(books)).toEqual([
		['1', 9500],
		['2', 2700],
	])
})

test('a discount or freight that a revision alone put on is still agreed when it is made void, whatever words its reason has', async () => {
	const books = firmBooks()
	saveDiscount(books, desk, named('Fair'))
	const run = await gatherRun(books, [
		'1,03/10/2026,A1,,Line,1,100.00,,STD,,4.00',
		'2,03/10/2026,B1,,Line,1,100.00,,STD,,4.00',
		'3,04/10/2026,A1,,Line,1,100.00,,STD,,',
		'4,04/10/2026,B1,,Line,1,100.00,,STD,,',
	])
	numberDocuments(books, desk, run, 4)
	const ids = ['1', '2', '3', '4'].map((order) => idOf(books, run, order))
	const revised = (place: number, more: object): number => {
		const id = ids[place] ?? 0
		const outcome = reviseDocument(books, desk, id, change(books, id, more))
		expect(outcome).toMatchObject({ ok: true })
		return (outcome.ok && outcome.id) || 0
	}
	const latest = [
		revised(0, { charges: ['9.00'] }),
		ids[1] ?? 0,
		revised(2, { discounts: ['Fair'] }),
		revised(3, { charges: ['9.00'] }),
	]
	for (const id of latest)
		expect(voidDocument(books, desk, id, 'without freight; email lost')).toMatchObject({ ok: true })
	const nets = [10_900, 10_400, 9300, 10_900]
	expect(waitingNets(books)).toEqual(nets.map((net, place) => [String(place + 1), net]))
	const again = await gatherRun(books, [])
	expect(['1', '2', '3', '4'].map((order) => readBill(books, idOf(books, again, order))?.net)).toEqual(nets)
	expect(verify(books).flatMap(({ wrong }) => wrong)).toEqual([])
})

test('an amount off counts one way: a bill that a return would turn is not put together with it, and no part of a credit has it off what it bills', async () => {
	const books = firmBooks()
	saveDiscount(books, desk, named('Fair'))
	const rows = [
		['1', 'A1', '50.00', '1'],
		['2', 'A1', '90.00', '-1'],
		['3', 'B1', '60.00', '-1'],
		['3', 'B1', '33.00', '1'],
	]
	await bringOrders(
		books,
		...rows.map(([order, who, price, back]) => `${order},03/10/2026,${who},,x,${back},${price},,STD,,`),
	)
	books.db.exec(`UPDATE sales_order SET discount_label = 'Fair' WHERE number <> '2'`)
	const run = await gatherRun(books, [])
	const [one, two, three] = ['1', '2', '3'].map((order) => idOf(books, run, order))
	expect(merge(books, two ?? 0, one ?? 0)).toMatchObject({
		ok: false,
		message: expect.stringContaining('what order 1 has off would count the other way'),
	})
	const nets = () =>
		benchRows(books, run)
			.map(({ order_numbers, net }) => [order_numbers, net])
			.sort()
	expect(nets()).toEqual([
		['1', 4300],
		['2', -9000],
		['3', -2000],
	])
	expect(divideDraft(books, desk, three ?? 0, { lines: [1], to: 'own', reason: 'apart' })).toMatchObject({ ok: true })
	expect(nets()).toEqual([
		['1', 4300],
		['2', -9000],
		['3', -5300],
		['3/2', 3300],
	])
	expect(tallyOf(books, run)[0]).toMatchObject({ untied: 0 })
})

test('what waits shows what it will be billed at, after being given back and after changes were taken back', async () => {
	const books = firmBooks()
	saveDiscount(books, desk, named('Fair'))
	await bringOrders(books, '1,03/10/2026,A1,,x,1,60.00,,STD,,', '1,03/10/2026,A1,,y,1,40.00,,STD,,')
	books.db.exec(`UPDATE sales_order SET discount_label = 'Fair'`)
	expect(waitingNets(books)).toEqual([['1', 9300]])
	const run = await gatherRun(books, [])
	giveRunBack(books, desk, run)
	expect(waitingNets(books)).toEqual([['1', 9300]])
	const next = await gatherRun(books, [])
	const id = idOf(books, next, '1')
	expect(changeDraft(books, desk, id, change(books, id, { discounts: [] }))).toEqual({ ok: true })
	expect(divideDraft(books, desk, id, { lines: [1], to: 'own', reason: 'two sites' })).toMatchObject({ ok: true })
	expect([undoChange(books, desk, id).ok, undoChange(books, desk, id).ok]).toEqual([true, true])
	giveRunBack(books, desk, next)
	expect(waitingNets(books)).toEqual([['1', 9300]])
})

test('discounts and freight that change after gathering are followed; what a person agreed stays, and is told', async () => {
	const books = firmBooks()
	saveCustomer(books, desk, customer('S1', { discount: '5' }))
	const run = await gatherRun(books, [
		'1,03/10/2026,S1,,Line,1,100.00,,STD,,',
		'2,03/10/2026,S1,,Line,1,100.00,,STD,,',
		'3,03/10/2026,A1,,Line,1,100.00,,STD,,',
	])
	const kept = idOf(books, run, '2')
	expect(changeDraft(books, desk, kept, change(books, kept, { discounts: [], charges: ['1.00'] }))).toEqual({
		ok: true,
	})
	saveCustomer(books, desk, customer('S1', { discount: '8' }))
	saveDiscount(books, desk, named('Autumn', { amount: '2.00', for_all: 1 }))
	changeSettings(books, desk, { freight: { amount: '6.00', percent: '' }, freightTaxCode: 'RED' })
	const words = lookAgain(books, desk, run)
	expect(words.length).toBe(3)
	expect(words.find((said) => said.includes(', 1:'))).toMatch(
		/without Standing discount 5%; with Standing discount 8%; with Autumn 2.00; with Freight 6.00/,
	)
	expect(words.find((said) => said.includes(', 2:'))).toMatch(
		/order 2 keeps freight 1.00 STD; by the rules it has Standing discount 8%/,
	)
	const row = (order: string) => benchRows(books, run).find(({ order_numbers }) => order_numbers === order)
	expect(row('1')).toMatchObject({ net: 9600, tax: 9000 * 0.2 + 600 * 0.05 })
	expect(row('2')).toMatchObject({ net: 10_100 })
	expect(row('3')).toMatchObject({ net: 10_400 })
	// It is told once: the next look finds all of it known.
	expect(lookAgain(books, desk, run)).toEqual([])
	expect(tallyOf(books, run)[0]).toMatchObject({ untied: 0 })
	expect(numberDocuments(books, desk, run, 3)).toMatchObject({ ok: true })
	expect(verify(books).flatMap(({ wrong }) => wrong)).toEqual([])
})

test.each([
	['de-DE', 'Dauerrabatt', 'Fracht, Auftrag 1'],
	['fr-FR', 'Remise habituelle', 'Transport, commande 1'],
])(
	'the standing discount and freight of each order are said in the language of the paper: %s',
	async (locale, standing, freight) => {
		const books = firmBooks()
		saveRegister(books, desk, { ...plainRegister, kind: 'credit-note', prefix: 'C-', digits: 3, next: 1 })
		saveCustomer(books, desk, customer('S1', { discount: '5', locale, grouping: 'all' }))
		const rows = ['1,03/10/2026,S1,,Line,1,100.00,,STD,,4.00', '2,03/10/2026,S1,,Other,1,50.00,,STD,,3.00']
		const run = await gatherRun(books, rows)
		const id = benchRows(books, run)[0]?.id ?? 0
		const said = (of: number) => {
			const { pages } = drawPaper(look('invoice'), bill(books, of), { ...tools, metrics }, null)
			return pages
				.flat()
				.flatMap((item) => (item.type === 'text' ? [item.text] : []))
				.join(' ')
		}
		expect(said(id)).toContain(standing)
		expect(said(id)).toContain(freight)
		expect(said(id)).not.toMatch(/Freight|Standing/)
		numberDocuments(books, desk, run, 1)
		const started = startCredit(
			books,
			desk,
			id,
			creditSchema.parse({ lines: [{ line: 0, quantity: '1' }], freight: true, reason: 'x' }),
		)
		const note = benchRows(books, started.ok ? (started.id ?? 0) : 0)[0]?.id ?? 0
		expect(bill(books, note).lines.map(({ description }) => description)).toContain(freight)
	},
)

test('drafts put together in any order are the same document', async () => {
	const order = fc.record({
		early: fc.boolean(),
		lines: fc.array(fc.tuple(fc.integer({ min: 1, max: 20_000 }), fc.constantFrom('STD', 'RED', 'ZERO')), {
			...{ minLength: 1, maxLength: 3 },
		}),
		off: fc.nat(80),
		fair: fc.boolean(),
		freight: fc.nat(900),
	})
	const pounds = (pence: number) => (pence / 100).toFixed(2)
	await fc.assert(
		fc.asyncProperty(
			fc.array(order, { minLength: 2, maxLength: 5 }),
			fc.array(fc.tuple(fc.nat(9), fc.nat(9)), { minLength: 10, maxLength: 10 }),
			async (orders, picks) => {
				const books = risingBooks()
				saveDiscount(books, desk, named('Fair', { amount: '0.90' }))
				await bringOrders(
					books,
					...orders.flatMap(({ early, lines, freight }, place) =>
						lines.map(
							([pence, code]) =>
								`${place + 1},${early ? '03' : '20'}/10/2026,A1,,Line,1,${pounds(pence + 200)},,${code},,${freight === 0 ? '' : pounds(freight)}`,
						),
					),
				)
				for (const [place, { off: pence, fair }] of orders.entries())
					books.db
						.prepare('UPDATE sales_order SET discount_amount = ?, discount_label = ? WHERE number = ?')
						.run(pence === 0 ? '' : pounds(pence), fair ? 'Fair' : '', String(place + 1))
				const run = await gatherRun(books, [])
				const rates = readRates(books)
				const drafts = benchRows(books, run).map(({ id }) => bill(books, id))
				const put = (into: BillContent, from: BillContent) => priceDraft(putTogether(into, from), rates).content
				const whole = drafts.slice(1).reduce(put, drafts[0] ?? fail())
				let left = drafts
				for (const [a, b] of picks) {
					const [into, from] = [left[a % left.length], left[b % left.length]]
					if (into && from && into !== from)
						left = [...left.filter((one) => one !== into && one !== from), put(into, from)]
				}
				expect(left.slice(1).reduce(put, left[0] ?? fail())).toEqual(whole)
				// What is off, and the freight, is that of the orders.
				const sum = (amounts: string[]) => amounts.reduce((all, amount) => all + Math.round(Number(amount) * 100), 0)
				if (whole.priced.net !== '0.00')
					expect([sum([whole.priced.discountTotal]), sum([whole.priced.chargeTotal])]).toEqual([
						sum(drafts.map(({ priced }) => priced.discountTotal)),
						sum(drafts.map(({ priced }) => priced.chargeTotal)),
					])
				books.db.close()
			},
		),
		{ numRuns: walks(12) },
	)
})

const fail = (): never => {
	throw new Error('no draft')
}

test('an order that is divided where one part has no share of its freight keeps all of it when both wait together again', async () => {
	const books = firmBooks()
	changeSettings(books, desk, { freight: { amount: '4.50', percent: '' } })
	const run = await gatherRun(books, ['1,03/10/2026,A1,,Line,1,100.00,,STD,,', '1,03/10/2026,A1,,Least,1,0.01,,STD,,'])
	const net = benchRows(books, run)[0]?.net
	divideDraft(books, desk, idOf(books, run, '1'), { lines: [1], to: 'next run', reason: 'not in yet' })
	expect(benchRows(books, run).reduce((sum, row) => sum + row.net, 0)).toBe(net)
	giveRunBack(books, desk, run)
	expect(benchRows(books, await gatherRun(books, [])).map((row) => row.net)).toEqual([net])
})

test('a draft that was held before it was put together is held by whom and since when it was, once that is taken back', async () => {
	const books = firmBooks()
	const run = await gatherRun(books, ['1,03/10/2026,A1,,Line,1,100.00,,STD,,', '2,03/10/2026,A1,,Line,1,50.00,,STD,,'])
	const [one, two] = [idOf(books, run, '1'), idOf(books, run, '2')]
	holdBack(books, { ...desk, clerk: 'Tam' }, one, 'to be asked')
	const held = () => {
		const { held_by, held_at, held_reason } = benchRows(books, run).find(({ id }) => id === one) ?? {}
		return { held_by, held_at, held_reason }
	}
	const before = held()
	expect(before).toMatchObject({ held_by: 'Tam', held_reason: 'to be asked' })
	expect(merge(books, one, two)).toMatchObject({ ok: true })
	expect(undoChange(books, desk, one)).toEqual({ ok: true })
	expect(held()).toEqual(before)
})
