import type { Finding } from '@/core/checks'
import { type DocumentContent, documentSchema } from '@/core/document'
import type { Books } from './books'
import type { Desk } from './events'

export type Level = 'stop' | 'look' | 'clear'
export type DocumentRow = {
	id: number
	run_id: number
	position: number
	customer_id: number
	customer_name: string
	email: string
	currency: string
	order_count: number
	order_numbers: string
	net: number
	tax: number
	total: number
	day: string
	due_day: string
	level: Level
	held_reason: string | null
	held_by: string | null
	held_at: string | null
	looked_by: string | null
	looked_at: string | null
	number: string | null
	numbered_at: string | null
	file_name: string | null
	file_sha256: string | null
	file_size: number | null
	pages: number | null
	made_at: string | null
	printed_at: string | null
	printed_by: string | null
	kind: 'invoice' | 'credit-note'
	void_reason: string | null
	void_at: string | null
	void_by: string | null
	credits_id: number | null
}
export type BenchRow = DocumentRow & {
	place: Place
	/** The worst finding in brief, and how many there are. */
	brief: string | null
	findings: number
	/** Changes that stand. */
	changes: number
	message_state: string | null
	message_answer: string | null
}

const columns = `d.id, d.run_id, d.position, d.customer_id, d.customer_name, d.email, d.currency, d.order_count, d.order_numbers, d.net, d.tax,
	d.total, d.day, d.due_day, d.level, d.held_reason, d.held_by, d.held_at, d.looked_by, d.looked_at, d.number, d.numbered_at,
	d.file_name, d.file_sha256, d.file_size, d.pages, d.made_at, d.printed_at, d.printed_by, d.kind, d.void_reason, d.void_at, d.void_by, d.credits_id`

/** A document that may be numbered: not held, nothing that stops it, not numbered yet. */
export const mayBeNumbered = `d.number IS NULL AND d.held_reason IS NULL AND d.level <> 'stop'`

export type NewDocument = {
	run_id: number
	position: number
	customer_id: number
	customer_name: string
	email: string
	order_numbers: string
	net: bigint
	tax: bigint
	total: bigint
	level: Level
	content: DocumentContent
	credits_id?: number
}

export function addDocument({ sql }: Books, { content, ...row }: NewDocument): number {
	const { lastInsertRowid } = sql<[Record<string, string | number | bigint | null>]>(
		`INSERT INTO document (run_id, position, kind, customer_id, customer_name, email, currency, order_count, order_numbers, net, tax, total,
			day, due_day, level, credits_id)
		 VALUES (@run_id, @position, @kind, @customer_id, @customer_name, @email, @currency, @order_count, @order_numbers, @net, @tax, @total,
			@day, @due_day, @level, @credits_id)`,
	).run({
		...row,
		credits_id: row.credits_id ?? null,
		kind: content.kind,
		currency: content.currency,
		order_count: content.orders.length,
		day: content.day,
		due_day: content.dueDay,
	})
	sql<[number | bigint, string]>('INSERT INTO document_content (document_id, content) VALUES (?, ?)').run(
		lastInsertRowid,
		JSON.stringify(content),
	)
	return Number(lastInsertRowid)
}

export function addFindings({ sql }: Books, documentId: number, findings: Finding[]): void {
	findings.forEach(({ code, level, brief, text, order }, place) => {
		sql<[number, string, number, string, string, string, string]>(
			'INSERT INTO finding (document_id, code, place, level, brief, text, order_number) VALUES (?, ?, ?, ?, ?, ?, ?)',
		).run(documentId, code, place, level, brief, text, order ?? '')
	})
}

export const findingsOf = ({ sql }: Books, documentId: number): Finding[] =>
	sql<[number], Finding>(
		'SELECT code, level, brief, text, order_number AS "order" FROM finding WHERE document_id = ? ORDER BY place',
	).all(documentId)

export function readDocument({ sql }: Books, id: number): (DocumentRow & { content: DocumentContent }) | null {
	const row = sql<[number], DocumentRow & { content: string }>(
		`SELECT ${columns}, c.content FROM document d JOIN document_content c ON c.document_id = d.id WHERE d.id = ?`,
	).get(id)
	return row ? { ...row, content: documentSchema.parse(JSON.parse(row.content)) } : null
}

/** Where a document of a run stands, and so what may be done with it next. */
export type Place =
	| 'held'
	| 'stopped'
	| 'to number'
	| 'void'
	| 'to make'
	| 'to send'
	| 'to decide'
	| 'to print'
	| 'done'
const placeOf = `CASE WHEN d.void_at IS NOT NULL THEN 'void'
	WHEN d.number IS NULL THEN CASE WHEN d.held_reason IS NOT NULL THEN 'held' WHEN d.level = 'stop' THEN 'stopped' ELSE 'to number' END
	WHEN d.made_at IS NULL THEN 'to make' WHEN m.state = 'sent' OR d.printed_at IS NOT NULL THEN 'done' WHEN d.email = '' THEN 'to print'
	WHEN m.state IN ('refused', 'unsure') THEN 'to decide' ELSE 'to send' END`

/** The documents of a run at one place in one currency, added up. */
export type RunGroup = { currency: string; place: Place; documents: number; orders: number; net: number }

export const runGroups = ({ sql }: Books, runId: number): RunGroup[] =>
	sql<[number], RunGroup>(
		`SELECT d.currency, ${placeOf} AS place, count(*) AS documents, sum(d.order_count) AS orders, sum(d.net) AS net
		 FROM document d LEFT JOIN message m ON m.document_id = d.id WHERE d.run_id = ? GROUP BY 1, 2`,
	).all(runId)

const benchColumns = `${columns}, ${placeOf} AS place, m.state AS message_state, m.last_answer AS message_answer, f.brief,
	(SELECT count(*) FROM finding n WHERE n.document_id = d.id) AS findings,
	(SELECT count(*) FROM document_change x WHERE x.document_id = d.id AND x.undone_at IS NULL) AS changes`
const benchFrom = `document d LEFT JOIN message m ON m.document_id = d.id LEFT JOIN finding f ON f.document_id = d.id AND f.place = 0`
const worstFirst = `CASE d.level WHEN 'stop' THEN 0 WHEN 'look' THEN 1 ELSE 2 END, d.position`

/** The documents of a run: stops first, then those worth a look, then the clear ones, each by customer; at most `most`. */
export const benchRows = ({ sql }: Books, runId: number, most = -1): BenchRow[] =>
	sql<[number, number], BenchRow>(
		`SELECT ${benchColumns} FROM ${benchFrom}
		 WHERE d.id IN (SELECT d.id FROM document d WHERE d.run_id = ? ORDER BY ${worstFirst} LIMIT ?) ORDER BY ${worstFirst}`,
	).all(runId, most)

/** The documents of a run in a currency that stand at one of the places. */
export const rowsAt = ({ sql }: Books, runId: number, currency: string, places: Place[], most: number): BenchRow[] =>
	sql<[number, string, string, number], BenchRow>(
		`SELECT ${benchColumns} FROM ${benchFrom}
		 WHERE d.run_id = ? AND d.currency = ? AND ${placeOf} IN (SELECT value FROM json_each(?)) ORDER BY ${worstFirst} LIMIT ?`,
	).all(runId, currency, JSON.stringify(places), most)

export const documentsOfCustomer = ({ sql }: Books, customerId: number): BenchRow[] =>
	sql<[number], BenchRow>(
		`SELECT ${benchColumns} FROM ${benchFrom}
		 WHERE d.customer_id = ? AND d.number IS NOT NULL ORDER BY d.day DESC, d.id DESC LIMIT 500`,
	).all(customerId)

/** Ids and drafts of what is numbered next, in the order of numbering. */
export const toNumber = ({ sql }: Books, runId: number): { id: number; content: string }[] =>
	sql<[number], { id: number; content: string }>(
		`SELECT d.id, c.content FROM document d JOIN document_content c ON c.document_id = d.id
		 WHERE d.run_id = ? AND ${mayBeNumbered} ORDER BY d.position`,
	).all(runId)

/** Writes number and frozen content. */
export function freeze(
	{ sql }: Books,
	document: { id: number; number: string; registerId: number; year: number; value: number; content: string },
	now: string,
): void {
	const { id, number, registerId, year, value, content } = document
	sql<[string, number]>('UPDATE document_content SET content = ?, frozen = 1 WHERE document_id = ?').run(content, id)
	sql<[string, number, number, number, string, number]>(
		'UPDATE document SET number = ?, register_id = ?, register_year = ?, register_value = ?, numbered_at = ? WHERE id = ?',
	).run(number, registerId, year, value, now, id)
}

/** Numbered documents without a file, in order of number, with their frozen content. */
export const toMake = ({ sql }: Books, runId: number, most: number): { id: number; content: string }[] =>
	sql<[number, number], { id: number; content: string }>(
		`SELECT d.id, c.content FROM document d JOIN document_content c ON c.document_id = d.id
		 WHERE d.run_id = ? AND d.number IS NOT NULL AND d.made_at IS NULL AND d.void_at IS NULL ORDER BY d.position LIMIT ?`,
	).all(runId, most)

export const madeCount = ({ sql }: Books, runId: number): { numbered: number; made: number } =>
	sql<[number], { numbered: number; made: number }>(
		`SELECT count(*) AS numbered, count(made_at) AS made FROM document WHERE run_id = ? AND number IS NOT NULL AND void_at IS NULL`,
	).get(runId) ?? { numbered: 0, made: 0 }

export type MadeFile = { id: number; file_name: string; file_sha256: string; file_size: number; pages: number }

export function markMade({ sql }: Books, made: MadeFile, now: string): void {
	sql<[MadeFile & { now: string }]>(
		`UPDATE document SET file_name = @file_name, file_sha256 = @file_sha256, file_size = @file_size, pages = @pages, made_at = @now
		 WHERE id = @id AND made_at IS NULL`,
	).run({ ...made, now })
}

export function hold({ sql }: Books, desk: Desk, id: number, reason: string): boolean {
	return (
		sql<[string, string, string, number]>(
			'UPDATE document SET held_reason = ?, held_by = ?, held_at = ? WHERE id = ? AND number IS NULL',
		).run(reason, desk.clerk, desk.now(), id).changes > 0
	)
}

export function release({ sql }: Books, id: number): boolean {
	return (
		sql<[number]>(
			'UPDATE document SET held_reason = NULL, held_by = NULL, held_at = NULL WHERE id = ? AND number IS NULL AND held_reason IS NOT NULL',
		).run(id).changes > 0
	)
}

/** Notes that a person looked at a flagged document and found it right, or takes that back. */
export function setLooked({ sql }: Books, desk: Desk, id: number, looked: boolean): boolean {
	return (
		sql<[string | null, string | null, number]>(
			`UPDATE document SET looked_by = ?, looked_at = ? WHERE id = ? AND number IS NULL AND level = 'look'`,
		).run(looked ? desk.clerk : null, looked ? desk.now() : null, id).changes > 0
	)
}

export function markPrinted({ sql }: Books, desk: Desk, id: number): boolean {
	return (
		sql<[string, string, number]>(
			'UPDATE document SET printed_at = ?, printed_by = ? WHERE id = ? AND made_at IS NOT NULL AND printed_at IS NULL',
		).run(desk.now(), desk.clerk, id).changes > 0
	)
}

/** Made, without an address to send to, and not yet printed. */
export const toPrint = ({ sql }: Books): BenchRow[] =>
	sql<[], BenchRow>(
		`SELECT ${benchColumns} FROM ${benchFrom}
		 WHERE d.made_at IS NOT NULL AND d.email = '' AND d.printed_at IS NULL AND d.void_at IS NULL ORDER BY d.number LIMIT 2000`,
	).all()

/** Throws the drafts of a run away. */
export function dropDrafts({ sql }: Books, runId: number): void {
	sql<[number]>('DELETE FROM document WHERE run_id = ? AND number IS NULL').run(runId)
}

/** For each order number and content: the number it was billed on; for the checks. */
export const billedOrders = (
	{ sql }: Books,
	contentHashes: string[],
): { content_sha256: string; customer_id: number; order_number: string; number: string }[] =>
	sql<[string], { content_sha256: string; customer_id: number; order_number: string; number: string }>(
		`SELECT o.content_sha256, o.customer_id, o.number AS order_number, d.number FROM sales_order o JOIN document d ON d.id = o.document_id
		 WHERE d.number IS NOT NULL AND o.content_sha256 IN (SELECT value FROM json_each(?))`,
	).all(JSON.stringify(contentHashes))

/** Net amounts of the latest invoices of each customer in a currency, the newest first (at most twelve). */
export function usualNets({ sql }: Books): Map<string, number[]> {
	const rows = sql<[], { customer_id: number; currency: string; net: number }>(
		`SELECT customer_id, currency, net FROM (
			SELECT customer_id, currency, net, row_number() OVER (PARTITION BY customer_id, currency ORDER BY day DESC, id DESC) AS place
			FROM document WHERE number IS NOT NULL AND kind = 'invoice' AND void_at IS NULL) WHERE place <= 12`,
	).all()
	const nets = new Map<string, number[]>()
	for (const { customer_id, currency, net } of rows) {
		const key = `${customer_id} ${currency}`
		nets.set(key, [...(nets.get(key) ?? []), net])
	}
	return nets
}

/** The content of the latest issued document of a kind, to show a letter with. */
export function latestOfKind({ sql }: Books, kind: string): DocumentContent | null {
	const row = sql<[string], { content: string }>(
		`SELECT c.content FROM document d JOIN document_content c ON c.document_id = d.id
		 WHERE d.kind = ? AND d.number IS NOT NULL ORDER BY d.id DESC LIMIT 1`,
	).get(kind)
	return row ? documentSchema.parse(JSON.parse(row.content)) : null
}

/** Marks an issued document void; its number stays its own. False when it was void before. */
export function markVoid({ sql }: Books, desk: Desk, id: number, reason: string): boolean {
	return (
		sql<[string, string, string, number]>(
			'UPDATE document SET void_reason = ?, void_at = ?, void_by = ? WHERE id = ? AND number IS NOT NULL AND void_at IS NULL',
		).run(reason, desk.now(), desk.clerk, id).changes > 0
	)
}

/** The credit notes of an invoice, drafts among them, void ones not. */
export const creditsOf = (
	{ sql }: Books,
	invoiceId: number,
): { id: number; number: string | null; run_id: number; total: number; content: string }[] =>
	sql<[number], { id: number; number: string | null; run_id: number; total: number; content: string }>(
		`SELECT d.id, d.number, d.run_id, d.total, c.content FROM document d JOIN document_content c ON c.document_id = d.id
		 WHERE d.credits_id = ? AND d.void_at IS NULL ORDER BY d.id`,
	).all(invoiceId)
