import { createHash } from 'node:crypto'
import { actRoute } from '@/app/acts/seam'
import { readLetterPaper } from '@/pdf/letterPaper'
import { readLogo } from '@/pdf/logo'
import { pictureFault } from '@/runs/files/untrustedImages'
import { keepImage } from '@/store/company'

const most = 5_000_000

/** Keeps a picture or a letter paper that a layout is to bear; refused where no paper could bear it. */
export const POST = actRoute(async ({ books }, request) => {
	const type = request.headers.get('content-type') ?? ''
	if (Number(request.headers.get('content-length') ?? 0) > most)
		return Response.json({ message: 'The file is over 5 MB. Make it smaller.' }, { status: 400 })
	const bytes = Buffer.from(await request.arrayBuffer())
	if (bytes.length > most) return Response.json({ message: 'The file is over 5 MB. Make it smaller.' }, { status: 400 })
	const fault = await pictureFault(type, bytes)
	if (fault) return Response.json({ message: fault }, { status: 400 })
	const sha256 = createHash('sha256').update(bytes).digest('hex')
	const read = type === 'application/pdf' ? await readLetterPaper(bytes, sha256) : await readLogo(type, bytes, sha256)
	if (!read.ok) return Response.json({ message: read.refusal.message }, { status: 400 })
	keepImage(books, { sha256, type, bytes })
	return Response.json({ sha256 })
})
