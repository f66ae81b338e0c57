import { documentSchema, kindName } from '@/core/document'
import { nextValue, registerNumber, yearOf } from '@/core/register'
import { type Books, inOneStep } from '@/store/books'
import { freeze, toNumber } from '@/store/documents'
import { type Desk, record } from '@/store/events'
import { markBilled } from '@/store/orders'
import { advance, registerFor } from '@/store/registers'
import { readRun } from '@/store/runs'

export type Numbered = { ok: true; count: number; first: string; last: string } | { ok: false; message: string }

/**
 * Gives numbers to all documents of a run that may have one, in their order, and freezes them, in one step: all or none.
 * @param expected how many the clerk was shown; another count numbers nothing
 */
export function numberDocuments(books: Books, desk: Desk, runId: number, expected: number): Numbered {
	return inOneStep(books, (): Numbered => {
		const run = readRun(books, runId)
		const kind = run?.kind ?? 'invoice'
		const register = registerFor(books, kind)
		if (!run || !register) {
			return {
				ok: false,
				message: `There is no number register for ${kindName[kind].toLowerCase()}s. Open one under Number registers.`,
			}
		}
		const drafts = toNumber(books, runId)
		if (drafts.length !== expected) {
			return {
				ok: false,
				message: `${expected} were to be numbered, but now it would be ${drafts.length}. Nothing was numbered; look again.`,
			}
		}
		const year = yearOf(run.document_day)
		const start = nextValue(register, year)
		const numberOf = (value: number) => registerNumber(register, value, year)
		drafts.forEach(({ id, content }, index) => {
			const value = start + index
			const number = numberOf(value)
			const frozen = { ...documentSchema.parse(JSON.parse(content)), number }
			const registerYear = register.yearly === 1 ? year : 0
			freeze(
				books,
				{ id, number, registerId: register.id, year: registerYear, value, content: JSON.stringify(frozen) },
				desk.now(),
			)
			markBilled(books, id)
		})
		advance(books, register.id, start + drafts.length, register.yearly === 1 ? year : 0)
		const first = numberOf(start)
		const last = numberOf(start + drafts.length - 1)
		record(books, desk, { subject: 'run', id: runId, act: `numbered ${drafts.length}`, detail: `${first} to ${last}` })
		return { ok: true, count: drafts.length, first, last }
	})
}
