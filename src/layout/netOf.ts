import { amountText, parseAmount } from '@/core/currency'
import type { BillContent } from '@/core/document'
import { formatAmount } from '@/core/format'

/** Net of some lines of a bill, written in its customer's figures. */
export function netOf({ priced, currency, locale }: BillContent, places: readonly number[]): string {
	const net = places.reduce((sum, place) => sum + parseAmount(priced.lines[place]?.net ?? '0', currency, 'net'), 0n)
	return formatAmount(amountText(net, currency), locale)
}
