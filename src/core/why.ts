import type { AgedItem } from './age'
import { type Day, dayText } from './calendar'
import type { Entry } from './ledger'

/** Why an item stands where it does as of a day, in words: "not due until 6 Dec 2026", "settled on 2 Sep 2026". */
export function whyItem(
	entry: Pick<Entry, 'day' | 'due_day' | 'applied' | 'disputes'>,
	aged: AgedItem,
	asOf: Day,
): string {
	switch (aged.reason) {
		case 'after the date':
			return `dated ${dayText(entry.day)}, after ${dayText(asOf)}`
		case 'settled':
			return `settled on ${dayText(settledOn(entry, asOf))}`
		case 'credit':
			return 'a credit'
		case 'disputed': {
			const since = entry.disputes.find((dispute) => dispute.since <= asOf && (dispute.ended ?? '9999') > asOf)?.since
			return since ? `disputed since ${dayText(since)}` : 'disputed'
		}
		case 'not due':
			return entry.due_day === asOf ? 'due on the day itself' : `not due until ${dayText(entry.due_day)}`
		case 'past due':
			return aged.daysPastDue === 1 ? '1 day past due' : `${aged.daysPastDue} days past due`
	}
}

/** Day of the last application up to a day. */
const settledOn = ({ applied, day }: Pick<Entry, 'applied' | 'day'>, asOf: Day): Day =>
	applied
		.map((part) => part.day)
		.filter((applied) => applied <= asOf)
		.sort()
		.at(-1) ?? day
