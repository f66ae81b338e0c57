import { documentSchema } from '@/core/document'
import { registerNumber } from '@/core/register'
import { type Books, inOneStep } from '@/store/books'
import { freeze, toNumber } from '@/store/documents'
import { type Desk, record } from '@/store/events'
import { markBilled } from '@/store/orders'
import { advance, registerFor } from '@/store/registers'

export type Numbered = { ok: true; count: number; first: string; last: string } | { ok: false; message: string }

/**
 * Gives numbers to all documents of a run that may have one, in their order, and freezes them, in one step: all or none.
 * @param expected how many the clerk was shown; another count numbers nothing
 */
export function numberDocuments(books: Books, desk: Desk, runId: number, expected: number): Numbered {
	return inOneStep(books, (): Numbered => {
		const register = registerFor(books, 'invoice')
		if (!register)
			return { ok: false, message: 'There is no number register for invoices. Set one under Number registers.' }
		const drafts = toNumber(books, runId)
		if (drafts.length !== expected) {
			return {
				ok: false,
				message: `${expected} invoices were to be numbered, but now it would be ${drafts.length}. Nothing was numbered; look again.`,
			}
		}
		drafts.forEach(({ id, content }, index) => {
			const value = register.next + index
			const number = registerNumber(register, value)
			const frozen = { ...documentSchema.parse(JSON.parse(content)), number }
			freeze(books, { id, number, registerId: register.id, value, content: JSON.stringify(frozen) }, desk.now())
			markBilled(books, id)
		})
		advance(books, register.id, register.next + drafts.length)
		const first = registerNumber(register, register.next)
		const last = registerNumber(register, register.next + drafts.length - 1)
		record(books, desk, {
			subject: 'run',
			id: runId,
			act: `numbered ${drafts.length} invoices`,
			detail: `${first} to ${last}`,
		})
		return { ok: true, count: drafts.length, first, last }
	})
}
