import { orderNets } from '@/core/document'
import { type Books, inOneStep } from '@/store/books'
import { taxCodesOn } from '@/store/catalogue'
import { readCompany } from '@/store/company'
import { allCustomers } from '@/store/customers'
import { addDocument, addFindings } from '@/store/documents'
import { type Desk, record } from '@/store/events'
import { linesOfRun, type OrderRow, ordersOfRun, putOnDocument, takeOrders } from '@/store/orders'
import { readRun, setRunState } from '@/store/runs'
import { checkDraft, groupOrders, makeDraft } from './draft'
import { readFacts } from './facts'

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
		const factsOf = readFacts(books, orders, workDate)
		groups.forEach((group, index) => {
			const customer = customers.get(group[0]?.customer_id ?? 0)
			if (!customer) throw new Error(`Order ${group[0]?.number} has no customer.`)
			const draft = makeDraft({ day: run.document_day, company, customer, orders: group, lines, taxCodes })
			const findings = checkDraft(draft, factsOf(customer, draft.content, group))
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
