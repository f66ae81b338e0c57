import { parseAmount } from '@/core/currency'
import { customerTexts } from '@/core/customerTexts'
import { type BillContent, billSchema } from '@/core/document'
import { formatDay, formatMoney } from '@/core/format'
import { homeTax } from '@/core/law'
import { type FieldValues, lineTable, noFields } from '@/core/letter'
import type { OwnValues } from '@/core/ownFields'
import { pricedText } from '@/core/price'
import { priceBill } from '@/core/priceBill'
import type { DocumentKind, Entering } from './kind'

// What invoices and credit notes have in common: both price lines of orders.

const purchaseOrders = ({ orders }: BillContent): string =>
	[...new Set(orders.map(({ purchaseOrder }) => purchaseOrder).filter(Boolean))].join(', ')

function fields(content: BillContent): FieldValues {
	return {
		...noFields,
		customer: content.customer.name,
		number: content.number,
		amount: formatMoney(content.priced.amountDue, content.currency, content.locale),
		'due date': formatDay(content.dueDay, content.locale),
		firm: content.issuer.name,
		'credited invoice': content.refersTo?.number ?? '',
		items: lineTable(content),
		'your order': purchaseOrders(content),
	}
}

/** Values of own fields that are text; pictures are hashes. */
const textsIn = (own: OwnValues | undefined): string[] =>
	Object.values(own ?? {}).filter((value) => !/^[0-9a-f]{64}$/.test(value))

/** What a paper may say of its customer beside name, number and address. */
export const ownTexts = ({ email = '', delivery = [], own, ...customer }: BillContent['customer']): string[] => [
	...customerTexts.map(({ key }) => customer[key] ?? ''),
	...[email, ...delivery],
	...textsIn(own),
]

/** Every text on a bill that its customer reads. */
function texts(content: BillContent): string[] {
	const { customer, issuer } = content
	return [
		customer.name,
		customer.number,
		customer.taxNumber,
		...customer.address,
		...ownTexts(content.customer),
		...[issuer.name, ...issuer.address, issuer.country, ...issuer.bank],
		...[issuer.taxNumber, issuer.email, issuer.phone, issuer.closingWords],
		content.terms,
		content.reason,
		...content.lines.flatMap(({ item, description, unit, taxCode, own, itemOwn }) => [
			...[item, description, unit, taxCode],
			...textsIn(own),
			...textsIn(itemOwn),
		]),
		...content.orders.flatMap(({ number, purchaseOrder, delivery = [], own }) => [
			...[number, purchaseOrder, ...delivery],
			...textsIn(own),
		]),
		...content.discounts.map(({ label }) => label),
		...content.charges.map(({ label }) => label),
		...content.taxCodes.flatMap(({ code, name }) => [code, name]),
		...content.grounds.map(({ words }) => words),
	]
}

/** An issued bill in the ledger: owed by the customer, or, below zero, to them. */
function enters(content: BillContent): Entering | null {
	const total = parseAmount(content.priced.total, content.currency, 'total')
	if (total === 0n) return null
	const debit = total > 0n
	return {
		kind: debit ? 'invoice' : 'credit',
		side: debit ? 'debit' : 'credit',
		number: content.number,
		day: content.day,
		dueDay: debit ? content.dueDay : content.day,
		amount: debit ? total : -total,
		theirOrder: purchaseOrders(content),
		note: '',
		charged: [],
	}
}

function verify(content: BillContent): string {
	const priced = priceBill(content)
	if (!priced.ok) return `cannot be priced: ${priced.refusal.message}`
	if (JSON.stringify(pricedText(priced.value)) !== JSON.stringify(content.priced))
		return 'comes to other figures than were frozen'
	const { home } = content
	if (home && homeTax(content, home.currency, home)?.tax !== home.tax)
		return `has another tax in ${home.currency} than its rate gives`
	const below = priced.value.total < 0n
	if (content.kind === 'invoice' && below) return 'is an invoice below zero'
	return content.kind === 'credit-note' && !below && priced.value.total !== 0n ? 'is a credit note above zero' : ''
}

/** What both kinds share; each adds its words, letters and register. */
export const billParts: Omit<DocumentKind<BillContent>, 'kind' | 'words' | 'register' | 'letters' | 'letter'> = {
	schema: billSchema,
	fields,
	texts,
	count: ({ orders }) => orders.length,
	numbered: (content, number) => ({ ...content, number }),
	bills: true,
	enters,
	verify,
}
