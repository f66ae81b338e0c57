import { addDays, type Day } from '@/core/calendar'
import { whyNotChased } from '@/core/chase'
import { amountText } from '@/core/currency'
import { noLayout, spokenNow } from '@/core/document'
import { formatMinor } from '@/core/format'
import { lateCharge } from '@/core/lateCharge'
import { leastIn } from '@/core/leasts'
import { lastDayNothingPastDue } from '@/core/pastDue'
import { letterOfStage, nextStage } from '@/core/stages'
import {
	type BalanceChange,
	chargeEntry,
	mostRows,
	type Stated,
	type StatementChoice,
	type StatementContent,
	state,
} from '@/core/statement'
import { recipientOf } from '@/runs/drafts/draft'
import { changesOf } from '@/runs/receivables/changes'
import type { Books } from '@/store/books'
import { type ChaseOf, chargedBefore, chargesWaiting, chasesOf, lastCharges, lettersWaiting } from '@/store/chases'
import { type Company, issuerOf, readCompany } from '@/store/company'
import { type Customer, type Span, spanOf } from '@/store/customers'
import { layoutsInForce } from '@/store/layouts'
import { accountsIn, entriesBetween, type OpenEntry, settledByExtracts } from '@/store/ledgerThen'
import { readSettings, type Settings } from '@/store/settings'

/** A statement as it would be drafted, with its account's figures (minor units) and why it is not to be sent; empty when it is. */
export type Drafted = {
	customer: Customer
	content: StatementContent
	open: number
	balance: bigint
	pastDue: bigint
	reason: string
	/** Whether a person must read its message before it goes. */
	read: boolean
}

/** Whom a customer's statements are sent to; empty where they are printed. */
export const emailOf = ({ statement_email, email }: Customer): string => statement_email || email

/** What drafting goes by, read once. */
type Basis = {
	books: Books
	runId: number
	choice: StatementChoice
	company: Company
	settings: Settings
	chaseOf: (customerId: number, currency: string) => ChaseOf
	charged: ReturnType<typeof chargedBefore>
	/** The day of each account's last charge, by `customer currency`. */
	lastCharged: Map<string, Day>
	/** Accounts with a letter of another run that has not gone yet, by `customer currency`: the run. */
	waiting: Map<string, number>
	/** Accounts for which another open run proposes a charge. */
	charging: Set<string>
	layoutFor: ReturnType<typeof layoutsInForce>
}

/**
 * Drafts the statements of some customers, an account a currency: of every account with something open as of the choice's day, and, where
 * balances are carried forward, of those that moved and end at nothing.
 * @param span the customers that will be drafted: no more is read than they take
 * @throws Error where there is no firm yet
 */
export function drafter(books: Books, runId: number, choice: StatementChoice, span: Span) {
	const company = readCompany(books)
	if (!company) throw new Error('There is no firm yet.')
	const basis: Basis = {
		...{ books, runId, choice, company, settings: readSettings(books) },
		chaseOf: chasesOf(books, choice.asOf, span),
		charged: choice.charges ? chargedBefore(books, span) : new Map(),
		lastCharged: choice.charges ? lastCharges(books, span) : new Map(),
		waiting: lettersWaiting(books, runId, span),
		charging: choice.charges ? chargesWaiting(books, runId, span) : new Set(),
		layoutFor: layoutsInForce(books),
	}
	return (customers: readonly Customer[]): Drafted[] => draftOf(basis, customers)
}

/** The first day that must be known of an account, so that its letters, charges and movements can be told. */
function firstDay({ choice, chaseOf, lastCharged }: Basis, id: number, currencies: readonly string[]): Day {
	const days = [choice.asOf, ...(choice.form === 'balance forward' ? [addDays(choice.since, -1)] : [])]
	for (const currency of currencies) {
		for (const { day } of chaseOf(id, currency).written) days.push(day)
		days.push(lastCharged.get(`${id} ${currency}`) ?? choice.asOf)
	}
	return days.sort()[0] ?? choice.asOf
}

function draftOf(basis: Basis, customers: readonly Customer[]): Drafted[] {
	const { books, choice } = basis
	if (customers.length === 0) return []
	const span = spanOf(customers.map(({ id }) => id))
	const currencies = currenciesOf(books, span)
	const from = customers.map(({ id }) => firstDay(basis, id, currencies.get(id) ?? [])).sort()[0] ?? choice.asOf
	const entries = entriesBetween(books, from, choice.asOf, span)
	const settled = choice.form === 'balance forward' ? settledByExtracts(books, span, choice.since) : new Map()
	return customers.flatMap((customer) => {
		const own = entries.get(customer.id) ?? []
		return [...new Set(own.map((entry) => entry.currency))].sort().flatMap((currency) => {
			const account = own.filter((entry) => entry.currency === currency)
			const changes = choice.form === 'balance forward' ? changesOf(account, settled, choice.since) : []
			return draftAccount(basis, customer, currency, account, changes) ?? []
		})
	})
}

/** Why a customer gets no statement in this run; empty when they get one. */
function whyNone(
	{ statements }: Customer,
	choice: StatementChoice,
	{ pastDue, balance, moved }: { pastDue: bigint; balance: bigint; moved: boolean },
): string {
	if (statements === 0) return 'set to get no statements'
	if (choice.show === 'past-due') return pastDue === 0n ? 'nothing is past due' : ''
	if (balance < 0n) return 'in credit'
	if (balance === 0n && choice.form === 'balance forward' && moved) return ''
	if (balance === 0n) return 'nothing is owed in all'
	return ''
}

function tooLittle(asked: bigint, choice: StatementChoice, currency: string, isHome: boolean): string {
	const least = leastIn(choice, currency, isHome)
	return asked < least
		? `${formatMinor(asked, currency)} is below the least worth a letter, ${formatMinor(least, currency)}`
		: ''
}

function draftAccount(
	{ choice, company, settings, chaseOf, charged, lastCharged, waiting, charging, layoutFor }: Basis,
	customer: Customer,
	currency: string,
	own: OpenEntry[],
	changes: BalanceChange[],
): Drafted | null {
	const { asOf, form } = choice
	const key = `${customer.id} ${currency}`
	const chase = chaseOf(customer.id, currency)
	const isHome = currency === company.currency
	// What is carried forward shows all that happened, also where only those with something past due get it.
	const shown = { ...choice, show: form === 'balance forward' ? ('all' as const) : choice.show }
	const plain = state(own, currency, shown, changes, chase.promised)
	if (!plain) return null
	const { aged, why, demand } = plain
	const open = why.filter((item) => item.open !== 0).length
	const moved = changes.some(({ day }) => day >= choice.since && day <= asOf)
	if (open === 0 && !(form === 'balance forward' && moved)) return null

	const first = chase.written.map(({ day }) => day).sort()[0]
	const clear = first === undefined ? null : lastDayNothingPastDue(own, first, asOf)
	const written = chase.written.filter(({ day }) => clear === null || day > clear)
	const other = waiting.get(key)
	const late = plain.stated.oldest > 0
	const kept = late ? whyNotChased(chase, demand, asOf) || (other ? `a letter of run ${other} waits to go` : '') : ''
	const next = nextStage(settings.stages, written, {
		oldest: plain.stated.oldest,
		asked: demand.asked,
		asOf,
		currency,
		isHome,
	})
	const spared = kept || (late ? next.why : '')
	const stage = spared === '' ? next.stage : 0

	const none = whyNone(customer, choice, { pastDue: aged.pastDue, balance: aged.balance, moved })
	const asked = choice.show === 'past-due' ? demand.asked : aged.balance
	const little = aged.balance === 0n && form === 'balance forward' ? '' : tooLittle(asked, choice, currency, isHome)
	const reason = none || (choice.show === 'past-due' ? spared : '') || little

	const charge =
		reason === '' && choice.charges && !charging.has(key)
			? lateCharge(own, asOf, currency, settings.lateTerms, {
					isHome,
					since: lastCharged.get(key) ?? null,
					chargedOf: (id) => charged.get(id),
				})
			: null
	const entry = charge && chargeEntry(charge.amount, asOf, currency)
	const change = entry && {
		day: asOf,
		words: entry.number,
		said: { what: entry.kind, number: entry.number },
		change: entry.amount,
	}
	const brought = entry && change && state([...own, entry], currency, shown, [...changes, change], chase.promised)
	const { rows, stated } = within((brought ?? plain).stated, form, stage)
	const content: StatementContent = {
		kind: 'statement',
		layout: layoutFor('statement', customer, noLayout),
		spoken: spokenNow,
		number: '',
		revision: 1,
		day: asOf,
		dueDay: asOf,
		currency,
		locale: customer.locale || 'en-GB',
		issuer: issuerOf(company),
		customer: recipientOf(customer, company),
		form,
		show: shown.show,
		credits: choice.credits,
		since: choice.since,
		...stated,
		charge: charge && {
			amount: amountText(charge.amount, currency),
			working: charge.working,
			items: charge.parts.map(({ id }) => id),
			parts: charge.parts,
		},
		letter: letterOfStage(stage),
		stage,
		spared,
		...(spared !== '' && spared === next.why && next.from ? { sparedUntil: next.from } : {}),
		kept: reason,
		chargeDropped: false,
		...(rows > 0 ? { tooLong: rows } : {}),
	}
	const read = settings.stages[stage - 1]?.read ?? false
	return { customer, content, open, balance: aged.balance, pastDue: aged.pastDue, reason, read }
}

/** What stands on a statement, with how many rows its paper would have where these are too many; more items than that are left out of it. */
function within(stated: Stated, form: StatementChoice['form'], stage: number): { rows: number; stated: Stated } {
	const late = stage === 0 ? 0 : stated.items.filter(({ pastDue }) => pastDue).length
	const rows = Math.max(late, form === 'balance forward' ? stated.movements.length : stated.items.length)
	const items = stated.items.length > mostRows ? [] : stated.items
	const movements = stated.movements.length > mostRows ? [] : stated.movements
	return { rows: rows > mostRows ? rows : 0, stated: { ...stated, items, movements } }
}

/** The currencies that customers have accounts in. */
function currenciesOf(books: Books, span: Span): Map<number, string[]> {
	const currencies = new Map<number, string[]>()
	for (const { customer_id, currency } of accountsIn(books, span))
		currencies.set(customer_id, [...(currencies.get(customer_id) ?? []), currency])
	return currencies
}
