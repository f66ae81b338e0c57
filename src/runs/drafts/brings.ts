import { bringing, broughtBy, percentsKey, rulesOf, sameTerms, shareAmount, weightsOf } from '@/core/brought'
import type { Day } from '@/core/calendar'
import { amountText, parseAmount } from '@/core/currency'
import type { Brought, DocumentDiscount, Terms, Unpriced } from '@/core/document'
import { documentDiscounts, sameDiscount } from '@/core/documentDiscounts'
import { freightOf } from '@/core/freight'
import type { Customer } from '@/store/customers'
import { type OrderRow, sharedOf } from '@/store/orders'
import { discountWords } from './difference'
import type { Rates } from './rates'

/** What the rules look at beside an order. */
type Of = { day: Day; currency: string; customer: Pick<Customer, 'discount'>; rates: Rates }

/** What the rules say of an order by itself: its own terms, its customer's standing discount, the firm's discounts and freight. */
function ruled(order: OrderRow, { day, currency, customer, rates }: Of): Terms {
	const freight = freightOf(order, rates.freight, rates.home)
	return {
		discounts: documentDiscounts({
			day,
			currency,
			own: { percent: order.discount_percent, amount: order.discount_amount, label: order.discount_label },
			standing: customer.discount,
			named: rates.named,
		}),
		charges: freight ? [{ label: '', taxCode: rates.freightTaxCode || order.freight_tax_code, ...freight }] : [],
	}
}

/** What two orders must have alike to stand on one document that is gathered. */
export function termsKey(order: OrderRow, of: Of): string {
	const shared = sharedOf(order)
	if (shared) return `shared ${percentsKey(shared)}`
	// Money off one order is no discount of another: it is billed by itself.
	const alone = order.discount_amount === '' ? '' : order.id
	const { discounts, charges } = ruled(order, of)
	return [alone, order.discount_label.toLowerCase(), percentsKey({ discounts, charges })].join('\n')
}

/** What each order of a document that is made anew brings to it. */
export function bringsOf(content: Unpriced, orders: readonly OrderRow[], of: Of): Brought[] {
	const alone = orders.map((order) => ruled(order, of))
	const together = inShares(content, alone)
	return orders.map((order, place): Brought => {
		const shared = sharedOf(order)
		const rules = alone[place] ?? noTerms
		const now = shared ?? { ...(together[place] ?? noTerms), as: 'ruled' as const }
		const { discounts, charges, as } = now
		return { discounts, charges, as, ...(sameTerms({ discounts, charges }, rules) ? {} : { rules }) }
	})
}

/** Money off the whole document is taken once, in shares of the orders that have it; the order's own, without a name, is its own. */
function inShares(content: Unpriced, alone: readonly Terms[]): Terms[] {
	let weights: bigint[] | null = null
	return alone.map(({ discounts, charges }, place) => ({
		charges,
		discounts: discounts.map((discount): DocumentDiscount => {
			if ('percent' in discount || discount.label === '') return discount
			const holds = alone.map((terms) => terms.discounts.some((other) => sameDiscount(other, discount)))
			if (holds.filter(Boolean).length < 2) return discount
			weights ??= weightsOf(content)
			const known = weights
			const amount = parseAmount(discount.amount, content.currency, 'discount')
			const places = holds.flatMap((has, at) => (has ? [at] : []))
			const shares = shareAmount(
				amount,
				places.map((at) => known[at] ?? 0n),
			)
			return { ...discount, amount: amountText(shares[places.indexOf(place)] ?? 0n, content.currency) }
		}),
	}))
}

/**
 * A draft with what its orders bring by the rules as they are now. Where all of it is by the rules, it follows; where a person agreed it, or
 * amounts were parted or put together, it stays, and what the rules say otherwise than before is told.
 * @param orders of the draft, in their order; null where they are not of the books
 */
export function followRules(
	content: Unpriced,
	orders: readonly OrderRow[],
	of: Of,
): { content: Unpriced; told: string[] } {
	const kept = content.orders.flatMap(({ brings }) => brings ?? [])
	if (kept.length === 0 || kept.length !== orders.length) return { content, told: [] }
	const now = orders.map((order) => ruled(order, of))
	const moved = kept.map((brings, place) => !sameTerms(rulesOf(brings), now[place] ?? noTerms))
	if (!moved.includes(true)) return { content, told: [] }
	const alike = new Set(now.map(percentsKey)).size === 1
	if (alike && kept.every(({ as }) => as === 'ruled'))
		return { content: bringing(content, bringsOf(content, orders, of)), told: [] }
	const told = kept.flatMap((brings, place) =>
		moved[place]
			? [
					`order ${orders[place]?.number} keeps ${inWords(brings)}; by the rules it has ${inWords(now[place] ?? noTerms)} now`,
				]
			: [],
	)
	const brought = broughtBy(content).map((brings, place) => ({ ...brings, rules: now[place] ?? rulesOf(brings) }))
	return { content: bringing(content, brought), told }
}

const noTerms: Terms = { discounts: [], charges: [] }
const inWords = ({ discounts, charges }: Terms): string =>
	[
		...discounts.map(discountWords),
		...charges.map(
			(charge) => `freight ${'percent' in charge ? `${charge.percent}%` : charge.amount} ${charge.taxCode}`,
		),
	].join(', ') || 'no discount or freight'
