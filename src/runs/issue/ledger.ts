import type { Day } from '@/core/calendar'
import { namedAfter } from '@/core/entryNames'
import { type AnyContent, entering } from '@/kinds'
import { takeOff } from '@/runs/receivables/acts'
import { applicationsInForce, applyOn, money, unapplyOn } from '@/runs/receivables/apply'
import { later, today } from '@/runs/receivables/days'
import type { Books } from '@/store/books'
import { forgetCharged, noteCharged } from '@/store/chases'
import { type Desk, record } from '@/store/events'
import { addItem, itemOfDocument, readApplication, readItem } from '@/store/ledger'

/** An issued document as it enters the ledger. */
type Issue = {
	id: number
	customer_id: number
	content: AnyContent
	/** The document that it credits. */
	credits_id: number | null
	/** From when on it counts, where that is after its own day: a revision, so that no day past owes both it and the first. */
	from?: Day
}

/**
 * Enters what issuing a document owes or is owed; within the transaction that issues it. What credits another document is applied to it.
 * @returns the ledger's item, or null when nothing is entered
 */
export function enterDocument(
	books: Books,
	desk: Desk,
	{ id, customer_id, content, credits_id, from }: Issue,
): number | null {
	const entry = entering(content)
	if (!entry) return null
	const itemId = addItem(books, desk, {
		customer_id,
		kind: entry.kind,
		side: entry.side,
		number: entry.number,
		day: from ? later(from, entry.day) : entry.day,
		due_day: entry.dueDay,
		currency: content.currency,
		amount: Number(entry.amount),
		their_order: entry.theirOrder,
		note: entry.note,
		document_id: id,
		extract_id: null,
	})
	if (entry.charged.length > 0) noteCharged(books, id, entry.charged, entry.day)
	const credited = credits_id === null ? null : itemOfDocument(books, credits_id)
	const share = credited ? Math.min(credited.open, Number(entry.amount)) : 0
	if (credited && share > 0 && credited.side !== entry.side) {
		const [debit_id, credit_id] = entry.side === 'credit' ? [credited.id, itemId] : [itemId, credited.id]
		applyOn(books, desk, {
			...{ debit: debit_id, credit: credit_id, amount: share },
			...{ from: later(entry.day, credited.day), reason: `credits ${credited.number}` },
		})
	}
	return itemId
}

/** Why what a document entered cannot be taken off the ledger, with what to do first; null when it can. */
export function whyNotLeft(books: Books, documentId: number): string | null {
	const item = itemOfDocument(books, documentId)
	if (!item) return null
	for (const { otherId, extract } of applicationsInForce(books, item.id)) {
		if (extract) return `An extract settled ${item.number}; only the next extract, or a credit note, can say otherwise.`
		const other = otherId === null ? null : readItem(books, otherId)
		if (other?.kind === 'adjustment')
			return `${item.number} was written off in part or whole (${other.note}). Take that back on the account first.`
		if (other?.kind === 'credit' && item.side === 'debit' && other.document_id !== null)
			return `The credit ${other.number} was applied to ${item.number}. Take that back on the account first.`
	}
	return null
}

/** What stands applied to or from what a document entered, in words; empty for nothing. */
export function settledWords(books: Books, documentId: number): string {
	const item = itemOfDocument(books, documentId)
	if (!item) return ''
	return applicationsInForce(books, item.id)
		.map(({ otherId, amount }) => {
			const other = otherId === null ? null : readItem(books, otherId)
			return `${money(amount, item.currency)} of ${other?.number ?? 'an extract'} is applied to it.`
		})
		.join(' ')
}

/**
 * Takes what a document entered off the ledger, since it is void or a revision stands in for it: what was applied to it is taken back,
 * and applied to the revision's item as far as that reaches; what is open of it then is adjusted away.
 * @param revised the ledger's item of the revision; null for none
 * @returns what became of payments and the like, in words
 */
export function leaveLedger(
	books: Books,
	desk: Desk,
	documentId: number,
	reason: string,
	revised: number | null,
): string[] {
	const item = itemOfDocument(books, documentId)
	const words: string[] = []
	if (!item) return words
	for (const { id, otherId, amount } of applicationsInForce(books, item.id)) {
		const application = readApplication(books, id)
		const other = otherId === null ? null : readItem(books, otherId)
		if (!application || !other) continue
		const day = later(today(books, desk), application.day)
		unapplyOn(books, desk, id, day, reason)
		const to = revised === null ? null : readItem(books, revised)
		const share = to && to.side === item.side ? Math.min(to.open, amount) : 0
		if (to && share > 0)
			applyOn(books, desk, {
				debit: item.side === 'debit' ? to.id : other.id,
				credit: item.side === 'debit' ? other.id : to.id,
				...{ amount: share, from: later(day, to.day), reason: `stays on the revision of ${item.number}` },
			})
		if (share > 0) words.push(`${money(share, item.currency)} of ${other.number} stays on it`)
		if (amount > share)
			words.push(
				other.side === 'credit'
					? `${money(amount - share, item.currency)} of ${other.number} is unapplied again`
					: `${money(amount - share, item.currency)} of ${other.number} is open again`,
			)
	}
	const left = readItem(books, item.id)
	if (left && left.open > 0)
		takeOff(books, desk, left, {
			...{ day: today(books, desk), number: namedAfter(left.number, 'adjusted'), called: '', reason, act: null },
		})
	forgetCharged(books, documentId)
	for (const detail of words)
		record(books, desk, { subject: 'customer', id: item.customer_id, act: `${item.number}: ${reason}`, detail })
	return words
}
