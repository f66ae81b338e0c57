import { answering, idOf } from '@/app/reading'
import { latestJob } from '@/store/jobs'

/** The run's latest step, and how far it is. */
export const GET = answering(({ books }, _request, params) =>
	Response.json(latestJob(books, idOf(params.id)), { headers: { 'cache-control': 'no-store' } }),
)
