import type { Day } from '@/core/calendar'
import { leastIn } from '@/core/leasts'
import type { OpenItemsResult } from '@/intake/openItems'
import type { Settings } from '@/store/settings'
import type { Currency } from './reviewed'

/** How the file of an extract ends: with a total or a count of its own, and with the end of a line. */
export type Ended = { totalled: boolean; line: boolean }

/** What the extract before had. */
type Before = Ended & { items: number }

/** From so many items fewer on, and so much of a share, a file is far shorter than the one before. */
const fewer = { items: 5, share: 0.6 }

/**
 * Why it takes a person's reason to accept an extract, each a word and its figures: it settles much, its control total or count is out, its last row
 * is cut, it lacks the total or the last line end that the one before had, it has far fewer items, its day is ahead of the work date.
 */
export function doubtsOf(
	read: OpenItemsResult,
	currencies: readonly Currency[],
	{ percent, amount, amounts }: Settings['extractLimits'],
	at: { home: string; asOf: Day | ''; worked: Day; ended: Ended; before: Before | null },
): string[] {
	const leasts = { least: amount, leasts: amounts }
	const rows = read.items.length + read.refused.length
	const { before, ended } = at
	return [
		...(at.asOf > at.worked ? [`ahead ${at.worked}`] : []),
		...(read.cut === null ? [] : [`cut ${read.cut}`]),
		...(read.counted === null || read.counted.fits ? [] : [`count ${read.counted.said} ${read.counted.rows}`]),
		...(before?.totalled && !ended.totalled ? ['untotalled'] : []),
		...(before?.line && !ended.line ? ['unended'] : []),
		...(before && before.items - rows >= fewer.items && rows < before.items * fewer.share
			? [`fewer ${rows} ${before.items}`]
			: []),
		...currencies.flatMap(({ currency, settles, open, file, control }) => {
			const much = BigInt(settles) > leastIn(leasts, currency, currency === at.home) && settles * 100 > open * percent
			const share = open === 0 ? 0 : Math.round((settles * 100) / open)
			return [
				...(much ? [`much ${currency} ${settles} ${share}`] : []),
				...(control !== null && control !== file ? [`control ${currency} ${control - file}`] : []),
			]
		}),
	]
}
