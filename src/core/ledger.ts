import { type AgedAccount, age, type LedgerItem } from './age'
import type { Day } from './calendar'
import { amountText } from './currency'

export type Side = 'debit' | 'credit'
type KindRule = {
	/** Whether it is owed by the customer or to them; null for what says it by its sign. */
	side: Side | null
	/** Whether a late charge is asked on it: on what is owed for goods and services, not on charges themselves. */
	bearsLate: boolean
}
const kinds = {
	invoice: { side: 'debit', bearsLate: true },
	credit: { side: 'credit', bearsLate: false },
	payment: { side: 'credit', bearsLate: false },
	charge: { side: 'debit', bearsLate: false },
	'debit note': { side: 'debit', bearsLate: true },
	adjustment: { side: null, bearsLate: true },
} as const satisfies Record<string, KindRule>
/** What an entry in a customer's ledger is. */
export type ItemKind = keyof typeof kinds
export const itemKinds = Object.keys(kinds) as [ItemKind, ...ItemKind[]]
/** What follows from the kind of an entry. */
export const kindRules: Readonly<Record<ItemKind, KindRule>> = kinds
/** Whether a kind is owed by the customer or to them; null for an adjustment, which says it by its sign. */
export const sideOf = (kind: ItemKind): Side | null => kindRules[kind].side

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

/**
 * An entry as it was at the end of a day. It has no days of its own left to go by, so that none is taken to a day twice: it is no `Entry`, and what
 * needs an entry as of a day takes this.
 */
export type EntryThen<One extends Entry = Entry> = Omit<One, 'applied' | 'changes' | 'disputes' | 'open'> & {
	asOf: Day
	/** What was open of it (minor units); nothing before its own day. */
	open: number
	/** The latest day up to then on which something was applied to it; empty for none. */
	settledOn: Day | ''
	/** Since when it was in dispute; empty where it was in none. */
	disputedSince: Day | ''
}

/** An entry as it was on a day: the one place where that is worked out of what happened to it. */
export function entryAsOf<One extends Entry>(entry: One, asOf: Day): EntryThen<One> {
	const { applied, changes = [], disputes, ...now } = entry
	let amount = entry.amount
	let first: ItemChange | null = null
	for (const change of changes) {
		if (change.day <= asOf) continue
		first ??= change
		amount += change.amount_was - change.amount_is
	}
	let open = amount
	let settledOn = ''
	for (const part of applied) {
		if (part.day > asOf) continue
		open -= part.amount
		if (part.day > settledOn) settledOn = part.day
	}
	const dispute = disputes.find(({ since, ended }) => since <= asOf && (ended === null || ended > asOf))
	const then = { asOf, amount, open: entry.day > asOf ? 0 : open, settledOn, disputedSince: dispute?.since ?? '' }
	return { ...now, ...then, ...(first ? { due_day: first.due_was, dated: first.dated_was } : {}) } as EntryThen<One>
}

/** Entries as they were on a day. */
export const entriesAsOf = <One extends Entry>(entries: readonly One[], asOf: Day): EntryThen<One>[] =>
	entries.map((entry) => entryAsOf(entry, asOf))

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
 * What a customer owed as of the day of the entries, an account a currency, by `age`; an item's `ref` is its id.
 * @throws Error where an account is refused by `age`, which means that the ledger is wrong
 */
export function accountsAsOf(entries: readonly EntryThen[], show: 'all' | 'past-due' = 'all'): AgedAccount[] {
	const asOf = entries[0]?.asOf
	if (asOf === undefined) return []
	const items = entries.map((entry): LedgerItem => {
		const text = (minor: number) => amountText(BigInt(minor), entry.currency)
		const applied = entry.day > asOf ? 0 : entry.amount - entry.open
		return {
			ref: String(entry.id),
			kind: entry.side === 'debit' ? 'invoice' : 'credit',
			date: entry.day,
			dueDate: entry.due_day,
			amount: text(entry.amount),
			currency: entry.currency,
			applied: applied === 0 ? [] : [{ date: asOf, amount: text(applied) }],
			disputed: entry.disputedSince !== '',
		}
	})
	const aged = age({ asOf, show, items })
	if (!aged.ok) throw new Error(`The ledger cannot be aged: ${aged.refusal.path}: ${aged.refusal.message}`)
	return aged.value
}

const compare = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0)
