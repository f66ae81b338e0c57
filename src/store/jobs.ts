import { type Books, inOneStep } from './books'
import type { Desk } from './events'

export type Step = 'gather' | 'number' | 'make' | 'send'
export type JobState = 'waiting' | 'working' | 'pausing' | 'paused' | 'stopping' | 'done' | 'stopped' | 'failed'
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

/** A step that is not at its end: no other step of its run may begin. */
export const isGoing = (job: Job | null): boolean => job !== null && !['done', 'stopped', 'failed'].includes(job.state)

const columns = 'id, run_id, step, state, asked_at, asked_by, started_at, ended_at, done, total, words'

/** Asks the runner for a step of a run over `expected` documents. Gives null when another step of the run is still going. */
export function askFor(books: Books, desk: Desk, runId: number, step: Step, expected = 0): number | null {
	return inOneStep(books, () => {
		const going = books
			.sql<[number], { id: number }>(
				`SELECT id FROM job WHERE run_id = ? AND state NOT IN ('done', 'stopped', 'failed')`,
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
			`SELECT ${columns} FROM job WHERE state NOT IN ('paused', 'done', 'stopped', 'failed') ORDER BY state = 'waiting', id LIMIT 1`,
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
	state: 'paused' | 'done' | 'stopped' | 'failed',
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

/** Asks a going job to stop after the batch it is in, or to pause there; a paused one stops at once. False when none is going. */
export function askToHalt({ sql }: Books, runId: number, how: 'stop' | 'pause', now: string): boolean {
	const from = how === 'stop' ? ['waiting', 'working', 'pausing'] : ['waiting', 'working']
	const asked = sql<[string, number, string]>(
		'UPDATE job SET state = ? WHERE run_id = ? AND state IN (SELECT value FROM json_each(?))',
	).run(how === 'stop' ? 'stopping' : 'pausing', runId, JSON.stringify(from))
	if (asked.changes > 0) return true
	if (how === 'pause') return false
	return (
		sql<[string, number]>(
			`UPDATE job SET state = 'stopped', words = 'Stopped while it paused.', ended_at = ? WHERE run_id = ? AND state = 'paused'`,
		).run(now, runId).changes > 0
	)
}

/** Lets a paused step go on; false when none is paused. */
export const resume = ({ sql }: Books, runId: number): boolean =>
	sql<[number]>(`UPDATE job SET state = 'waiting' WHERE run_id = ? AND state = 'paused'`).run(runId).changes > 0

/** Whether a job was asked to halt, and how. */
export function haltAsked({ sql }: Books, id: number): 'stopped' | 'paused' | null {
	const state = sql<[number], { state: JobState }>('SELECT state FROM job WHERE id = ?').get(id)?.state
	return state === 'stopping' ? 'stopped' : state === 'pausing' ? 'paused' : null
}

/** Jobs whose last try failed and that were not done since, for the Desk. */
export const failedJobs = ({ sql }: Books): Job[] =>
	sql<[], Job>(
		`SELECT ${columns} FROM job WHERE state = 'failed' AND id IN (SELECT max(id) FROM job GROUP BY run_id) ORDER BY id DESC`,
	).all()
