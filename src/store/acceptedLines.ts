import type { Books } from './books'
import type { Desk } from './events'

// Which lines of papers their customers accepted, and the orders that they became.

export type Accepted = {
	record_id: number
	line: number
	document_id: number
	order_id: number
	order: string
	at: string
	clerk: string
	reason: string
	billed: number
	/** The document that bills its order, where one does. */
	bill: string | null
	bill_id: number | null
}
const accepted = `SELECT a.record_id, a.line, a.document_id, coalesce(n.id, o.id) AS order_id, o.number AS "order", a.at, a.clerk, a.reason, coalesce(n.billed, o.billed) AS billed,
		b.number AS bill, b.id AS bill_id
	FROM accepted_line a JOIN sales_order o ON o.id = a.order_id
	LEFT JOIN sales_order n ON o.away_how = 'replaced' AND n.number = o.number COLLATE NOCASE AND n.away_at IS NULL AND n.customer_id = o.customer_id
	LEFT JOIN document b ON b.id = coalesce(n.document_id, o.document_id)
	WHERE (o.away_how IS NULL OR n.id IS NOT NULL)`

/** Lines of a record that stand on an order: one that was withdrawn since gives them free, one that was amended stands in its newer form. */
export const acceptedOf = ({ sql }: Books, recordId: number): Accepted[] =>
	sql<[number], Accepted>(`${accepted} AND a.record_id = ? ORDER BY a.line`).all(recordId)

/** The number of an order that came of a paper and stands; null for none. */
export const acceptedOn = ({ sql }: Books, documentId: number): string | null =>
	sql<[number], Accepted>(`${accepted} AND a.document_id = ? LIMIT 1`).get(documentId)?.order ?? null

/** The paper that an order was accepted from; null for none. */
export const acceptedFrom = (
	{ sql }: Books,
	orderId: number,
): { document_id: number; number: string; kind: string; clerk: string; at: string; reason: string } | null =>
	sql<[number], { document_id: number; number: string; kind: string; clerk: string; at: string; reason: string }>(
		`SELECT a.document_id, d.number, d.kind, a.clerk, a.at, a.reason FROM accepted_line a JOIN document d ON d.id = a.document_id
		 WHERE a.order_id = (SELECT coalesce(part_of, id) FROM sales_order WHERE id = ?) LIMIT 1`,
	).get(orderId) ?? null

/** Notes that lines of a record were accepted, by which paper, onto which order. */
export function addAccepted(
	{ sql }: Books,
	desk: Desk,
	{
		record,
		lines,
		document,
		order,
		reason,
	}: { record: number; lines: readonly number[]; document: number; order: number; reason: string },
): void {
	for (const line of lines)
		sql<(string | number)[]>(
			'INSERT INTO accepted_line (record_id, line, document_id, order_id, at, clerk, reason) VALUES (?, ?, ?, ?, ?, ?, ?)',
		).run(record, line, document, order, desk.now(), desk.clerk, reason)
}
