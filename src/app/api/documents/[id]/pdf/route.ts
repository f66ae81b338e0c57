import { books } from '@/app/books'
import { pdfOf } from '@/runs/pdfOf'

/** The document's PDF: the recorded file, or a draft of it. */
export async function GET(_request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
	const paper = await pdfOf(books(), Number((await params).id))
	if (!paper) return new Response('There is no such document.', { status: 404 })
	return new Response(new Uint8Array(paper.bytes), {
		headers: {
			'content-type': 'application/pdf',
			'content-disposition': `inline; filename*=UTF-8''${encodeURIComponent(paper.name)}`,
			'cache-control': 'no-store',
		},
	})
}
