import { existsSync, readFileSync, rmSync, unlinkSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, test } from 'vitest'
import { billSchema } from '@/core/document'
import type { MailLine } from '@/post/smtp'
import { doJob } from '@/runner/work'
import { acceptNow, bringIn, doFileJobs, lookAt } from '@/runs/bringIn/atOnce'
import { changeReading, dropFile } from '@/runs/bringIn/receive'
import { sameAsOf } from '@/runs/bringIn/sameFile'
import { fileView } from '@/runs/bringIn/view'
import { changeDraft, changeSchema } from '@/runs/drafts/change'
import { netOfOrder } from '@/runs/drafts/orderNets'
import { undoChange } from '@/runs/drafts/undo'
import { type MakeBatch, makeBatch } from '@/runs/files/make'
import { pdfOf } from '@/runs/files/pdfOf'
import { holdBack, looksRight, printed, releaseHeld } from '@/runs/recheck/hold'
import { decideMessage } from '@/runs/send/postroom'
import { rawOf, writeMessages } from '@/runs/send/send'
import { settleLeftSending } from '@/runs/send/sending'
import { nextAct, tallyOf } from '@/runs/tally/tally'
import type { Books } from '@/store/books'
import { saveCompany } from '@/store/company'
import { saveCustomer } from '@/store/customers'
import { readBill } from '@/store/documents'
import { eventsOfDocument, latestEventId } from '@/store/events'
import { readFile } from '@/store/files'
import { latestJob, nextJob } from '@/store/jobs'
import { readMessage, sentLog, waitingMessages } from '@/store/messages'
import { ordersOfRun, waitingOrders } from '@/store/orders'
import { benchRows, runGroups } from '@/store/places'
import { inPostroom } from '@/store/postroom'
import { nextValue, registerFor } from '@/store/registers'
import { readRun, sourceTotals } from '@/store/runs'
import { gatherRun, line, nextStep, sendRun, work } from '../../../tests/runs'
import { bringOrders, company, customer, desk, firmBooks, orderHead } from '../../../tests/support'
import { closeRun, giveRunBack, reportSourceTotal } from './close'
import { panelOf } from './panel'
import { askStep, haltStep, resumeStep, startRun } from './steps'
import { benchView } from './view'

/** The value that the register of invoices gives next. */
const nextOf = (books: Books) => {
	const register = registerFor(books, 'invoice')
	return register && nextValue(books, register, 2026)
}

const rows = [
	'8801,03/10/2026,A1,ROPE,Line,10,2.00,,STD,,',
	'8802,04/10/2026,B1,ROPE,Line,5,2.00,,STD,,6.50',
	'8803,05/10/2026,C1,ROPE,Line,3,1.00,,STD,,',
	'8804,06/10/2026,C1,ROPE,Line,4,1.00,,ZERO,,',
]
/** A gathered run over the rows. */
async function gathered(...orders: string[]) {
	const books = firmBooks()
	const run = await gatherRun(books, orders.length > 0 ? orders : rows)
	return { books, run, bench: () => benchRows(books, run), groups: () => runGroups(books, run) }
}

/** A gathered, numbered and made run. */
async function made(...orders: string[]) {
	const bench = await gathered(...orders)
	await nextStep(bench.books, bench.run)
	await nextStep(bench.books, bench.run)
	return bench
}

describe('bringing in', () => {
	test('a file is read, its reading corrected, accepted once, and never twice', async () => {
		const books = firmBooks()
		const content = Buffer.from(`${orderHead.replace('Qty', 'How many')}\n${rows.join('\n')}\n`)
		const id = await lookAt(books, desk, 'orders.csv', content, { days: 'day first' })
		expect(fileView(books, id, 1)?.review?.missing).toEqual(['Quantity'])
		expect(await acceptNow(books, desk, id)).toMatchObject({
			ok: false,
			message: expect.stringContaining('column is missing'),
		})
		const columns = fileView(books, id, 1)?.reading?.columns ?? {}
		changeReading(books, desk, id, { columns: { ...columns, quantity: 5 } })
		await doFileJobs(books, desk)
		expect(fileView(books, id, 1)?.review?.money).toMatchObject([{ currency: 'GBP', orders: 4, lines: 4, net: '4350' }])
		expect(await acceptNow(books, desk, id)).toEqual({ ok: true, words: '4 orders with 4 lines were added.' })
		expect(await acceptNow(books, desk, id)).toMatchObject({ ok: false })
		const again = await lookAt(books, desk, 'again.csv', content)
		expect(sameAsOf(readFile(books, again) ?? { trouble: '' })).toBe(id)
		expect(waitingOrders(books)).toHaveLength(4)
	})

	test('a file left out brings nothing and can be brought in again', async () => {
		const books = firmBooks()
		const content = Buffer.from(`${orderHead}\n${rows[0]}\n`)
		dropFile(books, desk, await lookAt(books, desk, 'orders.csv', content))
		const second = await lookAt(books, desk, 'orders.csv', content)
		expect(readFile(books, second)).toMatchObject({ state: 'read', trouble: '' })
		expect(waitingOrders(books)).toEqual([])
	})

	test('an item whose tax code is unknown is refused by row', async () => {
		const books = firmBooks()
		const content = Buffer.from('Item,Description,Unit price,VAT code\nA,Anchor,10,STD\nB,Buoy,5,NOPE\n')
		const view = fileView(books, await lookAt(books, desk, 'items.csv', content), 1)
		expect(view?.review?.standings).toEqual({ added: 1 })
		expect(view?.refused.rows).toMatchObject([{ row: 3, reasons: [{ column_name: 'VAT code', value: 'NOPE' }] }])
	})
})

describe('gathering', () => {
	test('orders are put together as each customer wants it, computed, and all accounted for', async () => {
		const { books, run, bench } = await gathered()
		expect(
			bench().map(({ customer_name, order_numbers, net, tax, total, level }) => [
				customer_name,
				order_numbers,
				net,
				tax,
				total,
				level,
			]),
		).toEqual([
			['Customer A1', '8801', 2000, 400, 2400, 'look'],
			['Customer B1', '8802', 1650, 330, 1980, 'look'],
			['Customer C1', '8803, 8804', 700, 60, 760, 'look'],
		])
		expect(ordersOfRun(books, run).map((order) => netOfOrder(books, order))).toEqual([2000, 1650, 300, 400])
		expect(waitingOrders(books)).toEqual([])
	})

	test('orders with another discount or purchase order are not put together', async () => {
		const books = firmBooks()
		saveCustomer(books, desk, customer('P1', { grouping: 'purchase-order' }))
		await bringOrders(
			books,
			'1,03/10/2026,C1,ROPE,L,1,1,,STD,,',
			'2,03/10/2026,C1,ROPE,L,2,1,,STD,5,',
			'3,03/10/2026,C1,ROPE,L,3,1,,STD,,',
		)
		const content = Buffer.from(
			`${orderHead},PO\n${['4,03/10/2026,P1,ROPE,L,1,1,,STD,,,X', '5,03/10/2026,P1,ROPE,L,1,1,,STD,,,Y', '6,04/10/2026,P1,ROPE,L,1,1,,STD,,,X'].join('\n')}\n`,
		)
		await bringIn(books, desk, 'po.csv', content, { days: 'day first' })
		const started = startRun(books, desk, '2026-10-31', '2026-10-31')
		await work(books)
		expect(
			benchRows(books, started.ok ? (started.id ?? 0) : 0)
				.map(({ order_numbers }) => order_numbers)
				.sort(),
		).toEqual(['1, 3', '2', '4, 6', '5'])
	})

	test('later orders wait, and a run without orders, company or tax codes is not started', async () => {
		const books = firmBooks()
		await bringOrders(books, rows[0] ?? '', '8899,05/11/2026,A1,ROPE,Line,1,1,,STD,,')
		expect(startRun(books, desk, '2026-10-01', '2026-10-31')).toMatchObject({
			ok: false,
			message: 'No order waits up to that day.',
		})
		expect(startRun(books, desk, 'soon', '2026-10-31')).toMatchObject({ ok: false })
		startRun(books, desk, '2026-10-31', '2026-10-31')
		await work(books)
		expect(waitingOrders(books).map(({ number }) => number)).toEqual(['8899'])
	})

	test('the same order under two numbers, a missing price and one billed before are flagged', async () => {
		const { books, run } = await made()
		closeRun(books, desk, run)
		await bringOrders(
			books,
			'8901,03/10/2026,A1,ROPE,Line,10,2.00,,STD,,',
			'8902,09/10/2026,A1,BUOY,Line,7,,,STD,,',
			'8903,10/10/2026,A1,ROPE,Line,7,1,,STD,,',
			'8904,10/10/2026,A1,ROPE,Line,7,1,,STD,,',
		)
		const started = startRun(books, desk, '2026-10-31', '2026-10-31')
		await work(books)
		const found = benchRows(books, started.ok ? (started.id ?? 0) : 0)
		expect(found.map(({ order_numbers, brief }) => [order_numbers, brief])).toEqual([
			['8902', 'line 1 has no price'],
			['8901', 'as on T-0041'],
			['8903', 'same as 8904'],
			['8904', 'same as 8903'],
		])
	})
})

describe('the bench', () => {
	test('holding back needs a reason, moves the tally, and can be undone', async () => {
		const { books, run, bench, groups } = await gathered()
		const id = bench()[0]?.id ?? 0
		expect(holdBack(books, desk, id, '  ')).toMatchObject({ ok: false })
		expect(holdBack(books, desk, id, 'asked for a purchase order')).toEqual({ ok: true })
		const [strip] = tallyOf(books, run)
		expect(strip?.stages.map(({ name, orders, net }) => [name, orders, net]).slice(0, 2)).toEqual([
			['Gathered', 4, 4350],
			['Checked', 3, 2350],
		])
		expect(strip?.stages[1]?.gapRows).toEqual([
			{
				documentId: id,
				customer: 'Customer A1',
				orders: '8801',
				net: 2000,
				reason: 'held back by Wren: asked for a purchase order',
			},
		])
		expect(nextAct(groups())).toEqual({ act: 'number', count: 2 })
		expect(releaseHeld(books, desk, id)).toEqual({ ok: true })
		expect(releaseHeld(books, desk, id)).toMatchObject({ ok: false })
		expect(eventsOfDocument(books, [id]).map(({ act }) => act)).toEqual(['released', 'held back'])
		expect(nextAct(groups()).count).toBe(3)
		expect(askStep(books, desk, run, 'number', 2)).toMatchObject({
			ok: false,
			message: expect.stringContaining('3 would be numbered, not 2'),
		})
	})

	test('a look is remembered with who and when, and only where one is asked for', async () => {
		const { books, bench } = await gathered()
		const id = bench()[0]?.id ?? 0
		const before = latestEventId(books)
		expect(looksRight(books, desk, id, true)).toEqual({ ok: true })
		expect(latestEventId(books)).toBeGreaterThan(before)
		expect(readBill(books, id)).toMatchObject({ looked_by: 'Wren' })
		expect(benchView(bench()[0] ?? bench()[1] ?? (undefined as never))).toMatchObject({
			looked: true,
			place: 'to number',
		})
		expect(looksRight(books, desk, 9999, true)).toMatchObject({ ok: false })
	})

	test('the source’s total ties the first stage, as typed', async () => {
		const { books, run } = await gathered()
		expect(reportSourceTotal(books, desk, run, 'GBP', '1,043.50')).toEqual({ ok: true })
		expect(sourceTotals(books, run).get('GBP')).toBe(104_350)
		expect(reportSourceTotal(books, desk, run, 'GBP', 'about 40')).toMatchObject({ ok: false })
		reportSourceTotal(books, desk, run, 'GBP', '')
		expect(sourceTotals(books, run).size).toBe(0)
	})

	test('a run can be given back whole before it is numbered, and not after', async () => {
		const { books, run } = await gathered()
		expect(giveRunBack(books, desk, run)).toEqual({ ok: true })
		expect(waitingOrders(books)).toHaveLength(4)
		expect(readRun(books, run)?.state).toBe('given-back')
		const again = startRun(books, desk, '2026-10-31', '2026-10-31')
		await work(books)
		const next = again.ok ? (again.id ?? 0) : 0
		await nextStep(books, next)
		expect(giveRunBack(books, desk, next)).toMatchObject({ ok: false })
	})

	test('beside a document stand its findings, working down to the row, letter and history', async () => {
		const { books, bench } = await gathered()
		const panel = panelOf(books, bench()[0]?.id ?? 0)
		expect(panel?.findings.map(({ brief }) => brief)).toEqual(['first invoice'])
		expect(panel?.working[0]).toMatchObject({
			of: 'Order 8801, line 1: Line',
			figure: 'Gross',
			amount: '20.00',
			text: '10 × 2.00 is 20.00',
			source: expect.stringMatching(/orders-\d+\.csv, row 2/),
		})
		expect(panel?.message).toMatchObject({
			recipient: 'a1@shore.example',
			sender: 'post@tarn.example',
			state: 'not written yet',
		})
		expect(panel?.history.map(({ act }) => act)).toContain('gathered the run')
		expect(panelOf(books, 9999)).toBeNull()
	})
})

describe('numbering', () => {
	test('gives numbers in order, freezes what they stand on, and moves the register on', async () => {
		const { books, run, bench } = await gathered()
		await nextStep(books, run)
		expect(bench().map(({ number }) => number)).toEqual(['T-0041', 'T-0042', 'T-0043'])
		expect(nextOf(books)).toBe(44)
		saveCompany(books, desk, { ...company, name: 'Renamed' })
		expect(readBill(books, bench()[0]?.id ?? 0)?.content).toMatchObject({
			number: 'T-0041',
			issuer: { name: 'Tarn Chandlers' },
		})
		expect(ordersOfRun(books, run).every(({ billed }) => billed === 1)).toBe(true)
	})

	test('numbers none when the count is no longer what the clerk was shown', async () => {
		const { books, run, bench } = await gathered()
		askStep(books, desk, run, 'number', 3)
		holdBack(books, desk, bench()[0]?.id ?? 0, 'at the last moment')
		await work(books)
		expect(latestJob(books, run)).toMatchObject({
			state: 'failed',
			words: expect.stringContaining('Nothing was numbered'),
		})
		expect(bench().every(({ number }) => number === null)).toBe(true)
		expect(nextOf(books)).toBe(41)
	})

	test('a stopped document is left out, and one held back can follow later', async () => {
		const { books, run, bench, groups } = await gathered(
			rows[0] ?? '',
			'8810,03/10/2026,A1,BUOY,Line,1,,,STD,,',
			rows[1] ?? '',
		)
		const b1 = bench().find(({ customer_name }) => customer_name === 'Customer B1')?.id ?? 0
		holdBack(books, desk, b1, 'later')
		await nextStep(books, run)
		releaseHeld(books, desk, b1)
		expect(nextAct(groups())).toEqual({ act: 'number', count: 1 })
		await nextStep(books, run)
		expect(bench().map(({ order_numbers, number }) => [order_numbers, number])).toEqual([
			['8810', null],
			['8801', 'T-0041'],
			['8802', 'T-0042'],
		])
		expect(holdBack(books, desk, b1, 'too late')).toMatchObject({ ok: false })
	})
})

describe('making', () => {
	test('each file stands whole under a name that files well, with its hash recorded', async () => {
		const { books, bench } = await made()
		const [row] = bench()
		expect(row?.file_name).toBe('run-0001/T-0041 Customer A1.pdf')
		const path = join(books.folder, 'files', row?.file_name ?? '')
		expect(readFileSync(path).subarray(0, 5).toString()).toBe('%PDF-')
		expect(existsSync(`${path}.part`)).toBe(false)
		expect((await pdfOf(books, row?.id ?? 0))?.sha256).toBe(row?.file_sha256)
	})

	test('a lost or changed file is made again, the very same', async () => {
		const { books, bench } = await made()
		const [row] = bench()
		const path = join(books.folder, 'files', row?.file_name ?? '')
		const before = readFileSync(path)
		unlinkSync(path)
		expect((await pdfOf(books, row?.id ?? 0))?.bytes.equals(before)).toBe(true)
		writeFileSync(path, 'spoilt')
		expect((await pdfOf(books, row?.id ?? 0))?.bytes.equals(before)).toBe(true)
		expect(readFileSync(path).equals(before)).toBe(true)
	})

	/** A run of 120 in the making, halted while its first batch is made. */
	async function halted(how: 'stop' | 'pause') {
		const many = Array.from(
			{ length: 120 },
			(_, index) => `${7000 + index},03/10/2026,A1,ROPE,Line,${index + 1},2.00,,STD,,`,
		)
		const bench = await gathered(...many)
		await nextStep(bench.books, bench.run)
		askStep(bench.books, desk, bench.run, 'make', 120)
		const job = nextJob(bench.books)
		if (!job) throw new Error('no job')
		await doJob(
			{
				books: bench.books,
				now: desk.now,
				makers: 1,
				practicePort: 1,
				makeBatch: async (batch: MakeBatch) => {
					haltStep(bench.books, desk, bench.run, how)
					return makeBatch(batch)
				},
			},
			job,
		)
		return bench
	}

	test('stopped in the middle, it goes on from there when it is asked for again', async () => {
		const { books, run, bench, groups } = await halted('stop')
		expect(latestJob(books, run)).toMatchObject({ state: 'stopped', words: 'Stopped with 50 of 120 PDFs made.' })
		expect(resumeStep(books, desk, run)).toMatchObject({ ok: false })
		expect(nextAct(groups())).toEqual({ act: 'make', count: 70 })
		await nextStep(books, run)
		expect(bench().every(({ made_at }) => made_at !== null)).toBe(true)
	})

	test('paused, it stays the run’s step through a restart, goes on as the same step, or is stopped', async () => {
		const { books, run, bench } = await halted('pause')
		const paused = latestJob(books, run)
		expect(paused).toMatchObject({ state: 'paused', words: 'Paused with 50 of 120 PDFs made.' })
		await work(books)
		expect(latestJob(books, run)).toMatchObject({ id: paused?.id, state: 'paused', done: 50 })
		expect(askStep(books, desk, run, 'make', 70)).toMatchObject({ ok: false })
		expect(haltStep(books, desk, run, 'pause')).toMatchObject({ ok: false })
		expect(resumeStep(books, desk, run)).toEqual({ ok: true })
		await work(books)
		expect(latestJob(books, run)).toMatchObject({ id: paused?.id, state: 'done' })
		expect(bench().every(({ made_at }) => made_at !== null)).toBe(true)

		const other = await halted('pause')
		expect(haltStep(other.books, desk, other.run, 'stop')).toEqual({ ok: true })
		expect(latestJob(other.books, other.run)?.state).toBe('stopped')
		expect(nextAct(other.groups())).toEqual({ act: 'make', count: 70 })
	})

	test('a disk that takes nothing ends the step with its reason, and nothing shows as made', async () => {
		const { books, run, bench } = await gathered()
		await nextStep(books, run)
		rmSync(join(books.folder, 'files'), { recursive: true, force: true })
		writeFileSync(join(books.folder, 'files'), 'in the way')
		await nextStep(books, run)
		expect(latestJob(books, run)?.state).toBe('failed')
		expect(bench().some(({ made_at }) => made_at !== null)).toBe(false)
	})
})

describe('sending', () => {
	const counted = async (outcome: 'sent' | 'refused' | 'away' | 'unsure') => {
		const bench = await made()
		writeMessages(bench.books, desk, bench.run)
		const took: Buffer[] = []
		const result = await sendRun(bench.books, desk, bench.run, [line(outcome, took)])
		return { ...bench, took, result, log: () => sentLog(bench.books, '', 50).rows }
	}

	test('each message goes once, with its file, and leaves a row in the sent log', async () => {
		const { books, run, took, log, groups } = await counted('sent')
		expect(took).toHaveLength(2)
		expect(log().map(({ number, recipient, outcome, answer }) => [number, recipient, outcome, answer])).toEqual([
			['T-0043', 'c1@shore.example', 'sent', 'the server: sent'],
			['T-0041', 'a1@shore.example', 'sent', 'the server: sent'],
		])
		const [last] = log()
		const message = readMessage(books, last?.message_id ?? 0)
		if (!message) throw new Error('no message')
		expect((await rawOf(books, message)).sha256).toBe(last?.raw_sha256)
		expect(writeMessages(books, desk, run).written).toBe(0)
		expect((await sendRun(books, desk, run, [line('sent', took)])).handled).toBe(true)
		expect(took).toHaveLength(2)
		expect(nextAct(groups())).toEqual({ act: 'print', count: 1 })
	})

	test('a server that is away leaves the messages waiting and says so', async () => {
		const { books, run, result, log } = await counted('away')
		expect(result).toEqual({ handled: false, away: 'the server: away' })
		expect(log()).toMatchObject([{ outcome: 'not sent' }])
		expect(waitingMessages(books, run, 9)).toHaveLength(2)
	})

	test('a refused message waits for a person, who may have it sent again', async () => {
		const { books, run, groups } = await counted('refused')
		const [message] = inPostroom(books)
		expect(message).toMatchObject({ state: 'refused', last_answer: 'the server: refused' })
		expect(panelOf(books, message?.document_id ?? 0)?.message?.answer).toBe('the server: refused')
		expect(nextAct(groups()).act).toBe('decide')
		if (!message) throw new Error('no message')
		expect(decideMessage(books, desk, message, 'sent')).toBe(false)
		expect(decideMessage(books, desk, message, 'again')).toBe(true)
		await sendRun(books, desk, run, [line('sent')])
		expect(readMessage(books, message.id)?.state).toBe('sent')
		expect(sentLog(books, message.number, 9).total).toBe(2)
	})

	test('a message on its way when the runner died is unsure, and never sent again by itself', async () => {
		const { books, run } = await made()
		writeMessages(books, desk, run)
		const never: MailLine = { ...line('sent'), send: () => new Promise(() => {}) }
		void sendRun(books, desk, run, [never])
		await new Promise((done) => setTimeout(done, 100))
		expect(await settleLeftSending(books, desk)).toBe(1)
		const took: Buffer[] = []
		await sendRun(books, desk, run, [line('sent', took)])
		expect(took).toHaveLength(1)
		const [message] = inPostroom(books)
		expect(message?.state).toBe('unsure')
		if (!message) throw new Error('no message')
		expect(decideMessage(books, desk, message, 'sent')).toBe(true)
		expect(inPostroom(books)).toEqual([])
	})

	test('the runner reports that no mail server answers, and the run can go on later', async () => {
		const { books, run } = await made()
		await nextStep(books, run)
		expect(latestJob(books, run)).toMatchObject({
			state: 'failed',
			words: expect.stringContaining('2 messages wait; send again when the server is back'),
		})
		expect(nextAct(runGroups(books, run))).toEqual({ act: 'send', count: 2 })
	})
})

test('a run closes only when every difference has a reason; held orders then wait again', async () => {
	const { books, run, bench } = await gathered()
	holdBack(books, desk, bench()[2]?.id ?? 0, 'disputed')
	expect(closeRun(books, desk, run)).toMatchObject({ ok: false })
	await nextStep(books, run)
	await nextStep(books, run)
	writeMessages(books, desk, run)
	await sendRun(books, desk, run, [line('sent')])
	expect(closeRun(books, desk, run)).toMatchObject({ ok: false })
	const withoutMail = bench().find(({ email }) => email === '')?.id ?? 0
	expect(printed(books, desk, withoutMail)).toEqual({ ok: true })
	expect(printed(books, desk, withoutMail)).toMatchObject({ ok: false })
	expect(closeRun(books, desk, run)).toEqual({ ok: true })
	expect(readRun(books, run)).toMatchObject({ state: 'closed', closed_by: 'Wren' })
	expect(waitingOrders(books).map(({ number }) => number)).toEqual(['8803', '8804'])
	expect(askStep(books, desk, run, 'send', 1)).toMatchObject({ ok: false })
	const content = billSchema.parse(readBill(books, bench()[1]?.id ?? 0)?.content)
	expect(content.number).toBe('T-0041')
})

describe('changing a draft', () => {
	const wanted = (books: Books, id: number, more: object) => {
		const content = readBill(books, id)?.content
		const lines = (content?.lines ?? []).map(
			({ quantity, unitPrice, discountPercent, description, taxCode }, line) => ({
				line,
				quantity,
				unitPrice,
				discountPercent,
				description,
				taxCode,
			}),
		)
		return changeSchema.parse({
			lines: lines.map((line) => ({ ...line, ...more })),
			dueDay: content?.dueDay,
			email: readBill(books, id)?.email,
			reason: 'the counter rang',
			...more,
		})
	}

	test('a missing price is given: the stop is gone, the figures and the order are computed anew, and it can be taken back', async () => {
		const { books, run, bench } = await gathered('8810,03/10/2026,A1,BUOY,Line,4,,,STD,,5.00')
		const id = bench()[0]?.id ?? 0
		expect(bench()[0]).toMatchObject({ level: 'stop', net: 500 })
		expect(changeDraft(books, desk, id, wanted(books, id, { unitPrice: '2.25' }))).toEqual({ ok: true })
		expect(bench()[0]).toMatchObject({
			level: 'look',
			brief: 'first invoice',
			net: 1400,
			tax: 280,
			total: 1680,
			changes: 1,
		})
		expect(tallyOf(books, run)[0]).toMatchObject({
			broughtIn: 500,
			untied: 0,
			changes: [{ net: 900, customer: 'line 1: price none → 2.25' }],
		})
		expect(panelOf(books, id)?.changes).toMatchObject([
			{ words: 'line 1: price none → 2.25', reason: 'the counter rang', clerk: 'Wren' },
		])
		expect(undoChange(books, desk, id)).toEqual({ ok: true })
		expect(bench()[0]).toMatchObject({ level: 'stop', net: 500, changes: 0 })
		expect(undoChange(books, desk, id)).toMatchObject({ ok: false })
		expect(eventsOfDocument(books, [id]).map(({ act }) => act)).toEqual(['took the change back', 'changed'])
	})

	test('recipient and due date follow into what is frozen and sent', async () => {
		const { books, run, bench } = await gathered(rows[1] ?? '')
		const id = bench()[0]?.id ?? 0
		changeDraft(books, desk, id, wanted(books, id, { email: 'b1@shore.example', dueDay: '2026-12-24' }))
		await nextStep(books, run)
		await nextStep(books, run)
		writeMessages(books, desk, run)
		expect(waitingMessages(books, run, 9)).toMatchObject([
			{ recipient: 'b1@shore.example', body: expect.stringContaining('due on 24 Dec 2026') },
		])
		expect(readBill(books, id)).toMatchObject({ due_day: '2026-12-24', content: { dueDay: '2026-12-24' } })
	})

	test('what cannot be is refused: nothing different, no reason, no number, and anything once it is numbered', async () => {
		const { books, run, bench } = await gathered(rows[0] ?? '')
		const id = bench()[0]?.id ?? 0
		expect(changeDraft(books, desk, id, wanted(books, id, {}))).toMatchObject({
			ok: false,
			message: 'Nothing is different from before.',
		})
		for (const bad of [{ reason: ' ' }, { quantity: 'ten' }, { dueDay: '2026-02-30' }, { description: '' }])
			expect(() => wanted(books, id, bad)).toThrow()
		changeDraft(books, desk, id, wanted(books, id, { taxCode: 'NOPE' }))
		expect(bench()[0]).toMatchObject({ level: 'stop', brief: 'tax code NOPE' })
		undoChange(books, desk, id)
		await nextStep(books, run)
		expect(changeDraft(books, desk, id, wanted(books, id, { quantity: '9' }))).toMatchObject({ ok: false })
		expect(undoChange(books, desk, id)).toMatchObject({ ok: false })
	})
})
