import { z } from 'zod'
import { answering } from '@/app/reading'
import { previewLayout } from '@/runs/layouts/preview'

const asked = z.object({ layout: z.string(), paper: z.number().int().min(0), run: z.number().int().min(0).default(0) })

/** A layout in the making, drawn on a paper; nothing is kept. */
export const POST = answering(async ({ books }, request) => {
	const parsed = asked.safeParse(await request.json().catch(() => null))
	if (!parsed.success) return Response.json({ faults: ['What was sent is no layout and paper.'] }, { status: 400 })
	return Response.json(await previewLayout(books, parsed.data.layout, parsed.data.paper, parsed.data.run))
})
