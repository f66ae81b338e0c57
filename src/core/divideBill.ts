import { allocateDiscount } from './allocateDiscount'
import { amountText, parseAmount } from './currency'
import type { BillContent, DocumentCharge, DocumentDiscount, Unpriced } from './document'
import { addUpDiscounts } from './documentDiscounts'
import { freightLabel } from './freight'

/**
 * Shares an amount by `weights`, in whole minor units, what is left over to the largest fractions (CALCULATION, a document, 4). Where the
 * weights do not all go one way, all of it stays with the largest.
 */
function shareAmount(amount: bigint, weights: readonly bigint[]): bigint[] {
	const sizes = weights.every((weight) => weight <= 0n) ? weights.map((weight) => -weight) : weights
	const sum = sizes.reduce((total, weight) => total + weight, 0n)
	if (sum > 0n && sizes.every((weight) => weight >= 0n)) return allocateDiscount(amount, sizes)
	const most = sizes.reduce((best, weight, place) => (weight > (sizes[best] ?? 0n) ? place : best), 0)
	return sizes.map((_, place) => (place === most ? amount : 0n))
}

/** Nets of a bill's lines, minor units. */
const netsOf = ({ priced, currency }: BillContent): bigint[] =>
	priced.lines.map(({ net }) => parseAmount(net, currency, 'net'))

const sumOver = (_content: BillContent, nets: readonly bigint[], which: (line: number) => boolean): bigint =>
	nets.reduce((sum, net, line) => (which(line) ? sum + net : sum), 0n)

/** Each amount among discounts shared by weights; percents, which are taken on each part, as they are. Shares of nothing are left out. */
function shareDiscounts(content: BillContent, weights: readonly bigint[]): DocumentDiscount[][] {
	const { currency } = content
	return weights.map((_, part) =>
		content.discounts.flatMap((discount): DocumentDiscount[] => {
			if ('percent' in discount) return [discount]
			const share = shareAmount(parseAmount(discount.amount, currency, 'discount'), weights)[part] ?? 0n
			return share === 0n ? [] : [{ label: discount.label, amount: amountText(share, currency) }]
		}),
	)
}

type Divided = {
	stays: Unpriced
	leaves: Unpriced
	/** Places in `leaves.orders` of orders of which only a part leaves: they are to become orders of their own. */
	split: number[]
}

/**
 * Parts a bill in two. Percents are taken on both; an amount off the whole is shared by the nets of the lines that take it, an order's
 * amount of freight by the nets of its lines. Nothing is lost and nothing counts twice.
 */
export function divideBill(content: BillContent, takenOff: ReadonlySet<number>): Divided {
	const nets = netsOf(content)
	const taking = (side: boolean) =>
		sumOver(content, nets, (line) => content.lines[line]?.discountable !== false && takenOff.has(line) === side)
	const [staying = [], going = []] = shareDiscounts(content, [taking(false), taking(true)])
	const whole: BillContent = content
	const split: number[] = []
	const side = (leaves: boolean): Unpriced => {
		const { priced: _, ...base } = whole
		const places = new Map<number, number>()
		const orders = content.orders.filter((_, place) => {
			const own = content.lines.flatMap((line, index) => (line.order === place ? [takenOff.has(index)] : []))
			if (!own.includes(leaves)) return false
			if (leaves && own.includes(false)) split.push(places.size)
			places.set(place, places.size)
			return true
		})
		const charges = content.charges.flatMap((charge): DocumentCharge[] => {
			if ('percent' in charge) return [{ ...charge, order: 0 }]
			const own = (part: boolean) =>
				sumOver(content, nets, (line) => content.lines[line]?.order === charge.order && takenOff.has(line) === part)
			const order = places.get(charge.order)
			const alone = content.lines.every((line, index) => line.order !== charge.order || takenOff.has(index) === leaves)
			if (order === undefined) return []
			const amount = parseAmount(charge.amount, content.currency, 'charge')
			const share = alone ? amount : (shareAmount(amount, [own(false), own(true)])[leaves ? 1 : 0] ?? 0n)
			return share === 0n ? [] : [{ ...charge, order, amount: amountText(share, content.currency) }]
		})
		return relabelled({
			...base,
			orders,
			lines: content.lines.flatMap((line, index) =>
				takenOff.has(index) === leaves ? [{ ...line, order: places.get(line.order) ?? 0 }] : [],
			),
			discounts: leaves ? going : staying,
			charges,
		})
	}
	return { stays: side(false), leaves: side(true), split }
}

/** Two bills as one: their orders, lines and amounts together; percents, which must be the same, once. */
export function putTogether({ priced: _, ...into }: BillContent, from: BillContent): Unpriced {
	const shift = into.orders.length
	return relabelled({
		...into,
		orders: [...into.orders, ...from.orders],
		lines: [...into.lines, ...from.lines.map((line) => ({ ...line, order: line.order + shift }))],
		discounts: addUpDiscounts([into.discounts, from.discounts], into.currency),
		charges: [
			...into.charges,
			...from.charges.flatMap((charge) => ('percent' in charge ? [] : [{ ...charge, order: charge.order + shift }])),
		],
	})
}

/** Freight is named with its order where several stand on the bill. */
export const relabelled = (content: Unpriced): Unpriced => ({
	...content,
	charges: content.charges.map((charge) =>
		'percent' in charge || !charge.label.startsWith('Freight')
			? charge
			: {
					...charge,
					label: freightLabel(content.orders.length > 1 ? (content.orders[charge.order]?.number ?? '') : ''),
				},
	),
})

type ChargeShare =
	| { label: string; taxCode: string; percent: string }
	| { label: string; taxCode: string; amount: string }

/** What each order of a bill has of its discounts and charges, as `divideBill` would share them. */
export function sharesByOrder(content: BillContent): {
	discounts: DocumentDiscount[]
	charges: ChargeShare[]
}[] {
	const nets = netsOf(content)
	const weights = content.orders.map((_, place) =>
		sumOver(
			content,
			nets,
			(line) => content.lines[line]?.order === place && content.lines[line]?.discountable !== false,
		),
	)
	const discounts = shareDiscounts(content, weights)
	return content.orders.map((_, place) => ({
		discounts: discounts[place] ?? [],
		charges: content.charges
			.filter((charge) => 'percent' in charge || charge.order === place)
			.map(
				(charge): ChargeShare =>
					'percent' in charge
						? { label: charge.label, taxCode: charge.taxCode, percent: charge.percent }
						: { label: charge.label, taxCode: charge.taxCode, amount: charge.amount },
			),
	}))
}
