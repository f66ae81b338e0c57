import { fileAnswer } from '@/app/fileAnswer'
import { answering, idOf } from '@/app/reading'
import { packLayout } from '@/runs/layouts/layoutFile'
import { layoutRow } from '@/store/layouts'

/** A layout with its pictures as one file, to be brought in elsewhere. */
export const GET = answering(({ books }, _request, params) => {
	const row = layoutRow(books, idOf(params.id))
	if (!row) return new Response('There is no such layout.', { status: 404 })
	return fileAnswer(packLayout(books, row), { type: 'application/zip', name: `${row.name} (${row.kind}).zip` })
})
