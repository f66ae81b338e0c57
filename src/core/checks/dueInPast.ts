import { dayText } from '../calendar'
import type { Checked, Finding } from './finding'

/** An invoice that would be due before its own date, or before it can be paid. */
export function dueInPast({ content, workDate }: Checked): Finding[] {
	const { day, dueDay } = content
	if (content.kind !== 'invoice' || (dueDay >= day && dueDay >= workDate)) return []
	const before = dueDay < day ? `its own date, ${dayText(day)}` : `the work date, ${dayText(workDate)}`
	return [
		{
			code: 'due-in-past',
			level: 'look',
			brief: 'due in the past',
			text: `It is due ${dayText(dueDay)}, before ${before}. Change the due date, or let it stand.`,
		},
	]
}
