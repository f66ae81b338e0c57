import { bringing, turnedOver, withBrought } from '@/core/brought'
import type { Day } from '@/core/calendar'
import { check, type Finding } from '@/core/checks'
import { isTooMuch, parseAmount } from '@/core/currency'
import { type CustomerTextKey, customerTexts } from '@/core/customerTexts'
import { type BillContent, noLayout, spokenNow, type Unpriced } from '@/core/document'
import { dueDate, parseTerms } from '@/core/dueDate'
import { groupKey } from '@/core/grouping'
import { groundsOf, homeTax, supplyOf } from '@/core/law'
import { ownOrNone, readOwn } from '@/core/ownFields'
import type { PaperBase, PaperPart } from '@/core/paperKind'
import { type Priced, pricedText } from '@/core/price'
import { priceBill } from '@/core/priceBill'
import type { Refusal, Result } from '@/core/refusal'
import { textLines } from '@/core/textLines'
import { keyOf } from '@/kinds'
import { type Company, issuerOf } from '@/store/company'
import type { Customer } from '@/store/customers'
import type { OrderLine, OrderRow } from '@/store/orders'
import { bringsOf, termsKey } from './brings'
import type { CheckInputs } from './checkInputs'
import type { Rates } from './rates'
import { datesDecide } from './taxPoint'

/**
 * Orders that go on one document: one customer, one currency, the same discounts, one percent of freight, the same rates of tax and worth
 * of the currency, and the customer's own grouping.
 */
export function groupOrders(
	orders: OrderRow[],
	customerOf: (customerId: number) => Customer | undefined,
	{ rates, day, lines }: { rates: Rates; day: Day; lines: ReadonlyMap<number, OrderLine[]> },
): OrderRow[][] {
	const groups = new Map<string, OrderRow[]>()
	for (const order of orders) {
		const { customer_id, currency } = order
		const customer = customerOf(customer_id)
		const own = groupKey(customer?.grouping ?? 'order', { number: order.number, purchaseOrder: order.purchase_order })
		const terms = termsKey(order, { day, currency, customer: customer ?? { discount: '0' }, rates })
		const taxed = customer?.tax === 'standard' && bearsTax(order, lines.get(order.id) ?? [], rates)
		const key = JSON.stringify([customer_id, currency, terms, taxPoint(order, rates, taxed), own])
		const group = groups.get(key)
		if (group) group.push(order)
		else groups.set(key, [order])
	}
	return [...groups.values()]
}

/** What the day of an order decides of its tax: every rate, and the worth of its currency where it bears any. */
function taxPoint(
	{ day, currency }: OrderRow,
	{ rateBy, taxCodesOn, exchangeOn, home }: Rates,
	taxed: boolean,
): unknown {
	if (rateBy === 'document') return ''
	const worth = currency === home || !taxed ? '' : (exchangeOn(currency, day)?.rate ?? '')
	return [worth, taxCodesOn(day).map(({ code, rate }) => [code, rate])]
}

/** Whether a line or the freight of an order is of a code with a rate above 0 on its day. */
function bearsTax(
	{ day, freight_tax_code }: OrderRow,
	lines: OrderLine[],
	{ taxCodesOn, freightTaxCode }: Rates,
): boolean {
	const codes = [
		freightTaxCode || freight_tax_code,
		...lines.map(({ tax_code, agreed }) => (agreed ?? { tax_code }).tax_code),
	]
	return taxCodesOn(day).some(({ code, rate }) => Number(rate) !== 0 && codes.includes(code))
}

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
		layout: noLayout,
		spoken: spokenNow,
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
		discounts: [],
		charges: [],
		taxCodes: [],
		rest: null,
	}
	return priceDraft(bringing(content, bringsOf(content, orders, { day, currency, customer, rates })), rates)
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

/**
 * Computes every figure of a draft, with what the law asks of it. What cannot be computed is a stop, its figures nought; what cannot
 * stand on one document is a stop too. What is below
 * zero is a credit note, and an invoice again when it no longer is, unless it credits an invoice. A paper without figures comes to nothing.
 */
export function priceDraft(given: Unpriced, rates: Rates): Draft {
	const brought = withBrought(given)
	const own = given.paper !== undefined
	const decided = datesDecide(brought, rates)
	const content: Unpriced = {
		...brought,
		lines: withItems(given, rates),
		taxCodes: decided.taxCodes,
		supply: own ? null : supplyOf(given.orders),
	}
	const clash = given.kind === 'unpriced' ? null : decided.clash
	const turned = given.kind === 'unpriced' ? null : turnedOver(content)
	const priced: Result<Priced> =
		given.kind === 'unpriced' || turned ? { ok: true, value: nothing(content) } : pricedWithin(content)
	const figures = priced.ok ? priced.value : nothing(content)
	const none = figures.total === 0n && content.refersTo !== null
	const kind = own || none ? content.kind : figures.total < 0n ? 'credit-note' : 'invoice'
	const refused: Finding[] = [
		...(priced.ok ? [] : [notPriced(priced.refusal)]),
		...(clash ? [daysDiffer(clash)] : []),
		...(turned ? [discountTurns(turned)] : []),
	]
	const text = pricedText(figures)
	const whole: BillContent = { ...content, kind, priced: text, home: null, grounds: [] }
	return {
		content: {
			...whole,
			layout: rates.layoutFor(keyOf(whole), content.customer.number, content.locale, content.layout),
			home: own ? null : homeTax(whole, rates.home, decided.worth),
			grounds: given.kind === 'unpriced' ? [] : groundsOf(whole, rates.grounds),
		},
		net: figures.net,
		tax: figures.taxTotal,
		total: figures.total,
		refused,
	}
}

/** Why a draft has no figures, as a stop with what to do. */
const notPriced = ({ path, message }: Refusal): Finding => ({
	...{ code: 'cannot-price', level: 'stop', brief: 'cannot be priced' },
	text: `${path}: ${message} Change it, or hold the document back.`,
})

/** Orders that cannot stand on one document, as a stop; until they are parted, its tax is that of the first. */
const daysDiffer = ({ said, order }: { said: string; order: string }): Finding => ({
	...{ code: 'days-differ', level: 'stop', brief: 'days differ in tax' },
	text: `${said} Put the lines of order ${order} on an invoice of their own with Divide, or hold this one back.`,
})

/** An amount off an order that would be taken off a credit, or the other way round, as a stop; until they are parted, it has no figures. */
const discountTurns = (order: string): Finding => ({
	...{ code: 'discount-turns', level: 'stop', brief: 'discount turns', order },
	text: `What order ${order} has off would count the other way here, since it is a bill by itself and a credit with the others, or the other way round. Put its lines on an invoice of their own with Divide, or hold this one back.`,
})

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
