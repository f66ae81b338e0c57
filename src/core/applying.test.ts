import fc from 'fast-check'
import { expect, test } from 'vitest'
import { sharesOf } from './applying'

const item = (id: number, number: string, open: number, more = {}) => ({
	...{ id, number, open, day: '2026-01-01', due_day: `2026-02-0${id}`, disputed: false },
	...more,
})

test('a payment that names a credit note takes it along: both go to the invoice that is named', () => {
	const { shares, left } = sharesOf(
		{ reference: 'SK-1 less CN-2', open: 9000 },
		[item(1, 'SK-9', 500), item(2, 'SK-1', 10_000)],
		'named',
		[item(3, 'CN-2', 1000)],
	)
	expect(shares.map(({ debit, credit, amount }) => [debit.number, credit?.number, amount])).toEqual([
		['SK-1', 'CN-2', 1000],
		['SK-1', undefined, 9000],
	])
	expect(left).toBe(0)
})

test('the oldest first passes over what is in dispute, unless it is named', () => {
	const debits = [item(1, 'SK-1', 100, { disputed: true }), item(2, 'SK-2', 100)]
	const to = (reference: string) =>
		sharesOf({ reference, open: 150 }, debits, 'named then oldest').shares.map(({ debit, amount }) => [
			debit.number,
			amount,
		])
	expect(to('thanks')).toEqual([['SK-2', 100]])
	expect(to('SK-1')).toEqual([
		['SK-1', 100],
		['SK-2', 50],
	])
})

test('what goes to the oldest due first is used up whole and overfills none', () => {
	const debits = fc.array(
		fc.record({
			id: fc.nat(),
			number: fc.constant('X'),
			open: fc.integer({ min: 1, max: 10_000 }),
			due_day: fc.constantFrom('2026-01-05', '2026-02-01', '2026-03-09'),
			day: fc.constant('2026-01-01'),
			disputed: fc.boolean(),
		}),
		{ maxLength: 12 },
	)
	fc.assert(
		fc.property(debits, fc.nat(50_000), (list, amount) => {
			const debitsOnce = [...new Map(list.map((debit) => [debit.id, debit])).values()]
			const { shares, left } = sharesOf({ reference: '', open: amount }, debitsOnce, 'oldest')
			const all = debitsOnce.reduce((sum, { open, disputed }) => (disputed ? sum : sum + open), 0)
			expect(shares.reduce((sum, share) => sum + share.amount, 0)).toBe(Math.min(all, amount))
			expect(left).toBe(amount - Math.min(all, amount))
			expect(shares.every(({ debit, amount: share }) => share > 0 && share <= debit.open && !debit.disputed)).toBe(true)
			expect(shares.slice(0, -1).every(({ debit, amount: share }) => share === debit.open)).toBe(true)
			expect(shares.map(({ debit }) => debit.due_day)).toEqual(shares.map(({ debit }) => debit.due_day).sort())
		}),
	)
})
