import type { Day } from '@/core/calendar'
import { type itemKinds, sideOf } from '@/core/ledger'
import { figuresOf, type NumberForms, nearness, numberForms, numberKeys } from '@/core/numberForms'
import type { IntakeItem } from '@/intake/openItems'
import type { RowThen } from '@/store/ledgerThen'

// What another system does to an item: it is likely the same as one here, but for what of it is otherwise. A person says whether it is.

/** What of a likely pair is otherwise: whose it is, who owes it, its currency, its kind, how its number is written, or that it is void here. */
export const otherwiseWays = ['customer', 'sign', 'currency', 'kind', 'number', 'void'] as const
export type Way = (typeof otherwiseWays)[number]

/**
 * What a person says of a likely pair. `other`: two items. The rest: it is the same, and what was paid on it here
 * - `stays`: is in what the file says already, or there is none;
 * - `along`: pays it as the file has it;
 * - `credit`: stands to the credit of whoever paid it.
 * Of one that is void here: `stays` void, or is owed all the same (`other`).
 */
export const pairAnswers = ['other', 'stays', 'along', 'credit'] as const
export type PairAnswer = (typeof pairAnswers)[number]

/** An item of the file and what the ledger has of it, as of the file's day. */
export type Pair = { item: IntakeItem; before: RowThen }
export type Likely = Pair & {
	/** Names the pair as long as the file and the books are as they are. */
	key: string
	ways: Way[]
	/** What was paid on it here up to the file's day and is not known there (minor units of the item here). */
	paid: number
	/** What may be answered; the first is what it comes to while nothing is. */
	answers: PairAnswer[]
	answer: PairAnswer | null
}

const datedOf = ({ dated, day }: RowThen): Day => dated || day

/** Whether two kinds can be of one item: what is owed, what is to their credit; an adjustment is either. */
const canBe = (a: (typeof itemKinds)[number], b: (typeof itemKinds)[number]): boolean =>
	a === b || sideOf(a) === null || sideOf(b) === null || (sideOf(a) === sideOf(b) && a !== 'payment' && b !== 'payment')

/** What of two is otherwise, and how likely they are one; null where they are not. */
function likelyOf(item: IntakeItem, forms: NumberForms, before: RowThen, there: NumberForms, paid: number) {
	const near = nearness(forms, there)
	if (near === 0 || !canBe(item.kind, before.kind)) return null
	const same = {
		customer: item.customerId === before.customer_id,
		sign: item.side === before.side,
		currency: item.currency === before.currency,
		kind: item.kind === before.kind && item.called === before.called,
		number: near === 3,
		amount: item.amount === before.amount_then,
		day: item.day === datedOf(before),
	}
	const ways: Way[] = (['customer', 'sign', 'currency', 'kind', 'number'] as const).filter((way) => !same[way])
	const facts = Number(same.amount) + Number(same.day)
	const likely = facts >= factsNeeded() && (before.open_then > 0 || paid > 0 || before.void === 1)
	if (!likely) return null
	return {
		ways: before.void === 1 ? [...ways, 'void' as const] : ways,
		score: near * 8 + (6 - ways.length) * 3 + facts,
	}

	/** How much of amount and day must agree: numbers come again with other customers, and once nothing of theirs is open. */
	function factsNeeded(): number {
		const account = same.customer && same.currency && same.sign
		if (near === 1) return account && same.amount ? 1 : Number.POSITIVE_INFINITY
		if (!same.customer) return near === 3 ? 1 : 2
		return before.void === 0 && (before.open_then === 0 || (near === 2 && !account)) ? 1 : 0
	}
}

/**
 * Of what a file has and is not known here by its very number, what is likely one with an item here: each with one at most, the likeliest first.
 * @param paidHere what was paid here on an item, by its id
 * @param given what a person answered, by the pair's key
 */
export function likelyPairs(
	items: readonly IntakeItem[],
	held: readonly RowThen[],
	paidHere: ReadonlyMap<number, number>,
	given: Readonly<Record<string, PairAnswer>>,
): Likely[] {
	if (items.length === 0) return []
	const wanted = new Set(items.map(({ number }) => figuresOf(number)))
	const byKey = new Map<string, RowThen[]>()
	const formsOf = new Map<number, NumberForms>()
	for (const before of held) {
		if (!wanted.has(figuresOf(before.number))) continue
		const forms = numberForms(before.number)
		formsOf.set(before.id, forms)
		for (const key of numberKeys(forms)) {
			const own = byKey.get(key)
			if (own) own.push(before)
			else byKey.set(key, [before])
		}
	}
	type Found = { item: IntakeItem; before: RowThen; ways: Way[]; score: number }
	const found: Found[] = []
	for (const item of items) {
		const forms = numberForms(item.number)
		const near = new Set(numberKeys(forms).flatMap((key) => byKey.get(key) ?? []))
		for (const before of near) {
			const there = formsOf.get(before.id)
			const likely = there && likelyOf(item, forms, before, there, paidHere.get(before.id) ?? 0)
			if (likely) found.push({ item, before, ...likely })
		}
	}
	found.sort((a, b) => b.score - a.score || a.item.row - b.item.row || a.before.id - b.before.id)
	const taken = { rows: new Set<number>(), ids: new Set<number>() }
	const pairs: Likely[] = []
	for (const { item, before, ways } of found) {
		if (taken.rows.has(item.row) || taken.ids.has(before.id)) continue
		taken.rows.add(item.row)
		taken.ids.add(before.id)
		pairs.push(asked(item, before, ways, paidHere.get(before.id) ?? 0, given))
	}
	return pairs.sort((a, b) => a.item.row - b.item.row)
}

/** A pair with what may be answered of it. */
export function asked(
	item: IntakeItem,
	before: RowThen,
	ways: Way[],
	paid: number,
	given: Readonly<Record<string, PairAnswer>>,
): Likely {
	const key = `${item.row} ${before.id}`
	const answers: PairAnswer[] =
		paid === 0 || ways.includes('void') || staysOne(ways)
			? ['stays', 'other']
			: ways.includes('sign') || ways.includes('currency')
				? ['stays', 'credit', 'other']
				: ['stays', 'along', 'credit', 'other']
	const answer = given[key]
	return { item, before, key, ways, paid, answers, answer: answer && answers.includes(answer) ? answer : null }
}

/** Whether it stays the item that it is here, only called otherwise: what was paid on it stays paid. */
export const staysOne = (ways: readonly Way[]): boolean => ways.every((way) => way === 'kind' || way === 'number')
