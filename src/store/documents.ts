import type { Finding } from '@/core/checks'
import type { DocumentContent } from '@/core/document'
import type { NumberingKey } from '@/core/numbering'
import { type PaperContent, readPaper } from '@/core/paper'
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
	/** Of a statement. */
	past_due: number
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
	kind: PaperContent['kind']
	void_reason: string | null
	void_at: string | null
	void_by: string | null
	credits_id: number | null
	/** 1 as first issued; a revision's number says which it is. */
	revision: number
	revises_id: number | null
	/** Since when, by whom and why a revision stands in for it. */
	replaced_at: string | null
	replaced_by: string | null
	replaced_reason: string | null
	/** 1 while its message is held to be read. */
	message_held: number
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

const columns = `d.id, d.run_id, d.position, d.customer_id, d.customer_name, d.email, d.currency, d.order_count, d.order_numbers, d.net, d.tax, d.past_due,
	d.total, d.day, d.due_day, d.level, d.held_reason, d.held_by, d.held_at, d.looked_by, d.looked_at, d.number, d.numbered_at,
	d.file_name, d.file_sha256, d.file_size, d.pages, d.made_at, d.printed_at, d.printed_by, d.kind, d.void_reason, d.void_at, d.void_by, d.credits_id,
	d.revision, d.revises_id, d.replaced_at, d.replaced_by, d.replaced_reason, d.message_held`

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
	content: PaperContent
	/** Of a statement: the items that its account has open, and what of it is past due. */
	order_count?: number
	past_due?: bigint
	credits_id?: number
}

/** Adds a draft. Values are bound by their place: by name takes three times as long, which ten thousand drafts feel. */
export function addDocument({ sql }: Books, { content, ...row }: NewDocument): number {
	const { lastInsertRowid } = sql<(string | number | bigint | null)[]>(
		`INSERT INTO document (run_id, position, kind, customer_id, customer_name, email, currency, order_count, order_numbers, net, tax, total,
			past_due, day, due_day, level, credits_id)
		 VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
	).run(
		row.run_id,
		row.position,
		content.kind,
		row.customer_id,
		row.customer_name,
		row.email,
		content.currency,
		row.order_count ?? (content.kind === 'statement' ? content.items.length : content.orders.length),
		row.order_numbers,
		row.net,
		row.tax,
		row.total,
		row.past_due ?? 0n,
		content.day,
		content.dueDay,
		row.level,
		row.credits_id ?? null,
	)
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

/** Puts other findings in the place of a draft's; that a person looked at it held for the ones before. */
export function replaceFindings(books: Books, documentId: number, findings: Finding[]): void {
	books.sql<[number]>('DELETE FROM finding WHERE document_id = ?').run(documentId)
	addFindings(books, documentId, findings)
	books
		.sql<[Level, number]>(
			'UPDATE document SET level = ?, looked_by = NULL, looked_at = NULL WHERE id = ? AND number IS NULL',
		)
		.run(findings[0]?.level ?? 'clear', documentId)
}

/** Any document with what it says. */
export function readAnyDocument({ sql }: Books, id: number): (DocumentRow & { content: PaperContent }) | null {
	const row = sql<[number], DocumentRow & { content: string }>(
		`SELECT ${columns}, c.content FROM document d JOIN document_content c ON c.document_id = d.id WHERE d.id = ?`,
	).get(id)
	return row ? { ...row, content: readPaper(row.content) } : null
}

/** An invoice or a credit note with what it says; null for a statement. */
export function readDocument(books: Books, id: number): (DocumentRow & { content: DocumentContent }) | null {
	const found = readAnyDocument(books, id)
	return found && found.content.kind !== 'statement' ? { ...found, content: found.content } : null
}

/** Where a document of a run stands, and so what may be done with it next. */
export type Place =
	| 'held'
	| 'stopped'
	| 'to number'
	| 'void'
	| 'to make'
	| 'to send'
	| 'to read'
	| 'to decide'
	| 'to print'
	| 'replaced'
	| 'done'
const placeOf = `CASE WHEN d.void_at IS NOT NULL THEN 'void' WHEN d.replaced_at IS NOT NULL THEN 'replaced'
	WHEN d.number IS NULL THEN CASE WHEN d.held_reason IS NOT NULL THEN 'held' WHEN d.level = 'stop' THEN 'stopped' ELSE 'to number' END
	WHEN d.made_at IS NULL THEN 'to make' WHEN m.state = 'sent' OR d.printed_at IS NOT NULL THEN 'done' WHEN d.email = '' THEN 'to print'
	WHEN m.state IN ('refused', 'unsure') THEN 'to decide' WHEN m.state IS NULL AND d.message_held = 1 THEN 'to read' ELSE 'to send' END`

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
const worstFirst = `CASE WHEN d.number IS NOT NULL THEN 2 WHEN d.level = 'stop' THEN 0 WHEN d.level = 'look' THEN 1 ELSE 2 END, d.position, d.id`

/** The documents of a run: drafts that are stopped first, then those worth a look, then the rest, each in their order; at most `most`. */
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

export type ToNumber = { id: number; content: string; customer_id: number; total: number; credits_id: number | null }

/** What is numbered next, in the order of numbering, with its draft. */
export const toNumber = ({ sql }: Books, runId: number): ToNumber[] =>
	sql<[number], ToNumber>(
		`SELECT d.id, c.content, d.customer_id, d.total, d.credits_id FROM document d JOIN document_content c ON c.document_id = d.id
		 WHERE d.run_id = ? AND ${mayBeNumbered} ORDER BY d.position, d.id`,
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
		 WHERE d.run_id = ? AND d.number IS NOT NULL AND d.made_at IS NULL AND d.void_at IS NULL AND d.replaced_at IS NULL ORDER BY d.position, d.id LIMIT ?`,
	).all(runId, most)

export const madeCount = ({ sql }: Books, runId: number): { numbered: number; made: number } =>
	sql<[number], { numbered: number; made: number }>(
		`SELECT count(*) AS numbered, count(made_at) AS made FROM document WHERE run_id = ? AND number IS NOT NULL AND void_at IS NULL AND replaced_at IS NULL`,
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

/** Holds the message of a document to be read before it goes, or lets it go; false when it is written already. */
export const holdMessage = ({ sql }: Books, id: number, held: boolean): boolean =>
	sql<[number, number]>(
		`UPDATE document SET message_held = ? WHERE id = ? AND NOT EXISTS (SELECT 1 FROM message m WHERE m.document_id = document.id)`,
	).run(held ? 1 : 0, id).changes > 0

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
		 WHERE d.made_at IS NOT NULL AND d.email = '' AND d.printed_at IS NULL AND d.void_at IS NULL AND d.replaced_at IS NULL ORDER BY d.number LIMIT 2000`,
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
			FROM document WHERE number IS NOT NULL AND kind = 'invoice' AND void_at IS NULL AND replaced_at IS NULL) WHERE place <= 12`,
	).all()
	const nets = new Map<string, number[]>()
	for (const { customer_id, currency, net } of rows) {
		const key = `${customer_id} ${currency}`
		nets.set(key, [...(nets.get(key) ?? []), net])
	}
	return nets
}

/** What else of a run goes to a customer in a currency beside one document: totals in minor units, added up. */
export const billedBeside = (
	{ sql }: Books,
	runId: number,
	butFor: number[],
	customerId: number,
	currency: string,
): bigint =>
	BigInt(
		sql<[number, string, number, string], { total: number | null }>(
			`SELECT sum(total) AS total FROM document
			 WHERE run_id = ? AND id NOT IN (SELECT value FROM json_each(?)) AND customer_id = ? AND currency = ? AND void_at IS NULL AND replaced_at IS NULL AND held_reason IS NULL`,
		).get(runId, JSON.stringify(butFor), customerId, currency)?.total ?? 0,
	)

/** Drafts of a run with what they can be numbered by. */
export const draftKeys = ({ sql }: Books, runId: number): ({ id: number } & NumberingKey)[] =>
	sql<[number], { id: number } & NumberingKey>(
		`SELECT d.id, d.customer_name AS customer, d.order_numbers AS "order",
			coalesce((SELECT min(o.day) FROM sales_order o WHERE o.document_id = d.id), d.day) AS day
		 FROM document d WHERE d.run_id = ? AND d.number IS NULL`,
	).all(runId)

export function setPosition({ sql }: Books, id: number, position: number): void {
	sql<[number, number]>('UPDATE document SET position = ? WHERE id = ? AND number IS NULL').run(position, id)
}

/** Puts another content in the place of a draft statement's. */
export function replaceStatement({ sql }: Books, id: number, content: PaperContent, total: bigint): void {
	sql<[bigint, number]>('UPDATE document SET total = ? WHERE id = ? AND number IS NULL').run(total, id)
	sql<[string, number]>('UPDATE document_content SET content = ? WHERE document_id = ?').run(
		JSON.stringify(content),
		id,
	)
}

export function dropDraft({ sql }: Books, id: number): void {
	sql<[number]>('DELETE FROM document WHERE id = ? AND number IS NULL').run(id)
}

/** The other drafts of the document's run that go to the same customer in the same currency. */
export const draftsBeside = ({ sql }: Books, id: number): { id: number; order_numbers: string; total: number }[] =>
	sql<[number], { id: number; order_numbers: string; total: number }>(
		`SELECT o.id, o.order_numbers, o.total FROM document o JOIN document d
			ON d.run_id = o.run_id AND d.customer_id = o.customer_id AND d.currency = o.currency AND d.kind = o.kind
		 WHERE d.id = ? AND o.id <> d.id AND d.number IS NULL AND o.number IS NULL ORDER BY o.position, o.id`,
	).all(id)

/** Marks an issued document as replaced by its revision; false when it was before. */
export function markReplaced({ sql }: Books, desk: Desk, id: number, reason: string): boolean {
	return (
		sql<[string, string, string, number]>(
			'UPDATE document SET replaced_at = ?, replaced_by = ?, replaced_reason = ? WHERE id = ? AND number IS NOT NULL AND replaced_at IS NULL',
		).run(desk.now(), desk.clerk, reason, id).changes > 0
	)
}

/** Freezes a document as the revision of another: the same number, said to be a revision; its register gives none. */
export function freezeRevision(
	{ sql }: Books,
	revision: { id: number; number: string; revision: number; revisesId: number; content: string },
	now: string,
): void {
	const { id, number, revisesId, content } = revision
	sql<[string, number]>('UPDATE document_content SET content = ?, frozen = 1 WHERE document_id = ?').run(content, id)
	sql<[string, number, number, string, number]>(
		'UPDATE document SET number = ?, revision = ?, revises_id = ?, numbered_at = ? WHERE id = ?',
	).run(number, revision.revision, revisesId, now, id)
}

/** The document that revises another, when there is one. */
export const revisionOf = ({ sql }: Books, id: number): { id: number; number: string } | null =>
	sql<[number], { id: number; number: string }>('SELECT id, number FROM document WHERE revises_id = ?').get(id) ?? null

/** The latest document of a kind of each customer, by name, with what it says; to show a letter with. */
export const latestByCustomer = (
	{ sql }: Books,
	kind: PaperContent['kind'],
): { id: number; name: string; content: PaperContent }[] =>
	sql<[string], { id: number; name: string; content: string }>(
		`SELECT d.customer_id AS id, d.customer_name AS name, c.content FROM document_content c JOIN
			(SELECT max(id) AS document_id, customer_id, customer_name FROM document WHERE kind = ? GROUP BY customer_id) d
			ON d.document_id = c.document_id ORDER BY name COLLATE NOCASE LIMIT 500`,
	)
		.all(kind)
		.map(({ content, ...row }) => ({ ...row, content: readPaper(content) }))

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
