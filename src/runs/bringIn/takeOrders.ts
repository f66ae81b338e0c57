import { isCurrency } from '@/core/currency'
import { lineNet } from '@/core/lineNet'
import { discountOf, type OrdersOut, type ReadLine, takeOrders } from '@/intake/orders'
import { orderForBooks } from '@/intake/ordersForBooks'
import { cellReader } from '@/intake/rows'
import { numbersInUse, ordersOfNumber } from '@/store/orderIntake'
import { standingOf } from './amended'
import type { Review } from './review'
import type { Taken, Taking } from './take'

type Money = { taken: bigint; refused: bigint; orders: number; lines: number; net: bigint }

/** Takes the orders of a file: each with how it stands with the books. */
export function takeOrdersIn({
	books,
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
			const standing = standingOf(books, made, ofNumber, answers.again)
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
	takeOrders(rows, reading, decided, known.own, () => {
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
