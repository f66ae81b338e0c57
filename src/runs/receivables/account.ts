import type { AgedAccount, AgedItem } from '@/core/age'
import { type Day, dayText } from '@/core/calendar'
import { amountText } from '@/core/currency'
import { formatMinor } from '@/core/format'
import {
	accountsAsOf,
	type Entry,
	type EntryThen,
	entriesAsOf,
	type ItemChange,
	type ItemKind,
	type Side,
} from '@/core/ledger'
import { type BalanceChange, calledOf, type StatementEntry } from '@/core/statement'
import { whyItem } from '@/core/why'
import { actsOfCustomer } from '@/store/accountActs'
import type { Books } from '@/store/books'
import {
	applicationsOfCustomer,
	type ChangeOfItem,
	disputesOfCustomer,
	entriesOf,
	type LedgerRow,
} from '@/store/ledger'
import { extractsTakenBack, type Settling } from '@/store/ledgerThen'

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
/** What happened on a day, and the balance after it. */
export type Happening = {
	key: string
	day: Day
	kind: ItemKind | 'applied' | 'changed'
	/** What it is called. */
	called: string
	words: string
	document_id: number | null
	/** What it added to the balance; null where it only moved something within. */
	change: number | null
	balance: number
	/** The application that can be taken back, the act that can be undone, the entry that can be removed. */
	application: number | null
	act: number | null
	item: number | null
	/** The payment that may come back. */
	payment: number | null
}
export type CurrencyAccount = {
	currency: string
	aged: AgedAccount
	/** Open as of the day, the oldest due first. */
	open: AccountItem[]
	/** The latest of what happened, the first first. */
	history: Happening[]
	/** How much happened in all, and how much a page of it has. */
	happened: number
	each: number
}

type Moving = StatementEntry & { note?: string }

/** What an entry that a person made is called in a list of what happened. */
const wordsOf = (entry: Moving): string => [`${calledOf(entry)} ${entry.number}`, entry.note].filter(Boolean).join(': ')

/**
 * What changed the balance of an account from a day on: items entered, what an extract settled, and amounts, due dates or dates that
 * became otherwise.
 * @param settled what extracts settled, by item
 */
export function changesOf(
	entries: readonly Moving[],
	settled: ReadonlyMap<number, Settling[]>,
	since: Day,
): BalanceChange[] {
	return entries.flatMap((entry): BalanceChange[] => {
		const { id, side, currency, number, changes = [] } = entry
		const first = changes[0]?.amount_was ?? entry.amount
		return [
			...(entry.day >= since
				? [
						{
							...{ day: entry.day, words: wordsOf({ ...entry, note: '' }) },
							...{ said: { what: calledOf(entry), number }, change: signed(side, first) },
						},
					]
				: []),
			...changes
				.filter((change) => change.day >= since && isOtherwise(change))
				.map((change) => ({
					day: change.day,
					words: changeWords(number, change, currency),
					said: changeSaid(number, change, currency),
					change: signed(side, change.amount_is - change.amount_was),
				})),
			...(settled.get(id) ?? []).map(({ day, amount, reason }) => ({
				day,
				words: `${number}: ${reason}`,
				said: { what: amount > 0 ? 'settled' : 'open again', number },
				change: signed(side, -amount),
			})),
		]
	})
}

/** Whether a change says more than what kind the item is, which no customer is told. */
const isOtherwise = (change: ItemChange): boolean =>
	change.amount_was !== change.amount_is || change.due_was !== change.due_is || change.dated_was !== change.dated_is

/** What of an item became otherwise, in words: "SK-1: changed in the extract of 31 Oct 2026: 100.00 to 120.00". */
function changeWords(
	number: string,
	change: ItemChange & { reason?: string; kind_was?: string; kind_is?: string },
	currency: string,
): string {
	const money = (minor: number) => formatMinor(minor, currency)
	const parts = [
		change.amount_was === change.amount_is ? '' : `${money(change.amount_was)} to ${money(change.amount_is)}`,
		change.due_was === change.due_is ? '' : `due ${dayText(change.due_was)} to ${dayText(change.due_is)}`,
		change.dated_was === change.dated_is || change.dated_is === '' ? '' : `dated ${dayText(change.dated_is)}`,
		change.kind_is ? `${change.kind_was} to ${change.kind_is}` : '',
	].filter(Boolean)
	return `${number}: ${change.reason ?? 'changed'}: ${parts.join(', ')}`
}

/** The same as data. */
function changeSaid(number: string, change: ItemChange, currency: string): BalanceChange['said'] {
	const { amount_was, amount_is, due_was, due_is, dated_was, dated_is } = change
	return {
		...{ what: 'changed', number },
		...(amount_was === amount_is
			? {}
			: { amounts: [amount_was, amount_is].map((one) => amountText(BigInt(one), currency)) }),
		...(due_was === due_is ? {} : { due: [due_was, due_is] }),
		...(dated_was === dated_is || dated_is === '' ? {} : { dated: dated_is }),
	}
}

/** How many happenings a page of history has. */
const happeningsEach = 100

/** One customer's accounts as of a day, a currency each. @param page which of the pages of what happened comes along, from 1, the latest first */
export const accountOf = (books: Books, customerId: number, asOf: Day, page = 1): CurrencyAccount[] => {
	const entries = entriesOf(books, customerId).filter(({ away }) => away === 0)
	const notes = new Map(
		disputesOfCustomer(books, customerId).flatMap(({ item_id, ended, note }) =>
			ended === null ? [[item_id, note]] : [],
		),
	)
	const openNow = new Map(entries.map(({ id, open }) => [id, open]))
	const then = entriesAsOf(entries, asOf)
	const happenings = happeningsOf(books, customerId, entries)
	return accountsAsOf(then).map((aged) => {
		const own = then.filter(({ currency }) => currency === aged.currency)
		const open = own
			.flatMap((entry, place): AccountItem[] => {
				const item = aged.items[place]
				return item?.open ? [itemOf(entry, openNow.get(entry.id) ?? 0, item, notes.get(entry.id) ?? '')] : []
			})
			// Of one day they stay in the order in which they were entered.
			.sort((a, b) => (a.due_day < b.due_day ? -1 : Number(a.due_day > b.due_day)))
		const happened = happenings.get(aged.currency) ?? []
		const first = Math.max(0, happened.length - page * happeningsEach)
		let balance = 0
		const history: Happening[] = []
		// Only those of the page are put in words.
		happened.slice(0, happened.length - (page - 1) * happeningsEach).forEach(({ change, make }, place) => {
			balance += change ?? 0
			if (place >= first) history.push({ ...make(), change, balance })
		})
		return { currency: aged.currency, aged, open, history, happened: happened.length, each: happeningsEach }
	})
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
	amount: signed(entry.side, entry.amount),
	open: Number(item.open ?? 0n),
	openNow,
	bucket: item.bucket ?? '',
	daysPastDue: item.daysPastDue ?? 0,
	why: whyItem(entry, item),
	disputed: item.reason === 'disputed',
	dispute,
	byHand: byHandOf(entry),
})

/** What happened, as far as its place and what it changed; `make` puts it in words. */
type Light = { day: Day; order: number; change: number | null; make: () => Omit<Happening, 'change' | 'balance'> }

/** All that happened on a customer's accounts, by currency, the first first; of one day what was entered stands before what was applied. */
function happeningsOf(books: Books, customerId: number, entries: readonly (Entry & LedgerRow)[]): Map<string, Light[]> {
	const byId = new Map(entries.map((entry) => [entry.id, entry]))
	const applications = applicationsOfCustomer(books, customerId)
	const takenBack = new Set(applications.map(({ takes_back }) => takes_back))
	const gone = extractsTakenBack(books)
	const acts = actsOfCustomer(books, customerId)
	const isAdjusted = (id: number | null) => byId.get(id ?? 0)?.kind === 'adjustment'
	/** Payments and other entries that an act, or its undoing, used up: nothing is left of them to come back or be put right. */
	const bound = new Set(
		applications.flatMap(({ id, debit_id, credit_id, act_id, takes_back }) => {
			if (takes_back !== null || takenBack.has(id)) return []
			return act_id !== null || isAdjusted(debit_id) || isAdjusted(credit_id) ? [debit_id, credit_id] : []
		}),
	)
	const undoOf = (id: number | null) => (id !== null && acts.get(id)?.undone_at === null ? id : null)
	const none = { document_id: null, application: null, act: null, item: null, payment: null }
	const all = new Map<string, Light[]>()
	const put = (currency: string, happening: Light) => {
		const own = all.get(currency)
		if (own) own.push(happening)
		else all.set(currency, [happening])
	}
	for (const entry of entries) {
		const { id, kind, day, number, note, document_id, side, currency, changes = [], called, act_id } = entry
		const free = !bound.has(id)
		put(currency, {
			...{ day, order: 0, change: signed(side, changes[0]?.amount_was ?? entry.amount) },
			make: () => ({
				...{
					key: `item ${id}`,
					day,
					kind,
					called: called || kind,
					document_id,
					application: null,
					act: undoOf(act_id),
				},
				words: [number, note].filter(Boolean).join(': '),
				item: byHandOf(entry) && free ? id : null,
				payment: kind === 'payment' && side === 'credit' && entry.extract_id === null && free ? id : null,
			}),
		})
		for (const change of changes as readonly ChangeOfItem[])
			put(currency, {
				...{ day: change.day, order: 1, change: signed(side, change.amount_is - change.amount_was) },
				make: () => ({
					...{ ...none, key: `change ${change.id}`, day: change.day, kind: 'changed', called: 'changed' },
					words: changeWords(number, change, currency),
					said: changeSaid(number, change, currency),
				}),
			})
	}
	for (const one of applications) {
		if (one.extract_id !== null && gone.has(one.extract_id)) continue
		const debit = byId.get(one.debit_id ?? 0)
		const credit = byId.get(one.credit_id ?? 0)
		const currency = (debit ?? credit)?.currency
		if (currency === undefined) continue
		const whole = debit && credit
		const free = one.takes_back === null && !takenBack.has(one.id) && one.act_id === null && one.extract_id === null
		put(currency, {
			...{ day: one.day, order: 2, change: whole ? null : debit ? -one.amount : one.amount },
			make: () => ({
				...{ ...none, key: `application ${one.id}`, day: one.day, kind: 'applied', called: 'applied' },
				words: whole
					? `${credit.number} ${one.amount < 0 ? 'no longer applied' : 'applied'} to ${debit.number}: ${formatMinor(Math.abs(one.amount), currency)} (${one.reason})`
					: `${(debit ?? credit)?.number}: ${one.reason}`,
				application: whole && free ? one.id : null,
			}),
		})
	}
	for (const own of all.values()) own.sort((a, b) => (a.day < b.day ? -1 : a.day > b.day ? 1 : a.order - b.order))
	return all
}

/** Whether an entry was made here by hand, so that it can be removed or corrected by hand. */
const byHandOf = ({
	document_id,
	extract_id,
	act_id,
	kind,
}: Pick<LedgerRow, 'document_id' | 'extract_id' | 'act_id' | 'kind'>): boolean =>
	document_id === null && extract_id === null && act_id === null && kind !== 'adjustment'

const signed = (side: Side, amount: number): number => (side === 'debit' ? amount : -amount)
