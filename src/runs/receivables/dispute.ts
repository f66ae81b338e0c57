import { no, type Outcome } from '@/core/outcome'
import { type Books, inOneStep } from '@/store/books'
import { type Desk, record } from '@/store/events'
import { addDispute, endDispute, readItem } from '@/store/ledger'
import { today, whyNotOn } from './days'

/** Notes that an item is in dispute, or (with an empty note) that it no longer is, as of the day worked on. */
export function setDispute(books: Books, desk: Desk, itemId: number, note: string): Outcome {
	return inOneStep(books, (): Outcome => {
		const item = readItem(books, itemId)
		if (!item) return no('There is no such item.')
		const day = today(books, desk)
		const hindered = whyNotOn(books, desk, day)
		if (hindered) return no(hindered)
		const words = note.trim()
		const ended = endDispute(books, itemId, day)
		if (words) addDispute(books, desk, itemId, day, words)
		else if (!ended) return no('It is not in dispute. Say what the dispute is about.')
		const act = words ? 'noted a dispute' : 'ended a dispute'
		record(books, desk, { subject: 'customer', id: item.customer_id, act, detail: `${item.number} ${words}`.trim() })
		return { ok: true }
	})
}
