import { answering } from '@/app/reading'
import { readImage } from '@/store/company'

/** A kept picture. An SVG is served so that nothing in it can run. */
export const GET = answering(({ books: own }, _request, params) => {
	const image = readImage(own, params.sha ?? '')
	if (!image) return new Response('There is no such picture.', { status: 404 })
	return new Response(new Uint8Array(image.bytes), {
		headers: {
			'content-type': image.type,
			'content-security-policy': "default-src 'none'; style-src 'unsafe-inline'",
			'x-content-type-options': 'nosniff',
		},
	})
})
