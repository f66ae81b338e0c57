import fc from 'fast-check'
import { expect, test } from 'vitest'
import { walks } from '../../tests/walks'
import { addDays, type Day } from './calendar'
import { type LateTerms, lateCharge } from './lateCharge'
import type { Entry } from './ledger'

// Late charges reckoned day by day in whole numbers, from what happened, beside the program's stretches of days.

/** What happens to an item, each so many days after its first: paid, its amount or due date made otherwise, in dispute, in dispute no more. */
type Happens = { after: number; what: 'paid' | 'amount' | 'due' | 'dispute' | 'settled'; by: number }
type Life = {
	kind: Entry['kind']
	amount: number
	terms: number
	happens: Happens[]
	before: { after: number; amount: number; interest: number } | null
}
const first: Day = '2027-09-15'

type Then = { open: number; due: Day; disputed: boolean }
/** An item's days from its first: what was open at the end of each, when it was due, whether it was in dispute; and the item as the ledger holds it. */
function lived({ kind, amount, terms, happens }: Life, id: number, days: number): { each: Then[]; entry: Entry } {
	const entry: Entry & {
		changes: NonNullable<Entry['changes']>[number][]
		disputes: { since: Day; ended: Day | null }[]
	} = {
		...{
			id,
			kind,
			side: 'debit',
			number: `N-${id}`,
			day: first,
			due_day: addDays(first, terms),
			currency: 'GBP',
			amount,
		},
		...{ applied: [], changes: [], disputes: [] },
	}
	const each: Then[] = []
	let [worth, open, due, disputed] = [amount, amount, addDays(first, terms), false]
	for (let at = 0; at <= days; at++) {
		const day = addDays(first, at)
		for (const { what, by } of happens.filter(({ after }) => after === at)) {
			if (what === 'paid' && open > 0) {
				const some = Math.min(open, by)
				open -= some
				entry.applied.push({ day, amount: some })
			} else if (what === 'amount' || what === 'due') {
				const change = { amount_was: worth, due_was: due, dated_was: '' as const, dated_is: '' as const }
				if (what === 'amount') {
					const more = by % 2 ? by : -Math.min(by, open)
					if (worth + more <= 0) continue
					worth += more
					open += more
				} else due = addDays(due, (by % 41) - 20)
				entry.changes.push({ ...change, day, amount_is: worth, due_is: due })
			} else if (what === 'dispute' && !disputed) {
				disputed = true
				entry.disputes.push({ since: day, ended: null })
			} else if (what === 'settled' && disputed) {
				disputed = false
				const last = entry.disputes.at(-1)
				if (last) last.ended = day
			}
		}
		each.push({ open, due, disputed })
	}
	return { each, entry: { ...entry, amount: worth, due_day: due } }
}

const bearing = ['invoice', 'debit note', 'adjustment']
/** The charge on an account, item by item and day by day; a rate is ten-thousandths of a percent. */
function byDays(
	lives: Life[],
	days: number,
	terms: { rate: (day: Day) => number; grace: number; least: number; monthly: boolean; leap: boolean },
	since: number | null,
): number {
	let sum = 0
	lives.forEach((life, place) => {
		const { each } = lived(life, place + 1, days)
		const end = each[days]
		if (!end || !bearing.includes(life.kind) || end.disputed || (end.open === 0 && since === null)) return
		// Hundredths of a ten-thousandth of a minor unit, times the days of a year: those of 365 days and of 366 apart.
		const parts = new Map<bigint, bigint>()
		for (let at = 0; at <= days; at++) {
			const then = each[at]
			const day = addDays(first, at)
			if (!then || then.disputed) continue
			if (day <= addDays(end.due, terms.grace)) continue
			if (life.before && at <= life.before.after) continue
			if (end.open === 0 && since !== null && at <= since) continue
			const year = Number(day.slice(0, 4))
			const length = terms.leap && new Date(Date.UTC(year, 1, 29)).getUTCMonth() === 1 ? 366n : 365n
			parts.set(
				length,
				(parts.get(length) ?? 0n) + BigInt(then.open) * BigInt(terms.rate(day)) * (terms.monthly ? 12n : 1n),
			)
		}
		const [common, plain] = [parts.get(365n) ?? 0n, parts.get(366n) ?? 0n]
		const [over, under] = [common * 366n + plain * 365n, 1_000_000n * 365n * 366n]
		const interest = Number((2n * over + under) / (2n * under))
		if (interest === 0) return
		const owed = Math.max(terms.least, (life.before?.interest ?? 0) + interest)
		sum += Math.max(0, owed - (life.before?.amount ?? 0))
	})
	return sum
}

const happens = fc.record({
	...{ after: fc.nat(420), what: fc.constantFrom('paid', 'paid', 'amount', 'due', 'dispute', 'settled') },
	by: fc.integer({ min: 1, max: 90_000 }),
}) as fc.Arbitrary<Happens>
const life = fc.record({
	kind: fc.constantFrom('invoice', 'invoice', 'debit note', 'charge', 'adjustment'),
	...{ amount: fc.integer({ min: 1, max: 200_000 }), terms: fc.nat(60), happens: fc.array(happens, { maxLength: 6 }) },
	before: fc.option(fc.record({ after: fc.nat(300), amount: fc.nat(900), interest: fc.nat(900) })),
}) as fc.Arbitrary<Life>
const given = fc.record({
	...{ lives: fc.array(life, { minLength: 1, maxLength: 4 }), days: fc.integer({ min: 1, max: 420 }) },
	rates: fc.array(fc.tuple(fc.nat(420), fc.integer({ min: 0, max: 200_000 })), { minLength: 1, maxLength: 3 }),
	...{ grace: fc.nat(20), least: fc.oneof(fc.constant(0), fc.nat(2000)), monthly: fc.boolean(), leap: fc.boolean() },
	...{ home: fc.boolean(), since: fc.option(fc.nat(300)) },
})

test('a late charge is what each day of each item comes to, whoever else is on the account and however often it is asked', () => {
	let charged = 0
	fc.assert(
		fc.property(given, ({ lives, days, rates, grace, least, monthly, leap, home, since }) => {
			const rising = [...new Map(rates.map(([after, rate]) => [after, rate]))].sort(([a], [b]) => a - b)
			const terms: LateTerms = {
				rates: rising.map(([after, rate]) => ({ from: addDays(first, after), percent: (rate / 10_000).toFixed(4) })),
				...{ per: monthly ? 'month' : 'year', grace, minimum: least, year: leap ? 'actual' : '365' },
			}
			const rate = (day: Day) => rising.filter(([after]) => addDays(first, after) <= day).at(-1)?.[1] ?? 0
			const asOf = addDays(first, days)
			const entries = lives.map((one, place) => lived(one, place + 1, 420).entry)
			const before = (id: number) => {
				const one = lives[id - 1]?.before
				return one ? { to: addDays(first, one.after), amount: one.amount, interest: one.interest } : undefined
			}
			const ask = (some: Entry[]) =>
				Number(
					lateCharge(some, asOf, 'GBP', terms, {
						...{ isHome: home, since: since === null ? null : addDays(first, since), chargedOf: before },
					})?.amount ?? 0n,
				)
			const model = { rate, grace, least: home ? least : 0, monthly, leap }
			const should = byDays(lives, days, model, since)
			if (should > 0) charged++
			expect(ask(entries)).toBe(should)
			expect(entries.reduce((sum, entry) => sum + ask([entry]), 0)).toBe(should)
			expect(ask([...entries].reverse())).toBe(should)
		}),
		{ numRuns: walks(400) },
	)
	expect(charged).toBeGreaterThan(walks(400) / 4)
})
