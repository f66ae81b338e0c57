import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { changeDraft, changeSchema } from '@/runs/drafts/change'
import { mergeDrafts } from '@/runs/drafts/merge'
import { enterPayment, paymentSchema } from '@/runs/receivables/payment'
import { writeOff } from '@/runs/receivables/writeOff'
import { startStatements } from '@/runs/statements/start'
import type { Books } from '@/store/books'
import { saveExchangeRate } from '@/store/catalogue'
import { saveCustomer } from '@/store/customers'
import { readAnyDocument, readBill } from '@/store/documents'
import { creditsOf } from '@/store/issued'
import { itemsOfCustomer } from '@/store/ledger'
import { benchRows } from '@/store/places'
import { nextValue, registerFor, saveRegister } from '@/store/registers'
import { changeSettings } from '@/store/settings'
import { customer } from '../../../tests/firm'
import { billed, gatherRun, nextStep, work } from '../../../tests/runs'
import { desk, firmBooks, plainRegister } from '../../../tests/support'
import { walks } from '../../../tests/walks'
import { creditable, creditSchema, startCredit } from './credit'
import { numberDocuments } from './number'
import { reviseDocument } from './revise'
import { verify } from './verify'
import { voidDocument } from './void'

const wrong = (books: Books) => verify(books).flatMap((found) => found.wrong)
const register = (books: Books, kind: 'credit-note' | 'statement', prefix: string) =>
	saveRegister(books, desk, { ...plainRegister, kind, prefix, digits: 3, next: 1 })
function firm() {
	const books = firmBooks()
	register(books, 'credit-note', 'C-')
	changeSettings(books, desk, { workDate: '2026-11-05' })
	return books
}
const pay = (books: Books, amount: string) =>
	enterPayment(
		books,
		desk,
		paymentSchema.parse({ customer: 1, day: '2026-11-05', amount, currency: 'GBP', reference: 'BACS', to: 'oldest' }),
	)
const open = (books: Books, of = 1) =>
	Object.fromEntries(
		itemsOfCustomer(books, of)
			.filter((item) => item.open > 0)
			.map((item) => [item.number, item.open]),
	)
const only = (books: Books, run: number) => benchRows(books, run)[0]?.id ?? 0
const credit = (lines: [number, string][], freight = false) =>
	creditSchema.parse({ lines: lines.map(([line, quantity]) => ({ line, quantity })), freight, reason: 'came back' })
async function credited(books: Books, id: number, wanted: ReturnType<typeof credit>) {
	const started = startCredit(books, desk, id, wanted)
	if (!started.ok || !started.id) throw new Error(started.ok ? 'no run' : started.message)
	const job = await nextStep(books, started.id)
	expect([job?.state, job?.words.replace(/ numbered.*/, '')]).toEqual(['done', '1'])
	return { run: started.id, id: only(books, started.id) }
}
const line = (more: object) => ({
	...{ line: 0, quantity: '10', unitPrice: '2.00', discountPercent: '0', description: 'Line', taxCode: 'STD' },
	...more,
})
const change = (more: object = {}) =>
	changeSchema.parse({ lines: [], dueDay: '2026-11-30', email: 'a1@shore.example', reason: 'agreed', ...more })

describe('a credit note', () => {
	test('in random parts comes to the invoice to the penny, tax by rate and discount by discount', async () => {
		const amount = fc.integer({ min: 1, max: 99_999 }).map((pence) => (pence / 100).toFixed(2))
		const percent = fc.constantFrom('0', '0', '7', '33.3333')
		const parts = fc.record({
			lines: fc.array(
				fc.tuple(fc.integer({ min: 1, max: 9 }), amount, percent, fc.constantFrom('STD', 'RED', 'ZERO')),
				{
					minLength: 1,
					maxLength: 4,
				},
			),
			...{ discount: percent, freight: fc.constantFrom('', '6.55'), customer: fc.constantFrom('A1', 'E1') },
			cuts: fc.array(fc.integer({ min: 1, max: 3 }), { minLength: 12, maxLength: 12 }),
		})
		let turn = 0
		const books = firm()
		saveCustomer(books, desk, customer('E1', { currency: 'EUR' }))
		// The rate falls between the invoice and its credit notes, which keep that of the invoice.
		saveExchangeRate(books, desk, { currency: 'EUR', day: '2026-10-01', rate: '0.8612' })
		saveExchangeRate(books, desk, { currency: 'EUR', day: '2026-11-02', rate: '0.7' })
		await fc.assert(
			fc.asyncProperty(parts, async ({ lines, discount, freight, customer: number, cuts }) => {
				const order = `P${++turn}`
				const rows = lines.map(
					([quantity, price, less, tax], place) =>
						`${order},03/10/2026,${number},,Part ${place},${quantity},${price},${less},${tax},${discount},${freight}`,
				)
				const invoice = only(books, await billed(books, ...rows))
				const bill = readBill(books, invoice)
				if (!bill) throw new Error('no invoice')
				let cut = 0
				for (
					let left = creditable(books, invoice, bill.content);
					left.freight || left.lines.some((of) => of !== '0');
				) {
					// Sometimes a line is left out, unless it is the only one left.
					const skip = (place: number) => cut % 2 === 0 && place === 0 && left.lines.slice(1).some((of) => of !== '0')
					const wanted = left.lines.map((of, place): [number, string] => [
						place,
						String(skip(place) ? 0 : Math.min(Number(of), cuts[(cut + place) % cuts.length] ?? 1)),
					])
					const nothing = wanted.every(([, of]) => of === '0')
					await credited(books, invoice, credit(wanted, nothing || cut % 3 === 1))
					cut++
					left = creditable(books, invoice, bill.content)
				}
				const notes = creditsOf(books, invoice).map(({ id }) => readBill(books, id))
				const sum = (of: (content: NonNullable<typeof bill>['content']) => string) =>
					notes.reduce((total, note) => total + Math.round(Number(note ? of(note.content) : 0) * 100), 0)
				const minus = (text: string) => 0 - Math.round(Number(text) * 100)
				const { priced } = bill.content
				expect(sum(({ priced: own }) => own.total)).toBe(minus(priced.total))
				expect(sum(({ priced: own }) => own.net)).toBe(minus(priced.net))
				expect(sum(({ home }) => home?.tax ?? '0')).toBe(minus(bill.content.home?.tax ?? '0'))
				for (const { code, base, tax } of priced.taxes) {
					const row = (content: typeof bill.content) => content.priced.taxes.find((one) => one.code === code)
					expect([code, sum((content) => row(content)?.base ?? '0')]).toEqual([code, minus(base)])
					expect([code, sum((content) => row(content)?.tax ?? '0')]).toEqual([code, minus(tax)])
				}
				expect(open(books, bill.customer_id)).toEqual({})
			}),
			{ numRuns: walks(8), endOnFailure: true },
		)
		expect(wrong(books)).toEqual([])
	})

	test('is changed only within what it credits, without touching the invoice’s order', async () => {
		const books = firm()
		const invoice = only(books, await billed(books, '1,03/10/2026,A1,ROPE,Line,10,2.00,,STD,,'))
		const run = startCredit(books, desk, invoice, credit([[0, '4']]))
		const note = only(books, run.ok ? (run.id ?? 0) : 0)
		const put = (more: object) => changeDraft(books, desk, note, change({ lines: [line({ quantity: '-4', ...more })] }))
		expect(put({ quantity: '-100' })).toMatchObject({ message: expect.stringContaining('more than the 10') })
		expect(put({ quantity: '4' })).toMatchObject({ message: expect.stringContaining('keeps its sign') })
		expect(put({ unitPrice: '999' })).toMatchObject({ message: expect.stringContaining('those of T-0041') })
		expect(put({ taxCode: 'ZERO' })).toMatchObject({ ok: false })
		expect(put({ discountPercent: '50' })).toMatchObject({ ok: false })
		expect(put({ quantity: '-10', description: 'All of it' })).toEqual({ ok: true })
		expect(changeDraft(books, desk, note, change({ email: 'else@shore.example' }))).toMatchObject({ ok: true })
		expect(readBill(books, note)).toMatchObject({ total: -2400, email: 'else@shore.example', kind: 'credit-note' })
		await nextStep(books, benchRows(books, 2)[0]?.run_id ?? 0)
		expect(open(books)).toEqual({})
		expect(wrong(books)).toEqual([])
	})

	test('that was drafted beside another takes what is left, or is stopped when that changed', async () => {
		const books = firm()
		const invoice = only(books, await billed(books, '1,03/10/2026,A1,ROPE,Line,3,3.33,,STD,3,'))
		const first = startCredit(books, desk, invoice, credit([[0, '1']]))
		const last = startCredit(books, desk, invoice, credit([[0, '2']]))
		const [one, two] = [first, last].map((run) => (run.ok ? (run.id ?? 0) : 0))
		changeDraft(books, desk, only(books, one ?? 0), change({ lines: [line({ quantity: '-0.5', unitPrice: '3.33' })] }))
		expect(await nextStep(books, two ?? 0)).toMatchObject({
			state: 'failed',
			words: expect.stringContaining('credited otherwise'),
		})
		expect(readBill(books, only(books, two ?? 0))).toMatchObject({ number: null, level: 'stop' })
	})

	test('what comes below zero is one, from its own register, or is put together; and a return can be credited', async () => {
		const books = firm()
		changeSettings(books, desk, { freight: { amount: '', percent: '10' } })
		const run = await gatherRun(books, [
			'1,03/10/2026,A1,ROPE,Back,-5,2.00,,STD,,',
			'2,03/10/2026,A1,ROPE,Line,1,2.00,,STD,,',
			'3,03/10/2026,A1,ROPE,Back,-1,2.00,,STD,,',
			'4,03/10/2026,A1,ROPE,Line,6,2.00,,STD,,',
		])
		const idOf = (order: string) => benchRows(books, run).find((row) => row.order_numbers === order)?.id ?? 0
		expect(mergeDrafts(books, desk, idOf('4'), { other: idOf('3'), reason: 'one delivery' })).toMatchObject({
			ok: true,
		})
		await nextStep(books, run)
		expect(benchRows(books, run).map(({ number, total }) => [number, total])).toEqual([
			['C-001', -1320],
			['T-0041', 264],
			['T-0042', 1320],
		])
		expect(open(books)).toEqual({ 'C-001': 1320, 'T-0041': 264, 'T-0042': 1320 })
		const back = await credited(books, benchRows(books, run)[0]?.id ?? 0, credit([[0, '-5']], true))
		expect(readBill(books, back.id)).toMatchObject({ number: 'T-0043', kind: 'invoice', total: 1320 })
		expect(open(books)).toEqual({ 'T-0041': 264, 'T-0042': 1320 })
		expect(wrong(books)).toEqual([])
	})
})

describe('void and revise undo and carry over all that issuing did', () => {
	test('a voided credit note reopens its invoice; payments of a voided invoice are unapplied, and say so', async () => {
		const books = firm()
		const run = await billed(books, '1,03/10/2026,A1,ROPE,Line,10,2.00,,STD,,')
		const invoice = only(books, run)
		const note = await credited(books, invoice, credit([[0, '10']]))
		expect(open(books)).toEqual({})
		expect(voidDocument(books, desk, note.id, 'wrong one')).toMatchObject({ ok: true })
		expect(open(books)).toEqual({ 'T-0041': 2400 })
		pay(books, '24.00')
		expect(voidDocument(books, desk, invoice, 'wrong yard')).toEqual({
			ok: true,
			words: '24.00 GBP of BACS is unapplied again',
		})
		expect(open(books)).toEqual({ BACS: 2400 })
		expect(wrong(books)).toEqual([])
	})

	test('payments stay on a revision, as far as it reaches', async () => {
		const books = firm()
		const invoice = only(books, await billed(books, '1,03/10/2026,A1,ROPE,Line,10,2.00,,STD,,'))
		pay(books, '24.00')
		const revise = (id: number, quantity: string) =>
			reviseDocument(books, desk, id, change({ lines: [line({ quantity })] }))
		const dearer = revise(invoice, '11')
		expect(dearer).toMatchObject({ ok: true, words: '24.00 GBP of BACS stays on it' })
		expect(open(books)).toEqual({ 'T-0041': 240 })
		expect(revise(dearer.ok ? (dearer.id ?? 0) : 0, '5')).toMatchObject({ ok: true })
		expect(open(books)).toEqual({ BACS: 1200 })
		expect(wrong(books)).toEqual([])
	})

	test('a voided statement takes its late charge back, also when that was paid', async () => {
		const books = firm()
		register(books, 'statement', 'S-')
		changeSettings(books, desk, {
			lateTerms: { rates: [{ from: '', percent: '12' }], per: 'year', grace: 0, minimum: 100, year: '365' },
			workDate: '2026-12-31',
		})
		await billed(books, { documentDay: '2026-10-03' }, '1,03/10/2026,A1,ROPE,Line,100,20.00,,STD,,')
		const started = startStatements(books, desk, {
			...{ asOf: '2026-12-31', form: 'open items', since: '', show: 'all', credits: 'apart', least: 0 },
			...{ hold: false, copies: false, charges: true, customers: [] },
		})
		await work(books)
		const run = started.ok ? (started.id ?? 0) : 0
		await nextStep(books, run)
		pay(books, '2500.00')
		const before = open(books)
		expect(voidDocument(books, desk, only(books, run), 'too early')).toMatchObject({ ok: true })
		expect(readAnyDocument(books, only(books, run))?.void_reason).toBe('too early')
		// 2,400.00 for 59 days at 12% a year is 46.55; all of it is the customer's again.
		expect([before, open(books)]).toEqual([{ BACS: 10_000 - 4655 }, { BACS: 10_000 }])
		expect(wrong(books)).toEqual([])
	})

	test('not in closed books, nor over a write-off, and each says what to do', async () => {
		const books = firm()
		const invoice = only(books, await billed(books, '1,03/10/2026,A1,ROPE,Line,10,2.00,,STD,,'))
		const [item] = itemsOfCustomer(books, 1)
		writeOff(books, desk, item?.id ?? 0, 'too small')
		expect(voidDocument(books, desk, invoice, 'x')).toMatchObject({
			message: expect.stringContaining('written off in part or whole (too small). Take that back'),
		})
		changeSettings(books, desk, { closedTo: '2026-10-31' })
		const closed = { message: expect.stringContaining('closed to 31 Oct 2026. Credit it instead.') }
		expect(voidDocument(books, desk, invoice, 'x')).toMatchObject(closed)
		expect(reviseDocument(books, desk, invoice, change({ lines: [line({ quantity: '9' })] }))).toMatchObject(closed)
	})
})

describe('numbers', () => {
	test('December after January, and back, each in its own year; saving a register changes nothing by itself', async () => {
		const books = firm()
		const yearly = { kind: 'invoice', prefix: 'Y{year}-', digits: 3, first: 1, yearly: 1 } as const
		expect(saveRegister(books, desk, { ...yearly, next: 1, year: 2026 })).toEqual({ ok: true })
		const numberOn = async (day: string, order: string) => {
			const run = await billed(books, { documentDay: day }, `${order},03/10/2026,A1,ROPE,L${order},1,2.00,,STD,,`)
			return benchRows(books, run)[0]?.number
		}
		expect(await numberOn('2026-12-31', '1')).toBe('Y2026-001')
		expect(await numberOn('2027-01-02', '2')).toBe('Y2027-001')
		expect(await numberOn('2026-12-31', '3')).toBe('Y2026-002')
		const now = registerFor(books, 'invoice')
		const next = now ? nextValue(books, now, 2027) : 0
		expect(saveRegister(books, desk, { ...yearly, next, year: 2027 })).toEqual({ ok: true })
		expect(await numberOn('2027-01-03', '4')).toBe('Y2027-002')
		expect(await numberOn('2028-01-03', '5')).toBe('Y2028-001')
		expect(wrong(books)).toEqual([])
	})

	test('a register that runs on begins again each year from when it is told to', async () => {
		const books = firm()
		await billed(books, '1,03/10/2026,A1,ROPE,Line,1,2.00,,STD,,')
		const yearly = { kind: 'invoice', prefix: 'T{year}-', digits: 4, first: 1, yearly: 1 } as const
		expect(saveRegister(books, desk, { ...yearly, next: 1, year: 2026 })).toEqual({ ok: true })
		const run = await billed(books, '2,03/10/2026,A1,ROPE,More,1,2.00,,STD,,')
		expect(benchRows(books, run)[0]?.number).toBe('T2026-0001')
		expect(wrong(books)).toEqual([])
	})

	test('what was given in any kind and year is not given again: said when the register is set, with what is free', async () => {
		const books = firm()
		const bill = async (order: string, day = '2026-10-31') => {
			const run = await billed(books, { documentDay: day }, `${order},03/10/2026,A1,ROPE,L${order},1,2.00,,STD,,`)
			return benchRows(books, run)[0]?.number
		}
		const set = (kind: 'invoice' | 'statement', prefix: string, digits: number, next: number, yearly = 0) =>
			saveRegister(books, desk, { kind, prefix, digits, next, first: 1, yearly, year: 2026 })
		const met = (number: string, free: number) => ({
			ok: false,
			message: expect.stringMatching(`^${number} was given already.*From next number ${free} on it is free`),
		})
		expect(await bill('1')).toBe('T-0041')
		// A prefix that another kind had before.
		expect(set('invoice', 'A', 3, 142)).toEqual({ ok: true })
		expect(set('statement', 'T-', 4, 1)).toMatchObject(met('T-0041', 42))
		expect(set('statement', 't-', 4, 41)).toMatchObject(met('T-0041', 42))
		expect(set('statement', 'T-', 4, 42)).toEqual({ ok: true })
		expect(await bill('2')).toBe('A142')
		// The same number, parted otherwise.
		expect(set('invoice', 'A1', 2, 42)).toMatchObject(met('A142', 143))
		expect(set('invoice', 'A1', 2, 143)).toEqual({ ok: true })
		expect(await bill('3')).toBe('A1143')
		// Begun again each year, no longer, and again.
		expect(set('invoice', 'Y{year}-', 3, 1, 1)).toEqual({ ok: true })
		expect([await bill('4'), await bill('5', '2027-01-02')]).toEqual(['Y2026-001', 'Y2027-001'])
		expect(set('invoice', 'Y{year}-', 3, 1)).toMatchObject(met('Y2026-001', 144))
		expect(set('invoice', 'Y{year}-', 3, 2)).toMatchObject({ ok: false })
		expect(set('invoice', 'Y{year}-', 3, 144)).toEqual({ ok: true })
		expect(await bill('6')).toBe('Y2026-144')
		expect(set('invoice', 'Y{year}-', 3, 2, 1)).toMatchObject(met('Y2026-144', 145))
		expect(set('invoice', 'Y{year}-', 3, 145, 1)).toEqual({ ok: true })
		expect([await bill('7'), await bill('8', '2027-02-02')]).toEqual(['Y2026-145', 'Y2027-002'])
		expect(wrong(books)).toEqual([])
		// Registers of before this was looked at are met where they would give it.
		books.db.exec(
			`UPDATE register SET prefix = 'T-', digits = 4, yearly = 0 WHERE kind = 'invoice'; UPDATE register_count SET next = 41 WHERE year = 0`,
		)
		const run = await gatherRun(books, ['9,03/10/2026,A1,ROPE,L9,1,2.00,,STD,,'])
		expect(numberDocuments(books, desk, run, 1)).toMatchObject({
			ok: false,
			message: expect.stringMatching(
				/^T-0041 was given already.*From next number \d+ on it is free.*Nothing was numbered/,
			),
		})
	})

	test('a jump on purpose and its return leave a true record, and two kinds cannot clash', async () => {
		const books = firm()
		const shape = { ...plainRegister, kind: 'invoice', prefix: 'T-', digits: 4 } as const
		await billed(books, '1,03/10/2026,A1,ROPE,Line,1,2.00,,STD,,')
		for (const next of [50, 45, 42]) expect(saveRegister(books, desk, { ...shape, next })).toEqual({ ok: true })
		await billed(books, '2,03/10/2026,A1,ROPE,More,1,2.00,,STD,,')
		expect(wrong(books)).toEqual([])
		saveRegister(books, desk, { ...shape, next: 60 })
		await billed(books, '3,03/10/2026,A1,ROPE,Other,1,2.00,,STD,,')
		expect(books.db.prepare('SELECT first, last FROM register_skip').all()).toEqual([{ first: 43, last: 59 }])
		expect(wrong(books)).toEqual([])
		for (const prefix of ['T-', 't-', 'T-00', 'T-{year}'])
			expect(
				saveRegister(books, desk, { ...plainRegister, kind: 'statement', prefix, digits: 4, next: 1 }),
			).toMatchObject({ ok: false })
		expect(
			saveRegister(books, desk, { ...plainRegister, kind: 'statement', prefix: 'TS-', digits: 4, next: 1 }),
		).toEqual({ ok: true })
	})
})
