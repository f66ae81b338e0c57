import type { Day } from '@/core/calendar'
import type { ItemChange, ItemKind } from '@/core/ledger'
import type { Books } from './books'
import type { Desk } from './events'

export type Extract = {
	id: number
	source_file_id: number
	as_of: Day
	accepted_at: string
	accepted_by: string
	/** 1 where its file ended with a total or a count of its own. */
	totalled: number
	/** 1 where it ended with the end of a line. */
	line_ended: number
}
const columns = 'id, source_file_id, as_of, accepted_at, accepted_by, totalled, line_ended'

/** The extract of the latest day that stands, but that of a file itself. */
export const latestExtract = ({ sql }: Books, butOfFile: number): Extract | null =>
	sql<[number], Extract>(
		`SELECT ${columns} FROM extract WHERE source_file_id <> ? AND taken_back_at IS NULL ORDER BY as_of DESC, id DESC LIMIT 1`,
	).get(butOfFile) ?? null

/** The extract that came of a file and stands; null for none. */
export const extractOfFile = ({ sql }: Books, fileId: number): Extract | null =>
	sql<[number], Extract>(`SELECT ${columns} FROM extract WHERE source_file_id = ? AND taken_back_at IS NULL`).get(
		fileId,
	) ?? null

/** Marks an extract as taken back, with why; a later one may come of the same file. */
export function markExtractBack({ sql }: Books, desk: Desk, id: number, why: string): void {
	sql<[string, string, string, number]>(
		'UPDATE extract SET taken_back_at = ?, taken_back_by = ?, taken_back_why = ? WHERE id = ?',
	).run(desk.now(), desk.clerk, why, id)
}

/** The extract of a file: a new one, or, where rows of it that were refused are taken in later, the one that it is. */
export function addExtract(
	{ sql }: Books,
	desk: Desk,
	fileId: number,
	asOf: Day,
	reason: string,
	ended: { totalled: boolean; line: boolean },
): number {
	const known = sql<[number], { id: number }>(
		'SELECT id FROM extract WHERE source_file_id = ? AND taken_back_at IS NULL',
	).get(fileId)
	if (known) return known.id
	return Number(
		sql<[number, Day, string, string, string, number, number]>(
			'INSERT INTO extract (source_file_id, as_of, accepted_at, accepted_by, reason, totalled, line_ended) VALUES (?, ?, ?, ?, ?, ?, ?)',
		).run(fileId, asOf, desk.now(), desk.clerk, reason, Number(ended.totalled), Number(ended.line)).lastInsertRowid,
	)
}

/** How many items an extract has. */
export const rowsOfExtract = ({ sql }: Books, id: number): number =>
	sql<[number], { n: number }>('SELECT count(*) AS n FROM extract_row WHERE extract_id = ?').get(id)?.n ?? 0

type ExtractRow = {
	source_row: number
	/** Its number as the extract writes it; empty where that is the item's own. */
	number: string
	item_id: number
	kind: ItemKind
	due_day: Day
	amount: number
	open: number
}

/** Enters what an extract says of an item, amounts in minor units; said again, the later counts. */
export function addExtractRow({ sql }: Books, extractId: number, row: ExtractRow): void {
	sql<(string | number)[]>(
		'INSERT OR REPLACE INTO extract_row (extract_id, source_row, item_id, number, kind, due_day, amount, open) VALUES (?, ?, ?, ?, ?, ?, ?, ?)',
	).run(extractId, row.source_row, row.item_id, row.number, row.kind, row.due_day, row.amount, row.open)
}

/** What the latest extract up to a day says of a customer's items; null when there is none. */
export function extractOf(
	{ sql }: Books,
	customerId: number,
	asOf: Day,
): { as_of: Day; rows: { item_id: number; open: number; source_row: number }[] } | null {
	const extract = sql<[Day], { id: number; as_of: Day }>(
		'SELECT id, as_of FROM extract WHERE as_of <= ? AND taken_back_at IS NULL ORDER BY as_of DESC, id DESC LIMIT 1',
	).get(asOf)
	if (!extract) return null
	const rows = sql<[number, number], { item_id: number; open: number; source_row: number }>(
		`SELECT r.item_id, r.open, r.source_row FROM ledger_item i CROSS JOIN extract_row r ON r.item_id = i.id
		 WHERE i.customer_id = ? AND r.extract_id = ?`,
	).all(customerId, extract.id)
	return { as_of: extract.as_of, rows }
}

type Id = { id: number }
/** What an extract entered, applied and made otherwise, the first first. */
export const itemsOfExtract = ({ sql }: Books, id: number): number[] =>
	sql<[number], Id>('SELECT id FROM ledger_item WHERE extract_id = ? AND away = 0 ORDER BY id')
		.all(id)
		.map((row) => row.id)
/** What an extract applied, the earliest first. */
export const applicationsOfExtract = ({ sql }: Books, id: number): (Id & { takes_back: number | null })[] =>
	sql<[number], Id & { takes_back: number | null }>(
		'SELECT id, takes_back FROM application WHERE extract_id = ? ORDER BY id',
	).all(id)
/** What of items an extract changed, the earliest first, amounts in minor units. */
export const changesOfExtract = ({ sql }: Books, id: number): (Id & ExtractChange)[] =>
	sql<[number], Id & ExtractChange>(
		`SELECT id, item_id, day, amount_was, amount_is, due_was, due_is, dated_was, dated_is, kind_was, kind_is FROM item_change WHERE extract_id = ? ORDER BY id`,
	).all(id)
type ExtractChange = ItemChange & { item_id: number; kind_was: ItemKind | ''; kind_is: ItemKind | '' }

/** What was built on an extract since it was accepted, in words, at most a few. */
export function builtOn({ sql }: Books, { id, as_of, accepted_at }: Extract): string[] {
	const words = (text: string) =>
		sql<[{ id: number; asOf: Day; at: string }], { words: string }>(text)
			.all({ id, asOf: as_of, at: accepted_at })
			.map((row) => row.words)
	const touched = `SELECT id FROM ledger_item WHERE extract_id = @id UNION SELECT debit_id FROM application WHERE extract_id = @id
		UNION SELECT credit_id FROM application WHERE extract_id = @id UNION SELECT item_id FROM item_change WHERE extract_id = @id`
	return [
		...words(`SELECT 'the extract as of ' || as_of || ' was accepted after it' AS words FROM extract
			WHERE taken_back_at IS NULL AND id <> @id AND as_of > @asOf LIMIT 1`),
		...(['debit', 'credit'] as const).flatMap((side) =>
			words(`SELECT o.number || ' was applied to or from ' || i.number AS words
				FROM (${touched}) t CROSS JOIN ledger_item i ON i.id = t.id CROSS JOIN application a ON a.${side}_id = i.id
					JOIN ledger_item o ON o.id = a.${side === 'debit' ? 'credit' : 'debit'}_id
				WHERE a.extract_id IS NOT @id AND a.at > @at LIMIT 3`),
		),
		...words(`SELECT i.number || ' is in dispute since' AS words FROM ledger_item i JOIN dispute d ON d.item_id = i.id
			WHERE i.extract_id = @id AND d.at > @at AND NOT EXISTS (SELECT 1 FROM dispute f WHERE f.carried_to = d.id) LIMIT 3`),
		...words(`SELECT 'statement ' || d.number || ' was numbered on it' AS words FROM run r CROSS JOIN document d ON d.run_id = r.id
			WHERE r.kind = 'statement' AND d.numbered_at > @at AND d.day >= @asOf AND d.void_at IS NULL LIMIT 3`),
	]
}
