import { formatMinor } from '../format'
import type { Checked, Finding } from './finding'

/** Above the total that the firm wants looked at (home currency only). */
export function largeTotal({ content, total, homeCurrency, lookAbove }: Checked): Finding[] {
	if (lookAbove === 0 || content.currency !== homeCurrency || total <= BigInt(lookAbove)) return []
	return [
		{
			code: 'large-total',
			level: 'look',
			brief: 'large total',
			text: `${formatMinor(total, homeCurrency)} is above ${formatMinor(lookAbove, homeCurrency)}, from which on invoices are looked at.`,
		},
	]
}
