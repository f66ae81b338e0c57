import { doFileJob, type FileJobEnded } from '@/runs/bringIn/job'
import type { Books } from '@/store/books'
import type { Job } from '@/store/jobs'
import { openBooks } from '@/store/openBooks'
import { writeInThread } from './stagingThread'

writeInThread(import.meta.dirname)
let books: Books | null = null

/** The job of the thread that reads files: by its own line to the books. */
export default function work({ job }: { job: Job }): Promise<FileJobEnded> {
	books ??= openBooks()
	return doFileJob(books, { clerk: job.asked_by, now: () => new Date().toISOString() }, job)
}
