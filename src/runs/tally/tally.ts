import { type NextStep, type Place, placeRules, places, placesWhere, stepNames } from '@/core/places'
import type { Books } from '@/store/books'
import { type ChangeRow, changesOfRun } from '@/store/changes'
import { gatheredOf } from '@/store/orders'
import { type RunGroup, rowsAt, runGroups } from '@/store/places'
import { totalsToTie } from './statementTotals'

const stageNames = ['Gathered', 'Checked', 'Numbered', 'Made', 'Sent'] as const
type StageName = (typeof stageNames)[number]
/** Orders and their net, minor units of the strip's currency: the same unit at every stage. */
type Amount = { documents: number; orders: number; net: number }
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
export type Strip = {
	currency: string
	sourceTotal: number | null
	/** Net of the orders as they were gathered, before any change; the source's total is tied against it. */
	broughtIn: number
	/** What a person changed since, each with its reason and by how much. */
	changes: GapRow[]
	/** By how much the drafts are out of what was gathered and changed; 0 when they tie. Nothing is numbered while they are out. */
	untied: number
	stages: Stage[]
}

/** Gap rows that come along; a gap of more is told by its count. */
const mostGapRows = 200

const furthest = (place: Place): number => placeRules[place].stage

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
	const totals = totalsToTie(books, runId)
	const gathered = gatheredOf(books, runId)
	const changes = changesOfRun(books, runId)
	if (groups.length === 0) return []
	const currencies = [...new Set([...groups, ...gathered].map(({ currency }) => currency))]
	const strips = currencies.map((currency): Strip => {
		const own = groups.filter((group) => group.currency === currency)
		// What came in is known apart from the drafts where orders are gathered; other runs begin with their documents.
		const drafted = addUp(own.filter(({ place }) => furthest(place) >= 0))
		const effects = changes.filter((change) => change.currency === currency && change.effect !== 0 && explains(change))
		const broughtIn = gathered.find((one) => one.currency === currency)?.net ?? (gathered.length > 0 ? 0 : drafted.net)
		const changed = gathered.length > 0 ? effects.reduce((sum, { effect }) => sum + effect, 0) : 0
		const untied = drafted.net - broughtIn - changed
		const stages = stageNames.map((name, index): Stage => {
			const reached = addUp(own.filter(({ place }) => furthest(place) >= index))
			const amount = index === 0 ? { ...reached, net: broughtIn + changed } : reached
			const gap = addUp(own.filter(({ place }) => furthest(place) === index - 1))
			const begun = index < 2 || amount.documents > 0 || (index === 2 && countAt(own, 'void') > 0)
			const rows =
				begun && gap.documents > 0
					? rowsAt(
							books,
							runId,
							currency,
							places.filter((place) => furthest(place) === index - 1),
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
					reason: placeRules[row.place].reason(row),
				})),
			}
		})
		return {
			currency,
			sourceTotal: totals.get(currency) ?? null,
			broughtIn,
			changes: changed === 0 && effects.length === 0 ? [] : effects.map(changeRow),
			untied,
			stages,
		}
	})
	return strips.sort((a, b) => (b.stages[0]?.orders ?? 0) - (a.stages[0]?.orders ?? 0))
}

/** Dividing and putting together move no money but by rounding percents on each part; more than that explains nothing. */
const explains = ({ kind, effect }: ChangeRow): boolean => kind === 'content' || Math.abs(effect) <= 5

const changeRow = ({ document_id, words, reason, clerk, effect, kind, followed }: ChangeRow): GapRow => ({
	documentId: document_id,
	customer: words,
	orders: '',
	net: effect,
	reason: followed
		? `it follows: ${reason}`
		: `${kind === 'content' ? 'changed' : 'rounded on each part'} by ${clerk}: ${reason}`,
})

/** What may be done next in a run, and how many documents it would touch. */
export type NextAct = { act: NextStep; count: number } | { act: 'none'; count: 0 }

/** How many documents of a run stand at any of the places. */
export const countAt = (groups: RunGroup[], ...at: Place[]): number =>
	addUp(groups.filter(({ place }) => at.includes(place))).documents

/** The one next action of an open run. */
export function nextAct(groups: RunGroup[]): NextAct {
	for (const act of stepNames) {
		const count = countAt(groups, ...placesWhere(({ next }) => next === act))
		if (count > 0) return { act, count }
	}
	return groups.length > 0
		? { act: 'close', count: countAt(groups, ...placesWhere(({ stands }) => stands === 'done')) }
		: { act: 'none', count: 0 }
}
