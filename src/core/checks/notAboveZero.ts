import { formatMinor } from '../format'
import type { Checked, Finding } from './finding'

/** What comes to nothing asks for nothing; what comes to less is a credit note. */
export function notAboveZero({ content, total, registers }: Checked): Finding[] {
	if (total > 0n || content.refersTo !== null) return []
	const amount = `${formatMinor(total, content.currency)} ${content.currency}`
	if (total === 0n)
		return [
			{
				code: 'not-above-zero',
				level: 'look',
				brief: 'comes to nothing',
				text: `The total is ${amount}. An invoice that asks for nothing is rarely meant.`,
			},
		]
	const stop = !registers.has('credit-note')
	return [
		{
			code: 'below-zero',
			level: stop ? 'stop' : 'look',
			brief: 'below zero',
			text: `The total is ${amount}, so it is issued as a credit note. ${stop ? 'There is no number register for credit notes: open one under Number registers, or put' : 'To bill it with something else, put'} it together with another of the customer.`,
		},
	]
}
