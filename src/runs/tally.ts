import type { BenchRow } from '@/store/documents'

export const stageNames = ['Gathered', 'Checked', 'Numbered', 'Made', 'Sent'] as const
export type StageName = (typeof stageNames)[number]
/** Orders and their net, minor units of the strip's currency: the same unit at every stage. */
export type Amount = { orders: number; net: number }
/** A document that is in one stage and not in the next, and why. */
export type GapRow = { documentId: number; customer: string; orders: string; net: number; reason: string }
export type Stage = Amount & {
	name: StageName
	documents: number
	/** What the stage before has and this one has not; empty when they tie. */
	gap: GapRow[]
	/** Whether anything has reached this stage, or could not reach it any more. */
	begun: boolean
}
export type Strip = { currency: string; sourceTotal: number | null; stages: Stage[] }

const reached: ((row: BenchRow) => boolean)[] = [
	() => true,
	(row) => row.number !== null || (row.held_reason === null && row.level !== 'stop'),
	(row) => row.number !== null && row.void_at === null,
	(row) => row.made_at !== null && row.void_at === null,
	(row) => (row.message_state === 'sent' || row.printed_at !== null) && row.void_at === null,
]
const reasons: ((row: BenchRow) => string)[] = [
	() => '',
	(row) =>
		row.held_reason !== null
			? `held back by ${row.held_by}: ${row.held_reason}`
			: `stopped: ${row.brief ?? 'see its checks'}`,
	(row) => (row.void_at !== null ? `void, made so by ${row.void_by}: ${row.void_reason}` : 'not numbered yet'),
	() => 'no PDF yet',
	(row) => {
		if (row.email === '') return 'no email: to be printed'
		if (row.message_state === 'refused') return `refused: ${row.message_answer}`
		if (row.message_state === 'unsure') return 'unsure whether it arrived: decide in the Postroom'
		return 'not sent yet'
	},
]

/** The tally of a run, a strip a currency, the currency with most orders first. */
export function tallyOf(rows: BenchRow[], sourceTotals: Map<string, number>): Strip[] {
	const currencies = [...new Set(rows.map(({ currency }) => currency))]
	const strips = currencies.map((currency): Strip => {
		const own = rows.filter((row) => row.currency === currency)
		const stages = stageNames.map((name, index): Stage => {
			const here = own.filter((row) => reached[index]?.(row))
			const missing = own.filter((row) => (reached[index - 1]?.(row) ?? false) && !reached[index]?.(row))
			return {
				name,
				documents: here.length,
				orders: here.reduce((sum, row) => sum + row.order_count, 0),
				net: here.reduce((sum, row) => sum + row.net, 0),
				gap: missing.map((row) => ({
					documentId: row.id,
					customer: row.customer_name,
					orders: row.order_numbers,
					net: row.net,
					reason: reasons[index]?.(row) ?? '',
				})),
				begun: index < 2 || here.length > 0,
			}
		})
		return { currency, sourceTotal: sourceTotals.get(currency) ?? null, stages }
	})
	return strips.sort((a, b) => (b.stages[0]?.orders ?? 0) - (a.stages[0]?.orders ?? 0))
}

/** What may be done next in a run, and how many documents it would touch. */
export type NextAct =
	| { act: 'number' | 'make' | 'send' | 'print' | 'decide'; count: number }
	| { act: 'close'; count: number }
	| { act: 'solve'; count: number }
	| { act: 'none'; count: 0 }

/** The one next action of an open run. */
export function nextAct(all: BenchRow[]): NextAct {
	const rows = all.filter(({ void_at }) => void_at === null)
	const count = (is: (row: BenchRow) => boolean) => rows.filter(is).length
	const numberable = count((row) => row.number === null && row.held_reason === null && row.level !== 'stop')
	if (numberable > 0) return { act: 'number', count: numberable }
	const unmade = count((row) => row.number !== null && row.made_at === null)
	if (unmade > 0) return { act: 'make', count: unmade }
	const unsent = count(
		(row) =>
			row.made_at !== null &&
			row.email !== '' &&
			(row.message_state === null || row.message_state === 'waiting' || row.message_state === 'sending'),
	)
	if (unsent > 0) return { act: 'send', count: unsent }
	const undecided = count((row) => row.message_state === 'refused' || row.message_state === 'unsure')
	if (undecided > 0) return { act: 'decide', count: undecided }
	const unprinted = count((row) => row.made_at !== null && row.email === '' && row.printed_at === null)
	if (unprinted > 0) return { act: 'print', count: unprinted }
	const stopped = count((row) => row.number === null && row.held_reason === null)
	if (stopped > 0) return { act: 'solve', count: stopped }
	return all.length > 0 ? { act: 'close', count: count((row) => row.number !== null) } : { act: 'none', count: 0 }
}
