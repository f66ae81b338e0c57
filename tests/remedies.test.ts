import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, test } from 'vitest'
import { closeRun, giveRunBack } from '@/runs/bench/close'
import { panelOf } from '@/runs/bench/panel'
import { changeDraft, changeSchema } from '@/runs/drafts/change'
import { divideDraft } from '@/runs/drafts/divide'
import { mergeDrafts } from '@/runs/drafts/merge'
import { creditSchema, startCredit } from '@/runs/issue/credit'
import { holdBack, looksRight } from '@/runs/recheck/hold'
import { lookAgain } from '@/runs/recheck/lookAgain'
import type { Books } from '@/store/books'
import { saveDiscount, saveExchangeRate, saveItem, saveTaxRate } from '@/store/catalogue'
import { saveCompany } from '@/store/company'
import { saveCustomer } from '@/store/customers'
import { findingsOf } from '@/store/documents'
import { benchRows } from '@/store/places'
import { saveRegister } from '@/store/registers'
import { changeSettings } from '@/store/settings'
import { billed, gatherRun } from './runs'
import { bringOrders, company, customer, desk, firmBooks, plainRegister } from './support'

// What each finding of a check says to do is done, and it is gone: from the draft, or with it.

type Case = {
	/** Of the orders that are gathered. */
	rows?: string[]
	/** What is otherwise in the books before. */
	before?: (books: Books) => unknown
	/** Between bringing the orders in and gathering them. */
	brought?: string
	/** Gathers, or makes, the run whose draft has it; by its rows where it is not given. */
	run?: (books: Books) => Promise<number>
	/** After it was gathered. */
	after?: (books: Books, run: number, id: number) => unknown
	/** What the finding says to do; gives the run that stands for it from then on, where that is another. */
	remedy: (books: Books, run: number, id: number) => unknown
}
const plain = '1,03/10/2026,A1,,Line,10,2.10,,STD,,'
const own = (more: Parameters<typeof customer>[1]) => (books: Books) => saveCustomer(books, desk, customer('A1', more))
const change = (books: Books, id: number, more: object) => {
	const view = panelOf(books, id)
	const lines = (view?.lines ?? []).map(({ order: _, item: __, ...line }, place) => ({ ...line, line: place }))
	const { due_day: dueDay, email } = view?.document ?? { due_day: '', email: '' }
	return changeDraft(books, desk, id, changeSchema.parse({ lines, dueDay, email, reason: 'as it says', ...more }))
}
const lineOf = (books: Books, id: number, more: object) => {
	const lines = (panelOf(books, id)?.lines ?? []).map(({ order: _, item: __, ...line }, place) => ({
		...line,
		line: place,
		...more,
	}))
	return change(books, id, { lines })
}
const looked = (books: Books, _: number, id: number) => looksRight(books, desk, id, true)
const held = (books: Books, _: number, id: number) => holdBack(books, desk, id, 'as it says')
const anew = (day: string) => async (books: Books, run: number) => {
	giveRunBack(books, desk, run)
	return gatherRun(books, [], day)
}
const euro = own({ currency: 'EUR' })
const reverse = own({ tax: 'reverse-charge', tax_number: '' })
const fair = {
	label: 'Fair',
	percent: '5',
	amount: '',
	currency: 'GBP',
	from_day: '2026-01-01',
	to_day: '2026-09-30' as const,
	for_all: 0,
}
const usual = async (books: Books) => {
	for (const order of ['7', '8', '9'])
		closeRun(books, desk, await billed(books, `${order},03/10/2026,A1,,Line,10,2.10,,STD,,`))
}
const credit = (books: Books, quantity: string) => {
	const invoice =
		books.db.prepare<[], number>(`SELECT min(id) FROM document WHERE number IS NOT NULL`).pluck().get() ?? 0
	const started = startCredit(
		books,
		desk,
		invoice,
		creditSchema.parse({ lines: [{ line: 0, quantity }], freight: false, reason: 'wet' }),
	)
	if (!started.ok) throw new Error(started.message)
	return started.id ?? 0
}

const cases: Record<string, Case> = {
	'price-missing': {
		rows: ['1,03/10/2026,A1,BUOY,Buoy,1,,,STD,,'],
		remedy: (books, _, id) => lineOf(books, id, { unitPrice: '80.00' }),
	},
	'unknown-tax-code': {
		rows: ['1,03/10/2026,A1,,Line,10,2.10,,NEW,,'],
		remedy: (books) => saveTaxRate(books, desk, { code: 'NEW', name: 'New', rate: '9', from_day: '2026-01-01' }),
	},
	'on-hold': { before: own({ hold: 'in dispute' }), remedy: own({ hold: '' }) },
	'closed-month': {
		before: (books) => changeSettings(books, desk, { closedTo: '2026-10-31' }),
		remedy: anew('2026-11-01'),
	},
	'purchase-order': { before: own({ wants_order: 1 }), remedy: held },
	unprintable: {
		rows: ['1,03/10/2026,A1,,Line \ud800\udc00,10,2.10,,STD,,'],
		remedy: (books, _, id) => lineOf(books, id, { description: 'Line' }),
	},
	'credit-outdated': {
		run: async (books) => {
			await billed(books, plain)
			credit(books, '4')
			return credit(books, '6')
		},
		after: (books) => {
			const first = `SELECT min(id) FROM document WHERE credits_id IS NOT NULL`
			return lineOf(books, books.db.prepare<[], number>(first).pluck().get() ?? 0, { quantity: '-3' })
		},
		remedy: (books, run) => {
			giveRunBack(books, desk, run)
			return credit(books, '7')
		},
	},
	'firm-incomplete': {
		before: (books) => saveCompany(books, desk, { ...company, tax_number: '' }),
		remedy: (books) => saveCompany(books, desk, company),
	},
	'no-tax-number': { before: reverse, remedy: own({ tax: 'reverse-charge', tax_number: 'GB123456727' }) },
	'tax-number-form': {
		before: own({ tax: 'reverse-charge', tax_number: 'GB123456789' }),
		remedy: own({ tax: 'reverse-charge', tax_number: 'GB123456727' }),
	},
	'home-tax': {
		before: euro,
		remedy: (books) => saveExchangeRate(books, desk, { currency: 'EUR', day: '2026-10-01', rate: '0.86' }),
	},
	'already-billed': { before: (books) => billed(books, '7,03/10/2026,A1,,Line,10,2.10,,STD,,'), remedy: held },
	'entered-twice': { rows: [plain, plain.replace('1', '2')], remedy: held },
	'grouped-otherwise': {
		rows: [plain, '2,03/10/2026,A1,,Other,1,2.10,,STD,,', '3,03/10/2026,A1,,Third,1,2.10,,STD,,'],
		after: own({ grouping: 'all' }),
		remedy: (books, run, id) => {
			for (const { id: other } of benchRows(books, run))
				if (other !== id)
					expect(mergeDrafts(books, desk, id, { other, reason: 'as it says' })).toMatchObject({ ok: true })
		},
	},
	currency: { before: euro, rows: [plain], brought: `UPDATE sales_order SET currency = 'GBP'`, remedy: looked },
	'exempt-but-taxed': { before: own({ tax: 'exempt' }), remedy: own({ tax: 'standard' }) },
	'unknown-item': {
		rows: ['1,03/10/2026,A1,NOVEL,Line,10,2.10,,STD,,'],
		remedy: (books) =>
			saveItem(books, desk, {
				code: 'NOVEL',
				description: 'x',
				unit: '',
				unit_price: '2.10',
				price_per: '1',
				currency: 'GBP',
				tax_code: 'STD',
			}),
	},
	'price-far': {
		rows: ['1,03/10/2026,A1,ROPE,Line,10,9.10,,STD,,'],
		remedy: (books, _, id) => lineOf(books, id, { unitPrice: '2.10' }),
	},
	'discount-not-taken': {
		before: (books) => saveDiscount(books, desk, fair),
		brought: `UPDATE sales_order SET discount_label = 'Fair'`,
		remedy: (books, _, id) => change(books, id, { discounts: ['Fair'] }),
	},
	'not-above-zero': {
		rows: ['1,03/10/2026,A1,,Line,10,0.00,,STD,,'],
		remedy: (books, _, id) => lineOf(books, id, { unitPrice: '2.00' }),
	},
	'below-zero': {
		rows: ['1,03/10/2026,A1,,Line,-1,2.10,,STD,,', '2,03/10/2026,A1,,Other,10,2.10,,STD,,'],
		remedy: (books, run, id) => {
			const other = benchRows(books, run).find((row) => row.id !== id)?.id ?? 0
			return mergeDrafts(books, desk, other, { other: id, reason: 'as it says' })
		},
	},
	'date-in-future': {
		before: (books) => changeSettings(books, desk, { workDate: '2026-10-01' }),
		remedy: (books) => changeSettings(books, desk, { workDate: '2026-10-31' }),
	},
	'day-out-of-order': {
		run: async (books) => {
			await billed(books, { documentDay: '2026-11-30' }, '7,03/10/2026,B1,,Line,10,2.10,,STD,,')
			return gatherRun(books, [plain])
		},
		remedy: anew('2026-11-30'),
	},
	'before-supply': { run: (books) => gatherRun(books, [plain], '2026-10-01'), remedy: anew('2026-10-31') },
	'far-year': { run: (books) => gatherRun(books, [plain], '2031-10-31'), remedy: anew('2026-10-31') },
	'due-in-past': {
		before: (books) => changeSettings(books, desk, { workDate: '2026-12-31' }),
		remedy: (books, _, id) => change(books, id, { dueDay: '2027-01-31' }),
	},
	'over-limit': { before: own({ credit_limit: 100 }), remedy: own({ credit_limit: 100_000 }) },
	'first-invoice': { remedy: looked },
	'far-from-usual': { before: usual, rows: ['1,03/10/2026,A1,,Line,900,2.10,,STD,,'], remedy: looked },
	'large-total': { before: (books) => changeSettings(books, desk, { lookAbove: 100 }), remedy: looked },
	address: { before: own({ address: 'Tarn' }), remedy: own({ address: '1 Quay\nTarn' }) },
	'no-email': { before: own({ email: '' }), remedy: own({ email: 'a1@shore.example' }) },
	email: { before: own({ email: 'a1 at shore' }), remedy: own({ email: 'a1@shore.example' }) },
	'cannot-price': {
		after: (books, _, id) => change(books, id, { discounts: ['Much'] }),
		before: (books) =>
			saveDiscount(books, desk, { ...fair, label: 'Much', percent: '', amount: '900.00', to_day: '' as '2026-09-30' }),
		remedy: (books, _, id) => change(books, id, { discounts: [] }),
	},
	'discount-turns': {
		before: (books) => saveDiscount(books, desk, { ...fair, percent: '', amount: '7.00', to_day: '' as '2026-09-30' }),
		rows: ['1,03/10/2026,A1,,Line,1,50.00,,STD,,', '2,03/10/2026,A1,,Back,-1,20.00,,STD,,'],
		brought: `UPDATE sales_order SET discount_label = 'Fair' WHERE number = '1'`,
		after: (books, run) => {
			const [id = 0, other = 0] = ['1', '2'].map(
				(order) => benchRows(books, run).find((row) => row.order_numbers === order)?.id,
			)
			expect(mergeDrafts(books, desk, id, { other, reason: 'one parcel' })).toMatchObject({ ok: true })
			const lines = (panelOf(books, id)?.lines ?? []).map(({ order: _, item: __, ...line }, place) => ({
				...line,
				...{ line: place, unitPrice: place === 0 ? '10.00' : line.unitPrice },
			}))
			expect(change(books, id, { lines })).toEqual({ ok: true })
		},
		remedy: (books, _, id) => divideDraft(books, desk, id, { lines: [1], to: 'own', reason: 'as it says' }),
	},
	'days-differ': {
		before: (books) => saveTaxRate(books, desk, { code: 'STD', name: 'VAT STD', rate: '25', from_day: '2026-10-10' }),
		rows: ['1,03/10/2026,A1,,Line,10,2.10,,ZERO,,', '2,20/10/2026,A1,,Line,10,2.10,,STD,,'],
		after: (books, run, id) => {
			const other = benchRows(books, run).find((row) => row.id !== id)?.id ?? 0
			mergeDrafts(books, desk, id, { other, reason: 'one parcel' })
			return lineOf(books, id, { taxCode: 'STD' })
		},
		remedy: (books, _, id) => divideDraft(books, desk, id, { lines: [1], to: 'own', reason: 'as it says' }),
	},
}

/** Codes of findings that are looked at elsewhere, with where. */
const elsewhere: Record<string, string> = {
	'credit-before': 'of books from before credit notes were dated after their invoices: tests/brokenBooks.test.ts',
	'last-day-past': 'of papers of the firm’s own kinds: src/runs/papers',
	'record-gone': 'of papers of the firm’s own kinds: src/runs/papers',
	lock: 'of locked copies: src/runs/layouts/leaving.test.ts',
}

test('every finding that a check may have is here', () => {
	const folder = join(import.meta.dirname, '../src')
	const files = [
		...readdirSync(join(folder, 'core/checks'))
			.filter((name) => !name.endsWith('.test.ts'))
			.map((name) => join('core/checks', name)),
		'runs/drafts/draft.ts',
	]
	const codes = files.flatMap((file) =>
		[...readFileSync(join(folder, file), 'utf8').matchAll(/\bcode: '([a-z-]+)'/g)].map(([, code]) => code ?? ''),
	)
	expect([...Object.keys(cases), ...Object.keys(elsewhere)].sort()).toEqual([...new Set(codes)].sort())
})

describe('what a finding says to do makes it go', () => {
	test.each(Object.entries(cases))(
		'%s',
		async (code, { rows = [plain], before, brought, run: begin, after, remedy }) => {
			const books = firmBooks()
			saveRegister(books, desk, { ...plainRegister, kind: 'credit-note', prefix: 'C-', digits: 3, next: 1 })
			await before?.(books)
			const run = begin
				? await begin(books)
				: await (async () => {
						await bringOrders(books, ...rows)
						if (brought) books.db.exec(brought)
						return gatherRun(books, [])
					})()
			const drafts = (of: number) =>
				benchRows(books, of).filter(({ number, held_reason }) => number === null && !held_reason)
			const has = (id: number) => findingsOf(books, id).some((finding) => finding.code === code)
			const first = drafts(run).find(({ id }) => has(id)) ?? drafts(run)[0]
			await after?.(books, run, first?.id ?? 0)
			lookAgain(books, desk, run)
			const found = drafts(run).find(({ id }) => has(id))
			expect([code, found !== undefined]).toEqual([code, true])
			const done = await remedy(books, run, found?.id ?? 0)
			if (typeof done === 'object' && done !== null && 'ok' in done) expect(done).toMatchObject({ ok: true })
			const now = typeof done === 'number' ? done : run
			lookAgain(books, desk, now)
			const left = drafts(now).filter(({ id, looked_by }) => has(id) && looked_by === null)
			expect(left.map(({ order_numbers }) => order_numbers)).toEqual([])
		},
	)
})
