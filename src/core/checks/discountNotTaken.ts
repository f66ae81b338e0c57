import { sameLabel } from '../documentDiscounts'
import type { Checked, Finding } from './finding'

/** An order names a discount that is not on its document: it ran out, has not begun, or is of another currency. */
export function discountNotTaken({ content, discountsNamed }: Checked): Finding[] {
	return discountsNamed
		.filter(({ label }) => !content.discounts.some((discount) => sameLabel(discount.label, label)))
		.map(({ order, label }) => ({
			code: 'discount-not-taken',
			level: 'look',
			brief: `${label} not taken`,
			text: `Order ${order} names the discount ${label}, which does not run on ${content.day} in ${content.currency}. See its days under Items and rates, or put it on with Change.`,
			order,
		}))
}
