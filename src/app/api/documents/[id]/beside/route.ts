import { fileAnswer } from '@/app/fileAnswer'
import { answering, idOf } from '@/app/reading'
import { besideTypes } from '@/runs/files/beside'
import { besideBytes } from '@/runs/files/besideFiles'
import { filesBeside } from '@/store/made'

/** A file that was made beside a document's PDF, by its format: exactly the recorded one. */
export const GET = answering(async ({ books: own }, request, params) => {
	const wanted = new URL(request.url).searchParams.get('format')
	const file = filesBeside(own, idOf(params.id)).find(({ format }) => format === wanted && format !== 'locked')
	if (!file) return new Response('There is no such file beside the PDF.', { status: 404 })
	const { name, bytes } = await besideBytes(own, file)
	return fileAnswer(bytes, { type: besideTypes[file.format], name, show: false })
})
