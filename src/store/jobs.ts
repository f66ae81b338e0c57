import { type Books, inOneStep } from './books'
import type { Desk } from './events'
import type { Job, JobState, Lane, Task } from './jobState'

export type { FileTask, Lane, Step, Task } from './jobState'
export const lanes: readonly Lane[] = ['bringing in', 'reading', 'making', 'sending']
const laneOf: Record<Task['kind'], Lane> = {
	'read file': 'bringing in',
	'take file': 'bringing in',
	'accept file': 'bringing in',
	'take file back': 'bringing in',
	'read form': 'reading',
	gather: 'reading',
	number: 'reading',
	'look again': 'reading',
	make: 'making',
	'trial print': 'making',
	send: 'sending',
}
/** Every kind of task there is. */
export const taskKinds = Object.keys(laneOf) as Task['kind'][]

export { isGoing, type Job, type JobState } from './jobState'

const columns = 'id, kind, lane, run_id, file_id, state, asked_at, asked_by, started_at, ended_at, done, total, words'

/** Asks the runner for a task. Gives null when another step of the same run, or the same task, is still going. */
export function askFor(books: Books, desk: Desk, task: Task): number | null {
	return inOneStep(books, () => {
		const { kind } = task
		const runId = 'run' in task ? task.run : null
		const fileId = 'file' in task ? task.file : null
		const payload = JSON.stringify(task)
		const going = books
			.sql<[number | null, string], unknown>(
				`SELECT 1 FROM job_going WHERE run_id = ? OR (run_id IS NULL AND state = 'waiting' AND payload = ?)`,
			)
			.get(runId, payload)
		if (going) return null
		return Number(
			books
				.sql<(string | number | null)[]>(
					`INSERT INTO job (kind, lane, payload, run_id, file_id, state, asked_at, asked_by, total) VALUES (?, ?, ?, ?, ?, 'waiting', ?, ?, ?)`,
				)
				.run(kind, laneOf[kind], payload, runId, fileId, desk.now(), desk.clerk, 'expected' in task ? task.expected : 0)
				.lastInsertRowid,
		)
	})
}

/** The next job of a lane, or of any: one that was begun before (the runner died over it) comes first. */
export function nextJob({ sql }: Books, lane: Lane | 'any' = 'any'): Job | null {
	return (
		sql<[{ lane: Lane | 'any' }], Job>(
			`SELECT ${columns} FROM job_going WHERE (@lane = 'any' OR lane = @lane) AND state <> 'paused' ORDER BY state = 'waiting', id LIMIT 1`,
		).get({ lane }) ?? null
	)
}

/** What a job was asked for. */
export const taskOf = ({ sql }: Books, id: number): Task =>
	JSON.parse(sql<[number], { payload: string }>('SELECT payload FROM job WHERE id = ?').get(id)?.payload ?? '{}')

/** The latest step of a run. */
export function latestJob({ sql }: Books, runId: number): Job | null {
	return sql<[number], Job>(`SELECT ${columns} FROM job WHERE run_id = ? ORDER BY id DESC LIMIT 1`).get(runId) ?? null
}

/** The latest job of a file. */
export const latestFileJob = ({ sql }: Books, fileId: number): Job | null =>
	sql<[number], Job>(`SELECT ${columns} FROM job WHERE file_id = ? ORDER BY id DESC LIMIT 1`).get(fileId) ?? null

/** Asks the job of a file that is going to stop. */
export const askFileToStop = ({ sql }: Books, fileId: number): boolean =>
	sql<[number]>(`UPDATE job SET state = 'stopping' WHERE file_id = ? AND state IN ('waiting', 'working')`).run(fileId)
		.changes > 0

/** Marks a task as begun; begun again after a break, it keeps its first time. */
export function beginJob({ sql }: Books, id: number, now: string): void {
	sql<[string, number]>(
		`UPDATE job SET state = 'working', started_at = coalesce(started_at, ?) WHERE id = ? AND state IN ('waiting', 'working')`,
	).run(now, id)
}

/** Notes how much of a task is done. */
export function setProgress({ sql }: Books, id: number, done: number, total: number): void {
	sql<[number, number, number]>('UPDATE job SET done = ?, total = ? WHERE id = ?').run(done, total, id)
}

/** Ends a task or pauses it, with how it went in words. */
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
		`SELECT ${columns} FROM job WHERE state = 'failed' AND id IN (SELECT max(id) FROM job GROUP BY coalesce(run_id, -id)) ORDER BY id DESC`,
	).all()
