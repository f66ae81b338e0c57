import { type Day, dayText } from '@/core/calendar'
import { amountText } from '@/core/currency'
import { formatMinor } from '@/core/format'
import type { ItemChange, Side } from '@/core/ledger'
import { type BalanceChange, calledOf, type StatementEntry } from '@/core/statement'
import type { Settling } from '@/store/ledgerThen'

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
export function changeWords(
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

const signed = (side: Side, amount: number): number => (side === 'debit' ? amount : -amount)
