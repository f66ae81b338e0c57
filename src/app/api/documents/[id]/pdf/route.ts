import { answering, idOf } from '@/app/reading'
import { pdfOf } from '@/runs/pdfOf'

/** The document's PDF: the recorded file, or a draft of it. */
export const GET = answering(async ({ books: own }, _request, params) => {
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
