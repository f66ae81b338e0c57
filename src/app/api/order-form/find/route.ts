import { answering } from '@/app/reading'
import { findCustomers, findItems } from '@/store/find'

/** Customers or items whose code or name holds the words. */
export const GET = answering(({ books }, request) => {
	const asked = new URL(request.url).searchParams
	const words = asked.get('q') ?? ''
	if (words.trim() === '') return Response.json([])
	return Response.json(asked.get('what') === 'customer' ? findCustomers(books, words) : findItems(books, words))
})
