import type { RowThen } from '@/store/ledgerThen'
import { openOfReplaced, openThere } from './replacing'
import type { Currency, ExtractReview, Given } from './reviewed'

/** An amount in minor units, negative on the credit side. */
export const signed = (amount: number, side: string): number => (side === 'debit' ? amount : -amount)

/** What a review comes to, a currency each, the one with the most items first. */
export function currenciesOf(
	review: ExtractReview,
	given: Given,
	paid: ReadonlyMap<number, number>,
	held: readonly RowThen[],
): Currency[] {
	const all = new Map<string, Currency>()
	const of = (currency: string): Currency => {
		const known = all.get(currency)
		if (known) return known
		const fresh: Currency = {
			...{ currency, had: 0, added: 0, changed: 0, gone: 0, here: 0, hereSettled: 0, same: 0, will: 0 },
			...{ file: 0, items: 0, control: review.control.get(currency) ?? null, left: 0, settles: 0, open: 0 },
		}
		all.set(currency, fresh)
		return fresh
	}
	for (const item of held) {
		of(item.currency).had += signed(item.open_then, item.side)
		of(item.currency).open += item.open_then
	}
	for (const currency of review.control.keys()) of(currency)
	for (const item of review.items) {
		const sum = of(item.currency)
		sum.items++
		sum.file += signed(item.open, item.side)
	}
	for (const item of review.added) of(item.currency).added += signed(item.open, item.side)
	for (const one of review.replaced) {
		const { item, before } = one
		// What was paid on it stands to the payer's credit: it counts beside the file.
		const freed = one.answer === 'credit' ? signed(one.paid, before.side) : 0
		const will = signed(openOfReplaced(one), item.side)
		of(before.currency).changed -= signed(before.open_then, before.side) + freed
		of(before.currency).left -= freed
		of(item.currency).changed += will
		of(item.currency).left += will - signed(item.open, item.side)
	}
	for (const { item, before } of review.stillVoid) {
		of(item.currency).left -= signed(item.open, item.side)
		of(before.currency).left += signed(before.open_then, before.side)
	}
	for (const pair of review.changed) {
		const { item, before } = pair
		const there = openThere(pair, paid.get(before.id) ?? 0)
		of(item.currency).changed += signed(there, item.side) - signed(before.open_then, before.side)
		of(item.currency).left += signed(there, item.side) - signed(item.open, item.side)
	}
	for (const { item, before } of review.same)
		of(item.currency).left += signed(before.open_then, before.side) - signed(item.open, item.side)
	for (const item of review.gone) of(item.currency).gone -= signed(item.open_then, item.side)
	for (const item of review.ours) {
		const sum = of(item.currency)
		sum.here += signed(item.open_then, item.side)
		if (given.ours === 'taken as settled' && item.document_id !== null)
			sum.hereSettled -= signed(item.open_then, item.side)
	}
	for (const item of review.untouchedItems) of(item.currency).left += signed(item.open_then, item.side)
	for (const { before, amount, rest } of review.settlements) {
		of(before.currency).settles += amount
		of(before.currency).same += amount - rest
	}
	for (const sum of all.values()) sum.will = sum.had + sum.added + sum.changed + sum.gone + sum.hereSettled + sum.same
	return [...all.values()].sort((a, b) => b.items - a.items || (a.currency < b.currency ? -1 : 1))
}

/** Whether what it leaves ties: what the ledger will have is what the file has, what is here beside it, and what is left as it is. */
export const untied = ({ currencies }: Pick<ExtractReview, 'currencies'>): Currency[] =>
	currencies.filter(({ will, file, here, hereSettled, left, same }) => will !== file + here + hereSettled + left + same)
