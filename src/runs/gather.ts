import { orderNets } from '@/core/document'
import { fontKit } from '@/pdf/fontKit'
import { type Books, inOneStep } from '@/store/books'
import { taxCodesOn } from '@/store/catalogue'
import { readCompany } from '@/store/company'
import { allCustomers } from '@/store/customers'
import { addDocument, addFindings, billedOrders, usualNets } from '@/store/documents'
import { type Desk, record } from '@/store/events'
import { linesOfRun, type OrderRow, ordersOfRun, putOnDocument, takeOrders } from '@/store/orders'
import { readRun, setRunState } from '@/store/runs'
import { readSettings } from '@/store/settings'
import { checkDraft, groupOrders, makeDraft } from './draft'

/**
 * Takes the waiting orders up to the run's day, makes their drafts, computes and checks them: one step, all or nothing.
 * @returns how many documents there are; null when the run was gathered before
 */
export function gather(books: Books, desk: Desk, runId: number, workDate: string): number | null {
	return inOneStep(books, () => {
		const run = readRun(books, runId)
		const company = readCompany(books)
		if (run?.state !== 'gathering' || !company) return null
		takeOrders(books, runId, run.up_to)
		const customers = new Map(allCustomers(books).map((customer) => [customer.id, customer]))
		const orders = ordersOfRun(books, runId)
		const groups = groupOrders(orders, (id) => customers.get(id)?.grouping ?? 'order')
		const name = (group: OrderRow[]) => group[0]?.customer ?? ''
		groups.sort(
			(a, b) => name(a).localeCompare(name(b), 'en') || ((a[0]?.number ?? '') < (b[0]?.number ?? '') ? -1 : 1),
		)
		const lines = linesOfRun(books, runId)
		const taxCodes = taxCodesOn(books, run.document_day)
		const { lookAbove, usualTimes } = readSettings(books)
		const usual = usualNets(books)
		const { unprintable } = fontKit()
		const twins = findTwins(orders)
		const billed = byContent(
			billedOrders(
				books,
				orders.map(({ content_sha256 }) => content_sha256),
			),
		)
		groups.forEach((group, index) => {
			const customer = customers.get(group[0]?.customer_id ?? 0)
			if (!customer) throw new Error(`Order ${group[0]?.number} has no customer.`)
			const draft = makeDraft({ day: run.document_day, company, customer, orders: group, lines, taxCodes })
			const findings = checkDraft(draft, {
				customer: { email: customer.email, currency: customer.currency, creditLimit: customer.credit_limit },
				usualNets: usual.get(`${customer.id} ${draft.content.currency}`) ?? [],
				workDate,
				homeCurrency: company.currency,
				unprintable,
				lookAbove,
				usualTimes,
				billedBefore: group.flatMap((order) =>
					(billed.get(order.content_sha256) ?? [])
						.filter((other) => other.customer_id === order.customer_id)
						.map((other) => ({ order: order.number, otherOrder: other.order_number, number: other.number })),
				),
				twins: group.flatMap((order) => (twins.get(order.id) ?? []).map((other) => ({ order: order.number, other }))),
			})
			const id = addDocument(books, {
				run_id: runId,
				position: index + 1,
				customer_id: customer.id,
				customer_name: customer.name,
				email: customer.email,
				order_numbers: group.map(({ number }) => number).join(', '),
				net: draft.net,
				tax: draft.tax,
				total: draft.total,
				level: findings[0]?.level ?? 'clear',
				content: draft.content,
			})
			addFindings(books, id, findings)
			const nets = orderNets(draft.content)
			group.forEach((order, place) => {
				putOnDocument(books, order.id, id, nets[place] ?? 0n)
			})
		})
		setRunState(books, runId, 'open')
		record(books, desk, {
			subject: 'run',
			id: runId,
			act: 'gathered the run',
			detail: `${orders.length} orders in ${groups.length} invoices`,
		})
		return groups.length
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
		for (const order of group)
			twins.set(
				order.id,
				group.filter(({ id }) => id !== order.id).map(({ number }) => number),
			)
	}
	return twins
}
