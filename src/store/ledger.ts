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

export const columns =
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

/** One item of the ledger; null where there is none. */
export const readItem = ({ sql }: Books, id: number): LedgerRow | null =>
	sql<[number], LedgerRow>(`SELECT ${columns} FROM ledger_item WHERE id = ?`).get(id) ?? null

/** The item that a document is in the ledger; null where it is none. */
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

/** One application; null where there is none. */
export const readApplication = ({ sql }: Books, id: number): Application | null =>
	sql<[number], Application>(`SELECT ${applicationColumns} FROM application a WHERE a.id = ?`).get(id) ?? null

/** Whether an application was taken back. */
export const wasTakenBack = ({ sql }: Books, id: number): boolean =>
	sql<[number], unknown>('SELECT 1 FROM application WHERE takes_back = ?').get(id) !== undefined

/** What was applied to or from the items of a customer, the oldest first. */
export const applicationsOfCustomer = ({ sql }: Books, customerId: number): Application[] =>
	sql<[{ customer: number }], Application>(
		`SELECT ${applicationColumns} FROM ledger_item i JOIN application a ON a.debit_id = i.id WHERE i.customer_id = @customer
		 UNION SELECT ${applicationColumns} FROM ledger_item i JOIN application a ON a.credit_id = i.id WHERE i.customer_id = @customer
		 ORDER BY 4, 1`,
	).all({ customer: customerId })

/** Applications by their ids, each with whether it was taken back (1). */
export const applicationsById = ({ sql }: Books, ids: readonly number[]): (Application & { taken_back: number })[] =>
	sql<[string], Application & { taken_back: number }>(
		`SELECT ${applicationColumns}, EXISTS (SELECT 1 FROM application b WHERE b.takes_back = a.id) AS taken_back
		 FROM application a WHERE a.id IN (SELECT value FROM json_each(?))`,
	).all(JSON.stringify(ids))

/** Changes of items by their ids. */
export const changesById = ({ sql }: Books, ids: readonly number[]): ChangeOfItem[] =>
	sql<[string], ChangeOfItem>(
		`SELECT ${changeColumns} FROM item_change h WHERE h.id IN (SELECT value FROM json_each(?))`,
	).all(JSON.stringify(ids))

/** Items by their ids. */
export const itemsOfIds = ({ sql }: Books, ids: readonly number[]): LedgerRow[] =>
	sql<[string], LedgerRow>(
		`SELECT ${columns} FROM ledger_item WHERE id IN (SELECT value FROM json_each(?)) ORDER BY id`,
	).all(JSON.stringify(ids))

/** How many items an account has, or had. */
export const itemCount = ({ sql }: Books, customerId: number, currency: string): number =>
	sql<[number, string], { n: number }>(
		'SELECT count(*) AS n FROM ledger_item WHERE customer_id = ? AND currency = ? AND away = 0',
	).get(customerId, currency)?.n ?? 0

/** What is owed now on an account, the oldest due first: the ids of at most so many items. */
export const firstDebits = ({ sql }: Books, customerId: number, currency: string, most: number): number[] =>
	sql<[number, string, number], { id: number }>(
		`SELECT id FROM ledger_item WHERE customer_id = ? AND currency = ? AND side = 'debit' AND open > 0 ORDER BY due_day, id LIMIT ?`,
	)
		.all(customerId, currency, most)
		.map(({ id }) => id)

export type ChangeOfItem = ItemChange & {
	id: number
	item_id: number
	reason: string
	extract_id: number | null
	takes_back: number | null
	/** What it was taken for and is; empty where its kind stays. */
	kind_was: ItemKind | ''
	kind_is: ItemKind | ''
}
export const changeColumns =
	'h.id, h.item_id, h.day, h.amount_was, h.amount_is, h.due_was, h.due_is, h.dated_was, h.dated_is, h.kind_was, h.kind_is, h.reason, h.extract_id, h.takes_back'

/** What of one item became otherwise, the earliest first. */
const changesOfItem = ({ sql }: Books, itemId: number): ChangeOfItem[] =>
	sql<[number], ChangeOfItem>(
		`SELECT ${changeColumns} FROM item_change h WHERE h.item_id = ? ORDER BY h.day, h.id`,
	).all(itemId)

/** What of an item is otherwise from a day on; what it was before stays what those days have. */
export function changeItem(
	{ sql }: Books,
	desk: Desk,
	change: Omit<ChangeOfItem, 'id' | 'extract_id' | 'takes_back' | 'kind_was' | 'kind_is'> &
		Partial<Pick<ChangeOfItem, 'kind_was' | 'kind_is'>> & { extract_id?: number; takes_back?: number },
): void {
	sql<(string | number | null)[]>(
		`INSERT INTO item_change (item_id, day, amount_was, amount_is, due_was, due_is, dated_was, dated_is, kind_was, kind_is, reason, extract_id, takes_back, at, clerk)
		 VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
	).run(
		change.item_id,
		change.day,
		change.amount_was,
		change.amount_is,
		change.due_was,
		change.due_is,
		change.dated_was,
		change.dated_is,
		change.kind_was ?? '',
		change.kind_is ?? '',
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

export type Dispute = { id: number; item_id: number; since: Day; note: string; ended: Day | null; clerk: string }

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

/** Enters that an item is in dispute from a day on. */
export function addDispute({ sql }: Books, desk: Desk, itemId: number, since: Day, note: string): void {
	sql<[number, Day, string, string, string]>(
		'INSERT INTO dispute (item_id, since, note, at, clerk) VALUES (?, ?, ?, ?, ?)',
	).run(itemId, since, note, desk.now(), desk.clerk)
}

/** Takes the dispute that an item is in over to another that stands for it from a day on. */
export function carryDispute(books: Books, desk: Desk, from: number, to: number, day: Day): void {
	const open = books
		.sql<[number], { id: number; since: Day; note: string }>(
			'SELECT id, since, note FROM dispute WHERE item_id = ? AND ended IS NULL',
		)
		.get(from)
	if (!open) return
	const since = open.since > day ? open.since : day
	addDispute(books, desk, to, since, open.note)
	endDispute(books, from, since)
	books
		.sql<[number, number]>(
			'UPDATE dispute SET carried_to = (SELECT max(id) FROM dispute WHERE item_id = ?) WHERE id = ?',
		)
		.run(to, open.id)
}

/** Gives a dispute back to the item from which it was taken over. */
export function giveDisputeBack({ sql }: Books, from: number): void {
	sql<[number]>(
		'UPDATE dispute SET ended = NULL, carried_to = NULL WHERE carried_to IN (SELECT id FROM dispute WHERE item_id = ?)',
	).run(from)
}

/** Ends the dispute of an item from a day on; false when it was in none. */
export const endDispute = ({ sql }: Books, itemId: number, day: Day): boolean =>
	sql<[Day, number]>('UPDATE dispute SET ended = ? WHERE item_id = ? AND ended IS NULL').run(day, itemId).changes > 0

/** Items by their ids as the core ages them, by day. */
export function entriesById(
	{ sql }: Books,
	ids: readonly number[],
): (Omit<Entry, 'disputes'> & LedgerRow & { disputes: Dispute[] })[] {
	const wanted = JSON.stringify(ids)
	const within = 'IN (SELECT value FROM json_each(@wanted))'
	const applied = grouped(
		sql<[{ wanted: string }], Application & { of: number }>(
			`SELECT ${applicationColumns}, a.debit_id AS of FROM application a WHERE a.debit_id ${within}
			 UNION ALL SELECT ${applicationColumns}, a.credit_id FROM application a WHERE a.credit_id ${within} ORDER BY 4, 1`,
		).all({ wanted }),
		({ of }) => of,
	)
	const changes = grouped(
		sql<[{ wanted: string }], ChangeOfItem>(
			`SELECT ${changeColumns} FROM item_change h LEFT JOIN extract x ON x.id = h.extract_id
			 WHERE h.item_id ${within} AND x.taken_back_at IS NULL ORDER BY h.day, h.id`,
		).all({ wanted }),
		({ item_id }) => item_id,
	)
	const disputes = grouped(
		sql<[{ wanted: string }], Dispute>(
			`SELECT id, item_id, since, note, ended, clerk FROM dispute WHERE item_id ${within} ORDER BY id`,
		).all({ wanted }),
		({ item_id }) => item_id,
	)
	return sql<[{ wanted: string }], LedgerRow>(`SELECT ${columns} FROM ledger_item WHERE id ${within} ORDER BY day, id`)
		.all({ wanted })
		.map((item) => ({
			...item,
			applied: applied.get(item.id) ?? [],
			changes: changes.get(item.id) ?? [],
			disputes: disputes.get(item.id) ?? [],
		}))
}

/** Rows by what they belong to. */
export function grouped<Row, Key>(rows: readonly Row[], of: (row: Row) => Key): Map<Key, Row[]> {
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
