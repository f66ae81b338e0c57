import { actRoute } from '@/app/acts/seam'
import { idOf } from '@/app/reading'
import { receivePart } from '@/runs/bringIn/receive'
import { partSize } from '@/store/files'

/** Keeps one part of a file that is arriving. */
export const PUT = actRoute(async ({ books }, request, { id, part }) => {
	if (Number(request.headers.get('content-length') ?? 0) > partSize)
		return Response.json({ ok: false, message: 'A part is too long.' }, { status: 413 })
	const kept = receivePart(books, idOf(id), Number(part), Buffer.from(await request.arrayBuffer()))
	return Response.json(kept, { status: kept.ok ? 200 : 422 })
})
