import type { Day } from './calendar'
import { namedIn } from './references'

/** What a credit is applied to: the numbers in its reference and then the oldest, the oldest, chosen items in their order, or nothing yet. */
export const appliedTo = ['named', 'named then oldest', 'oldest', 'nothing'] as const
export type AppliedTo = (typeof appliedTo)[number] | readonly number[]

/** An open item that a payment may go to or take along; minor units. */
export type OpenItem = { id: number; number: string; day: Day; due_day: Day; open: number }
/** `disputed` ones are passed over unless they are named or chosen. */
export type OpenDebit = OpenItem & { disputed: boolean }

type Share<Debit, Credit> = { debit: Debit; credit: Credit | null; amount: number; why: string }

const compare = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0)

/** Debits by when they are due, the oldest first. */
export const byDue = <Item extends Pick<OpenItem, 'due_day' | 'day' | 'id'>>(items: readonly Item[]): Item[] =>
	[...items].sort((a, b) => compare(a.due_day, b.due_day) || compare(a.day, b.day) || a.id - b.id)

/**
 * What of a credit goes to which debits of its customer and currency, and what is left of it. Credit notes that its reference names are
 * used up first, on the debits that it names, since the customer took them off what they paid. The oldest first passes over what is in dispute.
 * @param credit its reference, and what of it may be applied (minor units)
 * @returns shares in the order in which they are applied; `credit` null is the credit itself
 */
export function sharesOf<Debit extends OpenDebit, Credit extends OpenItem>(
	credit: { reference: string; open: number },
	debits: readonly Debit[],
	to: AppliedTo,
	credits: readonly Credit[] = [],
): { shares: Share<Debit, Credit>[]; named: (Debit | Credit)[]; left: number } {
	const byName = to === 'named' || to === 'named then oldest'
	const found = byName ? namedIn<Debit | Credit>(credit.reference, [...debits, ...credits]) : []
	const named = debits.length === 0 ? [] : found
	const isCredit = (item: Debit | Credit): item is Credit => credits.includes(item as Credit)
	const chosen = Array.isArray(to)
		? to.flatMap((id: number) => debits.find((debit) => debit.id === id) ?? [])
		: named.filter((item): item is Debit => !isCredit(item))
	const open = new Map(debits.map((debit) => [debit.id, debit.open]))
	const shares: Share<Debit, Credit>[] = []
	const take = (from: Credit | null, most: number, debit: Debit, why: string): number => {
		const amount = Math.min(most, open.get(debit.id) ?? 0)
		if (amount <= 0) return 0
		open.set(debit.id, (open.get(debit.id) ?? 0) - amount)
		shares.push({ debit, credit: from, amount, why })
		return amount
	}
	for (const note of named.filter(isCredit)) {
		let rest = note.open
		for (const debit of chosen) rest -= take(note, rest, debit, 'named in the reference')
	}
	let left = credit.open
	const why = Array.isArray(to) ? 'chosen' : 'named in the reference'
	for (const debit of chosen) left -= take(null, left, debit, why)
	if (to === 'oldest' || to === 'named then oldest')
		for (const debit of byDue(debits.filter(({ disputed }) => !disputed)))
			left -= take(null, left, debit, 'the oldest due')
	return { shares, named, left }
}
