import { minorOf } from '@/core/lineNet'
import { orderNet } from '@/core/orderNet'
import type { Discount } from '@/core/price'
import type { Result } from '@/core/refusal'
import type { ReadLine, ReadOrder } from './readOrder'

type Terms = Pick<ReadOrder, 'currency' | 'discountPercent' | 'discountAmount' | 'freight' | 'freightPercent'> & {
	lines: Pick<ReadLine, 'quantity' | 'unitPrice' | 'pricePer' | 'discountPercent' | 'discountAmount' | 'net'>[]
}

/**
 * What an order comes to by its own terms and those discounts that it names: its lines less discounts, and freight; minor units. Refused where
 * it cannot be priced.
 */
export function netOf(order: Terms, named: Discount[]): Result<bigint> {
	const plain =
		order.discountPercent === '0' &&
		order.discountAmount === '' &&
		named.length === 0 &&
		(order.freight === '' || order.freight === '0') &&
		order.freightPercent === ''
	if (plain) return { ok: true, value: order.lines.reduce((sum, { net }) => sum + (net ?? 0n), 0n) }
	return orderNet(
		{
			currency: order.currency,
			discount_percent: order.discountPercent,
			discount_amount: order.discountAmount,
			freight: order.freight,
			freight_percent: order.freightPercent,
		},
		order.lines.map((line) => ({
			quantity: line.quantity,
			unit_price: line.unitPrice,
			price_per: line.pricePer,
			discount_percent: line.discountPercent,
			discount_amount: line.discountAmount,
		})),
		null,
		named,
	)
}

/** Whether an order comes to what its source says, with its freight or without. */
export function tiesWith(total: string, order: Terms, named: Discount[]): boolean {
	const said = minorOf(total, order.currency)
	return [order, { ...order, freight: '', freightPercent: '' }].some((one) => {
		const net = netOf(one, named)
		return net.ok && net.value === said
	})
}

/** A discount in money that is written as taken off ("5.00-") is one where the order's own total bears it out. */
export const takenOff = ({ discountAmount, total }: Pick<ReadOrder, 'discountAmount' | 'total'>): string =>
	total === '' ? discountAmount : discountAmount.replace('-', '')
