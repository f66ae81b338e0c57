import fc from 'fast-check'
import { expect, test } from 'vitest'
import { type AgeInput, age, type LedgerItem } from './age'
import { addDays } from './calendar'

const day = fc.integer({ min: 0, max: 400 }).map((days) => addDays('2025-10-01', days))
const pence = (units: number) => (units / 100).toFixed(2)
const item = fc.record({
	kind: fc.constantFrom('invoice' as const, 'charge' as const, 'credit' as const, 'payment' as const),
	date: day,
	terms: fc.integer({ min: 0, max: 60 }),
	amount: fc.integer({ min: 1, max: 900_000 }),
	disputed: fc.boolean(),
})
const items = fc.array(item, { maxLength: 20 }).map((list) =>
	list.map(
		({ kind, date, terms, amount, disputed }, index): LedgerItem => ({
			ref: `R${index}`,
			kind,
			date,
			dueDate: addDays(date, terms),
			amount: pence(amount),
			currency: 'GBP',
			disputed,
		}),
	),
)
const asOf = '2026-06-30'
const account = (input: AgeInput) => {
	const aged = age(input)
	if (!aged.ok) throw new Error(aged.refusal.message)
	return aged.value[0]
}

test('the buckets less the credits are the balance, and every open debit is past due, not due or disputed', () => {
	fc.assert(
		fc.property(items, (list) => {
			const found = account({ asOf, items: list })
			if (!found) return
			const buckets = Object.values(found.buckets).reduce((sum, amount) => sum + amount, 0n)
			expect(buckets - found.unappliedCredits).toBe(found.balance)
			const disputedAndLate = found.items
				.filter(({ reason, daysPastDue }) => reason === 'disputed' && (daysPastDue ?? 0) > 0)
				.reduce((sum, { open }) => sum + (open ?? 0n), 0n)
			expect(found.pastDue + found.notDue + disputedAndLate).toBe(buckets)
		}),
	)
})

test('a statement as of yesterday is not changed by what happens today', () => {
	fc.assert(
		fc.property(items, (list) => {
			const later = list.map((each) => ({ ...each, applied: [{ date: addDays(asOf, 1), amount: each.amount }] }))
			const added: LedgerItem = {
				ref: 'NEW',
				kind: 'invoice',
				date: addDays(asOf, 1),
				dueDate: addDays(asOf, 31),
				amount: '10.00',
				currency: 'GBP',
			}
			const before = account({ asOf, items: list })
			const after = account({ asOf, items: [...later, added] })
			expect(after?.items.slice(0, -1)).toEqual(before?.items ?? [])
			expect(after?.balance).toBe(before?.balance ?? 0n)
		}),
	)
})

test('an item paid in two parts ends as one paid at once', () => {
	fc.assert(
		fc.property(fc.integer({ min: 2, max: 90_000 }), fc.integer({ min: 1, max: 89_999 }), (amount, part) => {
			fc.pre(part < amount)
			const base = {
				ref: 'A',
				kind: 'invoice' as const,
				date: '2026-01-01',
				dueDate: '2026-01-31',
				amount: pence(amount),
				currency: 'GBP',
			}
			const once = account({ asOf, items: [{ ...base, applied: [{ date: '2026-03-01', amount: pence(amount) }] }] })
			const twice = account({
				asOf,
				items: [
					{
						...base,
						applied: [
							{ date: '2026-02-01', amount: pence(part) },
							{ date: '2026-03-01', amount: pence(amount - part) },
						],
					},
				],
			})
			expect(twice).toEqual(once)
		}),
	)
})

test.each<[path: string, change: Partial<LedgerItem>]>([
	['items.0.date', { date: '2026-02-30' }],
	['items.0.dueDate', { dueDate: 'soon' }],
	['items.0.amount', { amount: '-4.00' }],
	['items.0.currency', { currency: 'XX' }],
	['items.0.applied', { applied: [{ date: '2026-01-02', amount: '9.00' }] }],
])('%s is refused when it cannot be', (path, change) => {
	const base: LedgerItem = {
		ref: 'A',
		kind: 'invoice',
		date: '2026-01-01',
		dueDate: '2026-01-31',
		amount: '5.00',
		currency: 'GBP',
	}
	expect(age({ asOf, items: [{ ...base, ...change }] })).toMatchObject({ ok: false, refusal: { path } })
})
