import type { Reading } from '@/intake/reading'
import type { Books } from '@/store/books'
import type { Desk } from '@/store/events'
import { readFile } from '@/store/files'
import { beginJob, endJob, nextJob } from '@/store/jobs'
import { doFileJob } from './job'
import type { Accepted } from './kinds/kind'
import { askToAccept, changeReading, receiveFile } from './receive'
import { reviewOf } from './review'

/** Does every job on files that waits, here and now, as the runner would. */
export async function doFileJobs(books: Books, desk: Desk): Promise<string[]> {
	const words: string[] = []
	for (let job = nextJob(books, 'bringing in'); job; job = nextJob(books, 'bringing in')) {
		beginJob(books, job.id, desk.now())
		const ended = await doFileJob(books, { ...desk, clerk: job.asked_by }, job)
		endJob(books, job.id, ended.state, ended.words, desk.now())
		words.push(ended.words)
	}
	return words
}

/**
 * Looks at a file that is whole in memory, without accepting it. Gives its id.
 * @throws Error where the file cannot be taken in
 */
export async function lookAt(
	books: Books,
	desk: Desk,
	name: string,
	content: Buffer,
	change?: Partial<Reading>,
): Promise<number> {
	const received = receiveFile(books, desk, name, content)
	if (!received.ok) throw new Error(received.message)
	await doFileJobs(books, desk)
	if (change) changeReading(books, desk, received.id ?? 0, change)
	await doFileJobs(books, desk)
	return received.id ?? 0
}

/** Accepts a file as it stands. */
export async function acceptNow(books: Books, desk: Desk, fileId: number): Promise<Accepted> {
	const file = readFile(books, fileId)
	if (!file) return { ok: false, message: 'There is no such file.' }
	if (file.trouble) return { ok: false, message: file.trouble }
	askToAccept(books, desk, fileId, reviewOf(file)?.digest ?? '')
	const words = await doFileJobs(books, desk)
	const after = readFile(books, fileId)
	return after?.state === 'accepted' && after.result === words.at(-1)
		? { ok: true, words: after.result ?? '' }
		: { ok: false, message: words.at(-1) ?? 'It was not accepted.' }
}

/** Looks at a file and accepts it. */
export async function bringIn(
	books: Books,
	desk: Desk,
	name: string,
	content: Buffer,
	change?: Partial<Reading>,
): Promise<Accepted> {
	return acceptNow(books, desk, await lookAt(books, desk, name, content, change))
}
