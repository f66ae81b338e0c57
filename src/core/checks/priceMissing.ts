import type { Checked, Finding } from './finding'

/** A line without a price stops its document. */
export function priceMissing({ content }: Checked): Finding[] {
	return content.lines.flatMap((line) => {
		if (line.unitPrice !== null) return []
		const order = content.orders[line.order]?.number ?? ''
		const place = content.lines.filter((other) => other.order === line.order).indexOf(line) + 1
		return [
			{
				code: 'price-missing',
				level: 'stop',
				order,
				brief: `line ${place} has no price`,
				text: `Order ${order}, line ${place} (${line.description}) has no price. Give it one, or hold the order back.`,
			},
		]
	})
}
