import { isCurrency } from '@/core/currency'
import { lineNet } from '@/core/lineNet'
import { discountOf, takeOrders } from '@/intake/orders'
import { orderForBooks } from '@/intake/ordersForBooks'
import type { OrdersOut, ReadLine } from '@/intake/readOrder'
import { cellReader } from '@/intake/rows'
import { type Books, inOneStep } from '@/store/books'
import type { Desk } from '@/store/events'
import { type Acceptance, endAcceptance, goingAcceptance, reachAcceptance, type SourceFile } from '@/store/files'
import {
	attachStaging,
	clearStopped,
	enterStaged,
	numbersInUse,
	ordersOfAcceptance,
	ordersOfNumber,
	putAway,
} from '@/store/orderIntake'
import { stagedCount, stagedOrders } from '@/store/outcomes'
import { broughtBefore } from '@/store/rowsTaken'
import { readSettings } from '@/store/settings'
import { type Staging, stagingPath } from '@/store/staging'
import { compareWithBooks, type Standing } from '../amended'
import type { Review } from '../review'
import {
	type Accepted,
	type Entered,
	type Entering,
	type KindRules,
	restWords,
	Stopped,
	standing,
	type Taken,
	type Taking,
} from './kind'

type Money = { taken: bigint; refused: bigint; orders: number; lines: number; net: bigint }

/** Takes the orders of a file: each with how it stands with the books. */
function takeOrdersIn({
	books,
	fileId,
	accepted,
	known,
	reading,
	decided,
	rows,
	answers,
	anew,
	refuse,
	left,
	stage,
}: Taking): Taken {
	const sums = new Map<string, Money>()
	const sumOf = (currency: string): Money => {
		const sum = sums.get(currency) ?? { taken: 0n, refused: 0n, orders: 0, lines: 0, net: 0n }
		sums.set(currency, sum)
		return sum
	}
	const amountOf = (line: ReadLine, currency: string): bigint | null =>
		line.quantity === '' || line.unitPrice === null
			? null
			: lineNet({ ...line, unitPrice: line.unitPrice }, discountOf(line), isCurrency(currency) ? currency : known.home)
	let lookedUp: Record<string, number> = {}
	const unknown = new Map<string, Review['unknown'][number]>()
	const missed = (what: 'item' | 'tax code', value: string, row: number) => {
		const key = `${what} ${value}`
		const one = unknown.get(key) ?? { what, value, rows: 0, first: row }
		one.rows++
		if (unknown.size < 5000) unknown.set(key, one)
	}
	let [taken, untold, withoutPrice] = [0, 0, 0]
	let sourceTotal: Review['sourceTotal'] = null
	const read = cellReader(decided)
	const numbers = numbersInUse(books)
	const begin = (): OrdersOut => ({
		refuse,
		left,
		sourceTotal: (row, figure) => {
			const value = read(figure, 'amount').text
			if (value !== '') sourceTotal = { row, value }
		},
		refusedLines: (customer, currency, lines) => {
			const own = currency || known.customer(customer)?.currency || known.home
			for (const line of lines) {
				const amount = amountOf(line, own)
				if (amount === null) untold++
				else sumOf(own).refused += amount
			}
		},
		order: (order, tell) => {
			const made = orderForBooks(order, known, tell)
			if (!made) return
			const ofNumber = numbers.has(made.number) ? ordersOfNumber(books, made.number) : []
			const standing: Standing =
				accepted && broughtBefore(books, fileId, made)
					? { is: 'known' }
					: compareWithBooks(books, made, ofNumber, answers.again)
			if (standing.is === 'refused') return tell('order', standing.words)
			taken += order.rows.length
			const sum = sumOf(made.currency)
			if (standing.is !== 'known') {
				sum.orders++
				sum.lines += made.lines.length
				sum.net += made.net
			}
			let priceless = false
			for (const line of made.lines) {
				if (line.net === null) priceless = true
				else sum.taken += line.net
				if (line.lookedUp !== '')
					for (const name of line.lookedUp.split(',')) lookedUp[name] = (lookedUp[name] ?? 0) + 1
				if (line.item !== '' && !known.items.has(line.item)) missed('item', line.item, line.sourceRow)
				if (line.taxCode !== '' && !known.taxCodes.has(line.taxCode)) missed('tax code', line.taxCode, line.sourceRow)
			}
			if (priceless) withoutPrice++
			if (made.lookedUp !== '') lookedUp.currency = (lookedUp.currency ?? 0) + 1
			stage({
				order: made,
				standing: standing.is,
				firstRow: order.rows[0] ?? 0,
				replaces: standing.is === 'changed' ? standing.order : null,
				words:
					standing.is === 'changed'
						? JSON.stringify(standing.changes)
						: standing.is === 'of another'
							? standing.words
							: '',
				apart: standing.is === 'new' ? standing.apart : '',
			})
		},
	})
	let begun = false
	takeOrders(rows, reading, decided, known.ownFields, () => {
		if (begun) {
			anew()
			sums.clear()
			unknown.clear()
			lookedUp = {}
			taken = untold = withoutPrice = 0
			sourceTotal = null
		}
		begun = true
		return begin()
	})
	return {
		rows: taken,
		money: [...sums]
			.map(([currency, { taken, refused, orders, lines, net }]) => ({
				currency,
				taken: taken.toString(),
				refused: refused.toString(),
				orders,
				lines,
				net: net.toString(),
			}))
			.sort((a, b) => b.orders - a.orders),
		untold,
		sourceTotal,
		lookedUp,
		withoutPrice,
		unknown: [...unknown.values()].sort((a, b) => b.rows - a.rows).slice(0, 50),
	}
}

/** Lets others write between two steps. */
const breathe = () => new Promise((resolve) => setTimeout(resolve, 1))
/** Orders that go over in one step: more take long enough to keep a clerk who writes waiting, fewer write the pages of indexes anew too often. */
const stepSize = 2000

/** Orders come in step by step and count all at once, when the last is in; an accepting that was torn goes on where it was. */
async function acceptOrders(entering: Entering, end: (entered: Entered) => Accepted): Promise<Accepted> {
	const { books, desk, file, staging, watch } = entering
	const { freightTaxCode } = readSettings(books)
	const acceptance = inOneStep(books, () => goingAcceptance(books, desk, file.id))
	const total = stagedCount(staging)
	const met: string[] = []
	const detach = attachStaging(books, stagingPath(books.folder, file.id))
	try {
		for (let reached = acceptance.reached; reached < total; ) {
			const to = Math.min(reached + stepSize, total)
			const step: [number, number] = [reached, to]
			inOneStep(books, () => {
				const entered = enterStaged(books, file.id, acceptance.id, 'new', step, freightTaxCode)
				met.push(...entered.met.map((number) => `order ${number}`))
				reachAcceptance(books, acceptance.id, to)
			})
			reached = to
			watch.seen(reached, total)
			await breathe()
		}
		return inOneStep(books, () => end(allAreIn(entering, acceptance, freightTaxCode, met)))
	} catch (error) {
		if (error instanceof Stopped) await stop(books, acceptance)
		throw error
	} finally {
		detach()
	}
}

/** From now on the orders of an accepting count; amended ones take the place of those that wait. */
function allAreIn(
	{ books, desk, file, staging, review, answers }: Entering,
	acceptance: Acceptance,
	freightTaxCode: string,
	met: string[],
): Entered {
	const replaced =
		answers.amended === 'replace' ? replaceWaiting(books, desk, file, acceptance, staging, freightTaxCode, met) : 0
	const { orders, lines } = ordersOfAcceptance(books, acceptance.id)
	const known = review.standings.known ?? 0
	const parts = [
		`${orders === 1 ? '1 order' : `${orders} orders`} with ${lines === 1 ? '1 line was' : `${lines} lines were`} added`,
		...(replaced > 0 ? [`${replaced} of them in place of waiting ones`] : []),
		...(known > 0 ? [known === 1 ? '1 was here already' : `${known} were here already`] : []),
		...(met.length > 0 ? [`${met.length} had come in meanwhile and were not: ${met.slice(0, 3).join('; ')}`] : []),
	]
	const words = `${parts.join('; ')}${restWords(review)}.`
	const { new: fresh = 0, changed = 0, 'of another': others = 0 } = review.standings
	const left = changed - replaced
	return {
		words,
		left: {
			...review,
			standings: { known: known + fresh + others + replaced, ...(left > 0 ? { changed: left } : {}) },
		},
	}
}

/** Removes what came in of an accepting that is stopped; none of it ever counted. */
async function stop(books: Books, acceptance: Acceptance): Promise<void> {
	inOneStep(books, () => endAcceptance(books, acceptance.id, 'stopped', 'Stopped; nothing of it is in the books.'))
	while (inOneStep(books, () => clearStopped(books, acceptance.id, stepSize)) > 0) await breathe()
}

/** Puts amended orders in the place of those that wait; one that a run took meanwhile stays as it is. */
function replaceWaiting(
	books: Books,
	desk: Desk,
	file: SourceFile,
	acceptance: Acceptance,
	staging: Staging,
	freightTaxCode: string,
	met: string[],
): number {
	let replaced = 0
	let after = 0
	for (;;) {
		const staged = stagedOrders(staging, 'changed', after, stepSize)
		const last = staged.at(-1)
		if (!last) return replaced
		after = last.seq
		for (const { seq, number, replaces } of staged) {
			const before = ordersOfNumber(books, number).find(({ id }) => id === replaces)
			if (before?.place !== 'waits' || !putAway(books, desk, before.id, 'replaced', `amended by ${file.name}`)) {
				met.push(`order ${number}, which waits no more`)
				continue
			}
			const { entered, met: stands } = enterStaged(
				books,
				file.id,
				acceptance.id,
				'changed',
				[seq - 1, seq],
				freightTaxCode,
			)
			replaced += entered
			met.push(...stands.map((one) => `order ${one}`))
		}
	}
}

export const ordersRules: KindRules = {
	take: takeOrdersIn,
	enter: acceptOrders,
	countToAccept: (review) => standing(review, 'new', 'changed', 'of another'),
	one: 'order',
	several: 'orders',
}
