import type { AgedAccount, AgedItem } from '@/core/age'
import { buckets } from '@/core/age'
import type { Day } from '@/core/calendar'
import { accountsAsOf, type Entry, type EntryThen, entriesAsOf } from '@/core/ledger'
import { whyItem } from '@/core/why'
import { currenciesOfCustomer } from '@/store/accountHistory'
import { type Account, accountsOfCustomer, itemsOwed } from '@/store/accounts'
import type { Books } from '@/store/books'
import { entriesById, firstDebits, type LedgerRow } from '@/store/ledger'
import { byHandOf, type Happening, historyOf } from './history'

/** An item with where it stands as of a day; amounts in minor units, below zero for a credit. */
export type AccountItem = Pick<
	LedgerRow,
	'id' | 'kind' | 'side' | 'number' | 'day' | 'due_day' | 'their_order' | 'document_id' | 'note' | 'called'
> & {
	/** Whether it was entered here by hand, and may be corrected or removed so. */
	byHand: boolean
	amount: number
	/** Open as of the day. */
	open: number
	/** Open now: what can be applied, written off or disputed. */
	openNow: number
	bucket: string
	daysPastDue: number
	why: string
	disputed: boolean
	dispute: string
}
export type CurrencyAccount = {
	currency: string
	aged: Omit<AgedAccount, 'items'>
	/** The first of what is open as of the day, the oldest due first: of the picked bucket; and how many there are of it, and in all. */
	open: AccountItem[]
	picked: number
	items: number
	/** The first of what is owed now, to which money can be applied. */
	debits: AccountItem[]
	/** A page of what happened, the first first. */
	history: Happening[]
	/** Whether more happened before that page. */
	more: boolean
}
/** How much of an account is shown: items of a bucket (empty for all), of one currency or of each, and a page of what happened, from 1. */
type Shown = { bucket?: string; currency?: string; page?: number; most?: number; offered?: number }

/**
 * One customer's accounts as of a day, a currency each. What is shown of a long account is read, no more: its figures are added up by the
 * database, its items and what happened come by pages.
 */
export function accountOf(
	books: Books,
	customerId: number,
	asOf: Day,
	{ bucket = '', currency: only = '', page = 1, most = 100, offered = 0 }: Shown = {},
): CurrencyAccount[] {
	const sums = new Map(accountsOfCustomer(books, customerId, asOf).map((sum) => [sum.currency, sum]))
	return currenciesOfCustomer(books, customerId).map((currency) => {
		const pick = only === '' || only === currency ? bucket : ''
		const owed = itemsOwed(books, { asOf, currency, pick, words: '', customers: [customerId] }, most)
		const sum = sums.get(currency)
		return {
			...{ currency, aged: agedOf(currency, sum), items: sum?.items ?? 0, picked: owed.items },
			open: itemsById(
				books,
				owed.rows.map(({ id }) => id),
				asOf,
			).filter(({ open }) => open !== 0),
			debits: offered === 0 ? [] : itemsById(books, firstDebits(books, customerId, currency, offered), asOf),
			...historyOf(books, customerId, currency, page),
		}
	})
}

function agedOf(currency: string, sum: Account | undefined): CurrencyAccount['aged'] {
	const figure = (amount = 0) => BigInt(amount)
	return {
		currency,
		buckets: Object.fromEntries(buckets.map((name, place) => [name, figure(sum?.buckets[place])])),
		pastDue: figure(sum?.past_due),
		notDue: figure(sum?.buckets[0]),
		disputed: figure(sum?.disputed),
		unappliedCredits: figure(sum?.credits),
		balance: figure(sum?.balance),
	}
}

/** Items by their ids, in that order, as they stood on a day; each is worked out by the core. */
function itemsById(books: Books, ids: number[], asOf: Day): AccountItem[] {
	const entries = entriesById(books, ids)
	const notes = new Map(
		entries.flatMap(({ id, disputes }) =>
			disputes.flatMap(({ ended, note }) => (ended === null ? [[id, note] as const] : [])),
		),
	)
	const openNow = new Map(entries.map(({ id, open }) => [id, open]))
	const then = entriesAsOf(entries, asOf)
	const [aged] = accountsAsOf(then)
	const items = new Map(
		then.flatMap((entry, place) => {
			const item = aged?.items[place]
			return item
				? [[entry.id, itemOf(entry, openNow.get(entry.id) ?? 0, item, notes.get(entry.id) ?? '')] as const]
				: []
		}),
	)
	return ids.flatMap((id) => items.get(id) ?? [])
}

const itemOf = (
	entry: EntryThen<Entry & LedgerRow>,
	openNow: number,
	item: AgedItem,
	dispute: string,
): AccountItem => ({
	id: entry.id,
	kind: entry.kind,
	side: entry.side,
	number: entry.number,
	day: entry.dated || entry.day,
	due_day: entry.due_day,
	their_order: entry.their_order,
	document_id: entry.document_id,
	note: entry.note,
	called: entry.called,
	amount: entry.side === 'debit' ? entry.amount : -entry.amount,
	open: Number(item.open ?? 0n),
	openNow,
	bucket: item.bucket ?? '',
	daysPastDue: item.daysPastDue ?? 0,
	why: whyItem(entry, item),
	disputed: item.reason === 'disputed',
	dispute,
	byHand: byHandOf(entry),
})
