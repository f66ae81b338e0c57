import { fileAnswer } from '@/app/fileAnswer'
import { answering } from '@/app/reading'
import { readImage } from '@/store/company'

/** A kept picture. */
export const GET = answering(({ books }, _request, params) => {
	const image = readImage(books, params.sha ?? '')
	if (!image) return new Response('There is no such picture.', { status: 404 })
	return fileAnswer(image.bytes, { type: image.type, name: 'picture', kept: true })
})
