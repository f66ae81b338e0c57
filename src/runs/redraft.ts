import { type DocumentContent, orderNets } from '@/core/document'
import type { Books } from '@/store/books'
import { taxCodesOn } from '@/store/catalogue'
import { replaceDraft } from '@/store/changes'
import { readCustomer } from '@/store/customers'
import {
	addFindings,
	billedBeside,
	draftsBeside,
	dropDraft,
	findingsOf,
	readDocument,
	replaceFindings,
} from '@/store/documents'
import type { Desk } from '@/store/events'
import { ordersOfRun, putOnDocument } from '@/store/orders'
import { workDate } from '@/store/settings'
import { checkDraft, priceDraft, usedTaxCodes } from './draft'
import { readFacts } from './facts'

export type Unpriced = Omit<DocumentContent, 'priced'>
/** The draft that a content belongs to; `takesIn` is another one that it stands for from now on. */
export type DraftOf = { id: number; run_id: number; customer_id: number; takesIn?: number }

/** A content with every figure computed by the rates of its day, and what its checks find. */
export function recompute(
	books: Books,
	desk: Desk,
	{ id, run_id, customer_id, takesIn = id }: DraftOf,
	content: Unpriced,
	email: string,
) {
	const customer = readCustomer(books, customer_id)
	if (!customer) throw new Error(`Document ${id} has no customer.`)
	const taxCodes = usedTaxCodes([...content.lines, ...content.charges], taxCodesOn(books, content.day))
	const draft = priceDraft({ ...content, taxCodes })
	const orders = ordersOfRun(books, run_id)
	const own = orders.filter((order) => content.orders.some((placed) => placed.id === order.id))
	const factsOf = readFacts(books, orders, workDate(books, desk.now().slice(0, 10)))
	const also = billedBeside(books, run_id, [id, takesIn], customer_id, content.currency)
	return { draft, findings: checkDraft(draft, factsOf(customer, draft.content, own, also, email)) }
}

/** Puts another content in a draft's place: computed and checked anew, its orders standing on it with their nets. */
export function redraft(books: Books, desk: Desk, document: DraftOf, content: Unpriced, email: string): void {
	const { draft, findings } = recompute(books, desk, document, content, email)
	replaceDraft(books, document.id, {
		content: draft.content,
		email,
		net: draft.net,
		tax: draft.tax,
		total: draft.total,
		level: findings[0]?.level ?? 'clear',
	})
	addFindings(books, document.id, findings)
	placeOrders(books, document.id, draft.content)
	if (document.takesIn) dropDraft(books, document.takesIn)
	recheckBeside(books, desk, document)
}

/** Checks the other drafts of a customer anew when what is billed beside them changed, since all count towards a credit limit. */
export function recheckBeside(
	books: Books,
	desk: Desk,
	{ id, customer_id }: Pick<DraftOf, 'id' | 'customer_id'>,
): void {
	if (readCustomer(books, customer_id)?.credit_limit == null) return
	for (const { id: beside } of draftsBeside(books, id)) {
		const other = readDocument(books, beside)
		if (other?.kind !== 'invoice') continue
		const { priced: _, ...content } = other.content
		const { findings } = recompute(books, desk, other, content, other.email)
		if (
			JSON.stringify(findings.map(({ text }) => text)) !==
			JSON.stringify(findingsOf(books, beside).map(({ text }) => text))
		)
			replaceFindings(books, beside, findings)
	}
}

/** Notes on each order which document it stands on, and with what net. */
export function placeOrders(books: Books, documentId: number, content: DocumentContent): void {
	const nets = orderNets(content)
	content.orders.forEach(({ id }, place) => {
		putOnDocument(books, id, documentId, nets[place] ?? 0n)
	})
}
