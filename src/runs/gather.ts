import { compareForNumbering } from '@/core/numbering'
import { type Books, inOneStep } from '@/store/books'
import { allDiscounts, taxCodesOn } from '@/store/catalogue'
import { readCompany } from '@/store/company'
import { allCustomers } from '@/store/customers'
import { addDocument, addFindings } from '@/store/documents'
import { type Desk, record } from '@/store/events'
import { linesOfRun, ordersOfRun, takeOrders } from '@/store/orders'
import { readRun, setRunState } from '@/store/runs'
import { readSettings } from '@/store/settings'
import { checkDraft, groupOrders, makeDraft } from './draft'
import { readFacts } from './facts'
import { placeOrders } from './redraft'

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
		const rates = { named: allDiscounts(books), freight: readSettings(books).freight, home: company.currency }
		const groups = groupOrders(orders, (id) => customers.get(id)?.grouping ?? 'order', rates)
		const lines = linesOfRun(books, runId)
		const taxCodes = taxCodesOn(books, run.document_day)
		const drafts = groups.map((group) => {
			const [first] = group
			const customer = first && customers.get(first.customer_id)
			if (!customer) throw new Error(`Order ${first?.number} has no customer.`)
			const draft = makeDraft({ day: run.document_day, company, customer, orders: group, lines, taxCodes, rates })
			const account = `${customer.id} ${draft.content.currency}`
			return { group, customer, draft, account, key: { customer: customer.name, day: first.day, order: first.number } }
		})
		const compare = compareForNumbering(run.numbering)
		drafts.sort((a, b) => compare(a.key, b.key))
		const billed = new Map<string, bigint>()
		for (const { account, draft } of drafts) billed.set(account, (billed.get(account) ?? 0n) + draft.total)
		const factsOf = readFacts(books, orders, workDate)
		drafts.forEach(({ group, customer, draft, account }, index) => {
			const also = (billed.get(account) ?? 0n) - draft.total
			const findings = checkDraft(draft, factsOf(customer, draft.content, group, also))
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
			placeOrders(books, id, draft.content)
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
