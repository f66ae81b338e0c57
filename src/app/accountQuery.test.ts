import { expect, test } from 'vitest'
import { type AgedRow, sumUp } from '@/store/accounts'
import { accountsQuery, customersOf, itemsPath, itemsQuery, sortAccounts } from './accountQuery'

const row = (name: string, balance: number, more: Partial<AgedRow> = {}): AgedRow => ({
	customer_id: 1,
	number: name.slice(0, 2).toUpperCase(),
	name,
	currency: 'GBP',
	items: 1,
	buckets: [0, balance, 0, 0, 0],
	past_due: balance,
	disputed: 0,
	credits: 0,
	balance,
	...more,
})
const rows = [
	row('Brack', 300),
	row('Ardlow', 100, { disputed: 40 }),
	row('Mørkvik', 200, { currency: 'NOK', past_due: 0 }),
]
const shown = (params: Record<string, string>) =>
	sortAccounts([...rows], accountsQuery(params, '2026-10-31')).map(({ name }) => name)

test('accounts are sorted by name, amount or bucket, up or down', () => {
	expect(shown({})).toEqual(['Ardlow', 'Brack', 'Mørkvik'])
	expect(shown({ sort: 'balance', down: '1' })).toEqual(['Brack', 'Mørkvik', 'Ardlow'])
	expect(shown({ sort: '1-30' })).toEqual(['Ardlow', 'Mørkvik', 'Brack'])
	expect(shown({ sort: 'currency', down: '1' })[0]).toBe('Mørkvik')
})

test('they are filtered by words and by what is asked of them', () => {
	expect(shown({ show: 'nok' })).toEqual(['Mørkvik'])
	expect(shown({ only: 'past due' })).toEqual(['Ardlow', 'Brack'])
	expect(shown({ only: 'disputed' })).toEqual(['Ardlow'])
	expect(shown({ only: 'in credit' })).toEqual([])
})

test('they are added up by currency, and a day that does not exist is today', () => {
	expect(sumUp(rows).map(({ currency, balance, buckets }) => [currency, balance, buckets[1]])).toEqual([
		['GBP', 400, 400],
		['NOK', 200, 200],
	])
	expect(accountsQuery({ asOf: '2026-02-30' }, '2026-10-31').asOf).toBe('2026-10-31')
})

test('the items that a figure leads to are those of its bucket and of the accounts it adds up', () => {
	const query = (path: string) => itemsQuery(Object.fromEntries(new URL(path, 'http://x').searchParams), '2026-10-31')
	const path = itemsPath({ asOf: '2026-09-30', currency: 'GBP', bucket: 'over 90', only: 'past due', of: 'ardlow' })
	expect(query(path)).toEqual({
		...{ asOf: '2026-09-30', currency: 'GBP', pick: 'over 90', words: '' },
		...{ only: 'past due', of: 'ardlow' },
	})
	const known = [row('Brack', 300, { customer_id: 2 }), row('Ardlow', 100, { customer_id: 3 })]
	expect(customersOf(known, query(path))).toEqual([3])
	expect(customersOf(known, query(itemsPath({ asOf: '2026-09-30', currency: 'GBP' })))).toBeNull()
	expect(query('/accounts/items?bucket=nonsense&asOf=never')).toMatchObject({ pick: '', asOf: '2026-10-31' })
})
