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
export type ChangeKind = 'content' | 'divided' | 'merged'
/** What a document was before a change; `kept` is what else it takes to undo it. */
export type Kept = { id: number; kind: ChangeKind; kept: string; content: DocumentContent; email: string }

/** Keeps what a draft was before a change. */
export function addChange(
	{ sql }: Books,
	desk: Desk,
	documentId: number,
	change: {
		kind?: ChangeKind
		kept?: string
		reason: string
		words: string
		content: DocumentContent
		email: string
	},
): void {
	sql<[Record<string, string | number>]>(
		`INSERT INTO document_change (document_id, at, clerk, kind, kept, reason, words, content_before, email_before)
		 VALUES (@id, @at, @clerk, @kind, @kept, @reason, @words, @content, @email)`,
	).run({
		kind: 'content',
		kept: '',
		...change,
		id: documentId,
		at: desk.now(),
		clerk: desk.clerk,
		content: JSON.stringify(change.content),
	})
}

/** The changes of a document, the latest first. */
export const changesOf = ({ sql }: Books, documentId: number): ChangeRow[] =>
	sql<[number], ChangeRow>(
		'SELECT id, at, clerk, reason, words, undone_at FROM document_change WHERE document_id = ? ORDER BY id DESC',
	).all(documentId)

/** What the document was before its latest change that stands; null when none does. */
export function beforeLatestChange({ sql }: Books, documentId: number): Kept | null {
	type Row = { id: number; kind: ChangeKind; kept: string; content_before: string; email_before: string }
	const row = sql<[number], Row>(
		`SELECT id, kind, kept, content_before, email_before FROM document_change WHERE document_id = ? AND undone_at IS NULL ORDER BY id DESC LIMIT 1`,
	).get(documentId)
	if (!row) return null
	const { id, kind, kept, content_before, email_before } = row
	return { id, kind, kept, content: documentSchema.parse(JSON.parse(content_before)), email: email_before }
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
	sql<[Record<string, string | number | bigint>]>(
		`UPDATE document SET net = @net, tax = @tax, total = @total, due_day = @due, email = @email, level = @level,
			order_count = @count, order_numbers = @orders, looked_by = NULL, looked_at = NULL WHERE id = @id AND number IS NULL`,
	).run({
		id: documentId,
		net,
		tax,
		total,
		email,
		level,
		due: content.dueDay,
		count: content.orders.length,
		orders: content.orders.map(({ number }) => number).join(', '),
	})
	sql<[string, number]>('UPDATE document_content SET content = ? WHERE document_id = ?').run(
		JSON.stringify(content),
		documentId,
	)
	sql<[number]>('DELETE FROM finding WHERE document_id = ?').run(documentId)
}
