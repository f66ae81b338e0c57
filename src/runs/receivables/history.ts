import type { Day } from '@/core/calendar'
import { formatMinor } from '@/core/format'
import type { ItemKind } from '@/core/ledger'
import { actsNotUndone } from '@/store/accountActs'
import { happenedOn, usedUp } from '@/store/accountHistory'
import type { Books } from '@/store/books'
import { applicationsById, changesById, itemsOfIds, type LedgerRow } from '@/store/ledger'
import { changeWords } from './changes'

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

/** How many happenings a page of history has. */
const happeningsEach = 100
const none = { document_id: null, application: null, act: null, item: null, payment: null }

/** A page of all that happened on a customer's account in a currency, the first first; of one day what was entered stands before what was applied. */
export function historyOf(
	books: Books,
	customer: number,
	currency: string,
	page: number,
): { history: Happening[]; more: boolean } {
	const { rows, balance, more } = happenedOn(books, { customer, currency }, page, happeningsEach)
	const of = (what: number) => rows.flatMap((row) => (row.what === what ? [row.id] : []))
	const changes = new Map(changesById(books, of(1)).map((change) => [change.id, change]))
	const applications = new Map(applicationsById(books, of(2)).map((one) => [one.id, one]))
	const named = [...applications.values()].flatMap(({ debit_id, credit_id }) => [debit_id ?? 0, credit_id ?? 0])
	const changed = [...changes.values()].map(({ item_id }) => item_id)
	const items = new Map(itemsOfIds(books, [...of(0), ...changed, ...named]).map((item) => [item.id, item]))
	const used = usedUp(books, of(0))
	const acts = actsNotUndone(
		books,
		of(0).flatMap((id) => items.get(id)?.act_id ?? []),
	)
	let after = balance
	const history = rows.flatMap(({ day, what, id, change }): Happening[] => {
		const rest = { day, change, balance: after }
		after -= change ?? 0
		if (what === 0) {
			const item = items.get(id)
			return item ? [{ ...rest, ...entered(item, used.has(id), acts) }] : []
		}
		if (what === 1) {
			const one = changes.get(id)
			const number = items.get(one?.item_id ?? 0)?.number ?? ''
			return one
				? [
						{
							...{ ...rest, ...none, key: `change ${id}`, kind: 'changed', called: 'changed' },
							words: changeWords(number, one, currency),
						},
					]
				: []
		}
		const one = applications.get(id)
		const [debit, credit] = [items.get(one?.debit_id ?? 0), items.get(one?.credit_id ?? 0)]
		if (!one || (!debit && !credit)) return []
		const whole = debit && credit
		const free = one.takes_back === null && one.taken_back === 0 && one.act_id === null && one.extract_id === null
		return [
			{
				...{ ...rest, ...none, key: `application ${id}`, kind: 'applied', called: 'applied' },
				words: whole
					? `${credit.number} ${one.amount < 0 ? 'no longer applied' : 'applied'} to ${debit.number}: ${formatMinor(Math.abs(one.amount), currency)} (${one.reason})`
					: `${(debit ?? credit)?.number}: ${one.reason}`,
				application: whole && free ? id : null,
			},
		]
	})
	return { history: history.reverse(), more }
}

/** What was entered: @param used whether nothing of it is left to come back or be put right */
function entered(
	item: LedgerRow,
	used: boolean,
	acts: ReadonlySet<number>,
): Omit<Happening, 'day' | 'change' | 'balance'> {
	const { id, kind, side, number, note, document_id, called, act_id } = item
	return {
		...{ key: `item ${id}`, kind, called: called || kind, document_id, application: null },
		act: act_id !== null && acts.has(act_id) ? act_id : null,
		words: [number, note].filter(Boolean).join(': '),
		item: byHandOf(item) && !used ? id : null,
		payment: kind === 'payment' && side === 'credit' && item.extract_id === null && !used ? id : null,
	}
}

/** Whether an entry was made here by hand, so that it can be removed or corrected by hand. */
export const byHandOf = ({
	document_id,
	extract_id,
	act_id,
	kind,
}: Pick<LedgerRow, 'document_id' | 'extract_id' | 'act_id' | 'kind'>): boolean =>
	document_id === null && extract_id === null && act_id === null && kind !== 'adjustment'
