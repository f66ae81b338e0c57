import { answering, idOf } from '@/app/reading'
import { formBytes, formRow } from '@/store/forms'

/** A form as it came. */
export const GET = answering(({ books }, _request, params) => {
	const row = formRow(books, idOf(params.id))
	const bytes = row && formBytes(books, row.id)
	if (!row || !bytes) return new Response('There is no such form.', { status: 404 })
	return new Response(new Uint8Array(bytes), {
		headers: {
			// It is a stranger's page for all we know: it is saved, never shown by us.
			'content-type': 'application/octet-stream',
			'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(row.file_name)}`,
			'x-content-type-options': 'nosniff',
		},
	})
})
