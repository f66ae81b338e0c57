import { answering, idOf } from '@/app/reading'
import { orderFormSchema } from '@/intake/orderForm'
import { lookAtForm } from '@/runs/drafts/orderForm'
import { readPaperKind } from '@/store/paperKinds'

/** What an order that is being typed, or a record of the kind that `kind` names, would become: what is looked up, what it comes to, what is missing. */
export const POST = answering(async ({ books, today }, request) => {
	const form = orderFormSchema.safeParse(await request.json().catch(() => null))
	if (!form.success) return new Response(form.error.issues.map(({ message }) => message).join(' '), { status: 400 })
	const kind = readPaperKind(books, idOf(new URL(request.url).searchParams.get('kind') ?? ''))
	return Response.json(lookAtForm(books, form.data, today, kind))
})
