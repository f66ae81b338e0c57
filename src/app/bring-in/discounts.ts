import type { DiscountForm, DiscountQuestion, discountFields } from '@/intake/reading'

/** What may be said of discounts: of which field, and under which label. */
export const discountQuestions: [
	name: DiscountQuestion,
	field: (typeof discountFields)[DiscountQuestion],
	label: string,
][] = [
	['discount', 'lineDiscount', 'A line’s discount is'],
	['orderDiscount', 'orderDiscount', 'An order’s discount is'],
]
export const discountWords: Record<DiscountForm, string> = {
	percent: 'a percent',
	share: 'a share',
	amount: 'an amount',
}
