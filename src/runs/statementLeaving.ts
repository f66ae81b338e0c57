import { type Books, inOneStep } from '@/store/books'
import { statementsLeaving } from '@/store/chases'
import { noteChanged } from '@/store/drafts'
import { type Desk, record, touchedSince } from '@/store/events'
import { holdMessage } from '@/store/issued'
import { keepBack } from '@/store/postroom'
import { readRun } from '@/store/runs'
import { workDate } from '@/store/settings'
import { truthOf } from './statementNow'
import { choiceOf } from './statements'

/**
 * Looks at the statements of a run that are about to leave: one that is no longer true is held to be read, or kept back where its message
 * is written already, until a person lets it go. Only accounts that something was recorded of since they were numbered are looked at.
 * @returns those that do not leave, each with what is otherwise
 */
export function holdUntrue(books: Books, desk: Desk, runId: number): string[] {
	const run = readRun(books, runId)
	if (!run || !choiceOf(books, runId)) return []
	const touched = touchedSince(books, run.checked_to, runId)
	const leaving = statementsLeaving(books, runId).filter(
		({ customer_id }) => touched === null || touched.has(customer_id),
	)
	const held: string[] = []
	for (let at = 0; at < leaving.length; at += together) {
		inOneStep(books, () => {
			const whyNot = truthOf(books, runId, workDate(books, desk.now().slice(0, 10)))
			for (const { id, number, customer_name, message_id, let_stand } of leaving.slice(at, at + together)) {
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
