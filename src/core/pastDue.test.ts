import fc from 'fast-check'
import { expect, test } from 'vitest'
import { addDays } from './calendar'
import { accountsAsOf, type Entry, entriesAsOf } from './ledger'
import { lastDayNothingPastDue } from './pastDue'

const first = '2026-09-01'
const day = (most: number) => fc.integer({ min: 0, max: most }).map((days) => addDays(first, days))

test('the last day with nothing past due is the one that ageing of every day finds', () => {
	const entry = fc
		.record({
			day: day(60),
			terms: fc.integer({ min: 0, max: 20 }),
			paid: fc.option(day(80)),
			disputed: fc.option(day(70)),
		})
		.map(
			({ day: dated, terms, paid, disputed }): Entry => ({
				...{ id: 1, kind: 'invoice', side: 'debit', number: 'X', day: dated, due_day: addDays(dated, terms) },
				...{ currency: 'GBP', amount: 100 },
				applied: paid && paid >= dated ? [{ day: paid, amount: 100 }] : [],
				disputes: disputed ? [{ since: disputed, ended: addDays(disputed, 9) }] : [],
			}),
		)
	fc.assert(
		fc.property(
			fc.array(entry, { maxLength: 5 }),
			day(70),
			fc.integer({ min: 0, max: 30 }),
			(entries, from, length) => {
				const to = addDays(from, length)
				const days = Array.from({ length: length + 1 }, (_, at) => addDays(from, at))
				const clear = days.filter((on) => (accountsAsOf(entriesAsOf(entries, on))[0]?.pastDue ?? 0n) === 0n)
				expect(lastDayNothingPastDue(entries, from, to)).toBe(clear.at(-1) ?? null)
			},
		),
		{ numRuns: 500 },
	)
})
