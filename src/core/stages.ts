import { z } from 'zod'
import { addDays, type Day, dayText } from './calendar'
import { leastIn, leastsShape } from './leasts'

/** A stage of past-due letters. */
export const stageSchema = z.object({
	name: z.string().trim().min(1, 'Every stage needs a name.').max(40),
	/** Of the first: days that the oldest item must be past due. Of each other: days since the letter before it went. */
	days: z.number().int('Days are whole.').min(1, 'A stage begins after at least one day.').max(1000),
	/** Smallest amounts that a letter of it asks for; below them none goes. */
	...leastsShape,
	/** Whether a person must read each before it goes. */
	read: z.boolean(),
})
export type Stage = z.infer<typeof stageSchema>

/** A past-due letter of an account that really went: its stage, from 1, and the day on which it did. */
export type Written = { stage: number; day: Day }

/** The letter of a stage; 0 is the one that asks for nothing past due. */
export const letterOfStage = (stage: number): string => (stage === 0 ? 'statement' : `past-due-${stage}`)

/**
 * Which letter an account gets next: the first once the oldest item is late enough, and each next only after the one before really went
 * and its days have passed, whatever the age of the items.
 * @param written the letters that went since nothing was past due, in any order
 * @param oldest days that the oldest undisputed item is past due; 0 for none
 * @param asked what the letter would ask for (minor units)
 * @returns the stage, from 1; 0 with why none goes, and from when on where it is only the days since the last
 */
export function nextStage(
	stages: readonly Stage[],
	written: readonly Written[],
	{
		oldest,
		asked,
		asOf,
		currency,
		isHome,
	}: { oldest: number; asked: bigint; asOf: Day; currency: string; isHome: boolean },
): { stage: number; why: string; from?: Day } {
	const none = (why: string) => ({ stage: 0, why })
	if (oldest === 0 || asked <= 0n) return none('')
	const last = [...written].sort((a, b) => a.stage - b.stage || (a.day < b.day ? -1 : 1)).at(-1)
	const stage = (last?.stage ?? 0) + 1
	const next = stages[stage - 1]
	if (!next)
		return none(
			last
				? `the last of the letters went as of ${dayText(last.day)}`
				: 'there are no stages of letters; set them under Letters',
		)
	if (!last && oldest < next.days) return none(`the first letter goes from ${next.days} days past due on`)
	if (last) {
		const from = addDays(last.day, next.days)
		if (from > asOf)
			return { ...none(`written to as of ${dayText(last.day)}; not again before ${dayText(from)}`), from }
	}
	if (asked < leastIn(next, currency, isHome)) return none(`what is past due is below the least for “${next.name}”`)
	return { stage, why: '' }
}
