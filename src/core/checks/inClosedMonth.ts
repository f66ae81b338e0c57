import { dayText } from '../calendar'
import type { Checked, Finding } from './finding'

/** Nothing may be dated in books that are closed. */
export function inClosedMonth({ content, closedTo }: Checked): Finding[] {
	if (closedTo === '' || content.day > closedTo) return []
	return [
		{
			code: 'closed-month',
			level: 'stop',
			brief: 'in closed books',
			text: `The invoice is dated ${dayText(content.day)}, but the books are closed to ${dayText(closedTo)}. Give the run back and start it with a later date.`,
		},
	]
}
