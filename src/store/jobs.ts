import { type Books, inOneStep } from './books'
import type { Desk } from './events'

export type Step = 'gather' | 'number' | 'make' | 'send'
export type JobState = 'waiting' | 'working' | 'stopping' | 'done' | 'stopped' | 'failed'
export type Job = {
	id: number
	run_id: number
	step: Step
	state: JobState
	asked_at: string
	asked_by: string
	started_at: string | null
	ended_at: string | null
	done: number
	total: number
	/** What went wrong, or what came of it. */
	words: string
}

const columns = 'id, run_id, step, state, asked_at, asked_by, started_at, ended_at, done, total, words'

/** Asks the runner for a step of a run over `expected` documents. Gives null when another step of the run is still going. */
export function askFor(books: Books, desk: Desk, runId: number, step: Step, expected = 0): number | null {
	return inOneStep(books, () => {
		const going = books
			.sql<[number], { id: number }>(
				`SELECT id FROM job WHERE run_id = ? AND state IN ('waiting', 'working', 'stopping')`,
			)
			.get(runId)
		if (going) return null
		return Number(
			books
				.sql<[number, Step, string, string, number]>(
					`INSERT INTO job (run_id, step, state, asked_at, asked_by, total) VALUES (?, ?, 'waiting', ?, ?, ?)`,
				)
				.run(runId, step, desk.now(), desk.clerk, expected).lastInsertRowid,
		)
	})
}

/** The next job to do: one that was begun before (the runner died over it) comes first. */
export function nextJob({ sql }: Books): Job | null {
	return (
		sql<[], Job>(
			`SELECT ${columns} FROM job WHERE state IN ('waiting', 'working', 'stopping') ORDER BY state = 'waiting', id LIMIT 1`,
		).get() ?? null
	)
}

/** The latest job of a run. */
export function latestJob({ sql }: Books, runId: number): Job | null {
	return sql<[number], Job>(`SELECT ${columns} FROM job WHERE run_id = ? ORDER BY id DESC LIMIT 1`).get(runId) ?? null
}

export function beginJob({ sql }: Books, id: number, now: string): void {
	sql<[string, number]>(
		`UPDATE job SET state = 'working', started_at = coalesce(started_at, ?) WHERE id = ? AND state IN ('waiting', 'working')`,
	).run(now, id)
}

export function setProgress({ sql }: Books, id: number, done: number, total: number): void {
	sql<[number, number, number]>('UPDATE job SET done = ?, total = ? WHERE id = ?').run(done, total, id)
}

export function endJob(
	{ sql }: Books,
	id: number,
	state: 'done' | 'stopped' | 'failed',
	words: string,
	now: string,
): void {
	sql<[JobState, string, string, number]>('UPDATE job SET state = ?, words = ?, ended_at = ? WHERE id = ?').run(
		state,
		words,
		now,
		id,
	)
}

/** Asks a going job to stop after the step it is in. */
export function askToStop({ sql }: Books, runId: number): boolean {
	return (
		sql<[number]>(`UPDATE job SET state = 'stopping' WHERE run_id = ? AND state IN ('waiting', 'working')`).run(runId)
			.changes > 0
	)
}

export const isStopping = ({ sql }: Books, id: number): boolean =>
	sql<[number], { state: JobState }>('SELECT state FROM job WHERE id = ?').get(id)?.state === 'stopping'

/** Jobs whose last try failed and that were not done since, for the Desk. */
export const failedJobs = ({ sql }: Books): Job[] =>
	sql<[], Job>(
		`SELECT ${columns} FROM job WHERE state = 'failed' AND id IN (SELECT max(id) FROM job GROUP BY run_id) ORDER BY id DESC`,
	).all()
