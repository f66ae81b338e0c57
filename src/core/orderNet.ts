import { isZero, lineDiscounts } from './document'
import { type Discount, price } from './price'
import type { Result } from './refusal'

/** An order's own terms, as it was brought in; `discount_amount` is empty for none. */
type OrderTerms = {
	currency: string
	discount_percent: string
	discount_amount: string
	freight: string
	freight_percent: string
}
type Line = {
	quantity: string
	unit_price: string | null
	price_per: string
	discount_percent: string
	/** Empty for none. */
	discount_amount?: string
	agreed?: { quantity: string; unit_price: string | null; discount_percent: string } | null
}
/** Discounts and charges that count in place of the order's own terms. */
type OrderShares = { discounts: Discount[]; charges: Discount[] }

/**
 * Net of an order by itself, minor units, a missing price as nought; refused where it cannot be priced. It is reckoned by its own terms and
 * `named` discounts, or by the shares that it was given when it was divided. Tax plays no part, so every line may have the same code.
 */
export function orderNet(
	order: OrderTerms,
	lines: Line[],
	shares: OrderShares | null,
	named: Discount[] = [],
): Result<bigint> {
	const own = lineDiscounts({ discountPercent: order.discount_percent, discountAmount: order.discount_amount })
	const freight: Discount[] = isZero(order.freight_percent || order.freight)
		? []
		: [order.freight_percent ? { percent: order.freight_percent } : { amount: order.freight }]
	const priced = price({
		currency: order.currency,
		taxCodes: [{ code: 'ANY', rate: '0' }],
		lines: lines.map((line) => {
			const { quantity, unit_price, discount_percent } = line.agreed ?? line
			return {
				quantity,
				unitPrice: unit_price ?? '0',
				pricePer: line.price_per,
				taxCode: 'ANY',
				discounts: lineDiscounts({ discountPercent: discount_percent, discountAmount: line.discount_amount ?? '' }),
			}
		}),
		discounts: shares?.discounts ?? [...own, ...named],
		charges: (shares?.charges ?? freight).map((charge) => ({ ...charge, taxCode: 'ANY' })),
	})
	return priced.ok ? { ok: true, value: priced.value.net } : priced
}
