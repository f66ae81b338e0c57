import { z } from 'zod'
import { actRoute } from '@/app/acts/seam'
import { beginUpload } from '@/runs/bringIn/receive'

const asked = z.object({ name: z.string().max(2000), size: z.number().int(), changed: z.number() })

/** Begins to take a chosen or dropped file in, in parts; says which parts are here already. */
export const POST = actRoute(async ({ books, desk }, request) => {
	const parsed = asked.safeParse(await request.json().catch(() => null))
	if (!parsed.success) return Response.json({ message: 'Choose a file.' }, { status: 400 })
	const begun = beginUpload(books, desk, parsed.data)
	return begun.ok ? Response.json(begun.value) : Response.json({ message: begun.refusal.message }, { status: 422 })
})
