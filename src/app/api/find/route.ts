import { answering } from '@/app/reading'
import { find, placeOfOrder } from '@/store/find'

export type Place = { title: string; detail: string; path: string }

/** Where the words lead: customers, documents, orders. */
export const GET = answering(({ books }, request) => {
	const words = new URL(request.url).searchParams.get('q') ?? ''
	const places = find(books, words).map(({ kind, id, title, detail, number }): Place => {
		if (kind === 'customer') return { title, detail, path: `/accounts/${id}` }
		if (kind === 'document') return { title, detail, path: `/documents/${id}` }
		if (kind === 'record') return { title, detail, path: `/papers/records/${id}` }
		const place = placeOfOrder(books, id)
		return {
			title,
			detail,
			path: place?.document_id ? `/documents/${place.document_id}` : `/to-bill?show=${encodeURIComponent(number)}`,
		}
	})
	return Response.json(places)
})
