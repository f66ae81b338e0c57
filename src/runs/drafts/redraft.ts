import type { BillContent, Unpriced } from '@/core/document'
import { no } from '@/core/outcome'
import { priceBill } from '@/core/priceBill'
import { type AnyContent, billsOrders } from '@/kinds'
import type { Books } from '@/store/books'
import { type Customer, readCustomer, regroupedSince } from '@/store/customers'
import { addFindings, type DocumentRow, findingsOf, readBill, replaceFindings } from '@/store/documents'
import { billedInOthers, draftsOfTwins, otherDrafts, replaceDraft } from '@/store/drafts'
import type { Desk } from '@/store/events'
import { moveLine, type OrderRow, ordersOfRun, putOnDocument, recount, standOn } from '@/store/orders'
import { readRun } from '@/store/runs'
import { workDate } from '@/store/settings'
import { type CheckInputsOf, readCheckInputs } from './checkInputs'
import { checkDraft, type Draft, priceDraft } from './draft'
import { type Rates, readRates } from './rates'

export type BillRow = DocumentRow & { content: BillContent }

/** A draft that may be changed: of an open run, with no number, not put away; else why not. */
export function openDraft(books: Books, id: number): { ok: true; draft: BillRow } | { ok: false; message: string } {
	const draft = readBill(books, id)
	if (!draft) return no('There is no such draft.')
	if (draft.number !== null) return no('Only a draft can be changed; this one is numbered.')
	if (draft.dropped_at !== null) return no(`This draft was put away: ${draft.dropped_reason}.`)
	if (readRun(books, draft.run_id)?.state !== 'open') return no('This run is not open.')
	return { ok: true, draft }
}

/** Why a draft's figures cannot be shared with another; null when they can. */
export const whyNotShared = ({ content, order_numbers }: BillRow): string | null =>
	priceBill(content).ok
		? null
		: `The draft of ${order_numbers} cannot be priced as it is. Make it right with Change first.`

/** What every check of a run's drafts looks at, read once. */
export type Looking = { rates: Rates; factsOf: CheckInputsOf; orders: ReadonlyMap<number, OrderRow> }

/** What drafts of a run are computed and checked with, read once for many. */
export function lookingAt(books: Books, desk: Desk, runId: number): Looking {
	const orders = ordersOfRun(books, runId)
	return {
		rates: readRates(books),
		factsOf: readCheckInputs(books, orders, workDate(books, desk.now().slice(0, 10)), runId),
		orders: new Map(orders.map((order) => [order.id, order])),
	}
}

type DraftOf = Pick<DocumentRow, 'id' | 'run_id' | 'customer_id' | 'credits_id'>

/**
 * A content with every figure computed by the rates of its day, and what its checks find. `butFor` are drafts that it stands for too.
 * @throws Error where the document has no customer
 */
export function recompute(
	books: Books,
	{ rates, factsOf }: Looking,
	document: DraftOf,
	content: Unpriced,
	email: string,
	butFor: number[] = [],
): { draft: Draft; findings: ReturnType<typeof checkDraft>; customer: Customer } {
	const customer = readCustomer(books, document.customer_id)
	if (!customer) throw new Error(`Document ${document.id} has no customer.`)
	const draft = priceDraft(content, rates)
	const but = [document.id, ...butFor]
	const also = billedInOthers(books, document.run_id, but, customer.id, content.currency)
	const facts = factsOf(customer, draft.content, also, email, document)
	return { draft, findings: checkDraft(draft, facts), customer }
}

/**
 * Puts another content in a draft's place: computed and checked anew, its orders and their lines standing on it.
 * @returns by how much its net moved, minor units
 */
export function redraft(
	books: Books,
	looking: Looking,
	document: DraftOf & { net: number },
	content: Unpriced,
	email: string,
	butFor: number[] = [],
): bigint {
	const { draft, findings } = recompute(books, looking, document, content, email, butFor)
	replaceDraft(books, document.id, {
		content: draft.content,
		email,
		net: draft.net,
		tax: draft.tax,
		total: draft.total,
		level: findings[0]?.level ?? 'clear',
	})
	addFindings(books, document.id, findings)
	if (document.credits_id === null && billsOrders(draft.content)) placeOrders(books, document.id, draft.content)
	return draft.net - BigInt(document.net)
}

/**
 * Checks other drafts of a customer anew where this one counts for them: all of them towards a credit limit or where orders are to be grouped
 * otherwise, those of the same order as one that may have been entered twice.
 */
export function recheckOtherDrafts(books: Books, looking: Looking, document: DraftOf): void {
	const limited = readCustomer(books, document.customer_id)?.credit_limit != null
	const others =
		limited || regroupedSince(books, document.run_id).has(document.customer_id)
			? otherDrafts(books, document.id).map(({ id }) => id)
			: draftsOfTwins(books, document.id)
	for (const beside of others) {
		const other = readBill(books, beside)
		if (!other || other.number !== null) continue
		const { priced: _, ...content } = other.content
		const { findings } = recompute(books, looking, other, content, other.email)
		if (!sameFindings(findings, findingsOf(books, beside))) replaceFindings(books, beside, findings)
	}
}

/** What of the layout that a draft is made with is another, in words. */
export const layoutWords = ({ layout: before }: AnyContent, { layout: after }: AnyContent): string[] =>
	before.id === after.id && before.version === after.version
		? []
		: [`layout ${before.name} ${before.version} → ${after.name} ${after.version}`]

/** Whether two lists of findings say the same in the same order. */
export const sameFindings = (a: { text: string }[], b: { text: string }[]): boolean =>
	a.map(({ text }) => text).join('\n') === b.map(({ text }) => text).join('\n')

/**
 * Lets the orders of a content, and each of their lines, stand on a document; a line is on its order as the content has it. A line stands
 * on one document at the most, since its place is one column.
 */
export function placeOrders(books: Books, documentId: number, content: BillContent): void {
	const moved = new Set<number>()
	for (const { line, order } of content.lines) {
		const orderId = content.orders[order]?.id
		if (line === 0 || orderId === undefined) continue
		const from = moveLine(books, line, orderId, documentId)
		if (from !== orderId) moved.add(from).add(orderId)
	}
	for (const { id } of content.orders) {
		putOnDocument(books, id, documentId)
	}
	for (const id of moved) recount(books, id)
	standOn(books, documentId, content.lines.filter(({ line }) => line !== 0).length)
}
