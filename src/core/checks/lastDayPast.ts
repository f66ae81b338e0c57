import { dayText } from '../calendar'
import type { Checked, Finding } from './finding'

/** A paper that stands until a day that is over would be refused when its customer accepts it. */
export const lastDayPast = ({ content: { paper }, workDate }: Checked): Finding[] =>
	!paper || paper.until === '' || paper.until >= workDate
		? []
		: [
				{
					code: 'last-day-past',
					level: 'look',
					brief: 'its last day is over',
					text: `It stands until ${dayText(paper.until)}, which is over. Make it anew with today’s date, or send it as it is.`,
				},
			]
