import { fileAnswer } from '@/app/fileAnswer'
import { answering, idOf } from '@/app/reading'
import { latestPaper, pdfByLayout } from '@/runs/layouts/preview'
import { layoutRow } from '@/store/layouts'

/**
 * A paper as a layout draws it, with its trial mark: `paper` by its id, the latest of its kind without; `version` one that was released,
 * what is in the making without.
 */
export const GET = answering(async ({ books }, request, params) => {
	const row = layoutRow(books, idOf(params.id))
	if (!row) return new Response('There is no such layout.', { status: 404 })
	const asked = new URL(request.url).searchParams
	const paper = asked.has('paper') ? idOf(asked.get('paper') ?? '') : latestPaper(books, row.kind)
	const made = await pdfByLayout(books, row, idOf(asked.get('version') ?? ''), paper)
	if (!made) return new Response('There is no such version or paper.', { status: 404 })
	return fileAnswer(made, { type: 'application/pdf', name: 'trial.pdf' })
})
