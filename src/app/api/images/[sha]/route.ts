import { books } from '@/app/books'
import { readImage } from '@/store/company'

/** A kept picture. An SVG is served so that nothing in it can run. */
export async function GET(_request: Request, { params }: { params: Promise<{ sha: string }> }): Promise<Response> {
	const image = readImage(books(), (await params).sha)
	if (!image) return new Response('There is no such picture.', { status: 404 })
	return new Response(new Uint8Array(image.bytes), {
		headers: {
			'content-type': image.type,
			'content-security-policy': "default-src 'none'; style-src 'unsafe-inline'",
			'x-content-type-options': 'nosniff',
		},
	})
}
