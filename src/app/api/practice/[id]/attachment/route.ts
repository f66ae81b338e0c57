import { fileAnswer } from '@/app/fileAnswer'
import { practicePost } from '@/app/practice'
import { answering, idOf } from '@/app/reading'
import { openArrival } from '@/post/practiceMail'

/** A file attached to a message that arrived: the first, or the one at `place`. Anybody may have made it. */
export const GET = answering(async (_reading, request, params) => {
	const arrival = await openArrival(practicePost(), idOf(params.id))
	const file = arrival?.mail.attachments[idOf(new URL(request.url).searchParams.get('place') ?? '0')]
	if (!file) return new Response('There is no such attachment.', { status: 404 })
	return fileAnswer(file.content, { type: file.contentType, name: file.filename ?? 'attachment' })
})
