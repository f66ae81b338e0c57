import { fileAnswer } from '@/app/fileAnswer'
import { answering } from '@/app/reading'
import { isKindName } from '@/kinds'
import { pdfByLook } from '@/runs/layouts/preview'

/** The latest paper of a kind as a shipped look draws it, with its trial mark; `accent` is six hex digits, or nothing. */
export const GET = answering(async ({ books }, request) => {
	const asked = new URL(request.url).searchParams
	const kind = asked.get('kind') ?? ''
	const accent = asked.get('accent') ?? ''
	if (!isKindName(kind) || !/^([0-9a-f]{6})?$/.test(accent))
		return new Response('There is no such look.', { status: 400 })
	const made = await pdfByLook(books, kind, asked.get('look') ?? '', accent)
	if (!made) return new Response('There is no such look.', { status: 404 })
	return fileAnswer(made, { type: 'application/pdf', name: 'look.pdf' })
})
