import { describe, expect, test } from 'vitest'
import type { LateTerms } from '@/core/lateCharge'
import type { StatementChoice } from '@/core/statement'
import { drawDocument } from '@/pdf/makeDocument'
import { closeRun, giveRunBack } from '@/runs/bench/close'
import { panelOf } from '@/runs/bench/panel'
import { leaveInPeace, notePromise } from '@/runs/customers/promises'
import { pdfOf } from '@/runs/files/pdfOf'
import { printAll, printList } from '@/runs/files/printAll'
import { verify } from '@/runs/issue/verify'
import { voidDocument } from '@/runs/issue/void'
import { setDispute } from '@/runs/receivables/dispute'
import { enterPayment, paymentSchema } from '@/runs/receivables/payment'
import { releaseHeld } from '@/runs/recheck/hold'
import { holdToRead, writeOwnMessage } from '@/runs/send/ownMessage'
import { actOnPost } from '@/runs/send/postroom'
import { rawOf, writeMessages } from '@/runs/send/send'
import { nextAct, tallyOf } from '@/runs/tally/tally'
import { passedPromises, promisesOf } from '@/store/chases'
import { saveCustomer } from '@/store/customers'
import { readAnyDocument } from '@/store/documents'
import { eventsOf } from '@/store/events'
import { itemsOfCustomer } from '@/store/ledger'
import { waitingMessages } from '@/store/messages'
import { benchRows, runGroups } from '@/store/places'
import { inPostroom } from '@/store/postroom'
import { saveRegister } from '@/store/registers'
import { changeSettings, readSettings } from '@/store/settings'
import { artOf, look } from '../../../tests/looks'
import { billed, line, nextStep, sendRun, work } from '../../../tests/runs'
import { choice, contentOf, stated } from '../../../tests/stated'
import { customer, desk, firmBooks, plainRegister } from '../../../tests/support'
import { dropCharge } from './compare'
import { startStatements } from './start'

describe('a run of statements', () => {
	test('has one an account and currency; who gets none is held back with the reason, and the tally starts at the ledger’s total', async () => {
		const { books, run, bench } = await stated()
		expect(
			bench().map((row) => [
				row.customer_name,
				row.currency,
				row.order_count,
				row.net,
				row.past_due,
				row.total,
				row.held_reason,
			]),
		).toEqual([
			['Customer B1', 'GBP', 1, 300, 0, 300, '3.00 is below the least worth a letter, 5.00'],
			['Customer A1', 'EUR', 1, 7000, 0, 7000, null],
			['Customer A1', 'GBP', 4, 14_500, 13_000, 14_500, null],
			['Customer C1', 'GBP', 1, 4000, 4000, 4000, null],
			['Customer D1', 'GBP', 1, 6000, 6000, 6000, 'set to get no statements'],
		])
		const [strip] = tallyOf(books, run)
		expect(strip?.sourceTotal).toBe(24_800)
		expect(strip?.stages.slice(0, 2).map(({ orders, net }) => [orders, net])).toEqual([
			[7, 24_800],
			[5, 18_500],
		])
		releaseHeld(books, desk, bench()[4]?.id ?? 0)
		expect(tallyOf(books, run)[0]?.stages[1]?.net).toBe(24_500)
	})

	test('is numbered, made, sent with the letter that fits, and closed; the same paper comes again after payments', async () => {
		const { books, run, bench } = await stated()
		await nextStep(books, run)
		await nextStep(books, run)
		expect(bench().map(({ number }) => number)).toEqual([null, 'S-001', 'S-002', 'S-003', null])
		writeMessages(books, desk, run)
		expect(waitingMessages(books, run, 9).map(({ recipient, subject }) => [recipient, subject])).toEqual([
			['ledger@shore.example', 'Statement S-001 from Tarn Chandlers, as of 31 Oct 2026'],
			['ledger@shore.example', 'Statement S-002 from Tarn Chandlers: £125.00 past due'],
			['c1@shore.example', 'Statement S-003 from Tarn Chandlers: £40.00 past due'],
		])
		expect(waitingMessages(books, run, 9)[1]?.body).toContain(
			[
				'Number\tYour order\tDue\tDays late\tOpen, GBP',
				'CS-1\tPO-1\t31 Aug 2026\t61\t100.00',
				'CS-3\t\t1 Oct 2026\t30\t30.00',
				'to your credit\t\t\t\t−5.00',
			].join('\n'),
		)
		const id = bench()[2]?.id ?? 0
		const before = await pdfOf(books, id)
		const content = contentOf(books, id)
		enterPayment(
			books,
			desk,
			paymentSchema.parse({
				customer: 1,
				day: '2026-10-20',
				amount: '130',
				currency: 'GBP',
				reference: 'CS-1 CS-3',
				to: 'named',
			}),
		)
		expect(contentOf(books, id)).toEqual(content)
		expect((await pdfOf(books, id))?.sha256).toBe(before?.sha256)
		// What came in after its message was written is found before that message leaves; a person lets it go.
		await sendRun(books, desk, run, [line('sent')])
		expect(bench().map(({ place }) => place)).toEqual(['held', 'sent', 'kept back', 'sent', 'held'])
		expect(inPostroom(books)[0]?.kept_back).toMatch(
			/no longer true: owed in all 145.00 → 15.00; .* letter “Friendly” → none/,
		)
		actOnPost(books, desk, { words: '', state: 'kept back', expected: 1 }, 'let go', '')
		await sendRun(books, desk, run, [line('sent')])
		expect(verify(books).flatMap(({ wrong }) => wrong)).toEqual([])
		expect(closeRun(books, desk, run)).toEqual({ ok: true })
	})

	test('past due only: just the undisputed overdue debits stand on it, and the Why names the rest', async () => {
		const { books, bench } = await stated({ show: 'past-due' }, (books) => {
			const disputed = itemsOfCustomer(books, 1).find(({ number }) => number === 'CS-3')
			setDispute(books, desk, disputed?.id ?? 0, 'wet')
		})
		const row = bench().find(({ customer_name, currency }) => customer_name === 'Customer A1' && currency === 'GBP')
		const content = contentOf(books, row?.id)
		expect(content.items.map(({ number }) => number)).toEqual(['CS-1'])
		expect(content).toMatchObject({
			total: '95.00',
			asked: '95.00',
			pastDue: '100.00',
			disputed: '30.00',
			balance: '145.00',
		})
		expect(panelOf(books, row?.id ?? 0)?.why?.rows.map(({ number, on, words }) => [number, on, words])).toEqual([
			['CS-1', true, '61 days past due'],
			['CRN-1', false, 'a credit'],
			['CS-3', false, 'disputed since 31 Oct 2026'],
			['CS-2', false, 'not due until 9 Nov 2026'],
		])
		expect(bench().map(({ held_reason }) => held_reason)).toContain('nothing is past due')
	})

	test('the Why says what the extract has otherwise', async () => {
		const { books, bench } = await stated({}, (books) => {
			enterPayment(
				books,
				desk,
				paymentSchema.parse({
					customer: 1,
					day: '2026-10-31',
					amount: '125',
					currency: 'GBP',
					reference: 'x',
					to: 'oldest',
				}),
			)
		})
		const row = bench().find(({ customer_name, currency }) => customer_name === 'Customer A1' && currency === 'GBP')
		expect(
			panelOf(books, row?.id ?? 0)?.why?.rows.map(({ number, open, extract, difference }) => [
				number,
				open,
				extract,
				difference,
			]),
		).toEqual([
			// What is different comes first.
			['CS-3', '5.00', '30.00', 'the extract of 31 Oct 2026 has another amount open'],
			['CS-1', '', '100.00', 'open in the extract of 31 Oct 2026'],
			['CRN-1', '−5.00', '−5.00', ''],
			['CS-2', '20.00', '20.00', ''],
		])
	})

	test('copies of the invoices past due go along, to all who get the message, and answers go where they should', async () => {
		const { books, run } = await stated({ copies: true, show: 'past-due', customers: [1] }, () => {})
		saveCustomer(books, desk, customer('C1', { cc: 'boss@shore.example, clerk@shore.example' }))
		await billed(books, { documentDay: '2026-08-31' }, '8801,03/08/2026,C1,ROPE,Line,1,2.00,,STD,,')
		const mail = { ...readSettings(books).mail, bcc: 'file@tarn.example', replyTo: 'accounts@tarn.example' }
		changeSettings(books, desk, { mail })
		const started = startStatements(books, desk, choice({ copies: true, show: 'past-due', customers: [3] }), true)
		await work(books)
		const id = started.ok ? (started.id ?? 0) : 0
		expect(id).not.toBe(run)
		await nextStep(books, id)
		await nextStep(books, id)
		writeMessages(books, desk, id)
		const [message] = waitingMessages(books, id, 9)
		if (!message) throw new Error('no message')
		const raw = (await rawOf(books, message)).raw.toString()
		expect(raw).toContain('Cc: boss@shore.example, clerk@shore.example')
		expect(raw).toContain('Reply-To: accounts@tarn.example')
		expect(raw).not.toContain('file@tarn.example')
		expect(panelOf(books, message.document_id)?.message).toMatchObject({
			cc: 'boss@shore.example, clerk@shore.example',
			bcc: 'file@tarn.example',
			replyTo: 'accounts@tarn.example',
			copies: ['T-0041'],
		})
		expect(raw.match(/filename=/g)).toHaveLength(2)
		const envelopes: string[][] = []
		const server = {
			...line('sent'),
			send: async (envelope: { to: string[] }) => {
				envelopes.push(envelope.to)
				return { outcome: 'sent' as const, answer: 'ok', said: [] }
			},
		}
		await sendRun(books, desk, id, [server])
		expect(envelopes).toEqual([['c1@shore.example', 'boss@shore.example', 'clerk@shore.example', 'file@tarn.example']])
	})

	test('a message is held until it is read, and written for its customer alone; the letter stays', async () => {
		const { books, run, bench } = await stated({ hold: true, customers: [3] })
		await nextStep(books, run)
		await nextStep(books, run)
		const id = bench()[0]?.id ?? 0
		expect(nextAct(runGroups(books, run))).toEqual({ act: 'read', count: 1 })
		expect(writeOwnMessage(books, desk, id, { subject: 'Dear Morag', body: 'Please.' })).toEqual({ ok: true })
		expect(writeMessages(books, desk, run).written).toBe(0)
		expect(holdToRead(books, desk, id, false)).toEqual({ ok: true })
		writeMessages(books, desk, run)
		expect(waitingMessages(books, run, 9)).toMatchObject([{ subject: 'Dear Morag', body: 'Please.' }])
		expect(writeOwnMessage(books, desk, id, { subject: 'x', body: 'y' })).toMatchObject({ ok: false })
		expect(holdToRead(books, desk, id, true)).toMatchObject({ ok: false })
	})

	test('nobody is written to twice within the days, nor in peace, nor while a payment is promised', async () => {
		const { books, run, bench } = await stated({ show: 'past-due', customers: [3] })
		await nextStep(books, run)
		await nextStep(books, run)
		writeMessages(books, desk, run)
		await sendRun(books, desk, run, [line('sent')])
		expect(contentOf(books, bench()[0]?.id).letter).toBe('past-due-1')
		let last = 0
		const again = async (asOf: string, show: StatementChoice['show'] = 'past-due') => {
			// A letter that waits in another open run is not written a second time.
			if (last > 0) giveRunBack(books, desk, last)
			const started = startStatements(books, desk, choice({ asOf, show, customers: [3] }), true)
			await work(books)
			last = started.ok ? (started.id ?? 0) : 0
			return benchRows(books, last)[0]
		}
		expect((await again('2026-11-13'))?.held_reason).toBe('written to as of 31 Oct 2026; not again before 14 Nov 2026')
		const monthly = await again('2026-11-13', 'all')
		expect(monthly?.held_reason).toBeNull()
		expect(contentOf(books, monthly?.id)).toMatchObject({
			letter: 'statement',
			spared: expect.stringContaining('not again'),
		})
		expect((await again('2026-11-14'))?.held_reason).toBeNull()
		leaveInPeace(books, desk, 3, '2026-11-20', 'flood')
		expect((await again('2026-11-20'))?.held_reason).toBe('peace until 20 Nov 2026: flood')
		expect((await again('2026-11-21'))?.held_reason).toBeNull()
		const promise = { customer: 3, day: '2026-11-30', amount: '40', currency: 'GBP', note: 'by phone' }
		expect(notePromise(books, desk, promise)).toEqual({ ok: true })
		expect((await again('2026-11-25'))?.held_reason).toBe('a payment is promised for 30 Nov 2026')
		expect(passedPromises(books, '2026-11-30')).toEqual([])
		expect(passedPromises(books, '2026-12-01')).toMatchObject([{ customer: 'Customer C1', amount: 4000 }])
		changeSettings(books, desk, { workDate: '2026-12-01' })
		const payment = { customer: 3, day: '2026-12-01', amount: '40', currency: 'GBP', reference: '', to: 'oldest' }
		enterPayment(books, desk, paymentSchema.parse(payment))
		expect(passedPromises(books, '2026-12-02')).toEqual([])
		expect(promisesOf(books, 3)).toMatchObject([{ ended: 'kept' }])
		expect(eventsOf(books, 'customer', 3)).toContainEqual(
			expect.objectContaining({ act: 'a promise was kept', detail: expect.stringContaining('promised for') }),
		)
		expect(await again('2026-12-02')).toBeUndefined()
	})

	test('a late charge is proposed with its Working, dropped, or entered in the ledger when the statement is numbered; never twice for the same days', async () => {
		const terms: LateTerms = { rates: [{ from: '', percent: '8' }], per: 'year', grace: 7, minimum: 50, year: '365' }
		const { books, run, bench } = await stated({ charges: true }, (books) =>
			changeSettings(books, desk, { lateTerms: terms }),
		)
		const of = (name: string) => bench().find((row) => row.customer_name === name && row.currency === 'GBP')?.id ?? 0
		// 100.00 × 8% × 54 of 365 days is 1.18, 30.00 × 8% × 23 of 365 days is 0.15.
		expect(contentOf(books, of('Customer A1')).charge?.working).toEqual([
			'CS-1: 100.00 × 8% a year × 54 days from 8 Sep 2026 ÷ 365 is 1.18',
			'CS-3: 30.00 × 8% a year × 23 days from 9 Oct 2026 ÷ 365 is 0.15',
			'CS-3: 0.50, the least charge on an item',
		])
		expect(contentOf(books, of('Customer A1'))).toMatchObject({
			balance: '146.68',
			total: '146.68',
			pastDue: '130.00',
			asked: '125.00',
		})
		expect(contentOf(books, of('Customer C1')).charge?.working.at(-1)).toBe('CS-5: 0.50, the least charge on an item')
		expect(tallyOf(books, run)[0]?.stages[0]?.net).toBe(24_800)
		expect(dropCharge(books, desk, of('Customer C1'))).toEqual({ ok: true })
		expect(dropCharge(books, desk, of('Customer C1'))).toMatchObject({ ok: false })
		expect(contentOf(books, of('Customer C1'))).toMatchObject({ total: '40.00', charge: null })
		await nextStep(books, run)
		await nextStep(books, run)
		const number = readAnyDocument(books, of('Customer A1'))?.number
		expect(itemsOfCustomer(books, 1).at(-1)).toMatchObject({
			kind: 'charge',
			number: `${number}/C`,
			amount: 168,
			open: 168,
		})
		expect(contentOf(books, of('Customer A1')).items.map((item) => item.number)).toContain(`${number}/C`)
		expect(verify(books).flatMap(({ wrong }) => wrong)).toEqual([])
		const again = startStatements(books, desk, choice({ asOf: '2026-11-05', charges: true, customers: [1] }), true)
		await work(books)
		const next = benchRows(books, again.ok ? (again.id ?? 0) : 0).find(({ currency }) => currency === 'GBP')
		expect(contentOf(books, next?.id).charge?.working[0]).toBe(
			'CS-1: 100.00 × 8% a year × 5 days from 1 Nov 2026 ÷ 365 is 0.11',
		)
		voidDocument(books, desk, of('Customer A1'), 'too soon')
		expect(itemsOfCustomer(books, 1).find(({ kind }) => kind === 'charge')?.open).toBe(0)
		expect(startStatements(books, desk, choice({ charges: true, show: 'past-due' }), true)).toMatchObject({ ok: false })
	})

	test('what is to be printed comes as one PDF in the order of its list', async () => {
		const { books, run } = await stated({ least: 0 })
		expect(await printAll(books, run)).toBeNull()
		await nextStep(books, run)
		await nextStep(books, run)
		expect(printList(books, run).map(({ customer_name }) => customer_name)).toEqual(['Customer B1'])
		expect((await printAll(books, run))?.subarray(0, 5).toString()).toBe('%PDF-')
	})

	test('balance forward: opening, what happened since, closing', async () => {
		const { books, bench } = await stated({ form: 'balance forward', since: '2026-10-01', customers: [1] })
		const content = contentOf(books, bench().find(({ currency }) => currency === 'GBP')?.id)
		expect(content.opening).toBe('125.00')
		expect(content.movements.map(({ words, change, balance }) => [words, change, balance])).toEqual([
			['invoice CS-2', '50.00', '175.00'],
			['CS-2: settled in part before it came here', '-30.00', '145.00'],
		])
		expect(content).toMatchObject({ balance: '145.00', total: '145.00' })
	})

	test('needs a register, a day, and something open', () => {
		const books = firmBooks()
		expect(startStatements(books, desk, choice(), true)).toMatchObject({
			message: expect.stringContaining('number register'),
		})
		saveRegister(books, desk, { ...plainRegister, kind: 'statement', prefix: 'S-', digits: 3, next: 1 })
		expect(startStatements(books, desk, choice(), true)).toMatchObject({
			message: expect.stringContaining('Nothing is open'),
		})
		expect(startStatements(books, desk, choice({ asOf: 'today' }), true)).toMatchObject({ ok: false })
		expect(startStatements(books, desk, choice({ form: 'balance forward' }), true)).toMatchObject({ ok: false })
	})
})

test('a long statement runs over pages with its head on each, in the customer’s figures and dates', async () => {
	const { books, bench } = await stated()
	const own = contentOf(books, bench()[2]?.id)
	const [first] = own.items
	if (!first) throw new Error('no item')
	const many = Array.from({ length: 90 }, (_, index) => ({ ...first, number: `CS-${index}` }))
	const { pages } = drawDocument(
		{ ...own, items: many, locale: 'nb-NO', number: 'S-9' },
		look('statement'),
		artOf('statement'),
	)
	const texts = pages.map((page) => page.flatMap((mark) => (mark.type === 'text' ? [mark.text] : [])))
	expect(pages.length).toBeGreaterThan(1)
	expect(texts.every((page) => page.some((text) => /^Dager|^Etter dager forfalt/.test(text)))).toBe(true)
	expect(texts[0]).toEqual(expect.arrayContaining(['31. aug. 2026', '100,00', 'Du skylder i alt']))
	expect(texts.at(-1)).toEqual(
		expect.arrayContaining(['Returneres med betalingen', `Side ${pages.length} / ${pages.length}`]),
	)
	expect(texts.flat().filter((text) => /^CS-\d+$/.test(text))).toHaveLength(90)
})
