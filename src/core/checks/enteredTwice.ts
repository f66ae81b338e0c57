import type { Checked, Finding } from './finding'

/** Two orders of one customer with the same day, lines and figures, in this run or in two open ones. */
export function enteredTwice({ twins }: Checked): Finding[] {
	return twins.map(({ order, other, run }) => ({
		code: 'entered-twice',
		level: 'look',
		order,
		brief: run === null ? `same as ${other}` : `same as ${other} in run ${run}`,
		text: `Order ${order} has the same customer, day and lines as order ${other} in ${run === null ? 'this run' : `run ${run}, which is open`}. If it was entered twice, hold one of them back.`,
	}))
}
