import { dayText } from '../calendar'
import type { Checked, Finding } from './finding'

/** A credit note whose invoice was credited otherwise meanwhile, or that would be dated before it. */
export function creditOutdated({ content, restChanged }: Checked): Finding[] {
	const { refersTo } = content
	if (!refersTo) return []
	const early: Finding[] =
		refersTo.day > content.day
			? [
					{
						code: 'credit-before',
						level: 'stop',
						brief: 'before its invoice',
						text: `The credit note is dated ${dayText(content.day)}, before ${refersTo.number} of ${dayText(refersTo.day)}. Drop it, and start it with a later work date.`,
					},
				]
			: []
	if (!restChanged) return early
	return [
		...early,
		{
			code: 'credit-outdated',
			level: 'stop',
			brief: 'credited otherwise',
			text: `${refersTo.number} was credited otherwise since this was drafted, so that it no longer takes what is left. Drop it, and credit ${refersTo.number} anew.`,
		},
	]
}
