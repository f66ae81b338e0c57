import type { Books } from '@/store/books'
import { inOneStep } from '@/store/books'
import type { Desk } from '@/store/events'
import { type FileTask, haltAsked, type Job, latestFileJob, setProgress, taskOf } from '@/store/jobs'
import { acceptFile } from './accept'
import { Stopped, type Watch } from './kinds/kind'
import { readFileIn } from './readFile'
import { takeFile } from './take'
import { takeFileBack } from './takeBack'

export type FileJobEnded = { state: 'done' | 'failed' | 'stopped'; words: string }

/** Tells a job's progress now and then, and stops the work when it is asked to. */
function watchOf(books: Books, job: Job): Watch {
	let last = Number.NEGATIVE_INFINITY
	return {
		seen: (done, total) => {
			const now = performance.now()
			if (now - last < 250) return
			last = now
			inOneStep(books, () => setProgress(books, job.id, done, total))
			if (haltAsked(books, job.id) !== null) throw new Stopped()
		},
	}
}

/** Does what was asked of a file. Whatever goes wrong ends the job with its words; nothing half done counts. */
export async function doFileJob(books: Books, desk: Desk, job: Job): Promise<FileJobEnded> {
	const task = taskOf(books, job.id)
	if (!('file' in task)) return { state: 'failed', words: 'This is no work on a file.' }
	try {
		return await doTask(books, desk, job, task)
	} catch (error) {
		if (error instanceof Stopped) return { state: 'stopped', words: 'Stopped; nothing of it is in the books.' }
		const why = noRoom(error)
		if (why !== null) return { state: 'failed', words: why }
		throw error
	}
}

/** What to do where the disk takes nothing more; null for any other error. */
function noRoom(error: unknown): string | null {
	const code = error instanceof Error && 'code' in error ? String(error.code) : ''
	return code === 'SQLITE_FULL' || code.startsWith('SQLITE_IOERR') || code === 'ENOSPC'
		? 'The disk takes nothing more: there is no room left on it, or it cannot be written. Make room, and read the file again. Nothing was lost, and nothing half done counts.'
		: null
}

async function doTask(books: Books, desk: Desk, job: Job, task: FileTask): Promise<FileJobEnded> {
	const watch = watchOf(books, job)
	switch (task.kind) {
		case 'read file': {
			const { words, trouble } = await readFileIn(books, desk, task.file, watch)
			return { state: trouble ? 'failed' : 'done', words }
		}
		case 'take file': {
			// What was set since is worked out once, by the last that asked; an accepting that was asked for since waits for it.
			const latest = latestFileJob(books, task.file)
			if (latest && latest.id > job.id && latest.kind !== 'accept file')
				return { state: 'done', words: 'Worked out by the next.' }
			const review = takeFile(books, desk, task.file, watch)
			return {
				state: 'done',
				words: review ? `${review.rows.all} rows were looked at.` : 'There was nothing to look at.',
			}
		}
		case 'accept file': {
			const accepted = await acceptFile(books, desk, task.file, task.seen, watch)
			return accepted.ok ? { state: 'done', words: accepted.words } : { state: 'failed', words: accepted.message }
		}
		case 'take file back': {
			const back = await takeFileBack(books, desk, task.file, task.reason)
			return back.ok ? { state: 'done', words: back.words } : { state: 'failed', words: back.message }
		}
	}
}
