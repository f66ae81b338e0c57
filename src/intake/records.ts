import { parseAmount } from '@/core/currency'
import { parseTerms, termsText } from '@/core/dueDate'
import type { OwnField } from '@/core/ownFields'
import { attempt } from '@/core/refusal'
import { deliveryOf, type FileKind, ownColumn } from './kinds'
import { type Reading, type RowRefusal, type RowValues, readRows } from './reading'
import type { Table } from './table'

/** Rows of a file of customers, items or tax codes, as the books take them; each is checked again by the books' own schema. */
export type IntakeRecord = { row: number; fields: Record<string, string | number | null> }
export type RecordsResult = { records: IntakeRecord[]; refused: RowRefusal[] }

export function readRecords(
	table: Table,
	reading: Reading,
	homeCurrency: string,
	own: readonly OwnField[] = [],
): RecordsResult {
	const refused: RowRefusal[] = []
	const records: IntakeRecord[] = []
	const makers: Partial<Record<FileKind, (row: RowValues, homeCurrency: string) => IntakeRecord['fields']>> = {
		customers: customerFields,
		items: itemFields,
		'tax codes': taxCodeFields,
	}
	const make = makers[reading.kind]
	if (!make) return { records, refused }
	const of = reading.kind === 'customers' ? 'customer' : 'item'
	const filled = own.filter((one) => one.of === of && reading.columns[ownColumn(one)] !== undefined)
	for (const row of readRows(table, reading, refused, own)) {
		const fields = make(row, homeCurrency)
		const values = Object.fromEntries(filled.map((one) => [one.key, row.get(ownColumn(one))]))
		records.push({
			row: row.row,
			fields: reading.kind === 'tax codes' ? fields : { ...fields, own: JSON.stringify(values) },
		})
	}
	const bad = new Set(refused.map(({ row }) => row))
	return { records: records.filter(({ row }) => !bad.has(row)), refused }
}

const groupings: Record<string, string> = {
	order: 'order',
	'one an order': 'order',
	'per order': 'order',
	all: 'all',
	'one for all': 'all',
	'purchase order': 'purchase-order',
	'per purchase order': 'purchase-order',
}
const treatments: Record<string, string> = {
	'': 'standard',
	standard: 'standard',
	exempt: 'exempt',
	'reverse charge': 'reverse-charge',
	'reverse-charge': 'reverse-charge',
}

function customerFields(row: RowValues, homeCurrency: string): IntakeRecord['fields'] {
	const terms = parseTerms(row.get('terms') || '30 days')
	if (!terms)
		row.refuse(
			'terms',
			'Write terms such as "30 days", "30 days from end of month", "15th of next month" or "on receipt".',
		)
	const tax = treatments[row.get('tax').toLowerCase()]
	if (!tax) row.refuse('tax', 'Tax treatment is standard, exempt or reverse charge.')
	const grouping = groupings[row.get('grouping').toLowerCase() || 'order']
	if (!grouping) row.refuse('grouping', 'Write "order", "all" or "purchase order".')
	const currency = row.get('currency').toUpperCase() || homeCurrency
	const limit = attempt(() => Number(parseAmount(row.get('creditLimit') || '0', currency, 'creditLimit')))
	if (!limit.ok) row.refuse('creditLimit', limit.refusal.message)
	return {
		number: row.get('number').toUpperCase(),
		name: row.get('name'),
		address: [1, 2, 3, 4, 5, 6]
			.map((line) => row.get(`address${line}`))
			.filter(Boolean)
			.join('\n'),
		country: row.get('country'),
		email: row.get('email'),
		contact: row.get('contact'),
		currency,
		locale: row.get('locale') || 'en-GB',
		terms: terms ? termsText(terms) : '',
		tax: tax ?? '',
		tax_number: row.get('taxNumber'),
		grouping: grouping ?? '',
		credit_limit: row.get('creditLimit') === '' || !limit.ok ? null : limit.value,
		hold: '',
		wants_order: /^(yes|y|1|true)$/i.test(row.get('wantsOrder')) ? 1 : 0,
		note: '',
		discount: row.get('discount') || '0',
		statement_email: row.get('statementEmail'),
		cc: row.get('cc'),
		statements: /^(no|n|0|false)$/i.test(row.get('statements')) ? 0 : 1,
		delivery: deliveryOf(row.get),
	}
}

function itemFields(row: RowValues, homeCurrency: string): IntakeRecord['fields'] {
	return {
		code: row.get('code').toUpperCase(),
		description: row.get('description'),
		unit: row.get('unit'),
		unit_price: row.get('unitPrice'),
		price_per: row.get('pricePer') || '1',
		currency: row.get('currency').toUpperCase() || homeCurrency,
		tax_code: row.get('taxCode').toUpperCase(),
	}
}

function taxCodeFields(row: RowValues): IntakeRecord['fields'] {
	return {
		code: row.get('code').toUpperCase(),
		name: row.get('name'),
		rate: row.get('rate'),
		from_day: row.get('from') || '2000-01-01',
	}
}
