import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { addDays } from './calendar'
import { accountsAsOf, type Entry, earliestDayOpen, entriesAsOf, entryAsOf, openFrom } from './ledger'
import { whyItem } from './why'

const entry = (more: Partial<Entry> = {}): Entry => ({
	id: 1,
	kind: 'invoice',
	side: 'debit',
	number: 'T-0041',
	day: '2026-09-01',
	due_day: '2026-10-01',
	currency: 'GBP',
	amount: 1000,
	applied: [],
	disputes: [],
	...more,
})
const why = (more: Partial<Entry>, asOf = '2026-10-31') => {
	const item = accountsAsOf(entriesAsOf([entry(more)], asOf))[0]?.items[0]
	return item && whyItem(entryAsOf(entry(more), asOf), item)
}

describe('why an item is on a statement or not is said in words', () => {
	test.each<[words: string, more: Partial<Entry>]>([
		['30 days past due', {}],
		['1 day past due', { due_day: '2026-10-30' }],
		['due on the day itself', { due_day: '2026-10-31' }],
		['not due until 6 Dec 2026', { due_day: '2026-12-06' }],
		['a credit', { side: 'credit' }],
		['settled on 2 Sep 2026', { applied: [{ day: '2026-09-02', amount: 1000 }] }],
		['disputed since 4 Oct 2026', { disputes: [{ since: '2026-10-04', ended: null }] }],
		['30 days past due', { disputes: [{ since: '2026-10-04', ended: '2026-10-09' }] }],
		['dated 1 Nov 2026, after 31 Oct 2026', { day: '2026-11-01', due_day: '2026-11-01' }],
	])('%s', (words, more) => {
		expect(why(more)).toBe(words)
	})
})

test('what is applied on a day leaves no later day with more applied than there was', () => {
	const paid = entry({
		applied: [
			{ day: '2026-10-12', amount: 1000 },
			{ day: '2026-10-31', amount: -1000 },
		],
	})
	const payment = entry({ id: 2, kind: 'payment', side: 'credit', day: '2026-10-20' })
	expect(openFrom(paid, '2026-10-20')).toBe(0)
	expect(earliestDayOpen([paid, payment], '2026-10-20', 1000)).toBe('2026-10-31')
	expect(earliestDayOpen([paid, payment], '2026-10-20', 1001)).toBeNull()
	expect(earliestDayOpen([entry()], '2026-08-01', 1)).toBe('2026-09-01')
	const move = fc.record({ day: fc.integer({ min: 0, max: 30 }), amount: fc.integer({ min: -600, max: 600 }) })
	fc.assert(
		fc.property(
			fc.array(move, { maxLength: 8 }),
			fc.integer({ min: 0, max: 40 }),
			fc.integer({ min: 1, max: 400 }),
			(moves, wanted, amount) => {
				// Kept where it leaves every day sound, as the ledger would.
				const one = entry()
				for (const { day, amount: by } of moves) {
					const next = [...one.applied, { day: addDays(one.day, day), amount: by }]
					const days = Array.from({ length: 60 }, (_, at) => addDays(one.day, at))
					const open = (asOf: string) =>
						next.reduce((sum, part) => (part.day <= asOf ? sum - part.amount : sum), one.amount)
					if (days.every((asOf) => open(asOf) >= 0 && open(asOf) <= one.amount)) one.applied = next
				}
				const from = addDays(one.day, wanted)
				const day = earliestDayOpen([one], from, amount)
				const openOn = (asOf: string) => Number(accountsAsOf(entriesAsOf([one], asOf))[0]?.items[0]?.open ?? 0n)
				const least = (start: string) => Math.min(...Array.from({ length: 80 }, (_, at) => openOn(addDays(start, at))))
				if (day === null) expect(openOn('2027-06-01')).toBeLessThan(amount)
				else {
					expect(day >= from).toBe(true)
					expect(least(day)).toBeGreaterThanOrEqual(amount)
					if (day > from) expect(least(addDays(day, -1))).toBeLessThan(amount)
				}
			},
		),
	)
})

test('an account of a day past is what it was, whatever is applied, taken back or entered later', () => {
	const parts = fc.array(fc.integer({ min: 1, max: 250 }), { maxLength: 4 })
	fc.assert(
		fc.property(parts, fc.integer({ min: 0, max: 60 }), (amounts, back) => {
			const asOf = addDays('2026-10-01', back)
			const before = entry({ applied: amounts.map((amount) => ({ day: addDays(asOf, -1), amount })) })
			const after = entry({
				applied: [...before.applied, ...amounts.map((amount) => ({ day: addDays(asOf, 1), amount: -amount }))],
				disputes: [{ since: addDays(asOf, 1), ended: null }],
			})
			const later = entry({ id: 2, day: addDays(asOf, 1), due_day: addDays(asOf, 9) })
			const { items: _, ...figures } = accountsAsOf(entriesAsOf([before], asOf))[0] ?? { items: [] }
			const { items: __, ...again } = accountsAsOf(entriesAsOf([after, later], asOf))[0] ?? { items: [] }
			expect(again).toEqual(figures)
		}),
	)
})
