import type { IntakeOrder } from '@/intake/ordersForBooks'
import type { Books } from './books'
import { type Desk, record } from './events'
import type { OrderLine } from './orders'
import { linesEach } from './outcomes'

const orderColumns =
	'number, apart, customer_id, day, currency, purchase_order, note, discount_percent, discount_amount, discount_label, freight, freight_percent, delivery, own, looked_up, same_as, line_count'
const lineColumns =
	'position, source_row, item_code, description, quantity, unit, unit_price, price_per, discount_percent, discount_amount, tax_code, own, looked_up'

/**
 * Attaches the staging file to the books, so that its orders go over at once. Pages are written back more seldom meanwhile, since the same
 * ones of the indexes are changed again and again.
 * @returns what closes it
 */
export function attachStaging({ db }: Books, path: string): () => void {
	db.prepare<[string]>('ATTACH DATABASE ? AS staging').run(path)
	const before = db.pragma('wal_autocheckpoint', { simple: true })
	db.pragma('wal_autocheckpoint = 20000')
	return () => {
		db.exec('DETACH DATABASE staging')
		db.pragma(`wal_autocheckpoint = ${before}`)
	}
}

/**
 * Puts staged orders of a standing into the books, from one to another of their places, unless their number is in use by now. They count when
 * their accepting is done. While `attachSheet` holds.
 * @returns how many went in, and the numbers of those that did not
 */
export function enterStaged(
	{ sql }: Books,
	fileId: number,
	acceptanceId: number,
	standing: string,
	[from, to]: [number, number],
	freightTaxCode: string,
): { entered: number; met: string[] } {
	const before = sql<[], { id: number }>(
		`SELECT coalesce((SELECT seq FROM sqlite_sequence WHERE name = 'sales_order'), 0) AS id`,
	).get()
	const base = (before?.id ?? 0) - from
	const { changes } = sql<[Record<string, string | number>]>(
		`INSERT INTO sales_order (id, ${orderColumns}, freight_tax_code, source_file_id, acceptance_id, content_sha256)
		 SELECT @base + s.seq, ${orderColumns},
			-- Freight is taxed as the firm says, else as the goods that it carries.
			coalesce(nullif(@freight, ''), (SELECT l.tax_code FROM staging.staged_line l WHERE l.id = s.seq * ${linesEach} + 1), ''), @file, @acceptance, ''
		 FROM staging.staged_order s
		 WHERE s.seq > @from AND s.seq <= @to AND s.standing = @standing AND NOT EXISTS (
			SELECT 1 FROM sales_order k WHERE k.number = s.number COLLATE NOCASE AND k.apart = s.apart AND k.away_at IS NULL)`,
	).run({ base, from, to, standing, freight: freightTaxCode, file: fileId, acceptance: acceptanceId })
	sql<[Record<string, number>]>(
		`INSERT INTO order_line (order_id, ${lineColumns}) SELECT o.id, ${lineColumns
			.split(', ')
			.map((column) => `l.${column}`)
			.join(', ')} FROM sales_order o
			JOIN staging.staged_line l ON l.id > (o.id - @base) * ${linesEach} AND l.id < (o.id - @base + 1) * ${linesEach}
		 WHERE o.id > @first AND o.id <= @last AND o.acceptance_id = @acceptance`,
	).run({ base, first: base + from, last: base + to, acceptance: acceptanceId })
	const wanted = sql<[number, number, string], { n: number }>(
		'SELECT count(*) AS n FROM staging.staged_order WHERE seq > ? AND seq <= ? AND standing = ?',
	).get(from, to, standing)?.n
	const met =
		wanted === changes
			? []
			: sql<[number, number, string, number, number], { number: string }>(
					`SELECT s.number FROM staging.staged_order s WHERE s.seq > ? AND s.seq <= ? AND s.standing = ?
						AND NOT EXISTS (SELECT 1 FROM sales_order o WHERE o.id = ? + s.seq AND o.acceptance_id = ?)`,
				)
					.all(from, to, standing, base, acceptanceId)
					.map(({ number }) => number)
	return { entered: changes, met }
}

/** Puts one order into the books, whose accepting is going. @returns its id */
export function addOrder(
	{ sql }: Books,
	order: IntakeOrder,
	at: { file: number; acceptance: number; apart: string; freightTaxCode: string },
): number {
	const id = Number(
		sql<(string | number)[]>(
			`INSERT INTO sales_order (${orderColumns}, freight_tax_code, source_file_id, acceptance_id, content_sha256)
			 VALUES (${'?, '.repeat(orderColumns.split(',').length)}?, ?, ?, '')`,
		).run(
			...[order.number, at.apart, order.customerId, order.day, order.currency, order.purchaseOrder, order.note],
			...[order.discountPercent, order.discountAmount, order.discountLabel, order.freight, order.freightPercent],
			...[order.delivery, order.own, order.lookedUp, order.sameAs, order.lines.length],
			...[at.freightTaxCode, at.file, at.acceptance],
		).lastInsertRowid,
	)
	const line = sql<(string | number | null)[]>(
		`INSERT INTO order_line (order_id, ${lineColumns}) VALUES (?${', ?'.repeat(lineColumns.split(',').length)})`,
	)
	for (const [place, one] of order.lines.entries())
		line.run(
			...[id, place + 1, one.sourceRow, one.item, one.description, one.quantity, one.unit, one.unitPrice],
			...[one.pricePer, one.discountPercent, one.discountAmount, one.taxCode, one.own, one.lookedUp],
		)
	return id
}

/** The number that the next order of the form gets: after the highest that one got, whatever became of it. */
export function nextFormNumber({ sql }: Books): string {
	const last = sql<[], { n: number | null }>(
		`SELECT max(CAST(substr(number, 4) AS INTEGER)) AS n FROM sales_order WHERE upper(number) GLOB 'PH-[0-9]*' AND length(number) <= 12`,
	).get()?.n
	return `PH-${String((last ?? 0) + 1).padStart(4, '0')}`
}

/** An order of a number that counts, with where it stands. */
export type KnownOrder = {
	id: number
	number: string
	apart: string
	customer_id: number
	customer_number: string
	day: string
	currency: string
	purchase_order: string
	discount_percent: string
	discount_amount: string
	discount_label: string
	freight: string
	freight_percent: string
	delivery: string
	own: string
	same_as: string
	source_file_id: number
	source_file: string
	reader_id: number | null
	acceptance_state: string
	/** Whether it, or a part that was divided from it, waits, is in a run, or is billed; and where. */
	place: 'waits' | 'in a run' | 'billed'
	run_id: number | null
	document_number: string | null
	divided: number
}

/** Numbers of the orders that count, or are just coming in, whatever their case; in memory up to half a million, else asked for one by one. */
export function numbersInUse({ sql }: Books): { has: (number: string) => boolean } {
	const count = sql<[], { n: number }>('SELECT count(*) AS n FROM sales_order WHERE away_at IS NULL').get()?.n ?? 0
	if (count > 500_000) {
		const one = sql<[string], unknown>(
			'SELECT 1 FROM sales_order WHERE number = ? COLLATE NOCASE AND away_at IS NULL LIMIT 1',
		)
		return { has: (number) => one.get(number) !== undefined }
	}
	const numbers = new Set(
		sql<[], { number: string }>('SELECT number FROM sales_order WHERE away_at IS NULL')
			.all()
			.map(({ number }) => number.toUpperCase()),
	)
	return { has: (number) => numbers.has(number.toUpperCase()) }
}

/** Whether an order, or a part of one, has a number. */
export const isOrderNumber = ({ sql }: Books, number: string): boolean =>
	sql<[string], unknown>('SELECT 1 FROM sales_order WHERE number = ? COLLATE NOCASE AND away_at IS NULL LIMIT 1').get(
		number,
	) !== undefined

/** The orders of a number, the latest first; those of an accepting that is going too. */
export const ordersOfNumber = ({ sql }: Books, number: string): KnownOrder[] =>
	sql<[string], KnownOrder>(
		`SELECT o.id, o.number, o.apart, o.customer_id, c.number AS customer_number, o.day, o.currency, o.purchase_order, o.discount_percent,
			o.discount_amount, o.discount_label, o.freight,
			o.freight_percent, o.delivery, o.own, o.same_as, o.source_file_id, f.name AS source_file, f.reader_id, a.state AS acceptance_state,
			CASE WHEN max(p.billed) = 1 THEN 'billed' WHEN max(p.run_id) IS NOT NULL THEN 'in a run' ELSE 'waits' END AS place,
			max(p.run_id) AS run_id, max(d.number) AS document_number, count(*) > 1 AS divided
		 FROM sales_order o JOIN acceptance a ON a.id = o.acceptance_id AND a.state IN ('done', 'going')
			JOIN customer c ON c.id = o.customer_id JOIN source_file f ON f.id = o.source_file_id
			JOIN sales_order p ON (p.id = o.id OR p.part_of = o.id) AND p.joined_to IS NULL AND p.away_at IS NULL
			LEFT JOIN document d ON d.id = p.document_id
		 WHERE o.number = ? COLLATE NOCASE AND o.away_at IS NULL AND o.part_of IS NULL GROUP BY o.id ORDER BY o.id DESC`,
	).all(number)

/** The lines of an order as it came in, those that were divided from it among them, in the order of its source. */
export const linesAsBrought = ({ sql }: Books, orderId: number): OrderLine[] =>
	sql<[number, number], OrderLine>(
		`SELECT l.id, l.position, l.source_row, l.item_code, l.description, l.quantity, l.unit, l.unit_price, l.price_per, l.discount_percent, l.discount_amount,
			l.tax_code, l.own, l.looked_up, NULL AS agreed
		 FROM order_line l JOIN sales_order o ON o.id = l.order_id WHERE (o.id = ? OR o.part_of = ?) ORDER BY l.source_row, l.position, l.id`,
	).all(orderId, orderId)

/** An order no longer counts, and why. False when it stands in a run, or is away already. */
export function putAway(
	books: Books,
	desk: Desk,
	id: number,
	how: 'withdrawn' | 'replaced' | 'taken back',
	reason: string,
): boolean {
	const { changes } = books
		.sql<(string | number)[]>(
			`UPDATE sales_order SET away_how = ?, away_reason = ?, away_by = ?, away_at = ? WHERE id = ? AND run_id IS NULL AND away_at IS NULL`,
		)
		.run(how, reason, desk.clerk, desk.now(), id)
	if (changes > 0) record(books, desk, { subject: 'order', id, act: `the order was ${how}`, detail: reason })
	return changes > 0
}

/** Keeps a waiting order out of runs, with why, or lets it go in again (null). */
export function holdOrder(books: Books, desk: Desk, id: number, reason: string | null): boolean {
	const { changes } = books
		.sql<(string | number | null)[]>(
			`UPDATE sales_order SET held_reason = ?, held_by = ?, held_at = ? WHERE id = ? AND run_id IS NULL AND away_at IS NULL`,
		)
		.run(reason, reason === null ? null : desk.clerk, reason === null ? null : desk.now(), id)
	if (changes > 0)
		record(books, desk, {
			subject: 'order',
			id,
			act: reason === null ? 'let the order go into runs again' : 'held the order back',
			detail: reason ?? '',
		})
	return changes > 0
}

/** Orders of a file that count, by where they stand. */
export const standingOfFile = (
	{ sql }: Books,
	fileId: number,
): { waits: number; in_run: number; billed: number; runs: string } =>
	sql<[number], { waits: number; in_run: number; billed: number; runs: string }>(
		`SELECT coalesce(sum(run_id IS NULL AND joined_to IS NULL), 0) AS waits, coalesce(sum(run_id IS NOT NULL AND billed = 0), 0) AS in_run,
			coalesce(sum(billed), 0) AS billed, coalesce(group_concat(DISTINCT run_id), '') AS runs
		 FROM order_in WHERE source_file_id = ?`,
	).get(fileId) ?? { waits: 0, in_run: 0, billed: 0, runs: '' }

/** Puts some of a file's orders away whose acceptings were taken back; gives how many, so that it is asked again until there are none. */
export function clearTakenBack({ sql }: Books, desk: Desk, fileId: number, reason: string, most: number): number {
	return sql<(string | number)[]>(
		`UPDATE sales_order SET away_how = 'taken back', away_reason = ?, away_by = ?, away_at = ? WHERE id IN (
			SELECT o.id FROM sales_order o JOIN acceptance a ON a.id = o.acceptance_id
			WHERE a.file_id = ? AND a.state = 'taken back' AND o.away_at IS NULL LIMIT ?)`,
	).run(reason, desk.clerk, desk.now(), fileId, most).changes
}

/** Removes some of the orders of an accepting that was stopped, which never counted; gives how many. */
export function clearStopped({ sql }: Books, acceptanceId: number, most: number): number {
	const ids = JSON.stringify(
		sql<[number, number], { id: number }>('SELECT id FROM sales_order WHERE acceptance_id = ? LIMIT ?')
			.all(acceptanceId, most)
			.map(({ id }) => id),
	)
	sql<[string]>('DELETE FROM order_line WHERE order_id IN (SELECT value FROM json_each(?))').run(ids)
	return sql<[string]>('DELETE FROM sales_order WHERE id IN (SELECT value FROM json_each(?))').run(ids).changes
}

/** Names where all orders stand, roughly: it changes when one comes in, goes away, is held, or comes into a run or out of it. */
export const ordersStamp = ({ sql }: Books): string =>
	JSON.stringify(
		sql<[], object>(
			`SELECT (SELECT coalesce(max(id), 0) FROM acceptance WHERE state IN ('done', 'taken back')) AS accepted,
				(SELECT count(*) FROM acceptance WHERE state = 'taken back') AS taken_back,
				(SELECT coalesce(max(id), 0) FROM event WHERE order_id IS NOT NULL OR run_id IS NOT NULL) AS acts,
				(SELECT coalesce(max(id), 0) FROM ledger_item) AS items, (SELECT coalesce(max(id), 0) FROM application) AS applications,
				(SELECT coalesce(max(id), 0) FROM item_change) AS changes, (SELECT count(*) FROM extract WHERE taken_back_at IS NOT NULL) AS back`,
		).get() ?? {},
	)

/** How many orders, with how many lines, came in with an accepting. */
export const ordersOfAcceptance = ({ sql }: Books, id: number): { orders: number; lines: number } =>
	sql<[number], { orders: number; lines: number }>(
		'SELECT count(*) AS orders, coalesce(sum(line_count), 0) AS lines FROM sales_order WHERE acceptance_id = ?',
	).get(id) ?? { orders: 0, lines: 0 }

/** What was looked up for lines when they came in, by line; those of which nothing was are left out. */
export const lookedUpOf = ({ sql }: Books, lineIds: number[]): Map<number, string> =>
	new Map(
		sql<[string], { id: number; looked_up: string }>(
			`SELECT id, looked_up FROM order_line WHERE looked_up <> '' AND id IN (SELECT value FROM json_each(?))`,
		)
			.all(JSON.stringify(lineIds))
			.map(({ id, looked_up }) => [id, looked_up]),
	)
