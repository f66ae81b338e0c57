import { expect, test } from 'vitest'
import type { AgedItem } from './age'
import { type Entry, entryAsOf } from './ledger'
import { whyItem } from './why'

const entry: Entry = {
	...{ id: 1, kind: 'invoice', side: 'debit', number: 'T-1', day: '2026-09-01', due_day: '2026-10-31' },
	...{ currency: 'GBP', amount: 300, applied: [], disputes: [] },
}
const whyOn = (one: Entry, found: AgedItem, asOf: string) => whyItem(entryAsOf(one, asOf), found)
const aged = (reason: AgedItem['reason'], daysPastDue = 0): AgedItem => ({
	ref: 'A',
	included: true,
	reason,
	daysPastDue,
})

test('a settled item names the day of the last payment up to that day, not of one after it', () => {
	const applied = ['2026-10-20', '2026-09-15', '2026-11-05'].map((day) => ({ day, amount: 100 }))
	const settled = (asOf: string) => whyOn({ ...entry, applied }, aged('settled'), asOf)
	expect(settled('2026-10-31')).toBe('settled on 20 Oct 2026')
	expect(settled('2026-10-20')).toBe('settled on 20 Oct 2026')
	expect(settled('2026-10-19')).toBe('settled on 15 Sep 2026')
	expect(settled('2026-11-30')).toBe('settled on 5 Nov 2026')
	// One that was nothing from the start was settled by its own day.
	expect(whyOn(entry, aged('settled'), '2026-10-31')).toBe('settled on 1 Sep 2026')
})

test('a dispute counts from its day to the day before it ended', () => {
	const disputes = [
		{ since: '2026-09-10', ended: '2026-09-20' },
		{ since: '2026-10-05', ended: null },
	]
	const said = (asOf: string) => whyOn({ ...entry, disputes }, aged('disputed'), asOf)
	expect(said('2026-09-10')).toBe('disputed since 10 Sep 2026')
	expect(said('2026-09-20')).toBe('disputed')
	expect(said('2026-10-31')).toBe('disputed since 5 Oct 2026')
})

test('what is due on the day, later, past due by a day or more, or dated after, says so', () => {
	const said = (reason: AgedItem['reason'], days: number, asOf: string) => whyOn(entry, aged(reason, days), asOf)
	expect([
		said('not due', 0, '2026-10-31'),
		said('not due', 0, '2026-10-30'),
		said('past due', 1, '2026-11-01'),
		said('past due', 2, '2026-11-02'),
		said('after the date', 0, '2026-08-31'),
		said('credit', 0, '2026-10-31'),
	]).toEqual([
		'due on the day itself',
		'not due until 31 Oct 2026',
		'1 day past due',
		'2 days past due',
		'dated 1 Sep 2026, after 31 Aug 2026',
		'a credit',
	])
})
