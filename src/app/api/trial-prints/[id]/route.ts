import { existsSync, readFileSync } from 'node:fs'
import { fileAnswer } from '@/app/fileAnswer'
import { answering, idOf } from '@/app/reading'
import { trialFile } from '@/runs/papers/keep'

/** A trial print, while it is here. */
export const GET = answering(({ books }, _request, params) => {
	const file = trialFile(books, idOf(params.id))
	if (!file || !existsSync(file.path))
		return new Response('This trial print was thrown away. Print the drafts again from their run.', { status: 404 })
	return fileAnswer(readFileSync(file.path), { type: 'application/pdf', name: file.name })
})
