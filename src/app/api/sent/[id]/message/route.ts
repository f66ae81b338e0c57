import { books } from '@/app/books'
import { rawOf } from '@/runs/send'
import { readAttempt, readMessage } from '@/store/messages'

/** The exact message of an attempt, as it went over the wire. */
export async function GET(_request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
	const attempt = readAttempt(books(), Number((await params).id))
	const message = attempt && readMessage(books(), attempt.message_id)
	if (!message) return new Response('There is no such attempt.', { status: 404 })
	const { raw } = await rawOf(books(), message)
	return new Response(new Uint8Array(raw), {
		headers: {
			'content-type': 'message/rfc822',
			'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(`${message.number}.eml`)}`,
		},
	})
}
