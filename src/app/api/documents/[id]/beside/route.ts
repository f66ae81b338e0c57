import { answering, idOf } from '@/app/reading'
import { besideTypes } from '@/runs/beside'
import { besideBytes } from '@/runs/besideFiles'
import { filesBeside } from '@/store/made'

/** A file that was made beside a document's PDF, by its format: exactly the recorded one. */
export const GET = answering(async ({ books: own }, request, params) => {
	const wanted = new URL(request.url).searchParams.get('format')
	const file = filesBeside(own, idOf(params.id)).find(({ format }) => format === wanted && format !== 'locked')
	if (!file) return new Response('There is no such file beside the PDF.', { status: 404 })
	const { name, bytes } = await besideBytes(own, file)
	return new Response(new Uint8Array(bytes), {
		headers: {
			'content-type': besideTypes[file.format],
			'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(name)}`,
			'x-content-type-options': 'nosniff',
			'cache-control': 'no-store',
		},
	})
})
