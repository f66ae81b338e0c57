import 'server-only'
import { cookies } from 'next/headers'
import type { Books } from '@/store/books'
import type { Desk } from '@/store/events'
import { openBooks } from '@/store/openBooks'
import { clerks, workDate } from '@/store/settings'

const held = globalThis as typeof globalThis & { northTallyBooks?: Books }

/** The books of this web process, opened once. */
export function books(): Books {
	held.northTallyBooks ??= openBooks()
	return held.northTallyBooks
}

export const now = (): string => new Date().toISOString()

/** The day the clerk works as of. */
export const today = (): string => workDate(books(), now().slice(0, 10))

export const clerkCookie = 'north-tally-clerk'

/** Who is at the desk in this browser: the name chosen here, else the first one in the books; null in empty books. */
export async function clerk(): Promise<string | null> {
	const known = clerks(books())
	const chosen = (await cookies()).get(clerkCookie)?.value
	return chosen && known.includes(chosen) ? chosen : (known[0] ?? null)
}

/** The clerk and the clock, for everything that is done. */
export async function desk(): Promise<Desk> {
	const name = await clerk()
	if (!name) throw new Error('Nobody is at the desk yet.')
	return { clerk: name, now }
}
