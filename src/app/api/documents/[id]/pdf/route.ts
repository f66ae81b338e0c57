import { fileAnswer } from '@/app/fileAnswer'
import { answering, idOf } from '@/app/reading'
import { pdfOf } from '@/runs/files/pdfOf'
import { printAgain } from '@/runs/files/printAll'

/** The document's PDF: the recorded file, or a draft of it; with `as=copy` the paper again, marked as a copy. */
export const GET = answering(async ({ books }, request, params) => {
	if (new URL(request.url).searchParams.get('as') === 'copy') {
		const copy = await printAgain(books, idOf(params.id))
		return copy
			? fileAnswer(copy, { type: 'application/pdf', name: 'copy.pdf' })
			: new Response('There is no numbered document of this.', { status: 404 })
	}
	const paper = await pdfOf(books, idOf(params.id))
	if (!paper) return new Response('There is no such document.', { status: 404 })
	return fileAnswer(paper.bytes, { type: 'application/pdf', name: paper.name })
})
