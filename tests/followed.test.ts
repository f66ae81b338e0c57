import { expect, test } from 'vitest'
import { lookAgain } from '@/runs/recheck/lookAgain'
import { type Books, inOneStep } from '@/store/books'
import { saveDiscount } from '@/store/catalogue'
import { readBill } from '@/store/documents'
import { record } from '@/store/events'
import { benchRows } from '@/store/places'
import { changeSettings } from '@/store/settings'
import { gatherRun } from './runs'
import { bringOrders, desk, firmBooks } from './support'

// Whatever of the firm, the customer, an item, a rate or a discount becomes otherwise while a draft is open: the draft comes out as one
// that is gathered anew would, or it is told. Over every column of those tables.

const rows = ['1,03/10/2026,A1,ROPE,Line,10,2.15,,STD,,', '2,04/10/2026,A1,ROPE,,2,,5,STD,10,6.50']

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
]

const pick: Record<string, string> = {
	company: 'id = 1',
	customer: `number = 'A1'`,
	item: `code = 'ROPE'`,
	tax_code: `code = 'STD'`,
	tax_rate: `code = 'STD'`,
	discount: `label = 'Autumn'`,
}
function books(): Books {
	const made = firmBooks()
	saveDiscount(made, desk, {
		...{ label: 'Autumn', percent: '4', amount: '', currency: '' },
		from_day: '2026-01-01',
		to_day: '',
		for_all: 1,
	})
	changeSettings(made, desk, { freight: { amount: '3.00', percent: '' } })
	return made
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
			const { changes } = of.db
				.prepare(`UPDATE ${table} SET ${column} = ? WHERE ${pick[table]} AND ${column} IS NOT ?`)
				.run(value, value)
			record(
				of,
				desk,
				table === 'customer'
					? { subject: 'customer', id: customer, act: 'changed the customer' }
					: { subject: 'item', id: 'any', act: 'changed the item' },
			)
			return changes > 0
		})
	} catch (error) {
		if (error instanceof Error && String('code' in error && error.code).startsWith('SQLITE_CONSTRAINT')) return false
		throw error
	}
}
/** What the drafts of a run say, but for the file that their orders came in. */
const saidOf = (of: Books, run: number) =>
	JSON.stringify(
		benchRows(of, run).map(({ id, email }) => ({ ...readBill(of, id)?.content, email })),
		(key, value) => (key === 'sourceFile' ? '' : value),
	)

test('what changes while a draft is open is followed as if it were gathered anew, or told', async () => {
	const columns = Object.keys(pick).flatMap((table) =>
		(books().db.pragma(`table_info(${table})`) as { name: string }[]).map(({ name }) => [table, name] as const),
	)
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
	for (const [table, column] of columns) {
		if (keys.includes(`${table}.${column}`)) continue
		const followed = await tried(open, () => {
			if (!change(open, table, column)) return null
			const told = lookAgain(open, desk, run)
			return { told, said: saidOf(open, run) }
		})
		if (!followed) continue
		const fresh = await tried(anew, async () => {
			change(anew, table, column)
			return saidOf(anew, await gatherRun(anew, []))
		})
		compared++
		if (followed.said !== fresh && followed.told.length === 0) otherwise.push(`${table}.${column}`)
	}
	expect(otherwise).toEqual([])
	expect(compared).toBeGreaterThan(30)
})
