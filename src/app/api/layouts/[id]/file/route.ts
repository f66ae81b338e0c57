import { answering, idOf } from '@/app/reading'
import { packLayout } from '@/runs/layoutFile'
import { layoutRow } from '@/store/layouts'

/** A layout with its pictures as one file, to be brought in elsewhere. */
export const GET = answering(({ books }, _request, params) => {
	const row = layoutRow(books, idOf(params.id))
	if (!row) return new Response('There is no such layout.', { status: 404 })
	return new Response(new Uint8Array(packLayout(books, row)), {
		headers: {
			'content-type': 'application/zip',
			'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(`${row.name} (${row.kind}).zip`)}`,
		},
	})
})
