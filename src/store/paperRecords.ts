import { z } from 'zod'
import type { Day } from '@/core/calendar'
import type { Place } from '@/core/places'
import { type Recipient, sameKey } from '@/intake/sheetRows'
import type { Books } from './books'
import type { Desk } from './events'
import { type OrderLine, type OrderRow, readOrder } from './orders'
import { stands } from './places'

// What papers of the firm's own kinds are made from, the papers that were made of each, and what of them was accepted.

/** What was typed for a kind in the order form, or stood in a sheet, as the books took it: an order of no number of its own, with its lines. */
export type RecordBody = {
	order: OrderRow
	lines: OrderLine[]
	/** Whom it is for by its sheet; what that does not say is empty. */
	recipient?: Recipient
}
const bodySchema = z.object({
	order: z.custom<OrderRow>(),
	lines: z.array(z.custom<OrderLine>()),
	recipient: z.custom<Recipient>().optional(),
})

export type PaperRecord = {
	id: number
	kind_id: number
	order_id: number | null
	customer_id: number
	customer: string
	file_id: number | null
	/** Of a sheet: the first of its rows. */
	first_row: number | null
	number: string
	day: Day
	/** Null for an order of the books, which says itself what it is. */
	body: RecordBody | null
	away_reason: string | null
	away_by: string | null
}
type Row = Omit<PaperRecord, 'body'> & { body: string | null }

const columns =
	'r.id, r.kind_id, r.order_id, r.customer_id, c.name AS customer, r.file_id, r.first_row, r.number, r.day, r.body, r.away_reason, r.away_by'
const from = 'paper_record r JOIN customer c ON c.id = r.customer_id'
const asRecord = ({ body, ...row }: Row): PaperRecord => ({
	...row,
	body: body === null ? null : bodySchema.parse(JSON.parse(body)),
})

/** One record; null where there is none. */
export function readRecord({ sql }: Books, id: number): PaperRecord | null {
	const row = sql<[number], Row>(`SELECT ${columns} FROM ${from} WHERE r.id = ?`).get(id)
	return row ? asRecord(row) : null
}

/** The record that an order is for a kind; made when it is first asked for. @returns its id */
export function recordOfOrder({ sql }: Books, desk: Desk, kindId: number, order: OrderRow): number {
	sql<(string | number)[]>(
		`INSERT INTO paper_record (kind_id, order_id, customer_id, number, day, made_at, made_by) VALUES (?, ?, ?, ?, ?, ?, ?)
		 ON CONFLICT (kind_id, order_id) WHERE order_id IS NOT NULL DO NOTHING`,
	).run(kindId, order.id, order.customer_id, order.number, order.day, desk.now(), desk.clerk)
	return (
		sql<[number, number], { id: number }>('SELECT id FROM paper_record WHERE kind_id = ? AND order_id = ?').get(
			kindId,
			order.id,
		)?.id ?? 0
	)
}

/** @returns its id */
export const addRecord = (
	{ sql }: Books,
	desk: Desk,
	record: { kindId: number; customerId: number; fileId: number; number: string; day: Day; body: RecordBody },
): number =>
	Number(
		sql<(string | number)[]>(
			'INSERT INTO paper_record (kind_id, customer_id, file_id, number, day, body, made_at, made_by) VALUES (?, ?, ?, ?, ?, ?, ?, ?)',
		).run(
			...[record.kindId, record.customerId, record.fileId, record.number, record.day, JSON.stringify(record.body)],
			...[desk.now(), desk.clerk],
		).lastInsertRowid,
	)

/** The record that a writing of the form made already; null for none. */
export const recordOfFile = ({ sql }: Books, mark: string): { id: number; number: string } | null =>
	sql<[string], { id: number; number: string }>(
		'SELECT r.id, r.number FROM paper_record r JOIN source_file f ON f.id = r.file_id WHERE f.mark = ? ORDER BY r.id LIMIT 1',
	).get(mark) ?? null

/** A record of a kind by its number, that is not withdrawn. */
export const recordNumbered = ({ sql }: Books, kindId: number, number: string): { id: number } | null =>
	sql<[number, string], { id: number }>(
		`SELECT id FROM paper_record WHERE kind_id = ? AND order_id IS NULL AND away_at IS NULL AND number = ? COLLATE NOCASE`,
	).get(kindId, number) ?? null

/** The number that comes next among those of a prefix. */
export function nextRecordNumber({ sql }: Books, kindId: number, prefix: string): string {
	const last = sql<[string, number, string, string], { n: number | null }>(
		`SELECT max(CAST(substr(number, length(?) + 1) AS INTEGER)) AS n FROM paper_record
		 WHERE kind_id = ? AND order_id IS NULL AND upper(number) GLOB upper(?) || '[0-9]*' AND length(number) <= length(?) + 9`,
	).get(prefix, kindId, prefix, prefix)?.n
	return `${prefix}${String((last ?? 0) + 1).padStart(4, '0')}`
}

/** Withdraws what was typed for a kind. False when it was before, or is an order of the books. */
export const withdrawRecord = ({ sql }: Books, desk: Desk, id: number, reason: string): boolean =>
	sql<[string, string, string, number]>(
		'UPDATE paper_record SET away_at = ?, away_by = ?, away_reason = ? WHERE id = ? AND away_at IS NULL AND order_id IS NULL',
	).run(desk.now(), desk.clerk, reason, id).changes > 0

/** Why a record no longer counts: what was typed was withdrawn, or its order was. Empty where it counts. */
export function whyGone(books: Books, record: PaperRecord): string {
	if (record.away_reason !== null) return `withdrawn by ${record.away_by}: ${record.away_reason}`
	const order = record.order_id === null ? null : readOrder(books, record.order_id)
	return order?.away_how ? `order ${order.number} was ${order.away_how}: ${order.away_reason}` : ''
}

/** A paper that was made of a record. */
export type MadePaper = {
	document_id: number
	record_id: number
	version: number
	kind: string
	number: string | null
	run_id: number
	day: Day
	total: number
	currency: string
	place: Place
	/** 1 while it stands for its record: a draft of an open run, or issued and neither void nor replaced. */
	stands: 0 | 1
}
const standing = `${stands} AND (d.number IS NOT NULL OR g.state IN ('gathering', 'open'))`
const paperColumns = `p.document_id, p.record_id, p.version, d.kind, d.number, d.run_id, d.day, d.total, d.currency, d.place, ${standing} AS stands`
const paperFrom = 'paper p JOIN placed d ON d.id = p.document_id JOIN run g ON g.id = d.run_id'

/** Papers that were made of a record, the latest version first. */
export const papersOf = ({ sql }: Books, recordId: number): MadePaper[] =>
	sql<[number], MadePaper>(
		`SELECT ${paperColumns} FROM ${paperFrom} WHERE p.record_id = ? ORDER BY p.version DESC`,
	).all(recordId)

/** Papers that were made of an order, whatever their kind, the latest first. */
export const papersOfOrder = ({ sql }: Books, orderId: number): MadePaper[] =>
	sql<[number], MadePaper>(
		`SELECT ${paperColumns} FROM ${paperFrom} JOIN paper_record r ON r.id = p.record_id WHERE r.order_id = ? ORDER BY p.document_id DESC`,
	).all(orderId)

/** The record that a paper was made of; null for a document of the program's own kinds. */
export const recordOfPaper = ({ sql }: Books, documentId: number): { record_id: number; version: number } | null =>
	sql<[number], { record_id: number; version: number }>(
		'SELECT record_id, version FROM paper WHERE document_id = ?',
	).get(documentId) ?? null

/** Notes that a paper was made of a record. */
export function addPaper({ sql }: Books, documentId: number, recordId: number, version: number): void {
	sql<[number, number, number]>('INSERT INTO paper (document_id, record_id, version) VALUES (?, ?, ?)').run(
		documentId,
		recordId,
		version,
	)
}

/** The version that the next paper of a record has. */
export const nextVersion = ({ sql }: Books, recordId: number): number =>
	(sql<[number], { last: number | null }>('SELECT max(version) AS last FROM paper WHERE record_id = ?').get(recordId)
		?.last ?? 0) + 1

/** Whether a paper of a record stands, or is about to be drafted. */
const hasPaper = `EXISTS (SELECT 1 FROM ${paperFrom} WHERE p.record_id = r.id AND ${standing})
	OR EXISTS (SELECT 1 FROM run_paper x JOIN run g ON g.id = x.run_id WHERE x.record_id = r.id AND g.state = 'gathering')`

/** Records typed for a kind that have no paper yet, dated up to a day, the oldest first. */
export const waitingRecords = ({ sql }: Books, kindId: number, upTo: Day = '9999-12-31'): PaperRecord[] =>
	sql<[number, Day], Row>(
		`SELECT ${columns} FROM ${from} WHERE r.kind_id = ? AND r.order_id IS NULL AND r.away_at IS NULL AND r.day <= ? AND NOT (${hasPaper})
		 ORDER BY r.day, r.id`,
	)
		.all(kindId, upTo)
		.map(asRecord)

/** Ids of orders that count, are not billed, have no paper of a kind yet and are dated up to a day, the oldest first. */
export const ordersWithout = ({ sql }: Books, kindId: number, upTo: Day = '9999-12-31'): number[] =>
	sql<[Day, number], { id: number }>(
		`SELECT o.id FROM order_in o WHERE o.joined_to IS NULL AND o.billed = 0 AND o.day <= ? AND NOT EXISTS (
			SELECT 1 FROM paper_record r WHERE r.order_id = o.id AND r.kind_id = ? AND (${hasPaper}))
		 ORDER BY o.day, o.number`,
	)
		.all(upTo, kindId)
		.map(({ id }) => id)

/** Every record typed for a kind, the latest first. */
export const recordsOfKind = ({ sql }: Books, kindId: number, most = 300): PaperRecord[] =>
	sql<[number, number], Row>(
		`SELECT ${columns} FROM ${from} WHERE r.kind_id = ? AND r.order_id IS NULL ORDER BY r.id DESC LIMIT ?`,
	)
		.all(kindId, most)
		.map(asRecord)

/** Papers made of a customer's records, the latest 200, the latest first. */
export const recordsOfCustomer = ({ sql }: Books, customerId: number): (MadePaper & { record: string })[] =>
	sql<[number], MadePaper & { record: string }>(
		`SELECT ${paperColumns}, r.number AS record FROM ${paperFrom} JOIN paper_record r ON r.id = p.record_id
		 WHERE r.customer_id = ? AND d.place <> 'dropped' ORDER BY p.document_id DESC LIMIT 200`,
	).all(customerId)

// What a run of papers takes in.

/** Puts a record into a run of papers. */
export function addToRun({ sql }: Books, runId: number, recordId: number): void {
	sql<[number, number]>('INSERT INTO run_paper (run_id, record_id) VALUES (?, ?)').run(runId, recordId)
}
/** Records of a run of papers, by day. */
export const recordsOfRun = ({ sql }: Books, runId: number): PaperRecord[] =>
	sql<[number], Row>(
		`SELECT ${columns} FROM run_paper x JOIN ${from.replace('paper_record r', 'paper_record r ON r.id = x.record_id')} WHERE x.run_id = ? ORDER BY r.day, r.id`,
	)
		.all(runId)
		.map(asRecord)
/** Notes with what net a record was drafted. */
export function noteDrafted({ sql }: Books, runId: number, recordId: number, currency: string, net: bigint): void {
	sql<[string, bigint, number, number]>(
		'UPDATE run_paper SET currency = ?, net = ? WHERE run_id = ? AND record_id = ?',
	).run(currency, net, runId, recordId)
}
/** Notes that a record's draft in a run was put away. */
export function leaveRun({ sql }: Books, desk: Desk, runId: number, recordId: number): void {
	sql<[string, number, number]>('UPDATE run_paper SET away_at = ? WHERE run_id = ? AND record_id = ?').run(
		desk.now(),
		runId,
		recordId,
	)
}

/** Notes that all drafts of a run were put away. */
export function leaveRunWhole({ sql }: Books, desk: Desk, runId: number): void {
	sql<[string, number]>('UPDATE run_paper SET away_at = ? WHERE run_id = ? AND away_at IS NULL').run(desk.now(), runId)
}

// Records of sheets.

/** Records of a kind from other sheets that count, by their key as `sameKey` writes it, and whether a paper of each was issued. */
export function earlierRecords(
	{ sql }: Books,
	kindId: number,
	fileId: number,
): Map<string, { id: number; issued: boolean }[]> {
	const rows = sql<[number, number], { id: number; number: string; issued: number }>(
		`SELECT r.id, r.number, EXISTS (SELECT 1 FROM ${paperFrom} WHERE p.record_id = r.id AND d.number IS NOT NULL) AS issued
		 FROM paper_record r WHERE r.kind_id = ? AND r.first_row IS NOT NULL AND r.file_id <> ? AND r.away_at IS NULL`,
	).all(kindId, fileId)
	const found = new Map<string, { id: number; issued: boolean }[]>()
	for (const { id, number, issued } of rows) {
		const key = sameKey(number)
		found.set(key, [...(found.get(key) ?? []), { id, issued: issued === 1 }])
	}
	return found
}

/** Adds a record of a sheet. @returns its id */
export const addSheetRecord = (
	{ sql }: Books,
	desk: Desk,
	record: {
		kindId: number
		customerId: number
		fileId: number
		firstRow: number
		number: string
		day: Day
		body: RecordBody
	},
): number =>
	Number(
		sql<(string | number)[]>(
			`INSERT INTO paper_record (kind_id, customer_id, file_id, first_row, number, day, body, made_at, made_by) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)`,
		).run(
			...[record.kindId, record.customerId, record.fileId, record.firstRow, record.number, record.day],
			...[JSON.stringify(record.body), desk.now(), desk.clerk],
		).lastInsertRowid,
	)

/** The record that a sheet brought for a row before, in whatever form; null for none. */
export const recordOfRow = ({ sql }: Books, fileId: number, firstRow: number): { id: number } | null =>
	sql<[number, number], { id: number }>(
		'SELECT id FROM paper_record WHERE file_id = ? AND first_row = ? AND away_at IS NULL',
	).get(fileId, firstRow) ?? null

/** Records that a sheet brought, in the order of its rows, each with its papers. */
export const recordsOfFile = (books: Books, fileId: number): (PaperRecord & { papers: MadePaper[] })[] =>
	books
		.sql<[number], Row>(
			`SELECT ${columns} FROM ${from} WHERE r.file_id = ? AND r.first_row IS NOT NULL ORDER BY r.first_row LIMIT 500`,
		)
		.all(fileId)
		.map((row) => ({ ...asRecord(row), papers: papersOf(books, row.id) }))

/** Names the records of sheets: two that are equal are the same to a sheet that is read against them. */
export const recordsStamp = ({ sql }: Books): string =>
	JSON.stringify(
		sql<[], object>(
			`SELECT (SELECT max(id) FROM paper_record) AS last, (SELECT count(*) FROM paper_record WHERE away_at IS NOT NULL) AS away`,
		).get() ?? {},
	)
