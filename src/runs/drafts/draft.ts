import type { Day } from '@/core/calendar'
import { check, type Finding } from '@/core/checks'
import { isTooMuch, parseAmount } from '@/core/currency'
import { type CustomerTextKey, customerTexts } from '@/core/customerTexts'
import { type BillContent, type DocumentCharge, type LayoutRef, noLayout, type Unpriced } from '@/core/document'
import { addUpDiscounts, documentDiscounts, type NamedDiscount } from '@/core/documentDiscounts'
import { dueDate, parseTerms } from '@/core/dueDate'
import { type FreightRule, freightLabel, freightOf } from '@/core/freight'
import { type Grounds, groundsOf, homeTax, supplyOf } from '@/core/law'
import { type OwnValues, ownOrNone, readOwn } from '@/core/ownFields'
import type { PaperBase, PaperPart } from '@/core/paperKind'
import { type Priced, pricedText } from '@/core/price'
import { priceBill } from '@/core/priceBill'
import type { Result } from '@/core/refusal'
import { textLines } from '@/core/textLines'
import { type KindName, keyOf } from '@/kinds'
import type { Books } from '@/store/books'
import { allDiscounts, allGrounds, allItems, exchangeOn, taxCodesOn } from '@/store/catalogue'
import { type Company, homeCurrency, issuerOf } from '@/store/company'
import { type Customer, customerByNumber } from '@/store/customers'
import { layoutsInForce } from '@/store/layouts'
import { type OrderLine, type OrderRow, type Shared, sharedSchema } from '@/store/orders'
import { readSettings } from '@/store/settings'
import type { CheckInputs } from './checkInputs'

/** What the firm does with every order: its named discounts, freight where an order names none, and the rates of a day. */
export type Rates = {
	named: NamedDiscount[]
	freight: FreightRule
	home: string
	/** What decides the rate of tax: the day of supply, or the document's. */
	rateBy: 'supply' | 'document'
	taxCodesOn: (day: Day) => TaxCode[]
	/** Worth of 1 of a currency in the home currency as of a day or the last one before; null for none. */
	exchangeOn: (currency: string, day: Day) => { rate: string; day: Day } | null
	/** Why there is no tax, by code and language, as the firm says it. */
	grounds: Grounds
	/** The layout of a paper by its kind and customer. */
	layoutFor: (kind: KindName, customer: string, locale: string, given: LayoutRef) => LayoutRef
	/** The firm's own fields of an item. */
	itemOwn: ReadonlyMap<string, OwnValues>
}
type TaxCode = { code: string; name: string; rate: string }

/** What drafts are made by, read once for a run. */
export function readRates(books: Books): Rates {
	const { freight, rateBy } = readSettings(books)
	const days = new Map<Day, TaxCode[]>()
	return {
		named: allDiscounts(books),
		freight,
		home: homeCurrency(books),
		rateBy,
		taxCodesOn: (day) => {
			const known = days.get(day) ?? taxCodesOn(books, day)
			days.set(day, known)
			return known
		},
		exchangeOn: (currency, day) => exchangeOn(books, currency, day),
		grounds: allGrounds(books),
		layoutFor: layoutsByNumber(books),
		itemOwn: new Map(allItems(books).flatMap(({ code, own }) => (own === '{}' ? [] : [[code, readOwn(own)]]))),
	}
}

/** Layouts in force, for customers by their number as papers carry it. */
function layoutsByNumber(books: Books): Rates['layoutFor'] {
	const inForce = layoutsInForce(books)
	const ids = new Map<string, number>()
	return (kind, number, locale, given) => {
		const id = ids.get(number) ?? customerByNumber(books, number)?.id ?? 0
		ids.set(number, id)
		return inForce(kind, { id, locale }, given)
	}
}

/** What an order was given of discounts and freight when it was divided or given back changed; null while its own terms count. */
export const sharedOf = (order: OrderRow): Shared | null =>
	order.shared === null ? null : sharedSchema.parse(JSON.parse(order.shared))

/**
 * Orders that go on one document: one customer, one currency, the same discounts, one percent of freight, the same rates of tax, and
 * the customer's own grouping.
 */
export function groupOrders(
	orders: OrderRow[],
	groupingOf: (customerId: number) => Customer['grouping'],
	rates: Rates,
): OrderRow[][] {
	const groups = new Map<string, OrderRow[]>()
	for (const order of orders) {
		const grouping = groupingOf(order.customer_id)
		const own =
			grouping === 'order' ? order.number : grouping === 'purchase-order' ? order.purchase_order || order.number : ''
		const { customer_id, currency } = order
		const taxes = rates.rateBy === 'document' ? '' : rates.taxCodesOn(order.day).map(({ code, rate }) => [code, rate])
		const key = JSON.stringify([customer_id, currency, termsKey(order, rates), taxes, own])
		const group = groups.get(key)
		if (group) group.push(order)
		else groups.set(key, [order])
	}
	return [...groups.values()]
}

/** What must be the same of two orders on one document: all that is taken on the whole of it. */
function termsKey(order: OrderRow, rates: Rates): unknown[] {
	const shared = sharedOf(order)
	if (shared) return ['shared', sharesKey(shared)]
	const freight = freightOf(order, rates.freight, rates.home)
	const percent = freight && 'percent' in freight ? freight.percent : ''
	// Money off one order is no discount of another: it is billed by itself.
	const alone = order.discount_amount === '' ? '' : order.id
	return [order.discount_percent, alone, order.discount_label.toLowerCase(), percent]
}

/** Percents and names of discounts, and percents of freight; amounts add up and may differ. */
export const sharesKey = ({ discounts, charges }: Shared | Pick<BillContent, 'discounts' | 'charges'>): string =>
	JSON.stringify([
		discounts.map((discount) => [discount.label, 'percent' in discount ? discount.percent : 'amount']),
		[...new Set(charges.flatMap((charge) => ('percent' in charge ? [charge.percent] : [])))],
	])

type DraftParts = {
	day: Day
	company: Company
	customer: Customer
	orders: OrderRow[]
	lines: Map<number, OrderLine[]>
	rates: Rates
	/** Of a kind that the firm made, in place of an invoice. */
	as?: { kind: PaperBase; paper: PaperPart }
}
export type Draft = { content: BillContent; net: bigint; tax: bigint; total: bigint; refused: Finding[] }

/** A document's content from its orders, with every figure computed. What cannot be computed is a stop, its figures nought. */
export function makeDraft({ day, company, customer, orders, lines, rates, as }: DraftParts): Draft {
	const contentLines = orders.flatMap((order, place) =>
		(lines.get(order.id) ?? []).map((line) => contentLine(line, place)),
	)
	const currency = orders[0]?.currency ?? customer.currency
	const content: Unpriced = {
		...(as ?? { kind: 'invoice' }),
		refersTo: null,
		reason: '',
		supply: null,
		home: null,
		grounds: [],
		rest: null,
		layout: noLayout,
		number: '',
		revision: 1,
		day,
		dueDay: as ? as.paper.until || day : dueBy(customer.terms, day),
		terms: customer.terms,
		currency,
		locale: customer.locale || 'en-GB',
		issuer: issuerOf(company),
		customer: recipientOf(customer, company),
		orders: orders.map((order) => ({
			id: order.id,
			number: order.number,
			day: order.day,
			purchaseOrder: order.purchase_order,
			sourceFile: order.source_file,
			...ifPresent('delivery', textLines(order.delivery)),
			...ifPresent('own', ownOrNone(readOwn(order.own))),
		})),
		lines: contentLines,
		discounts: discountsOf(orders, day, currency, customer, rates),
		charges: freightCharges(orders, rates),
		taxCodes: [],
	}
	return priceDraft(content, rates)
}

/** A line of an order as a document carries it: what was agreed for it, else as it was brought in. */
function contentLine(line: OrderLine, order: number): BillContent['lines'][number] {
	const { quantity, unit_price, discount_percent, description, tax_code } = line.agreed ?? line
	return {
		order,
		line: line.id,
		sourceRow: line.source_row,
		item: line.item_code,
		description,
		quantity,
		unit: line.unit,
		unitPrice: unit_price,
		pricePer: line.price_per,
		discountPercent: discount_percent,
		...ifPresent('discountAmount', line.discount_amount || undefined),
		taxCode: tax_code,
		discountable: true,
		credits: null,
		creditsCharge: null,
		...ifPresent('own', ownOrNone(readOwn(line.own))),
	}
}

/** A part of a content that is left out where there is nothing of it, so that what has none stays as it always was. */
const ifPresent = <Key extends string, Value>(key: Key, value: Value | undefined): { [K in Key]?: Value } =>
	value === undefined || (Array.isArray(value) && value.length === 0)
		? {}
		: ({ [key]: value } as { [K in Key]?: Value })

/** The due day by a customer's terms. */
export function dueBy(terms: string, day: Day): Day {
	const due = dueDate({ date: day, terms: parseTerms(terms) ?? { net: 30 } })
	return due.ok ? due.value : day
}

function discountsOf(
	orders: OrderRow[],
	day: Day,
	currency: string,
	customer: Customer,
	rates: Rates,
): BillContent['discounts'] {
	const shared = orders.flatMap((order) => sharedOf(order) ?? [])
	if (shared.length > 0)
		return addUpDiscounts(
			shared.map(({ discounts }) => discounts),
			currency,
		)
	return documentDiscounts({
		day,
		currency,
		own: {
			percent: orders[0]?.discount_percent ?? '0',
			amount: orders[0]?.discount_amount ?? '',
			label: orders[0]?.discount_label ?? '',
		},
		standing: customer.discount,
		named: rates.named,
	})
}

/** A customer as their documents carry them; the country stands in the address when it is another. */
export const recipientOf = (customer: Customer, company: Company): BillContent['customer'] => ({
	number: customer.number,
	name: customer.name,
	address: [
		...textLines(customer.address),
		...(customer.country !== '' && customer.country !== company.country ? [customer.country] : []),
	],
	country: customer.country,
	taxNumber: customer.tax_number,
	tax: customer.tax,
	...textsOf(customer),
	...ifPresent('email', customer.email || undefined),
	...ifPresent('delivery', textLines(customer.delivery)),
	...ifPresent('own', ownOrNone(readOwn(customer.own))),
})

/** The plain texts of a customer that are not empty. */
const textsOf = (customer: Customer): Partial<Record<CustomerTextKey, string>> =>
	Object.fromEntries(customerTexts.flatMap(({ key }) => (customer[key] === '' ? [] : [[key, customer[key]]])))

/** A charge for each order with an amount of freight; a percent is charged once, on the whole document. */
function freightCharges(orders: OrderRow[], { freight: rule, home }: Rates): DocumentCharge[] {
	const charges = orders.flatMap((order, place): DocumentCharge[] => {
		const shared = sharedOf(order)
		if (shared) return shared.charges.map((charge) => ({ ...charge, order: place }))
		const freight = freightOf(order, rule, home)
		return freight ? [{ label: '', order: place, ...freight, taxCode: order.freight_tax_code }] : []
	})
	const percents = charges.filter((charge) => 'percent' in charge)
	return charges
		.filter((charge) => !('percent' in charge) || percents.indexOf(charge) === 0)
		.map((charge) => ({
			...charge,
			label:
				charge.label && !charge.label.startsWith('Freight')
					? charge.label
					: freightLabel(orders.length > 1 && 'amount' in charge ? (orders[charge.order]?.number ?? '') : ''),
		}))
}

/**
 * Computes every figure of a draft, with what the law asks of it. What cannot be computed is a stop, its figures nought. What is below
 * zero is a credit note, and an invoice again when it no longer is, unless it credits an invoice. A paper without figures comes to nothing.
 */
export function priceDraft(given: Unpriced, rates: Rates): Draft {
	const rateDay = rates.rateBy === 'document' ? given.day : (given.orders[0]?.day ?? given.day)
	const taxCodes =
		given.refersTo === null
			? usedTaxCodes([...given.lines, ...given.charges], rates.taxCodesOn(rateDay))
			: given.taxCodes
	const own = given.paper !== undefined
	const content = { ...given, lines: withItems(given, rates), taxCodes, supply: own ? null : supplyOf(given.orders) }
	const priced: Result<Priced> =
		given.kind === 'unpriced' ? { ok: true, value: nothing(content) } : pricedWithin(content)
	const figures = priced.ok ? priced.value : nothing(content)
	const none = figures.total === 0n && content.refersTo !== null
	const kind = own || none ? content.kind : figures.total < 0n ? 'credit-note' : 'invoice'
	const refused: Finding[] = priced.ok
		? []
		: [
				{
					code: 'cannot-price',
					level: 'stop',
					brief: 'cannot be priced',
					text: `${priced.refusal.path}: ${priced.refusal.message} Change it, or hold the document back.`,
				},
			]
	const text = pricedText(figures)
	const whole: BillContent = { ...content, kind, priced: text, home: null, grounds: [] }
	return {
		content: {
			...whole,
			layout: rates.layoutFor(keyOf(whole), content.customer.number, content.locale, content.layout),
			home: own ? null : homeTax(whole, rates.home, rates.exchangeOn(content.currency, rateDay)),
			grounds: given.kind === 'unpriced' ? [] : groundsOf(whole, rates.grounds),
		},
		net: figures.net,
		tax: figures.taxTotal,
		total: figures.total,
		refused,
	}
}

/** A bill priced; one that comes to more than can be kept is refused like one that cannot be priced. */
function pricedWithin(content: Parameters<typeof priceBill>[0]): Result<Priced> {
	const priced = priceBill(content)
	if (!priced.ok || ![priced.value.subtotal, priced.value.total].some(isTooMuch)) return priced
	return { ok: false, refusal: { path: 'total', message: 'It comes to more than can be billed at once.' } }
}

/** Lines with the firm's own fields of their items as they are now; a credit note keeps those of its invoice. */
function withItems({ lines, refersTo }: Unpriced, { itemOwn }: Rates): Unpriced['lines'] {
	if (refersTo !== null || (itemOwn.size === 0 && lines.every((line) => line.itemOwn === undefined))) return lines
	return lines.map(({ itemOwn: _, ...line }) => ({ ...line, ...ifPresent('itemOwn', itemOwn.get(line.item)) }))
}

/** The tax codes that lines and charges use, with their names and rates; an unknown one without a name. */
const usedTaxCodes = (
	parts: { taxCode: string }[],
	taxCodes: { code: string; name: string; rate: string }[],
): BillContent['taxCodes'] =>
	[...new Set(parts.map(({ taxCode }) => taxCode))].map(
		(code) => taxCodes.find((known) => known.code === code) ?? { code, name: '', rate: '0' },
	)

/** Findings on a draft, its own refusal first. */
export const checkDraft = (draft: Draft, facts: CheckInputs): Finding[] => [
	...draft.refused,
	...check({ ...facts, content: draft.content, net: draft.net, total: draft.total }),
]

function nothing(content: Unpriced): Priced {
	const zero = parseAmount('0', content.currency, 'amount')
	return {
		currency: content.currency,
		lines: content.lines.map(() => ({ gross: zero, discount: zero, net: zero, documentDiscount: zero })),
		subtotal: zero,
		discounts: content.discounts.map(() => zero),
		discountTotal: zero,
		charges: content.charges.map(() => zero),
		chargeTotal: zero,
		taxes: [],
		net: zero,
		taxTotal: zero,
		total: zero,
		prepaid: zero,
		amountDue: zero,
	}
}
