import { createHash } from 'node:crypto'
import type { Day } from '@/core/calendar'
import { amountText } from '@/core/currency'
import type { OwnField } from '@/core/ownFields'
import { initials } from '@/core/wording'
import { type FormTrouble, type OrderForm, readForm } from '@/intake/orderForm'
import { type IntakeOrder, type KnownBooks, orderForBooks } from '@/intake/ordersForBooks'
import { compareWithBooks } from '@/runs/bringIn/amended'
import { type Books, inOneStep } from '@/store/books'
import { allDiscounts, allTaxRates, readItem } from '@/store/catalogue'
import { homeCurrency, readCompany } from '@/store/company'
import { type Customer, customerByNumber } from '@/store/customers'
import { type Desk, record } from '@/store/events'
import { endAcceptance, formFile, goingAcceptance, keepForm, markAccepted } from '@/store/files'
import { addOrder, nextFormNumber, ordersOfNumber } from '@/store/orderIntake'
import type { OrderLine, OrderRow } from '@/store/orders'
import { allOwnFields } from '@/store/ownFields'
import type { PaperKindRow } from '@/store/paperKinds'
import { nextRecordNumber, recordNumbered } from '@/store/paperRecords'
import { readSettings } from '@/store/settings'
import { makeDraft } from './draft'
import { readRates } from './rates'

/** What a line becomes: what was looked up for it, and its net as it stands. */
export type FormLineSeen = {
	place: number
	description: string
	unit: string
	unitPrice: string
	taxCode: string
	net: string
	lookedUp: string[]
}
/** What a form comes to, by the very arithmetic of invoices; null while its customer or all its lines are missing. */
type FormTotals = {
	currency: string
	lines: string
	discounts: { label: string; amount: string }[]
	freight: string
	net: string
	tax: string
	total: string
}
export type FormSeen = {
	number: string
	customer: { number: string; name: string; words: string } | null
	currency: string
	lines: FormLineSeen[]
	totals: FormTotals | null
	troubles: FormTrouble[]
}

/** `made` where nothing hinders it, with what tells it from another of its number, and the tax code of its freight. */
type Looked = { seen: FormSeen; made: IntakeOrder | null; apart: string; freightTax: string }

/**
 * What a form would become, with all that hinders it.
 * @param kind the kind of paper that it is written for, in place of an order
 */
export const lookAtForm = (books: Books, form: OrderForm, today: Day, kind: PaperKindRow | null = null): FormSeen =>
	lookInto(books, form, today, kind).seen

/** Looks at an order form as it stands: the order that it comes to, its totals, and what hinders it. */
export function lookInto(books: Books, form: OrderForm, today: Day, kind: PaperKindRow | null): Looked {
	const ownFields: OwnField[] = allOwnFields(books)
	const { order: read, places, troubles } = readForm(form, ownFields)
	const number = read.number || (kind ? nextRecordNumber(books, kind.id, formPrefix(kind)) : nextFormNumber(books))
	const customer = read.customer === '' ? null : customerByNumber(books, read.customer)
	const codes = new Set(allTaxRates(books).map(({ code }) => code))
	const known = knownOf(books)
	const order = { ...read, number }
	const names: Record<string, string> = { orderDiscount: 'discount', freightPercent: 'freight' }
	const tell = (field: string, words: string, line?: number) =>
		troubles.push({
			field: names[field] ?? field,
			line: line === undefined ? null : (places[line] ?? null),
			words,
			missing: false,
		})
	if (read.customer !== '' && !customer) tell('customer', 'No customer has this number. Choose one of the list.')
	// The reading of files asks for the customer in its own words; here it was said.
	const made = orderForBooks(
		order,
		customer ? known : { ...known, customer: () => ({ id: 0, currency: known.home }) },
		tell,
	)
	for (const [index, line] of (made?.lines ?? []).entries()) {
		if (line.item !== '' && !known.item(line.item))
			tell('item', 'No item has this code. Choose one of the list, or leave it empty and write what it is.', index)
		if (line.description === '') missing(troubles, 'description', places[index], 'What is it?')
		if (line.unitPrice === null && kind?.base !== 'unpriced')
			missing(troubles, 'unitPrice', places[index], 'Its item has no price in this currency. Give one.')
		if (line.taxCode === '' && kind?.base === 'unpriced') continue
		if (line.taxCode === '') missing(troubles, 'taxCode', places[index], 'Which tax?')
		else if (!codes.has(line.taxCode)) tell('taxCode', 'No tax code is called so.', index)
	}
	let apart = ''
	if (made && kind) {
		if (recordNumbered(books, kind.id, number))
			tell('number', `${kind.name} ${number} was written already. Give this one another number.`)
	} else if (made) {
		const standing = compareWithBooks(books, made, ordersOfNumber(books, number), null)
		const words = {
			new: '',
			known: `Order ${number} is in the books just so. Give this one another number.`,
			changed: `Order ${number} waits to be billed already, otherwise than this. Give this one another number.`,
			'of another': standing.is === 'of another' ? `${standing.words}. Give this one another number.` : '',
			refused: standing.is === 'refused' ? `The number is taken. Give this order another.` : '',
		}[standing.is]
		if (words !== '') tell('number', words)
		if (standing.is === 'new') apart = standing.apart
	}
	const { freightTaxCode } = readSettings(books)
	const freightTax = freightTaxCode || (made?.lines[0]?.taxCode ?? '')
	return {
		made: made && customer && troubles.length === 0 ? made : null,
		apart,
		freightTax,
		seen: {
			number,
			customer: customer && { number: customer.number, name: customer.name, words: aboutCustomer(customer) },
			currency: made?.currency ?? (customer?.currency || known.home),
			lines: (made?.lines ?? []).map((line, index) => ({
				place: places[index] ?? 0,
				description: line.description,
				unit: line.unit,
				unitPrice: line.unitPrice ?? '',
				taxCode: line.taxCode,
				net: line.net === null ? '' : amountText(line.net, made?.currency ?? known.home),
				lookedUp: line.lookedUp === '' ? [] : line.lookedUp.split(','),
			})),
			// Without a day no rate of tax is known.
			totals:
				made && customer && made.day !== '' && kind?.base !== 'unpriced'
					? totalsOf(books, made, customer, freightTax, today)
					: null,
			troubles,
		},
	}
}

const missing = (troubles: FormTrouble[], field: string, line: number | undefined, words: string) =>
	troubles.push({ field, line: line ?? null, words, missing: true })

const aboutCustomer = ({ address, terms, hold }: Customer): string =>
	[address.split('\n')[0] ?? '', terms, hold === '' ? '' : `on hold: ${hold}`].filter(Boolean).join(' · ')

type Known = KnownBooks & { home: string }
/** What of the books one order is read against, each asked for by itself. */
function knownOf(books: Books): Known {
	const discounts = new Map(allDiscounts(books).map((discount) => [discount.label.toLowerCase(), discount]))
	return {
		home: homeCurrency(books),
		customer: (number) => customerByNumber(books, number) ?? undefined,
		item: (code) => readItem(books, code) ?? undefined,
		discount: (label) => discounts.get(label.toLowerCase()),
	}
}

/** The figures of an invoice for the order alone, as of the work date. */
function totalsOf(
	books: Books,
	made: IntakeOrder,
	customer: Customer,
	freightTax: string,
	today: Day,
): FormTotals | null {
	const company = readCompany(books)
	if (!company) return null
	const { content, net, tax, total } = makeDraft({
		day: today,
		company,
		customer,
		orders: [rowOf(made, customer, freightTax)],
		lines: new Map([[0, made.lines.map(lineOf)]]),
		rates: readRates(books),
	})
	const { currency } = made
	const { priced } = content
	return {
		currency,
		lines: priced.subtotal,
		discounts: content.discounts.map(({ label, ...rest }, place) => ({
			label: label || ('percent' in rest ? `Discount ${rest.percent}%` : 'Discount'),
			amount: priced.discounts[place] ?? '',
		})),
		freight: priced.chargeTotal,
		net: amountText(net, currency),
		tax: amountText(tax, currency),
		total: amountText(total, currency),
	}
}

/** What stands before the numbers of what is written for a kind, where none is typed. */
const formPrefix = ({ name }: PaperKindRow): string => `${initials(name)}R-`

/** An order of the form as a row of the books, for its totals. */
export const rowOf = (made: IntakeOrder, customer: Customer, freightTax: string): OrderRow => ({
	id: 0,
	number: made.number,
	customer_id: customer.id,
	day: made.day,
	currency: made.currency,
	purchase_order: made.purchaseOrder,
	note: made.note,
	discount_percent: made.discountPercent,
	discount_amount: made.discountAmount,
	discount_label: made.discountLabel,
	freight: made.freight || '0',
	freight_percent: made.freightPercent,
	freight_tax_code: freightTax,
	delivery: made.delivery,
	own: made.own,
	apart: '',
	looked_up: made.lookedUp,
	acceptance_id: 0,
	held_reason: null,
	held_by: null,
	away_how: null,
	away_reason: null,
	part_of: null,
	shared: null,
	content_sha256: '',
	same_as: made.sameAs,
	line_count: made.lines.length,
	source_file_id: 0,
	source_file: '',
	run_id: null,
	document_id: null,
	billed: 0,
	customer: customer.name,
	customer_number: customer.number,
})

/** A line of the form as a row of the books. */
export const lineOf = (line: IntakeOrder['lines'][number], place: number): OrderLine => ({
	id: place + 1,
	position: place + 1,
	source_row: line.sourceRow,
	item_code: line.item,
	description: line.description,
	quantity: line.quantity,
	unit: line.unit,
	unit_price: line.unitPrice,
	price_per: line.pricePer,
	discount_percent: line.discountPercent,
	discount_amount: line.discountAmount,
	tax_code: line.taxCode,
	own: line.own,
	looked_up: line.lookedUp,
	agreed: null,
})

/** Keeps what was typed as a file of its own, with its hash. @returns its id */
export function keepTyped(books: Books, desk: Desk, name: string, key: string, typed: object): number {
	const content = Buffer.from(JSON.stringify({ ...typed, written: desk.now(), by: desk.clerk }, null, '\t'))
	return keepForm(books, desk, { name, key, content, sha256: createHash('sha256').update(content).digest('hex') })
}

export type Written =
	| { ok: true; id: number; number: string; words: string }
	| { ok: false; message: string; seen: FormSeen | null }

/**
 * Puts a form's order into the books: it waits to be billed like any that a file brought. What was typed is kept as a file of its own, with
 * its hash. Sent twice, it is one order.
 */
export function writeOrder(books: Books, desk: Desk, form: OrderForm, today: Day): Written {
	return inOneStep(books, (): Written => {
		const before = formFile(books, form.key)
		if (before) return { ok: true, ...before, words: `Order ${before.number} was saved already.` }
		const { seen, made, apart, freightTax } = lookInto(books, form, today, null)
		if (!made)
			return {
				ok: false,
				message: `${seen.troubles.length === 1 ? 'One thing is' : `${seen.troubles.length} things are`} to be mended.`,
				seen,
			}
		const file = keepTyped(books, desk, `Order ${made.number}`, form.key, { ...form, number: made.number })
		const acceptance = goingAcceptance(books, desk, file)
		const id = addOrder(books, made, {
			file,
			acceptance: acceptance.id,
			apart,
			freightTaxCode: freightTax,
		})
		endAcceptance(books, acceptance.id, 'done', 'written in the order form')
		markAccepted(books, desk, file, `order ${made.number}, written in the order form`)
		record(books, desk, { subject: 'order', id, act: 'wrote the order in the order form' })
		const total = seen.totals ? `, ${seen.totals.currency} ${seen.totals.net} net` : ''
		return {
			ok: true,
			id,
			number: made.number,
			words: `Order ${made.number} for ${seen.customer?.name}${total}, waits to be billed.`,
		}
	})
}
