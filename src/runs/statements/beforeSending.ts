import type { Day } from '@/core/calendar'
import { no, type Outcome } from '@/core/outcome'
import { type Books, inOneStep } from '@/store/books'
import { outgoingStatements } from '@/store/chases'
import { spanOf } from '@/store/customers'
import type { DocumentRow } from '@/store/documents'
import { noteChanged, noteLetStand } from '@/store/drafts'
import { type Desk, record, touchedSince } from '@/store/events'
import { holdMessage } from '@/store/issued'
import { keepBack } from '@/store/postroom'
import { readRun } from '@/store/runs'
import { workDate } from '@/store/settings'
import { truthOf } from './compare'
import { choiceOf } from './gather'

/**
 * Looks at the statements of a run that are about to leave: one that is no longer true is held to be read, or kept back where its message
 * is written already, until a person lets it go. Only accounts that something was recorded of since they were numbered are looked at.
 * @returns those that do not leave, each with what is otherwise
 */
export function holdUntrue(books: Books, desk: Desk, runId: number): string[] {
	const run = readRun(books, runId)
	if (!run || !choiceOf(books, runId)) return []
	const touched = touchedSince(books, run.checked_to, runId)
	const outgoing = outgoingStatements(books, runId).filter(
		({ customer_id }) => touched === null || touched.has(customer_id),
	)
	const held: string[] = []
	for (let at = 0; at < outgoing.length; at += together) {
		inOneStep(books, () => {
			const whyNot = truthOf(books, runId, workDate(books, desk.now().slice(0, 10)))
			for (const { id, number, customer_name, message_id, let_stand } of outgoing.slice(at, at + together)) {
				const words = whyNot(id)
				if (words === '' || words === let_stand) continue
				noteChanged(books, id, words)
				if (message_id === null) holdMessage(books, id, true)
				else keepBack(books, message_id, `no longer true: ${words}`)
				held.push(`${number}, ${customer_name}: ${words}`)
				record(books, desk, {
					subject: 'document',
					id,
					act: 'held its message: no longer true',
					detail: `${number}: ${words}`,
				})
			}
		})
	}
	return held
}
/** Statements that are looked at in one step, so that others write in between. */
const together = 200

/**
 * Of papers that are about to be printed: the statements that are no longer true and that nobody let stand, each with what is otherwise.
 * @param today the work date
 */
export function untrueOf(
	books: Books,
	today: Day,
	papers: readonly DocumentRow[],
): { row: DocumentRow; words: string }[] {
	return [...new Set(papers.map(({ run_id }) => run_id))].flatMap((runId) => {
		const run = readRun(books, runId)
		if (!run || !choiceOf(books, runId)) return []
		const touched = touchedSince(books, run.checked_to, runId)
		const looked = papers.filter((row) => row.run_id === runId && (touched === null || touched.has(row.customer_id)))
		if (looked.length === 0) return []
		const whyNot = truthOf(books, runId, today, spanOf(looked.map((row) => row.customer_id)))
		return looked.flatMap((row) => {
			const words = whyNot(row.id)
			return words === '' || words === row.let_stand ? [] : [{ row, words }]
		})
	})
}

/**
 * Looks at a statement that is noted as posted. One that is no longer true is refused and named first; noted again as it was named, it
 * went so, which the record keeps.
 */
export function postedAsItIs(books: Books, desk: Desk, row: DocumentRow): Outcome {
	const words = untrueOf(books, workDate(books, desk.now().slice(0, 10)), [row])[0]?.words
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
