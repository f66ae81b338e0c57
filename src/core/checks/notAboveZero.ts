import { formatMinor } from '../format'
import type { Checked, Finding } from '.'

/** A document that comes to nothing or less: perhaps a credit note is meant. */
export function notAboveZero({ content, total }: Checked): Finding[] {
	if (total > 0n) return []
	const brief = total === 0n ? 'comes to nothing' : 'below zero'
	return [
		{
			code: 'not-above-zero',
			level: 'look',
			brief,
			text: `The total is ${formatMinor(total, content.currency)} ${content.currency}. An invoice that asks for nothing is rarely meant.`,
		},
	]
}
