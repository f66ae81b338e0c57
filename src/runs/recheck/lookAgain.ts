import type { BillContent, Unpriced } from '@/core/document'
import { followRules } from '@/runs/drafts/brings'
import { customerWords, difference, touched } from '@/runs/drafts/difference'
import { dueBy, recipientOf as partiesOf } from '@/runs/drafts/draft'
import { type Looking, layoutWords, lookingAt, recompute, sameFindings } from '@/runs/drafts/redraft'
import { recipientOfRecord } from '@/runs/records/sheetRecords'
import { lookAtStatements } from '@/runs/statements/compare'
import { type Books, inOneStep } from '@/store/books'
import { addChange, changesOf } from '@/store/changes'
import { type Company, issuerOf, readCompany } from '@/store/company'
import { type Customer, everyCustomer, oneCustomer } from '@/store/customers'
import { addFindings, findingsOf, readBill } from '@/store/documents'
import { draftsOf, replaceDraft } from '@/store/drafts'
import { anythingSince, type Desk, latestEventId, record } from '@/store/events'
import { readPaperKind } from '@/store/paperKinds'
import { readRecord, recordOfPaper } from '@/store/paperRecords'
import { noteChecked, readRun, runsOpen, statementChoice } from '@/store/runs'

/**
 * Looks at the drafts of a run again where anything was recorded since they were checked: figures, rates, address, holds, limits, closed
 * books, the same order elsewhere. A draft that comes out otherwise is put right, with a trace in its history.
 * @param only the customer whose drafts are concerned; null for all
 * @returns what changed, a draft each, in words
 */
export function lookAgain(books: Books, desk: Desk, runId: number, only: number | null = null): string[] {
	return inOneStep(books, () => {
		const run = readRun(books, runId)
		if (run?.state !== 'open') return []
		if (statementChoice(books, runId) !== null)
			return lookAtStatements(books, desk, runId, only === null ? everyCustomer : oneCustomer(only))
		if (only === null && !anythingSince(books, run.checked_to, runId)) return []
		// What bills are checked by takes the orders of the whole run: read once, where there is a bill at all.
		let bills: { looking: Looking; company: Company | null } | null = null
		const changed: string[] = []
		for (const id of draftsOf(books, runId, { customer: only })) {
			bills ??= { looking: lookingAt(books, desk, runId), company: readCompany(books) }
			const words = lookAtOne(books, desk, id, bills.looking, bills.company)
			if (words) changed.push(words)
		}
		if (only === null) noteChecked(books, runId, latestEventId(books))
		return changed
	})
}

/** Looks at one draft again; says what came out otherwise that a person must know of, empty for nothing. */
function lookAtOne(books: Books, desk: Desk, id: number, looking: Looking, company: Company | null): string {
	const draft = readBill(books, id)
	const customer = draft && recipientOf(books, draft)
	if (!draft || !customer || !company) return ''
	const { content: before, email: emailBefore } = draft
	const { content: fresh, told } = followed(withNames(books, freshened(before, customer, company)), looking, customer)
	const email = hasOwnEmail(books, id) ? emailBefore : customer.email
	const { draft: now, findings } = recompute(books, looking, draft, fresh, email)
	const known = findingsOf(books, id)
	const figures = [now.net, now.tax, now.total].join() !== [draft.net, draft.tax, draft.total].join()
	const same =
		!figures &&
		email === emailBefore &&
		JSON.stringify(now.content) === JSON.stringify(before) &&
		sameFindings(findings, known)
	if (same) return ''
	replaceDraft(books, id, {
		...{ content: now.content, email, net: now.net, tax: now.tax, total: now.total },
		level: findings[0]?.level ?? 'clear',
	})
	addFindings(books, id, findings)
	// Also where nothing moved but between its orders: each was gathered at its own net.
	const parts = touched(before, now.content, emailBefore, email)
	if (now.net !== BigInt(draft.net) || parts.includes('terms'))
		addChange(books, desk, id, {
			...{ kind: 'content', followed: true, reason: 'the firm’s rules changed', content: before, email: emailBefore },
			words: difference(before, now.content, emailBefore, email).join('; ') || 'what it comes to',
			touches: parts,
			effect: now.net - BigInt(draft.net),
		})
	const gone = known.filter(({ text }) => !findings.some((finding) => finding.text === text))
	const come = findings.filter(({ text }) => !known.some((finding) => finding.text === text))
	const words = [
		...difference(before, now.content, emailBefore, email),
		...(figures ? [`total ${before.priced.total} → ${now.content.priced.total}`] : []),
		...otherWords(before, now.content),
		...told,
		...gone.map(({ brief }) => `no longer: ${brief}`),
		...come.map(({ brief }) => `now: ${brief}`),
	].join('; ')
	record(books, desk, {
		subject: 'document',
		id,
		act: 'looked at again',
		detail: `${draft.customer_name}: ${words || 'details that are printed on it'}`,
	})
	const sameContent = email === emailBefore && JSON.stringify(now.content) === JSON.stringify(before)
	if (!figures && sameContent && come.every(({ code }) => comparisons.has(code))) return ''
	return `${draft.customer_name}, ${draft.order_numbers}: ${words || 'details that are printed on it'}`
}

/** Looks that compare with what was issued before: they come and go with every numbering, and ask for nobody's decision anew. */
const comparisons = new Set(['first-invoice', 'far-from-usual'])

/** What of a draft follows the customer's account and the firm's particulars by itself. */
function freshened({ priced: _, ...content }: BillContent, customer: Customer, company: Company): Unpriced {
	const terms = customer.terms
	const dueDay =
		content.paper === undefined && terms !== content.terms && content.dueDay === dueBy(content.terms, content.day)
			? dueBy(terms, content.day)
			: content.dueDay
	return {
		...content,
		terms,
		dueDay,
		locale: customer.locale || 'en-GB',
		issuer: issuerOf(company),
		customer: content.refersTo
			? { ...partiesOf(customer, company), tax: content.customer.tax }
			: partiesOf(customer, company),
	}
}

/** A draft of orders with the discounts and freight of its orders as the rules are now, and what is told of those that stay otherwise. */
function followed(
	content: Unpriced,
	{ rates, orders }: Looking,
	customer: Customer,
): { content: Unpriced; told: string[] } {
	if (content.refersTo !== null || content.paper !== undefined) return { content, told: [] }
	const own = content.orders.flatMap(({ id }) => orders.get(id) ?? [])
	return followRules(content, own, { day: content.day, currency: content.currency, customer, rates })
}

/** Whom a draft goes to: its customer as they are now, or as the sheet that it was made from has them. */
function recipientOf(books: Books, { id, customer_id }: { id: number; customer_id: number }): Customer | null {
	const record = readRecord(books, recordOfPaper(books, id)?.record_id ?? 0)
	return recipientOfRecord(books, customer_id, record?.body ?? null)
}

/** A paper of a kind that the firm made is called as its kind is now. */
function withNames(books: Books, content: Unpriced): Unpriced {
	const kind = content.paper && readPaperKind(books, content.paper.id)
	return content.paper && kind
		? { ...content, paper: { ...content.paper, name: kind.name, names: kind.names, numbered: kind.numbered } }
		: content
}

/** Whether a person gave this draft an address of its own. */
const hasOwnEmail = (books: Books, id: number): boolean =>
	changesOf(books, id).some(
		({ undone_at, touches, followed }) => undone_at === null && followed === 0 && touches.includes('email'),
	)

function otherWords(before: BillContent, after: BillContent): string[] {
	const rates = (content: BillContent) => content.taxCodes.map(({ code, rate }) => `${code} ${rate}%`).join(', ')
	return [
		...layoutWords(before, after),
		...(before.paper?.name === after.paper?.name ? [] : [`called ${before.paper?.name} → ${after.paper?.name}`]),
		...customerWords(before.customer, after.customer),
		...(rates(before) === rates(after) ? [] : [`rates ${rates(before)} → ${rates(after)}`]),
	]
}

/** Looks at the drafts of every open run again, of one customer or of all. @returns how many came out otherwise */
export const lookAgainEverywhere = (books: Books, desk: Desk, only: number | null): number =>
	runsOpen(books).reduce((sum, runId) => sum + lookAgain(books, desk, runId, only).length, 0)
