import type { Companion } from '@/core/companions'
import type { KindName } from '@/kinds'
import type { Books } from './books'
import { stands } from './places'

// The files of documents.

type MakeRow = { id: number; kind: KindName; content: string; beside: string }

/** Numbered documents without a file, in order of number, with their frozen content. */
export const toMake = ({ sql }: Books, runId: number, most: number): MakeRow[] =>
	sql<[number, number], MakeRow>(
		`SELECT d.id, d.kind, c.content, k.beside FROM placed d JOIN document_content c ON c.document_id = d.id JOIN customer k ON k.id = d.customer_id
		 WHERE d.run_id = ? AND d.place = 'to make' ORDER BY d.position, d.id LIMIT ?`,
	).all(runId, most)

/** How many documents of a run have a number, and how many of them their PDF. */
export const madeCount = ({ sql }: Books, runId: number): { numbered: number; made: number } =>
	sql<[number], { numbered: number; made: number }>(
		`SELECT count(*) AS numbered, count(made_at) AS made FROM placed d WHERE run_id = ? AND number IS NOT NULL AND ${stands}`,
	).get(runId) ?? { numbered: 0, made: 0 }

export type MadeFile = {
	id: number
	file_name: string
	file_sha256: string
	file_size: number
	pages: number
	beside: Omit<CompanionFile, 'document_id' | 'made_at'>[]
}

/** Notes the PDF of a document and what stands beside it; a document that has one keeps it. */
export function markMade(books: Books, { beside, ...made }: MadeFile, now: string): void {
	const { changes } = books
		.sql<[Omit<MadeFile, 'beside'> & { now: string }]>(
			`UPDATE document SET file_name = @file_name, file_sha256 = @file_sha256, file_size = @file_size, pages = @pages, made_at = @now
		 WHERE id = @id AND made_at IS NULL`,
		)
		.run({ ...made, now })
	if (changes > 0) for (const file of beside) addCompanion(books, { ...file, document_id: made.id, made_at: now })
}

/** The number of another document that has a file of a name, or will, whatever the case of its letters; null for none. */
export const fileTaken = ({ sql }: Books, file: string, id: number): string | null =>
	sql<[{ file: string; id: number }], { number: string }>(
		`SELECT number FROM document WHERE filed_as = @file COLLATE NOCASE AND id <> @id
		 UNION ALL SELECT number FROM document WHERE file_name = @file COLLATE NOCASE AND id <> @id LIMIT 1`,
	).get({ file, id })?.number ?? null

/** A format that goes beside the PDF, or a locked copy of it. */
export type FileFormat = Companion | 'locked'
export type CompanionFile = {
	document_id: number
	format: FileFormat
	file_name: string
	file_sha256: string
	file_size: number
	made_at: string
}

/** Records a file that was made beside a document's PDF; one of the same bytes is recorded once. */
export const addCompanion = ({ sql }: Books, file: CompanionFile): void => {
	sql<[CompanionFile]>(
		`INSERT INTO document_file (document_id, format, file_name, file_sha256, file_size, made_at)
		 VALUES (@document_id, @format, @file_name, @file_sha256, @file_size, @made_at) ON CONFLICT DO NOTHING`,
	).run(file)
}

/** Files that were made beside a document's PDF, the latest of a format first. */
export const companionsOf = ({ sql }: Books, documentId: number): CompanionFile[] =>
	sql<[number], CompanionFile>(
		`SELECT document_id, format, file_name, file_sha256, file_size, made_at FROM document_file
		 WHERE document_id = ? ORDER BY format, made_at DESC`,
	).all(documentId)
