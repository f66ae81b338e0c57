import type { Checked, Finding } from './finding'

/** The customer pays only what bears their purchase order. */
export function purchaseOrderMissing({ content, customer }: Checked): Finding[] {
	if (!customer.wantsOrder) return []
	return content.orders
		.filter(({ purchaseOrder }) => purchaseOrder === '')
		.map(({ number }) => ({
			code: 'purchase-order',
			level: 'stop',
			order: number,
			brief: 'no purchase order',
			text: `${content.customer.name} wants a purchase order on every invoice, and order ${number} has none. Ask for it, and hold the invoice back until it is there.`,
		}))
}
