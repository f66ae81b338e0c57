import type { Day } from '@/core/calendar'
import { no, type Outcome } from '@/core/outcome'
import { today } from '@/runs/receivables/days'
import { movedSince, noteLooked } from '@/store/accountMoves'
import { type Books, inOneStep } from '@/store/books'
import { outgoingStatements } from '@/store/chases'
import { oneCustomer, spanOf } from '@/store/customers'
import type { DocumentRow } from '@/store/documents'
import { noteChanged, noteLetStand } from '@/store/drafts'
import { type Desk, record } from '@/store/events'
import { holdMessage } from '@/store/issued'
import { keepBack } from '@/store/postroom'
import { statementChoice } from '@/store/runs'
import { statementOf, truthOf } from './truth'

/** Why a numbered statement is not to leave as it is, in words; empty where it may, or was let stand so. */
function whyNot(books: Books, id: number, truth: ReturnType<typeof truthOf>): string {
	const row = statementOf(books, id)
	const { words } = row ? truth(row) : { words: '' }
	return words === row?.let_stand ? '' : words
}

/** Holds a statement that is no longer true until a person lets it go: to be read, or kept back where its message is written already. */
function holdOne(books: Books, desk: Desk, id: number, messageId: number | null, words: string): string {
	const row = statementOf(books, id)
	noteChanged(books, id, words)
	if (messageId === null) holdMessage(books, id, true)
	else keepBack(books, messageId, `no longer true: ${words}`)
	const act = 'held its message: no longer true'
	record(books, desk, { subject: 'document', id, act, detail: `${row?.number}: ${words}` })
	return `${row?.number}, ${row?.customer_name}: ${words}`
}

/**
 * Looks at the statements of a run that are about to leave: one that is no longer true is held until a person lets it go. Only those of whose
 * accounts anything was written since each was looked at are drafted anew.
 * @returns those that do not leave, each with what is otherwise
 */
export function holdUntrue(books: Books, desk: Desk, runId: number): string[] {
	const outgoing = outgoingStatements(books, runId)
	const moved = movedSince(
		books,
		outgoing.map(({ id }) => id),
		today(books, desk),
	)
	const looked = outgoing.filter(({ id }) => moved.has(id))
	const held: string[] = []
	for (let at = 0; at < looked.length; at += together) {
		const some = looked.slice(at, at + together)
		inOneStep(books, () => {
			const day = today(books, desk)
			const truth = truthOf(books, runId, day, spanOf(some.map(({ customer_id }) => customer_id)))
			const found = some.map((one) => ({ ...one, words: whyNot(books, one.id, truth) }))
			noteLooked(
				books,
				found.filter(({ words }) => words === '').map(({ id }) => id),
				day,
			)
			for (const { id, message_id, words } of found)
				if (words !== '') held.push(holdOne(books, desk, id, message_id, words))
		})
	}
	return held
}
/** Statements that are looked at in one step, so that others write in between. */
const together = 200

/**
 * Whether a written message may leave now: within the step that marks it as leaving, so that nothing comes between. Of a statement that is no longer
 * true it is kept back.
 */
export function isTrueNow(
	books: Books,
	desk: Desk,
	message: { id: number; document_id: number; run_id: number },
): boolean {
	const { document_id: id } = message
	if (statementChoice(books, message.run_id) === null) return true
	const day = today(books, desk)
	const row = movedSince(books, [id], day).has(id) ? statementOf(books, id) : null
	if (!row) return true
	const words = whyNot(books, id, truthOf(books, row.run_id, day, oneCustomer(row.customer_id)))
	if (words === '') noteLooked(books, [id], day)
	else holdOne(books, desk, id, message.id, words)
	return words === ''
}

/**
 * Of papers that are about to be printed: the statements that are no longer true and that nobody let stand, each with what is otherwise.
 * @param today the work date
 */
export function untrueOf(
	books: Books,
	today: Day,
	papers: readonly DocumentRow[],
): { row: DocumentRow; words: string }[] {
	const runs = [...new Set(papers.map(({ run_id }) => run_id))].filter((id) => statementChoice(books, id) !== null)
	const statements = papers.filter(({ run_id }) => runs.includes(run_id))
	const moved = movedSince(
		books,
		statements.map(({ id }) => id),
		today,
	)
	return runs.flatMap((runId) => {
		const looked = statements.filter((row) => row.run_id === runId && moved.has(row.id))
		if (looked.length === 0) return []
		const truth = truthOf(books, runId, today, spanOf(looked.map((row) => row.customer_id)))
		return looked.flatMap((row) => {
			const words = whyNot(books, row.id, truth)
			return words === '' ? [] : [{ row, words }]
		})
	})
}

/**
 * Looks at a statement that is noted as posted. One that is no longer true is refused and named first; noted again as it was named, it
 * went so, which the record keeps.
 */
export function postedAsItIs(books: Books, desk: Desk, row: DocumentRow): Outcome {
	const words = untrueOf(books, today(books, desk), [row])[0]?.words
	if (!words) return { ok: true }
	if (words === row.changed) {
		noteLetStand(books, row.id, words)
		noteChanged(books, row.id, '')
		const detail = `${row.number}, ${row.customer_name}, though ${words}`
		record(books, desk, { subject: 'document', id: row.id, act: 'let it stand', detail })
		return { ok: true }
	}
	noteChanged(books, row.id, words)
	const detail = `${row.number}: ${words}`
	record(books, desk, { subject: 'document', id: row.id, act: 'not noted as posted: no longer true', detail })
	return no(
		`${row.number}, ${row.customer_name}, is no longer true: ${words}. Make it void and gather another; where it went so all the same, note it once more.`,
	)
}
