import { type BillContent, billSchema } from '@/core/document'
import type { Books } from './books'
import type { Desk } from './events'

// What clerks changed on drafts. A change concerns one draft or two: the one divided and what left it, the one that takes in and the
// one put on it. It can be taken back while it is the latest that stands of each draft it concerns; so changes are taken back in
// the order opposite to that in which they were made, and each finds what it left:
//
//   draft 1   divided ─┐            content
//   draft 3            └─ ... ──┐
//   draft 2                     └─ put together     the division waits until draft 2 is taken apart again

type ChangeKind = 'content' | 'divided' | 'merged'
/** What of a draft a change may touch; `terms` are its discounts and freight. */
export type Part = 'lines' | 'terms' | 'due' | 'email'
export type ChangeRow = {
	id: number
	document_id: number
	other_id: number | null
	at: string
	clerk: string
	kind: ChangeKind
	reason: string
	words: string
	effect: number
	undone_at: string | null
	/** What of the draft it changed, with commas between: of `Part`. */
	touches: string
	/** 1 where the draft followed the firm's rules; no act of a person. */
	followed: number
}
/** What a draft was before a change; `kept` is what else it takes to undo it, as JSON. */
export type Kept = {
	id: number
	kind: ChangeKind
	documentId: number
	otherId: number | null
	kept: string
	content: BillContent
	email: string
}
type NewChange = {
	kind: ChangeKind
	otherId?: number
	kept?: string
	reason: string
	words: string
	/** Left out where it moves what is there alone. */
	touches?: readonly Part[]
	content: BillContent
	email: string
	/** By how much the nets of the drafts that it concerns moved, together; minor units. */
	effect: bigint
	followed?: true
}

/** Keeps what a draft was before a change. */
export function addChange({ sql }: Books, desk: Desk, documentId: number, change: NewChange): void {
	sql<(string | number | bigint | null)[]>(
		`INSERT INTO document_change (document_id, other_id, at, clerk, kind, kept, reason, words, content_before, email_before, effect, touches, followed)
		 VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
	).run(
		documentId,
		change.otherId ?? null,
		desk.now(),
		desk.clerk,
		change.kind,
		change.kept ?? '',
		change.reason,
		change.words,
		JSON.stringify(change.content),
		change.email,
		change.effect,
		(change.touches ?? []).join(),
		change.followed ? 1 : 0,
	)
}

const columns = 'id, document_id, other_id, at, clerk, kind, reason, words, effect, undone_at, touches, followed'

/** The changes that concern a document, the latest first. */
export const changesOf = ({ sql }: Books, documentId: number): ChangeRow[] =>
	sql<[{ id: number }], ChangeRow>(
		`SELECT ${columns} FROM document_change WHERE document_id = @id OR other_id = @id ORDER BY id DESC`,
	).all({ id: documentId })

/** The changes that stand of the drafts of a run, the first first. */
export const changesOfRun = ({ sql }: Books, runId: number): (ChangeRow & { currency: string })[] =>
	sql<[number], ChangeRow & { currency: string }>(
		`SELECT x.id, x.document_id, x.other_id, x.at, x.clerk, x.kind, x.reason, x.words, x.effect, x.undone_at, x.touches, x.followed, d.currency
		 FROM document_change x JOIN document d ON d.id = x.document_id WHERE d.run_id = ? AND x.undone_at IS NULL ORDER BY x.id`,
	).all(runId)

/**
 * The drafts that a draft's lines come from, each with the change up to which: itself, those put on it, and those that it was divided
 * from before it left them, and what it revises.
 */
const lineage = `WITH RECURSIVE origin (id, until) AS (
	SELECT @id, 9223372036854775807
	UNION SELECT x.other_id, min(origin.until, x.id) FROM document_change x JOIN origin ON x.document_id = origin.id
		WHERE x.kind = 'merged' AND x.undone_at IS NULL AND x.other_id IS NOT NULL AND x.id < origin.until
	UNION SELECT x.document_id, min(origin.until, x.id) FROM document_change x JOIN origin ON x.other_id = origin.id
		WHERE x.kind = 'divided' AND x.undone_at IS NULL AND x.id < origin.until
	UNION SELECT d.revises_id, origin.until FROM document d JOIN origin ON d.id = origin.id WHERE d.revises_id IS NOT NULL)`

/** The changes that stand of a document and of the drafts that its lines come from, the latest first. */
export const changesBehind = ({ sql }: Books, documentId: number): ChangeRow[] =>
	sql<[{ id: number }], ChangeRow>(
		`${lineage} SELECT DISTINCT ${columns} FROM document_change x JOIN origin ON (x.document_id = origin.id OR x.other_id = origin.id) AND x.id <= origin.until
		 WHERE x.undone_at IS NULL ORDER BY x.id DESC`.replace('DISTINCT id', 'DISTINCT x.id'),
	).all({ id: documentId })

/** Ids of the drafts that a document's lines come from, itself among them. */
export const originsOf = ({ sql }: Books, documentId: number): number[] =>
	sql<[{ id: number }], { id: number }>(`${lineage} SELECT DISTINCT id FROM origin`)
		.all({ id: documentId })
		.map(({ id }) => id)

/** The latest change of a person that stands of those that concern a document; null when none does. */
export function latestChange({ sql }: Books, documentId: number): Kept | null {
	type Row = Pick<ChangeRow, 'id' | 'document_id' | 'other_id' | 'kind'> & {
		kept: string
		content_before: string
		email_before: string
	}
	const row = sql<[{ id: number }], Row>(
		`SELECT id, document_id, other_id, kind, kept, content_before, email_before FROM document_change
		 WHERE (document_id = @id OR other_id = @id) AND undone_at IS NULL AND followed = 0 ORDER BY id DESC LIMIT 1`,
	).get({ id: documentId })
	if (!row) return null
	const { id, kind, kept, document_id, other_id, content_before, email_before } = row
	const content = billSchema.parse(JSON.parse(content_before))
	return { id, kind, kept, documentId: document_id, otherId: other_id, content, email: email_before }
}

/**
 * Marks a change as taken back, and what the drafts that it concerns followed since: they are as they were before it, and follow the rules
 * anew when they are looked at again.
 */
export function markUndone({ sql }: Books, { id, documentId, otherId }: Kept, now: string): void {
	sql<[Record<string, string | number | null>]>(
		`UPDATE document_change SET undone_at = @now
		 WHERE id = @id OR (id > @id AND followed = 1 AND undone_at IS NULL AND document_id IN (@documentId, @otherId))`,
	).run({ now, id, documentId, otherId })
}
