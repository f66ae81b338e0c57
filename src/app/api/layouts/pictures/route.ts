import { createHash } from 'node:crypto'
import { answering } from '@/app/reading'
import { readLogo } from '@/pdf/logo'
import { keepImage } from '@/store/company'

const most = 2_000_000

/** Keeps a picture that a layout is to bear; refused where no paper could bear it. */
export const POST = answering(async ({ books }, request) => {
	const type = request.headers.get('content-type') ?? ''
	if (Number(request.headers.get('content-length') ?? 0) > most)
		return Response.json({ message: 'The picture is over 2 MB. Make it smaller.' }, { status: 400 })
	const bytes = Buffer.from(await request.arrayBuffer())
	if (bytes.length > most)
		return Response.json({ message: 'The picture is over 2 MB. Make it smaller.' }, { status: 400 })
	const sha256 = createHash('sha256').update(bytes).digest('hex')
	const read = await readLogo(type, bytes, sha256)
	if (!read.ok) return Response.json({ message: read.refusal.message }, { status: 400 })
	keepImage(books, { sha256, type, bytes })
	return Response.json({ sha256 })
})
