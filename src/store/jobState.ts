// What a job is and how far it is, apart from the statements, so that the browser can ask too.

/** Steps of a run; a run has one at a time. */
export type Step = 'gather' | 'number' | 'make' | 'send'
/** What the runner can be asked for, each with what it needs, in its lane: a slow one holds no other lane up. */
/** What is done with a file. `seen` names what it would bring as the clerk had it in view; `reason` why it is taken back. */
export type FileTask = {
	kind: 'read file' | 'take file' | 'accept file' | 'take file back'
	file: number
	seen: string
	reason: string
}
export type Task =
	| FileTask
	| {
			kind: Step
			run: number
			expected: number
			/** What is asked for next when it is done. */
			follow?: 'send'
			/** Of gathering: the orders that are taken; all that wait where it is left out. */
			only?: number[]
			/** Of numbering: the record's latest event when it was asked for. */
			seen?: number
			/** Of sending: only what is due by itself. */
			due?: boolean
	  }
	/** Drafts of a run on paper, to look at. */
	| { kind: 'trial print'; run: number }
	/** A form of the firm's is read. */
	| { kind: 'read form'; form: number }
	/** Drafts of open runs are looked at again, since something they depend on changed: of one customer, or all. */
	| { kind: 'look again'; customer: number | null; why: string }
export type Lane = 'bringing in' | 'reading' | 'making' | 'sending'
export type JobState = 'waiting' | 'working' | 'pausing' | 'paused' | 'stopping' | 'done' | 'stopped' | 'failed'
export type Job = {
	id: number
	kind: Task['kind']
	lane: Lane
	run_id: number | null
	file_id: number | null
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

/** A job that is not at its end; of a run's steps no other may begin meanwhile. The view `job_going` says the same. */
export const isGoing = (job: Pick<Job, 'state'> | null): boolean =>
	job !== null && !['done', 'stopped', 'failed'].includes(job.state)
