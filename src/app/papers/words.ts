import type { PaperBase, PaperSource } from '@/core/paperKind'

/** What papers of a kind are made from, and what they say of prices. */
export const madeOfWords = ({
	base,
	records,
	becomesOrder,
}: {
	base: PaperBase
	records: PaperSource
	becomesOrder: boolean
}): string =>
	[
		records === 'orders' ? 'orders of the books' : 'what is written for it',
		base === 'priced' ? 'with prices' : 'without prices',
		...(becomesOrder ? ['becomes an order'] : []),
	].join(', ')
