import { type Day, dayText } from '@/core/calendar'
import type { BillContent, Unpriced } from '@/core/document'
import type { Rates } from './rates'

/** What the days of a document's orders decide: the rates of its tax codes, and what its currency is worth. */
type Decided = {
	taxCodes: BillContent['taxCodes']
	worth: { rate: string; day: Day } | null
	/** Why they cannot stand on one document, and the order that could leave it; null where they can. */
	clash: { said: string; order: string } | null
}

/**
 * Rates of tax and the worth of the currency, each by the day of the order that a line or charge comes from, or by the document's where the
 * firm says so (EU VAT directive 2006/112/EC, articles 63, 91 and 93). A document has one rate of a code and one worth; orders that need
 * two clash. A credit note keeps those of its invoice.
 */
export function datesDecide(content: Unpriced, rates: Rates): Decided {
	if (content.refersTo !== null) return { taxCodes: content.taxCodes, worth: null, clash: null }
	const taxCodes = new Map<string, { one: BillContent['taxCodes'][number]; of: Point }>()
	let clash: Decided['clash'] = null
	for (const { code, of } of uses(content, rates)) {
		const one = rates.taxCodesOn(of.day).find((known) => known.code === code) ?? { code, name: '', rate: '0' }
		const before = taxCodes.get(code)
		if (!before) taxCodes.set(code, { one, of })
		else if (Number(before.one.rate) !== Number(one.rate))
			clash ??= told(`${code} is ${before.one.rate}%`, before.of, `${one.rate}%`, of)
	}
	const used = [...taxCodes.values()].map(({ one }) => one)
	const taxed = content.customer.tax === 'standard' && used.some(({ rate }) => Number(rate) !== 0)
	const { worth, clash: apart } = worthOf(content, rates, taxed)
	return { taxCodes: used, worth, clash: clash ?? apart }
}

/** An order by its number, and the day that decides its tax. */
type Point = { order: string; day: Day }

/** The day that decides the tax of each order. */
function pointsOf({ orders, day }: Unpriced, { rateBy }: Rates): Point[] {
	return orders.map((order) => ({ order: order.number, day: rateBy === 'document' ? day : order.day }))
}

/** Each use of a tax code with its order: lines first, then charges; one in percent is every order's. */
function uses(content: Unpriced, rates: Rates): { code: string; of: Point }[] {
	const points = pointsOf(content, rates)
	const at = (order: number): Point => points[order] ?? { order: '', day: content.day }
	return [
		...content.lines.map(({ taxCode, order }) => ({ code: taxCode, of: at(order) })),
		...content.charges.flatMap((charge) =>
			'percent' in charge
				? points.map((of) => ({ code: charge.taxCode, of }))
				: [{ code: charge.taxCode, of: at(charge.order) }],
		),
	]
}

/** What the currency is worth on the days of the orders; null where it is the home currency, or not known on one of them. It matters for tax alone. */
function worthOf(content: Unpriced, rates: Rates, taxed: boolean): Pick<Decided, 'worth' | 'clash'> {
	const { currency } = content
	if (currency === rates.home || content.paper !== undefined) return { worth: null, clash: null }
	const points = pointsOf(content, rates)
	const known = points.map((of) => ({ of, worth: rates.exchangeOn(currency, of.day) }))
	const [first] = known
	const missing = known.find(({ worth }) => worth === null)
	if (!first || missing) return { worth: null, clash: null }
	const other = known.find(({ worth }) => Number(worth?.rate) !== Number(first.worth?.rate))
	if (other && taxed)
		return {
			worth: null,
			clash: told(`1 ${currency} is ${first.worth?.rate} ${rates.home}`, first.of, other.worth?.rate ?? '', other.of),
		}
	return { worth: first.worth, clash: null }
}

const told = (what: string, one: Point, also: string, other: Point): NonNullable<Decided['clash']> => ({
	said: `${what} for order ${one.order} of ${dayText(one.day)}, but ${also} for order ${other.order} of ${dayText(other.day)}, and one invoice has one of it.`,
	order: other.order,
})
