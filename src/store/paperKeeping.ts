import type { Day } from '@/core/calendar'
import type { Books } from './books'
import type { Desk } from './events'

// How a paper leaves, and how long it is kept.

/** Says that a paper is kept and not sent, or takes that back. */
export const setOnlyFiled = ({ sql }: Books, desk: Desk, documentId: number, only: boolean): boolean =>
	sql<[string | null, string | null, number]>(
		`UPDATE document SET only_filed_at = ?, only_filed_by = ? WHERE id = ?
		 AND NOT EXISTS (SELECT 1 FROM message m WHERE m.document_id = document.id) AND printed_at IS NULL`,
	).run(only ? desk.now() : null, only ? desk.clerk : null, documentId).changes > 0

export type Overdue = {
	id: number
	number: string
	kind: string
	customer_name: string
	day: Day
	file_name: string | null
}
/** Issued papers of a kind whose years are over: dated on or before a day, with their files still here. The oldest first. */
export const papersPast = ({ sql }: Books, kind: string, lastDay: Day): Overdue[] =>
	sql<[string, Day], Overdue>(
		`SELECT id, number, kind, customer_name, day, file_name FROM document
		 WHERE kind = ? AND number IS NOT NULL AND made_at IS NOT NULL AND files_away_at IS NULL AND day <= ? ORDER BY day, id`,
	).all(kind, lastDay)

/** Notes that the files of a document were taken away, and why; the first reason stays. */
export function noteFilesAway({ sql }: Books, desk: Desk, documentId: number, reason: string): void {
	sql<[string, string, string, number]>(
		'UPDATE document SET files_away_at = ?, files_away_by = ?, files_away_reason = ? WHERE id = ? AND files_away_at IS NULL',
	).run(desk.now(), desk.clerk, reason, documentId)
}
