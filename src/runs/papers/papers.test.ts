import { existsSync } from 'node:fs'
import { join } from 'node:path'
import { expect, test } from 'vitest'
import { no } from '@/core/outcome'
import { kindAsSeen, paperKindSchema } from '@/core/paperKind'
import { blankLine, type OrderForm } from '@/intake/orderForm'
import { startRun } from '@/runs/bench/steps'
import { changeDraft, changeSchema } from '@/runs/drafts/change'
import { netOfOrder } from '@/runs/drafts/orderNets'
import { filesFolder, pdfOf } from '@/runs/files/pdfOf'
import { verify } from '@/runs/issue/verify'
import { voidDocument } from '@/runs/issue/void'
import { tallyOf } from '@/runs/tally/tally'
import { acceptedFrom, acceptedOf } from '@/store/acceptedLines'
import type { Books } from '@/store/books'
import { readAnyDocument, readBill } from '@/store/documents'
import { itemsOfCustomer } from '@/store/ledger'
import { ordersOfNumber } from '@/store/orderIntake'
import { linesOf, readOrder, waitingOrders } from '@/store/orders'
import { allPaperKinds } from '@/store/paperKinds'
import { papersOf, papersOfOrder, readRecord } from '@/store/paperRecords'
import { benchRows, runGroups } from '@/store/places'
import { saveRegister } from '@/store/registers'
import { changeSettings } from '@/store/settings'
import { trialPrintsOf } from '@/store/trialPrints'
import { billed, nextStep, work } from '../../../tests/runs'
import { bringOrders, desk, firmBooks, orderHead, plainRegister } from '../../../tests/support'
import { acceptNow, doFileJobs, lookAt } from '../bringIn/atOnce'
import { answer } from '../bringIn/receive'
import { withdrawOrder } from '../bringIn/takeBack'
import { acceptPaper, acceptView } from './accept'
import { startPapers, withoutPaper } from './gather'
import { fileOnly, issueOne } from './issue'
import { makeTrialPrint, pastKeeping, setKeeping, takeFilesAway, throwTrialsAway } from './keep'
import { bringKindBack, changeKind, makeKind, takeKindAway } from './kinds'
import { makeOfOrder, makeOne } from './one'
import { withdraw, writeRecord } from './write'

const today = '2026-10-31'
const quote = paperKindSchema.parse({
	name: 'Quote',
	several: 'quotes',
	names: { de: 'Angebot' },
	numbered: true,
	stands: 30,
	becomesOrder: true,
})
const note = paperKindSchema.parse({
	name: 'Delivery note',
	several: 'delivery notes',
	numbered: false,
	stands: null,
	becomesOrder: false,
})

function kinds(books: Books) {
	makeKind(books, desk, 'priced', 'form', quote)
	makeKind(books, desk, 'unpriced', 'orders', note)
	const [first, second] = allPaperKinds(books)
	if (!first || !second) throw new Error('no kinds')
	saveRegister(books, desk, { ...plainRegister, kind: first.key, prefix: 'QU-', digits: 3, next: 1 })
	return { quote: first, note: second }
}

let writing = 0
const form = (more: Partial<OrderForm> = {}): OrderForm => ({
	...{
		key: `writing ${++writing}`,
		number: '',
		customer: 'A1',
		day: '20 Oct 2026',
		purchaseOrder: 'PO-9',
		currency: '',
	},
	...{ discount: '10', discountName: '', freight: '12.50', note: '', delivery: '', own: {} },
	lines: [
		{ ...blankLine, item: 'ROPE', quantity: '100' },
		{ ...blankLine, description: 'Splicing', quantity: '3', unit: 'h', unitPrice: '41.33', taxCode: 'STD' },
		{ ...blankLine, description: 'Travel', quantity: '1', unitPrice: '17.77', taxCode: 'RED' },
	],
	...more,
})
const done = <Outcome extends { ok: boolean }>(outcome: Outcome): Extract<Outcome, { ok: true }> => {
	expect(outcome).toMatchObject({ ok: true })
	return outcome as Extract<Outcome, { ok: true }>
}
const accepting = (lines: number[], more: object = {}) => ({ lines, number: '', day: today, reason: '', ...more })

/** A quote that is issued and made. */
async function issued(books: Books, kind: number, more: Partial<OrderForm> = {}) {
	const record = done(writeRecord(books, desk, kind, form(more), today)).id
	const id = done(makeOne(books, desk, record, null, today)).id
	done(issueOne(books, desk, id, 'file'))
	await work(books)
	return { record, id }
}

test('a quote has number, last day and figures, stands beside the ledger, and becomes an order that is billed once with the same figures', async () => {
	const books = firmBooks()
	const { quote: kind } = kinds(books)
	const { record, id } = await issued(books, kind.id)
	const document = readAnyDocument(books, id)
	expect(document).toMatchObject({ number: 'QU-001', kind: kind.key, due_day: '2026-11-30' })
	expect(itemsOfCustomer(books, document?.customer_id ?? 0)).toEqual([])
	expect(waitingOrders(books)).toEqual([])
	expect(acceptView(books, id)).toMatchObject({ why: '', until: '2026-11-30', number: 'QU-001' })
	const order = done(acceptPaper(books, desk, id, accepting([0, 1, 2]))).id
	expect(readOrder(books, order)).toMatchObject({ number: 'QU-001', purchase_order: 'PO-9' })
	expect(netOf(books, order)).toBe(document?.net)
	expect(acceptedFrom(books, order)).toMatchObject({ document_id: id, number: 'QU-001' })
	const run = await billed(books)
	const [invoice] = benchRows(books, run)
	expect(invoice).toMatchObject({ net: document?.net, tax: document?.tax, total: document?.total, number: 'T-0041' })
	expect(acceptedOf(books, record)[0]).toMatchObject({ order: 'QU-001', billed: 1, bill: 'T-0041' })
	const twice = acceptPaper(books, desk, id, accepting([0, 1, 2]))
	expect(twice).toEqual({ ok: false, message: 'It was accepted before: order QU-001. It is billed on T-0041.' })
	expect(verify(books).flatMap(({ wrong }) => wrong)).toEqual([])
})

test('accepted in parts, each line once, whatever the version: the parts come to the whole', async () => {
	const books = firmBooks()
	const { quote: kind } = kinds(books)
	const { record, id } = await issued(books, kind.id, { discount: 'GBP 13.37' })
	const whole = readAnyDocument(books, id)?.net
	const first = done(acceptPaper(books, desk, id, accepting([1])))
	const second = done(makeOne(books, desk, record, 'both', today)).id
	expect(readAnyDocument(books, second)?.content).toMatchObject({ paper: { version: 2 } })
	expect(acceptPaper(books, desk, second, accepting([0]))).toMatchObject({
		ok: false,
		message: expect.stringContaining('draft'),
	})
	done(issueOne(books, desk, second, 'file'))
	expect(acceptPaper(books, desk, second, accepting([0, 1]))).toMatchObject({
		message: 'One of these lines stand on order QU-001 already. Leave them out.',
	})
	const rest = done(acceptPaper(books, desk, second, accepting([0, 2])))
	expect(readOrder(books, rest.id)).toMatchObject({ number: 'QU-002' })
	const nets = [first.id, rest.id].map((order) => netOf(books, order))
	expect(nets[0]).toBeGreaterThan(0)
	expect((nets[0] ?? 0) + (nets[1] ?? 0)).toBe(whole)
	expect(acceptPaper(books, desk, id, accepting([]))).toMatchObject({ ok: false })
	expect(acceptPaper(books, desk, id, accepting([7]))).toMatchObject({ ok: false })
	// Withdrawn, its line is free again, and nothing else.
	done(withdrawOrder(books, desk, first.id, 'they think again'))
	expect(acceptPaper(books, desk, id, accepting([1], { number: 'QU-002' }))).toMatchObject({
		message: 'There is an order QU-002 already. Give this one another number.',
	})
	expect(done(acceptPaper(books, desk, id, accepting([1]))).id).not.toBe(first.id)
})

test('after its last day it is accepted with a reason alone; void or withdrawn it is not', async () => {
	const books = firmBooks()
	const { quote: kind } = kinds(books)
	const { id, record } = await issued(books, kind.id)
	const late = accepting([0], { day: '2026-12-01' })
	expect(acceptPaper(books, desk, id, late)).toMatchObject({ ok: false, ask: 'late' })
	done(acceptPaper(books, desk, id, { ...late, reason: 'the price holds, says Anna' }))
	expect(acceptedOf(books, record)[0]?.reason).toBe('the price holds, says Anna')
	done(withdraw(books, desk, record, 'asked for by mistake'))
	expect(acceptPaper(books, desk, id, accepting([1]))).toMatchObject({
		message: 'It cannot be accepted. It was withdrawn by Wren: asked for by mistake.',
	})
	const other = await issued(books, kind.id)
	done(voidDocument(books, desk, other.id, 'wrong customer'))
	expect(acceptPaper(books, desk, other.id, accepting([0]))).toMatchObject({ ok: false })
})

test('an order that came of a quote and is amended by a file is still its order; withdrawn then, its lines are free', async () => {
	const books = firmBooks()
	const { quote: kind } = kinds(books)
	const { id, record } = await issued(books, kind.id)
	const first = done(acceptPaper(books, desk, id, accepting([0, 1, 2]))).id
	const rows = [orderHead, 'QU-001,31/10/2026,A1,ROPE,Mooring line,90,2.10,,STD,,', '']
	const file = await lookAt(books, desk, 'amended.csv', Buffer.from(rows.join('\n')), { days: 'day first' })
	answer(books, desk, file, { amended: 'replace' })
	await doFileJobs(books, desk)
	expect(await acceptNow(books, desk, file)).toMatchObject({ ok: true })
	const [taken] = acceptedOf(books, record)
	expect(taken).toMatchObject({ order: 'QU-001', billed: 0 })
	expect(taken?.order_id).not.toBe(first)
	expect(acceptPaper(books, desk, id, accepting([0]))).toMatchObject({ ok: false })
	expect(voidDocument(books, desk, id, 'wrong')).toMatchObject({
		message: 'Order QU-001 came of it. Withdraw that first.',
	})
	done(withdrawOrder(books, desk, taken?.order_id ?? 0, 'they think again'))
	expect(acceptedOf(books, record)).toEqual([])
	done(acceptPaper(books, desk, id, accepting([0])))
})

test('what was written is one record however often it is sent; no run of invoices takes it, and its figures stay as they were seen', async () => {
	const books = firmBooks()
	const { quote: kind } = kinds(books)
	const typed = form({ number: 'Q7' })
	const first = done(writeRecord(books, desk, kind.id, typed, today))
	expect(done(writeRecord(books, desk, kind.id, typed, today)).id).toBe(first.id)
	expect(writeRecord(books, desk, kind.id, { ...form(), number: 'q7' }, today)).toMatchObject({ ok: false })
	expect(done(writeRecord(books, desk, kind.id, form(), today)).number).toBe('QR-0001')
	expect(startRun(books, desk, today, today)).toMatchObject({ message: 'No order waits up to that day.' })
	expect(withoutPaper(books, kind)).toBe(2)
	expect(readRecord(books, first.id)?.body?.lines).toHaveLength(3)
})

test('a run of papers takes each record once, ties from what it took in, and closes when all is filed', async () => {
	const books = firmBooks()
	const { quote: kind } = kinds(books)
	for (let count = 0; count < 3; count++) writeRecord(books, desk, kind.id, form({ customer: 'B1' }), today)
	const gone = done(writeRecord(books, desk, kind.id, form(), today)).id
	for (const [upTo, day] of [
		['', today],
		[today, 'soon'],
		['2026-13-01', today],
	] as const)
		expect(startPapers(books, desk, kind.id, upTo, day)).toEqual(no('Give both days of the run.'))
	const run = done(startPapers(books, desk, kind.id, today, today)).id ?? 0
	expect(startPapers(books, desk, kind.id, today, today)).toMatchObject({ ok: false })
	withdraw(books, desk, gone, 'not wanted')
	expect(takeKindAway(books, desk, kind.id, 'no longer')).toMatchObject({
		message: expect.stringContaining('4 drafts'),
	})
	await work(books)
	expect(benchRows(books, run)).toHaveLength(3)
	const [draft] = benchRows(books, run)
	const line = readBill(books, draft?.id ?? 0)?.content.lines[0]
	const change = changeSchema.parse({
		lines: [
			{
				line: 0,
				quantity: '90',
				unitPrice: '2.10',
				discountPercent: '0',
				description: line?.description,
				taxCode: 'STD',
			},
		],
		...{ dueDay: '2026-11-30', email: '', reason: 'less' },
	})
	done(changeDraft(books, desk, draft?.id ?? 0, change))
	const [strip] = tallyOf(books, run)
	expect(strip).toMatchObject({ untied: 0, changes: [{ net: -1890 }] })
	expect(strip?.stages[0]).toMatchObject({ documents: 3, orders: 3 })
	await nextStep(books, run)
	await nextStep(books, run)
	expect(runGroups(books, run).map(({ place }) => place)).toEqual(['to print'])
	for (const { id } of benchRows(books, run)) done(fileOnly(books, desk, id, true))
	expect(runGroups(books, run).map(({ place, documents }) => [place, documents])).toEqual([['filed', 3]])
	expect(verify(books).flatMap(({ wrong }) => wrong)).toEqual([])
})

test('made again it asks: an open draft is replaced or kept beside, what is issued never; a kind without a register still has its own mark', async () => {
	const books = firmBooks()
	const { note: kind } = kinds(books)
	await bringOrders(books, '8801,03/10/2026,A1,ROPE,Line,10,,,STD,,', '8802,03/10/2026,A1,BUOY,Buoy,2,,,STD,,')
	const [priced, without] = waitingOrders(books)
	const first = done(makeOfOrder(books, desk, kind.id, priced?.id ?? 0, null, today)).id
	expect(makeOfOrder(books, desk, kind.id, priced?.id ?? 0, null, today)).toMatchObject({ ok: false, ask: 'draft' })
	const second = done(makeOfOrder(books, desk, kind.id, priced?.id ?? 0, 'replace', today)).id
	expect(readAnyDocument(books, first)?.dropped_reason).toBe('it was made anew from its record')
	done(issueOne(books, desk, second, 'send'))
	await work(books)
	expect(readAnyDocument(books, second)).toMatchObject({ number: `#${second}`, net: 0, total: 0 })
	expect(readAnyDocument(books, second)?.file_name).toMatch(new RegExp(`/Delivery note #${second} `))
	expect(makeOfOrder(books, desk, kind.id, priced?.id ?? 0, 'replace', today)).toMatchObject({ ok: false })
	const third = done(makeOfOrder(books, desk, kind.id, priced?.id ?? 0, 'both', today)).id
	expect(
		papersOfOrder(books, priced?.id ?? 0).map(({ document_id, version, stands }) => [document_id, version, stands]),
	).toEqual([
		[third, 3, 1],
		[second, 2, 1],
		[first, 1, 0],
	])
	// A price that is missing stops an invoice, not a delivery note; and the order still waits.
	const plain = done(makeOfOrder(books, desk, kind.id, without?.id ?? 0, null, today)).id
	expect(readAnyDocument(books, plain)?.level).not.toBe('stop')
	expect(waitingOrders(books)).toHaveLength(2)
	expect(linesOf(books, priced?.id ?? 0)).toHaveLength(1)
	// Withdrawn, its open draft is stopped and named; what is issued stays.
	done(withdrawOrder(books, desk, priced?.id ?? 0, 'never came'))
	expect(issueOne(books, desk, third, 'file')).toMatchObject({ ok: false })
	expect(readAnyDocument(books, third)?.level).toBe('stop')
	expect(readAnyDocument(books, second)?.void_at).toBeNull()
	expect(makeOfOrder(books, desk, kind.id, priced?.id ?? 0, 'both', today)).toMatchObject({
		message: 'It no longer counts: order 8801 was withdrawn: never came.',
	})
})

test('a kind renamed is called so on drafts, not on what is issued; taken away only when nothing of it is on its way, and its papers stay', async () => {
	const books = firmBooks()
	const { quote: kind } = kinds(books)
	const { id, record } = await issued(books, kind.id)
	const before = await pdfOf(books, id)
	const draft = done(makeOne(books, desk, record, 'both', today)).id
	done(changeKind(books, desk, kind.id, { ...quote, name: 'Offer', several: 'offers' }))
	await work(books)
	expect(readAnyDocument(books, draft)?.content).toMatchObject({ paper: { name: 'Offer', names: { de: 'Angebot' } } })
	expect(readAnyDocument(books, id)?.content).toMatchObject({ paper: { name: 'Quote' } })
	expect((await pdfOf(books, id))?.sha256).toBe(before?.sha256)
	const seen = kindAsSeen(kind)
	expect(changeKind(books, desk, kind.id, { ...quote, stands: 60 }, seen)).toMatchObject({
		message: expect.stringContaining('Somebody changed this kind'),
	})
	expect(changeKind(books, desk, kind.id, { ...quote, numbered: false })).toMatchObject({ ok: false })
	expect(changeKind(books, desk, kind.id, { ...quote, name: 'delivery NOTE' })).toMatchObject({ ok: false })
	expect(makeKind(books, desk, 'priced', 'orders', { ...quote, name: 'Confirmation' })).toMatchObject({ ok: false })
	expect(takeKindAway(books, desk, kind.id, 'no longer')).toMatchObject({ message: expect.stringContaining('A draft') })
	done(issueOne(books, desk, draft, 'file'))
	expect(takeKindAway(books, desk, kind.id, 'no longer')).toMatchObject({
		message: expect.stringContaining('not left yet'),
	})
	await work(books)
	done(takeKindAway(books, desk, kind.id, 'no longer'))
	expect(makeOne(books, desk, record, 'both', today)).toMatchObject({ ok: false })
	expect((await pdfOf(books, id))?.sha256).toBe(before?.sha256)
	done(acceptPaper(books, desk, id, accepting([0])))
	done(bringKindBack(books, desk, kind.id))
	expect(papersOf(books, record)).toHaveLength(2)
	expect(ordersOfNumber(books, 'QU-001')).toHaveLength(1)
})

test('trial prints go after the days that are set, files of issued papers by an act alone when their years are over; all of it is told', async () => {
	const books = firmBooks()
	const { quote: kind } = kinds(books)
	const { id, record } = await issued(books, kind.id)
	const draft = done(makeOne(books, desk, record, 'both', today)).id
	const run = readAnyDocument(books, draft)?.run_id ?? 0
	expect(await makeTrialPrint(books, desk, run)).toBe('1 drafts are on the trial print.')
	const [print] = trialPrintsOf(books, run)
	const path = join(filesFolder(books), print?.file_name ?? '')
	expect(existsSync(path)).toBe(true)
	changeSettings(books, desk, { trialDays: 3 })
	const later = (days: number) => ({
		...desk,
		now: () => new Date(Date.parse(print?.made_at ?? '') + days * 86_400_000).toISOString(),
	})
	expect(throwTrialsAway(books, later(2.9))).toBe(0)
	expect(throwTrialsAway(books, later(3.1))).toBe(1)
	expect(existsSync(path)).toBe(false)
	expect(trialPrintsOf(books, run)[0]?.gone_at).not.toBeNull()
	expect(pastKeeping(books, kind.key, '2040-01-01')).toEqual([])
	setKeeping(books, desk, 3, { [kind.key]: 6 })
	expect(pastKeeping(books, kind.key, '2032-12-31')).toEqual([])
	expect(pastKeeping(books, kind.key, '2033-01-01').map(({ number }) => number)).toEqual(['QU-001'])
	expect(takeFilesAway(books, desk, kind.key, '2033-01-01', 2, 'over')).toMatchObject({ ok: false })
	const file = join(filesFolder(books), readAnyDocument(books, id)?.file_name ?? '')
	expect(existsSync(file)).toBe(true)
	done(takeFilesAway(books, desk, kind.key, '2033-01-01', 1, 'six years are over'))
	expect(existsSync(file)).toBe(false)
	expect(await pdfOf(books, id)).toBeNull()
	expect(readAnyDocument(books, id)).toMatchObject({ number: 'QU-001', files_away_reason: 'six years are over' })
	expect(verify(books).flatMap(({ wrong }) => wrong)).toEqual([])
})

/** Net of an order by its id, minor units. */
const netOf = (books: Books, id: number): number => {
	const order = readOrder(books, id)
	return order ? netOfOrder(books, order) : 0
}
