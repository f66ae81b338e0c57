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
	/** Name of one of the firm's discounts; empty for none. */
	discount_label: string
	/** Empty where the order names none. */
	freight: string
	freight_percent: string
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
	/** The order that this one was divided from. */
	part_of: number | null
}
export type OrderRow = Order & { customer: string; customer_number: string }

const columns = `o.id, o.number, o.customer_id, o.day, o.currency, o.purchase_order, o.note, o.discount_percent, o.discount_label,
	o.freight, o.freight_percent, o.freight_tax_code, o.part_of, o.content_sha256, o.net, o.line_count, o.source_file_id, f.name AS source_file, o.run_id, o.document_id, o.billed,
	c.name AS customer, c.number AS customer_number`
const from = 'sales_order o JOIN source_file f ON f.id = o.source_file_id JOIN customer c ON c.id = o.customer_id'

export function addOrder({ sql }: Books, fileId: number, { lines, ...order }: NewOrder): void {
	const { lastInsertRowid } = sql<[Record<string, string | number | bigint>]>(
		`INSERT INTO sales_order (number, customer_id, day, currency, purchase_order, note, discount_percent, discount_label, freight, freight_percent,
			freight_tax_code, source_file_id, content_sha256, net, line_count)
		 VALUES (@number, @customer_id, @day, @currency, @purchase_order, @note, @discount_percent, @discount_label, @freight, @freight_percent,
			@freight_tax_code, @file, @content_sha256, @net, @count)`,
	).run({ ...order, file: fileId, count: lines.length })
	const insert = sql<(string | number | null)[]>(
		`INSERT INTO order_line (order_id, position, source_row, item_code, description, quantity, unit, unit_price, price_per, discount_percent, tax_code)
		 VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
	)
	for (const line of lines) {
		insert.run(
			Number(lastInsertRowid),
			line.position,
			line.source_row,
			line.item_code,
			line.description,
			line.quantity,
			line.unit,
			line.unit_price,
			line.price_per,
			line.discount_percent,
			line.tax_code,
		)
	}
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

type LineColumns = [number, number, number, string, string, string, string, string | null, string, string, string]

/** Lines of every order of a run, by order. Read as columns, since there may be fifty thousand. */
export function linesOfRun({ sql }: Books, runId: number): Map<number, OrderLine[]> {
	const rows = sql<[number], LineColumns>(
		`SELECT order_id, position, source_row, item_code, description, quantity, unit, unit_price, price_per, discount_percent, tax_code
		 FROM order_line WHERE order_id IN (SELECT id FROM sales_order WHERE run_id = ?) ORDER BY order_id, position`,
	).raw()
	const lines = new Map<number, OrderLine[]>()
	let [last, own]: [number, OrderLine[]] = [0, []]
	for (const columns of rows.iterate(runId)) {
		const [
			order,
			position,
			source_row,
			item_code,
			description,
			quantity,
			unit,
			unit_price,
			price_per,
			discount_percent,
			tax_code,
		] = columns
		if (order !== last) {
			;[last, own] = [order, []]
			lines.set(order, own)
		}
		own.push({
			position,
			source_row,
			item_code,
			description,
			quantity,
			unit,
			unit_price,
			price_per,
			discount_percent,
			tax_code,
		})
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

/**
 * Divides lines off an order, by their rows in its file: they stand on an order of their own from then on, numbered after it
 * (8801/2). Its freight stays with the first part.
 * @returns the new order's id and number
 */
export function divideOrder({ sql }: Books, order: OrderRow, sourceRows: number[]): { id: number; number: string } {
	const first = order.part_of ?? order.id
	const root = order.number.replace(/\/\d+$/, '')
	const base = order.part_of === null ? order.number : root
	const parts =
		sql<[number], { n: number }>('SELECT count(*) AS n FROM sales_order WHERE part_of = ?').get(first)?.n ?? 0
	const exists = sql<[string], unknown>('SELECT 1 FROM sales_order WHERE number = ? COLLATE NOCASE')
	let place = parts + 2
	while (exists.get(`${base}/${place}`)) place++
	const number = `${base}/${place}`
	const { lastInsertRowid } = sql<[Record<string, string | number>]>(
		`INSERT INTO sales_order (number, customer_id, day, currency, purchase_order, note, discount_percent, discount_label, freight,
			freight_percent, freight_tax_code, source_file_id, content_sha256, net, line_count, run_id, part_of)
		 SELECT @number, customer_id, day, currency, purchase_order, note, discount_percent, discount_label, '0', freight_percent,
			freight_tax_code, source_file_id, content_sha256 || '/' || @place, 0, @count, run_id, @first FROM sales_order WHERE id = @id`,
	).run({ number, place, count: sourceRows.length, first, id: order.id })
	const id = Number(lastInsertRowid)
	moveLines({ sql }, order.id, id, sourceRows)
	return { id, number }
}

function moveLines({ sql }: Pick<Books, 'sql'>, from: number, to: number, sourceRows: number[]): void {
	sql<[number, number, string]>(
		'UPDATE order_line SET order_id = ? WHERE order_id = ? AND source_row IN (SELECT value FROM json_each(?))',
	).run(to, from, JSON.stringify(sourceRows))
	sql<[{ from: number; to: number }]>(
		`UPDATE sales_order SET line_count = (SELECT count(*) FROM order_line l WHERE l.order_id = sales_order.id) WHERE id IN (@from, @to)`,
	).run({ from, to })
}

/** Puts the lines of a part back on another part of the same order, and the part away. */
export function joinOrders(books: Pick<Books, 'sql'>, partId: number, toId: number): void {
	const rows = books
		.sql<[number], { source_row: number }>('SELECT source_row FROM order_line WHERE order_id = ?')
		.all(partId)
	moveLines(
		books,
		partId,
		toId,
		rows.map(({ source_row }) => source_row),
	)
	books.sql<[number]>('DELETE FROM sales_order WHERE id = ? AND billed = 0').run(partId)
}

/** Puts waiting parts back on the waiting orders that they were divided from. */
function joinWaiting({ sql }: Books): void {
	const parts = sql<[], { id: number; part_of: number }>(
		`SELECT p.id, p.part_of FROM sales_order p JOIN sales_order o ON o.id = p.part_of WHERE p.run_id IS NULL AND o.run_id IS NULL`,
	).all()
	for (const { id, part_of } of parts) joinOrders({ sql }, id, part_of)
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
export function giveBack(books: Books, runId: number): number {
	const { changes } = books
		.sql<[number]>('UPDATE sales_order SET run_id = NULL, document_id = NULL WHERE run_id = ? AND billed = 0')
		.run(runId)
	joinWaiting(books)
	return changes
}
