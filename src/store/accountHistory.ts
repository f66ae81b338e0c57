import type { Day } from '@/core/calendar'
import type { Books } from './books'
import { extractsTakenBack } from './ledgerThen'

/** Something that happened on an account: an item entered (0), changed (1), or applied (2); what it added to the balance, minor units; null for nothing. */
type HappenedRow = { day: Day; what: 0 | 1 | 2; id: number; change: number | null }

const own = 'i.customer_id = @customer AND i.currency = @currency AND i.away = 0'
const last = 'ORDER BY 1 DESC, 2 DESC, 3 DESC, 4 DESC LIMIT @last'
/** The latest `@last` of all that happened on an account, by day, what it is and place (SQL); of each kind no more than that many are put in order. */
function happened(anyGone: boolean): string {
	// What an extract did that was taken back is left out.
	const stands = (table: string) =>
		anyGone
			? ` AND (${table}.extract_id IS NULL OR ${table}.extract_id NOT IN (SELECT id FROM extract WHERE taken_back_at IS NOT NULL))`
			: ''
	const kinds = [
		`SELECT i.day, 0 AS what, i.id AS place, i.id FROM ledger_item i INDEXED BY ledger_item_account WHERE ${own}`,
		`SELECT h.day, 1 AS what, i.id AS place, h.id FROM ledger_item i CROSS JOIN item_change h ON h.item_id = i.id WHERE ${own}${stands('h')}`,
		`SELECT a.day, 2 AS what, a.id AS place, a.id FROM ledger_item i CROSS JOIN application a ON a.debit_id = i.id WHERE ${own} AND i.side = 'debit'${stands('a')}`,
		`SELECT a.day, 2 AS what, a.id AS place, a.id FROM ledger_item i CROSS JOIN application a ON a.credit_id = i.id AND a.debit_id IS NULL WHERE ${own} AND i.side = 'credit'${stands('a')}`,
	]
	return `SELECT day, what, id, place FROM (${kinds.map((kind) => `SELECT * FROM (${kind} ${last})`).join(' UNION ALL ')})
		ORDER BY day DESC, what DESC, place DESC, id DESC LIMIT @last`
}
const signOf = (item: string, amount: string) =>
	`(SELECT iif(i.side = 'debit', ${amount}, -(${amount})) FROM ledger_item i WHERE i.id = ${item})`
/** What each added to the balance. */
const change = `CASE t.what
	WHEN 0 THEN ${signOf('t.id', 'coalesce((SELECT h.amount_was FROM item_change h WHERE h.item_id = i.id ORDER BY h.day, h.id LIMIT 1), i.amount)')}
	WHEN 1 THEN (SELECT ${signOf('h.item_id', 'h.amount_is - h.amount_was')} FROM item_change h WHERE h.id = t.id)
	ELSE (SELECT CASE WHEN a.credit_id IS NULL THEN -a.amount WHEN a.debit_id IS NULL THEN a.amount END FROM application a WHERE a.id = t.id) END`

/**
 * A page of what happened on an account, the latest first, with the balance after the latest of it (signed minor units), and whether there is more
 * before it. The balance is counted back from what is open now, so that a long past is not added up.
 */
export function happenedOn(
	{ sql }: Pick<Books, 'sql'>,
	account: { customer: number; currency: string },
	page: number,
	each: number,
): { rows: HappenedRow[]; balance: number; more: boolean } {
	type Account = typeof account
	const rows = sql<[Account & { last: number }], HappenedRow>(
		`SELECT t.day, t.what, t.id, ${change} AS change FROM (${happened(extractsTakenBack({ sql }).size > 0)}) t
		 ORDER BY t.day DESC, t.what DESC, t.place DESC, t.id DESC`,
	).all({ ...account, last: page * each + 1 })
	const now =
		sql<[Account], { open: number | null }>(
			`SELECT sum(iif(i.side = 'debit', i.open, -i.open)) AS open FROM ledger_item i INDEXED BY ledger_item_open
			 WHERE i.customer_id = @customer AND i.currency = @currency AND i.open > 0`,
		).get(account)?.open ?? 0
	const later = rows.slice(0, (page - 1) * each).reduce((sum, row) => sum + (row.change ?? 0), 0)
	return {
		rows: rows.slice((page - 1) * each, page * each),
		balance: now - later,
		more: rows.length > page * each,
	}
}

/** Currencies in which a customer has, or had, items that count. */
export const currenciesOfCustomer = ({ sql }: Books, customerId: number): string[] =>
	sql<[{ customer: number }], { currency: string }>(
		`WITH RECURSIVE c (currency) AS (
			SELECT (SELECT min(currency) FROM ledger_item WHERE customer_id = @customer)
			UNION SELECT (SELECT min(currency) FROM ledger_item WHERE customer_id = @customer AND currency > c.currency) FROM c WHERE c.currency IS NOT NULL)
		 SELECT currency FROM c WHERE currency IS NOT NULL
			AND EXISTS (SELECT 1 FROM ledger_item i WHERE i.customer_id = @customer AND i.currency = c.currency AND i.away = 0) ORDER BY 1`,
	)
		.all({ customer: customerId })
		.map(({ currency }) => currency)

/** What stands applied to or from an item `j.value`, on its side, by an act or with an adjustment (SQL). */
const usingUp = (side: 'debit' | 'credit') => `SELECT 1 FROM application a INDEXED BY application_${side}
	LEFT JOIN ledger_item d ON d.id = a.debit_id LEFT JOIN ledger_item c ON c.id = a.credit_id
	WHERE a.${side}_id = j.value AND a.takes_back IS NULL AND NOT EXISTS (SELECT 1 FROM application b WHERE b.takes_back = a.id)
		AND (a.act_id IS NOT NULL OR d.kind = 'adjustment' OR c.kind = 'adjustment')`

/** Of some items, those of which an act, or its undoing, or an adjustment used something up: nothing is left of them to come back or be put right. */
export const usedUp = ({ sql }: Books, itemIds: readonly number[]): Set<number> =>
	new Set(
		sql<[string], { id: number }>(
			`SELECT j.value AS id FROM json_each(?) j WHERE EXISTS (${usingUp('debit')}) OR EXISTS (${usingUp('credit')})`,
		)
			.all(JSON.stringify(itemIds))
			.map(({ id }) => id),
	)
