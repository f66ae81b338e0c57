import type { Books } from './books'
import type { Desk } from './events'

/** A saved way to read one source. `body` is a reading as JSON; `shape` the plain names of its head, as JSON. */
export type Reader = {
	id: number
	name: string
	kind: string
	body: string
	shape: string
	version: number
	made_at: string
	made_by: string
	away_at: string | null
}
const columns = 'id, name, kind, body, shape, version, made_at, made_by, away_at'

/** Saved readings that are not put away, by name. */
export const allReaders = ({ sql }: Books): Reader[] =>
	sql<[], Reader>(`SELECT ${columns} FROM reader WHERE away_at IS NULL ORDER BY name COLLATE NOCASE`).all()

/** One saved reading; null where there is none. */
export const readReader = ({ sql }: Books, id: number): Reader | null =>
	sql<[number], Reader>(`SELECT ${columns} FROM reader WHERE id = ?`).get(id) ?? null

/** The saved reading with a name, in any case, that is not put away; null where there is none. */
export const readerNamed = ({ sql }: Books, name: string): Reader | null =>
	sql<[string], Reader>(`SELECT ${columns} FROM reader WHERE name = ? COLLATE NOCASE AND away_at IS NULL`).get(name) ??
	null

/** Saves a reading. @returns its id */
export function addReader(
	{ sql }: Books,
	desk: Desk,
	reader: Pick<Reader, 'name' | 'kind' | 'body' | 'shape'>,
): number {
	return Number(
		sql<string[]>('INSERT INTO reader (name, kind, body, shape, made_at, made_by) VALUES (?, ?, ?, ?, ?, ?)').run(
			reader.name,
			reader.kind,
			reader.body,
			reader.shape,
			desk.now(),
			desk.clerk,
		).lastInsertRowid,
	)
}

/** Changes a reader; files by it that wait keep the version that they were looked at with. */
export function changeReader(
	{ sql }: Books,
	id: number,
	reader: Pick<Reader, 'name' | 'kind' | 'body' | 'shape'>,
): void {
	sql<(string | number)[]>(
		'UPDATE reader SET name = ?, kind = ?, body = ?, shape = ?, version = version + 1 WHERE id = ?',
	).run(reader.name, reader.kind, reader.body, reader.shape, id)
}

/** Puts a saved reading away. */
export function takeReaderAway({ sql }: Books, desk: Desk, id: number): void {
	sql<(string | number)[]>('UPDATE reader SET away_at = ?, away_by = ? WHERE id = ? AND away_at IS NULL').run(
		desk.now(),
		desk.clerk,
		id,
	)
}
