import { answering } from '@/app/reading'
import { isKindName } from '@/kinds'
import { findPapers } from '@/store/papers'

/** Papers of a kind to see a layout with, by part of their number or customer. */
export const GET = answering(({ books }, request) => {
	const asked = new URL(request.url).searchParams
	const kind = asked.get('kind') ?? ''
	if (!isKindName(kind)) return Response.json([], { status: 400 })
	return Response.json(findPapers(books, kind, (asked.get('find') ?? '').slice(0, 100)))
})
