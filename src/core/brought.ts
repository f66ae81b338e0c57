import { allocateDiscount } from './allocateDiscount'
import { amountText, parseAmount } from './currency'
import type { Brought, ChargeShare, DocumentCharge, DocumentDiscount, Terms, Unpriced } from './document'
import { addUpDiscounts, sameDiscount } from './documentDiscounts'
import { priceBill } from './priceBill'

// A document's discounts and charges are never changed by themselves: they are made from what its orders bring, each time that it is
// priced. So an order takes what is its own along wherever it goes, and the order in which drafts were put together makes no difference.

/**
 * Shares an amount by `weights`, in whole minor units, what is left over to the largest fractions (CALCULATION, a document, 4). Where the
 * weights do not all go one way, all of it stays with the largest of those that go as all of them together: what is off a bill that comes to
 * less than nothing makes it less of a credit, and must not be off what is billed once they are parted.
 */
export function shareAmount(amount: bigint, weights: readonly bigint[]): bigint[] {
	const all = weights.reduce((total, weight) => total + weight, 0n)
	const sizes = all < 0n ? weights.map((weight) => -weight) : weights
	if (all !== 0n && sizes.every((weight) => weight >= 0n)) return allocateDiscount(amount, sizes)
	const most = sizes.reduce((best, weight, place) => (weight > (sizes[best] ?? 0n) ? place : best), 0)
	return sizes.map((_, place) => (place === most ? amount : 0n))
}

/** Nets of a bill's lines, minor units; nought where it cannot be priced. They hang on no rate of tax. */
export function netsOf(content: Unpriced): bigint[] {
	const priced = priceBill(content)
	return priced.ok ? priced.value.lines.map(({ net }) => net) : content.lines.map(() => 0n)
}

/** What the lines of each order that take discounts come to, minor units. */
export function weightsOf(content: Unpriced): bigint[] {
	const nets = netsOf({ ...content, discounts: [], charges: [] })
	const weights = content.orders.map(() => 0n)
	content.lines.forEach(({ order, discountable }, line) => {
		if (discountable) weights[order] = (weights[order] ?? 0n) + (nets[line] ?? 0n)
	})
	return weights
}

/**
 * The number of an order with an amount off whose lines come to the other side of nothing than the whole bill, so that it would count the other
 * way on it; null for none.
 */
export function turnedOver(content: Unpriced): string | null {
	const isOff = (one: DocumentDiscount) => 'amount' in one && !isNothing(one.amount)
	const off = content.orders.map(({ brings }) => brings?.discounts.some(isOff) ?? false)
	if (content.refersTo !== null || off.length < 2 || !off.includes(true)) return null
	const weights = weightsOf(content)
	const below = weights.reduce((total, weight) => total + weight, 0n) < 0n
	return content.orders.find((_, place) => off[place] && (weights[place] ?? 0n) < 0n !== below)?.number ?? null
}

/** A discount for each order: a percent as it is, an amount in shares by what their lines come to. */
function discountEach(discount: DocumentDiscount, content: Unpriced): DocumentDiscount[] {
	if ('percent' in discount) return content.orders.map(() => discount)
	const amount = parseAmount(discount.amount, content.currency, 'discount')
	return shareAmount(amount, weightsOf(content)).map((share) => ({
		...discount,
		amount: amountText(share, content.currency),
	}))
}

/** A charge as one order brings it, without its place. */
const shareOf = ({ order: _, ...share }: DocumentCharge): ChargeShare => share
const chargesAt = (charges: DocumentCharge[], place: number): ChargeShare[] =>
	charges.filter((charge) => 'percent' in charge || charge.order === place).map(shareOf)

/**
 * What each order of a bill brings to it. Where it was not kept, what the bill has is shared by rule.
 * @param changed whether a person changed it, where it was not kept
 */
export function broughtBy(content: Unpriced, changed = false): Brought[] {
	const each = content.discounts.map((discount) => discountEach(discount, content))
	return content.orders.map(
		({ brings }, place) =>
			brings ?? {
				discounts: each.flatMap((shares) => shares[place] ?? []),
				charges: chargesAt(content.charges, place),
				as: changed ? 'agreed' : 'shared',
			},
	)
}

/** A bill whose orders say what they bring, with the discounts and charges that come of it; one whose orders do not, as it is. */
export function withBrought(content: Unpriced): Unpriced {
	const brought = content.orders.flatMap(({ brings }) => brings ?? [])
	if (content.refersTo !== null || brought.length === 0 || brought.length < content.orders.length) return content
	const charges: DocumentCharge[] = []
	brought.forEach((one, order) => {
		for (const share of one.charges) {
			if ('percent' in share ? charges.some((charge) => samePercent(charge, share)) : isNothing(share.amount)) continue
			charges.push(onOrder(share, order))
		}
	})
	const discounts = addUpDiscounts(
		brought.map((one) => one.discounts),
		content.currency,
	)
	return { ...content, discounts: discounts.filter((one) => 'percent' in one || !isNothing(one.amount)), charges }
}

/** A charge with the place of its order, its parts in the order of the schema, so that what is the same reads the same. */
const onOrder = ({ label, taxCode, ...share }: ChargeShare, order: number): DocumentCharge => ({
	...{ label, order, taxCode },
	...share,
})
const isNothing = (amount: string): boolean => Number(amount) === 0
const samePercent = (one: ChargeShare, other: ChargeShare): boolean =>
	'percent' in one &&
	'percent' in other &&
	one.label === other.label &&
	one.taxCode === other.taxCode &&
	Number(one.percent) === Number(other.percent)

/** Whether two say the same of discounts and charges. */
export const sameTerms = (one: Terms, other: Terms): boolean =>
	JSON.stringify([one.discounts, one.charges]) === JSON.stringify([other.discounts, other.charges])

/** A bill whose orders bring what is given, in their order. */
export const bringing = (content: Unpriced, brought: readonly Brought[]): Unpriced =>
	withBrought({
		...content,
		orders: content.orders.map((order, place) => {
			const brings = brought[place]
			return brings ? { ...order, brings } : order
		}),
	})

/** What the rules said last of an order by itself. */
export const rulesOf = ({ rules, discounts, charges }: Brought): Terms => rules ?? { discounts, charges }

/** What an order brings as another's word than before. What the rules said of it stays known. */
export const broughtAs = (before: Brought, as: 'shared' | 'agreed', now: Terms): Brought => ({
	...now,
	as: before.as === 'agreed' ? 'agreed' : as,
	rules: rulesOf(before),
})

/**
 * A bill on which a person changed discounts or charges: what stays belongs to whom it belonged, an amount that is new is shared by rule, a
 * charge that is new belongs to the order that it names.
 */
export function agreeOn(content: Unpriced, discounts: DocumentDiscount[], charges: DocumentCharge[]): Unpriced {
	if (JSON.stringify([content.discounts, content.charges]) === JSON.stringify([discounts, charges])) return content
	const before = broughtBy(content)
	const stays = (discount: DocumentDiscount) =>
		content.discounts.some((had) => JSON.stringify(had) === JSON.stringify(discount))
	const shares = discounts.map((discount) =>
		stays(discount)
			? before.map((one) => one.discounts.filter((own) => sameDiscount(own, discount)))
			: discountEach(discount, content).map((own) => [own]),
	)
	return bringing(
		content,
		before.map((one, place) =>
			broughtAs(one, 'agreed', {
				discounts: shares.flatMap((each) => each[place] ?? []),
				charges: chargesAt(charges, place),
			}),
		),
	)
}

/** Percents of discounts and charges of a bill: what two must have alike to stand together, since a percent is taken on the whole. */
export const percentsKey = ({
	discounts,
	charges,
}: {
	discounts: DocumentDiscount[]
	charges: ChargeShare[]
}): string =>
	JSON.stringify([
		discounts.flatMap((one) =>
			'percent' in one ? [`${one.label.toLowerCase()} ${one.standing === true} ${Number(one.percent)}`] : [],
		),
		[
			...new Set(
				charges.flatMap((one) => ('percent' in one ? [`${one.label} ${one.taxCode} ${Number(one.percent)}`] : [])),
			),
		],
	])
