import { groupingName, groupKey } from '../grouping'
import type { Checked, Finding } from './finding'

/** A customer who gets orders grouped otherwise than when they were gathered: what would stand together by now, and what would not. */
export function groupedOtherwise({ content, regrouped }: Checked): Finding[] {
	if (!regrouped) return []
	const { grouping, others } = regrouped
	const keys = new Set(content.orders.map((order) => groupKey(grouping, order)))
	const apart = others.filter((order) => keys.has(groupKey(grouping, order))).map(({ number }) => number)
	const wanted = `${content.customer.name} gets invoices “${groupingName[grouping]}” by now, and`
	const found = (brief: string, text: string): Finding => ({ code: 'grouped-otherwise', level: 'look', brief, text })
	return [
		...(apart.length > 0
			? [
					found(
						`apart from ${apart[0]}${apart.length > 1 ? ` +${apart.length - 1}` : ''}`,
						`${wanted} ${apart.length === 1 ? 'order' : 'orders'} ${apart.slice(0, 5).join(', ')}${apart.length > 5 ? ` and ${apart.length - 5} more` : ''} would stand here too. Put them together, or say that it looks right.`,
					),
				]
			: []),
		...(keys.size > 1
			? [
					found(
						`${keys.size} together`,
						`${wanted} these ${content.orders.length} orders would stand on ${keys.size}. Divide them, or say that it looks right.`,
					),
				]
			: []),
	]
}
