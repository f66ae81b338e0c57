import { answering, idOf } from '@/app/reading'
import { formRow } from '@/store/forms'

/** Whether a form is read yet, asked now and then by its page. */
export const GET = answering(({ books }, _request, params) => {
	const row = formRow(books, idOf(params.id))
	if (!row) return new Response('There is no such form.', { status: 404 })
	return Response.json({ over: row.read === 1 || row.refused !== '' })
})
