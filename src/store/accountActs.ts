import type { Day } from '@/core/calendar'
import type { Books } from './books'
import type { Desk } from './events'

/** An act of a person on an account that entered, applied or took back several things. */
type AccountAct = {
	id: number
	customer_id: number
	/** What it was, in a word: refund, returned payment, set-off … */
	what: string
	reason: string
	day: Day
	at: string
	clerk: string
	undone_at: string | null
	undone_by: string | null
}
const columns = 'id, customer_id, what, reason, day, at, clerk, undone_at, undone_by'

/** Enters an act on an account. @returns its id */
export function addAccountAct(
	{ sql }: Books,
	desk: Desk,
	act: Pick<AccountAct, 'customer_id' | 'what' | 'reason' | 'day'>,
): number {
	return Number(
		sql<[number, string, string, Day, string, string]>(
			'INSERT INTO account_act (customer_id, what, reason, day, at, clerk) VALUES (?, ?, ?, ?, ?, ?)',
		).run(act.customer_id, act.what, act.reason, act.day, desk.now(), desk.clerk).lastInsertRowid,
	)
}

/** One act on an account; null where there is none. */
export const readAccountAct = ({ sql }: Books, id: number): AccountAct | null =>
	sql<[number], AccountAct>(`SELECT ${columns} FROM account_act WHERE id = ?`).get(id) ?? null

/** Of some acts, those that stand. */
export const actsNotUndone = ({ sql }: Books, ids: readonly number[]): Set<number> =>
	new Set(
		sql<[string], { id: number }>(
			'SELECT id FROM account_act WHERE undone_at IS NULL AND id IN (SELECT value FROM json_each(?))',
		)
			.all(JSON.stringify(ids))
			.map(({ id }) => id),
	)

/** Marks an act as undone. @returns false where it was before */
export const markUndone = ({ sql }: Books, desk: Desk, id: number): boolean =>
	sql<[string, string, number]>(
		'UPDATE account_act SET undone_at = ?, undone_by = ? WHERE id = ? AND undone_at IS NULL',
	).run(desk.now(), desk.clerk, id).changes > 0

/** What an act entered: its items, and its applications, those that take another back among them. */
export const itemsOfAct = ({ sql }: Books, actId: number): number[] =>
	sql<[number], { id: number }>('SELECT id FROM ledger_item WHERE act_id = ? ORDER BY id')
		.all(actId)
		.map(({ id }) => id)
/** What an act applied, the earliest first. */
export const applicationsOfAct = ({ sql }: Books, actId: number): { id: number; takes_back: number | null }[] =>
	sql<[number], { id: number; takes_back: number | null }>(
		'SELECT id, takes_back FROM application WHERE act_id = ? ORDER BY id',
	).all(actId)
