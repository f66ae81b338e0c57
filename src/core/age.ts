import { type Day, daysBetween, isDay } from './calendar'
import { amountText, isCurrency, parseAmount } from './currency'
import { attempt, type Result, refuse } from './refusal'

export type LedgerItem = {
	ref: string
	kind: 'invoice' | 'charge' | 'credit' | 'payment'
	date: Day
	dueDate: Day
	/** Decimal text, never below zero; the kind says the direction. */
	amount: string
	currency: string
	applied?: { date: Day; amount: string }[]
	disputed?: boolean
}
export type AgeInput = {
	asOf: Day
	show?: 'all' | 'past-due'
	ageBy?: 'due' | 'date'
	/** Last day of each bucket but the open one; [30, 60, 90] when left out. */
	buckets?: number[]
	items: LedgerItem[]
}
type Reason = 'after the date' | 'settled' | 'credit' | 'disputed' | 'not due' | 'past due'
export type AgedItem = {
	ref: string
	included: boolean
	reason: Reason
	/** Minor units, negative for a credit; absent for an item after the date. */
	open?: bigint
	daysPastDue?: number
	bucket?: string
}
export type AgedAccount = {
	currency: string
	items: AgedItem[]
	buckets: Record<string, bigint>
	pastDue: bigint
	notDue: bigint
	disputed: bigint
	unappliedCredits: bigint
	balance: bigint
}

const notDueBucket = 'not due'

/** Edges of the buckets that accounts are shown by, in days past due. */
export const bucketEdges = [30, 60, 90]

/** Names of the buckets for edges 30, 60, 90: not due, 1-30, 31-60, 61-90, over 90. */
function bucketNames(edges: readonly number[]): string[] {
	const ranges = edges.map((edge, index) => `${(edges[index - 1] ?? 0) + 1}-${edge}`)
	return [notDueBucket, ...ranges, `over ${edges.at(-1) ?? 0}`]
}

/** The buckets that accounts are shown by, the latest last. */
export const buckets = bucketNames(bucketEdges)

/** The bucket of so many days past due. */
export function bucketOf(days: number, edges: readonly number[]): string {
	if (days <= 0) return notDueBucket
	const index = edges.findIndex((edge) => days <= edge)
	return bucketNames(edges)[index === -1 ? edges.length + 1 : index + 1] ?? notDueBucket
}

/**
 * What a customer owes as of a date, an account a currency (CALCULATION, what a customer owes).
 * Refused with the path of the field: a date that does not exist, an amount that is not a number or is below zero, an
 * unknown currency, bucket edges that do not rise, more applied than the item's amount.
 */
export function age(input: AgeInput): Result<AgedAccount[]> {
	return attempt(() => {
		const edges = input.buckets ?? bucketEdges
		readDay(input.asOf, 'asOf')
		edges.forEach((edge, index) => {
			if (!Number.isInteger(edge) || edge <= (edges[index - 1] ?? 0))
				refuse(`buckets.${index}`, 'Edges are whole days that rise.')
		})
		const accounts = new Map<string, AgedAccount>()
		input.items.forEach((item, index) => {
			const path = `items.${index}`
			if (!isCurrency(item.currency))
				refuse(`${path}.currency`, `"${item.currency}" is not a currency code of ISO 4217.`)
			const account = accounts.get(item.currency) ?? emptyAccount(item.currency, edges)
			accounts.set(item.currency, account)
			enter(account, item, path, input, edges)
		})
		return [...accounts.values()].sort((a, b) => (a.currency < b.currency ? -1 : 1))
	})
}

const emptyAccount = (currency: string, edges: readonly number[]): AgedAccount => ({
	currency,
	items: [],
	buckets: Object.fromEntries(bucketNames(edges).map((name) => [name, 0n])),
	pastDue: 0n,
	notDue: 0n,
	disputed: 0n,
	unappliedCredits: 0n,
	balance: 0n,
})

function readDay(day: Day, path: string): void {
	if (!isDay(day)) refuse(path, `"${day}" is not a date. Write it as 2026-10-31.`)
}

/** Amount of the item less what was applied to it up to and on the date. */
function openAsOf(item: LedgerItem, asOf: Day, path: string): bigint {
	const amount = parseAmount(item.amount, item.currency, `${path}.amount`)
	if (amount < 0n)
		refuse(`${path}.amount`, 'An amount is never below zero; the kind says whether it is owed or credited.')
	let open = amount
	for (const [index, part] of (item.applied ?? []).entries()) {
		readDay(part.date, `${path}.applied.${index}.date`)
		const applied = parseAmount(part.amount, item.currency, `${path}.applied.${index}.amount`)
		if (part.date <= asOf) open -= applied
	}
	if (open < 0n) refuse(`${path}.applied`, `More was applied to ${item.ref} than its amount.`)
	return open
}

function enter(account: AgedAccount, item: LedgerItem, path: string, input: AgeInput, edges: readonly number[]): void {
	const { asOf } = input
	readDay(item.date, `${path}.date`)
	readDay(item.dueDate, `${path}.dueDate`)
	const open = openAsOf(item, asOf, path)
	const { ref } = item
	if (item.date > asOf) {
		account.items.push({ ref, included: false, reason: 'after the date' })
		return
	}
	if (open === 0n) {
		account.items.push({ ref, included: false, reason: 'settled', open })
		return
	}
	const all = input.show !== 'past-due'
	if (item.kind === 'credit' || item.kind === 'payment') {
		account.unappliedCredits += open
		account.balance -= open
		account.items.push({ ref, included: all, reason: item.disputed ? 'disputed' : 'credit', open: -open })
		return
	}
	const daysPastDue = Math.max(0, daysBetween(item.dueDate, asOf))
	const bucket = bucketOf(input.ageBy === 'date' ? daysBetween(item.date, asOf) : daysPastDue, edges)
	account.buckets[bucket] = (account.buckets[bucket] ?? 0n) + open
	account.balance += open
	if (daysPastDue === 0) account.notDue += open
	if (item.disputed) account.disputed += open
	else if (daysPastDue > 0) account.pastDue += open
	const reason: Reason = item.disputed ? 'disputed' : daysPastDue > 0 ? 'past due' : 'not due'
	account.items.push({ ref, included: all || reason === 'past due', reason, open, daysPastDue, bucket })
}

/** The accounts with amounts as decimal text, the shape of CALCULATION's worked cases. */
export function agedText(accounts: AgedAccount[]) {
	return {
		accounts: accounts.map((account) => {
			const text = (minor: bigint): string => amountText(minor, account.currency)
			return {
				currency: account.currency,
				items: account.items.map(({ open, ...item }) => ({
					...item,
					...(open === undefined ? {} : { open: text(open) }),
				})),
				buckets: Object.fromEntries(Object.entries(account.buckets).map(([name, amount]) => [name, text(amount)])),
				pastDue: text(account.pastDue),
				notDue: text(account.notDue),
				disputed: text(account.disputed),
				unappliedCredits: text(account.unappliedCredits),
				balance: text(account.balance),
			}
		}),
	}
}
