import { formatDecimal } from '../format'
import type { Checked, Finding } from '.'

/** A line whose price differs from its item's, in the item's currency, by more than the set share. */
export function priceFarFromItem({ content, items, priceShare }: Checked): Finding[] {
	if (priceShare === 0) return []
	return content.lines.flatMap((line) => {
		const item = items.get(line.item)
		if (!item || line.unitPrice === null || item.currency !== content.currency) return []
		const own = Number(item.unit_price) / Number(item.price_per)
		const asked = Number(line.unitPrice) / Number(line.pricePer)
		if (own === 0) return []
		const share = ((asked - own) / own) * 100
		if (Math.abs(share) <= priceShare) return []
		const order = content.orders[line.order]?.number ?? ''
		const sign = share > 0 ? '+' : '−'
		return [
			{
				code: 'price-far',
				level: 'look',
				order,
				brief: `${line.item} ${sign}${Math.round(Math.abs(share))}%`,
				text: `Order ${order} has ${line.item} at ${formatDecimal(line.unitPrice, 'en-GB', 2)}, the item's price is ${formatDecimal(item.unit_price, 'en-GB', 2)}: ${sign}${Math.round(Math.abs(share))}%.`,
			},
		]
	})
}
