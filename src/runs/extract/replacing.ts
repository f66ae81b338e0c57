import type { Likely, Pair } from './likely'

/** What would be open of an item by what it was here, were its amount that of the extract (minor units). */
export const expected = ({ item, before }: Pair): number => before.open_then + item.amount - before.amount_then

/**
 * What of an item is open by the extract, beside what was applied here: as much of that as the extract does not know yet stays applied.
 * Below zero where more was applied here than the extract leaves of its amount.
 */
export function openThere(pair: Pair, paidHere: number): number {
	const { item } = pair
	const here = expected(pair)
	if (item.open <= here) return item.open
	return item.open <= here + paidHere ? here : item.open - paidHere
}

/** What is open of what stands for an item that went over to another customer, currency or side: all that the file has, or less what was paid here. */
export const openOfReplaced = (one: Likely): number =>
	one.answer === 'along' ? Math.max(0, openThere(one, one.paid)) : one.item.open
