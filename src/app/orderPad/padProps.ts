import type { Books } from '@/store/books'
import { allDiscounts, taxCodesOn } from '@/store/catalogue'
import { allOwnFields } from '@/store/ownFields'

/** What the order form needs of the books. */
export function padProps(books: Books, today: string) {
	const ownFields = allOwnFields(books).filter(({ type }) => type !== 'picture')
	return {
		today,
		taxCodes: taxCodesOn(books, today).map(({ code, name, rate }): [string, string] => [
			code,
			`${code}: ${name} ${rate}%`,
		]),
		discounts: allDiscounts(books).map(({ label }) => label),
		ofOrder: ownFields.filter(({ of }) => of === 'order').map(({ key, name }) => ({ key, name })),
		ofLine: ownFields.filter(({ of }) => of === 'line').map(({ key, name }) => ({ key, name })),
	}
}
