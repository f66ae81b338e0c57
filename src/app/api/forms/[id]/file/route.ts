import { fileAnswer } from '@/app/fileAnswer'
import { answering, idOf } from '@/app/reading'
import { formBytes, formRow } from '@/store/forms'

/** A form as it came. */
export const GET = answering(({ books }, _request, params) => {
	const row = formRow(books, idOf(params.id))
	const bytes = row && formBytes(books, row.id)
	if (!row || !bytes) return new Response('There is no such form.', { status: 404 })
	return fileAnswer(bytes, { type: 'application/octet-stream', name: row.file_name })
})
