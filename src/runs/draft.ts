import { check, type Finding } from '@/core/checks'
import { parseAmount } from '@/core/currency'
import { type DocumentCharge, type DocumentContent, priceInputOf } from '@/core/document'
import { documentDiscounts, type NamedDiscount } from '@/core/documentDiscounts'
import { dueDate, parseTerms } from '@/core/dueDate'
import { type Freight, type FreightRule, freightOf } from '@/core/freight'
import { type Priced, price, pricedText } from '@/core/price'
import type { Company } from '@/store/company'
import type { Customer } from '@/store/customers'
import type { OrderLine, OrderRow } from '@/store/orders'
import type { Facts } from './facts'

/** What the firm does with every order: its named discounts, and freight where an order names none. */
export type Rates = { named: NamedDiscount[]; freight: FreightRule; home: string }

/** Orders that go on one document: one customer, one currency, one document discount, one percent of freight, and the customer's own grouping. */
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
		const freight = freightOf(order, rates.freight, rates.home)
		const percent = freight && 'percent' in freight ? freight.percent : ''
		const { customer_id, currency, discount_percent, discount_label } = order
		const key = JSON.stringify([customer_id, currency, discount_percent, discount_label.toLowerCase(), percent, own])
		const group = groups.get(key)
		if (group) group.push(order)
		else groups.set(key, [order])
	}
	return [...groups.values()]
}

export type DraftParts = {
	day: string
	company: Company
	customer: Customer
	orders: OrderRow[]
	lines: Map<number, OrderLine[]>
	taxCodes: { code: string; name: string; rate: string }[]
	rates: Rates
}
export type Draft = { content: DocumentContent; net: bigint; tax: bigint; total: bigint; refused: Finding[] }

/** A document's content from its orders, with every figure computed. What cannot be computed is a stop, its figures nought. */
export function makeDraft({ day, company, customer, orders, lines, taxCodes, rates }: DraftParts): Draft {
	const terms = parseTerms(customer.terms) ?? { net: 30 }
	const due = dueDate({ date: day, terms })
	const contentLines = orders.flatMap((order, place) =>
		(lines.get(order.id) ?? []).map((line) => ({
			order: place,
			sourceRow: line.source_row,
			item: line.item_code,
			description: line.description,
			quantity: line.quantity,
			unit: line.unit,
			unitPrice: line.unit_price,
			pricePer: line.price_per,
			discountPercent: line.discount_percent,
			taxCode: line.tax_code,
			discountable: true,
			credits: null,
		})),
	)
	const charges = freightCharges(orders, rates)
	const currency = orders[0]?.currency ?? customer.currency
	const content: Omit<DocumentContent, 'priced'> = {
		kind: 'invoice',
		refersTo: null,
		layout: { name: 'plain', version: 1 },
		number: '',
		revision: 1,
		day,
		dueDay: due.ok ? due.value : day,
		terms: customer.terms,
		currency,
		locale: customer.locale || 'en-GB',
		issuer: issuerOf(company),
		customer: recipientOf(customer, company),
		orders: orders.map(({ id, number, day: orderDay, purchase_order, source_file }) => ({
			id,
			number,
			day: orderDay,
			purchaseOrder: purchase_order,
			sourceFile: source_file,
		})),
		lines: contentLines,
		discounts: documentDiscounts({
			day,
			currency,
			own: { percent: orders[0]?.discount_percent ?? '0', label: orders[0]?.discount_label ?? '' },
			standing: customer.discount,
			named: rates.named,
		}),
		charges,
		taxCodes: usedTaxCodes([...contentLines, ...charges], taxCodes),
	}
	return priceDraft(content)
}

/** The firm as its documents carry it. */
export const issuerOf = (company: Company): DocumentContent['issuer'] => ({
	name: company.name,
	address: textLines(company.address),
	taxNumber: company.tax_number,
	email: company.email,
	phone: company.phone,
	bank: textLines(company.bank),
	closingWords: company.closing_words,
	logo: company.logo_sha256,
})

/** A customer as their documents carry them; the country stands in the address when it is another. */
export const recipientOf = (customer: Customer, company: Company): DocumentContent['customer'] => ({
	number: customer.number,
	name: customer.name,
	address: [
		...textLines(customer.address),
		...(customer.country !== '' && customer.country !== company.country ? [customer.country] : []),
	],
	taxNumber: customer.tax_number,
	tax: customer.tax,
})

/** A charge for each order with an amount of freight; a percent is charged once, on the whole document. */
function freightCharges(orders: OrderRow[], { freight: rule, home }: Rates): DocumentCharge[] {
	const charged = orders.flatMap(
		(order, place): { order: OrderRow; place: number; freight: NonNullable<Freight> }[] => {
			const freight = freightOf(order, rule, home)
			return freight && (place === 0 || 'amount' in freight) ? [{ order, place, freight }] : []
		},
	)
	return charged.map(({ order, place, freight }) => ({
		label: freightLabel(orders.length > 1 && 'amount' in freight ? order.number : ''),
		order: place,
		...freight,
		taxCode: order.freight_tax_code,
	}))
}

/** What freight is called: with its order where several stand on the document. */
export const freightLabel = (orderNumber: string): string => (orderNumber ? `Freight, order ${orderNumber}` : 'Freight')

/** Computes every figure of a draft. What cannot be computed is a stop, its figures nought. */
export function priceDraft(content: Omit<DocumentContent, 'priced'>): Draft {
	const priced = price(priceInputOf(content))
	const figures = priced.ok ? priced.value : nothing(content)
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
	return {
		content: { ...content, priced: pricedText(figures) },
		net: figures.net,
		tax: figures.taxTotal,
		total: figures.total,
		refused,
	}
}

/** The tax codes that lines and charges use, with their names and rates; an unknown one without a name. */
export const usedTaxCodes = (
	parts: { taxCode: string }[],
	taxCodes: { code: string; name: string; rate: string }[],
): DocumentContent['taxCodes'] =>
	[...new Set(parts.map(({ taxCode }) => taxCode))].map(
		(code) => taxCodes.find((known) => known.code === code) ?? { code, name: '', rate: '0' },
	)

/** Findings on a draft, its own refusal first. */
export const checkDraft = (draft: Draft, facts: Facts): Finding[] => [
	...draft.refused,
	...check({ ...facts, content: draft.content, net: draft.net, total: draft.total }),
]

const textLines = (text: string): string[] =>
	text
		.split('\n')
		.map((line) => line.trim())
		.filter(Boolean)

function nothing(content: Omit<DocumentContent, 'priced'>): Priced {
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
