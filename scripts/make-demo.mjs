// Makes the demo firm's files from a fixed seed: node scripts/make-demo.mjs. The files are committed; the same seed gives the same files.
import { readFileSync, writeFileSync } from 'node:fs'
import { csv, money, seeded } from './seeded.mjs'

const { pick, between, chance } = seeded(20261031)

// The firm's items (code, description, unit, pennies, price per, tax code, usual quantities) and customers.
const { items, customers } = JSON.parse(readFileSync(new URL('./demo-seed.json', import.meta.url), 'utf8'))

// Prices in other currencies: pounds times a list factor, whole kroner and yen.
const listPrice = (pennies, currency) =>
	currency === 'EUR'
		? Math.round(pennies * 1.18)
		: currency === 'NOK'
			? Math.round(pennies * 0.135) * 100
			: currency === 'JPY'
				? Math.round(pennies * 1.92)
				: pennies
const decimals = (currency) => (currency === 'JPY' ? 0 : 2)
const head = [
	'Order No',
	'Order date',
	'Cust. No',
	'Customer',
	'PO ref',
	'Curr',
	'Line',
	'Item',
	'Description',
	'Qty',
	'Unit',
	'Unit price',
	'Per',
	'Disc %',
	'VAT code',
	'Order disc %',
	'Freight',
	'Entered by',
]

let orderNumber = 7390
function order(customer, day, count, currency = customer.currency) {
	orderNumber += chance(0.12) ? 2 : 1
	const lines = []
	for (let line = 0; line < count; line++) {
		const [code, description, unit, pennies, per, taxCode, [low, high]] = pick(items)
		const fraction = unit === 'hour' && chance(0.4) ? pick(['.5', '.25', '.75']) : ''
		const quantity = `${Math.max(1, Math.round(between(low, high) * Math.min(1, 0.35 + customer.size * 0.2)))}${fraction}`
		lines.push({
			code,
			description,
			unit,
			price: listPrice(pennies, currency),
			per,
			taxCode: customer.tax === 'standard' ? taxCode : 'ZERO',
			quantity,
			discount: chance(0.12) ? pick(['5', '10', '12.5', '15']) : '',
		})
	}
	return {
		number: String(orderNumber),
		day,
		customer,
		currency,
		lines,
		po:
			customer.invoices === 'purchase order'
				? `${customer.number.slice(0, 2)}/${between(26, 27)}/${between(100, 999)}`
				: chance(0.3)
					? `PO-${between(1000, 9999)}`
					: '',
		by: pick(['wren', 'wren', 'tam', 'counter']),
		discount: chance(0.06) ? pick(['2.5', '5', '10']) : '',
		freight: chance(0.35) ? money(listPrice(pick([650, 1250, 1850, 3400]), currency), decimals(currency)) : '',
	}
}

const rowsOf = ({ number, day, customer, currency, lines, po, discount, freight, by }) =>
	lines.map((line, index) => [
		number,
		day.split('-').reverse().join('/'),
		customer.number,
		customer.name,
		po,
		currency,
		index + 1,
		line.code,
		line.description,
		line.quantity,
		line.unit,
		line.price === '' ? '' : money(line.price, decimals(currency)),
		line.per,
		line.discount,
		line.taxCode,
		discount,
		freight,
		by,
	])

const lineCount = () => between(2, 7)
const dayIn = (month, last) => `${month}-${String(between(1, last)).padStart(2, '0')}`
const months = Array.from({ length: 17 }, (_, index) =>
	new Date(Date.UTC(2025, 4 + index, 1)).toISOString().slice(0, 7),
)
for (const month of months) {
	const last = new Date(Date.UTC(Number(month.slice(0, 4)), Number(month.slice(5)), 0)).getUTCDate()
	const orders = []
	// A few customers buy for the first time in October; the one whose name cannot be printed was billed by hand until now.
	for (const customer of customers) {
		if (['YAMA01', 'GULL01', 'PAPA01'].includes(customer.number)) continue
		if (chance(0.62)) orders.push(order(customer, dayIn(month, last), lineCount()))
		if (chance(0.18 * customer.size)) orders.push(order(customer, dayIn(month, last), lineCount()))
	}
	orders.sort((a, b) => (a.day < b.day ? -1 : 1))
	writeFileSync(`demo/history/orders-${month}.csv`, csv([head, ...orders.flatMap(rowsOf)]))
}

const find = (number) => customers.find((customer) => customer.number === number)
const october = []
orderNumber = 8800
for (const customer of customers) {
	const count = customer.number === 'YAMA01' ? 1 : 1 + (chance(0.6) ? 1 : 0) + (customer.size > 1 ? between(1, 3) : 0)
	for (let index = 0; index < count; index++) october.push(order(customer, dayIn('2026-10', 31), between(2, 7)))
}
october.sort((a, b) => (a.day < b.day ? -1 : 1))
october.forEach((one, index) => {
	one.number = String(8801 + index + Math.floor(index / 9))
})
const next = () => String(Number(october.at(-1).number) + 1)
const add = (customer, day, count, currency) => {
	const made = { ...order(customer, day, count, currency), number: next() }
	october.push(made)
	return made
}
// Real life: the same order entered twice, a missing price, a long order, returns, a wrong currency, one far over its usual.
const twice = october.find(({ customer }) => customer.number === 'DUNM01')
october.push({ ...twice, number: next() })
// The item without a price is bought and priced in EUR, so that none can be looked up for an order in GBP.
const inEuros = ['ROPE-28', 'Polypropylene mooring line 28 mm', 'm', 460, '1', 'STD']
Object.assign(october.find(({ customer }) => customer.number === 'FENN01').lines[1], {
	code: inEuros[0],
	description: inEuros[1],
	unit: inEuros[2],
	price: '',
})
add(find('NORT01'), '2026-10-29', 40)
const withReturn = october.find(({ customer }) => customer.number === 'TARB01')
withReturn.lines.push({
	...withReturn.lines[0],
	quantity: `-${Math.max(1, Math.floor(Number(withReturn.lines[0].quantity) / 3))}`,
	description: `${withReturn.lines[0].description}, returned`,
})
const wholeReturn = add(find('LERW01'), '2026-10-30', 1)
wholeReturn.lines[0].quantity = `-${wholeReturn.lines[0].quantity}`
add(find('WICK01'), '2026-10-30', 3, 'EUR')
const school = add(find('BRAC01'), '2026-10-31', 2)
school.lines = [
	{
		code: 'BUOY-L2',
		description: 'Lateral mark buoy 1.5 m, steel, port hand',
		unit: 'each',
		price: 189000,
		per: 1,
		taxCode: 'STD',
		quantity: '2',
		discount: '15',
	},
	...school.lines,
]
// Slips of the keyboard, which the reading must refuse by row.
const slip = add(find('ASKE01'), '2026-10-31', 3)
slip.lines[1].quantity = '1O'
add({ ...find('DELT01'), number: 'DELT10' }, '2026-10-31', 2)
writeFileSync('demo/orders-2026-10.csv', csv([head, ...october.flatMap(rowsOf)]))

// The group of an item, by how its code begins.
const groups = {
	'Rope and line': ['ROPE', 'TWINE', 'LINE', 'THM'],
	'Shackles and swivels': ['SHK', 'SWV', 'RNG'],
	Chain: ['CHN'],
	'Anchors and sinkers': ['ANC', 'SNK'],
	'Buoys and marks': ['BUOY', 'MARK'],
	Lights: ['LT', 'RAD'],
	'Fenders and fittings': ['FND', 'LDR', 'BOL', 'CLT'],
	'Mussel farming': ['FLOAT', 'PEG', 'SOCK'],
	Services: ['SRV', 'INS', 'HIRE'],
	Safety: ['LJ', 'LB', 'CHT', 'ALM'],
}
const groupOf = (code) =>
	Object.entries(groups).find(([, begins]) => begins.includes(code.split('-')[0]))?.[0] ?? 'Stores'

writeFileSync(
	'demo/items.csv',
	csv([
		['Item', 'Description', 'Unit', 'Unit price', 'Per', 'Currency', 'VAT code', 'Group'],
		...[...items, inEuros].map(([code, description, unit, pennies, per, tax]) => [
			code,
			description,
			unit,
			money(pennies),
			per,
			code === inEuros[0] ? 'EUR' : 'GBP',
			tax,
			groupOf(code),
		]),
	]),
)
writeFileSync(
	'demo/tax-codes.csv',
	csv([
		['Code', 'Name', 'Rate %', 'From'],
		['STD', 'VAT', '20', '2011-01-04'],
		['RED', 'VAT reduced', '5', '1997-09-01'],
		['ZERO', 'VAT zero', '0', '1973-04-01'],
	]),
)
const addressColumns = [1, 2, 3, 4, 5, 6]
writeFileSync(
	'demo/customers.csv',
	csv([
		[
			'Cust. No',
			'Customer',
			...addressColumns.map((line) => `Address ${line}`),
			'Country',
			'Email',
			'Contact',
			'Currency',
			'Locale',
			'Terms',
			'Tax treatment',
			'Tax number',
			'Invoices',
			'Credit limit',
		],
		...customers.map((one) => [
			one.number,
			one.name,
			...addressColumns.map((line) => one.address[line - 1] ?? ''),
			one.country,
			one.email,
			one.contact,
			one.currency,
			one.locale,
			one.terms,
			one.tax,
			one.taxNumber,
			one.invoices,
			one.limit,
		]),
	]),
)
console.log(
	`${customers.length} customers, ${items.length} items, ${october.length} orders with ${october.flatMap(({ lines }) => lines).length} lines in October`,
)
