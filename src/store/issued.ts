import type { Day } from '@/core/calendar'
import { type AnyContent, type KindName, readContent } from '@/kinds'
import type { Books } from './books'
import type { Desk } from './events'
import { stands } from './places'

// Issued documents: numbered, frozen, corrected but never changed.

export type ToNumber = {
	id: number
	kind: KindName
	day: Day
	content: string
	customer_id: number
	total: number
	credits_id: number | null
}

/** What is numbered next, in the order of numbering, with its draft. */
export const toNumber = ({ sql }: Books, runId: number): ToNumber[] =>
	sql<[number], ToNumber>(
		`SELECT d.id, d.kind, d.day, c.content, d.customer_id, d.total, d.credits_id FROM placed d JOIN document_content c ON c.document_id = d.id
		 WHERE d.run_id = ? AND d.place = 'to number' ORDER BY d.position, d.id`,
	).all(runId)

/** A document as it is frozen: what it says, and under what name its file will lie; null where another has that. */
type Frozen = { id: number; content: string; filedAs: string | null }

/** Writes number and frozen content. */
export function freeze(
	{ sql }: Books,
	document: Frozen & { number: string; registerId: number; year: number; value: number },
	now: string,
): void {
	const { id, number, registerId, year, value, content, filedAs } = document
	sql<[string, number]>('UPDATE document_content SET content = ?, frozen = 1 WHERE document_id = ?').run(content, id)
	sql<[string, number, number, number, string, string | null, number]>(
		'UPDATE document SET number = ?, register_id = ?, register_year = ?, register_value = ?, numbered_at = ?, filed_as = ? WHERE id = ?',
	).run(number, registerId, year, value, now, filedAs, id)
}

/** Freezes a paper of a kind without a register, with what stands for its number. */
export function freezeUnnumbered(
	{ sql }: Books,
	{ id, mark, content, filedAs }: Frozen & { mark: string },
	now: string,
): void {
	sql<[string, number]>('UPDATE document_content SET content = ?, frozen = 1 WHERE document_id = ?').run(content, id)
	sql<[string, string, string | null, number]>(
		'UPDATE document SET number = ?, numbered_at = ?, filed_as = ? WHERE id = ?',
	).run(mark, now, filedAs, id)
}

/** Freezes a document as the revision of another: the same number, said to be a revision; its register gives none. */
export function freezeRevision(
	{ sql }: Books,
	revision: Frozen & { number: string; revision: number; revisesId: number },
	now: string,
): void {
	const { id, number, revisesId, content, filedAs } = revision
	sql<[string, number]>('UPDATE document_content SET content = ?, frozen = 1 WHERE document_id = ?').run(content, id)
	sql<[string, number, number, string, string | null, number]>(
		'UPDATE document SET number = ?, revision = ?, revises_id = ?, numbered_at = ?, filed_as = ? WHERE id = ?',
	).run(number, revision.revision, revisesId, now, filedAs, id)
}

/** Marks an issued document as replaced by its revision; false when it was before. */
export function markReplaced({ sql }: Books, desk: Desk, id: number, reason: string): boolean {
	return (
		sql<[string, string, string, number]>(
			'UPDATE document SET replaced_at = ?, replaced_by = ?, replaced_reason = ? WHERE id = ? AND number IS NOT NULL AND replaced_at IS NULL',
		).run(desk.now(), desk.clerk, reason, id).changes > 0
	)
}

/** The document that revises another, when there is one. */
export const revisionOf = ({ sql }: Books, id: number): { id: number; number: string } | null =>
	sql<[number], { id: number; number: string }>('SELECT id, number FROM document WHERE revises_id = ?').get(id) ?? null

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
		`SELECT d.id, d.number, d.run_id, d.total, c.content FROM placed d JOIN document_content c ON c.document_id = d.id
		 WHERE d.credits_id = ? AND ${stands} ORDER BY d.id`,
	).all(invoiceId)

/** The latest document of a kind of each customer, by name, with what it says; to show a letter with. */
export const latestByCustomer = ({ sql }: Books, kind: KindName): { id: number; name: string; content: AnyContent }[] =>
	sql<[string], { id: number; name: string; content: string }>(
		`SELECT d.customer_id AS id, d.customer_name AS name, c.content FROM document_content c JOIN
			(SELECT max(id) AS document_id, customer_id, customer_name FROM document WHERE kind = ? AND dropped_at IS NULL GROUP BY customer_id) d
			ON d.document_id = c.document_id ORDER BY name COLLATE NOCASE LIMIT 500`,
	)
		.all(kind)
		.map(({ content, ...row }) => ({ ...row, content: readContent(content) }))

/** The latest day of an issued document of a kind, null for none; for the checks. */
export const latestDay = ({ sql }: Books, kind: KindName): string | null =>
	sql<[string], { day: string | null }>(
		'SELECT max(day) AS day FROM document WHERE kind = ? AND number IS NOT NULL AND void_at IS NULL',
	).get(kind)?.day ?? null

type BilledOrder = {
	id: number
	same_as: string
	customer_id: number
	order_number: string
	number: string
}

/** For each order number and content: the number it was billed on; for the checks. */
export const billedOrders = ({ sql }: Books, contentHashes: string[]): BilledOrder[] =>
	sql<[string], BilledOrder>(
		`SELECT o.id, o.same_as, o.customer_id, o.number AS order_number, d.number FROM sales_order o JOIN document d ON d.id = o.document_id
		 WHERE d.number IS NOT NULL AND o.same_as IN (SELECT value FROM json_each(?))`,
	).all(JSON.stringify(contentHashes))

/** Net amounts of a customer's latest invoices in a currency, minor units, the newest first; at most twelve. */
export const usualNets = ({ sql }: Books, customerId: number, currency: string): number[] =>
	sql<[number, string], { net: number }>(
		`SELECT net FROM placed d
		 WHERE customer_id = ? AND currency = ? AND number IS NOT NULL AND kind = 'invoice' AND ${stands}
		 ORDER BY day DESC, id DESC LIMIT 12`,
	)
		.all(customerId, currency)
		.map(({ net }) => net)

/** Holds the message of a document to be read before it goes, or lets it go; false when it is written already. */
export const holdMessage = ({ sql }: Books, id: number, held: boolean): boolean =>
	sql<[number, number]>(
		`UPDATE document SET message_held = ? WHERE id = ? AND NOT EXISTS (SELECT 1 FROM message m WHERE m.document_id = document.id)`,
	).run(held ? 1 : 0, id).changes > 0

/** Notes that a document was printed. @returns false where it has no PDF yet, or was printed before */
export function markPrinted({ sql }: Books, desk: Desk, id: number): boolean {
	return (
		sql<[string, string, number]>(
			'UPDATE document SET printed_at = ?, printed_by = ? WHERE id = ? AND made_at IS NOT NULL AND printed_at IS NULL',
		).run(desk.now(), desk.clerk, id).changes > 0
	)
}
