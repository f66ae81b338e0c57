import { z } from 'zod'
import type { Day } from '@/core/calendar'
import { type Brought, broughtSchema } from '@/core/document'
import type { Books } from './books'
import { stands } from './places'

export type OrderLine = {
	/** Its own for good, wherever it is moved. */
	id: number
	position: number
	source_row: number
	item_code: string
	description: string
	quantity: string
	unit: string
	unit_price: string | null
	price_per: string
	discount_percent: string
	/** A discount in money on the whole line; empty for none. */
	discount_amount: string
	tax_code: string
	/** Values of the firm's own fields, JSON by key. */
	own: string
	/** What was looked up in the books when it came in, with commas between. */
	looked_up: string
	/** What a person changed of it on a draft that was given back; null for nothing. */
	agreed: Agreed | null
}
/** Values that a person agreed for a line, in place of those it was brought in with; with who, when and why. */
const agreedSchema = z.object({
	quantity: z.string(),
	unit_price: z.string().nullable(),
	discount_percent: z.string(),
	description: z.string(),
	tax_code: z.string(),
	by: z.string(),
	at: z.string(),
	reason: z.string(),
})
export type Agreed = z.infer<typeof agreedSchema>
type NewOrder = {
	number: string
	customer_id: number
	day: Day
	currency: string
	purchase_order: string
	note: string
	discount_percent: string
	/** Of the whole order, in its currency; empty for none. */
	discount_amount: string
	/** Name of one of the firm's discounts; empty for none. */
	discount_label: string
	/** Empty where the order names none. */
	freight: string
	freight_percent: string
	freight_tax_code: string
	content_sha256: string
	/** The same for orders that differ in how their figures are written alone. */
	same_as: string
	/** Where its goods go, a line each; empty: as its customer's. */
	delivery: string
	/** Values of the firm's own fields, JSON by key. */
	own: string
	/** What was looked up in the books, with commas between. */
	looked_up: string
	/** Tells it from another of its number, of another year or source; empty where there is none. */
	apart: string
	lines: Omit<OrderLine, 'id' | 'agreed'>[]
}
type Order = Omit<NewOrder, 'lines'> & {
	id: number
	line_count: number
	source_file_id: number
	source_file: string
	acceptance_id: number
	/** Why it is kept out of runs, and by whom; null where it is not. */
	held_reason: string | null
	held_by: string | null
	/** Why it no longer counts. */
	away_how: 'withdrawn' | 'replaced' | 'taken back' | null
	away_reason: string | null
	run_id: number | null
	document_id: number | null
	billed: number
	/** The order that this one was divided from. */
	part_of: number | null
	/** JSON of `Brought`: what it brought to a draft that it was taken off; null while its own terms and the rules count. */
	shared: string | null
}
export type OrderRow = Order & { customer: string; customer_number: string }

const columns = `o.id, o.number, o.customer_id, o.day, o.currency, o.purchase_order, o.note, o.discount_percent, o.discount_amount, o.discount_label,
	o.freight, o.freight_percent, o.freight_tax_code, o.delivery, o.own, o.apart, o.looked_up, o.acceptance_id, o.held_reason, o.held_by, o.away_how, o.away_reason, o.part_of, o.shared, o.content_sha256, o.same_as, o.line_count, o.source_file_id, f.name AS source_file, o.run_id, o.document_id, o.billed,
	c.name AS customer, c.number AS customer_number`
const joined = 'JOIN source_file f ON f.id = o.source_file_id JOIN customer c ON c.id = o.customer_id'
const from = `sales_order o ${joined}`
/** Orders that count: accepted, and not away. */
const fromIn = `order_in o ${joined}`

/** Orders not yet in a run, the oldest first; up to and on a day when one is given. */
export function waitingOrders({ sql }: Books, upTo: Day = '9999-12-31'): OrderRow[] {
	return sql<[Day], OrderRow>(
		`SELECT ${columns} FROM ${fromIn} WHERE o.run_id IS NULL AND o.joined_to IS NULL AND o.day <= ? ORDER BY o.day, o.number`,
	).all(upTo)
}

/** Orders of a month by the days that stand on them, whatever became of them. */
export const ordersOfMonth = ({ sql }: Books, month: string): OrderRow[] =>
	sql<[Day, Day], OrderRow>(`SELECT ${columns} FROM ${fromIn} WHERE o.day BETWEEN ? AND ?`).all(
		`${month}-01`,
		`${month}-31`,
	)

/** Orders that are not billed yet, whether they wait or stand on a draft. */
export const unbilledOrders = ({ sql }: Books): OrderRow[] =>
	sql<[], OrderRow>(`SELECT ${columns} FROM ${fromIn} WHERE o.billed = 0 AND o.joined_to IS NULL`).all()

/** How many orders wait to be billed. */
export function waitingCount({ sql }: Books): number {
	return (
		sql<[], { n: number }>('SELECT count(*) AS n FROM order_in WHERE run_id IS NULL AND joined_to IS NULL').get()?.n ??
		0
	)
}

/** Orders of a customer, the latest 500, the latest first. */
export const ordersOfCustomer = ({ sql }: Books, customerId: number): OrderRow[] =>
	sql<[number], OrderRow>(
		`SELECT ${columns} FROM ${fromIn} WHERE o.customer_id = ? AND o.joined_to IS NULL ORDER BY o.day DESC, o.number DESC LIMIT 500`,
	).all(customerId)

/** Orders of a run, by number. */
export const ordersOfRun = ({ sql }: Books, runId: number): OrderRow[] =>
	sql<[number], OrderRow>(`SELECT ${columns} FROM ${from} WHERE o.run_id = ? ORDER BY o.number`).all(runId)

type LineColumns = [
	number,
	number,
	number,
	number,
	string,
	string,
	string,
	string,
	string | null,
	string,
	string,
	string,
	string | null,
	string,
	string,
	string,
]
const lineColumns =
	'id, order_id, position, source_row, item_code, description, quantity, unit, unit_price, price_per, discount_percent, tax_code, agreed, own, discount_amount, looked_up'

/** A row by the places of its columns; written out, since it is done fifty thousand times. */
const asLine = (row: LineColumns): OrderLine => ({
	id: row[0],
	position: row[2],
	source_row: row[3],
	item_code: row[4],
	description: row[5],
	quantity: row[6],
	unit: row[7],
	unit_price: row[8],
	price_per: row[9],
	discount_percent: row[10],
	tax_code: row[11],
	agreed: row[12] === null ? null : agreedSchema.parse(JSON.parse(row[12])),
	own: row[13],
	discount_amount: row[14],
	looked_up: row[15],
})

/** Lines of every order of a run, by order. Read as columns, since there may be fifty thousand. */
export function linesOfRun({ sql }: Books, runId: number): Map<number, OrderLine[]> {
	const rows = sql<[number], LineColumns>(
		`SELECT ${lineColumns} FROM order_line WHERE order_id IN (SELECT id FROM sales_order WHERE run_id = ?) ORDER BY order_id, position`,
	).raw()
	return byOrder(rows.iterate(runId))
}

/** Lines of orders, by order. */
export function linesOfOrders({ sql }: Books, orderIds: readonly number[]): Map<number, OrderLine[]> {
	const rows = sql<[string], LineColumns>(
		`SELECT ${lineColumns} FROM order_line WHERE order_id IN (SELECT value FROM json_each(?)) ORDER BY order_id, position`,
	).raw()
	return byOrder(rows.iterate(JSON.stringify(orderIds)))
}

function byOrder(rows: Iterable<LineColumns>): Map<number, OrderLine[]> {
	const lines = new Map<number, OrderLine[]>()
	for (const columns of rows) {
		const known = lines.get(columns[1])
		if (known) known.push(asLine(columns))
		else lines.set(columns[1], [asLine(columns)])
	}
	return lines
}

/** The lines of one order. */
export const linesOf = ({ sql }: Books, orderId: number): OrderLine[] =>
	sql<[number], LineColumns>(`SELECT ${lineColumns} FROM order_line WHERE order_id = ? ORDER BY position`)
		.raw()
		.all(orderId)
		.map(asLine)

/** One order; null where there is none. */
export const readOrder = ({ sql }: Books, id: number): OrderRow | null =>
	sql<[number], OrderRow>(`SELECT ${columns} FROM ${from} WHERE o.id = ?`).get(id) ?? null

/** Takes the waiting orders up to a day into a run; gives how many. */
export function takeOrders({ sql }: Books, runId: number, upTo: Day, only: readonly number[] | null = null): number {
	return sql<[number, Day, string | null, string | null]>(
		`UPDATE sales_order SET run_id = ? WHERE run_id IS NULL AND joined_to IS NULL AND away_at IS NULL AND held_reason IS NULL AND day <= ?
			AND (SELECT state FROM acceptance WHERE id = sales_order.acceptance_id) = 'done'
			AND (? IS NULL OR id IN (SELECT value FROM json_each(?)))`,
	).run(runId, upTo, only && JSON.stringify(only), only && JSON.stringify(only)).changes
}

/** Takes one order that waits into a run. */
export const takeOrder = ({ sql }: Books, runId: number, orderId: number): boolean =>
	sql<[number, number]>('UPDATE sales_order SET run_id = ? WHERE id = ? AND run_id IS NULL AND away_at IS NULL').run(
		runId,
		orderId,
	).changes > 0

/** Notes with what net an order was gathered: what the run took in, apart from its drafts. */
export function noteGathered({ sql }: Books, runId: number, orderId: number, currency: string, net: bigint): void {
	sql<(string | number | bigint)[]>('INSERT INTO run_order (run_id, order_id, currency, net) VALUES (?, ?, ?, ?)').run(
		runId,
		orderId,
		currency,
		net,
	)
}

type Gathered = { currency: string; orders: number; net: number }

/** What a run took in, by currency. */
export const gatheredOf = ({ sql }: Books, runId: number): Gathered[] =>
	sql<[{ run: number }], Gathered>(
		`SELECT currency, count(*) AS orders, sum(net) AS net FROM (
			SELECT currency, net FROM run_order WHERE run_id = @run
			UNION ALL SELECT currency, net FROM run_paper WHERE run_id = @run AND away_at IS NULL AND currency IS NOT NULL)
		 GROUP BY currency`,
	).all({ run: runId })

/** Puts an order on a document of its run. */
export function putOnDocument({ sql }: Books, orderId: number, documentId: number): void {
	sql<[number, number]>('UPDATE sales_order SET document_id = ? WHERE id = ?').run(documentId, orderId)
}

/**
 * Begins a part of an order, numbered after it (8801/2), with no lines yet.
 * @returns its id and number
 */
export function beginPart({ sql }: Books, order: OrderRow): { id: number; number: string } {
	const first = order.part_of ?? order.id
	const root = sql<[number], { number: string }>('SELECT number FROM sales_order WHERE id = ?').get(first)?.number ?? ''
	const exists = sql<[string], unknown>('SELECT 1 FROM sales_order WHERE number = ? COLLATE NOCASE AND away_at IS NULL')
	let place = 2
	while (exists.get(`${root}/${place}`)) place++
	const number = `${root}/${place}`
	const { lastInsertRowid } = sql<[Record<string, string | number>]>(
		`INSERT INTO sales_order (number, customer_id, day, currency, purchase_order, note, discount_percent, discount_amount, discount_label, freight,
			freight_percent, freight_tax_code, delivery, own, looked_up, apart, source_file_id, acceptance_id, content_sha256, same_as, line_count, run_id, part_of)
		 SELECT @number, customer_id, day, currency, purchase_order, note, discount_percent, discount_amount, discount_label, freight, freight_percent,
			freight_tax_code, delivery, own, looked_up, apart, source_file_id, acceptance_id, content_sha256 || '/' || @place, same_as || '/' || @place, 0, run_id, @first FROM sales_order WHERE id = @id`,
	).run({ number, place, first, id: order.id })
	return { id: Number(lastInsertRowid), number }
}

/**
 * Puts a line on an order and a document; it stands on no other then.
 * @returns the order that it was on
 */
export function moveLine({ sql }: Books, lineId: number, orderId: number, documentId: number): number {
	const from =
		sql<[number], { order_id: number }>('SELECT order_id FROM order_line WHERE id = ?').get(lineId)?.order_id ?? orderId
	sql<[number, number, number]>('UPDATE order_line SET order_id = ?, document_id = ? WHERE id = ?').run(
		orderId,
		documentId,
		lineId,
	)
	return from
}

/** Puts every line of a run's orders on the document that its order is on. */
export function putLinesOfRun({ sql }: Books, runId: number): void {
	sql<[number]>(
		`UPDATE order_line SET document_id = o.document_id FROM sales_order o WHERE o.id = order_line.order_id AND o.run_id = ?`,
	).run(runId)
}

/** Notes for how many lines of orders a document stands. */
export function standOn({ sql }: Books, documentId: number, lines: number): void {
	sql<[number, number]>('UPDATE document SET line_count = ? WHERE id = ?').run(lines, documentId)
}

/** Documents of a run whose lines do not all stand on it, and orders of it with a line on none: for each, how many lines. */
export const linesOut = ({ sql }: Books, runId: number): { document_id: number | null; words: string }[] =>
	sql<[{ run: number }], { document_id: number | null; words: string }>(
		`SELECT d.id AS document_id, d.customer_name || ': ' || d.order_numbers || ' has ' || d.line_count || ' lines of orders, of which '
			|| (SELECT count(*) FROM order_line l WHERE l.document_id = d.id) || ' stand on it' AS words
		 FROM placed d WHERE d.run_id = @run AND ${stands} AND d.credits_id IS NULL
			AND d.line_count <> (SELECT count(*) FROM order_line l WHERE l.document_id = d.id)
		 UNION ALL
		 SELECT NULL, 'order ' || o.number || ' has ' || count(*) || ' lines on no document' FROM sales_order o JOIN order_line l ON l.order_id = o.id
		 WHERE o.run_id = @run AND l.document_id IS NULL GROUP BY o.id`,
	).all({ run: runId })

/** What an order brought to a draft that it was taken off, where that counts in place of its own terms and the rules. */
export const sharedOf = ({ shared }: Pick<OrderRow, 'shared'>): Brought | null =>
	shared === null ? null : broughtSchema.parse(JSON.parse(shared))

/** Keeps what an order brought to a draft; null where its own terms and the rules count again. */
export function setShared({ sql }: Books, orderId: number, shared: Brought | null): void {
	sql<[string | null, number]>('UPDATE sales_order SET shared = ? WHERE id = ?').run(
		shared && JSON.stringify(shared),
		orderId,
	)
}

/** Keeps what a person agreed for a line; null when it counts as it was brought in. */
export function setAgreed({ sql }: Books, lineId: number, agreed: Agreed | null): void {
	sql<[string | null, number]>('UPDATE order_line SET agreed = ? WHERE id = ?').run(
		agreed && JSON.stringify(agreed),
		lineId,
	)
}

/** Counts an order's lines anew. */
export function recount({ sql }: Books, orderId: number): void {
	sql<[{ id: number }]>(
		'UPDATE sales_order SET line_count = (SELECT count(*) FROM order_line WHERE order_id = @id) WHERE id = @id',
	).run({ id: orderId })
}

/** Puts an emptied part away on the order that its lines went back to. Its number is free for another part. */
export function joinPart(books: Books, partId: number, toId: number): void {
	books
		.sql<[number, number]>(
			`UPDATE sales_order SET joined_to = ?, run_id = NULL, document_id = NULL, shared = NULL, number = number || ' (put back ' || id || ')' WHERE id = ?`,
		)
		.run(toId, partId)
	recount(books, partId)
}

type WaitingPart = { id: number; to: number }

/** Parts that wait beside another waiting part of the same order, with the first such to put them back on. */
export const waitingParts = ({ sql }: Books): WaitingPart[] =>
	sql<[], WaitingPart>(
		`SELECT p.id, min(o.id) AS "to" FROM sales_order p JOIN sales_order o
			ON coalesce(o.part_of, o.id) = p.part_of AND o.id < p.id AND o.run_id IS NULL AND o.joined_to IS NULL AND o.away_at IS NULL
		 WHERE p.run_id IS NULL AND p.joined_to IS NULL AND p.away_at IS NULL AND p.part_of IS NOT NULL GROUP BY p.id ORDER BY p.id DESC`,
	).all()

/** Whether an order has a part that is not put back. */
export const isDivided = ({ sql }: Books, orderId: number): boolean =>
	sql<[number], unknown>('SELECT 1 FROM sales_order WHERE part_of = ? AND joined_to IS NULL').get(orderId) !== undefined

/** Marks the orders of a document as billed. */
export function markBilled({ sql }: Books, documentId: number): void {
	sql<[number]>('UPDATE sales_order SET billed = 1 WHERE document_id = ?').run(documentId)
}

/** Lets an order wait again. */
export function letWait({ sql }: Books, orderId: number): void {
	sql<[number]>('UPDATE sales_order SET billed = 0, run_id = NULL, document_id = NULL WHERE id = ?').run(orderId)
	sql<[number]>('UPDATE order_line SET document_id = NULL WHERE order_id = ?').run(orderId)
}

/** Puts every line of an order on another. */
export function moveLines({ sql }: Books, from: number, to: number): void {
	sql<[number, number]>('UPDATE order_line SET order_id = ? WHERE order_id = ?').run(to, from)
}

type OrderElsewhere = { id: number; number: string; customer_id: number; same_as: string; run_id: number }

/** A customer's orders on drafts of a run, in a currency. */
export const ordersDrafted = (
	{ sql }: Books,
	of: { run: number; customer: number; currency: string },
): { id: number; number: string; purchaseOrder: string }[] =>
	sql<[typeof of], { id: number; number: string; purchaseOrder: string }>(
		`SELECT o.id, o.number, o.purchase_order AS purchaseOrder FROM sales_order o JOIN document d ON d.id = o.document_id
		 WHERE o.run_id = @run AND o.customer_id = @customer AND o.currency = @currency AND d.number IS NULL AND d.dropped_at IS NULL ORDER BY o.id`,
	).all(of)

/** Orders of the other runs that are open. */
export const ordersInOtherRuns = ({ sql }: Books, runId: number): OrderElsewhere[] =>
	sql<[number], OrderElsewhere>(
		`SELECT o.id, o.number, o.customer_id, o.same_as, o.run_id FROM sales_order o JOIN run r ON r.id = o.run_id
		 WHERE r.state IN ('gathering', 'open') AND r.id <> ? AND o.billed = 0`,
	).all(runId)
