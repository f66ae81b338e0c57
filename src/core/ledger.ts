import { type AgedAccount, age, type LedgerItem } from './age'
import type { Day } from './calendar'
import { amountText } from './currency'

/** What an entry in a customer's ledger is. An adjustment is owed by the customer or to them; the others say it by their kind. */
export const itemKinds = ['invoice', 'credit', 'payment', 'charge', 'adjustment'] as const
export type ItemKind = (typeof itemKinds)[number]
export type Side = 'debit' | 'credit'

/** Whether a kind is owed by the customer or to them; null for an adjustment, which says it by its sign. */
export const sideOf: Record<ItemKind, Side | null> = {
	invoice: 'debit',
	charge: 'debit',
	credit: 'credit',
	payment: 'credit',
	adjustment: null,
}

/** What of an item became otherwise, from a day on. Amounts are minor units; `dated` is its document date, empty for its day. */
export type ItemChange = {
	day: Day
	amount_was: number
	amount_is: number
	due_was: Day
	due_is: Day
	dated_was: Day | ''
	dated_is: Day | ''
}

/** An entry as the ledger holds it: minor units above zero, and what was applied to it on which day (below zero: taken back). */
export type Entry = {
	id: number
	kind: ItemKind
	side: Side
	number: string
	/** From when on it counts. */
	day: Day
	due_day: Day
	currency: string
	amount: number
	/** Its document date, where that is not its day. */
	dated?: Day | ''
	applied: { day: Day; amount: number }[]
	/** What of it became otherwise, the earliest first; the fields above have the latest. */
	changes?: readonly ItemChange[]
	/** Since when it is in dispute, and until when it was; empty for never. */
	disputes: { since: Day; ended: Day | null }[]
}

/** Whether an entry is in dispute on a day. */
export const isDisputed = (entry: Pick<Entry, 'disputes'>, asOf: Day): boolean =>
	entry.disputes.some(({ since, ended }) => since <= asOf && (ended === null || ended > asOf))

/** An entry as it was on a day: the amount, due date and document date that it had then. */
export function entryAsOf<One extends Entry>(entry: One, asOf: Day): One {
	const later = (entry.changes ?? []).filter(({ day }) => day > asOf)
	const [first] = later
	if (!first) return entry
	const amount = later.reduce((sum, { amount_is, amount_was }) => sum - amount_is + amount_was, entry.amount)
	return { ...entry, amount, due_day: first.due_was, dated: first.dated_was }
}

/** What was open of an entry at the end of a day (minor units); nothing before its own. */
export const openOn = (entry: Entry, asOf: Day): number =>
	entry.day > asOf
		? 0
		: entry.applied.reduce(
				(open, { day, amount }) => (day <= asOf ? open - amount : open),
				entryAsOf(entry, asOf).amount,
			)

/** What of an entry moves what is open of it, by day: its amount, changes of it, and what was applied. */
const movesOf = ({ day, amount, applied, changes = [] }: Entry): { day: Day; by: number }[] => {
	const first = amount - changes.reduce((sum, { amount_is, amount_was }) => sum + amount_is - amount_was, 0)
	return [
		{ day, by: first },
		...changes.map((change) => ({ day: change.day, by: change.amount_is - change.amount_was })),
		...applied.map((part) => ({ day: part.day, by: -part.amount })),
	]
}

/** How much of an entry is open on every day from one on: the least that it comes down to (minor units). */
export function openFrom(entry: Entry, from: Day): number {
	const moves = movesOf(entry).sort((a, b) => compare(a.day, b.day))
	let open = 0
	let least = Number.POSITIVE_INFINITY
	moves.forEach(({ day, by }, place) => {
		open += by
		const next = moves[place + 1]?.day
		// Where a day ends; days before the first that is asked for count by what they end with.
		if (next === day || (next !== undefined && next <= from)) return
		least = Math.min(least, open)
	})
	return Math.max(0, Number.isFinite(least) ? least : 0)
}

/**
 * From which day on so much can be applied to entries without any of them ever having more applied to it than it had: the wanted one,
 * or the first later one on which something moved.
 * @returns null where there is none: more than is open of one
 */
export function earliestDayOpen(entries: readonly Entry[], wanted: Day, amount: number): Day | null {
	const first = [wanted, ...entries.map(({ day }) => day)].sort(compare).at(-1) ?? wanted
	const days = [
		first,
		...entries.flatMap((entry) =>
			movesOf(entry)
				.map(({ day }) => day)
				.filter((day) => day > first),
		),
	].sort(compare)
	return days.find((day) => entries.every((entry) => openFrom(entry, day) >= amount)) ?? null
}

/**
 * What a customer owes as of a day, an account a currency, by `age`; an item's `ref` is its id.
 * @throws Error where an account is refused by `age`, which means that the ledger is wrong
 */
export function accountsAsOf(entries: readonly Entry[], asOf: Day, show: 'all' | 'past-due' = 'all'): AgedAccount[] {
	const items = entries.map((now): LedgerItem => {
		const entry = entryAsOf(now, asOf)
		const text = (minor: number) => amountText(BigInt(minor), entry.currency)
		return {
			ref: String(entry.id),
			kind: entry.side === 'debit' ? 'invoice' : 'credit',
			date: entry.day,
			dueDate: entry.due_day,
			amount: text(entry.amount),
			currency: entry.currency,
			applied: entry.applied.map(({ day, amount }) => ({ date: day, amount: text(amount) })),
			disputed: isDisputed(entry, asOf),
		}
	})
	const aged = age({ asOf, show, items })
	if (!aged.ok) throw new Error(`The ledger cannot be aged: ${aged.refusal.path}: ${aged.refusal.message}`)
	return aged.value
}

const compare = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0)
