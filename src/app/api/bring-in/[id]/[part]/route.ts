import { books } from '@/app/books'
import { idOf } from '@/app/reading'
import { receivePart } from '@/runs/bringIn/receive'
import { partSize } from '@/store/files'

/** Keeps one part of a file that is arriving. */
export async function PUT(
	request: Request,
	{ params }: { params: Promise<{ id: string; part: string }> },
): Promise<Response> {
	const { id, part } = await params
	if (Number(request.headers.get('content-length') ?? 0) > partSize)
		return Response.json({ ok: false, message: 'A part is too long.' }, { status: 413 })
	const kept = receivePart(books(), idOf(id), Number(part), Buffer.from(await request.arrayBuffer()))
	return Response.json(kept, { status: kept.ok ? 200 : 422 })
}
