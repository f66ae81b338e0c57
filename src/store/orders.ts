import type { Day } from '@/core/calendar'
import type { Books } from './books'

export type OrderLine = {
	position: number
	source_row: number
	item_code: string
	description: string
	quantity: string
	unit: string
	unit_price: string | null
	price_per: string
	discount_percent: string
	tax_code: string
}
export type NewOrder = {
	number: string
	customer_id: number
	day: Day
	currency: string
	purchase_order: string
	note: string
	discount_percent: string
	freight: string
	freight_tax_code: string
	content_sha256: string
	/** Minor units, before a missing price is given. */
	net: bigint
	lines: OrderLine[]
}
export type Order = Omit<NewOrder, 'lines' | 'net'> & {
	id: number
	net: number
	line_count: number
	source_file_id: number
	source_file: string
	run_id: number | null
	document_id: number | null
	billed: number
}
export type OrderRow = Order & { customer: string; customer_number: string }

const columns = `o.id, o.number, o.customer_id, o.day, o.currency, o.purchase_order, o.note, o.discount_percent, o.freight,
	o.freight_tax_code, o.content_sha256, o.net, o.line_count, o.source_file_id, f.name AS source_file, o.run_id, o.document_id, o.billed,
	c.name AS customer, c.number AS customer_number`
const from = 'sales_order o JOIN source_file f ON f.id = o.source_file_id JOIN customer c ON c.id = o.customer_id'

export function addOrder({ sql }: Books, fileId: number, { lines, ...order }: NewOrder): void {
	const { lastInsertRowid } = sql<[Record<string, string | number | bigint>]>(
		`INSERT INTO sales_order (number, customer_id, day, currency, purchase_order, note, discount_percent, freight, freight_tax_code,
			source_file_id, content_sha256, net, line_count)
		 VALUES (@number, @customer_id, @day, @currency, @purchase_order, @note, @discount_percent, @freight, @freight_tax_code,
			@file, @content_sha256, @net, @count)`,
	).run({ ...order, file: fileId, count: lines.length })
	const insert = sql<[OrderLine & { order_id: number }]>(
		`INSERT INTO order_line (order_id, position, source_row, item_code, description, quantity, unit, unit_price, price_per, discount_percent, tax_code)
		 VALUES (@order_id, @position, @source_row, @item_code, @description, @quantity, @unit, @unit_price, @price_per, @discount_percent, @tax_code)`,
	)
	for (const line of lines) insert.run({ ...line, order_id: Number(lastInsertRowid) })
}

/** Hash of the content of every order in the books, by number in upper case. */
export function knownOrders({ sql }: Books): Map<string, string> {
	const rows = sql<[], { number: string; content_sha256: string }>(
		'SELECT number, content_sha256 FROM sales_order',
	).all()
	return new Map(rows.map(({ number, content_sha256 }) => [number.toUpperCase(), content_sha256]))
}

/** Orders not yet in a run, the oldest first; up to and on a day when one is given. */
export function waitingOrders({ sql }: Books, upTo: Day = '9999-12-31'): OrderRow[] {
	return sql<[Day], OrderRow>(
		`SELECT ${columns} FROM ${from} WHERE o.run_id IS NULL AND o.day <= ? ORDER BY o.day, o.number`,
	).all(upTo)
}

export function waitingCount({ sql }: Books): number {
	return sql<[], { n: number }>('SELECT count(*) AS n FROM sales_order WHERE run_id IS NULL').get()?.n ?? 0
}

export const ordersOfCustomer = ({ sql }: Books, customerId: number): OrderRow[] =>
	sql<[number], OrderRow>(
		`SELECT ${columns} FROM ${from} WHERE o.customer_id = ? ORDER BY o.day DESC, o.number DESC LIMIT 500`,
	).all(customerId)

export const ordersOfRun = ({ sql }: Books, runId: number): OrderRow[] =>
	sql<[number], OrderRow>(`SELECT ${columns} FROM ${from} WHERE o.run_id = ? ORDER BY o.number`).all(runId)

/** Lines of every order of a run, by order. */
export function linesOfRun({ sql }: Books, runId: number): Map<number, OrderLine[]> {
	const rows = sql<[number], OrderLine & { order_id: number }>(
		`SELECT order_id, position, source_row, item_code, description, quantity, unit, unit_price, price_per, discount_percent, tax_code
		 FROM order_line WHERE order_id IN (SELECT id FROM sales_order WHERE run_id = ?) ORDER BY order_id, position`,
	).all(runId)
	const lines = new Map<number, OrderLine[]>()
	for (const { order_id, ...line } of rows) {
		const known = lines.get(order_id)
		if (known) known.push(line)
		else lines.set(order_id, [line])
	}
	return lines
}

/** Takes the waiting orders up to a day into a run; gives how many. */
export function takeOrders({ sql }: Books, runId: number, upTo: Day): number {
	return sql<[number, Day]>('UPDATE sales_order SET run_id = ? WHERE run_id IS NULL AND day <= ?').run(runId, upTo)
		.changes
}

export function putOnDocument({ sql }: Books, orderId: number, documentId: number, net: bigint): void {
	sql<[number, bigint, number]>('UPDATE sales_order SET document_id = ?, net = ? WHERE id = ?').run(
		documentId,
		net,
		orderId,
	)
}

/** Marks the orders of a document as billed. */
export function markBilled({ sql }: Books, documentId: number): void {
	sql<[number]>('UPDATE sales_order SET billed = 1 WHERE document_id = ?').run(documentId)
}

/** Gives the orders of a voided document back to those waiting; gives how many. */
export function releaseBilled({ sql }: Books, documentId: number): number {
	return sql<[number]>(
		'UPDATE sales_order SET billed = 0, run_id = NULL, document_id = NULL WHERE document_id = ?',
	).run(documentId).changes
}

/** Gives the orders of a run that were not billed back to those waiting; gives how many. */
export function giveBack({ sql }: Books, runId: number): number {
	return sql<[number]>('UPDATE sales_order SET run_id = NULL, document_id = NULL WHERE run_id = ? AND billed = 0').run(
		runId,
	).changes
}
