import { type StatementChoice, statementChoiceSchema } from '@/core/statement'
import type { Books } from '@/store/books'
import { statementChoice } from '@/store/runs'

/**
 * What a run of statements was asked to gather; null for another run.
 * @throws ZodError where the text is not what the books keep
 */
export function choiceOf(books: Books, runId: number): StatementChoice | null {
	const kept = statementChoice(books, runId)
	return kept === null ? null : statementChoiceSchema.parse(JSON.parse(kept))
}
