import { answering, idOf } from '@/app/reading'
import { benchView } from '@/runs/bench/view'
import { benchRows } from '@/store/places'

/** All rows of a run's list. */
export const GET = answering(({ books }, _request, params) => {
	return Response.json(benchRows(books, idOf(params.id)).map(benchView))
})
