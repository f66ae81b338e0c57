import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { addDays } from './calendar'
import { accountsAsOf, type Entry, namedIn, oldestFirst } from './ledger'
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
	const item = accountsAsOf([entry(more)], asOf)[0]?.items[0]
	return item && whyItem(entry(more), item, asOf)
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

test('a payment names its invoices by whole numbers, in the order it names them', () => {
	const debits = ['T-0041', 'T-0041/2', 'T-41', 'CS 9', '0041'].map((number) => ({ number }))
	const named = (reference: string) => namedIn(reference, debits).map(({ number }) => number)
	expect(named('BACS t-41, and T-0041.')).toEqual(['T-41', 'T-0041'])
	expect(named('INV:T-0041/2')).toEqual(['T-0041/2'])
	expect(named('cs 9 cheque')).toEqual(['CS 9'])
	expect(named('ST-0041X')).toEqual([])
})

test('what goes to the oldest due first is used up whole and overfills none', () => {
	const debits = fc.array(
		fc.record({
			id: fc.nat(),
			open: fc.integer({ min: 1, max: 10_000 }),
			due_day: fc.constantFrom('2026-01-05', '2026-02-01', '2026-03-09'),
			day: fc.constant('2026-01-01'),
		}),
	)
	fc.assert(
		fc.property(debits, fc.nat(50_000), (list, amount) => {
			const shares = oldestFirst(list, amount)
			const all = list.reduce((sum, { open }) => sum + open, 0)
			expect(shares.reduce((sum, share) => sum + share.amount, 0)).toBe(Math.min(all, amount))
			expect(shares.every(({ debit, amount: share }) => share > 0 && share <= debit.open)).toBe(true)
			expect(shares.slice(0, -1).every(({ debit, amount: share }) => share === debit.open)).toBe(true)
			expect(shares.map(({ debit }) => debit.due_day)).toEqual(shares.map(({ debit }) => debit.due_day).sort())
		}),
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
			const { items: _, ...figures } = accountsAsOf([before], asOf)[0] ?? { items: [] }
			const { items: __, ...again } = accountsAsOf([after, later], asOf)[0] ?? { items: [] }
			expect(again).toEqual(figures)
		}),
	)
})
