/**
 * Spreads `discount` over lines in proportion to their nets, in whole minor units (CALCULATION, a document, 4): each
 * share is floored, what is left goes one unit each to the largest fractions, the earlier line first among equals.
 * A negative discount (a credit) is spread as its positive would be, so that a credit is its invoice's exact negative.
 *
 * @param discount minor units; 0 when the nets add up to 0
 * @param nets minor units of the discountable lines
 * @returns one share a line; they add up to `discount`
 * @example allocateDiscount(100n, [100n, 100n, 100n]) // [34n, 33n, 33n]
 */
export function allocateDiscount(discount: bigint, nets: readonly bigint[]): bigint[] {
	const base = nets.reduce((sum, net) => sum + net, 0n)
	if (discount === 0n || base === 0n) return nets.map(() => 0n)
	const sign = discount < 0n ? -1n : 1n
	const size = discount * sign
	const direction = base < 0n ? -1n : 1n
	const shares: bigint[] = []
	const fractions: { index: number; rest: bigint }[] = []
	let left = size
	nets.forEach((net, index) => {
		const product = size * net * direction
		const whole = base * direction
		const rest = ((product % whole) + whole) % whole
		const share = (product - rest) / whole
		shares.push(share)
		left -= share
		fractions.push({ index, rest })
	})
	fractions.sort((a, b) => (a.rest === b.rest ? a.index - b.index : a.rest > b.rest ? -1 : 1))
	for (const { index } of fractions.slice(0, Number(left))) shares[index] = (shares[index] ?? 0n) + 1n
	return shares.map((share) => share * sign)
}
