import { fileAnswer } from '@/app/fileAnswer'
import { answering, idOf } from '@/app/reading'
import { companionBytes } from '@/runs/files/companionFiles'
import { typeOf } from '@/runs/files/companions'
import { companionsOf } from '@/store/made'

/** A file that was made beside a document's PDF, by its format: exactly the recorded one. */
export const GET = answering(async ({ books }, request, params) => {
	const wanted = new URL(request.url).searchParams.get('format')
	const file = companionsOf(books, idOf(params.id)).find(({ format }) => format === wanted && format !== 'locked')
	if (!file) return new Response('There is no such file beside the PDF.', { status: 404 })
	const { name, bytes } = await companionBytes(books, file)
	return fileAnswer(bytes, { type: typeOf(file.format), name, show: false })
})
