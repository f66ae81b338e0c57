import { dayText } from '../calendar'
import { yearOf } from '../register'
import type { Checked, Finding } from './finding'

/** A document dated before the latest of its kind, before what it bills was supplied, or in a year that is far. */
export function dayOutOfOrder({ content, latestDay, ascending, workDate }: Checked): Finding[] {
	const { day, supply } = content
	const found: Finding[] = []
	if (latestDay !== null && day < latestDay)
		found.push({
			code: 'day-out-of-order',
			level: ascending ? 'stop' : 'look',
			brief: 'out of sequence',
			text: `It is dated ${dayText(day)}, but one of ${dayText(latestDay)} has its number already. ${ascending ? 'Days and numbers are to rise together (Items and rates): give' : 'Give'} the run back and start it with a later date${ascending ? '.' : ', or let it stand.'}`,
		})
	if (supply !== null && day < supply.from && content.refersTo === null)
		found.push({
			code: 'before-supply',
			level: 'look',
			brief: 'before its order',
			text: `It is dated ${dayText(day)}, before the first of its orders, of ${dayText(supply.from)}. Check both days.`,
		})
	if (Math.abs(yearOf(day) - yearOf(workDate)) > 1)
		found.push({
			code: 'far-year',
			level: 'look',
			brief: `year ${yearOf(day)}`,
			text: `It is dated ${dayText(day)}, far from the work date, ${dayText(workDate)}. Give the run back and start it with the right date, or let it stand.`,
		})
	return found
}
