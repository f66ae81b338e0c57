import type { Books } from '@/store/books'
import { type BenchRow, type Place, type RunGroup, rowsAt, runGroups } from '@/store/documents'
import { sourceTotals } from '@/store/runs'

export const stageNames = ['Gathered', 'Checked', 'Numbered', 'Made', 'Sent'] as const
export type StageName = (typeof stageNames)[number]
/** Orders and their net, minor units of the strip's currency: the same unit at every stage. */
export type Amount = { documents: number; orders: number; net: number }
/** A document that is in one stage and not in the next, and why. */
export type GapRow = { documentId: number; customer: string; orders: string; net: number; reason: string }
export type Stage = Amount & {
	name: StageName
	/** What the stage before has and this one has not; nothing when they tie. */
	gap: Amount
	/** The documents of the gap, the first of them when there are many. */
	gapRows: GapRow[]
	/** Whether anything has reached this stage, or could not reach it any more. */
	begun: boolean
}
export type Strip = { currency: string; sourceTotal: number | null; stages: Stage[] }

/** Gap rows that come along; a gap of more is told by its count. */
const mostGapRows = 200

/** The furthest stage of a document at each place; a stage holds all that came at least as far. */
const furthest: Record<Place, number> = {
	// Its revision stands for it at every stage.
	replaced: -2,
	held: 0,
	stopped: 0,
	'to number': 1,
	void: 1,
	'to make': 2,
	'to send': 3,
	'to read': 3,
	'to decide': 3,
	'to print': 3,
	done: 4,
}
const places = Object.keys(furthest) as Place[]

const reasons: Record<Place, (row: BenchRow) => string> = {
	held: (row) => `held back by ${row.held_by}: ${row.held_reason}`,
	stopped: (row) => `stopped: ${row.brief ?? 'see its checks'}`,
	'to number': () => 'not numbered yet',
	void: (row) => `void, made so by ${row.void_by}: ${row.void_reason}`,
	replaced: (row) => `revised by ${row.replaced_by}: ${row.replaced_reason}`,
	'to make': () => 'no PDF yet',
	'to send': () => 'not sent yet',
	'to read': () => 'its message is held to be read',
	'to decide': (row) =>
		row.message_state === 'refused'
			? `refused: ${row.message_answer}`
			: 'unsure whether it arrived: decide in the Postroom',
	'to print': () => 'no email: to be printed',
	done: () => '',
}

function addUp(groups: RunGroup[]): Amount {
	const amount = { documents: 0, orders: 0, net: 0 }
	for (const { documents, orders, net } of groups) {
		amount.documents += documents
		amount.orders += orders
		amount.net += net
	}
	return amount
}

/** The tally of a run, a strip a currency, the currency with most orders first. */
export function tallyOf(books: Books, runId: number, groups = runGroups(books, runId)): Strip[] {
	const totals = sourceTotals(books, runId)
	const strips = [...new Set(groups.map(({ currency }) => currency))].map((currency): Strip => {
		const own = groups.filter((group) => group.currency === currency)
		const stages = stageNames.map((name, index): Stage => {
			const amount = addUp(own.filter(({ place }) => furthest[place] >= index))
			const gap = addUp(own.filter(({ place }) => furthest[place] === index - 1))
			const begun = index < 2 || amount.documents > 0 || (index === 2 && countAt(own, 'void') > 0)
			const rows =
				begun && gap.documents > 0
					? rowsAt(
							books,
							runId,
							currency,
							places.filter((place) => furthest[place] === index - 1),
							mostGapRows,
						)
					: []
			return {
				name,
				...amount,
				gap,
				begun,
				gapRows: rows.map((row) => ({
					documentId: row.id,
					customer: row.customer_name,
					orders: row.order_numbers,
					net: row.net,
					reason: reasons[row.place](row),
				})),
			}
		})
		return { currency, sourceTotal: totals.get(currency) ?? null, stages }
	})
	return strips.sort((a, b) => (b.stages[0]?.orders ?? 0) - (a.stages[0]?.orders ?? 0))
}

/** What may be done next in a run, and how many documents it would touch. */
export type NextAct =
	| { act: 'number' | 'make' | 'send' | 'read' | 'print' | 'decide' | 'solve' | 'close'; count: number }
	| { act: 'none'; count: 0 }

const acts: [Place, 'number' | 'make' | 'send' | 'read' | 'decide' | 'print' | 'solve'][] = [
	['to number', 'number'],
	['to make', 'make'],
	['to send', 'send'],
	['to read', 'read'],
	['to decide', 'decide'],
	['to print', 'print'],
	['stopped', 'solve'],
]

/** How many documents of a run stand at a place. */
export const countAt = (groups: RunGroup[], place: Place): number =>
	addUp(groups.filter((group) => group.place === place)).documents

/** The one next action of an open run. */
export function nextAct(groups: RunGroup[]): NextAct {
	for (const [place, act] of acts) {
		const count = countAt(groups, place)
		if (count > 0) return { act, count }
	}
	return groups.length > 0 ? { act: 'close', count: countAt(groups, 'done') } : { act: 'none', count: 0 }
}
