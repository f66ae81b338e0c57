import { type BillContent, type DocumentCharge, isZero } from './document'

/** What is charged for freight where an order names none: an amount (home currency) or a percent; both empty for nothing. */
export type FreightRule = { amount: string; percent: string }
/** An order's own freight; `freight` is '' where it names none and '0' where it says that none is charged. */
type OrderFreight = { freight: string; freight_percent: string; currency: string }
type Freight = { amount: string } | { percent: string } | null

/** Freight of an order: what it says itself, else the firm's rule, whose amount counts in the home currency alone. */
export function freightOf(order: OrderFreight, rule: FreightRule, homeCurrency: string): Freight {
	if (order.freight_percent !== '') return isZero(order.freight_percent) ? null : { percent: order.freight_percent }
	if (order.freight !== '') return isZero(order.freight) ? null : { amount: order.freight }
	if (!isZero(rule.percent)) return { percent: rule.percent }
	if (!isZero(rule.amount) && order.currency === homeCurrency) return { amount: rule.amount }
	return null
}

/** What a charge is called on screens: freight, with its order where several stand on the document. */
export const chargeName = ({ charges, orders }: Pick<BillContent, 'charges' | 'orders'>, place: number): string => {
	const charge = charges[place]
	const order = charge && freightOrder(charge, orders)
	return charge?.label || (order ? `Freight, order ${order}` : 'Freight')
}

/** The number of the order that freight is named with: where several stand on the document, and it is not charged on the whole. */
export const freightOrder = (charge: DocumentCharge, orders: BillContent['orders']): string =>
	orders.length > 1 && 'amount' in charge ? (orders[charge.order]?.number ?? '') : ''
