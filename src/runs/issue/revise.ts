import type { Day } from '@/core/calendar'
import { type BillContent, shownNumber } from '@/core/document'
import { no, type Outcome } from '@/core/outcome'
import { type Change, changedBill } from '@/runs/drafts/change'
import { customerWords, difference, touched } from '@/runs/drafts/difference'
import { recipientOf } from '@/runs/drafts/draft'
import { lookingAt, placeOrders, recompute } from '@/runs/drafts/redraft'
import { type Books, inOneStep } from '@/store/books'
import { addChange } from '@/store/changes'
import { readCompany } from '@/store/company'
import { readCustomer } from '@/store/customers'
import { addDocument, type DocumentRow, readBill } from '@/store/documents'
import { type Desk, record } from '@/store/events'
import { creditsOf, freezeRevision, markReplaced } from '@/store/issued'
import { messageOfDocument } from '@/store/messages'
import { linesOut, markBilled } from '@/store/orders'
import { readRun } from '@/store/runs'
import { readSettings, workDate } from '@/store/settings'
import { contentHash } from './contentHash'
import { enterDocument, leaveLedger, whyNotLeft } from './ledger'
import { fileUnder, withFiled } from './number'
import { knownBy, verifyNumbered } from './verify'
import { hasReached, whyClosed } from './void'

/** Why an issued document cannot be revised; null when it can. @param worked the day that is worked on */
export function whyNotRevised(books: Books, worked: Day, document: DocumentRow): string | null {
	if (document.number === null) return 'A draft is changed, not revised.'
	if (document.kind !== 'invoice' || document.credits_id !== null)
		return 'Only an invoice is revised; make another credit note instead.'
	if (document.void_at) return 'This invoice is void.'
	if (document.replaced_at) return 'A revision stands in for this invoice already; revise that one.'
	if (hasReached(messageOfDocument(books, document.id)?.state, document))
		return 'It has reached the customer, or may have. Credit it instead.'
	if (creditsOf(books, document.id).length > 0) return 'It has a credit note; that corrects it.'
	if (readRun(books, document.run_id)?.state !== 'open') return 'Its run is closed.'
	return whyClosed(books, worked, document) ?? whyNotLeft(books, document.id)
}

/** A customer as an invoice would name them now, and what of name, address and tax is different from what was issued, in words. */
export function particularsNow(
	books: Books,
	{ customer_id, content }: { customer_id: number; content: BillContent },
): { customer: BillContent['customer']; words: string } {
	const [customer, company] = [readCustomer(books, customer_id), readCompany(books)]
	if (!customer || !company) return { customer: content.customer, words: '' }
	const now = recipientOf(customer, company)
	return { customer: now, words: customerWords(content.customer, now).join('; ') }
}

/**
 * Issues a revision of an invoice that has reached nobody: the same number, marked revision 2, with its orders, in the same run and
 * in one step. The first is kept as it was and is sent no more; what was paid on it stays on the revision. What a check would stop
 * is refused; where their name, address or tax changed since, the revision says which it is to have.
 */
export function reviseDocument(books: Books, desk: Desk, documentId: number, change: Change): Outcome {
	return inOneStep(books, (): Outcome => {
		const first = readBill(books, documentId)
		if (!first) return no('There is no such invoice.')
		const hindered = whyNotRevised(books, workDate(books, desk.now().slice(0, 10)), first)
		if (hindered) return no(hindered)
		const now = particularsNow(books, first)
		if (now.words !== '' && change.particulars === undefined)
			return no(
				`Their name, address or tax changed since it was issued: ${now.words}. Say which the revision is to have.`,
			)
		const renewed = change.particulars === 'as now' ? now : null
		const as = renewed ? { ...first.content, customer: renewed.customer } : first.content
		const changed = changedBill(books, as, change)
		if (!changed.ok) return changed
		const words = [
			...difference(first.content, changed.content, first.email, change.email),
			...(renewed?.words ? [renewed.words] : []),
		].join('; ')
		if (words === '') return no('Nothing is different from before.')
		const looking = lookingAt(books, desk, first.run_id)
		const { draft, findings } = recompute(books, looking, first, changed.content, change.email)
		const stop = findings.find(({ level }) => level === 'stop')
		if (stop) return no(stop.text)
		if (draft.total < 0n) return no('A revision stays an invoice; what comes below zero is credited.')
		const revised = { ...draft.content, revision: first.content.revision + 1 }
		const content = withFiled(revised, readSettings(books).leaving, first.run_id) as typeof revised
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
		const text = JSON.stringify(content)
		const { revision } = content
		const { filedAs, faults } = fileUnder(books, id, first.run_id, content)
		freezeRevision(books, { id, number, revision, revisesId: documentId, content: text, filedAs }, desk.now())
		placeOrders(books, id, content)
		markBilled(books, id)
		addChange(books, desk, documentId, {
			...{ kind: 'content', reason: change.reason, words: `revised: ${words}` },
			touches: touched(first.content, changed.content, first.email, change.email),
			...{ content: first.content, email: first.email, effect: draft.net - BigInt(first.net) },
		})
		const from = workDate(books, desk.now().slice(0, 10))
		const item = enterDocument(books, desk, { id, customer_id: first.customer_id, content, credits_id: null, from })
		const moved = leaveLedger(books, desk, documentId, `revised: ${change.reason}`, item)
		const wrong = [
			...faults,
			...verifyNumbered(books, id, { content, text }, knownBy(books)),
			...linesOut(books, first.run_id).map((out) => out.words),
		]
		if (wrong.length > 0) throw new Error(`The revision does not hold: ${wrong.join('; ')}`)
		const detail = [`${number} ${first.customer_name}: ${words}: ${change.reason}`, ...moved].join('; ')
		const after = { frozen: { [id]: contentHash(text) } }
		record(books, desk, { subject: 'document', id: documentId, act: 'revised', detail })
		record(books, desk, { subject: 'document', id, act: 'revised', detail, after })
		return { ok: true, id, ...(moved.length > 0 ? { words: moved.join('; ') } : {}) }
	})
}
