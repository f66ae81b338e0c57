import type { PaperBase, PaperSource, SheetWay } from '@/core/paperKind'

/** What papers of a kind are made from, and what they say of prices. */
export const madeOfWords = ({
	base,
	records,
	becomesOrder,
	each,
}: {
	base: PaperBase
	records: PaperSource
	becomesOrder: boolean
	each: SheetWay
}): string =>
	[
		records === 'orders'
			? 'orders of the books'
			: records === 'form'
				? 'what is written for it'
				: { row: 'sheets, one a row', key: 'sheets, one for the rows of a key', whole: 'sheets, one for each' }[each],
		base === 'priced' ? 'with prices' : 'without prices',
		...(becomesOrder ? ['becomes an order'] : []),
	].join(', ')
