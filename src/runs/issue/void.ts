import { type Day, dayText } from '@/core/calendar'
import { no, type Outcome } from '@/core/outcome'
import { isOwnKind } from '@/core/paperKind'
import { billsOrders, kindOf } from '@/kinds'
import { joinWaiting, ordersWait } from '@/runs/drafts/waiting'
import { today } from '@/runs/receivables/days'
import { acceptedOn } from '@/store/acceptedLines'
import { type Books, inOneStep } from '@/store/books'
import { type DocumentRow, readAnyDocument } from '@/store/documents'
import { type Desk, record } from '@/store/events'
import { creditsOf, markVoid } from '@/store/issued'
import { itemOfDocument } from '@/store/ledger'
import { type MessageState, messageOfDocument } from '@/store/messages'
import { readSettings } from '@/store/settings'
import { leaveLedger, whyNotLeft } from './ledger'

/** Whether a document has reached its customer, or may have. */
export const hasReached = (state: MessageState | undefined, { printed_at }: { printed_at: string | null }): boolean =>
	printed_at !== null || state === 'sent' || state === 'sending' || state === 'unsure'

/** Why an issued document cannot be made void, with what to do instead; null when it can. */
function whyNotVoid(books: Books, worked: Day, document: DocumentRow): string | null {
	if (document.number === null) return 'Only a numbered document can be made void; a draft is held back or given back.'
	if (document.void_at) return 'It is void already.'
	if (document.replaced_at) return 'A revision stands in for it; make that one void.'
	if (hasReached(messageOfDocument(books, document.id)?.state, document))
		return 'It has reached the customer, or may have. Credit it instead.'
	if (creditsOf(books, document.id).length > 0) return 'It has a credit note; that corrects it.'
	const order = acceptedOn(books, document.id)
	if (order !== null) return `Order ${order} came of it. Withdraw that first.`
	return whyClosed(books, worked, document) ?? whyNotLeft(books, document.id)
}

/** Why a document of closed books is not made void or revised; null when its books are open. @param worked the day that is worked on */
export function whyClosed(books: Books, worked: Day, { id, day, kind }: DocumentRow): string | null {
	const { closedTo } = readSettings(books)
	const entered = itemOfDocument(books, id) !== null
	// What entered nothing moves nothing of those days.
	if (closedTo === '' || isOwnKind(kind) || (!kindOf(kind).bills && !entered)) return null
	if (day > closedTo)
		return entered && worked <= closedTo
			? `It would leave the ledger on ${dayText(worked)}, and the books are closed to ${dayText(closedTo)}. Work as of a later day, or open them under Company.`
			: null
	const instead = kind === 'invoice' ? 'Credit it instead.' : 'Correct it with another document.'
	return `It is dated ${dayText(day)}, in books that are closed to ${dayText(closedTo)}. ${instead}`
}

/**
 * Makes an issued document void, which keeps its number: only while it has reached nobody. All that issuing it did is undone: its
 * orders wait again, what it entered in the ledger is taken off, and payments on it are unapplied again.
 */
export function voidDocument(books: Books, desk: Desk, documentId: number, reason: string): Outcome {
	const words = reason.trim()
	if (!words) return no('Say why it is void; the register shows the reason.')
	return inOneStep(books, (): Outcome => {
		const document = readAnyDocument(books, documentId)
		if (!document) return no('There is no such document.')
		const hindered = whyNotVoid(books, today(books, desk), document)
		if (hindered) return no(hindered)
		const bills = billsOrders(document.content) && document.credits_id === null
		const orders = bills ? ordersWait(books, desk, documentId, `${document.number} was made void`) : 0
		markVoid(books, desk, documentId, words)
		joinWaiting(books)
		const undone = leaveLedger(books, desk, documentId, `void: ${words}`, null)
		const detail = [
			`${document.number} ${document.customer_name}: ${words}`,
			...(bills ? [`${orders} orders wait again`] : []),
			...undone,
		].join('; ')
		record(books, desk, { subject: 'document', id: documentId, act: 'made void', detail })
		return undone.length > 0 ? { ok: true, words: undone.join('; ') } : { ok: true }
	})
}
