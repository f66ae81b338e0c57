import { existsSync, readFileSync } from 'node:fs'
import { answering, idOf } from '@/app/reading'
import { trialFile } from '@/runs/papers/keep'

/** A trial print, while it is here. */
export const GET = answering(({ books }, _request, params) => {
	const file = trialFile(books, idOf(params.id))
	if (!file || !existsSync(file.path))
		return new Response('This trial print was thrown away. Print the drafts again from their run.', { status: 404 })
	return new Response(new Uint8Array(readFileSync(file.path)), {
		headers: {
			'content-type': 'application/pdf',
			'content-disposition': `inline; filename*=UTF-8''${encodeURIComponent(file.name)}`,
			'cache-control': 'no-store',
		},
	})
})
