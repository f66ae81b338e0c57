import type { Day } from './calendar'
import { amountText, parseAmount } from './currency'
import type { DocumentDiscount } from './document'
import { isZero } from './document'

/** A discount with a name: either `percent` or `amount` (decimal text of `currency`), the other empty. */
export type NamedDiscount = {
	label: string
	percent: string
	amount: string
	currency: string
	from_day: Day
	/** Last day; empty for until further notice. */
	to_day: Day | ''
	/** 1 when it is taken on every invoice. */
	for_all: number
}

/** Whether a named discount can be taken on a document of that day and currency. The document's date decides. */
export const isDiscountOn = (discount: NamedDiscount, day: Day, currency: string): boolean =>
	day >= discount.from_day &&
	(discount.to_day === '' || day <= discount.to_day) &&
	(discount.amount === '' || discount.currency === currency)

/** The named discount as a document carries it. */
export const asDocumentDiscount = ({ label, percent, amount }: NamedDiscount): DocumentDiscount =>
	amount === '' ? { label, percent } : { label, amount }

const standingLabel = 'Standing discount'

/**
 * The discounts of a document: its orders' own percent or amount, the one that its orders name, the customer's standing percent, and those for
 * every invoice. All are taken on the same base and do not compound (CALCULATION, a document, 3).
 */
export function documentDiscounts(given: {
	day: Day
	currency: string
	/** Percent, amount and discount name of the orders; '0' and '' for none. */
	own: { percent: string; amount: string; label: string }
	/** Percent that the customer always gets; '0' for none. */
	standing: string
	named: readonly NamedDiscount[]
}): DocumentDiscount[] {
	const { day, currency, own, standing, named } = given
	const taken = named.filter(
		(discount) =>
			isDiscountOn(discount, day, currency) && (discount.for_all === 1 || sameLabel(discount.label, own.label)),
	)
	return [
		...(isZero(own.percent) ? [] : [{ label: '', percent: own.percent }]),
		...(isZero(own.amount) ? [] : [{ label: '', amount: own.amount }]),
		...taken.filter(({ label }) => sameLabel(label, own.label)).map(asDocumentDiscount),
		...(isZero(standing) ? [] : [{ label: standingLabel, percent: standing, standing: true as const }]),
		...taken.filter(({ label }) => !sameLabel(label, own.label)).map(asDocumentDiscount),
	]
}

/** Discounts are told apart by their names without regard to case. */
export const sameLabel = (a: string, b: string): boolean => a.toLowerCase() === b.toLowerCase()

/** Whether two are one discount, whatever their amounts: percents must be the same. */
export const sameDiscount = (one: DocumentDiscount, other: DocumentDiscount): boolean =>
	sameLabel(one.label, other.label) &&
	('percent' in one
		? 'percent' in other && Number(one.percent) === Number(other.percent) && one.standing === other.standing
		: 'amount' in other)

/** Discounts of several orders as one: percents once, amounts of the same name added up, in the order of their first appearance. */
export function addUpDiscounts(lists: readonly DocumentDiscount[][], currency: string): DocumentDiscount[] {
	const together: DocumentDiscount[] = []
	for (const discount of lists.flat()) {
		const place = together.findIndex((known) => sameDiscount(known, discount))
		const known = together[place]
		if (!known) together.push(discount)
		else if ('amount' in known && 'amount' in discount) {
			const amount = parseAmount(known.amount, currency, 'amount') + parseAmount(discount.amount, currency, 'amount')
			together[place] = { label: known.label, amount: amountText(amount, currency) }
		}
	}
	return together
}
