import { type Day, dayText } from './calendar'

/** What keeps a customer from being written to about what is past due. */
export type Chase = {
	/** Promised peace until and on a day, and why; empty for none. */
	peaceUntil: Day | ''
	peaceReason: string
	/** Payments that are promised: for which day, and what of them has not come (minor units). */
	promised: { day: Day; left: number }[]
}

/** What is asked for of an account (minor units), and what makes it less than what is past due. */
export type Demand = { asked: bigint; promised: bigint; until: Day | '' }

/**
 * What of an account is asked for as of a day: what is past due, less what stands unapplied to the customer's credit, less what is promised
 * for that day or a later one; never below nothing, and so never more than is owed in all.
 */
export function demandOf(
	{ pastDue, unappliedCredits }: { pastDue: bigint; unappliedCredits: bigint },
	{ promised }: Pick<Chase, 'promised'>,
	asOf: Day,
): Demand {
	const owed = pastDue > unappliedCredits ? pastDue - unappliedCredits : 0n
	const awaited = promised.filter(({ day, left }) => day >= asOf && left > 0).sort((a, b) => (a.day < b.day ? -1 : 1))
	const sum = awaited.reduce((total, { left }) => total + BigInt(left), 0n)
	const covered = sum < owed ? sum : owed
	return { asked: owed - covered, promised: covered, until: covered > 0n ? (awaited[0]?.day ?? '') : '' }
}

/** Why no past-due letter is to go as of a day, in words; empty when one may. */
export function whyNotChased({ peaceUntil, peaceReason }: Chase, { asked, until }: Demand, asOf: Day): string {
	if (peaceUntil !== '' && peaceUntil >= asOf) return `peace until ${dayText(peaceUntil)}: ${peaceReason}`
	if (asked === 0n)
		return until === ''
			? 'what is past due is covered by what stands to their credit'
			: `a payment is promised for ${dayText(until)}`
	return ''
}
