import { practicePost } from '@/app/practice'
import { openArrival } from '@/post/practiceMail'

/** A file attached to a message that arrived: the first, or the one at `place`. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
	const arrival = await openArrival(practicePost(), Number((await params).id))
	const place = Number(new URL(request.url).searchParams.get('place') ?? 0)
	const file = arrival?.mail.attachments[place]
	if (!file) return new Response('There is no such attachment.', { status: 404 })
	return new Response(new Uint8Array(file.content), {
		headers: {
			'content-type': file.contentType,
			'content-disposition': `inline; filename*=UTF-8''${encodeURIComponent(file.filename ?? 'attachment')}`,
		},
	})
}
