import type { Books } from './books'
import type { Desk } from './events'

export type FileState = 'read' | 'accepted' | 'dropped'
export type SourceFile = {
	id: number
	name: string
	sha256: string
	size: number
	kind: string
	/** How it is read, as JSON. */
	reading: string
	state: FileState
	received_at: string
	received_by: string
	accepted_at: string | null
	accepted_by: string | null
	/** What accepting it did, as JSON. */
	result: string | null
}

const columns =
	'id, name, sha256, size, kind, reading, state, received_at, received_by, accepted_at, accepted_by, result'

export function readFile({ sql }: Books, id: number): SourceFile | null {
	return sql<[number], SourceFile>(`SELECT ${columns} FROM source_file WHERE id = ?`).get(id) ?? null
}

export function fileContent({ sql }: Books, id: number): Buffer | null {
	return sql<[number], { content: Buffer }>('SELECT content FROM source_file WHERE id = ?').get(id)?.content ?? null
}

export const allFiles = ({ sql }: Books): SourceFile[] =>
	sql<[], SourceFile>(`SELECT ${columns} FROM source_file WHERE state <> 'dropped' ORDER BY id DESC LIMIT 200`).all()

/** The file of this hash that is in the books: accepted, or else read and waiting. */
export function sameFile({ sql }: Books, sha256: string): SourceFile | null {
	return (
		sql<[string], SourceFile>(
			`SELECT ${columns} FROM source_file WHERE sha256 = ? AND state IN ('accepted', 'read') ORDER BY state, id DESC LIMIT 1`,
		).get(sha256) ?? null
	)
}

export function addFile(
	{ sql }: Books,
	desk: Desk,
	file: { name: string; sha256: string; content: Buffer; kind: string; reading: string },
): number {
	return Number(
		sql<[string, string, number, Buffer, string, string, string, string]>(
			`INSERT INTO source_file (name, sha256, size, content, kind, reading, state, received_at, received_by)
			 VALUES (?, ?, ?, ?, ?, ?, 'read', ?, ?)`,
		).run(file.name, file.sha256, file.content.length, file.content, file.kind, file.reading, desk.now(), desk.clerk)
			.lastInsertRowid,
	)
}

/** Changes how a waiting file is read. */
export function setReading({ sql }: Books, id: number, kind: string, reading: string): void {
	sql<[string, string, number]>(`UPDATE source_file SET kind = ?, reading = ? WHERE id = ? AND state = 'read'`).run(
		kind,
		reading,
		id,
	)
}

export function markAccepted({ sql }: Books, desk: Desk, id: number, result: string): void {
	sql<[string, string, string, number]>(
		`UPDATE source_file SET state = 'accepted', accepted_at = ?, accepted_by = ?, result = ? WHERE id = ? AND state = 'read'`,
	).run(desk.now(), desk.clerk, result, id)
}

export function markDropped({ sql }: Books, id: number): void {
	sql<[number]>(`UPDATE source_file SET state = 'dropped' WHERE id = ? AND state = 'read'`).run(id)
}

export const filesWaiting = ({ sql }: Books): number =>
	sql<[], { n: number }>(`SELECT count(*) AS n FROM source_file WHERE state = 'read'`).get()?.n ?? 0
