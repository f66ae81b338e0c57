import { shownNumber } from '@/core/document'
import { type Books, inOneStep } from '@/store/books'
import { addDocument, creditsOf, type DocumentRow, freezeRevision, markReplaced, readDocument } from '@/store/documents'
import { type Desk, record } from '@/store/events'
import { messageOfDocument } from '@/store/messages'
import { readRun } from '@/store/runs'
import type { Outcome } from './acts'
import { type Change, changedContent, difference } from './change'
import { hasReached } from './correct'
import { enterDocument, leaveLedger } from './ledger'
import { placeOrders, recompute } from './redraft'

const no = (message: string): Outcome => ({ ok: false, message })

/** Why an issued document cannot be revised; null when it can. */
export function whyNotRevised(books: Books, document: DocumentRow): string | null {
	if (document.number === null) return 'A draft is changed, not revised.'
	if (document.kind !== 'invoice') return 'Only an invoice is revised; make another credit note instead.'
	if (document.void_at) return 'This invoice is void.'
	if (document.replaced_at) return 'A revision stands in for this invoice already; revise that one.'
	if (hasReached(messageOfDocument(books, document.id)?.state, document))
		return 'It has reached the customer, or may have. Credit it instead.'
	if (creditsOf(books, document.id).length > 0) return 'It has a credit note; that corrects it.'
	if (readRun(books, document.run_id)?.state !== 'open') return 'Its run is closed.'
	return null
}

/**
 * Issues a revision of an invoice that has reached nobody: the same number, marked revision 2, with its orders, in the same run and
 * in one step. The first is kept as it was and is sent no more. What a check would stop is refused.
 */
export function reviseDocument(books: Books, desk: Desk, documentId: number, change: Change): Outcome {
	return inOneStep(books, (): Outcome => {
		const first = readDocument(books, documentId)
		if (!first) return no('There is no such invoice.')
		const hindered = whyNotRevised(books, first)
		if (hindered) return no(hindered)
		const changed = changedContent(books, first.content, change)
		const words = difference(first.content, changed, first.email, change.email).join('; ')
		if (words === '') return no('Nothing is different from before.')
		const { draft, findings } = recompute(books, desk, first, changed, change.email)
		const stop = findings.find(({ level }) => level === 'stop')
		if (stop) return no(stop.text)
		const content = { ...draft.content, revision: first.content.revision + 1 }
		const id = addDocument(books, {
			run_id: first.run_id,
			position: first.position,
			customer_id: first.customer_id,
			customer_name: first.customer_name,
			email: change.email,
			order_numbers: first.order_numbers,
			net: draft.net,
			tax: draft.tax,
			total: draft.total,
			level: findings[0]?.level ?? 'clear',
			content,
		})
		const number = shownNumber(content)
		markReplaced(books, desk, documentId, change.reason)
		freezeRevision(
			books,
			{ id, number, revision: content.revision, revisesId: documentId, content: JSON.stringify(content) },
			desk.now(),
		)
		placeOrders(books, id, content)
		leaveLedger(books, desk, documentId, `revised: ${change.reason}`)
		enterDocument(books, desk, { id, customer_id: first.customer_id, content, total: draft.total, credits_id: null })
		const detail = `${number} ${first.customer_name}: ${words}: ${change.reason}`
		for (const one of [documentId, id]) record(books, desk, { subject: 'document', id: one, act: 'revised', detail })
		return { ok: true, id }
	})
}
