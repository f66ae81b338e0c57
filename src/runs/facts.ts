import type { Checked } from '@/core/checks'
import type { DocumentContent } from '@/core/document'
import { fontKit } from '@/pdf/fontKit'
import type { Books } from '@/store/books'
import { allItems } from '@/store/catalogue'
import { readCompany } from '@/store/company'
import type { Customer } from '@/store/customers'
import { billedOrders, usualNets } from '@/store/documents'
import { allBalances } from '@/store/ledger'
import type { OrderRow } from '@/store/orders'
import { readSettings } from '@/store/settings'

export type Facts = Omit<Checked, 'content' | 'net' | 'total'>

/** Reads once what the checks of a run's documents look at; then gives the facts of one document after the other. */
export function readFacts(books: Books, orders: OrderRow[], workDate: string) {
	const { lookAbove, usualTimes, usualPart, priceShare, closedTo } = readSettings(books)
	const items = new Map(allItems(books).map((item) => [item.code, item]))
	const usual = usualNets(books)
	const twins = findTwins(orders)
	const { unprintable } = fontKit()
	const homeCurrency = readCompany(books)?.currency ?? ''
	const hashes = orders.map(({ content_sha256 }) => content_sha256)
	const balances = allBalances(books)
	const billed = byContent(billedOrders(books, hashes))
	return (
		customer: Customer,
		content: DocumentContent,
		group: OrderRow[],
		alsoBilled: bigint,
		email = customer.email,
	): Facts => ({
		customer: {
			email,
			currency: customer.currency,
			creditLimit: customer.credit_limit,
			hold: customer.hold,
			wantsOrder: customer.wants_order === 1,
		},
		items,
		usualNets: usual.get(`${customer.id} ${content.currency}`) ?? [],
		alsoBilled,
		owed: BigInt(balances.get(`${customer.id} ${content.currency}`) ?? 0),
		discountsNamed: group.flatMap(({ number, discount_label }) =>
			discount_label ? [{ order: number, label: discount_label }] : [],
		),
		workDate,
		homeCurrency,
		unprintable,
		lookAbove,
		usualTimes,
		usualPart,
		priceShare,
		closedTo,
		billedBefore: group.flatMap((order) =>
			(billed.get(order.content_sha256) ?? [])
				.filter((other) => other.customer_id === order.customer_id)
				.map((other) => ({ order: order.number, otherOrder: other.order_number, number: other.number })),
		),
		twins: group.flatMap((order) => (twins.get(order.id) ?? []).map((other) => ({ order: order.number, other }))),
	})
}

/** Groups by what was ordered. */
function byContent<T extends { content_sha256: string }>(orders: T[]): Map<string, T[]> {
	const groups = new Map<string, T[]>()
	for (const order of orders) {
		const group = groups.get(order.content_sha256)
		if (group) group.push(order)
		else groups.set(order.content_sha256, [order])
	}
	return groups
}

/** For each order, the numbers of the other orders with the same customer and content. */
function findTwins(orders: OrderRow[]): Map<number, string[]> {
	const twins = new Map<number, string[]>()
	for (const group of byContent(orders).values()) {
		if (group.length < 2) continue
		for (const order of group) {
			const others = group.filter(({ id }) => id !== order.id)
			twins.set(
				order.id,
				others.map(({ number }) => number),
			)
		}
	}
	return twins
}
