import type { AgedItem } from './age'
import { dayText } from './calendar'
import type { EntryThen } from './ledger'

/** Why an item stands where it does as of a day, in words: "not due until 6 Dec 2026", "settled on 2 Sep 2026". */
export function whyItem(
	entry: Pick<EntryThen, 'asOf' | 'day' | 'due_day' | 'settledOn' | 'disputedSince'>,
	aged: AgedItem,
): string {
	const { asOf } = entry
	switch (aged.reason) {
		case 'after the date':
			return `dated ${dayText(entry.day)}, after ${dayText(asOf)}`
		case 'settled':
			return `settled on ${dayText(entry.settledOn || entry.day)}`
		case 'credit':
			return 'a credit'
		case 'disputed':
			return entry.disputedSince ? `disputed since ${dayText(entry.disputedSince)}` : 'disputed'
		case 'not due':
			return entry.due_day === asOf ? 'due on the day itself' : `not due until ${dayText(entry.due_day)}`
		case 'past due':
			return aged.daysPastDue === 1 ? '1 day past due' : `${aged.daysPastDue} days past due`
	}
}
