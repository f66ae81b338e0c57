import { answering, idOf } from '@/app/reading'
import { readFile } from '@/store/files'
import { isGoing } from '@/store/jobState'
import { latestFileJob } from '@/store/jobs'

/** How far the work on a file is, asked now and then by its page. */
export const GET = answering(({ books }, _request, params) => {
	const id = idOf(params.id)
	const file = readFile(books, id)
	const job = latestFileJob(books, id)
	if (!file) return new Response('There is no such file.', { status: 404 })
	return Response.json({
		state: file.state,
		going: isGoing(job),
		kind: job?.kind ?? '',
		done: job?.done ?? 0,
		total: job?.total ?? 0,
	})
})
