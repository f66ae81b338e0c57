import { ownText, readOwn } from '@/core/ownFields'
import { type IntakeRecord, takeRecords } from '@/intake/records'
import { sha256 } from '@/intake/sha256'
import { askToLookAgain } from '@/runs/customers/changeCustomer'
import { inOneStep } from '@/store/books'
import { allTaxRates, itemSchema, saveItem, saveTaxRate, taxRateSchema } from '@/store/catalogue'
import { blankCustomer, customerSchema, saveCustomer } from '@/store/customers'
import { noteRowTaken, rowsTaken } from '@/store/rowsTaken'
import { hereBefore } from '../review'
import {
	type Entered,
	type Entering,
	eachRecord,
	type KindRules,
	restWords,
	standing,
	type Taken,
	type Taking,
} from './kind'

const newItem = (home: string) => ({
	description: '',
	unit: '',
	unit_price: '',
	price_per: '1',
	currency: home,
	tax_code: '',
})

/** A record over what the books have: what the file has no column for stays, also what it does not know of (hold, note, how papers leave). */
function mergeRecord(
	known: object | undefined,
	fresh: object,
	fields: IntakeRecord['fields'],
): Record<string, unknown> {
	const before: Record<string, unknown> = { ...fresh, ...known }
	const own = ownText({
		...(typeof before.own === 'string' ? readOwn(before.own) : {}),
		...(typeof fields.own === 'string' ? readOwn(fields.own) : {}),
	})
	return { ...before, ...fields, ...(fields.own === undefined ? {} : { own }) }
}

const labels: Record<string, string> = {
	unit_price: 'price',
	price_per: 'price per',
	tax_code: 'tax code',
	tax_number: 'tax number',
	credit_limit: 'credit limit (smallest units)',
	wants_order: 'wants purchase order',
	statement_email: 'email for statements',
	cc: 'copy to',
	own: 'own fields',
	from_day: 'from',
}
const said = (value: unknown): string =>
	value === null || value === undefined || value === '' ? 'nothing' : String(value).replace(/\n/g, ', ')

/** Takes customers, items or tax codes: each with what changes, field by field. */
function takeRecordsIn({ books, fileId, known, reading, decided, rows, refuse, left, record }: Taking): Taken {
	const rates = new Map(allTaxRates(books).map((rate) => [`${rate.code} ${rate.from_day}`, rate]))
	const names = new Map(allTaxRates(books).map(({ code, name }) => [code, name]))
	const entered = rowsTaken(books, fileId)
	let taken = 0
	const kinds = {
		customers: {
			schema: customerSchema,
			fresh: blankCustomer('', known.home),
			before: (key: string) => known.customers.get(key),
		},
		items: { schema: itemSchema, fresh: newItem(known.home), before: (key: string) => known.items.get(key) },
		'tax codes': {
			schema: taxRateSchema,
			fresh: { name: '' },
			before: (key: string) => rates.get(key) ?? nameOf(names, key),
		},
	}
	const kind = kinds[reading.kind as keyof typeof kinds]
	const books_ = {
		homeCurrency: known.home,
		currencyOf: (number: string) => known.customers.get(number.toUpperCase())?.currency,
	}
	takeRecords(rows, reading, decided, books_, known.own, {
		refuse,
		left,
		record: ({ row, key, fields }, tell) => {
			const says = sha256(JSON.stringify(fields)).slice(0, 20)
			if (entered.get(row) === says) {
				taken++
				return record({
					key,
					first_row: row,
					standing: hereBefore,
					brief: '{"name":"","changes":[]}',
					body: '',
					said: says,
				})
			}
			const before = kind.before(key)
			const whole = mergeRecord(before, kind.fresh, fields)
			const parsed = kind.schema.safeParse(whole)
			const [issue] = parsed.error?.issues ?? []
			if (issue) {
				const name = String(issue.path[0] ?? '')
				const unpriced = name === 'unit_price' && whole.unit_price === ''
				return tell(fieldKey(name), unpriced ? 'A new item needs its price. Give it here.' : issue.message)
			}
			if (reading.kind === 'items' && !known.taxCodes.has(String(whole.tax_code)))
				return tell(
					'taxCode',
					whole.tax_code === ''
						? 'A new item needs its tax code. Give it here, or one for all under “where nothing stands”.'
						: 'No tax code has this code. Make it here, or bring in the tax codes first.',
				)
			const full = parsed.data as Record<string, unknown>
			const isNew = reading.kind === 'tax codes' ? !rates.has(key) : before === undefined
			const changes = isNew || !before ? [] : changesOf(before, full)
			taken++
			record({
				key,
				first_row: row,
				standing: isNew ? 'added' : changes.length > 0 ? 'changed fields' : 'same',
				brief: JSON.stringify({ name: String(full.name ?? full.description ?? ''), changes }),
				body: JSON.stringify(full),
				said: says,
			})
		},
	})
	return { rows: taken }
}

const nameOf = (names: Map<string, string>, key: string): { name: string } | undefined => {
	const name = names.get(key.slice(0, key.lastIndexOf(' ')))
	return name === undefined ? undefined : { name }
}

function changesOf(before: object, after: Record<string, unknown>): { field: string; was: string; now: string }[] {
	return Object.entries(before).flatMap(([field, was]) => {
		if (field === 'id' || after[field] === undefined || String(after[field] ?? '') === String(was ?? '')) return []
		return [{ field: labels[field] ?? field, was: said(was), now: said(after[field]) }]
	})
}

const keys: Record<string, string> = {
	unit_price: 'unitPrice',
	price_per: 'pricePer',
	tax_code: 'taxCode',
	tax_number: 'taxNumber',
	credit_limit: 'creditLimit',
	wants_order: 'wantsOrder',
	statement_email: 'statementEmail',
	from_day: 'from',
}
const fieldKey = (name: string): string => keys[name] ?? name

function enterRecords({ books, desk, file, staging, review, reading }: Entering): Entered {
	const counts = { added: 0, changed: 0, same: 0 }
	for (const { standing, first_row, body, said } of eachRecord(staging)) {
		if (standing === hereBefore) continue
		noteRowTaken(books, file.id, first_row, said)
		const fields: { own?: string } = JSON.parse(body)
		if (reading.kind === 'customers') counts[saveCustomer(books, desk, customerSchema.parse(fields))]++
		else if (reading.kind === 'items')
			counts[saveItem(books, desk, itemSchema.parse({ ...fields, own: ownText(readOwn(fields.own ?? '{}')) }))]++
		else counts[saveTaxRate(books, desk, taxRateSchema.parse(fields))]++
	}
	if (counts.added + counts.changed > 0) askToLookAgain(books, desk, `a file of ${reading.kind}`)
	const words = `${counts.added} ${reading.kind} were added, ${counts.changed} changed, ${counts.same} were the same${restWords(review)}.`
	return { words, left: { ...review, standings: {} } }
}

const rulesOf = (one: string, several: string): KindRules => ({
	take: takeRecordsIn,
	enter: (entering, end) => inOneStep(entering.books, () => end(enterRecords(entering))),
	countToAccept: (review) => standing(review, 'added', 'changed fields', 'same'),
	one,
	several,
})
export const customersRules = rulesOf('customer', 'customers')
export const itemsRules = rulesOf('item', 'items')
export const taxCodesRules = rulesOf('tax code', 'tax codes')
