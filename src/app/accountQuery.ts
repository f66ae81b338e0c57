import { buckets } from '@/core/age'
import { isDay } from '@/core/calendar'
import { isCurrency } from '@/core/currency'
import type { AgedRow, OwedQuery } from '@/store/accounts'

/** What accounts are shown, and in what order; from the address of the page or of an export. */
export type AccountsQuery = { asOf: string; words: string; only: string; sort: string; down: boolean; all: boolean }

export const sortNames = ['customer', 'currency', ...buckets, 'credits', 'past due', 'balance']

export function accountsQuery(params: Record<string, string | undefined>, today: string): AccountsQuery {
	const { asOf = '', show = '', only = 'all', sort = 'customer', down = '', all = '' } = params
	return { asOf: isDay(asOf) ? asOf : today, words: show, only, sort, down: down === '1', all: all === '1' }
}

/** What items of the whole ledger are shown, and of which accounts: those that `only` and the words `of` leave; from the address. */
type ItemsQuery = Omit<OwedQuery, 'customers'> & { only: string; of: string }

const picks = [...buckets, 'credits', 'past due', 'disputed']

export function itemsQuery(params: Record<string, string | undefined>, today: string): ItemsQuery {
	const { asOf = '', currency = '', bucket = '', show = '', only = '', of = '' } = params
	const pick = picks.includes(bucket) ? bucket : ''
	return {
		asOf: isDay(asOf) ? asOf : today,
		currency: isCurrency(currency) ? currency : '',
		pick,
		words: show,
		only: only === 'all' ? '' : only,
		of,
	}
}

/** The ids of the customers whose accounts an items query leaves; null for all. */
export function customersOf(rows: readonly AgedRow[], { asOf, only, of }: ItemsQuery): number[] | null {
	if (only === '' && of === '') return null
	const query = { asOf, only, words: of, sort: 'customer', down: false, all: false }
	return [...new Set(sortAccounts(rows, query).map(({ customer_id }) => customer_id))]
}

/** The address of the items that a figure stands for. */
export const itemsPath = (figure: {
	asOf: string
	currency: string
	bucket?: string
	only?: string
	/** Words that the accounts hold. */
	of?: string
}): string => `/accounts/items?${new URLSearchParams(Object.entries(figure).filter(([, value]) => value !== ''))}`

function sortValue(row: AgedRow, sort: string): number | string {
	const bucket = buckets.indexOf(sort)
	if (bucket >= 0) return row.buckets[bucket] ?? 0
	if (sort === 'credits') return row.credits
	if (sort === 'past due') return row.past_due
	if (sort === 'balance') return row.balance
	if (sort === 'currency') return row.currency
	return row.name.toLowerCase()
}

/** The accounts that a query asks for, in its order. Amounts of several currencies sort by their figures. */
export function sortAccounts(rows: readonly AgedRow[], { words, only, sort, down }: AccountsQuery): AgedRow[] {
	const plain = words.trim().toLowerCase()
	const wanted = rows.filter(
		(row) =>
			(plain === '' || `${row.name} ${row.number} ${row.currency}`.toLowerCase().includes(plain)) &&
			(only !== 'past due' || row.past_due > 0) &&
			(only !== 'disputed' || row.disputed > 0) &&
			(only !== 'in credit' || row.balance < 0),
	)
	const turn = down ? -1 : 1
	return wanted
		.map((row) => ({ row, value: sortValue(row, sort) }))
		.sort((a, b) => (a.value < b.value ? -turn : a.value > b.value ? turn : 0))
		.map(({ row }) => row)
}
