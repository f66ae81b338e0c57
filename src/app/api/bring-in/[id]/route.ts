import { books, desk } from '@/app/books'
import { idOf } from '@/app/reading'
import { endUpload } from '@/runs/bringIn/receive'

/** All parts of a file were sent: it is read now. */
export async function POST(_: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
	const ended = endUpload(books(), await desk(), idOf((await params).id))
	return Response.json(ended, { status: ended.ok ? 200 : 422 })
}
