/** For how much a customer gets one invoice. */
export const groupings = ['order', 'purchase-order', 'all'] as const
export type Grouping = (typeof groupings)[number]

export const groupingName: Readonly<Record<Grouping, string>> = {
	order: 'One an order',
	'purchase-order': 'One a purchase order',
	all: 'One for all orders',
}

/** What tells the invoice of an order from those of a customer's others, by how they are grouped. */
export const groupKey = (grouping: Grouping, order: { number: string; purchaseOrder: string }): string =>
	grouping === 'order' ? order.number : grouping === 'purchase-order' ? order.purchaseOrder || order.number : ''
