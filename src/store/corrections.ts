import type { Books } from './books'
import type { Desk } from './events'

/** What a person corrected in a file: in one row, or (row 0) wherever the value stands in the column. */
export type Correction = {
	id: number
	row: number
	place: number
	field: string
	was: string
	now: string
	at: string
	clerk: string
}

/** Corrections of a file that count, in the order in which they were made. */
export const correctionsOf = ({ sql }: Books, fileId: number): Correction[] =>
	sql<[number], Correction>(
		'SELECT id, row, place, field, was, now, at, clerk FROM correction WHERE file_id = ? AND undone_at IS NULL ORDER BY id',
	).all(fileId)

/** Notes a correction of a file; row 0 stands for the whole column. */
export function addCorrection(
	{ sql }: Books,
	desk: Desk,
	fileId: number,
	{ row, place, field, was, now }: Pick<Correction, 'row' | 'place' | 'field' | 'was' | 'now'>,
): void {
	sql<(string | number)[]>(
		'INSERT INTO correction (file_id, row, place, field, was, now, at, clerk) VALUES (?, ?, ?, ?, ?, ?, ?, ?)',
	).run(fileId, row, place, field, was, now, desk.now(), desk.clerk)
}

export type LeftOut = { id: number; row: number; reason: string; at: string; clerk: string }

/** Rows of a file that a person left out, by row. */
export const leftOutOf = ({ sql }: Books, fileId: number): LeftOut[] =>
	sql<[number], LeftOut>(
		'SELECT id, row, reason, at, clerk FROM row_left_out WHERE file_id = ? AND undone_at IS NULL ORDER BY row',
	).all(fileId)

/** Leaves a row of a file out; one that is left out already stays so with its first reason. */
export function leaveOut({ sql }: Books, desk: Desk, fileId: number, row: number, reason: string): void {
	sql<(string | number)[]>(
		`INSERT INTO row_left_out (file_id, row, reason, at, clerk)
		 SELECT ?, ?, ?, ?, ? WHERE NOT EXISTS (SELECT 1 FROM row_left_out WHERE file_id = ? AND row = ? AND undone_at IS NULL)`,
	).run(fileId, row, reason, desk.now(), desk.clerk, fileId, row)
}

/** Takes a row in again that was left out. */
export function takeInAgain({ sql }: Books, desk: Desk, fileId: number, row: number): void {
	sql<(string | number)[]>(
		'UPDATE row_left_out SET undone_at = ?, undone_by = ? WHERE file_id = ? AND row = ? AND undone_at IS NULL',
	).run(desk.now(), desk.clerk, fileId, row)
}
