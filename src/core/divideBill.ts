import { bringing, broughtAs, broughtBy, netsOf, shareAmount } from './brought'
import { amountText, parseAmount } from './currency'
import type { BillContent, Brought, ChargeShare, DocumentDiscount, Terms, Unpriced } from './document'

type Divided = {
	stays: Unpriced
	leaves: Unpriced
	/** Places in `leaves.orders` of orders of which only a part leaves: they are to become orders of their own. */
	split: number[]
}

/**
 * Parts a bill in two. What an order brings goes with it; of an order of which only a part leaves, an amount off is shared by the nets of
 * the lines that take it, an amount of freight by the nets of all its lines. Nothing is lost and nothing counts twice.
 */
export function divideBill({ priced: _, ...whole }: BillContent, takenOff: ReadonlySet<number>): Divided {
	const nets = netsOf(whole)
	const brought = broughtBy(whole)
	const split: number[] = []
	const side = (leaves: boolean): Unpriced => {
		const places: number[] = []
		whole.orders.forEach((_, place) => {
			const sides = whole.lines.flatMap(({ order }, index) => (order === place ? [takenOff.has(index)] : []))
			if (!sides.includes(leaves)) return
			if (leaves && sides.includes(false)) split.push(places.length)
			places.push(place)
		})
		const parts = places.flatMap((place) => {
			const brings = brought[place]
			return brings ? [partOf(whole, nets, { brings, place, takenOff, leaves })] : []
		})
		return bringing(
			{
				...whole,
				orders: places.flatMap((place) => whole.orders[place] ?? []),
				lines: whole.lines.flatMap((line, index) =>
					takenOff.has(index) === leaves ? [{ ...line, order: places.indexOf(line.order) }] : [],
				),
			},
			parts,
		)
	}
	return { stays: side(false), leaves: side(true), split }
}

/** What an order brings to one side of a bill that is parted: all of it where all its lines are there. */
function partOf(
	{ lines, orders, currency }: Unpriced,
	nets: readonly bigint[],
	{ brings, place, takenOff, leaves }: Side,
): Brought {
	const own = lines.flatMap((line, index) => (line.order === place ? [{ ...line, index }] : []))
	const whole = own.every(({ index }) => takenOff.has(index) === leaves)
	// Its share of an amount off several orders is its own from now on.
	if (whole) return orders.length > 1 && hasAmount(brings.discounts) ? broughtAs(brings, 'shared', brings) : brings
	const sum = (gone: boolean, all: boolean) =>
		own.reduce(
			(total, { index, discountable }) =>
				takenOff.has(index) === gone && (all || discountable) ? total + (nets[index] ?? 0n) : total,
			0n,
		)
	const part = (amount: string, all: boolean) => {
		const shares = shareAmount(parseAmount(amount, currency, 'share'), [sum(false, all), sum(true, all)])
		return amountText(shares[leaves ? 1 : 0] ?? 0n, currency)
	}
	const now: Terms = {
		discounts: brings.discounts.map((one) => ('percent' in one ? one : { ...one, amount: part(one.amount, false) })),
		charges: brings.charges.map((one) => ('percent' in one ? one : { ...one, amount: part(one.amount, true) })),
	}
	return broughtAs(brings, 'shared', now)
}
type Side = { brings: Brought; place: number; takenOff: ReadonlySet<number>; leaves: boolean }

const hasAmount = (discounts: DocumentDiscount[]): boolean => discounts.some((discount) => 'amount' in discount)

/**
 * Two bills as one, whichever takes in the other: their orders by number, each with its lines and what it brings. Percents, which must be
 * the same, count once; what else a bill says is that of the one that takes in.
 */
export function putTogether({ priced: _, ...into }: BillContent, from: BillContent): Unpriced {
	const both = [into, from].flatMap((bill, which) =>
		broughtBy(bill).map((brings, place) => ({ brings, place, which, ...(bill.orders[place] ?? noOrder) })),
	)
	const apart = both.some(({ brings }) => hasAmount(brings.discounts))
	both.sort((a, b) => (a.number < b.number ? -1 : a.number > b.number ? 1 : a.id - b.id))
	const orders = both.map(({ place: _, which: __, brings, ...order }) => ({
		...order,
		brings: apart ? broughtAs(brings, 'shared', brings) : brings,
	}))
	const lines = [into, from].flatMap((bill, which) =>
		bill.lines.map((line) => ({
			...line,
			order: both.findIndex((order) => order.which === which && order.place === line.order),
		})),
	)
	const together = { ...into, orders, lines: lines.sort((a, b) => a.order - b.order) }
	return bringing(
		together,
		orders.map(({ brings }) => brings),
	)
}
const noOrder = { id: 0, number: '', day: '', purchaseOrder: '', sourceFile: '' }

/** What each order of a bill has of its discounts and charges; shares of nothing are left out. */
export function sharesByOrder(content: BillContent): { discounts: DocumentDiscount[]; charges: ChargeShare[] }[] {
	const real = (share: DocumentDiscount | ChargeShare) => 'percent' in share || Number(share.amount) !== 0
	return broughtBy(content).map(({ discounts, charges }) => ({
		discounts: discounts.filter(real),
		charges: charges.filter(real),
	}))
}
