import type { Brought } from '@/core/document'
import { asDocumentDiscount, isDiscountOn, sameLabel } from '@/core/documentDiscounts'
import { orderNet } from '@/core/orderNet'
import { type Books, whileUnchanged } from '@/store/books'
import { allDiscounts } from '@/store/catalogue'
import type { Figure } from '@/store/desk'
import { readBill } from '@/store/documents'
import { isDivided, linesOfOrders, type OrderRow, ordersOfMonth, sharedOf, unbilledOrders } from '@/store/orders'

/**
 * Nets of orders, minor units, by their ids; nought for one that cannot be priced. Each is reckoned from its lines by its own terms and the
 * discount that it names, or by what it brought to a draft that it was taken off or divided on.
 */
export function netsOfOrders(books: Books, orders: readonly OrderRow[]): Map<number, number> {
	const lines = linesOfOrders(
		books,
		orders.map(({ id }) => id),
	)
	const discounts = allDiscounts(books)
	return new Map(
		orders.map((order) => {
			const named = discounts.filter(
				(discount) =>
					order.discount_label !== '' &&
					sameLabel(discount.label, order.discount_label) &&
					isDiscountOn(discount, order.day, order.currency),
			)
			const own = lines.get(order.id) ?? []
			const net = orderNet(order, own, broughtOf(books, order), named.map(asDocumentDiscount))
			return [order.id, own.length > 0 && net.ok ? Number(net.value) : 0]
		}),
	)
}

/** Net of one order, minor units. */
export const netOfOrder = (books: Books, order: OrderRow): number => netsOfOrders(books, [order]).get(order.id) ?? 0

/** What the orders of a month come to, by currency, those with most orders first. */
export const broughtInOf = (books: Books, month: string): Figure[] =>
	whileUnchanged(books, `brought in ${month}`, () => {
		const orders = ordersOfMonth(books, month)
		const nets = netsOfOrders(books, orders)
		const figures = new Map<string, Figure>()
		for (const { id, currency, part_of } of orders) {
			const known = figures.get(currency) ?? { currency, count: 0, amount: 0 }
			const count = known.count + (part_of === null ? 1 : 0)
			figures.set(currency, { currency, count, amount: known.amount + (nets.get(id) ?? 0) })
		}
		return [...figures.values()].sort((a, b) => b.count - a.count)
	})

/** What is not billed yet of each customer in a currency, by "customer currency", minor units. */
export const unbilledNets = (books: Books): Map<string, number> =>
	whileUnchanged(books, 'unbilled nets', () => {
		const orders = unbilledOrders(books)
		const nets = netsOfOrders(books, orders)
		const sums = new Map<string, number>()
		for (const { id, customer_id, currency } of orders) {
			const key = `${customer_id} ${currency}`
			sums.set(key, (sums.get(key) ?? 0) + (nets.get(id) ?? 0))
		}
		return sums
	})

/** What counts in place of an order's own terms: what it brought, or its part of what the whole order brings to where it stands. */
function broughtOf(books: Books, order: OrderRow): Brought | null {
	const document = order.document_id === null || !isDivided(books, order.part_of ?? order.id) ? null : order.document_id
	const content = document === null ? null : readBill(books, document)?.content
	return content?.orders.find(({ id }) => id === order.id)?.brings ?? sharedOf(order)
}
