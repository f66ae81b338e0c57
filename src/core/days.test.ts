import { describe, expect, test } from 'vitest'
import { age, type LedgerItem } from './age'
import { isDay } from './calendar'
import { plainNumber } from './decimal'
import { dueDate } from './dueDate'
import { orderOfDay, readDay } from './readDay'
import { mayClash } from './register'

test('a century is a leap year when 400 divides it', () => {
	const leap = (year: number) => isDay(`${year}-02-29`)
	expect([1900, 2000, 2023, 2024, 2100].map(leap)).toEqual([false, true, false, true, false])
	expect(['2026-02-30', '2026-13-01', '2026-00-10', '2026-4-1', ''].map(isDay)).toEqual([
		false,
		false,
		false,
		false,
		false,
	])
})

test('a due date on a Saturday or a Sunday moves to the Monday, and no other day moves', () => {
	// 30 October 2026 is a Friday.
	const due = (net: number) => dueDate({ date: '2026-10-30', terms: { net }, roll: 'next-business-day' })
	expect([0, 1, 2, 3, 4].map((net) => due(net).ok && due(net))).toMatchObject(
		['2026-10-30', '2026-11-02', '2026-11-02', '2026-11-02', '2026-11-03'].map((value) => ({ value })),
	)
	expect(dueDate({ date: '2026-10-30', terms: { net: 1 } })).toMatchObject({ value: '2026-10-31' })
})

describe('a day as it is written', () => {
	test.each([
		['3/10/26', 'day first', '2026-10-03'],
		['3/10/26', 'month first', '2026-03-10'],
		['3.10.99', 'month first', '2099-10-03'],
		['3 of October 2026', 'day first', '2026-10-03'],
		['October 3rd, 2026', 'day first', '2026-10-03'],
		['3 Oct, , 2026', 'day first', '2026-10-03'],
		['1/1/1899', 'day first', null],
		['1/1/2200', 'day first', null],
		['31/12/1900', 'day first', '1900-12-31'],
		['31/12/2199', 'day first', '2199-12-31'],
		['1/1/100', 'day first', null],
	] as const)('%s, %s, is %s', (text, format, day) => {
		expect(readDay(text, format)).toBe(day)
	})
	test('says which part comes first where one is above 12', () => {
		expect(['13/10/2026', '10/13/2026', '10/11/2026', 'Oct 3, 2026'].map(orderOfDay)).toEqual([
			'day first',
			'month first',
			'either',
			null,
		])
	})
})

test('an item is late from the day after it is due', () => {
	const item: LedgerItem = {
		...{ ref: 'A', kind: 'invoice', date: '2026-10-01', dueDate: '2026-10-31', amount: '10.00', currency: 'GBP' },
	}
	const pastDue = (asOf: string) => {
		const aged = age({ asOf, items: [item], show: 'past-due' })
		return aged.ok ? aged.value.map((account) => account.pastDue) : []
	}
	expect([pastDue('2026-10-31'), pastDue('2026-11-01')]).toEqual([[0n], [1000n]])
})

test('edges of buckets rise, from a day on', () => {
	const edges = (buckets: number[]) => age({ asOf: '2026-10-31', items: [], show: 'all', buckets })
	for (const bad of [[0], [-30], [30, 30], [60, 30], [30.5]])
		expect([bad, edges(bad)]).toMatchObject([bad, { ok: false }])
	expect(edges([1, 2])).toMatchObject({ ok: true })
})

test('a number is written plainly, whatever its exponent and noughts', () => {
	const plain = ['0012.50', '1.5E-2', '1.5E2', '5E-1', '.5', '-0.0', '12E-1', '1E-3', '100', 'ten']
	expect(plain.map(plainNumber)).toEqual(['12.5', '0.015', '150', '0.5', '0.5', '0', '1.2', '0.001', '100', 'ten'])
})

test('prefixes clash where what one has beyond the other is digits alone', () => {
	const clash: [string, string, boolean][] = [
		['A', 'A1', true],
		['A', 'AB', false],
		['A-{year}-', 'A-2026-', true],
		['A-', 'B-', false],
		['a', 'A', true],
		['INV-1', 'INV-', true],
	]
	expect(clash.map(([a, b]) => mayClash(a, b))).toEqual(clash.map(([, , is]) => is))
})
