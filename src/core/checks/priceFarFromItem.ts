import { compareQuotients, parseDecimal, pow10 } from '../decimal'
import { isZero } from '../document'
import { formatDecimal } from '../format'
import type { Checked, Finding } from './finding'

/** A line whose price, its discount taken off, differs from its item's, in the item's currency, by more than the set share. */
export function priceFarFromItem({ content, items, priceShare }: Checked): Finding[] {
	if (priceShare === 0) return []
	return content.lines.flatMap((line) => {
		const item = items.get(line.item)
		if (!item || line.unitPrice === null || item.currency !== content.currency) return []
		const own = quotient(item.unit_price, item.price_per, '0')
		const asked = lessAmount(quotient(line.unitPrice, line.pricePer, line.discountPercent), line)
		if (own.over === 0n) return []
		// (asked − own) ÷ own, in percent.
		const difference = asked.over * own.under - own.over * asked.under
		const share = { over: 100n * (difference < 0n ? -difference : difference), under: own.over * asked.under }
		if (compareQuotients(share, exact(String(priceShare))) <= 0) return []
		const order = content.orders[line.order]?.number ?? ''
		const words = `${difference > 0n ? '+' : '−'}${(share.over + share.under / 2n) / share.under}%`
		const off = [
			isZero(line.discountPercent) ? '' : `${line.discountPercent}%`,
			isZero(line.discountAmount ?? '') ? '' : `${line.discountAmount} off the line`,
		].filter(Boolean)
		const less = off.length === 0 ? '' : ` less ${off.join(' and ')}`
		return [
			{
				code: 'price-far',
				level: 'look',
				order,
				brief: `${line.item} ${words}`,
				text: `Order ${order} has ${line.item} at ${formatDecimal(line.unitPrice, 'en-GB', 2)}${less}, the item's price is ${formatDecimal(item.unit_price, 'en-GB', 2)}: ${words}.`,
			},
		]
	})
}

const exact = (text: string) => {
	const { units, scale } = parseDecimal(text, 'share', 20)
	return { over: units, under: pow10(scale) }
}

/** The same with its part of money off the whole line taken off; that of a line of nothing stays out. */
function lessAmount(
	price: { over: bigint; under: bigint },
	{ quantity, discountAmount = '' }: { quantity: string; discountAmount?: string | undefined },
): { over: bigint; under: bigint } {
	if (isZero(discountAmount) || isZero(quantity.replace('-', ''))) return price
	const [amount, count] = [exact(discountAmount), exact(quantity.replace('-', ''))]
	const off = { over: amount.over * count.under, under: amount.under * count.over }
	return { over: price.over * off.under - off.over * price.under, under: price.under * off.under }
}

/** A price for one, less a percent, as a quotient of whole numbers. */
function quotient(price: string, per: string, percent: string): { over: bigint; under: bigint } {
	const [a, b, less] = [exact(price), exact(per), exact(percent)]
	return { over: a.over * b.under * (100n * less.under - less.over), under: a.under * b.over * 100n * less.under }
}
