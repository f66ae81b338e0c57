import type { Finding } from '@/core/checks'
import { no, type Outcome } from '@/core/outcome'
import type { StatementContent } from '@/core/statement'
import { customerWords } from '@/runs/drafts/difference'
import { askToRead } from '@/runs/drafts/handMessage'
import { layoutWords, sameFindings } from '@/runs/drafts/redraft'
import { today } from '@/runs/receivables/days'
import { draftsMoved, noteLooked } from '@/store/accountMoves'
import { type Books, inOneStep } from '@/store/books'
import { oneCustomer, type Span, spanOf } from '@/store/customers'
import { findingsOf, replaceFindings } from '@/store/documents'
import {
	draftsOf,
	hold,
	noteChanged,
	noteLetStand,
	replaceContent,
	replaceStatement,
	setDraftEmail,
} from '@/store/drafts'
import { type Desk, record } from '@/store/events'
import { holdMessage } from '@/store/issued'
import { type LayoutFor, layoutsInForce } from '@/store/layouts'
import { checkStatement, minorOf } from './check'
import { type Drafted, emailOf } from './draft'
import { draftingNow, type Looked, particulars, type Statement, statementOf, truthOf } from './truth'

// A statement says what was so when it was gathered. Before it is numbered it is compared with the ledger as it is (`truth`): one that is no longer
// true is named, and a person has it made anew, or lets it stand.

const code = 'changed-since'
const findingOf = (row: Statement, words: string): Finding => ({
	code,
	level: 'stop',
	brief: 'no longer true',
	text: `The account of ${row.customer_name} changed since this was gathered: ${words}. Make the statement anew, hold it back, or let it stand as it is.`,
})

/**
 * Looks again at the drafts of a run of statements of whose accounts anything was written since each was looked at. Who writes to whom, and the
 * layout, follow by themselves; one that is no longer true is stopped until a person decides. What was decided counts for just that.
 * @param span the customers whose drafts are concerned
 * @returns what is otherwise and was not known before, a draft each, in words
 */
export function lookAtStatements(books: Books, desk: Desk, runId: number, span: Span): string[] {
	return inOneStep(books, () => {
		const day = today(books, desk)
		const rows = draftsMoved(books, runId, day, span).flatMap((id) => statementOf(books, id) ?? [])
		if (rows.length === 0) return []
		const truth = truthOf(books, runId, day, spanOf(rows.map(({ customer_id }) => customer_id)))
		const inForce = layoutsInForce(books)
		const changed = rows.flatMap((row) => lookAt(books, desk, row, truth(row), inForce) || [])
		noteLooked(
			books,
			rows.map(({ id }) => id),
			day,
		)
		return changed
	})
}

/** Looks at one draft; says what is otherwise and was not known before, empty for nothing. */
function lookAt(books: Books, desk: Desk, row: Statement, { words, now }: Looked, inForce: LayoutFor): string {
	const { id, customer_name } = row
	const followed = follow(books, row, now, inForce)
	if (followed) {
		const detail = `${customer_name}: ${followed.join('; ') || 'details that are printed on it'}`
		record(books, desk, { subject: 'document', id, act: 'looked at again', detail })
	}
	const standing = words === row.let_stand ? '' : words
	const known = findingsOf(books, id)
	const content = statementOf(books, id)?.content ?? row.content
	const checked = now
		? checkStatement(books, content, now.customer, now.balance)
		: known.filter((finding) => finding.code !== code)
	const findings = standing === '' ? checked : [findingOf(row, standing), ...checked]
	if (!sameFindings(findings, known)) replaceFindings(books, id, findings)
	const news = [...(followed ?? [])]
	if (standing !== row.changed) {
		noteChanged(books, id, standing)
		const act = standing === '' ? 'is true again' : 'is no longer true'
		record(books, desk, { subject: 'document', id, act, detail: `${customer_name}: ${standing}` })
		if (standing !== '') news.unshift(standing)
	}
	return news.length === 0 ? '' : `${customer_name}: ${news.join('; ')}`
}

/** What of a draft follows the firm, the customer and the layout in force by itself; says what a person must know of it, null where nothing did. */
function follow(books: Books, row: Statement, now: Drafted | null, inForce: LayoutFor): string[] | null {
	const { id, content, customer_id, email } = row
	const who = now ? Object.fromEntries(particulars.map((key) => [key, now.content[key]])) : {}
	const after: StatementContent = { ...content, ...who }
	after.layout = inForce('statement', { id: customer_id, locale: after.locale }, content.layout)
	const to = now ? emailOf(now.customer) : email
	const same = JSON.stringify(after) === JSON.stringify(content)
	if (same && to === email) return null
	if (!same) replaceContent(books, id, after)
	if (to !== email) setDraftEmail(books, id, to)
	return [
		...layoutWords(content, after),
		...customerWords(content.customer, after.customer),
		...(to === email ? [] : [`email ${email || 'none'} → ${to || 'none'}`]),
	]
}

/** Puts a draft in the place of a statement's as it is drafted now; its message, where a person wrote one, is read again where it says otherwise. */
function putAnew(
	books: Books,
	desk: Desk,
	{ id, content: before }: Statement,
	now: Drafted,
	chargeDropped: boolean,
): void {
	const content = { ...now.content, layout: before.layout, chargeDropped }
	replaceStatement(books, id, content, minorOf(content), now, emailOf(now.customer))
	replaceFindings(books, id, checkStatement(books, content, now.customer, now.balance))
	askToRead(books, desk, id)
}

/** Drafts a statement anew from the ledger as it is, as of its own day. */
export function makeAnew(books: Books, desk: Desk, documentId: number): Outcome {
	return inOneStep(books, (): Outcome => {
		const row = statementOf(books, documentId)
		if (!row || row.number !== null) return no('It is numbered, and stays as it is. Make it void, and gather another.')
		const now = draftingNow(books, row.run_id, oneCustomer(row.customer_id))(row)
		noteChanged(books, documentId, '')
		if (!now) {
			replaceFindings(books, documentId, [])
			hold(books, desk, documentId, 'nothing is open on this account any more')
		} else {
			putAnew(books, desk, row, now, row.content.chargeDropped)
			if (now.reason !== '') hold(books, desk, documentId, now.reason)
			if (now.read) holdMessage(books, documentId, true)
		}
		noteLetStand(books, documentId, '')
		record(books, desk, {
			subject: 'document',
			id: documentId,
			act: 'made anew from the ledger',
			detail: `${row.customer_name}: ${row.changed}`,
		})
		lookAtStatements(books, desk, row.run_id, oneCustomer(row.customer_id))
		return { ok: true }
	})
}

/** Drafts all statements of a run anew that are no longer true. @returns how many */
export function makeAllAnew(books: Books, desk: Desk, runId: number): Outcome {
	return inOneStep(books, (): Outcome => {
		const stale = draftsOf(books, runId).filter((id) => statementOf(books, id)?.changed)
		if (stale.length === 0) return no('None of the drafts is out of date.')
		for (const id of stale) makeAnew(books, desk, id)
		return { ok: true, words: `${stale.length} made anew` }
	})
}

/** Lets a draft statement stand as it was gathered, with the reason; what changes further is found again. */
export function letStand(books: Books, desk: Desk, documentId: number, reason: string): Outcome {
	const words = reason.trim()
	if (!words) return no('Say why it stands; the record shows the reason.')
	return inOneStep(books, (): Outcome => {
		const row = statementOf(books, documentId)
		if (!row?.changed) return no('Nothing of it is otherwise.')
		noteLetStand(books, documentId, row.changed)
		noteChanged(books, documentId, '')
		replaceFindings(
			books,
			documentId,
			findingsOf(books, documentId).filter((finding) => finding.code !== code),
		)
		record(books, desk, {
			subject: 'document',
			id: documentId,
			act: 'let it stand',
			detail: `${row.customer_name}, though ${row.changed}: ${words}`,
		})
		return { ok: true }
	})
}

/** Takes the proposed late charge off a draft statement, which is drafted anew without it. */
export function dropCharge(books: Books, desk: Desk, documentId: number): Outcome {
	return inOneStep(books, (): Outcome => {
		const row = statementOf(books, documentId)
		if (!row || row.number !== null || !row.content.charge) return no('There is no proposed charge to drop.')
		const dropped = { ...row, content: { ...row.content, chargeDropped: true } }
		const now = draftingNow(books, row.run_id, oneCustomer(row.customer_id))(dropped)
		if (!now) return no('Nothing is open on this account any more.')
		putAnew(books, desk, row, now, true)
		const detail = `${row.customer_name}: ${row.content.charge.amount} ${row.currency}`
		record(books, desk, { subject: 'document', id: documentId, act: 'dropped the late charge', detail })
		return { ok: true }
	})
}
