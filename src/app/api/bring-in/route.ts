import { z } from 'zod'
import { books, desk } from '@/app/books'
import { beginUpload } from '@/runs/bringIn/receive'

const asked = z.object({ name: z.string().max(2000), size: z.number().int(), changed: z.number() })

/** Begins to take a chosen or dropped file in, in parts; says which parts are here already. */
export async function POST(request: Request): Promise<Response> {
	const parsed = asked.safeParse(await request.json().catch(() => null))
	if (!parsed.success) return Response.json({ message: 'Choose a file.' }, { status: 400 })
	const begun = beginUpload(books(), await desk(), parsed.data)
	return begun.ok ? Response.json(begun.value) : Response.json({ message: begun.refusal.message }, { status: 422 })
}
