import { addresses, isMailbox } from '@/core/addresses'
import { minorDigits, minorNumber } from '@/core/currency'
import { customerTexts } from '@/core/customerTexts'
import { withDecimals } from '@/core/decimal'
import { parseTerms, termsText } from '@/core/dueDate'
import type { OwnField } from '@/core/ownFields'
import { attempt } from '@/core/refusal'
import { type FileKind, fileKindRules, ownColumn } from './kinds'
import { deliveryOf } from './kinds/shared'
import type { Decided, Reading } from './reading'
import { atOdds, type Rows, type RowsOut, type RowValues, readRows } from './rows'

/**
 * A row of a file of customers, items or tax codes: the fields that the file has, as the books take them. What it has no column for is not
 * among them, and stays as it is. Each is checked again by the books' own schema.
 */
export type IntakeRecord = { row: number; key: string; fields: Record<string, string | number | null> }
type RecordsOut = RowsOut & {
	record: (record: IntakeRecord, refuse: (field: string, remedy: string) => void) => void
}
/** What of the books the reading of records needs. */
type HomeBooks = {
	homeCurrency: string
	/** The currency of a customer that is known, by number. */
	currencyOf: (number: string) => string | undefined
}

type Made = { key: string; fields: IntakeRecord['fields'] }
const makers: Partial<Record<FileKind, (row: RowValues, books: HomeBooks) => Made>> = {
	customers: customerFields,
	items: itemFields,
	'tax codes': taxCodeFields,
}

/** Turns rows into records, one a row; each is refused by itself, and so is one whose number stood in a row before. */
export function takeRecords(
	rows: Rows,
	reading: Reading,
	decided: Decided,
	books: HomeBooks,
	own: readonly OwnField[],
	out: RecordsOut,
): void {
	const make = makers[reading.kind]
	if (!make) return
	const { owns, key } = fileKindRules[reading.kind]
	const filled = own.filter((one) => owns.includes(one.of) && reading.columns[ownColumn(one)] !== undefined)
	const first = new Map<string, number>()
	let refused = false
	const heard: RowsOut = {
		left: out.left,
		refuse: (refusal) => {
			refused = true
			out.refuse(refusal)
		},
	}
	const named = key ?? 'number'
	const each = readRows(rows, reading, decided, own, heard)
	for (;;) {
		refused = false
		const next = each.next()
		if (next.done) return
		const row = next.value
		// What could not be read was told by now, before the row was given.
		const made = make(row, books)
		if (row.get(named) === '' && row.value(named).why === '') row.refuse(named, 'Every row needs this. Give it here.')
		const before = first.get(made.key)
		if (before !== undefined && row.get(named) !== '')
			row.refuse(named, `Row ${before} holds the same. Leave one of them out.`)
		else first.set(made.key, row.row)
		const values = Object.fromEntries(filled.map((one) => [one.key, row.get(ownColumn(one))]))
		const fields = filled.length > 0 ? { ...made.fields, own: JSON.stringify(values) } : made.fields
		if (!refused) out.record({ row: row.row, key: made.key, fields }, row.refuse)
	}
}

const groupings: Record<string, string> = {
	order: 'order',
	'one an order': 'order',
	'per order': 'order',
	all: 'all',
	'one for all': 'all',
	'purchase order': 'purchase-order',
	'purchase-order': 'purchase-order',
	'per purchase order': 'purchase-order',
}
const treatments: Record<string, string> = {
	standard: 'standard',
	exempt: 'exempt',
	'reverse charge': 'reverse-charge',
	'reverse-charge': 'reverse-charge',
}
const yes = /^(yes|y|1|true|ja|j|oui|si|sí)$/i
const no = /^(no|n|0|false|nein|non|nee|nei|nej)$/i

/** Adds a field under the books' name where the file has its column. */
function fieldsIn(row: RowValues) {
	const fields: IntakeRecord['fields'] = {}
	return {
		fields,
		text: (name: string, key: string) => {
			if (row.has(key)) fields[name] = row.get(key)
		},
		/** One of a list of words; where the cell is empty it stays as it is. */
		word: (name: string, key: string, words: Record<string, string>, remedy: string) => {
			const text = row.get(key).toLowerCase()
			if (text === '') return
			const meant = words[text]
			if (meant === undefined) row.refuse(key, remedy)
			else fields[name] = meant
		},
		mail: (name: string, key: string) => {
			if (!row.has(key)) return
			const list = addresses(row.get(key))
			const wrong = list.find((one) => !isMailbox(one))
			if (wrong !== undefined)
				row.refuse(
					key,
					`“${wrong}” is no address for mail. Write it as name@firm.example, several with commas between.`,
				)
			else fields[name] = list.join(', ')
		},
	}
}

function customerFields(row: RowValues, { homeCurrency, currencyOf }: HomeBooks): Made {
	const key = row.get('number').toUpperCase()
	const { fields, text, word, mail } = fieldsIn(row)
	fields.number = key
	text('name', 'name')
	const lines = [1, 2, 3, 4, 5, 6].map((line) => `address${line}`)
	if (lines.some(row.has)) fields.address = lines.map(row.get).filter(Boolean).join('\n')
	text('country', 'country')
	for (const { key } of customerTexts) text(key, key)
	text('tax_number', 'taxNumber')
	mail('email', 'email')
	mail('statement_email', 'statementEmail')
	mail('cc', 'cc')
	if (row.get('currency') !== '') fields.currency = row.get('currency').toUpperCase()
	if (row.get('locale') !== '') fields.locale = row.get('locale')
	if (row.get('terms') !== '') {
		const terms = parseTerms(row.get('terms'))
		if (terms) fields.terms = termsText(terms)
		else
			row.refuse(
				'terms',
				'These terms are not understood. Write “30 days”, “30 days from end of month”, “15th of next month” or “on receipt”.',
			)
	}
	word('tax', 'tax', treatments, 'Tax treatment is standard, exempt or reverse charge.')
	word('grouping', 'grouping', groupings, 'Write “order”, “all” or “purchase order”.')
	if (row.get('discount') !== '') fields.discount = row.get('discount')
	if (row.has('creditLimit')) {
		const currency = String(fields.currency ?? currencyOf(key) ?? homeCurrency)
		const { text, currency: named } = row.value('creditLimit')
		if (named !== '' && named !== currency)
			row.refuse('creditLimit', `It is in ${named}, but the customer's currency is ${currency}. Make them agree.`)
		const limit = attempt(() => minorNumber(text, currency, 'creditLimit'))
		if (text === '') fields.credit_limit = null
		else if (limit.ok) fields.credit_limit = limit.value
		else row.refuse('creditLimit', limit.refusal.message)
	}
	const flag = (name: string, field: string) => {
		const given = row.get(field)
		if (given === '') return
		if (yes.test(given) || no.test(given)) fields[name] = yes.test(given) ? 1 : 0
		else row.refuse(field, 'Write yes or no.')
	}
	flag('statements', 'statements')
	flag('wants_order', 'wantsOrder')
	if ([1, 2, 3, 4, 5, 6].some((line) => row.has(`delivery${line}`))) fields.delivery = deliveryOf(row.get)
	return { key, fields }
}

function itemFields(row: RowValues, books: HomeBooks): Made {
	const key = row.get('code').toUpperCase()
	const { fields, text } = fieldsIn(row)
	fields.code = key
	text('description', 'description')
	text('unit', 'unit')
	const price = row.value('unitPrice')
	if (row.get('pricePer') !== '') fields.price_per = row.get('pricePer')
	const currency = row.get('currency').toUpperCase()
	if (currency !== '' && price.currency !== '' && price.currency !== currency)
		row.refuse('unitPrice', atOdds(price.currency, currency))
	if (currency || price.currency) fields.currency = currency || price.currency
	if (price.text !== '')
		fields.unit_price = withDecimals(price.text, minorDigits(String(fields.currency ?? books.homeCurrency)))
	if (row.get('taxCode') !== '') fields.tax_code = row.get('taxCode').toUpperCase()
	return { key, fields }
}

function taxCodeFields(row: RowValues): Made {
	const code = row.get('code').toUpperCase()
	const from = row.get('from') || '2000-01-01'
	const { fields, text } = fieldsIn(row)
	fields.code = code
	text('name', 'name')
	fields.rate = row.get('rate')
	fields.from_day = from
	return { key: `${code} ${from}`, fields }
}
