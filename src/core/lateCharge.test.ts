import { expect, test } from 'vitest'
import { type Charged, type LateTerms, lateCharge } from './lateCharge'
import type { Entry } from './ledger'

const terms: LateTerms = { rates: [{ from: '', percent: '8' }], per: 'year', grace: 0, minimum: 0, year: '365' }
const item = (more: Partial<Entry> = {}): Entry => ({
	...{ id: 1, kind: 'invoice', side: 'debit', number: 'T-1', day: '2026-09-01', due_day: '2026-10-01' },
	...{ currency: 'GBP', amount: 100_000, applied: [], disputes: [] },
	...more,
})
type More = { asOf?: string; items?: Entry[]; home?: boolean; since?: string; before?: Charged }
const charge = (
	more: Partial<LateTerms> = {},
	{ asOf = '2026-10-31', items = [item()], home = true, since, before }: More = {},
) =>
	lateCharge(items, asOf, 'GBP', { ...terms, ...more }, { isHome: home, since: since ?? null, chargedOf: () => before })
const amount = (more: Partial<LateTerms> = {}, about: More = {}) => charge(more, about)?.amount

test('a late charge is the share of a year of its rate, from the day after the end of grace, rounded once an item', () => {
	// 1,000.00 × 8% × 30 ÷ 365 is 6.575…
	expect(amount()).toBe(658n)
	expect(amount({ grace: 20 })).toBe(219n)
	expect(amount({ rates: [{ from: '', percent: '1.5' }], per: 'month' })).toBe(1479n)
	expect(amount({ grace: 30 })).toBeUndefined()
	expect(amount({ rates: [] })).toBeUndefined()
	expect(charge()?.working).toEqual(['T-1: 1,000.00 × 8% a year × 30 days from 2 Oct 2026 ÷ 365 is 6.58'])
})

test('each day has its own rate, and is charged once', () => {
	// Ten days at 8%, twenty at 12%.
	const rates = [
		{ from: '', percent: '8' },
		{ from: '2026-10-12', percent: '12' },
	]
	expect(amount({ rates })).toBe(877n)
	const before = { to: '2026-10-30', amount: 600, interest: 600 }
	expect(amount({}, { before })).toBe(22n)
	expect(amount({ rates: [...rates, { from: '2026-10-31', percent: '' }] }, { before })).toBeUndefined()
	expect(amount({}, { before: { ...before, to: '2026-10-31' } })).toBeUndefined()
})

test('what was paid since the last charge is charged up to its payment; before the first charge it is not', () => {
	const paid = item({ applied: [{ day: '2026-10-11', amount: 100_000 }] })
	// 1,000.00 × 8% × 9 ÷ 365, on the days from 2 to 10 October.
	expect(amount({}, { items: [paid], since: '2026-09-30' })).toBe(197n)
	expect(amount({}, { items: [paid], since: '2026-10-05' })).toBe(110n)
	expect(amount({}, { items: [paid] })).toBeUndefined()
	const half = item({ applied: [{ day: '2026-10-12', amount: 50_000 }] })
	expect(amount({}, { items: [half] })).toBe(438n)
})

test('the least charge is asked once an item, at home alone', () => {
	expect(amount({ minimum: 5000 })).toBe(5000n)
	expect(amount({ minimum: 5000 }, { items: [item(), item({ id: 2 })], home: false })).toBe(1316n)
	// The month before charged the least, 10.00, on an interest of 5.00: 6.58 more make 11.58, of which 1.58 is new.
	expect(amount({ minimum: 1000 }, { before: { to: '2026-10-01', amount: 1000, interest: 500 } })).toBe(158n)
	expect(amount({ minimum: 5000 }, { before: { to: '2026-10-01', amount: 5000, interest: 500 } })).toBeUndefined()
})

test('a leap year has 366 days where a year is what it is, and 365 where it is said so', () => {
	const late = item({ due_day: '2028-01-31', day: '2028-01-01', amount: 1_000_000 })
	expect(amount({ year: 'actual' }, { items: [late], asOf: '2028-03-01' })).toBe(6557n)
	expect(amount({}, { items: [late], asOf: '2028-03-01' })).toBe(6575n)
})

test('neither a charge nor what is in dispute is charged', () => {
	expect(amount({}, { items: [item({ kind: 'charge' })] })).toBeUndefined()
	expect(amount({}, { items: [item({ disputes: [{ since: '2026-10-10', ended: null }] })] })).toBeUndefined()
	// In dispute from the 10th to the 19th: twenty days are charged.
	expect(amount({}, { items: [item({ disputes: [{ since: '2026-10-10', ended: '2026-10-20' }] })] })).toBe(438n)
})
