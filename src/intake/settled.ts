import type { OwnField } from '@/core/ownFields'
import { decideDiscount, discountsSpeak } from './discounts'
import type { ColumnSays } from './evidence'
import { type Decided, decide, discountIsOpen, type Reading } from './reading'
import type { Rows } from './rows'

/** All that is decided of a reading; the rows are asked where a column of discounts does not say itself what it holds. */
export function settled(
	rows: Rows,
	reading: Reading,
	evidence: readonly ColumnSays[],
	own: readonly OwnField[],
): Decided {
	const decided = decide(reading, evidence, own)
	if (!discountIsOpen(reading, decided, evidence) || decided.questions.length > 0) return decided
	const discount = decideDiscount(rows, reading, decided, own)
	if (discount) return { ...decided, discount, by: { ...decided.by, discount: 'values' } }
	if (!discountsSpeak(rows, reading, decided, own)) return decided
	const examples = [reading.columns, ...reading.groups].flatMap(({ lineDiscount }) =>
		lineDiscount === undefined ? [] : (evidence[lineDiscount]?.first ?? []),
	)
	return { ...decided, questions: [{ name: 'discount', examples: examples.slice(0, 4), disagree: false }] }
}
