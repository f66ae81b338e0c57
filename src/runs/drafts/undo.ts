import { no, type Outcome } from '@/core/outcome'
import { type Books, inOneStep } from '@/store/books'
import { type Kept, latestChange, markUndone } from '@/store/changes'
import { readBill } from '@/store/documents'
import { dropDraft, hold, release, reviveDraft } from '@/store/drafts'
import { type Desk, record } from '@/store/events'
import { joinPart, linesOf, readOrder } from '@/store/orders'
import { mergedSchema } from './merge'
import { type BillRow, lookingAt, openDraft, placeOrders, recheckOtherDrafts, redraft } from './redraft'

/**
 * Takes the latest change of a draft back. One that concerns two drafts can be taken back from either, while it is the latest of both:
 * what was done since on the other comes first.
 */
export function undoChange(books: Books, desk: Desk, documentId: number): Outcome {
	return inOneStep(books, (): Outcome => {
		const asked = openDraft(books, documentId)
		if (!asked.ok) return asked
		const change = latestChange(books, documentId)
		if (!change) return no('There is no change to take back.')
		const first = readBill(books, change.documentId)
		const other = change.otherId === null ? null : readBill(books, change.otherId)
		if (!first || first.number !== null || (other && other.number !== null))
			return no('A part of it is numbered already; it can no longer be put together.')
		if (change.kind === 'content') return undoContent(books, desk, first, change)
		if (!other) return no('It was put together before drafts were kept; divide it instead.')
		for (const one of [first, other]) {
			if (latestChange(books, one.id)?.id !== change.id) {
				const which = one.dropped_at === null ? one.order_numbers : `${one.order_numbers} (${one.dropped_reason})`
				return no(`Its other part, ${which}, was changed since. Take that back first.`)
			}
		}
		return change.kind === 'divided'
			? undoDivide(books, desk, first, other, change)
			: undoMerge(books, desk, first, other, change)
	})
}

function undoContent(books: Books, desk: Desk, now: BillRow, change: Kept): Outcome {
	const { priced: _, ...content } = change.content
	const looking = lookingAt(books, desk, now.run_id)
	markUndone(books, change, desk.now())
	redraft(books, looking, now, content, change.email)
	recheckOtherDrafts(books, looking, now)
	record(books, desk, { subject: 'document', id: now.id, act: 'took the change back', detail: now.customer_name })
	return { ok: true }
}

/** Puts a divided document together again: its lines go back to where they were, and parts of orders that are empty then are put away. */
function undoDivide(books: Books, desk: Desk, first: BillRow, other: BillRow, change: Kept): Outcome {
	const { priced: _, ...content } = change.content
	const looking = lookingAt(books, desk, first.run_id)
	markUndone(books, change, desk.now())
	dropDraft(books, desk, other.id, `put together again with ${content.orders.map(({ number }) => number).join(', ')}`)
	redraft(books, looking, first, content, change.email)
	for (const { id } of other.content.orders) {
		const part = readOrder(books, id)
		if (!part || content.orders.some((order) => order.id === id) || linesOf(books, id).length > 0) continue
		const home = content.orders.find((order) => {
			const row = readOrder(books, order.id)
			return row && (row.part_of ?? row.id) === part.part_of
		})
		if (home) joinPart(books, id, home.id)
	}
	recheckOtherDrafts(books, looking, first)
	const detail = first.customer_name
	for (const one of [first.id, other.id])
		record(books, desk, { subject: 'document', id: one, act: 'put together again', detail })
	return { ok: true }
}

/** Takes two drafts apart again, as they were: the second is taken out with all that was done on it, the first as held as it was. */
function undoMerge(books: Books, desk: Desk, first: BillRow, other: BillRow, change: Kept): Outcome {
	const { priced: _, ...content } = change.content
	const { held, by, at } = mergedSchema.parse(JSON.parse(change.kept))
	const looking = lookingAt(books, desk, first.run_id)
	markUndone(books, change, desk.now())
	reviveDraft(books, other.id)
	redraft(books, looking, first, content, change.email)
	placeOrders(books, other.id, other.content)
	if (held) hold(books, at === '' ? desk : { clerk: by, now: () => at }, first.id, held)
	else release(books, first.id)
	recheckOtherDrafts(books, looking, first)
	recheckOtherDrafts(books, looking, other)
	const detail = first.customer_name
	for (const one of [first.id, other.id])
		record(books, desk, { subject: 'document', id: one, act: 'took apart again', detail })
	return { ok: true }
}
