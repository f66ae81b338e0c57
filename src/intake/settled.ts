import type { OwnField } from '@/core/ownFields'
import { decideDiscount, decideOrderDiscount, discountsSpeak } from './discounts'
import type { ColumnSays } from './evidence'
import { type Decided, type DiscountQuestion, decide, discountFields, discountIsOpen, type Reading } from './reading'
import type { Rows } from './rows'

const byRows: Record<DiscountQuestion, typeof decideDiscount> = {
	discount: decideDiscount,
	orderDiscount: decideOrderDiscount,
}

/** All that is decided of a reading; the rows are asked where a column of discounts does not say itself what it holds. */
export function settled(
	rows: Rows,
	reading: Reading,
	evidence: readonly ColumnSays[],
	ownFields: readonly OwnField[],
): Decided {
	let decided = decide(reading, evidence, ownFields)
	if (decided.questions.length > 0) return decided
	for (const name of ['discount', 'orderDiscount'] as const) {
		if (!discountIsOpen(name, reading, decided, evidence)) continue
		const field = discountFields[name]
		// What an order's discount holds is told by its total once its lines are told.
		const form = decided.questions.length > 0 ? null : byRows[name](rows, reading, decided, ownFields)
		if (form) decided = { ...decided, [name]: form, by: { ...decided.by, [name]: 'values' } }
		else if (discountsSpeak(rows, reading, decided, ownFields, field)) {
			const examples = [reading.columns, ...reading.groups].flatMap(({ [field]: place }) =>
				place === undefined ? [] : (evidence[place]?.first ?? []),
			)
			decided = {
				...decided,
				questions: [...decided.questions, { name, examples: examples.slice(0, 4), disagree: false }],
			}
		}
	}
	return decided
}
