'use server'
import { refresh } from 'next/cache'
import { cookies } from 'next/headers'
import { z } from 'zod'
import type { Outcome } from '@/core/outcome'
import { seatClerk } from '@/store/settings'
import { books, clerkCookie, now } from '../books'

/** Sits down at the desk under a name: the one act that nobody does yet. */
export async function sitDown(name: unknown): Promise<Outcome> {
	const clerk = z.string().catch('').parse(name).trim().slice(0, 40)
	if (!clerk) return { ok: false, message: 'Give a name.' }
	seatClerk(books(), { clerk, now })
	;(await cookies()).set(clerkCookie, clerk, { httpOnly: true, sameSite: 'strict', maxAge: 400 * 86_400 })
	refresh()
	return { ok: true }
}
