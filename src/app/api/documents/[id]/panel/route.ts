import { answering, idOf } from '@/app/reading'
import { panelOf } from '@/runs/bench/panel'

/** What stands beside the list for one document. */
export const GET = answering(({ books }, _request, params) => {
	const panel = panelOf(books, idOf(params.id))
	return panel ? Response.json(panel) : Response.json({ message: 'There is no such document.' }, { status: 404 })
})
