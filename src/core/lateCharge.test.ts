import { expect, test } from 'vitest'
import { type LateTerms, lateCharge } from './lateCharge'

const terms: LateTerms = { percent: '8', per: 'year', grace: 0, minimum: 0 }
const item = { id: 1, number: 'T-1', due: '2026-10-01', open: 100_000, chargedTo: null }
const amount = (more: Partial<LateTerms>, asOf = '2026-10-31', items = [item], home = true) =>
	lateCharge(items, asOf, 'GBP', { ...terms, ...more }, home)?.amount

test('a late charge is the share of a year of its rate, from the end of grace, rounded by item', () => {
	// 1,000.00 × 8% × 30 ÷ 365 is 6.575…
	expect(amount({})).toBe(658n)
	expect(amount({ grace: 20 })).toBe(219n)
	expect(amount({ percent: '1.5', per: 'month' })).toBe(1479n)
	expect(amount({ grace: 30 })).toBeUndefined()
	expect(amount({ percent: '' })).toBeUndefined()
})

test('days that were charged before are not charged again, and the least is for the account, at home alone', () => {
	expect(lateCharge([{ ...item, chargedTo: '2026-10-30' }], '2026-10-31', 'GBP', terms, true)?.amount).toBe(22n)
	expect(lateCharge([{ ...item, chargedTo: '2026-10-31' }], '2026-10-31', 'GBP', terms, true)).toBeNull()
	expect(amount({ minimum: 5000 })).toBe(5000n)
	expect(amount({ minimum: 5000 }, '2026-10-31', [item, { ...item, id: 2 }], false)).toBe(1316n)
})
