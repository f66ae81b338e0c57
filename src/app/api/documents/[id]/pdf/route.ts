import { answering, idOf } from '@/app/reading'
import { pdfOf } from '@/runs/pdfOf'
import { printAgain } from '@/runs/printAll'

/** The document's PDF: the recorded file, or a draft of it; with `as=copy` the paper again, marked as a copy. */
export const GET = answering(async ({ books: own }, request, params) => {
	if (new URL(request.url).searchParams.get('as') === 'copy') {
		const copy = await printAgain(own, idOf(params.id))
		return copy
			? new Response(new Uint8Array(copy), {
					headers: { 'content-type': 'application/pdf', 'content-disposition': 'inline; filename="copy.pdf"' },
				})
			: new Response('There is no numbered document of this.', { status: 404 })
	}
	const paper = await pdfOf(own, idOf(params.id))
	if (!paper) return new Response('There is no such document.', { status: 404 })
	return new Response(new Uint8Array(paper.bytes), {
		headers: {
			'content-type': 'application/pdf',
			'content-disposition': `inline; filename*=UTF-8''${encodeURIComponent(paper.name)}`,
			'cache-control': 'no-store',
		},
	})
})
