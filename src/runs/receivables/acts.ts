import type { Day } from '@/core/calendar'
import { namedAfter } from '@/core/entryNames'
import { no, type Outcome } from '@/core/outcome'
import { undoOnPromises } from '@/runs/customers/promises'
import { addAccountAct, applicationsOfAct, itemsOfAct, markUndone, readAccountAct } from '@/store/accountActs'
import { type Books, inOneStep } from '@/store/books'
import { type Desk, record } from '@/store/events'
import { addItem, type LedgerRow, readApplication, readItem, wasTakenBack } from '@/store/ledger'
import { applicationsInForce, applyAgain, applyOn, unapplyOn } from './apply'
import { later, today, whyNotOn } from './days'

// What a person does to an account beside payments: each act has its reason, is seen as a movement of its own day, and can be undone as a
// whole. Nothing of it is removed: undoing it is a movement of the day on which that is done.

/** What an act enters. */
type Entry = Pick<LedgerRow, 'kind' | 'side' | 'number' | 'currency' | 'amount'> &
	Partial<Pick<LedgerRow, 'called' | 'due_day' | 'note' | 'their_order'>>

/** An act under way: its id, its day, and how it enters an item. */
export type Acting = { id: number; day: Day; enter: (customerId: number, entry: Entry) => number }

/**
 * Does an act on an account in one step, as of a day: refused without a reason, in closed books, or where `work` refuses.
 * @param work enters what the act enters, and gives what it says in words, or refuses
 */
export function actOn(
	books: Books,
	desk: Desk,
	about: { customer: number; what: string; reason: string; day?: Day },
	work: (acting: Acting) => { ok: true; words: string } | { ok: false; message: string },
): Outcome {
	const reason = about.reason.trim()
	if (reason === '') return no('Say why; the account shows the reason.')
	const day = about.day ?? today(books, desk)
	const hindered = whyNotOn(books, desk, day)
	if (hindered) return no(hindered)
	if (day > today(books, desk)) return no('It is dated after the day that is worked on. Enter it once it has happened.')
	try {
		return inOneStep(books, (): Outcome => {
			const id = addAccountAct(books, desk, { customer_id: about.customer, what: about.what, reason, day })
			const enter = (customer_id: number, entry: Entry) =>
				addItem(books, desk, {
					...{ due_day: day, their_order: '', note: reason, called: '', ...entry },
					...{ customer_id, day, document_id: null, extract_id: null, act_id: id },
				})
			const done = work({ id, day, enter })
			// Thrown, so that nothing of it stays.
			if (!done.ok) throw new Refused(done.message)
			record(books, desk, {
				subject: 'customer',
				id: about.customer,
				act: `entered: ${about.what}`,
				detail: `${done.words}: ${reason}`,
			})
			return { ok: true, id, words: done.words }
		})
	} catch (error) {
		if (error instanceof Refused) return no(error.message)
		throw error
	}
}
class Refused extends Error {}

/** Takes what is open of an item off the account, by an entry of the other side that is applied to it. */
export function takeOff(
	books: Books,
	desk: Desk,
	item: LedgerRow,
	about: { day: Day; number: string; called: string; reason: string; act: number | null },
): void {
	const debit = item.side === 'debit'
	const day = later(about.day, item.day)
	const id = addItem(books, desk, {
		customer_id: item.customer_id,
		kind: 'adjustment',
		side: debit ? 'credit' : 'debit',
		number: about.number,
		...{ day, due_day: day, currency: item.currency, amount: item.open },
		...{ their_order: '', note: about.reason, document_id: null, extract_id: null },
		...{ called: about.called, act_id: about.act },
	})
	const [debit_id, credit_id] = debit ? [item.id, id] : [id, item.id]
	applyOn(books, desk, {
		...{ debit: debit_id, credit: credit_id, amount: item.open, from: day },
		...{ reason: about.reason, act: about.act },
	})
}

/** Why an act cannot be undone, with what to do first; null where it can. */
function whyNotUndone(books: Books, actId: number): string | null {
	const act = readAccountAct(books, actId)
	if (!act) return 'There is no such act.'
	if (act.undone_at) return `It was undone before, by ${act.undone_by}.`
	for (const id of itemsOfAct(books, actId)) {
		const item = readItem(books, id)
		const built = applicationsInForce(books, id).find((one) => one.act !== actId)
		const other = built?.otherId ? readItem(books, built.otherId) : null
		if (item && built)
			return built.extract
				? `An extract settled ${item.number} since.`
				: `${other?.number ?? 'Another entry'} is applied to ${item.number}. Take that back first.`
	}
	return null
}

/** Undoes an act as a whole, as of the day worked on: what it applied is taken back, what it took back is applied again, what it entered leaves. */
export function undoAct(books: Books, desk: Desk, actId: number): Outcome {
	return inOneStep(books, (): Outcome => {
		const hindered = whyNotUndone(books, actId)
		const act = readAccountAct(books, actId)
		if (hindered || !act) return no(hindered ?? 'There is no such act.')
		const day = today(books, desk)
		const closed = whyNotOn(books, desk, later(day, act.day))
		if (closed) return no(closed)
		const reason = `${act.what} undone`
		const own = applicationsOfAct(books, actId)
		for (const { id, takes_back } of own)
			if (takes_back === null && !wasTakenBack(books, id)) unapplyOn(books, desk, id, day, reason)
		for (const id of itemsOfAct(books, actId)) {
			const item = readItem(books, id)
			if (item && item.open > 0)
				takeOff(books, desk, item, {
					day,
					number: namedAfter(item.number, 'undone'),
					called: 'undone',
					reason,
					act: null,
				})
		}
		for (const { takes_back } of own) {
			const before = takes_back === null ? null : readApplication(books, takes_back)
			if (before?.debit_id && before.credit_id)
				applyAgain(books, desk, {
					...{ debit: before.debit_id, credit: before.credit_id, amount: before.amount, from: day, reason },
				})
		}
		undoOnPromises(books, desk, actId, `${act.what} was undone`)
		markUndone(books, desk, actId)
		// Every customer of whom it had entered something is told of.
		const customers = new Set([
			act.customer_id,
			...itemsOfAct(books, actId).flatMap((id) => readItem(books, id)?.customer_id ?? []),
		])
		for (const id of customers)
			record(books, desk, { subject: 'customer', id, act: `undid: ${act.what}`, detail: act.reason })
		return { ok: true }
	})
}
