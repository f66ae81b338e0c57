import { addDays, type Day, dayText } from './calendar'

/** What keeps a customer from being written to about what is past due. */
export type Chase = {
	/** Promised peace until and on a day, and why; empty for none. */
	peaceUntil: Day | ''
	peaceReason: string
	/** Days for which a payment is promised and has not come. */
	promised: Day[]
	/** Day of the statement that the last past-due letter went with. */
	lastLetter: Day | null
}

/** Why no past-due letter is to go as of a day, in words; empty when one may. `leastDays` lie between two letters. */
export function whyNotChased(chase: Chase, asOf: Day, leastDays: number): string {
	const { peaceUntil, peaceReason, promised, lastLetter } = chase
	if (peaceUntil !== '' && peaceUntil >= asOf) return `peace until ${dayText(peaceUntil)}: ${peaceReason}`
	const awaited = promised.filter((day) => day >= asOf).sort()[0]
	if (awaited) return `a payment is promised for ${dayText(awaited)}`
	if (lastLetter === null) return ''
	const next = addDays(lastLetter, leastDays)
	return next > asOf ? `written to as of ${dayText(lastLetter)}; not again before ${dayText(next)}` : ''
}
