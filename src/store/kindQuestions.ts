import type { Day } from '@/core/calendar'
import type { Books } from './books'

/** A charge that a file brought and that may be a debit note; amounts in minor units. */
export type KindQuestion = {
	id: number
	number: string
	day: Day
	currency: string
	open: number
	customer_id: number
	customer: string
}

/** Charges of which nobody said yet whether they are debit notes, by customer; what is paid by now, or gone, is none. */
export const kindQuestions = ({ sql }: Books): KindQuestion[] =>
	sql<[], KindQuestion>(
		`SELECT i.id, i.number, i.day, i.currency, i.open, i.customer_id, k.name AS customer FROM kind_question q
			JOIN ledger_item i ON i.id = q.item_id JOIN customer k ON k.id = i.customer_id
		 WHERE q.said = '' AND i.open > 0 AND i.away = 0 AND i.kind = 'charge' ORDER BY k.name, i.day, i.id`,
	).all()

/** Keeps what a person said of one. */
export const saidKind = ({ sql }: Books, itemId: number, kind: 'charge' | 'debit note'): void => {
	sql<[string, number]>('UPDATE kind_question SET said = ? WHERE item_id = ?').run(kind, itemId)
}
