import { practicePost } from '@/app/practice'
import { openArrival } from '@/post/practiceMail'

/** The first file attached to a message that arrived. */
export async function GET(_request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
	const arrival = await openArrival(practicePost(), Number((await params).id))
	const file = arrival?.mail.attachments[0]
	if (!file) return new Response('There is no such attachment.', { status: 404 })
	return new Response(new Uint8Array(file.content), {
		headers: {
			'content-type': file.contentType,
			'content-disposition': `inline; filename*=UTF-8''${encodeURIComponent(file.filename ?? 'attachment')}`,
		},
	})
}
