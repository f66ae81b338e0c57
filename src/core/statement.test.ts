import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { addDays } from './calendar'
import { parseAmount } from './currency'
import { type BalanceChange, chargeEntry, numberedStatement, type StatementEntry, state } from './statement'

const asOf = '2026-10-31'
const choice = { asOf, show: 'all', credits: 'apart', form: 'open items', since: '' } as const
const minor = (text: string) => Number(parseAmount(text, 'GBP', 'amount'))
const days = (from: number, to: number) => fc.integer({ min: from, max: to })

/** Any entry of a ledger around the day: late, not due, later, a credit, settled in part or whole, disputed or not. */
const entry = fc
	.record({
		id: fc.integer({ min: 1, max: 10_000 }),
		debit: fc.boolean(),
		amount: fc.integer({ min: 1, max: 99_999 }),
		age: days(-20, 200),
		terms: days(0, 60),
		settled: fc.integer({ min: 0, max: 4 }),
		settledAfter: days(0, 90),
		disputed: fc.boolean(),
	})
	.map(({ id, debit, amount, age, terms, settled, settledAfter, disputed }): StatementEntry => {
		const day = addDays(asOf, -age)
		return {
			id,
			kind: debit ? 'invoice' : 'credit',
			side: debit ? 'debit' : 'credit',
			number: `I-${id}`,
			day,
			due_day: addDays(day, terms),
			currency: 'GBP',
			amount,
			applied: settled === 0 ? [] : [{ day: addDays(day, settledAfter), amount: Math.ceil(amount / settled) }],
			disputes: disputed ? [{ since: addDays(day, 5), ended: null }] : [],
			their_order: '',
		}
	})
const ledger = fc.uniqueArray(entry, { selector: ({ id }) => id, minLength: 1, maxLength: 12 })

describe('a statement of any ledger', () => {
	test('adds up: what stands on it to its total, its buckets less its credits to its balance', () => {
		fc.assert(
			fc.property(ledger, (entries) => {
				const stated = state(entries, 'GBP', choice)?.stated
				if (!stated) throw new Error('no account')
				const sum = (amounts: string[]) => amounts.reduce((total, amount) => total + minor(amount), 0)
				expect(sum(stated.items.map(({ open }) => open))).toBe(minor(stated.total))
				expect(minor(stated.total)).toBe(minor(stated.balance))
				expect(sum(stated.buckets.map(({ amount }) => amount)) - minor(stated.unapplied)).toBe(minor(stated.balance))
				expect(stated.items.map(({ due }) => due)).toEqual(stated.items.map(({ due }) => due).sort())
			}),
		)
	})

	test('says of every item why it is on it or not; past due only has the undisputed late debits alone', () => {
		fc.assert(
			fc.property(ledger, (entries) => {
				const found = state(entries, 'GBP', { ...choice, show: 'past-due' })
				if (!found) throw new Error('no account')
				expect(found.why.map(({ id }) => id)).toEqual(entries.map(({ id }) => id))
				expect(found.why.every(({ words }) => words !== '')).toBe(true)
				const on = new Set(found.why.filter(({ on }) => on).map(({ id }) => id))
				expect(new Set(found.stated.items.map(({ id }) => id))).toEqual(on)
				for (const { id, side, due_day, disputes } of entries)
					if (on.has(id)) {
						expect([side, due_day < asOf]).toEqual(['debit', true])
						expect(disputes.every(({ since }) => since > asOf)).toBe(true)
					}
				const net = minor(found.stated.pastDue) - minor(found.stated.unapplied)
				expect(minor(found.stated.total)).toBe(Math.max(0, net))
				expect(found.stated.asked).toBe(found.stated.total)
				expect(minor(found.stated.asked)).toBeLessThanOrEqual(Math.max(0, minor(found.stated.balance)))
			}),
		)
	})

	test('never changes by what happens after its day', () => {
		fc.assert(
			fc.property(ledger, (entries) => {
				const later = addDays(asOf, 1)
				const changed = entries.map((one) => ({
					...one,
					applied: [...one.applied, { day: later, amount: 1 }, { day: later, amount: -1 }],
					disputes: [...one.disputes, { since: later, ended: null }],
				}))
				const extra = { ...chargeEntry(500n, later, 'GBP'), id: 20_000 }
				expect(state([...changed, extra], 'GBP', choice)?.stated).toEqual(state(entries, 'GBP', choice)?.stated)
			}),
		)
	})

	test('leaves credits out when it is to, and still comes to what is owed in all', () => {
		fc.assert(
			fc.property(ledger, (entries) => {
				const stated = state(entries, 'GBP', { ...choice, credits: 'left out' })?.stated
				if (!stated) throw new Error('no account')
				expect(stated.items.every(({ open }) => !open.startsWith('-'))).toBe(true)
				const listed = stated.items.reduce((total, { open }) => total + minor(open), 0)
				expect(minor(stated.total)).toBe(minor(stated.balance))
				expect(listed - minor(stated.unapplied)).toBe(minor(stated.total))
			}),
		)
	})

	test('carried forward, opening balance and what happened make the closing one', () => {
		const changes = fc.array(
			fc.record({ age: days(-10, 120), change: fc.integer({ min: -5000, max: 5000 }) }).map(
				({ age, change }): BalanceChange => ({
					day: addDays(asOf, -age),
					words: 'x',
					said: { what: 'x', number: '' },
					change,
				}),
			),
		)
		fc.assert(
			fc.property(ledger, changes, days(0, 60), (entries, list, back) => {
				const since = addDays(asOf, -back)
				const stated = state(entries, 'GBP', { ...choice, form: 'balance forward', since }, list)?.stated
				if (!stated) throw new Error('no account')
				const moved = stated.movements.reduce((total, { change }) => total + minor(change), 0)
				expect(minor(stated.opening) + moved).toBe(minor(stated.balance))
				expect(stated.movements.every(({ day }) => day >= since && day <= asOf)).toBe(true)
				expect(stated.movements.at(-1)?.balance ?? stated.opening).toBe(stated.balance)
			}),
		)
	})
})

test('a late charge bears the number of its statement', () => {
	const charge = chargeEntry(133n, asOf, 'GBP')
	const found = state([charge], 'GBP', choice)
	const content = { ...found?.stated, number: '' } as never
	expect(numberedStatement(content, 'S-001')).toMatchObject({
		number: 'S-001',
		items: [{ number: 'S-001/C', open: '1.33' }],
	})
})
