import type { StatementChoice } from '@/core/statement'
import { noteLooked } from '@/store/accountMoves'
import { type Books, inOneStep } from '@/store/books'
import { allCustomers, type Customer, spanOf } from '@/store/customers'
import { addDocument, addFindings } from '@/store/documents'
import { draftedUpTo, hold } from '@/store/drafts'
import { type Desk, record } from '@/store/events'
import { holdMessage } from '@/store/issued'
import { readRun, setRunState } from '@/store/runs'
import { workDate } from '@/store/settings'
import { checkStatement, minorOf } from './check'
import { choiceOf } from './choice'
import { lookAtStatements } from './compare'
import { type Drafted, drafter, emailOf } from './draft'

/** Customers whose statements are drafted in one step. */
const customersEach = 100

/**
 * Makes the draft statement of every account as of the run's day, some customers a step, so that others write in between; broken off, it
 * goes on with the customers that are left. Who is to get none has a draft too, held back with the reason, so that the tally goes from the
 * ledger's total to what was sent. What is written meanwhile is found when the run is numbered.
 * @param step told after each how many customers are done, and of how many
 * @param end ends the work within its last step, with how many drafts there are; null when the run was gathered before
 */
export async function gatherStatements(
	books: Books,
	desk: Desk,
	runId: number,
	end: (drafts: number | null) => void = () => {},
	step: (done: number, all: number) => void = () => {},
): Promise<void> {
	const choice = choiceOf(books, runId)
	if (!choice) return inOneStep(books, () => end(null))
	const chosen = new Set(choice.customers)
	const ranks = new Map(allCustomers(books).map(({ id }, place) => [id, place + 1]))
	const customers = allCustomers(books)
		.filter(({ id }) => chosen.size === 0 || chosen.has(id))
		.sort((a, b) => a.id - b.id)
	for (let over = false; !over; ) {
		over = inOneStep(books, () => {
			if (readRun(books, runId)?.state !== 'gathering') {
				end(null)
				return true
			}
			const before = draftedUpTo(books, runId)
			const left = customers.filter(({ id }) => id > before.customer)
			const some = left.slice(0, customersEach)
			const draft = (some: readonly Customer[]) => drafter(books, runId, choice, spanOf(some.map(({ id }) => id)))(some)
			// A step that drafts none has no mark of how far it came; it goes on until one does.
			let at = 0
			let drafted = draft(some)
			while (drafted.length === 0 && (at + 1) * customersEach < left.length) {
				at++
				drafted = draft(left.slice(at * customersEach, (at + 1) * customersEach))
			}
			const day = workDate(books, desk.now().slice(0, 10))
			const kept = drafted.map((one) => ({
				id: keepDraft(books, desk, runId, choice, one, ranks.get(one.customer.id) ?? 0),
				asks: one.content.stage > 0,
			}))
			// As they were drafted they are true as of their day; what a letter asks for may be less by now.
			noteLooked(
				books,
				kept.flatMap(({ id, asks }) => (asks && day > choice.asOf ? [] : [id])),
				day,
			)
			lookAtStatements(books, desk, runId, spanOf(drafted.map(({ customer }) => customer.id)))
			const done = customers.length - left.length + Math.min(left.length, (at + 1) * customersEach)
			step(done, customers.length)
			if (done < customers.length) return false
			setRunState(books, runId, 'open')
			const { drafts } = draftedUpTo(books, runId)
			record(books, desk, { subject: 'run', id: runId, act: 'gathered the statements', detail: `${drafts} accounts` })
			end(drafts)
			return true
		})
		await new Promise((resolve) => setImmediate(resolve))
	}
}

function keepDraft(
	books: Books,
	desk: Desk,
	run_id: number,
	choice: StatementChoice,
	drafted: Drafted,
	rank: number,
): number {
	const { customer, content, open, balance, pastDue, reason, read } = drafted
	const findings = checkStatement(books, content, customer, balance)
	const id = addDocument(books, {
		run_id,
		position: rank,
		customer_id: customer.id,
		customer_name: customer.name,
		email: emailOf(customer),
		order_numbers: `${open} open`,
		order_count: open,
		net: balance,
		tax: 0n,
		past_due: pastDue,
		stage: content.stage,
		total: minorOf(content),
		level: findings[0]?.level ?? 'clear',
		content,
	})
	addFindings(books, id, findings)
	if (reason) hold(books, desk, id, reason)
	if (choice.hold || read) holdMessage(books, id, true)
	return id
}
