import type { Finding } from '@/core/checks'
import type { BillContent } from '@/core/document'
import { type AnyContent, countOf, isBill, type KindName, keyOf, readContent } from '@/kinds'
import type { Books } from './books'

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
	kind: KindName
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
	/** Since when, by whom and why a draft is put away. */
	dropped_at: string | null
	dropped_by: string | null
	dropped_reason: string | null
	/** Since when and by whom it is said to be kept and not sent. */
	only_filed_at: string | null
	only_filed_by: string | null
	/** When, by whom and why its files were taken away, their years being over. */
	files_away_at: string | null
	files_away_by: string | null
	files_away_reason: string | null
	/** Of a statement: the stage of its past-due letter, 0 for none. */
	stage: number
	/** Of a statement: what of its account is otherwise by now, in words, and what of that a person let stand. */
	changed: string
	let_stand: string
}
/** Of `document d` or `placed d`. */
export const documentColumns = `d.id, d.run_id, d.position, d.customer_id, d.customer_name, d.email, d.currency, d.order_count, d.order_numbers, d.net, d.tax, d.past_due,
	d.total, d.day, d.due_day, d.level, d.held_reason, d.held_by, d.held_at, d.looked_by, d.looked_at, d.number, d.numbered_at,
	d.file_name, d.file_sha256, d.file_size, d.pages, d.made_at, d.printed_at, d.printed_by, d.kind, d.void_reason, d.void_at, d.void_by, d.credits_id,
	d.revision, d.revises_id, d.replaced_at, d.replaced_by, d.replaced_reason, d.message_held, d.dropped_at, d.dropped_by, d.dropped_reason,
	d.only_filed_at, d.only_filed_by, d.files_away_at, d.files_away_by, d.files_away_reason, d.stage, d.changed, d.let_stand`

type NewDocument = {
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
	content: AnyContent
	/** Of a statement: the items that its account has open, and what of it is past due. */
	order_count?: number
	past_due?: bigint
	/** Of a statement: the stage of its past-due letter. */
	stage?: number
	credits_id?: number
}

/** Adds a draft. Values are bound by their place: by name takes three times as long, which ten thousand drafts feel. */
export function addDocument({ sql }: Books, { content, ...row }: NewDocument): number {
	const { lastInsertRowid } = sql<(string | number | bigint | null)[]>(
		`INSERT INTO document (run_id, position, kind, customer_id, customer_name, email, currency, order_count, order_numbers, net, tax, total,
			past_due, day, due_day, level, credits_id, stage)
		 VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
	).run(
		row.run_id,
		row.position,
		keyOf(content),
		row.customer_id,
		row.customer_name,
		row.email,
		content.currency,
		row.order_count ?? countOf(content),
		row.order_numbers,
		row.net,
		row.tax,
		row.total,
		row.past_due ?? 0n,
		content.day,
		content.dueDay,
		row.level,
		row.credits_id ?? null,
		row.stage ?? 0,
	)
	sql<[number | bigint, string]>('INSERT INTO document_content (document_id, content) VALUES (?, ?)').run(
		lastInsertRowid,
		JSON.stringify(content),
	)
	return Number(lastInsertRowid)
}

/** Enters what checks found in a document, in the order given. */
export function addFindings({ sql }: Books, documentId: number, findings: Finding[]): void {
	findings.forEach(({ code, level, brief, text, order }, place) => {
		sql<[number, string, number, string, string, string, string]>(
			'INSERT INTO finding (document_id, code, place, level, brief, text, order_number) VALUES (?, ?, ?, ?, ?, ?, ?)',
		).run(documentId, code, place, level, brief, text, order ?? '')
	})
}

/** What checks found in a document, in the order in which it was entered. */
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
export function readAnyDocument({ sql }: Books, id: number): (DocumentRow & { content: AnyContent }) | null {
	const row = sql<[number], DocumentRow & { content: string }>(
		`SELECT ${documentColumns}, c.content FROM document d JOIN document_content c ON c.document_id = d.id WHERE d.id = ?`,
	).get(id)
	return row ? { ...row, content: readContent(row.content) } : null
}

/** An invoice or a credit note with what it says; null for a statement. */
export function readBill(books: Books, id: number): (DocumentRow & { content: BillContent }) | null {
	const found = readAnyDocument(books, id)
	return found && isBill(found.content) ? { ...found, content: found.content } : null
}
