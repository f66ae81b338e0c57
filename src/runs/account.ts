import type { AgedAccount } from '@/core/age'
import type { Day } from '@/core/calendar'
import { accountsAsOf, type ItemKind, type Side } from '@/core/ledger'
import type { BalanceChange } from '@/core/statement'
import { whyItem } from '@/core/why'
import type { Books } from '@/store/books'
import { applicationsOfCustomer, disputesOfCustomer, entriesOf, type LedgerRow } from '@/store/ledger'

/** An item with where it stands as of a day; amounts in minor units, below zero for a credit. */
export type AccountItem = Pick<
	LedgerRow,
	'id' | 'kind' | 'side' | 'number' | 'day' | 'due_day' | 'their_order' | 'document_id' | 'note'
> & {
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
	kind: ItemKind | 'applied'
	words: string
	document_id: number | null
	/** What it added to the balance; null where it only moved something within. */
	change: number | null
	balance: number
	/** The application that can be taken back. */
	application: number | null
}
export type CurrencyAccount = {
	currency: string
	aged: AgedAccount
	/** Open as of the day, the oldest due first. */
	open: AccountItem[]
	history: Happening[]
}

/** What changed the balance of a customer in a currency: items entered, and what an extract settled. */
export function changesOf(
	books: Books,
	customerId: number,
	currency: string,
	entries: readonly LedgerRow[],
): BalanceChange[] {
	const byId = new Map(entries.map((entry) => [entry.id, entry]))
	const entered = entries
		.filter((entry) => entry.currency === currency)
		.map(({ day, kind, number, side, amount }) => ({ day, words: `${kind} ${number}`, change: signed(side, amount) }))
	const settled = applicationsOfCustomer(books, customerId).flatMap(({ debit_id, credit_id, day, amount, reason }) => {
		const item = byId.get(debit_id ?? credit_id ?? 0)
		if (!item || item.currency !== currency || (debit_id !== null && credit_id !== null)) return []
		return [{ day, words: `${item.number}: ${reason}`, change: debit_id !== null ? -amount : amount }]
	})
	return [...entered, ...settled]
}

/** One customer's accounts as of a day, a currency each. */
export function accountOf(books: Books, customerId: number, asOf: Day): CurrencyAccount[] {
	const entries = entriesOf(books, customerId)
	const disputes = disputesOfCustomer(books, customerId)
	const byId = new Map(entries.map((entry) => [entry.id, entry]))
	const applications = applicationsOfCustomer(books, customerId)
	const takenBack = new Set(applications.map(({ takes_back }) => takes_back))
	return accountsAsOf(entries, asOf).map((aged) => {
		const own = entries.filter(({ currency }) => currency === aged.currency)
		const items = own.map((entry, place): AccountItem => {
			const item = aged.items[place] ?? { ref: '', included: false, reason: 'settled' }
			const { id, kind, side, number, day, due_day, their_order, document_id, note } = entry
			return {
				...{ id, kind, side, number, day, due_day, their_order, document_id, note },
				amount: signed(entry.side, entry.amount),
				open: Number(item.open ?? 0n),
				openNow: entry.open,
				bucket: item.bucket ?? '',
				daysPastDue: item.daysPastDue ?? 0,
				why: whyItem(entry, item, asOf),
				disputed: item.reason === 'disputed',
				dispute: disputes.find(({ item_id, ended }) => item_id === id && ended === null)?.note ?? '',
			}
		})
		const happenings: Omit<Happening, 'balance'>[] = [
			...own.map((entry) => ({
				key: `item ${entry.id}`,
				day: entry.day,
				kind: entry.kind,
				words: [entry.number, entry.note].filter(Boolean).join(': '),
				document_id: entry.document_id,
				change: signed(entry.side, entry.amount),
				application: null,
			})),
			...applications.flatMap((one): Omit<Happening, 'balance'>[] => {
				const debit = byId.get(one.debit_id ?? 0)
				const credit = byId.get(one.credit_id ?? 0)
				if ((debit ?? credit)?.currency !== aged.currency) return []
				const whole = debit && credit
				return [
					{
						key: `application ${one.id}`,
						day: one.day,
						kind: 'applied',
						words: whole
							? `${credit.number} ${one.amount < 0 ? 'no longer applied' : 'applied'} to ${debit.number} (${one.reason})`
							: `${(debit ?? credit)?.number}: ${one.reason}`,
						document_id: null,
						change: whole ? null : debit ? -one.amount : one.amount,
						application: whole && one.takes_back === null && !takenBack.has(one.id) ? one.id : null,
					},
				]
			}),
		]
		let balance = 0
		const history = happenings
			// Of one day, what was entered stands before what was applied.
			.sort((a, b) =>
				a.day < b.day ? -1 : a.day > b.day ? 1 : Number(a.kind === 'applied') - Number(b.kind === 'applied'),
			)
			.map((happening) => {
				balance += happening.change ?? 0
				return { ...happening, balance }
			})
		const open = items.filter((item) => item.open !== 0).sort((a, b) => (a.due_day < b.due_day ? -1 : 1))
		return { currency: aged.currency, aged, open, history }
	})
}

const signed = (side: Side, amount: number): number => (side === 'debit' ? amount : -amount)
