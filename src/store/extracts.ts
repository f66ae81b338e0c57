import type { Day } from '@/core/calendar'
import type { ItemKind } from '@/core/ledger'
import type { Books } from './books'
import type { Desk } from './events'

export type Extract = { id: number; source_file_id: number; as_of: Day; accepted_at: string; accepted_by: string }

/** The extract of the latest day, but that of a file itself. */
export const latestExtract = ({ sql }: Books, butOfFile: number): Extract | null =>
	sql<[number], Extract>(
		`SELECT id, source_file_id, as_of, accepted_at, accepted_by FROM extract WHERE source_file_id <> ? ORDER BY as_of DESC, id DESC LIMIT 1`,
	).get(butOfFile) ?? null

/** The extract of a file: a new one, or, where rows of it that were refused are taken in later, the one that it is. */
export function addExtract({ sql }: Books, desk: Desk, fileId: number, asOf: Day): number {
	const known = sql<[number], { id: number }>('SELECT id FROM extract WHERE source_file_id = ?').get(fileId)
	if (known) return known.id
	return Number(
		sql<[number, Day, string, string]>(
			'INSERT INTO extract (source_file_id, as_of, accepted_at, accepted_by) VALUES (?, ?, ?, ?)',
		).run(fileId, asOf, desk.now(), desk.clerk).lastInsertRowid,
	)
}

export type ExtractRow = {
	source_row: number
	item_id: number
	kind: ItemKind
	due_day: Day
	amount: number
	open: number
}

export function addExtractRow({ sql }: Books, extractId: number, row: ExtractRow): void {
	sql<(string | number)[]>(
		'INSERT OR REPLACE INTO extract_row (extract_id, source_row, item_id, kind, due_day, amount, open) VALUES (?, ?, ?, ?, ?, ?, ?)',
	).run(extractId, row.source_row, row.item_id, row.kind, row.due_day, row.amount, row.open)
}

/** What the latest extract up to a day says of a customer's items; null when there is none. */
export function extractOf(
	{ sql }: Books,
	customerId: number,
	asOf: Day,
): { as_of: Day; rows: { item_id: number; open: number; source_row: number }[] } | null {
	const extract = sql<[Day], { id: number; as_of: Day }>(
		'SELECT id, as_of FROM extract WHERE as_of <= ? ORDER BY as_of DESC, id DESC LIMIT 1',
	).get(asOf)
	if (!extract) return null
	const rows = sql<[number, number], { item_id: number; open: number; source_row: number }>(
		`SELECT r.item_id, r.open, r.source_row FROM extract_row r JOIN ledger_item i ON i.id = r.item_id
		 WHERE r.extract_id = ? AND i.customer_id = ?`,
	).all(extract.id, customerId)
	return { as_of: extract.as_of, rows }
}
