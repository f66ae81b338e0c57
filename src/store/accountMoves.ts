import type { Day } from '@/core/calendar'
import type { Books } from './books'
import type { Span } from './customers'

// Whether anything was written of a customer since a statement of theirs was looked at. The tables count their own writes
// (migrations/018-what-moves-an-account.sql), so that no act can forget to say that it touched an account.

/** In SQL, of `document d`: how often anything was written that its customer's statements go by. Both only ever rise, so that none hides another. */
const movesNow = `coalesce((SELECT moves FROM account_moves WHERE customer_id = d.customer_id), 0)
	+ coalesce((SELECT moves FROM account_moves WHERE customer_id = 0), 0)`
const isAsLooked = `EXISTS (SELECT 1 FROM statement_look l WHERE l.document_id = d.id AND l.day = @today AND l.moves = ${movesNow})`

/** Notes that statements were found true as their accounts stand, for a work date. */
export function noteLooked({ sql }: Books, documentIds: readonly number[], today: Day): void {
	if (documentIds.length === 0) return
	sql<[{ ids: string; today: Day }]>(
		`REPLACE INTO statement_look (document_id, moves, day) SELECT d.id, ${movesNow}, @today FROM document d
		 WHERE d.id IN (SELECT value FROM json_each(@ids))`,
	).run({ ids: JSON.stringify(documentIds), today })
}

/** Of some statements those of whose accounts something was written since they were looked at, or that were looked at on another work date. */
export const movedSince = ({ sql }: Books, documentIds: readonly number[], today: Day): Set<number> =>
	new Set(
		sql<[{ ids: string; today: Day }], { id: number }>(
			`SELECT d.id FROM document d WHERE d.id IN (SELECT value FROM json_each(@ids)) AND NOT ${isAsLooked}`,
		)
			.all({ ids: JSON.stringify(documentIds), today })
			.map(({ id }) => id),
	)

/** Drafts of a run of statements that are to be looked at again, in order, but those that are held back. @param span whose */
export const draftsMoved = ({ sql }: Books, runId: number, today: Day, span: Span): number[] =>
	sql<[Span & { runId: number; today: Day }], { id: number }>(
		`SELECT d.id FROM document d WHERE d.run_id = @runId AND d.number IS NULL AND d.dropped_at IS NULL AND d.held_reason IS NULL
			AND d.customer_id > @after AND d.customer_id <= @upTo AND NOT ${isAsLooked} ORDER BY d.position, d.id`,
	)
		.all({ runId, today, ...span })
		.map(({ id }) => id)
