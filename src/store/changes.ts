import type { DocumentContent } from '@/core/document'
import { documentSchema } from '@/core/document'
import type { Books } from './books'
import type { Level } from './documents'
import type { Desk } from './events'

export type ChangeRow = {
	id: number
	at: string
	clerk: string
	reason: string
	words: string
	undone_at: string | null
}
type Kept = { id: number; content: DocumentContent; email: string }

/** Keeps what a draft was before a change. */
export function addChange(
	{ sql }: Books,
	desk: Desk,
	documentId: number,
	change: { reason: string; words: string; content: DocumentContent; email: string },
): void {
	sql<[number, string, string, string, string, string, string]>(
		`INSERT INTO document_change (document_id, at, clerk, reason, words, content_before, email_before) VALUES (?, ?, ?, ?, ?, ?, ?)`,
	).run(documentId, desk.now(), desk.clerk, change.reason, change.words, JSON.stringify(change.content), change.email)
}

/** The changes of a document, the latest first. */
export const changesOf = ({ sql }: Books, documentId: number): ChangeRow[] =>
	sql<[number], ChangeRow>(
		'SELECT id, at, clerk, reason, words, undone_at FROM document_change WHERE document_id = ? ORDER BY id DESC',
	).all(documentId)

/** What the document was before its latest change that stands; null when none does. */
export function beforeLatestChange({ sql }: Books, documentId: number): Kept | null {
	const row = sql<[number], { id: number; content_before: string; email_before: string }>(
		`SELECT id, content_before, email_before FROM document_change WHERE document_id = ? AND undone_at IS NULL ORDER BY id DESC LIMIT 1`,
	).get(documentId)
	return row
		? { id: row.id, content: documentSchema.parse(JSON.parse(row.content_before)), email: row.email_before }
		: null
}

export function markUndone({ sql }: Books, changeId: number, now: string): void {
	sql<[string, number]>('UPDATE document_change SET undone_at = ? WHERE id = ?').run(now, changeId)
}

export type Redraft = { content: DocumentContent; email: string; net: bigint; tax: bigint; total: bigint; level: Level }

/** Puts another content in the place of a draft's, with its figures for the lists. */
export function replaceDraft(
	{ sql }: Books,
	documentId: number,
	{ content, email, net, tax, total, level }: Redraft,
): void {
	sql<[bigint, bigint, bigint, string, string, string, number]>(
		`UPDATE document SET net = ?, tax = ?, total = ?, due_day = ?, email = ?, level = ?, looked_by = NULL, looked_at = NULL WHERE id = ? AND number IS NULL`,
	).run(net, tax, total, content.dueDay, email, level, documentId)
	sql<[string, number]>('UPDATE document_content SET content = ? WHERE document_id = ?').run(
		JSON.stringify(content),
		documentId,
	)
	sql<[number]>('DELETE FROM finding WHERE document_id = ?').run(documentId)
}
