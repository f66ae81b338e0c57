import { dayText } from '../calendar'
import type { Checked, Finding } from './finding'

/** Asks for a look at each order that is dated after the work date. */
export function dateInFuture({ content, workDate }: Checked): Finding[] {
	return content.orders
		.filter(({ day }) => day > workDate)
		.map(({ number, day }) => ({
			code: 'date-in-future',
			level: 'look',
			order: number,
			brief: 'date in the future',
			text: `Order ${number} is dated ${dayText(day)}, after the work date.`,
		}))
}
