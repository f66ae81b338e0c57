import { formatTime } from '@/core/format'
import type { Outcome } from '@/core/outcome'
import { type Books, inOneStep } from '@/store/books'
import { readAnyDocument } from '@/store/documents'
import { type EventRow, eventsOfDocument, latestEventId, type TouchedDraft, touchedInRun } from '@/store/events'

// What a person sees may be older than the books. A form carries the record's latest event as it was when it was opened: what was
// recorded of its draft since is another's work, or the person's own in another window, and is never overwritten in silence.

/** Whether an event changed nothing of what a form shows: that a flagged draft looks right, or does not. */
const isHarmless = ({ after }: EventRow): boolean => {
	const is: unknown = after === null ? null : JSON.parse(after)
	return typeof is === 'object' && is !== null && 'looked' in is
}

/** What happened to a document after an event, the newest first. */
const since = (books: Books, documentId: number, seen: number): EventRow[] =>
	eventsOfDocument(books, [documentId], [], 20).filter((event) => event.id > seen && !isHarmless(event))

const inWords = ({ clerk, act, at, detail }: EventRow): string =>
	`${clerk} ${act} (${formatTime(at)})${detail ? `: ${detail}` : ''}`

/**
 * Does an act to a draft as it was seen, in one step; where it is no longer that, nothing is done and what happened is said.
 * @param seen id of the record's latest event when the form was opened
 * @param of what it is about: a draft, or the message of a document that may be numbered
 */
export function onSeen(
	books: Books,
	documentId: number,
	seen: number,
	work: () => Outcome,
	of: 'draft' | 'message' = 'draft',
): Outcome {
	return inOneStep(books, (): Outcome => {
		const document = readAnyDocument(books, documentId)
		if (!document) return { ok: false, message: 'It is not there any more.' }
		const happened = since(books, documentId, seen)
		if (of === 'draft' && document.number !== null)
			return {
				ok: false,
				ask: 'changed',
				message: `It was numbered meanwhile, as ${document.number}, and can no longer be changed here. What was typed was not kept; to change it now, revise it on its own page.`,
			}
		if (happened.length === 0) return work()
		return {
			ok: false,
			ask: 'changed',
			message: `It changed since you opened it: ${happened.slice(0, 3).map(inWords).join('; ')}. What you typed is still here; nothing of it was kept yet.`,
		}
	})
}

/** Why the drafts of a run are not numbered as they are: they changed since they were seen. Null where none did. */
export function changedSince(books: Books, runId: number, seen: number): Outcome | null {
	const touched = touchedInRun(books, runId, seen).filter((event) => !isHarmless(event))
	const names = new Map<number, TouchedDraft>()
	for (const draft of touched) if (!names.has(draft.document_id)) names.set(draft.document_id, draft)
	if (names.size === 0) return null
	const said = [...names.values()]
		.slice(0, 5)
		.map(
			({ customer_name, order_numbers, ...event }) =>
				`${customer_name} (${order_numbers || 'no orders'}): ${inWords(event)}`,
		)
	const more = names.size > 5 ? `; and ${names.size - 5} more` : ''
	return {
		ok: false,
		ask: 'changed',
		upTo: latestEventId(books),
		message: `${names.size === 1 ? 'A draft' : `${names.size} drafts`} changed since you saw them: ${said.join('; ')}${more}.`,
	}
}
