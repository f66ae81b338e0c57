import { answering } from '@/app/reading'
import { orderFormSchema } from '@/intake/orderForm'
import { lookAtForm } from '@/runs/orderForm'

/** What an order that is being typed would become: what is looked up, what it comes to, and what is missing. */
export const POST = answering(async ({ books, today }, request) => {
	const form = orderFormSchema.safeParse(await request.json().catch(() => null))
	if (!form.success) return new Response(form.error.issues.map(({ message }) => message).join(' '), { status: 400 })
	return Response.json(lookAtForm(books, form.data, today))
})
