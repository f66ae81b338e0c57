import { dayText, isDay } from '@/core/calendar'
import type { Finding } from '@/core/checks'
import { emailMissing } from '@/core/checks/emailMissing'
import { lockMissing } from '@/core/checks/lockMissing'
import { unprintable } from '@/core/checks/unprintable'
import { parseAmount } from '@/core/currency'
import { no, type Outcome } from '@/core/outcome'
import { type StatementChoice, type StatementContent, statementChoiceSchema } from '@/core/statement'
import { textsOf } from '@/kinds'
import { unprintable as notPrinted } from '@/pdf/fontKit'
import { lockFault } from '@/runs/files/lock'
import { agedTotals } from '@/store/accounts'
import { type Books, inOneStep } from '@/store/books'
import { readCompany } from '@/store/company'
import { allCustomers, type Customer, spanOf } from '@/store/customers'
import { addDocument, addFindings } from '@/store/documents'
import { draftedUpTo, hold } from '@/store/drafts'
import { type Desk, latestEventId, record } from '@/store/events'
import { holdMessage } from '@/store/issued'
import { askFor } from '@/store/jobs'
import { registerFor } from '@/store/registers'
import { addRun, addStatementChoice, noteChecked, readRun, setRunState, statementChoice } from '@/store/runs'
import { type Drafted, drafter } from './draft'

/** Starts a run of statements; the runner gathers it. */
export function startStatements(books: Books, desk: Desk, choice: StatementChoice): Outcome {
	if (!isDay(choice.asOf)) return no('Give the day that the statements are as of.')
	if (choice.charges && choice.show === 'past-due')
		return no('Late charges go with statements of all that is open, so that the customer sees them.')
	if (choice.form === 'balance forward' && (!isDay(choice.since) || choice.since > choice.asOf))
		return no('Give the first day of what happened, up to the day that the statements are as of.')
	return inOneStep(books, () => {
		if (!readCompany(books))
			return no('Give the firm its name under Company first; it stands at the head of every statement.')
		if (!registerFor(books, 'statement'))
			return no('There is no number register for statements. Open one under Number registers.')
		if (agedTotals(books, choice.asOf).length === 0) return no('Nothing is open on any account on that day.')
		const id = addRun(books, desk, choice.asOf, choice.asOf, 'statement')
		addStatementChoice(books, id, JSON.stringify(choice))
		askFor(books, desk, { kind: 'gather', run: id, expected: 0 })
		record(books, desk, { subject: 'run', id, act: 'started the statements', detail: `as of ${dayText(choice.asOf)}` })
		// What is recorded from here on may make a draft untrue.
		noteChecked(books, id, latestEventId(books))
		return { ok: true, id }
	})
}

/**
 * What a run of statements was asked to gather; null for another run.
 * @throws ZodError where the text is not what the books keep
 */
export function choiceOf(books: Books, runId: number): StatementChoice | null {
	const kept = statementChoice(books, runId)
	return kept === null ? null : statementChoiceSchema.parse(JSON.parse(kept))
}

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
			for (const one of drafted) keepDraft(books, desk, runId, choice, one, ranks.get(one.customer.id) ?? 0)
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
): void {
	const { customer, content, open, balance, pastDue, reason, read } = drafted
	const findings = checkStatement(books, content, customer, balance)
	const id = addDocument(books, {
		run_id,
		position: rank,
		customer_id: customer.id,
		customer_name: customer.name,
		email: customer.statement_email || customer.email,
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
}

/** What a statement comes to, minor units. */
export const minorOf = ({ total, currency }: StatementContent): bigint => parseAmount(total, currency, 'total')

/** What is to be said of a draft statement, the worst first. */
export function checkStatement(
	books: Books,
	content: StatementContent,
	customer: Customer,
	balance: bigint,
): Finding[] {
	const email = customer.statement_email || customer.email
	const dispute: Finding[] =
		content.disputed !== content.balance || balance <= 0n
			? []
			: [
					{
						code: 'all-disputed',
						level: 'look',
						brief: 'all in dispute',
						text: `All that ${customer.name} owes is in dispute. Hold the statement back, or send it as it is.`,
					},
				]
	const found = [
		...unprintable({ texts: textsOf(content), unprintable: notPrinted }),
		...emailMissing({ content, customer: { email } }),
		...lockMissing({ customer: { lockFault: email === '' ? '' : lockFault(books, customer, content) } }),
		...dispute,
	]
	return [...found.filter(({ level }) => level === 'stop'), ...found.filter(({ level }) => level === 'look')]
}
