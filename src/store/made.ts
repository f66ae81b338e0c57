import type { Books } from './books'
import { stands } from './places'

// The files of documents.

/** Numbered documents without a file, in order of number, with their frozen content. */
export const toMake = ({ sql }: Books, runId: number, most: number): { id: number; content: string }[] =>
	sql<[number, number], { id: number; content: string }>(
		`SELECT d.id, c.content FROM placed d JOIN document_content c ON c.document_id = d.id
		 WHERE d.run_id = ? AND d.place = 'to make' ORDER BY d.position, d.id LIMIT ?`,
	).all(runId, most)

export const madeCount = ({ sql }: Books, runId: number): { numbered: number; made: number } =>
	sql<[number], { numbered: number; made: number }>(
		`SELECT count(*) AS numbered, count(made_at) AS made FROM placed d WHERE run_id = ? AND number IS NOT NULL AND ${stands}`,
	).get(runId) ?? { numbered: 0, made: 0 }

export type MadeFile = { id: number; file_name: string; file_sha256: string; file_size: number; pages: number }

export function markMade({ sql }: Books, made: MadeFile, now: string): void {
	sql<[MadeFile & { now: string }]>(
		`UPDATE document SET file_name = @file_name, file_sha256 = @file_sha256, file_size = @file_size, pages = @pages, made_at = @now
		 WHERE id = @id AND made_at IS NULL`,
	).run({ ...made, now })
}
