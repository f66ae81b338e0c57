import { addDays, type Day } from './calendar'
import { type Entry, entryAsOf } from './ledger'

/** What of an entry is past due and undisputed on a day (CALCULATION, what a customer owes). */
function lateOn(entry: Entry, day: Day): number {
	if (entry.side !== 'debit' || entry.day > day) return 0
	const { due_day, disputedSince, open } = entryAsOf(entry, day)
	return due_day >= day || disputedSince !== '' ? 0 : open
}

/**
 * The latest day from one to another, both counted, on which nothing of the entries was past due; null where something was on all of them.
 * @param entries of one account, with all that moved them since the first day
 */
export function lastDayNothingPastDue(entries: readonly Entry[], from: Day, to: Day): Day | null {
	const moved = new Map<Day, number>()
	for (const entry of entries) {
		const turns = [
			from,
			entry.day,
			addDays(entry.due_day, 1),
			...entry.applied.map(({ day }) => day),
			...(entry.changes ?? []).flatMap(({ day, due_was, due_is }) => [day, addDays(due_was, 1), addDays(due_is, 1)]),
			...entry.disputes.flatMap(({ since, ended }) => (ended === null ? [since] : [since, ended])),
		]
		let before = 0
		for (const day of [...new Set(turns)].filter((one) => one >= from && one <= to).sort()) {
			const now = lateOn(entry, day)
			if (now !== before) moved.set(day, (moved.get(day) ?? 0) + now - before)
			before = now
		}
	}
	const days = [...moved.keys()].sort()
	let late = 0
	let clear: Day | null = days[0] === from ? null : from
	days.forEach((day, place) => {
		const was = late
		late += moved.get(day) ?? 0
		// Nothing was past due up to the day before this one.
		if (was === 0 && day > from) clear = addDays(day, -1)
		if (late === 0 && place === days.length - 1) clear = to
	})
	if (days.length === 0) return to
	return late === 0 ? to : clear
}
