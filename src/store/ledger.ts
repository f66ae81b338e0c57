import type { Day } from '@/core/calendar'
import type { Entry, ItemChange, ItemKind, Side } from '@/core/ledger'
import type { Books } from './books'
import type { Desk } from './events'

export type LedgerRow = {
	id: number
	customer_id: number
	kind: ItemKind
	side: Side
	number: string
	day: Day
	due_day: Day
	currency: string
	amount: number
	open: number
	their_order: string
	note: string
	document_id: number | null
	/** The extract that brought it. */
	extract_id: number | null
	entered_at: string
	entered_by: string
	/** What it is called where its kind alone does not say it. */
	called: string
	/** Its document date, where that is not its day. */
	dated: Day | ''
	/** 1 where it was taken back with what brought it: it counts on no day. */
	away: number
	/** The act of a person that entered it beside others. */
	act_id: number | null
}
type NewItem = Omit<LedgerRow, 'id' | 'open' | 'entered_at' | 'entered_by' | 'called' | 'dated' | 'away' | 'act_id'> &
	Partial<Pick<LedgerRow, 'called' | 'dated' | 'act_id'>>
type Application = {
	id: number
	debit_id: number | null
	credit_id: number | null
	day: Day
	amount: number
	reason: string
	extract_id: number | null
	takes_back: number | null
	at: string
	clerk: string
	act_id: number | null
	/** 1 where it is money that an extract has too. */
	known_there: number
}
type NewApplication = Pick<Application, 'debit_id' | 'credit_id' | 'day' | 'amount' | 'reason'> & {
	extract_id?: number | null
	takes_back?: number
	act_id?: number | null
	known_there?: number
}

const columns =
	'id, customer_id, kind, side, number, day, due_day, currency, amount, open, their_order, note, document_id, extract_id, entered_at, entered_by, called, dated, away, act_id'

/** Enters an item; its whole amount is open. */
export function addItem({ sql }: Books, desk: Desk, item: NewItem): number {
	const { lastInsertRowid } = sql<(string | number | null)[]>(
		`INSERT INTO ledger_item (customer_id, kind, side, number, day, due_day, currency, amount, open, their_order, note, document_id,
			extract_id, entered_at, entered_by, called, dated, act_id) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
	).run(
		item.customer_id,
		item.kind,
		item.side,
		item.number,
		item.day,
		item.due_day,
		item.currency,
		item.amount,
		item.amount,
		item.their_order,
		item.note,
		item.document_id,
		item.extract_id,
		desk.now(),
		desk.clerk,
		item.called ?? '',
		item.dated ?? '',
		item.act_id ?? null,
	)
	return Number(lastInsertRowid)
}

/** Applies a credit to a debit; more than is open of either is refused by the database. */
export function addApplication({ sql }: Books, desk: Desk, application: NewApplication): number {
	const { debit_id, credit_id, day, amount, reason } = application
	const { extract_id = null, takes_back = null, act_id = null, known_there = 0 } = application
	return Number(
		sql<(string | number | null)[]>(
			'INSERT INTO application (debit_id, credit_id, day, amount, reason, extract_id, takes_back, at, clerk, act_id, known_there) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)',
		).run(debit_id, credit_id, day, amount, reason, extract_id, takes_back, desk.now(), desk.clerk, act_id, known_there)
			.lastInsertRowid,
	)
}

export const readItem = ({ sql }: Books, id: number): LedgerRow | null =>
	sql<[number], LedgerRow>(`SELECT ${columns} FROM ledger_item WHERE id = ?`).get(id) ?? null

export const itemOfDocument = ({ sql }: Books, documentId: number): LedgerRow | null =>
	sql<[number], LedgerRow>(`SELECT ${columns} FROM ledger_item WHERE document_id = ?`).get(documentId) ?? null

/** Every item of a customer, the oldest first. */
export const itemsOfCustomer = ({ sql }: Books, customerId: number): LedgerRow[] =>
	sql<[number], LedgerRow>(`SELECT ${columns} FROM ledger_item WHERE customer_id = ? ORDER BY day, id`).all(customerId)

/** What is open of a customer's items of one side and currency, the oldest due first. */
export const openItems = ({ sql }: Books, customerId: number, currency: string, side: Side): LedgerRow[] =>
	sql<[number, string, Side], LedgerRow>(
		`SELECT ${columns} FROM ledger_item WHERE customer_id = ? AND currency = ? AND side = ? AND open > 0 ORDER BY due_day, day, id`,
	).all(customerId, currency, side)

/** Everything that is owed, by whom it is due first. */
export const openDebits = ({ sql }: Books): LedgerRow[] =>
	sql<[], LedgerRow>(
		`SELECT ${columns} FROM ledger_item WHERE side = 'debit' AND open > 0 ORDER BY customer_id, currency, due_day, day, id`,
	).all()

/** Credit notes and other credits but payments that are open, of all customers. */
export const openNotes = ({ sql }: Books): LedgerRow[] =>
	sql<[], LedgerRow>(
		`SELECT ${columns} FROM ledger_item WHERE side = 'credit' AND open > 0 AND kind <> 'payment' ORDER BY customer_id, currency, due_day, day, id`,
	).all()

/** A payment of the same customer, day, amount and reference; null where none was entered. */
export const paymentLike = (
	{ sql }: Books,
	payment: { customerId: number; day: Day; amount: number; currency: string; reference: string },
): LedgerRow | null =>
	sql<[number, Day, number, string, string], LedgerRow>(
		`SELECT ${columns} FROM ledger_item WHERE kind = 'payment' AND side = 'credit' AND away = 0 AND customer_id = ? AND day = ? AND amount = ? AND currency = ? AND number = ?`,
	).get(
		payment.customerId,
		payment.day,
		payment.amount,
		payment.currency,
		payment.reference || `Payment of ${payment.day}`,
	) ?? null

const applicationColumns =
	'a.id, a.debit_id, a.credit_id, a.day, a.amount, a.reason, a.extract_id, a.takes_back, a.at, a.clerk, a.act_id, a.known_there'

/** What was applied to or from one item, the oldest first. */
export const applicationsOfItem = ({ sql }: Books, itemId: number): Application[] =>
	sql<[{ id: number }], Application>(
		`SELECT ${applicationColumns} FROM application a WHERE a.debit_id = @id
		 UNION ALL SELECT ${applicationColumns} FROM application a WHERE a.credit_id = @id ORDER BY 1`,
	).all({ id: itemId })

export const readApplication = ({ sql }: Books, id: number): Application | null =>
	sql<[number], Application>(`SELECT ${applicationColumns} FROM application a WHERE a.id = ?`).get(id) ?? null

export const wasTakenBack = ({ sql }: Books, id: number): boolean =>
	sql<[number], unknown>('SELECT 1 FROM application WHERE takes_back = ?').get(id) !== undefined

/** What was applied to or from the items of a customer, the oldest first. */
export const applicationsOfCustomer = ({ sql }: Books, customerId: number): Application[] =>
	sql<[{ customer: number }], Application>(
		`SELECT ${applicationColumns} FROM ledger_item i JOIN application a ON a.debit_id = i.id WHERE i.customer_id = @customer
		 UNION SELECT ${applicationColumns} FROM ledger_item i JOIN application a ON a.credit_id = i.id WHERE i.customer_id = @customer
		 ORDER BY 4, 1`,
	).all({ customer: customerId })

export type ChangeOfItem = ItemChange & {
	id: number
	item_id: number
	reason: string
	extract_id: number | null
	takes_back: number | null
}
const changeColumns =
	'h.id, h.item_id, h.day, h.amount_was, h.amount_is, h.due_was, h.due_is, h.dated_was, h.dated_is, h.reason, h.extract_id, h.takes_back'

/** What of a customer's items became otherwise and stands, the earliest first; of an extract that was taken back nothing does. */
const changesOfCustomer = ({ sql }: Books, customerId: number): ChangeOfItem[] =>
	sql<[number], ChangeOfItem>(
		`SELECT ${changeColumns} FROM ledger_item i JOIN item_change h ON h.item_id = i.id LEFT JOIN extract x ON x.id = h.extract_id
		 WHERE i.customer_id = ? AND x.taken_back_at IS NULL ORDER BY h.day, h.id`,
	).all(customerId)

/** What of one item became otherwise, the earliest first. */
const changesOfItem = ({ sql }: Books, itemId: number): ChangeOfItem[] =>
	sql<[number], ChangeOfItem>(
		`SELECT ${changeColumns} FROM item_change h WHERE h.item_id = ? ORDER BY h.day, h.id`,
	).all(itemId)

/** What of an item is otherwise from a day on; what it was before stays what those days have. */
export function changeItem(
	{ sql }: Books,
	desk: Desk,
	change: Omit<ChangeOfItem, 'id' | 'extract_id' | 'takes_back'> & { extract_id?: number; takes_back?: number },
): void {
	sql<(string | number | null)[]>(
		`INSERT INTO item_change (item_id, day, amount_was, amount_is, due_was, due_is, dated_was, dated_is, reason, extract_id, takes_back, at, clerk)
		 VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
	).run(
		change.item_id,
		change.day,
		change.amount_was,
		change.amount_is,
		change.due_was,
		change.due_is,
		change.dated_was,
		change.dated_is,
		change.reason,
		change.extract_id ?? null,
		change.takes_back ?? null,
		desk.now(),
		desk.clerk,
	)
}

/** Marks an item as taken back with what brought it. */
export const putItemAway = ({ sql }: Books, id: number): void => {
	sql<[number]>('UPDATE ledger_item SET away = 1 WHERE id = ?').run(id)
}

/** One item as the core looks at it, with all that moved it. */
export function entryOf(books: Books, id: number): (Entry & LedgerRow) | null {
	const item = readItem(books, id)
	return (
		item && {
			...item,
			applied: applicationsOfItem(books, id),
			changes: changesOfItem(books, id),
			disputes: [],
		}
	)
}

type Dispute = { id: number; item_id: number; since: Day; note: string; ended: Day | null; clerk: string }

export const disputesOfCustomer = ({ sql }: Books, customerId: number): Dispute[] =>
	sql<[number], Dispute>(
		`SELECT d.id, d.item_id, d.since, d.note, d.ended, d.clerk FROM dispute d JOIN ledger_item i ON i.id = d.item_id
		 WHERE i.customer_id = ? ORDER BY d.id`,
	).all(customerId)

/** Items of a customer that are in dispute now. */
export const disputedItems = ({ sql }: Books, customerId: number): Set<number> =>
	new Set(
		sql<[number], { item_id: number }>(
			`SELECT d.item_id FROM ledger_item i JOIN dispute d ON d.item_id = i.id WHERE i.customer_id = ? AND d.ended IS NULL`,
		)
			.all(customerId)
			.map(({ item_id }) => item_id),
	)

/** All items that are in dispute now. */
export const allDisputed = ({ sql }: Books): Set<number> =>
	new Set(
		sql<[], { item_id: number }>('SELECT item_id FROM dispute WHERE ended IS NULL')
			.all()
			.map(({ item_id }) => item_id),
	)

export function addDispute({ sql }: Books, desk: Desk, itemId: number, since: Day, note: string): void {
	sql<[number, Day, string, string, string]>(
		'INSERT INTO dispute (item_id, since, note, at, clerk) VALUES (?, ?, ?, ?, ?)',
	).run(itemId, since, note, desk.now(), desk.clerk)
}

/** Ends the dispute of an item from a day on; false when it was in none. */
export const endDispute = ({ sql }: Books, itemId: number, day: Day): boolean =>
	sql<[Day, number]>('UPDATE dispute SET ended = ? WHERE item_id = ? AND ended IS NULL').run(day, itemId).changes > 0

/** A customer's items as the core ages them. */
export function entriesOf(books: Books, customerId: number): (Entry & LedgerRow)[] {
	const applied = new Map<number, Application[]>()
	for (const application of applicationsOfCustomer(books, customerId))
		for (const id of [application.debit_id, application.credit_id]) {
			if (id === null) continue
			const parts = applied.get(id)
			if (parts) parts.push(application)
			else applied.set(id, [application])
		}
	const changes = grouped(changesOfCustomer(books, customerId), ({ item_id }) => item_id)
	const disputes = grouped(disputesOfCustomer(books, customerId), ({ item_id }) => item_id)
	return itemsOfCustomer(books, customerId).map((item) => ({
		...item,
		applied: applied.get(item.id) ?? [],
		changes: changes.get(item.id) ?? [],
		disputes: disputes.get(item.id) ?? [],
	}))
}

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

/** Which customers, by id: those above `after`, up to and with `upTo`. */
export type Span = { after: number; upTo: number }

/** What a statement needs of an item. */
export type OpenEntry = Entry & { customer_id: number; their_order: string; open: number; called: string }

/**
 * Items of some customers that had something open, or moved, on a day from `from` to `asOf`, as the core ages them, by customer. What was
 * applied up to and on `from` comes added up, dated the item's own day.
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
	type Part = { id: number; day: Day; amount: number }
	const parts = sql<[Within], Part>(
		`SELECT i.id, a.day, a.amount FROM ledger_item i JOIN application a ON a.debit_id = i.id AND a.day > @from
			WHERE i.customer_id > @after AND i.customer_id <= @upTo
		 UNION ALL SELECT i.id, a.day, a.amount FROM ledger_item i JOIN application a ON a.credit_id = i.id AND a.day > @from
			WHERE i.customer_id > @after AND i.customer_id <= @upTo ORDER BY 2`,
	).all(within)
	const applied = grouped(parts, ({ id }) => id)
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
		const later = applied.get(row.id) ?? []
		const before = row.amount - row.open - later.reduce((sum, { amount }) => sum + amount, 0)
		const entry: OpenEntry = {
			...row,
			applied: before === 0 ? later : [{ day: row.day, amount: before }, ...later],
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
export const extractsTakenBack = ({ sql }: Books): Set<number> =>
	new Set(
		sql<[], { id: number }>('SELECT id FROM extract WHERE taken_back_at IS NOT NULL')
			.all()
			.map(({ id }) => id),
	)

/** Rows by what they belong to. */
function grouped<Row, Key>(rows: readonly Row[], of: (row: Row) => Key): Map<Key, Row[]> {
	const groups = new Map<Key, Row[]>()
	for (const row of rows) {
		const own = groups.get(of(row))
		if (own) own.push(row)
		else groups.set(of(row), [row])
	}
	return groups
}

/** Ids of the documents with a made file that items stand for. */
export const filesOfItems = ({ sql }: Books, itemIds: number[]): number[] =>
	sql<[string], { id: number }>(
		`SELECT d.id FROM ledger_item i JOIN document d ON d.id = i.document_id
		 WHERE i.id IN (SELECT value FROM json_each(?)) AND d.made_at IS NOT NULL ORDER BY i.due_day, i.id`,
	)
		.all(JSON.stringify(itemIds))
		.map(({ id }) => id)

/** What is open now of a customer in a currency: what they owe less what is owed to them, minor units. */
export const balanceOf = ({ sql }: Books, customerId: number, currency: string): number =>
	sql<[number, string], { balance: number | null }>(
		`SELECT sum(iif(side = 'debit', open, -open)) AS balance FROM ledger_item WHERE customer_id = ? AND currency = ? AND open > 0`,
	).get(customerId, currency)?.balance ?? 0

/** Balances of every customer with an open item, by `customer currency`. */
export const allBalances = ({ sql }: Books): Map<string, number> =>
	new Map(
		sql<[], { customer_id: number; currency: string; balance: number }>(
			`SELECT customer_id, currency, sum(iif(side = 'debit', open, -open)) AS balance FROM ledger_item WHERE open > 0 GROUP BY 1, 2`,
		)
			.all()
			.map(({ customer_id, currency, balance }) => [`${customer_id} ${currency}`, balance]),
	)

/** An item with what it was, and what was open of it, as of a day. */
export type RowThen = LedgerRow & { open_then: number; amount_then: number; due_then: Day; in_extract: number }

/** What an extract as of a day is compared with: every item up to then as it was on that day, and whether a standing extract had it. */
export const itemsUpTo = ({ sql }: Books, asOf: Day): RowThen[] =>
	sql<[{ asOf: Day }], RowThen>(
		`SELECT ${columns}, ${amountThen} AS amount_then, ${amountThen} - (${appliedThen}) AS open_then, ${dueThen} AS due_then,
			EXISTS (SELECT 1 FROM extract_row r JOIN extract x ON x.id = r.extract_id AND x.taken_back_at IS NULL WHERE r.item_id = i.id) AS in_extract
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
		`SELECT ${columns}, amount AS amount_then, ${amountThen} - (${appliedThen}) AS open_then, due_day AS due_then, 0 AS in_extract, 0 AS free,
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
