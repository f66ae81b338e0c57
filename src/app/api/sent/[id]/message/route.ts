import { fileAnswer } from '@/app/fileAnswer'
import { answering, idOf } from '@/app/reading'
import { asItWent, rawOf } from '@/runs/send/send'
import { readAttempt, readMessage } from '@/store/messages'

/** The exact message of an attempt, as it went over the wire. */
export const GET = answering(async ({ books }, _request, params) => {
	const attempt = readAttempt(books, idOf(params.id))
	const message = attempt && readMessage(books, attempt.message_id)
	if (!attempt || !message) return new Response('There is no such attempt.', { status: 404 })
	const { raw } = await rawOf(books, asItWent(message, attempt))
	return fileAnswer(raw, { type: 'message/rfc822', name: `${message.number}.eml` })
})
