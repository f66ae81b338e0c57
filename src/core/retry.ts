/** When a message that the server put off is tried again: after so many minutes each, the last of them again and again, for at most so many hours. */
export type RetryRule = { minutes: readonly number[]; hours: number }

/**
 * When the next try is.
 * @param tries how many there were that were put off, before this one
 * @param since time of the first of them, and `now` that of this one: UTC ISO texts
 * @returns UTC ISO text; null where the time for it is over
 */
export function retryAt({ minutes, hours }: RetryRule, tries: number, since: string, now: string): string | null {
	const wait = minutes[Math.min(tries, minutes.length - 1)]
	if (wait === undefined) return null
	const at = Date.parse(now) + wait * 60_000
	return at > Date.parse(since) + hours * 3_600_000 ? null : new Date(at).toISOString()
}
