import 'server-only'
import type { Books } from '@/store/books'
import { plainWords } from '@/store/plainWords'
import { books, clerk, today } from './books'

/** What is read, who reads it, and the day that they work as of. */
export type Reading = { books: Books; clerk: string | null; today: string }

/** Every page and every answer reads the books through here, where who reads is known (roles will stand there). */
export async function reading(): Promise<Reading> {
	return { books: books(), clerk: await clerk(), today: today() }
}

type Params = Record<string, string>
type Answer = (reading: Reading, request: Request, params: Params) => Response | Promise<Response>

/** A route that answers from the books. What breaks is answered in words, never with a trace. */
export const answering =
	(answer: Answer) =>
	async (request: Request, context: { params: Promise<Params> }): Promise<Response> => {
		try {
			return await answer(await reading(), request, await context.params)
		} catch (error) {
			console.error(error)
			return new Response(`It could not be answered: ${plainWords(error)}`, { status: 500 })
		}
	}

/** The id in a route's or page's address; 0, which nothing has, where it is none. */
export const idOf = (text: string | undefined): number => (/^\d{1,15}$/.test(text ?? '') ? Number(text) : 0)
