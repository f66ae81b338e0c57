import { z } from 'zod'
import { no, type Outcome } from '@/core/outcome'
import { type Books, inOneStep } from '@/store/books'
import { type Desk, record } from '@/store/events'
import { kindQuestions, saidKind } from '@/store/kindQuestions'
import { changeItem, readItem } from '@/store/ledger'
import { today, whyNotOn } from './days'

/** What a charge that a file brought may be: a charge, or a debit note, which bears late charges. */
export const chargeOrNote = z.enum(['charge', 'debit note'])
type ChargeOrNote = z.infer<typeof chargeOrNote>

/** Says of charges that files brought what they are; one of which it was said already, or that is no charge by now, is passed over. */
export function sayKinds(books: Books, desk: Desk, itemIds: number[], kind: ChargeOrNote): Outcome {
	return inOneStep(books, (): Outcome => {
		const open = new Set(kindQuestions(books).map(({ id }) => id))
		const day = today(books, desk)
		const hindered = whyNotOn(books, desk, day)
		if (hindered) return no(hindered)
		const meant = itemIds.filter((id) => open.has(id)).flatMap((id) => readItem(books, id) ?? [])
		if (meant.length === 0) return no('It was said already. Look again.')
		for (const item of meant) {
			saidKind(books, item.id, kind)
			if (kind !== item.kind)
				changeItem(books, desk, {
					...{ item_id: item.id, day, amount_was: item.amount, amount_is: item.amount },
					...{ due_was: item.due_day, due_is: item.due_day, dated_was: item.dated, dated_is: item.dated },
					...{ kind_was: item.kind, kind_is: kind, reason: 'said to be so' },
				})
			record(books, desk, {
				...{ subject: 'customer', id: item.customer_id, act: 'said what an item is' },
				detail: `${item.number} is a ${kind}`,
			})
		}
		return { ok: true }
	})
}
