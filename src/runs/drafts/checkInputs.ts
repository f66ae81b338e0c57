import type { Checked } from '@/core/checks'
import { checkSettingsOf } from '@/core/checks/settings'
import type { BillContent } from '@/core/document'
import type { Grouping } from '@/core/grouping'
import { isOwnKind } from '@/core/paperKind'
import { type KindName, keyOf, textsOf } from '@/kinds'
import { unprintable } from '@/pdf/fontKit'
import { lockFault } from '@/runs/files/lock'
import type { Books } from '@/store/books'
import { allItems } from '@/store/catalogue'
import { readCompany } from '@/store/company'
import { type Customer, regroupedSince } from '@/store/customers'
import { heldDrafts } from '@/store/drafts'
import { billedOrders, latestDay, usualNets } from '@/store/issued'
import { allBalances } from '@/store/ledger'
import { type OrderRow, ordersDrafted, ordersInOtherRuns } from '@/store/orders'
import { type PaperKindRow, paperKindOf } from '@/store/paperKinds'
import { readRecord, recordOfPaper, whyGone } from '@/store/paperRecords'
import { allRegisters } from '@/store/registers'
import { readSettings } from '@/store/settings'
import { restChanged } from './creditRest'

export type CheckInputs = Omit<Checked, 'content' | 'net' | 'total'>

/** Gives the facts of one document after the other. */
export type CheckInputsOf = (
	customer: Customer,
	content: BillContent,
	alsoBilled: bigint,
	email: string,
	document: { id: number; credits_id: number | null },
) => CheckInputs

/** Reads once what the checks of a run's documents look at. */
export function readCheckInputs(books: Books, orders: OrderRow[], workDate: string, runId: number): CheckInputsOf {
	const settings = checkSettingsOf(readSettings(books))
	const items = new Map(allItems(books).map((item) => [item.code, item]))
	const usual = once((customerAndCurrency: string) => {
		const [customer = '', currency = ''] = customerAndCurrency.split(' ')
		return usualNets(books, Number(customer), currency)
	})
	const held = heldDrafts(books, runId)
	// An order that is held back is billed by nobody now: it makes no twin.
	const twins = findTwins(orders.filter(({ document_id }) => document_id === null || !held.has(document_id)))
	const elsewhere = byContent(ordersInOtherRuns(books, runId))
	const byId = new Map(orders.map((order) => [order.id, order]))
	const company = readCompany(books)
	const hashes = orders.map(({ same_as }) => same_as)
	const balances = allBalances(books)
	const billed = byContent(billedOrders(books, hashes))
	const registers = new Set(allRegisters(books).map(({ kind }) => kind))
	const latest = once((kind: KindName) => latestDay(books, kind))
	const regrouped = regroupedSince(books, runId)
	const kindOfKey = once((key: KindName): PaperKindRow | null => (isOwnKind(key) ? paperKindOf(books, key) : null))
	return (customer, content, alsoBilled, email, document) => {
		const group = content.orders.flatMap(({ id }) => byId.get(id) ?? [])
		const own = kindOfKey(keyOf(content))
		// Nothing is billed by a paper of the firm's own kind: what hinders billing does not hinder it.
		const credits = document.credits_id !== null || own !== null
		return {
			customer: {
				email,
				currency: customer.currency,
				creditLimit: credits ? null : customer.credit_limit,
				hold: credits ? '' : customer.hold,
				wantsOrder: !credits && customer.wants_order === 1,
				taxNumber: customer.tax_number,
				lockFault: email === '' ? '' : lockFault(books, customer, content),
			},
			firm: {
				name: company?.name ?? '',
				address: company?.address ?? '',
				country: company?.country ?? '',
				taxNumber: company?.tax_number ?? '',
			},
			registers,
			items,
			usualNets: usual(`${customer.id} ${content.currency}`),
			alsoBilled,
			owed: BigInt(balances.get(`${customer.id} ${content.currency}`) ?? 0),
			regrouped: credits ? null : groupedNow(books, regrouped, runId, customer, content),
			discountsNamed: group.flatMap(({ number, discount_label }) =>
				discount_label ? [{ order: number, label: discount_label }] : [],
			),
			workDate,
			homeCurrency: company?.currency ?? '',
			unprintable,
			texts: textsOf(content),
			...settings,
			latestDay: latest(keyOf(content)),
			billedBefore: credits
				? []
				: group.flatMap((order) =>
						(billed.get(order.same_as) ?? [])
							.filter((other) => other.customer_id === order.customer_id && other.id !== order.id)
							.map((other) => ({ order: order.number, otherOrder: other.order_number, number: other.number })),
					),
			twins: credits
				? []
				: group.flatMap((order) => [
						...(twins.get(order.id) ?? []).map((other) => ({ order: order.number, other, run: null })),
						...(elsewhere.get(order.same_as) ?? [])
							.filter((other) => other.customer_id === order.customer_id)
							.map((other) => ({ order: order.number, other: other.number, run: other.run_id })),
					]),
			restChanged: document.credits_id !== null && restChanged(books, document, content),
			recordGone: own === null ? '' : goneOf(books, document.id),
			sells: own === null || own.becomesOrder || own.records === 'orders',
		}
	}
}

/** How a customer gets orders grouped, where that is otherwise than when the run was begun, with their orders on other drafts as these stand now. */
function groupedNow(
	books: Books,
	regrouped: ReadonlyMap<number, Grouping>,
	run: number,
	{ id: customer }: Customer,
	{ orders, currency }: BillContent,
): Checked['regrouped'] {
	const grouping = regrouped.get(customer)
	if (grouping === undefined) return null
	const own = new Set(orders.map(({ id }) => id))
	return { grouping, others: ordersDrafted(books, { run, customer, currency }).filter(({ id }) => !own.has(id)) }
}

/** Asks for each key once, and keeps what it was answered. */
function once<Key, Value>(ask: (key: Key) => Value): (key: Key) => Value {
	const known = new Map<Key, { value: Value }>()
	return (key) => {
		const entry = known.get(key) ?? { value: ask(key) }
		known.set(key, entry)
		return entry.value
	}
}

/** Why what a paper was made from no longer counts. */
function goneOf(books: Books, documentId: number): string {
	const record = readRecord(books, recordOfPaper(books, documentId)?.record_id ?? 0)
	return record ? whyGone(books, record) : ''
}

/** Groups by what was ordered. */
function byContent<T extends { same_as: string }>(orders: T[]): Map<string, T[]> {
	const groups = new Map<string, T[]>()
	for (const order of orders) {
		const group = groups.get(order.same_as)
		if (group) group.push(order)
		else groups.set(order.same_as, [order])
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
