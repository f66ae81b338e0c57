import { createHash } from 'node:crypto'
import { isDay } from '@/core/calendar'
import { amountText } from '@/core/currency'
import { ownText, readOwn } from '@/core/ownFields'
import type { Refusal } from '@/core/refusal'
import { type FileKind, fieldsFor } from '@/intake/kinds'
import { type IntakeResult, type KnownBooks, readOrders } from '@/intake/orders'
import { type PaymentsResult, readPayments } from '@/intake/payments'
import { missingFields, proposeReading, type Reading, type RowRefusal, readingSchema } from '@/intake/reading'
import { type IntakeRecord, readRecords } from '@/intake/records'
import { readTable, type Table } from '@/intake/table'
import { type Books, inOneStep } from '@/store/books'
import {
	allDiscounts,
	allItems,
	allTaxRates,
	itemSchema,
	readItem,
	saveItem,
	saveTaxRate,
	taxRateSchema,
} from '@/store/catalogue'
import { homeCurrency } from '@/store/company'
import { allCustomers, customerByNumber, customerSchema, saveCustomer } from '@/store/customers'
import { type Desk, record } from '@/store/events'
import {
	addFile,
	fileContent,
	markAccepted,
	markDropped,
	readFile,
	type SourceFile,
	sameFile,
	setReading,
} from '@/store/files'
import { addOrder, knownOrders } from '@/store/orders'
import { allOwnFields } from '@/store/ownFields'
import { readSettings } from '@/store/settings'
import { acceptExtract, type ExtractReview, reviewExtract, whyNotAccepted } from './extract'
import { enterPayment } from './ledger'
import { askToLookAgain } from './mend'

export type Received = { ok: true; id: number; again: boolean } | { ok: false; refusal: Refusal }

/** Takes a file in to be looked at; nothing of it is in the books yet. The same file again leads to the one that is there. */
export function receiveFile(books: Books, desk: Desk, name: string, content: Buffer): Received {
	const sha256 = createHash('sha256').update(content).digest('hex')
	return inOneStep(books, () => {
		const same = sameFile(books, sha256)
		if (same) return { ok: true, id: same.id, again: true }
		const table = readTable(content)
		if (!table.ok) return table
		const proposed = proposeReading(table.value, undefined, allOwnFields(books))
		const reading = { ...proposed, asOf: dayInName(name) }
		const id = addFile(books, desk, { name, sha256, content, kind: reading.kind, reading: JSON.stringify(reading) })
		record(books, desk, { subject: 'file', id, act: 'brought in a file', detail: name })
		return { ok: true, id, again: false }
	})
}

/** A day in a file's name, as open-items-2026-10-31.csv has it; empty for none. */
const dayInName = (name: string): string => {
	const day = /\d{4}-\d{2}-\d{2}/.exec(name)?.[0] ?? ''
	return isDay(day) ? day : ''
}

export type Review = {
	file: SourceFile
	table: Table
	reading: Reading
	/** Required fields without a column; while there are any, nothing is read. */
	missing: string[]
	refused: RowRefusal[]
	orders: IntakeResult | null
	records: { count: number; added: number; changed: number } | null
	payments: PaymentsResult | null
	extract: ExtractReview | null
}

/** What a file would bring, read as it is set to be read. Null when there is no such file. */
export function reviewFile(books: Books, id: number): Review | null {
	const file = readFile(books, id)
	const content = fileContent(books, id)
	if (!file || !content) return null
	const table = readTable(content)
	if (!table.ok) return null
	const reading = readingSchema.parse(JSON.parse(file.reading))
	const base = {
		file,
		table: table.value,
		reading,
		missing: missingFields(reading).map(({ label }) => label),
		refused: [],
		orders: null,
		records: null,
		payments: null,
		extract: null,
	}
	if (base.missing.length > 0) return base
	if (reading.kind === 'orders') {
		const orders = readOrders(table.value, reading, knownBooks(books))
		return { ...base, orders, refused: orders.refused }
	}
	if (reading.kind === 'payments') {
		const payments = readPayments(table.value, reading, knownBooks(books))
		return { ...base, payments, refused: payments.refused }
	}
	if (reading.kind === 'open items') {
		const home = homeCurrency(books)
		const extract = reviewExtract(books, table.value, reading, knownBooks(books), home)
		return { ...base, extract, refused: extract.refused }
	}
	const { records, refused } = checkedRecords(books, table.value, reading)
	const known = knownKeys(books, reading.kind)
	const changed = records.filter(({ fields }) => known.has(recordKey(reading.kind, fields))).length
	return { ...base, refused, records: { count: records.length, added: records.length - changed, changed } }
}

/** Sets what a waiting file holds and how it is read; a column of no use to the kind is left out. */
export function changeReading(books: Books, id: number, change: Partial<Reading>): void {
	const file = readFile(books, id)
	const content = fileContent(books, id)
	if (!file || !content || file.state !== 'read') return
	const before = readingSchema.parse(JSON.parse(file.reading))
	const table = readTable(content)
	const own = allOwnFields(books)
	const base =
		change.kind && change.kind !== before.kind && table.ok ? proposeReading(table.value, change.kind, own) : before
	const reading = { ...base, ...change }
	const keys = new Set(fieldsFor(reading.kind, own).map(({ key }) => key))
	const columns = Object.fromEntries(Object.entries(change.columns ?? base.columns).filter(([key]) => keys.has(key)))
	setReading(books, id, reading.kind, JSON.stringify({ ...reading, columns }))
}

export type Accepted = { ok: true; words: string } | { ok: false; message: string }

/** Puts what the file holds into the books, in one step. A file that was accepted before adds nothing. */
export function acceptFile(books: Books, desk: Desk, id: number): Accepted {
	return inOneStep(books, (): Accepted => {
		const review = reviewFile(books, id)
		if (!review) return { ok: false, message: 'This file is no longer here.' }
		if (review.file.state === 'accepted')
			return { ok: true, words: 'This file was accepted before; nothing was added.' }
		if (review.missing.length > 0)
			return { ok: false, message: `No column is matched to ${review.missing.join(', ')}.` }
		const hindered = review.extract && whyNotAccepted(review.extract)
		if (hindered) return { ok: false, message: hindered }
		const { orders, payments, extract, reading } = review
		const words = orders
			? acceptOrders(books, id, orders)
			: payments
				? acceptPayments(books, desk, payments, reading.to)
				: extract
					? acceptExtract(books, desk, id, extract, reading.ours)
					: acceptRecords(books, desk, review)
		markAccepted(books, desk, id, words)
		record(books, desk, { subject: 'file', id, act: 'accepted the file', detail: words })
		return { ok: true, words }
	})
}

export function dropFile(books: Books, desk: Desk, id: number): void {
	inOneStep(books, () => {
		markDropped(books, id)
		record(books, desk, { subject: 'file', id, act: 'dropped the file' })
	})
}

function acceptOrders(books: Books, fileId: number, result: IntakeResult): string {
	const { freightTaxCode } = readSettings(books)
	for (const order of result.orders) {
		addOrder(books, fileId, {
			number: order.number,
			customer_id: order.customerId,
			day: order.day,
			currency: order.currency,
			purchase_order: order.purchaseOrder,
			note: order.note,
			discount_percent: order.discountPercent,
			discount_label: order.discountLabel,
			freight: order.freight,
			freight_percent: order.freightPercent,
			// Freight is taxed as the firm says, else as the goods that it carries.
			freight_tax_code: freightTaxCode || (order.lines[0]?.taxCode ?? ''),
			content_sha256: order.contentSha256,
			same_as: order.sameAs,
			net: order.net,
			delivery: order.delivery,
			own: order.own,
			lines: order.lines.map((line, index) => ({
				position: index + 1,
				source_row: line.sourceRow,
				item_code: line.item,
				description: line.description,
				quantity: line.quantity,
				unit: line.unit,
				unit_price: line.unitPrice,
				price_per: line.pricePer,
				discount_percent: line.discountPercent,
				tax_code: line.taxCode,
				own: line.own,
			})),
		})
	}
	const lines = result.orders.reduce((sum, order) => sum + order.lines.length, 0)
	const known = result.known.length > 0 ? `; ${result.known.length} were in the books already` : ''
	const refused = result.refused.length > 0 ? `; ${result.refused.length} rows were refused` : ''
	return `${result.orders.length} orders with ${lines} lines were added${known}${refused}.`
}

function acceptPayments(books: Books, desk: Desk, { payments, refused }: PaymentsResult, to: Reading['to']): string {
	for (const { customerId, amount, currency, ...payment } of payments) {
		const text = amountText(BigInt(amount), currency)
		const entered = enterPayment(books, desk, { ...payment, customer: customerId, amount: text, currency, to })
		if (!entered.ok) throw new Error(entered.message)
	}
	const rest = refused.length > 0 ? `; ${refused.length} rows were refused` : ''
	return `${payments.length} payments were entered${rest}.`
}

function acceptRecords(books: Books, desk: Desk, { table, reading }: Review): string {
	const { records, refused } = checkedRecords(books, table, reading)
	const counts = { added: 0, changed: 0, same: 0 }
	for (const { fields } of records) {
		if (reading.kind === 'customers')
			counts[saveCustomer(books, desk, customerSchema.parse(keepingOwn(books, fields)))]++
		else if (reading.kind === 'items') counts[saveItem(books, desk, itemSchema.parse(keepingItems(books, fields)))]++
		else counts[saveTaxRate(books, desk, taxRateSchema.parse(fields))]++
	}
	if (counts.added + counts.changed > 0) askToLookAgain(books, desk, `a file of ${reading.kind}`)
	const rest = refused.length > 0 ? `; ${refused.length} rows were refused` : ''
	return `${counts.added} ${reading.kind} were added, ${counts.changed} changed, ${counts.same} were the same${rest}.`
}

/**
 * A file of customers does not know who is on hold, what was noted about them, or how their papers leave, nor a file of either what stands in own fields that it
 * has no column for: that stays as it is in the books.
 */
function keepingOwn(books: Books, fields: IntakeRecord['fields']): object {
	const known = customerByNumber(books, String(fields.number))
	if (!known) return fields
	return {
		...fields,
		hold: known.hold,
		note: known.note,
		lock: known.lock,
		beside: known.beside,
		delivery: fields.delivery || known.delivery,
		own: keptWith(known.own, fields.own),
	}
}
function keepingItems(books: Books, fields: IntakeRecord['fields']): object {
	const known = readItem(books, String(fields.code))
	return known ? { ...fields, own: keptWith(known.own, fields.own) } : fields
}
const keptWith = (known: string, given: unknown): string =>
	ownText({ ...readOwn(known), ...(typeof given === 'string' ? readOwn(given) : {}) })

/** Records that the books' own schemas take; the others are refused with the schema's words. */
function checkedRecords(
	books: Books,
	table: Table,
	reading: Reading,
): { records: IntakeRecord[]; refused: RowRefusal[] } {
	const { records, refused } = readRecords(table, reading, homeCurrency(books), allOwnFields(books))
	const schema = reading.kind === 'items' ? itemSchema : reading.kind === 'tax codes' ? taxRateSchema : customerSchema
	const taxCodes = new Set(allTaxRates(books).map(({ code }) => code))
	const good = records.filter(({ row, fields }) => {
		const parsed = schema.safeParse(fields)
		const [issue] = parsed.error?.issues ?? []
		if (issue)
			refused.push({
				row,
				column: String(issue.path[0] ?? ''),
				value: String(fields[String(issue.path[0])] ?? ''),
				remedy: issue.message,
			})
		const unknown = reading.kind === 'items' && !taxCodes.has(String(fields.tax_code))
		if (unknown)
			refused.push({
				row,
				column: 'Tax code',
				value: String(fields.tax_code),
				remedy: 'No tax code has this code. Bring in the tax codes first, or add it under Items and rates.',
			})
		return !issue && !unknown
	})
	return { records: good, refused: refused.sort((a, b) => a.row - b.row) }
}

function knownBooks(books: Books): KnownBooks {
	return {
		customers: new Map(allCustomers(books).map(({ id, number, currency }) => [number.toUpperCase(), { id, currency }])),
		items: new Map(allItems(books).map((item) => [item.code.toUpperCase(), item])),
		orders: knownOrders(books),
		discounts: new Map(allDiscounts(books).map((discount) => [discount.label.toLowerCase(), discount])),
		own: allOwnFields(books),
	}
}

function recordKey(kind: FileKind, fields: IntakeRecord['fields']): string {
	return kind === 'customers'
		? String(fields.number)
		: kind === 'items'
			? String(fields.code)
			: `${fields.code} ${fields.from_day}`
}

function knownKeys(books: Books, kind: FileKind): Set<string> {
	if (kind === 'customers') return new Set(allCustomers(books).map(({ number }) => number))
	if (kind === 'items') return new Set(allItems(books).map(({ code }) => code))
	return new Set(allTaxRates(books).map(({ code, from_day }) => `${code} ${from_day}`))
}
