import { expect, test } from 'vitest'
import { leavingSchema } from '@/layout/leaving'
import { lookAgain } from '@/runs/recheck/lookAgain'
import { type Books, inOneStep } from '@/store/books'
import { saveDiscount, saveExchangeRate, saveGround } from '@/store/catalogue'
import { saveCustomer } from '@/store/customers'
import { findingsOf, readBill } from '@/store/documents'
import { record } from '@/store/events'
import { benchRows } from '@/store/places'
import { changeSettings, readSettings, type Settings } from '@/store/settings'
import { gatherRun } from './runs'
import { bringOrders, customer, desk, emptyBooks, firmBooks } from './support'

// Whatever of the firm, the customer, an item, a rate, a worth, a discount or a setting becomes otherwise while a draft is open: the draft
// comes out as one that is gathered anew would, with what its checks find, or it is told. Over every column of those tables, and every
// setting.

const rows = [
	'1,03/10/2026,A1,ROPE,Line,10,2.15,,STD,,',
	'2,04/10/2026,A1,ROPE,,2,,5,STD,10,6.50',
	'3,05/10/2026,E1,,Buoy,3,7.15,,STD,,',
	'4,06/10/2026,A1,,Chart,1,3.00,,ZERO,,',
]

/** Values that a column may have where a word will not do. */
const others: Record<string, string> = {
	'customer.tax': 'exempt',
	'customer.terms': '14 days',
	'customer.locale': 'de-DE',
	'customer.discount': '7',
	'customer.grouping': 'all',
	'customer.own': '{}',
	'customer.credit_limit': '5',
	'customer.delivery': '7 Pier',
	'item.unit_price': '9.99',
	'item.price_per': '10',
	'item.currency': 'EUR',
	'item.own': '{}',
	'company.country': 'Norway',
	'company.language': 'de',
	'tax_rate.rate': '25',
	'tax_rate.from_day': '2026-10-04',
	'discount.percent': '9',
	'discount.from_day': '2026-12-01',
	'discount.to_day': '2026-10-02',
	'exchange_rate.day': '2026-10-20',
	'exchange_rate.rate': '0.95',
	'tax_ground.language': 'de',
}
/** Columns that say whose row it is; and what is no longer of the draft's customer where it is another. */
const keys = [
	'customer.id',
	'customer.number',
	'item.code',
	'tax_code.code',
	'tax_rate.code',
	'company.id',
	'company.currency',
	'customer.currency',
	'discount.label',
	'discount.amount',
	'discount.currency',
	'exchange_rate.currency',
	'tax_ground.code',
]

const pick: Record<string, string> = {
	company: 'id = 1',
	customer: `number = 'A1'`,
	item: `code = 'ROPE'`,
	tax_code: `code = 'STD'`,
	tax_rate: `code = 'STD'`,
	discount: `label = 'Autumn'`,
	exchange_rate: `currency = 'EUR'`,
	tax_ground: `code = 'ZERO'`,
}
function books(): Books {
	const made = firmBooks()
	saveDiscount(made, desk, {
		...{ label: 'Autumn', percent: '4', amount: '', currency: '' },
		from_day: '2026-01-01',
		to_day: '',
		for_all: 1,
	})
	saveCustomer(made, desk, customer('E1', { currency: 'EUR' }))
	saveExchangeRate(made, desk, { currency: 'EUR', day: '2026-10-01', rate: '0.85' })
	saveGround(made, desk, { code: 'ZERO', language: 'en', words: 'Books and charts are free of tax.' })
	changeSettings(made, desk, { freight: { amount: '3.00', percent: '' } })
	return made
}

const usual = readSettings(emptyBooks())
/** Every setting as it may be otherwise. */
const settings: Settings = {
	mail: { ...usual.mail, sender: 'post@otherwise.example' },
	lateTerms: { ...usual.lateTerms, rates: [{ from: '2026-01-01', percent: '8' }] },
	leaving: { invoice: leavingSchema.parse({ copies: 2 }) },
	workDate: '2026-11-02',
	freightTaxCode: 'RED',
	freight: { amount: '', percent: '4' },
	numbering: 'order-day',
	lookAbove: 1,
	usualTimes: 1,
	usualPart: 100,
	priceShare: 1,
	closedTo: '2026-11-30',
	ascending: true,
	stages: [],
	promiseDays: 3,
	extractLimits: { percent: 1, amount: 1 },
	rateBy: 'document',
	trialDays: 2,
	keepYears: { invoice: 10 },
}
/** Changes a column as an act would, with its event; false where the tables refuse the value. */
function change(of: Books, table: string, column: string): boolean {
	const customer = of.db.prepare<[], number>(`SELECT id FROM customer WHERE number = 'A1'`).pluck().get() ?? 0
	const { type } = (of.db.pragma(`table_info(${table})`) as { name: string; type: string }[]).find(
		({ name }) => name === column,
	) ?? { type: '' }
	const value = others[`${table}.${column}`] ?? (type === 'INTEGER' ? 1 : 'Otherwise Ltd')
	try {
		return inOneStep(of, () => {
			const was = of.db.prepare(`SELECT ${column} FROM ${table} WHERE ${pick[table]}`).get()
			const { changes } = of.db
				.prepare(`UPDATE ${table} SET ${column} = ? WHERE ${pick[table]} AND ${column} IS NOT ?`)
				.run(value, value)
			const now = of.db.prepare(`SELECT ${column} FROM ${table} WHERE ${pick[table]}`).get()
			const what = { before: was, after: now }
			record(
				of,
				desk,
				table === 'customer'
					? { subject: 'customer', id: customer, act: 'changed the customer', ...what }
					: { subject: 'item', id: 'any', act: 'changed the item', ...what },
			)
			return changes > 0
		})
	} catch (error) {
		if (error instanceof Error && String('code' in error && error.code).startsWith('SQLITE_CONSTRAINT')) return false
		throw error
	}
}
/** What the drafts of a run say and what was found of them, but for the file that their orders came in. */
const saidOf = (of: Books, run: number) =>
	JSON.stringify(
		// In which order they are numbered is a choice for the run.
		benchRows(of, run)
			.sort((a, b) => (a.order_numbers < b.order_numbers ? -1 : 1))
			.map(({ id, email }) => [
				{ ...readBill(of, id)?.content, email },
				findingsOf(of, id).map(({ code, text }) => [code, text]),
			]),
		(key, value) => (key === 'sourceFile' ? '' : value),
	)

test('what changes while a draft is open is followed as if it were gathered anew, or told', async () => {
	const columns = Object.keys(pick).flatMap((table) =>
		(books().db.pragma(`table_info(${table})`) as { name: string }[]).map(({ name }) => ({
			name: `${table}.${name}`,
			make: (of: Books) => change(of, table, name),
		})),
	)
	const all = Object.keys(usual).map((key) => ({
		name: `setting.${key}`,
		make: (of: Books) => {
			const value = settings[key as keyof Settings]
			expect([key, value]).not.toEqual([key, usual[key as keyof Settings]])
			changeSettings(of, desk, { [key]: value })
			return true
		},
	}))
	const otherwise: string[] = []
	let compared = 0
	const open = books()
	const run = await gatherRun(open, rows)
	const anew = books()
	await bringOrders(anew, ...rows)
	/** What comes of it, and then the books as they were. */
	const tried = async <Made>(of: Books, work: () => Made | Promise<Made>): Promise<Made> => {
		of.db.exec('SAVEPOINT tried')
		try {
			return await work()
		} finally {
			of.db.exec('ROLLBACK TO tried; RELEASE tried')
		}
	}
	for (const { name, make } of [...columns, ...all]) {
		if (keys.includes(name)) continue
		const followed = await tried(open, () => {
			if (!make(open)) return null
			const told = lookAgain(open, desk, run)
			return { told, said: saidOf(open, run) }
		})
		if (!followed) continue
		const fresh = await tried(anew, async () => {
			make(anew)
			return saidOf(anew, await gatherRun(anew, []))
		})
		compared++
		if (followed.said !== fresh && followed.told.length === 0) otherwise.push(name)
	}
	expect(otherwise).toEqual([])
	expect(compared).toBeGreaterThan(60)
})
