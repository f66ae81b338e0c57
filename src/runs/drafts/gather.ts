import { orderNets } from '@/core/document'
import { compareForNumbering } from '@/core/numbering'
import { type Books, inOneStep } from '@/store/books'
import { readCompany } from '@/store/company'
import { allCustomers } from '@/store/customers'
import { addDocument, addFindings } from '@/store/documents'
import { type Desk, latestEventId, record } from '@/store/events'
import {
	linesOfRun,
	noteGathered,
	ordersOfRun,
	putLinesOfRun,
	putOnDocument,
	standOn,
	takeOrders,
} from '@/store/orders'
import { noteChecked, readRun, setRunState } from '@/store/runs'
import { readCheckInputs } from './checkInputs'
import { checkDraft, groupOrders, makeDraft } from './draft'
import { readRates } from './rates'

/**
 * Takes the waiting orders up to the run's day, makes their drafts, computes and checks them: one step, all or nothing. What came in
 * is noted apart from the drafts, for the tally.
 * @param only the ids of the orders that it takes of those; all where none is said
 * @returns how many documents there are; null when the run was gathered before
 * @throws Error where an order is of a customer that the books do not have
 */
export function gather(
	books: Books,
	desk: Desk,
	runId: number,
	workDate: string,
	only: readonly number[] | null = null,
): number | null {
	return inOneStep(books, () => {
		const run = readRun(books, runId)
		const company = readCompany(books)
		if (run?.state !== 'gathering' || !company) return null
		takeOrders(books, runId, run.up_to, only)
		const customers = new Map(allCustomers(books).map((customer) => [customer.id, customer]))
		const orders = ordersOfRun(books, runId)
		const rates = readRates(books)
		const lines = linesOfRun(books, runId)
		const groups = groupOrders(orders, (id) => customers.get(id), { rates, day: run.document_day, lines })
		const drafts = groups.map((group) => {
			const [first] = group
			const customer = first && customers.get(first.customer_id)
			if (!customer) throw new Error(`Order ${first?.number} has no customer.`)
			const draft = makeDraft({ day: run.document_day, company, customer, orders: group, lines, rates })
			const account = `${customer.id} ${draft.content.currency}`
			return { group, customer, draft, account, key: { customer: customer.name, day: first.day, order: first.number } }
		})
		const compare = compareForNumbering(run.numbering)
		drafts.sort((a, b) => compare(a.key, b.key))
		const billed = new Map<string, bigint>()
		for (const { account, draft } of drafts) billed.set(account, (billed.get(account) ?? 0n) + draft.total)
		const factsOf = readCheckInputs(books, orders, workDate, runId)
		drafts.forEach(({ group, customer, draft, account }, index) => {
			const also = (billed.get(account) ?? 0n) - draft.total
			const facts = factsOf(customer, draft.content, also, customer.email, { id: 0, credits_id: null })
			const findings = checkDraft(draft, facts)
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
				putOnDocument(books, order.id, id)
				noteGathered(books, runId, order.id, order.currency, nets[place] ?? 0n)
			})
			standOn(books, id, draft.content.lines.length)
		})
		putLinesOfRun(books, runId)
		setRunState(books, runId, 'open')
		record(books, desk, {
			subject: 'run',
			id: runId,
			act: 'gathered the run',
			detail: `${orders.length} orders in ${groups.length} documents`,
		})
		noteChecked(books, runId, latestEventId(books))
		return groups.length
	})
}
