// Makes the demo firm's two extracts of open items from its books and a fixed seed: node scripts/make-extracts.mjs data/demo.
// The accounts of Skerrow hold what was invoiced here and the sales over its counter. The files are committed.
import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import Database from 'better-sqlite3'
import { csv, money, seeded } from './seeded.mjs'

const own = seeded(20261101)
const { pick, between, chance } = own
/** Their own seed, so that the sales of one do not move those of the other. */
const often = { ...seeded(20261102), counter: 24_100 }
const db = new Database(join(process.argv[2] ?? 'data/demo', 'north-tally.db'), { readonly: true })
const [september, october] = ['2026-09-30', '2026-10-31']
const digits = (currency) => (currency === 'JPY' ? 0 : 2)
const after = (day, days) => new Date(Date.parse(day) + days * 86_400_000).toISOString().slice(0, 10)
const customers = db.prepare('SELECT id, number, currency FROM customer ORDER BY number').all()
const written = (day) => day.split('-').reverse().join('/')
const counterSale = { GBP: 100, EUR: 118, NOK: 1350, JPY: 192 }

/** How likely an invoice of a month is still open at the end of September. */
const openShare = { '2026-09': 0.95, '2026-08': 0.72, '2026-07': 0.36, '2026-06': 0.2, '2026-05': 0.1 }
const items = db
	.prepare(
		`SELECT c.number AS customer, json_extract(t.content, '$.number') AS number, d.day, d.due_day AS due, d.total AS amount, d.currency,
			coalesce(json_extract(t.content, '$.orders[0].purchaseOrder'), '') AS po
		 FROM document d JOIN customer c ON c.id = d.customer_id JOIN document_content t ON t.document_id = d.id
		 WHERE d.kind = 'invoice' AND d.number IS NOT NULL AND d.total > 0 AND d.day <= ? ORDER BY d.id`,
	)
	.all(september)
	.map((invoice) => ({ ...invoice, kind: 'Invoice', open: invoice.amount }))
const paid = []
const stillOpen = items.filter((invoice) => {
	const open = chance(openShare[invoice.day.slice(0, 7)] ?? 0.015)
	const soon = after(invoice.due, between(-9, 38))
	if (!open) paid.push({ ...invoice, day: soon < '2026-09-29' ? soon : after('2026-09-28', -between(0, 9)) })
	return open
})
paid.sort((a, b) => a.day.localeCompare(b.day) || a.number.localeCompare(b.number))
writeFileSync(
	'demo/history/payments-to-2026-09.csv',
	csv([
		['Date', 'Customer no', 'Amount', 'Curr', 'Reference'],
		...paid.map(({ day, customer, amount, currency, number }) => [
			written(day),
			customer,
			money(amount, digits(currency)),
			currency,
			`${pick(['BACS', 'FASTER PAYMENT', 'CHQ', 'TRANSFER'])} ${chance(0.5) ? 'INV ' : ''}${number}`,
		]),
	]),
)
items.splice(0, items.length, ...stillOpen)

Object.assign(own, { counter: 20_310 })
function sell(customer, day, currency = customer.currency, by = own) {
	const { between, chance } = by
	by.counter += between(1, 3)
	const amount = Math.round((between(1800, 64_000) * counterSale[currency]) / 100)
	const whole = currency === 'NOK' ? Math.round(amount / 100) * 100 : amount
	return {
		customer: customer.number,
		number: `CS-${by.counter}`,
		day,
		due: after(day, 30),
		amount: whole,
		open: whole,
		currency,
		po: chance(0.15) ? `PO-${between(1000, 9999)}` : '',
		kind: 'Invoice',
	}
}
/** Something that is not an invoice: to the customer's credit below zero. */
const other = (customer, day, kind, number, amount, currency = customer.currency) => ({
	customer: customer.number,
	number,
	day,
	due: day,
	amount,
	open: amount,
	currency,
	po: '',
	kind,
})

for (const customer of customers) {
	const sales = between(1, 3) + (chance(0.5) ? between(1, 3) : 0)
	for (let index = 0; index < sales; index++) items.push(sell(customer, after(september, -between(1, 130))))
}
// Those whose crews come to the counter every week.
const weekly = ['BURR01', 'CALD01', 'CLON01', 'DROM01', 'FENN01', 'KELD01', 'OLNA01', 'OTTE01', 'VATE01', 'WHAL01']
const weeklySales = (last, days, least, most) =>
	customers
		.filter(({ number }) => weekly.includes(number))
		.flatMap((customer) =>
			Array.from({ length: often.between(least, most) }, () =>
				sell(customer, after(last, -often.between(0, days)), customer.currency, often),
			),
		)
let credit = 3310
for (const customer of customers) {
	if (chance(0.2))
		items.push(other(customer, after(september, -between(2, 60)), 'Credit', `CRN-${++credit}`, -between(1500, 26_000)))
	if (chance(0.12))
		items.push(
			other(
				customer,
				after(september, -between(1, 40)),
				'Payment',
				`On account ${between(100, 999)}`,
				-between(5000, 80_000),
			),
		)
	if (chance(0.06))
		items.push(
			other(customer, after(september, -between(5, 70)), 'Charge', `LC-${between(400, 499)}`, between(1200, 4800)),
		)
	if (chance(0.04))
		items.push(
			other(
				customer,
				after(september, -between(5, 70)),
				'Adjustment',
				`JNL-${between(700, 799)}`,
				pick([-1, 1]) * between(90, 1900),
			),
		)
}
// A customer who buys in two currencies.
const two = customers.find(({ number }) => number === 'WICK01')
items.push(sell(two, '2026-08-19', 'EUR'), sell(two, '2026-09-22', 'EUR'))
for (const item of items)
	if (item.kind === 'Invoice' && chance(0.08))
		item.open = Math.max(1, Math.round(item.amount * pick([0.2, 0.35, 0.5, 0.6])))

const head = [
	'Customer no',
	'Document no',
	'Type',
	'Document date',
	'Due date',
	'Amount',
	'Outstanding',
	'Curr',
	'PO ref',
]
function write(path, open, stray) {
	const sorted = [...open].sort(
		(a, b) => a.customer.localeCompare(b.customer) || a.day.localeCompare(b.day) || a.number.localeCompare(b.number),
	)
	const all = [...sorted, ...stray]
	const totals = [...new Set(all.map(({ currency }) => currency))].map((currency) => {
		const sum = all.filter((item) => item.currency === currency).reduce((total, item) => total + item.open, 0)
		return ['Total', '', '', '', '', '', money(sum, digits(currency)), currency, '']
	})
	const rows = all.map((item) => [
		item.customer,
		item.number,
		item.kind,
		written(item.day),
		written(item.due),
		money(item.amount, digits(item.currency)),
		money(item.open, digits(item.currency)),
		item.currency,
		item.po,
	])
	writeFileSync(path, csv([head, ...rows, ...totals]))
	console.log(path, all.length)
}
const crews = weeklySales(september, 70, 5, 7)
write('demo/history/open-items-2026-09-30.csv', [...items, ...crews], [])

// October: what was late is paid more often than what is not due; some is paid in part; the counter sells on.
const left = items.filter((item) => !chance(item.open < 0 ? 0.4 : item.due <= october ? 0.47 : 0.2))
for (const item of left)
	if (item.kind === 'Invoice' && item.open === item.amount && chance(0.07))
		item.open = Math.max(1, Math.round(item.amount * pick([0.25, 0.5, 0.75])))
for (const customer of customers) {
	const sales = between(1, 3) + (chance(0.3) ? 1 : 0)
	for (let index = 0; index < sales; index++)
		left.push(sell(customer, `2026-10-${String(between(1, 31)).padStart(2, '0')}`))
	if (chance(0.1)) left.push(other(customer, '2026-10-23', 'Credit', `CRN-${++credit}`, -between(1500, 18_000)))
	if (chance(0.05))
		left.push(other(customer, '2026-10-29', 'Payment', `On account ${between(100, 999)}`, -between(5000, 60_000)))
}
left.push(...crews.filter(() => !often.chance(0.45)), ...weeklySales(october, 30, 1, 3))
const stranger = { number: 'HOLL09', currency: 'GBP' }
write('demo/open-items-2026-10-31.csv', left, [sell(stranger, '2026-10-14')])
