import { addDays, type Day, daysBetween } from './calendar'
import { amountText, isCurrency } from './currency'
import { parseDecimal, pow10, roundQuotient } from './decimal'
import { formatAmount } from './format'

/** What a firm charges on what is past due: a percent a year or a month, after days of grace, at least so much. */
export type LateTerms = {
	/** Decimal text; empty for no charges. */
	percent: string
	per: 'year' | 'month'
	grace: number
	/** Minor units of the home currency; an account in another has none. */
	minimum: number
}
/** An item past due: what is open of it (minor units), and until when it was charged before. */
export type LateItem = { id: number; number: string; due: Day; open: number; chargedTo: Day | null }
export type LateCharge = {
	amount: bigint
	/** How it was reached, an item a line. */
	working: string[]
	/** Items that are charged, each up to the day. */
	items: number[]
}

const daysOfYear = 365n

/**
 * The late charge on an account as of a day: for each item what is open × the rate × the days since it fell due and its grace
 * ended (or since it was charged last) ÷ 365, rounded half away from zero, a rate a month being twelve times that a year. Null when nothing
 * is to be charged.
 */
export function lateCharge(
	items: readonly LateItem[],
	asOf: Day,
	currency: string,
	terms: LateTerms,
	isHome: boolean,
): LateCharge | null {
	if (terms.percent === '' || !isCurrency(currency)) return null
	const percent = parseDecimal(terms.percent, 'percent', 4)
	const yearly = percent.units * (terms.per === 'month' ? 12n : 1n)
	const money = (minor: bigint | number) => formatAmount(amountText(BigInt(minor), currency))
	const charged = items.flatMap(({ id, number, due, open, chargedTo }) => {
		const graceEnds = addDays(due, terms.grace)
		const from = chargedTo !== null && chargedTo > graceEnds ? chargedTo : graceEnds
		const days = daysBetween(from, asOf)
		if (days <= 0) return []
		const amount = roundQuotient(
			BigInt(open) * yearly * BigInt(days),
			100n * pow10(percent.scale) * daysOfYear,
			'half-away',
		)
		const text = `${number}: ${money(open)} × ${terms.percent}% a ${terms.per} × ${days} days is ${money(amount)}`
		return [{ id, amount, text }]
	})
	const sum = charged.reduce((total, { amount }) => total + amount, 0n)
	if (sum === 0n) return null
	const least = isHome ? BigInt(terms.minimum) : 0n
	const working = charged.map(({ text }) => text)
	if (sum < least) working.push(`${money(sum)} is below the least charge, ${money(least)}`)
	return { amount: sum < least ? least : sum, working, items: charged.map(({ id }) => id) }
}
