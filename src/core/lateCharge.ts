import { addDays, type Day, daysBetween, dayText } from './calendar'
import { amountText, isCurrency } from './currency'
import { parseDecimal, pow10, roundQuotient } from './decimal'
import { formatAmount } from './format'
import { type Entry, entryAsOf, kindRules } from './ledger'

/** What a firm charges on what is past due: a percent a year or a month, after days of grace, at least so much an item. */
export type LateTerms = {
	/** Percents (decimal text) by the first day that each counts for, rising; an empty day for all days before. None: no charges. */
	rates: { from: Day | ''; percent: string }[]
	per: 'year' | 'month'
	/** Days after the due date. */
	grace: number
	/** Minor units of the home currency, once an item; an account in another currency has none. */
	minimum: number
	/** What a year is: 365 days, or the days that it has (actual/365, actual/actual of ISDA by calendar years). */
	year: '365' | 'actual'
}
/** What was charged on an item before: until which day, how much, and the interest that it comes to (minor units). */
export type Charged = { to: Day; amount: number; interest: number }
type LateCharge = {
	amount: bigint
	/** How it was reached, an item a line. */
	working: string[]
	/** Items that are charged, each up to the day, with what is charged on it now and the interest of these days (minor units). */
	parts: { id: number; amount: number; interest: number }[]
}
/** Days on which the same stands: so much open (minor units), at a rate, in a year of so many days. */
type Stretch = { from: Day; days: number; open: number; percent: string; year: number }

const isLeap = (year: number): boolean => (year % 4 === 0 && year % 100 !== 0) || year % 400 === 0
/** The percent that counts on a day; empty for none. */
export const rateOn = ({ rates }: Pick<LateTerms, 'rates'>, day: Day): string =>
	rates.filter(({ from }) => from <= day).at(-1)?.percent ?? ''

/** Stretches of days from one to another, both counted, on which what is open of an item, the rate and the year do not change. */
function stretchesOf(entry: Entry, from: Day, to: Day, terms: LateTerms): Stretch[] {
	const years: Day[] = []
	for (let year = Number(from.slice(0, 4)) + 1; year <= Number(to.slice(0, 4)); year++) years.push(`${year}-01-01`)
	const turns = [
		from,
		...entry.applied.map(({ day }) => day),
		...(entry.changes ?? []).map(({ day }) => day),
		...entry.disputes.flatMap(({ since, ended }) => (ended === null ? [since] : [since, ended])),
		...terms.rates.map((rate) => rate.from),
		...(terms.year === 'actual' ? years : []),
	]
	const days = [...new Set(turns)].filter((day) => day >= from && day <= to).sort()
	return days.flatMap((day, place): Stretch[] => {
		const next = days[place + 1] ?? addDays(to, 1)
		const percent = rateOn(terms, day)
		const then = entryAsOf(entry, day)
		const open = then.disputedSince === '' ? then.open : 0
		const year = terms.year === 'actual' && isLeap(Number(day.slice(0, 4))) ? 366 : 365
		return open > 0 && percent !== '' ? [{ from: day, days: daysBetween(day, next), open, percent, year }] : []
	})
}

/** The interest of stretches in minor units, rounded once, half away from zero. */
function interestOf(stretches: Stretch[], per: LateTerms['per']): bigint {
	const both = 365n * 366n
	const sum = stretches.reduce((total, { days, open, percent, year }) => {
		const { units, scale } = parseDecimal(percent, 'percent', 4)
		return total + BigInt(open) * units * pow10(4 - scale) * BigInt(days) * (both / BigInt(year))
	}, 0n)
	return roundQuotient(sum * (per === 'month' ? 12n : 1n), 100n * pow10(4) * both, 'half-away')
}

/**
 * The late charge on an account as of a day: for each debit whose kind bears one, for each day from the one after it fell due and its grace ended
 * (or after the last day that was charged) what was open and not in dispute on that day × the rate of that day ÷ the days of a year. What was paid since the
 * last charge is charged up to its payment. A rate a month is twelve times that a year. The least charge is asked once an item.
 * @param chargedOf what was charged on an item before
 * @param since the day of the account's last charge; what was settled by now counts from the day after it, and without one not at all
 * @returns null when nothing is to be charged
 */
export function lateCharge(
	entries: readonly Entry[],
	asOf: Day,
	currency: string,
	terms: LateTerms,
	{ isHome, since, chargedOf }: { isHome: boolean; since: Day | null; chargedOf: (id: number) => Charged | undefined },
): LateCharge | null {
	if (terms.rates.length === 0 || !isCurrency(currency)) return null
	const money = (minor: bigint | number) => formatAmount(amountText(BigInt(minor), currency))
	const least = isHome ? BigInt(terms.minimum) : 0n
	const working: string[] = []
	const parts: LateCharge['parts'] = []
	for (const entry of entries) {
		if (entry.side !== 'debit' || !kindRules[entry.kind].bearsLate || entry.day > asOf) continue
		const then = entryAsOf(entry, asOf)
		if (then.disputedSince !== '') continue
		const settled = then.open === 0
		if (settled && since === null) continue
		const before = chargedOf(entry.id)
		const graceEnds = addDays(then.due_day, terms.grace)
		const after = [graceEnds, before?.to ?? '', settled ? (since ?? '') : ''].sort().at(-1) ?? graceEnds
		if (after >= asOf) continue
		const stretches = stretchesOf(entry, addDays(after, 1), asOf, terms)
		const interest = interestOf(stretches, terms.per)
		if (interest === 0n) continue
		const due = BigInt(before?.interest ?? 0) + interest
		const whole = due < least ? least : due
		const amount = whole - BigInt(before?.amount ?? 0)
		const said = stretches.map(
			({ from, days, open, percent, year }) =>
				`${money(open)} × ${percent}% a ${terms.per} × ${days} days from ${dayText(from)} ÷ ${year}`,
		)
		working.push(`${entry.number}: ${said.join(' + ')} is ${money(interest)}`)
		if (amount !== interest)
			working.push(
				before === undefined || before.amount === 0
					? `${entry.number}: ${money(amount)}, the least charge on an item`
					: `${entry.number}: ${money(before.amount)} was charged on it before, so ${money(amount > 0n ? amount : 0n)} now`,
			)
		parts.push({ id: entry.id, amount: Number(amount > 0n ? amount : 0n), interest: Number(interest) })
	}
	const sum = parts.reduce((total, { amount }) => total + amount, 0)
	return sum === 0 ? null : { amount: BigInt(sum), working, parts }
}
