import { namedAfter } from '@/core/entryNames'
import { no, type Outcome } from '@/core/outcome'
import { type Books, inOneStep } from '@/store/books'
import { readAnyDocument } from '@/store/documents'
import { type Desk, record } from '@/store/events'
import { type LedgerRow, readApplication, readItem, wasTakenBack } from '@/store/ledger'
import { takeOff, undoAct } from './acts'
import { money, unapplyOn } from './apply'
import { later, today, whyNotOn } from './days'

/** Why an item is owed no more for good, since its document is void or revised; null when it stands. */
function notStanding(books: Books, itemId: number): string | null {
	const item = readItem(books, itemId)
	const document = item?.document_id == null ? null : readAnyDocument(books, item.document_id)
	if (!item || !document) return null
	if (document.void_at) return `${item.number} is void`
	return document.replaced_at ? `A revision stands in for ${item.number}` : null
}

/** An adjustment by which something was written off before write-offs were acts. */
const isWriteOff = ({ kind, extract_id, act_id, document_id, called }: LedgerRow): boolean =>
	kind === 'adjustment' && extract_id === null && act_id === null && document_id === null && called === ''

/**
 * Takes an application back as of the day worked on; the balances of days before stay as they were. What it was written off by, or is part of
 * an act, is undone with it.
 */
export function takeBack(books: Books, desk: Desk, applicationId: number): Outcome {
	return inOneStep(books, (): Outcome => {
		const application = readApplication(books, applicationId)
		const item = readItem(books, application?.debit_id ?? application?.credit_id ?? 0)
		if (!application || !item || application.takes_back !== null) return no('There is no such application.')
		if (application.extract_id !== null) return no('It comes from the extract; the next extract says otherwise.')
		if (application.act_id !== null) return undoAct(books, desk, application.act_id)
		if (wasTakenBack(books, applicationId)) return no('It was taken back before.')
		const gone = [application.debit_id, application.credit_id].flatMap((id) =>
			id === null ? [] : (notStanding(books, id) ?? []),
		)
		if (gone[0]) return no(`${gone[0]}; what settled it stays.`)
		const day = later(today(books, desk), application.day)
		const hindered = whyNotOn(books, desk, day)
		if (hindered) return no(hindered)
		const both = [application.debit_id, application.credit_id].flatMap((id) => readItem(books, id ?? 0) ?? [])
		if (both.some(({ called }) => called === 'undone')) return no('It undid an act. Do that act again instead.')
		unapplyOn(books, desk, applicationId, day, 'taken back')
		for (const { id } of both.filter(isWriteOff)) {
			const left = readItem(books, id)
			if (left && left.open > 0)
				takeOff(books, desk, left, {
					...{ day, number: namedAfter(left.number, 'undone'), called: 'undone', reason: 'taken back', act: null },
				})
		}
		const detail = `${money(application.amount, item.currency)} of ${item.number}`
		record(books, desk, { subject: 'customer', id: item.customer_id, act: 'took an application back', detail })
		return { ok: true }
	})
}
