import { actRoute } from '@/app/acts/seam'
import { idOf } from '@/app/reading'
import { endUpload } from '@/runs/bringIn/receive'

/** All parts of a file were sent: it is read now. */
export const POST = actRoute(({ books, desk }, _, { id }) => {
	const ended = endUpload(books, desk, idOf(id))
	return Response.json(ended, { status: ended.ok ? 200 : 422 })
})
