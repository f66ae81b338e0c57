import fc from 'fast-check'
import { expect, test } from 'vitest'
import { bucketEdges, bucketOf, buckets } from '@/core/age'
import { addDays, daysBetween } from '@/core/calendar'
import { desk, firmBooks } from '../../tests/support'
import { walks } from '../../tests/walks'
import { agedTotals, owedAtEnds } from './accounts'
import { addApplication, addItem, changeItem } from './ledger'

const first = '2026-06-01'
const on = fc.integer({ min: 0, max: 150 }).map((days) => addDays(first, days))
const item = fc.record({
	day: on,
	net: fc.integer({ min: -5, max: 60 }),
	amount: fc.integer({ min: 100, max: 900 }),
	changes: fc.array(
		fc.record({ day: on, amount: fc.integer({ min: 100, max: 900 }), net: fc.integer({ min: -5, max: 60 }) }),
		{ maxLength: 3 },
	),
	paid: fc.array(fc.record({ day: on, amount: fc.integer({ min: 1, max: 40 }) }), { maxLength: 2 }),
})

test('what was owed on days past goes by what items were then: their amount, their due date, what was applied', () => {
	const books = firmBooks()
	fc.assert(
		fc.property(
			fc.array(item, { minLength: 1, maxLength: 4 }),
			fc.array(on, { minLength: 3, maxLength: 3 }),
			(items, days) => {
				books.db.exec('SAVEPOINT one')
				// Of each item, from which day on it was what: flat, apart from the tables.
				const model = items.map((one, place) => {
					const changes = one.changes.filter(({ day }) => day > one.day).sort((a, b) => (a.day < b.day ? -1 : 1))
					const states = [
						{ day: one.day, amount: one.amount, due: addDays(one.day, one.net) },
						...changes.map(({ day, amount, net }) => ({ day, amount, due: addDays(one.day, net) })),
					]
					const id = addItem(books, desk, {
						...{ customer_id: 1, kind: 'invoice', side: 'debit', number: `I-${place}`, day: one.day },
						...{ due_day: states[0]?.due ?? '', currency: 'GBP', amount: one.amount, their_order: '', note: '' },
						...{ document_id: null, extract_id: null },
					})
					states.slice(1).forEach((is, before) => {
						const was = states[before]
						if (!was) return
						changeItem(books, desk, {
							...{ item_id: id, day: is.day, amount_was: was.amount, amount_is: is.amount, due_was: was.due },
							...{ due_is: is.due, dated_was: one.day, dated_is: one.day, reason: 'typed wrong' },
						})
					})
					const paid = one.paid.filter(({ day }) => day >= one.day)
					for (const { day, amount } of paid)
						addApplication(books, desk, { debit_id: id, credit_id: null, day, amount, reason: 'settled' })
					return (asOf: string) => {
						const is = states.filter(({ day }) => day <= asOf).at(-1)
						const applied = paid.filter(({ day }) => day <= asOf).reduce((sum, { amount }) => sum + amount, 0)
						return is ? { open: is.amount - applied, bucket: bucketOf(daysBetween(is.due, asOf), bucketEdges) } : null
					}
				})
				const wanted = days.map((day) =>
					buckets.map((bucket) =>
						model.reduce((sum, then) => {
							const at = then(day)
							return at?.bucket === bucket ? sum + at.open : sum
						}, 0),
					),
				)
				expect(owedAtEnds(books, 'GBP', days)).toEqual(wanted)
				// Asked a day at a time, twice, the accounts add up to the same.
				for (const [place, day] of [...days.entries(), ...days.entries()])
					expect(agedTotals(books, day)[0]?.buckets ?? buckets.map(() => 0)).toEqual(wanted[place])
				books.db.exec('ROLLBACK TO one; RELEASE one')
			},
		),
		{ numRuns: walks(25) },
	)
})
