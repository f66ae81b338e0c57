import { z } from 'zod'
import { answering } from '@/app/reading'
import { isKindName } from '@/kinds'
import { leavingSchema } from '@/layout/leaving'
import { namesSeen } from '@/runs/layouts/leaving'

const asked = z.object({ kind: z.string().refine(isKindName), leaving: leavingSchema })

/** What the latest papers of a kind would be called by parts in the making. */
export const POST = answering(async ({ books }, request) => {
	const parsed = asked.safeParse(await request.json().catch(() => null))
	if (!parsed.success) return Response.json({ message: 'These are no parts of a name.' }, { status: 400 })
	const { kind, leaving } = parsed.data
	return Response.json(isKindName(kind) ? namesSeen(books, kind, leaving) : null)
})
