import { kindName } from '@/core/document'
import { compareForNumbering, type Numbering, numberingName } from '@/core/numbering'
import { readPaper } from '@/core/paper'
import { nextValue, registerNumber, yearOf } from '@/core/register'
import { numberedStatement } from '@/core/statement'
import { type Books, inOneStep } from '@/store/books'
import { draftKeys, freeze, setPosition, toNumber } from '@/store/documents'
import { type Desk, record } from '@/store/events'
import { markBilled } from '@/store/orders'
import { advance, registerFor } from '@/store/registers'
import { readRun, setNumbering } from '@/store/runs'
import { changeSettings } from '@/store/settings'
import type { Outcome } from './acts'
import { enterCharge, enterDocument } from './ledger'

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
		drafts.forEach(({ id, content, ...draft }, index) => {
			const value = start + index
			const number = numberOf(value)
			const read = readPaper(content)
			const frozen = read.kind === 'statement' ? numberedStatement(read, number) : { ...read, number }
			const registerYear = register.yearly === 1 ? year : 0
			freeze(
				books,
				{ id, number, registerId: register.id, year: registerYear, value, content: JSON.stringify(frozen) },
				desk.now(),
			)
			if (frozen.kind === 'statement') {
				enterCharge(books, desk, id, draft.customer_id, frozen)
				return
			}
			markBilled(books, id)
			enterDocument(books, desk, { id, content: frozen, ...draft })
		})
		advance(books, register.id, start + drafts.length, register.yearly === 1 ? year : 0)
		const first = numberOf(start)
		const last = numberOf(start + drafts.length - 1)
		record(books, desk, { subject: 'run', id: runId, act: `numbered ${drafts.length}`, detail: `${first} to ${last}` })
		return { ok: true, count: drafts.length, first, last }
	})
}

/** Puts the drafts of a run in the order that they are to be numbered in; the choice is kept for the runs to come. */
export function orderDrafts(books: Books, desk: Desk, runId: number, by: Numbering): Outcome {
	return inOneStep(books, (): Outcome => {
		if (readRun(books, runId)?.state !== 'open') return { ok: false, message: 'This run is not open.' }
		const compare = compareForNumbering(by)
		draftKeys(books, runId)
			.sort(compare)
			.forEach(({ id }, index) => {
				setPosition(books, id, index + 1)
			})
		setNumbering(books, runId, by)
		changeSettings(books, desk, { numbering: by })
		record(books, desk, { subject: 'run', id: runId, act: `ordered the drafts by ${numberingName[by]}` })
		return { ok: true }
	})
}
