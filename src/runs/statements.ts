import { dayText, isDay } from '@/core/calendar'
import { whyNotChased } from '@/core/chase'
import type { Finding } from '@/core/checks'
import { emailMissing } from '@/core/checks/emailMissing'
import { lockMissing } from '@/core/checks/lockMissing'
import { unprintable } from '@/core/checks/unprintable'
import { amountText, parseAmount } from '@/core/currency'
import { noLayout } from '@/core/document'
import { formatMinor } from '@/core/format'
import { type LateItem, lateCharge } from '@/core/lateCharge'
import {
	askedFor,
	type BalanceChange,
	chargeEntry,
	letterTone,
	type Stated,
	type StatementChoice,
	type StatementContent,
	type StatementEntry,
	state,
	statementChoiceSchema,
} from '@/core/statement'
import { isStatement, textsOf } from '@/kinds'
import { unprintable as notPrinted } from '@/pdf/fontKit'
import { agedTotals } from '@/store/accounts'
import { type Books, inOneStep } from '@/store/books'
import { allChases, chargedTo } from '@/store/chases'
import { type Company, readCompany } from '@/store/company'
import { allCustomers, type Customer } from '@/store/customers'
import { addDocument, addFindings, readAnyDocument } from '@/store/documents'
import { hold, replaceStatement } from '@/store/drafts'
import { type Desk, record } from '@/store/events'
import { holdMessage } from '@/store/issued'
import { askFor } from '@/store/jobs'
import { layoutsInForce } from '@/store/layouts'
import { entriesOf, openEntries } from '@/store/ledger'
import { registerFor } from '@/store/registers'
import { addRun, addStatementChoice, readRun, setRunState, setSourceTotal, statementChoice } from '@/store/runs'
import { readSettings } from '@/store/settings'
import { changesOf } from './account'
import { issuerOf, recipientOf } from './draft'
import { lockFault } from './lock'
import { no, type Outcome } from './outcome'

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
		return { ok: true, id }
	})
}

export function choiceOf(books: Books, runId: number): StatementChoice | null {
	const kept = statementChoice(books, runId)
	return kept === null ? null : statementChoiceSchema.parse(JSON.parse(kept))
}

/** A statement as it would be drafted, with its account's figures (minor units) and why it is not to be sent; empty when it is. */
export type Drafted = {
	customer: Customer
	content: StatementContent
	open: number
	balance: bigint
	pastDue: bigint
	reason: string
}

/** The statement of every account with an open item as of a day, a currency each, by customer. */
export function* draftStatements(books: Books, choice: StatementChoice, company: Company): Generator<Drafted> {
	const { stageDays, letterDays, lateTerms } = readSettings(books)
	const charged = chargedTo(books)
	const chaseOf = allChases(books, choice.asOf)
	const entries = openEntries(books, choice.asOf)
	const chosen = new Set(choice.customers)
	const issuer = issuerOf(company)
	const layoutFor = layoutsInForce(books)
	for (const customer of allCustomers(books)) {
		if (chosen.size > 0 && !chosen.has(customer.id)) continue
		const own = entries.get(customer.id) ?? []
		const history = choice.form === 'balance forward' ? entriesOf(books, customer.id) : []
		for (const currency of [...new Set(own.map((entry) => entry.currency))].sort()) {
			const changes = choice.form === 'balance forward' ? changesOf(books, customer.id, currency, history) : []
			const plain = state(own, currency, choice, changes)
			if (!plain) continue
			const { aged, why } = plain
			const chase = plain.stated.oldest > 0 ? chaseOf(customer.id, currency) : null
			const spared = chase ? whyNotChased(chase, choice.asOf, letterDays) : ''
			const asked = askedFor(aged, choice.show)
			const reason = whyNone(customer, choice, asked, currency) || (choice.show === 'past-due' ? spared : '')
			const items = reason === '' && choice.charges ? lateItems(plain.stated, charged, currency) : []
			const charge = lateCharge(items, choice.asOf, currency, lateTerms, currency === company.currency)
			const entry = charge && chargeEntry(charge.amount, choice.asOf, currency)
			const brought = entry && state([...own, entry], currency, choice, [...changes, changeOf(entry)])
			const { stated } = brought ?? plain
			const content: StatementContent = {
				kind: 'statement',
				layout: layoutFor('statement', customer, noLayout),
				number: '',
				revision: 1,
				day: choice.asOf,
				dueDay: choice.asOf,
				currency,
				locale: customer.locale || 'en-GB',
				issuer,
				customer: recipientOf(customer, company),
				form: choice.form,
				show: choice.show,
				credits: choice.credits,
				since: choice.since,
				...stated,
				charge: charge && { ...charge, amount: amountText(charge.amount, currency) },
				letter: spared ? 'statement' : letterTone(stated.oldest, stageDays),
				spared,
			}
			const open = why.filter((item) => item.open !== 0).length
			yield { customer, content, open, balance: aged.balance, pastDue: aged.pastDue, reason }
		}
	}
}

/**
 * Makes the draft statement of every account with an open item as of the run's day: one step, all or nothing. Who is to get
 * none has a draft too, held back with the reason, so that the tally goes from the ledger's total to what was sent.
 * @returns how many drafts there are; null when the run was gathered before
 */
export function gatherStatements(books: Books, desk: Desk, runId: number): number | null {
	return inOneStep(books, () => {
		const run = readRun(books, runId)
		const choice = choiceOf(books, runId)
		const company = readCompany(books)
		if (run?.state !== 'gathering' || !choice || !company) return null
		let position = 0
		for (const { customer, content, open, balance, pastDue, reason } of draftStatements(books, choice, company)) {
			const findings = checkStatement(books, content, customer, balance)
			const id = addDocument(books, {
				run_id: runId,
				position: ++position,
				customer_id: customer.id,
				customer_name: customer.name,
				email: customer.statement_email || customer.email,
				order_numbers: `${open} open`,
				order_count: open,
				net: balance,
				tax: 0n,
				past_due: pastDue,
				total: minorOf(content),
				level: findings[0]?.level ?? 'clear',
				content,
			})
			addFindings(books, id, findings)
			if (reason) hold(books, desk, id, reason)
			if (choice.hold) holdMessage(books, id, true)
		}
		if (choice.customers.length === 0)
			for (const { currency, balance } of agedTotals(books, choice.asOf))
				setSourceTotal(books, runId, currency, BigInt(balance))
		setRunState(books, runId, 'open')
		record(books, desk, { subject: 'run', id: runId, act: 'gathered the statements', detail: `${position} accounts` })
		return position
	})
}

const minorOf = ({ total, currency }: StatementContent): bigint => parseAmount(total, currency, 'total')

/** Why a customer gets no statement in this run; empty when they get one. */
function whyNone(customer: Customer, choice: StatementChoice, asked: bigint, currency: string): string {
	if (customer.statements === 0) return 'set to get no statements'
	if (choice.show === 'past-due' && asked === 0n) return 'nothing is past due'
	if (asked < 0n) return 'in credit'
	if (asked === 0n) return 'nothing is owed in all'
	if (asked < BigInt(choice.least))
		return `${formatMinor(asked, currency)} is below the least worth a letter, ${formatMinor(choice.least, currency)}`
	return ''
}

function checkStatement(books: Books, content: StatementContent, customer: Customer, balance: bigint): Finding[] {
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

/** Items that a late charge is reckoned on: past due, undisputed, and not a charge themselves. */
const lateItems = ({ items }: Pick<Stated, 'items'>, charged: Map<number, string>, currency: string): LateItem[] =>
	items
		.filter(({ pastDue, kind }) => pastDue && kind !== 'charge')
		.map(({ id, number, due, open }) => ({
			id,
			number,
			due,
			open: Number(parseAmount(open, currency, 'open')),
			chargedTo: charged.get(id) ?? null,
		}))

const changeOf = ({ day, number, amount }: StatementEntry): BalanceChange => ({ day, words: number, change: amount })

/** Takes the proposed late charge off a draft statement, which is reckoned anew without it. */
export function dropCharge(books: Books, desk: Desk, documentId: number): Outcome {
	return inOneStep(books, (): Outcome => {
		const document = readAnyDocument(books, documentId)
		if (!document || !isStatement(document.content) || document.number !== null || !document.content.charge)
			return no('There is no proposed charge to drop.')
		const { content, customer_id } = document
		const { currency, day: asOf } = content
		const entries = entriesOf(books, customer_id)
		const changes = content.form === 'balance forward' ? changesOf(books, customer_id, currency, entries) : []
		const found = state(
			entries.filter((entry) => entry.currency === currency),
			currency,
			{ ...content, asOf },
			changes,
		)
		if (!found) return no('Nothing is open on this account any more.')
		const without: StatementContent = { ...content, ...found.stated, charge: null }
		replaceStatement(books, documentId, without, minorOf(without))
		const detail = `${document.customer_name}: ${content.charge?.amount} ${currency}`
		record(books, desk, { subject: 'document', id: documentId, act: 'dropped the late charge', detail })
		return { ok: true }
	})
}
