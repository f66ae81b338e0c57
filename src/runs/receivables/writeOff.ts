import { namedAfter } from '@/core/entryNames'
import { no, type Outcome } from '@/core/outcome'
import type { Books } from '@/store/books'
import type { Desk } from '@/store/events'
import { readItem } from '@/store/ledger'
import { actOn, takeOff } from './acts'
import { money } from './apply'

/** Writes off what is open of an item, with the reason, as of the day worked on; undone, it is owed again. */
export function writeOff(books: Books, desk: Desk, itemId: number, reason: string): Outcome {
	const item = readItem(books, itemId)
	if (!item || item.open === 0) return no('Nothing of it is open.')
	return actOn(books, desk, { customer: item.customer_id, what: 'write-off', reason }, ({ id, day }) => {
		const now = readItem(books, itemId)
		if (!now || now.open === 0) return no('Nothing of it is open.')
		takeOff(books, desk, now, {
			...{ day, number: namedAfter(now.number, 'written off'), called: 'write-off' },
			...{ reason: reason.trim(), act: id },
		})
		return { ok: true, words: `${money(now.open, now.currency)} of ${now.number}` }
	})
}
