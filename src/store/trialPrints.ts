import type { Books } from './books'
import type { Desk } from './events'

// Drafts that were printed to look at: kept for a while, then thrown away.

type TrialPrint = {
	id: number
	run_id: number
	papers: number
	file_name: string
	file_size: number
	made_at: string
	made_by: string
	gone_at: string | null
}
const columns = 'id, run_id, papers, file_name, file_size, made_at, made_by, gone_at'

/** @returns its id */
export const addTrialPrint = (
	{ sql }: Books,
	desk: Desk,
	print: { run: number; papers: number; fileName: string; sha256: string; size: number },
): number =>
	Number(
		sql<(string | number)[]>(
			'INSERT INTO trial_print (run_id, papers, file_name, file_sha256, file_size, made_at, made_by) VALUES (?, ?, ?, ?, ?, ?, ?)',
		).run(print.run, print.papers, print.fileName, print.sha256, print.size, desk.now(), desk.clerk).lastInsertRowid,
	)

/** The trial prints of a run, the latest first. */
export const trialPrintsOf = ({ sql }: Books, runId: number): TrialPrint[] =>
	sql<[number], TrialPrint>(`SELECT ${columns} FROM trial_print WHERE run_id = ? ORDER BY id DESC LIMIT 20`).all(runId)

/** One trial print; null where there is none. */
export const readTrialPrint = ({ sql }: Books, id: number): TrialPrint | null =>
	sql<[number], TrialPrint>(`SELECT ${columns} FROM trial_print WHERE id = ?`).get(id) ?? null

/** Those that are still here and were made before a moment. */
export const trialPrintsBefore = ({ sql }: Books, moment: string): TrialPrint[] =>
	sql<[string], TrialPrint>(`SELECT ${columns} FROM trial_print WHERE gone_at IS NULL AND made_at < ? ORDER BY id`).all(
		moment,
	)

/** Notes when the file of a trial print was taken away. */
export const noteTrialGone = ({ sql }: Books, id: number, at: string): void => {
	sql<[string, number]>('UPDATE trial_print SET gone_at = ? WHERE id = ?').run(at, id)
}
