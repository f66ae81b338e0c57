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

/** An entry as the ledger holds it: minor units above zero, and what was applied to it on which day (below zero: taken back). */
export type Entry = {
	id: number
	kind: ItemKind
	side: Side
	number: string
	day: Day
	due_day: Day
	currency: string
	amount: number
	applied: { day: Day; amount: number }[]
	/** Since when it is in dispute, and until when it was; empty for never. */
	disputes: { since: Day; ended: Day | null }[]
}

/** Whether an entry is in dispute on a day. */
export const isDisputed = (entry: Pick<Entry, 'disputes'>, asOf: Day): boolean =>
	entry.disputes.some(({ since, ended }) => since <= asOf && (ended === null || ended > asOf))

/** What a customer owes as of a day, an account a currency, by `age`; an item's `ref` is its id. */
export function accountsAsOf(entries: readonly Entry[], asOf: Day, show: 'all' | 'past-due' = 'all'): AgedAccount[] {
	const items = entries.map((entry): LedgerItem => {
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

/** How an amount of credit is shared out over open debits, the oldest due first, until it is used up. */
export function oldestFirst<Debit extends { id: number; due_day: Day; day: Day; open: number }>(
	debits: readonly Debit[],
	amount: number,
): { debit: Debit; amount: number }[] {
	const sorted = [...debits].sort((a, b) => compare(a.due_day, b.due_day) || compare(a.day, b.day) || a.id - b.id)
	const shares: { debit: Debit; amount: number }[] = []
	let left = amount
	for (const debit of sorted) {
		const share = Math.min(left, debit.open)
		if (share > 0) shares.push({ debit, amount: share })
		left -= share
	}
	return shares
}

const compare = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0)

/** The open debits whose numbers a payment's reference names, in the order they are named. Numbers match as whole words. */
export function namedIn<Debit extends { number: string }>(reference: string, debits: readonly Debit[]): Debit[] {
	const words = ` ${plain(reference)} `
	return debits
		.map((debit) => ({ debit, at: words.indexOf(` ${plain(debit.number)} `) }))
		.filter(({ debit, at }) => at >= 0 && debit.number.trim() !== '')
		.sort((a, b) => a.at - b.at)
		.map(({ debit }) => debit)
}

/** Upper case, and everything but letters, digits and the signs inside numbers as one space. */
const plain = (text: string): string =>
	text
		.toUpperCase()
		.replace(/[^\p{L}\p{N}/.-]+/gu, ' ')
		.replace(/(^|\s)[/.-]+|[/.-]+(?=\s|$)/g, '$1')
		.trim()
