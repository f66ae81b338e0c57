import type { Day } from '@/core/calendar'
import type { Entry } from '@/core/ledger'
import type { Books } from './books'
import type { Span } from './customers'
import { type ChangeOfItem, changeColumns, columns, type Dispute, grouped, type LedgerRow } from './ledger'

// The ledger as it was on a day past: what was open then, and what happened since.

/** Whether anything in the ledger is dated after a day. While nothing is, what is open now is what was open then. */
export const anythingAfter = ({ sql }: Pick<Books, 'sql'>, day: Day): boolean =>
	sql<[{ day: Day }], { n: number }>(
		`SELECT (EXISTS (SELECT 1 FROM application WHERE day > @day) OR EXISTS (SELECT 1 FROM ledger_item WHERE day > @day)
			OR EXISTS (SELECT 1 FROM item_change WHERE day > @day)) AS n`,
	).get({ day })?.n === 1

/** Of an item `i`, as it was on `@asOf`: the amount that it had, what was applied to it, and its due date (SQL). */
export const amountThen = `i.amount - coalesce((SELECT sum(h.amount_is - h.amount_was) FROM item_change h WHERE h.item_id = i.id AND h.day > @asOf), 0)`
export const appliedThen = `coalesce((SELECT sum(a.amount) FROM application a WHERE a.debit_id = i.id AND a.day <= @asOf), 0)
	+ coalesce((SELECT sum(a.amount) FROM application a WHERE a.credit_id = i.id AND a.day <= @asOf), 0)`
export const dueThen = `coalesce((SELECT h.due_was FROM item_change h WHERE h.item_id = i.id AND h.day > @asOf ORDER BY h.day, h.id LIMIT 1), i.due_day)`

/** What a statement needs of an item. */
export type OpenEntry = Entry & { customer_id: number; their_order: string; open: number; called: string }

/**
 * Items of some customers that had something open, or moved, on a day from `from` to `asOf`, by customer, each with all that ever happened to it: so
 * what is reckoned of one does not depend on whose items were read with it, nor from which day.
 */
export function entriesBetween({ sql }: Books, from: Day, asOf: Day, span: Span): Map<number, OpenEntry[]> {
	const within = { from, asOf, ...span }
	type Within = typeof within
	const moved = `SELECT i.id FROM ledger_item i JOIN application a ON`
	const rows = sql<[Within], Omit<OpenEntry, 'applied' | 'disputes' | 'changes'>>(
		`SELECT id, customer_id, kind, side, number, day, due_day, currency, amount, open, their_order, dated, called FROM ledger_item i
		 WHERE customer_id > @after AND customer_id <= @upTo AND day <= @asOf AND away = 0 AND (open > 0 OR day > @from OR id IN (
			${moved} a.debit_id = i.id AND a.day > @from WHERE i.customer_id > @after AND i.customer_id <= @upTo
			UNION ALL ${moved} a.credit_id = i.id AND a.day > @from WHERE i.customer_id > @after AND i.customer_id <= @upTo))
		 ORDER BY customer_id, day, id`,
	).all(within)
	const ids = JSON.stringify(rows.map(({ id }) => id))
	type Part = { id: number; day: Day; amount: number }
	const applied = grouped(
		sql<[{ ids: string }], Part>(
			`SELECT a.debit_id AS id, a.day, a.amount FROM json_each(@ids) j CROSS JOIN application a ON a.debit_id = j.value
			 UNION ALL SELECT a.credit_id AS id, a.day, a.amount FROM json_each(@ids) j CROSS JOIN application a ON a.credit_id = j.value ORDER BY 2`,
		).all({ ids }),
		({ id }) => id,
	)
	const changes = grouped(
		sql<[Span], ChangeOfItem>(
			`SELECT ${changeColumns} FROM item_change h JOIN ledger_item i ON i.id = h.item_id LEFT JOIN extract x ON x.id = h.extract_id
			 WHERE i.customer_id > @after AND i.customer_id <= @upTo AND x.taken_back_at IS NULL ORDER BY h.day, h.id`,
		).all(span),
		({ item_id }) => item_id,
	)
	const disputes = grouped(
		sql<[Span], Dispute>(
			`SELECT d.id, d.item_id, d.since, d.note, d.ended, d.clerk FROM dispute d JOIN ledger_item i ON i.id = d.item_id
			 WHERE i.customer_id > @after AND i.customer_id <= @upTo ORDER BY d.id`,
		).all(span),
		({ item_id }) => item_id,
	)
	const entries = new Map<number, OpenEntry[]>()
	for (const row of rows) {
		const entry: OpenEntry = {
			...row,
			applied: applied.get(row.id) ?? [],
			changes: changes.get(row.id) ?? [],
			disputes: disputes.get(row.id) ?? [],
		}
		const own = entries.get(row.customer_id)
		if (own) own.push(entry)
		else entries.set(row.customer_id, [entry])
	}
	return entries
}

/** The accounts that customers have, a currency each. */
export const accountsIn = ({ sql }: Books, span: Span): { customer_id: number; currency: string }[] =>
	sql<[Span], { customer_id: number; currency: string }>(
		'SELECT DISTINCT customer_id, currency FROM ledger_item WHERE customer_id > @after AND customer_id <= @upTo ORDER BY 1, 2',
	).all(span)

/** What moved an item's balance beside the item itself: what an extract settled, or made otherwise. */
export type Settling = { day: Day; amount: number; reason: string }

/**
 * What extracts settled of customers' items from a day on, by item: amounts below zero opened more of it. What was taken back with its
 * extract is left out.
 */
export function settledByExtracts({ sql }: Books, span: Span, since: Day): Map<number, Settling[]> {
	const alone = (side: 'debit' | 'credit', other: string) =>
		`SELECT i.id, a.day, a.amount, a.reason, a.id AS place FROM ledger_item i JOIN application a ON a.${side}_id = i.id AND a.day >= @since
		 LEFT JOIN extract x ON x.id = a.extract_id
		 WHERE i.customer_id > @after AND i.customer_id <= @upTo AND a.${other}_id IS NULL AND x.taken_back_at IS NULL`
	return grouped(
		sql<[Span & { since: Day }], Settling & { id: number }>(
			`${alone('debit', 'credit')} UNION ALL ${alone('credit', 'debit')} ORDER BY 2, 5`,
		).all({ ...span, since }),
		({ id }) => id,
	)
}

/** Ids of the extracts that were taken back: what they did is not shown. */
export const extractsTakenBack = ({ sql }: Pick<Books, 'sql'>): Set<number> =>
	new Set(
		sql<[], { id: number }>('SELECT id FROM extract WHERE taken_back_at IS NOT NULL')
			.all()
			.map(({ id }) => id),
	)

/** An item with what it was, and what was open of it, as of a day. */
export type RowThen = LedgerRow & {
	open_then: number
	amount_then: number
	due_then: Day
	/** Its kind and what it is called by the latest standing extract that has it, in two lines; empty where none has. */
	called_there: string
	/** 1 where its document is void by now, or a revision stands in for it. */
	void: number
}

/** Of an item `i`: what the latest standing extract that has it says it is (SQL); the latest by day and number, which are 22 letters. */
const calledThere = `coalesce((SELECT substr(max(x.as_of || printf('%012d', x.id) || r.kind || char(10) || r.number), 23)
	FROM extract_row r JOIN extract x ON x.id = r.extract_id AND x.taken_back_at IS NULL WHERE r.item_id = i.id), '')`

/** What an extract as of a day is compared with: every item up to then as it was on that day, and what the extracts that stand say of it. */
export const itemsUpTo = ({ sql }: Books, asOf: Day): RowThen[] =>
	sql<[{ asOf: Day }], RowThen>(
		`SELECT ${columns}, ${amountThen} AS amount_then, ${amountThen} - (${appliedThen}) AS open_then, ${dueThen} AS due_then,
			${calledThere} AS called_there,
			EXISTS (SELECT 1 FROM document d WHERE d.id = i.document_id AND (d.void_at IS NOT NULL OR d.replaced_at IS NOT NULL)) AS void
		 FROM ledger_item i WHERE day <= @asOf AND away = 0 ORDER BY customer_id, day, id`,
	).all({ asOf })

/**
 * What was applied here, and by no extract, to or from items up to a day, by item (minor units): payments, credits and write-offs that
 * another system may not know.
 */
export function settledHere({ sql }: Books, asOf: Day): Map<number, number> {
	const sums = new Map<number, number>()
	const side = (own: 'debit' | 'credit') =>
		`SELECT ${own}_id AS id, sum(amount) AS amount FROM application WHERE known_there = 0 AND debit_id IS NOT NULL AND credit_id IS NOT NULL
			AND day <= @asOf GROUP BY ${own}_id`
	const rows = sql<[{ asOf: Day }], { id: number; amount: number }>(`${side('debit')} UNION ALL ${side('credit')}`).all(
		{ asOf },
	)
	for (const { id, amount } of rows) sums.set(id, (sums.get(id) ?? 0) + amount)
	return sums
}

/**
 * Payments entered here that no extract brought, with what of each is free as of a day: what is unapplied of it, and what it was applied to some
 * items after the day.
 */
export const paymentsFrom = ({ sql }: Books, asOf: Day, items: ReadonlySet<number>): (RowThen & { free: number })[] =>
	sql<[{ asOf: Day; items: string }], RowThen & { free: number; later: number }>(
		`SELECT ${columns}, amount AS amount_then, ${amountThen} - (${appliedThen}) AS open_then, due_day AS due_then, '' AS called_there, 0 AS void, 0 AS free,
			coalesce((SELECT sum(a.amount) FROM application a WHERE a.credit_id = i.id AND a.day > @asOf
				AND a.debit_id IN (SELECT value FROM json_each(@items))), 0) AS later
		 FROM ledger_item i WHERE kind = 'payment' AND side = 'credit' AND away = 0 AND extract_id IS NULL
			AND (open > 0 OR EXISTS (SELECT 1 FROM application a WHERE a.credit_id = i.id AND a.day > @asOf))
			AND NOT EXISTS (SELECT 1 FROM extract_row r JOIN extract x ON x.id = r.extract_id AND x.taken_back_at IS NULL WHERE r.item_id = i.id)
		 ORDER BY customer_id, day, id`,
	)
		.all({ asOf, items: JSON.stringify([...items]) })
		.map(({ later, ...row }) => ({
			...row,
			free: row.day > asOf ? row.open + later : Math.min(row.open_then, row.open + later),
		}))

/** What of credits was applied to debits after a day and stands, by `credit debit` (minor units). */
export const appliedAfter = ({ sql }: Books, asOf: Day, credits: readonly number[]): Map<string, number> =>
	new Map(
		sql<[{ asOf: Day; credits: string }], { pair: string; amount: number }>(
			`SELECT a.credit_id || ' ' || a.debit_id AS pair, sum(a.amount) AS amount FROM application a
			 WHERE a.credit_id IN (SELECT value FROM json_each(@credits)) AND a.debit_id IS NOT NULL AND a.day > @asOf GROUP BY 1`,
		)
			.all({ asOf, credits: JSON.stringify(credits) })
			.map(({ pair, amount }) => [pair, amount]),
	)
