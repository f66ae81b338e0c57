import type { Day } from '@/core/calendar'
import type { Entry, ItemKind, Side } from '@/core/ledger'
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
	extract_id: number | null
	entered_at: string
	entered_by: string
}
export type NewItem = Omit<LedgerRow, 'id' | 'open' | 'entered_at' | 'entered_by'>
export type Application = {
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
}
export type NewApplication = Pick<Application, 'debit_id' | 'credit_id' | 'day' | 'amount' | 'reason'> & {
	extract_id?: number
	takes_back?: number
}

const columns =
	'id, customer_id, kind, side, number, day, due_day, currency, amount, open, their_order, note, document_id, extract_id, entered_at, entered_by'

/** Enters an item; its whole amount is open. */
export function addItem({ sql }: Books, desk: Desk, item: NewItem): number {
	const { lastInsertRowid } = sql<(string | number | null)[]>(
		`INSERT INTO ledger_item (customer_id, kind, side, number, day, due_day, currency, amount, open, their_order, note, document_id,
			extract_id, entered_at, entered_by) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
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
	)
	return Number(lastInsertRowid)
}

/** Applies a credit to a debit; more than is open of either is refused by the database. */
export function addApplication({ sql }: Books, desk: Desk, application: NewApplication): number {
	const { debit_id, credit_id, day, amount, reason, extract_id = null, takes_back = null } = application
	return Number(
		sql<(string | number | null)[]>(
			'INSERT INTO application (debit_id, credit_id, day, amount, reason, extract_id, takes_back, at, clerk) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)',
		).run(debit_id, credit_id, day, amount, reason, extract_id, takes_back, desk.now(), desk.clerk).lastInsertRowid,
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

/** A payment of the same customer, day, amount and reference; null where none was entered. */
export const paymentLike = (
	{ sql }: Books,
	payment: { customerId: number; day: Day; amount: number; currency: string; reference: string },
): LedgerRow | null =>
	sql<[number, Day, number, string, string], LedgerRow>(
		`SELECT ${columns} FROM ledger_item WHERE kind = 'payment' AND customer_id = ? AND day = ? AND amount = ? AND currency = ? AND number = ?`,
	).get(
		payment.customerId,
		payment.day,
		payment.amount,
		payment.currency,
		payment.reference || `Payment of ${payment.day}`,
	) ?? null

const applicationColumns =
	'a.id, a.debit_id, a.credit_id, a.day, a.amount, a.reason, a.extract_id, a.takes_back, a.at, a.clerk'

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
	sql<[number], Application>(
		`SELECT DISTINCT ${applicationColumns} FROM application a JOIN ledger_item i ON i.id IN (a.debit_id, a.credit_id)
		 WHERE i.customer_id = ? ORDER BY a.day, a.id`,
	).all(customerId)

export type Dispute = { id: number; item_id: number; since: Day; note: string; ended: Day | null; clerk: string }

export const disputesOfCustomer = ({ sql }: Books, customerId: number): Dispute[] =>
	sql<[number], Dispute>(
		`SELECT d.id, d.item_id, d.since, d.note, d.ended, d.clerk FROM dispute d JOIN ledger_item i ON i.id = d.item_id
		 WHERE i.customer_id = ? ORDER BY d.id`,
	).all(customerId)

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
	const applied = new Map<number, { day: Day; amount: number }[]>()
	for (const { debit_id, credit_id, day, amount } of applicationsOfCustomer(books, customerId)) {
		for (const id of [debit_id, credit_id])
			if (id !== null) applied.set(id, [...(applied.get(id) ?? []), { day, amount }])
	}
	const disputes = disputesOfCustomer(books, customerId)
	return itemsOfCustomer(books, customerId).map((item) => ({
		...item,
		applied: applied.get(item.id) ?? [],
		disputes: disputes.filter(({ item_id }) => item_id === item.id),
	}))
}

/** Whether anything in the ledger is dated after a day. While nothing is, what is open now is what was open then. */
export const anythingAfter = ({ sql }: Pick<Books, 'sql'>, day: Day): boolean =>
	sql<[Day, Day], { n: number }>(
		'SELECT (EXISTS (SELECT 1 FROM application WHERE day > ?) OR EXISTS (SELECT 1 FROM ledger_item WHERE day > ?)) AS n',
	).get(day, day)?.n === 1

type OpenEntry = Entry & { their_order: string }

/**
 * Items of every customer that are open as of a day, as the core ages them, by customer. What was applied up to the day comes
 * added up, dated the item's own day.
 */
export function openEntries({ sql }: Books, asOf: Day): Map<number, OpenEntry[]> {
	type Row = Omit<OpenEntry, 'applied' | 'disputes'> & { customer_id: number; applied: number }
	const from = 'id, customer_id, kind, side, number, day, due_day, currency, amount, their_order'
	const rows = sql<[{ asOf: Day }], Row>(
		anythingAfter({ sql }, asOf)
			? `SELECT * FROM (SELECT ${from},
				coalesce((SELECT sum(a.amount) FROM application a WHERE a.debit_id = i.id AND a.day <= @asOf), 0)
				+ coalesce((SELECT sum(a.amount) FROM application a WHERE a.credit_id = i.id AND a.day <= @asOf), 0) AS applied
				FROM ledger_item i WHERE day <= @asOf AND (open > 0 OR EXISTS
					(SELECT 1 FROM application a WHERE a.day > @asOf AND (a.debit_id = i.id OR a.credit_id = i.id))))
			 WHERE amount > applied ORDER BY customer_id, day, id`
			: `SELECT ${from}, amount - open AS applied FROM ledger_item WHERE open > 0 AND day <= @asOf ORDER BY customer_id, day, id`,
	)
	const disputes = sql<[Day], Dispute>(
		'SELECT id, item_id, since, note, ended, clerk FROM dispute WHERE since <= ? ORDER BY id',
	).all(asOf)
	const inDispute = new Map<number, Dispute[]>()
	for (const dispute of disputes) inDispute.set(dispute.item_id, [...(inDispute.get(dispute.item_id) ?? []), dispute])
	const entries = new Map<number, OpenEntry[]>()
	for (const { applied, customer_id, ...row } of rows.iterate({ asOf })) {
		const entry = {
			...row,
			applied: applied === 0 ? [] : [{ day: row.day, amount: applied }],
			disputes: inDispute.get(row.id) ?? [],
		}
		const own = entries.get(customer_id)
		if (own) own.push(entry)
		else entries.set(customer_id, [entry])
	}
	return entries
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

/** An item with what was open of it as of a day. */
export type RowThen = LedgerRow & { open_then: number }

/** What an extract as of a day is compared with: every item up to then, with what was open of it on that day. */
export const itemsUpTo = ({ sql }: Books, asOf: Day): RowThen[] =>
	sql<[{ asOf: Day }], RowThen>(
		`SELECT ${columns}, open
			+ coalesce((SELECT sum(a.amount) FROM application a WHERE a.debit_id = i.id AND a.day > @asOf), 0)
			+ coalesce((SELECT sum(a.amount) FROM application a WHERE a.credit_id = i.id AND a.day > @asOf), 0) AS open_then
		 FROM ledger_item i WHERE day <= @asOf ORDER BY customer_id, day, id`,
	).all({ asOf })

/** Notes that an item stands in an extract, which may correct its amount and due date; what is open moves with the amount. */
export function correctItem(
	{ sql }: Books,
	id: number,
	to: { extract_id: number; due_day: Day; amount: number },
): void {
	sql<[number, Day, number, number, number]>(
		'UPDATE ledger_item SET extract_id = ?, due_day = ?, open = open + ? - amount, amount = ? WHERE id = ?',
	).run(to.extract_id, to.due_day, to.amount, to.amount, id)
}
