import type { Checked, Finding } from '.'

/** Two orders of one customer with the same day, lines and figures. */
export function enteredTwice({ twins }: Checked): Finding[] {
	return twins.map(({ order, other }) => ({
		code: 'entered-twice',
		level: 'look',
		order,
		brief: `same as ${other}`,
		text: `Order ${order} has the same customer, day and lines as order ${other} in this run. If it was entered twice, hold one of them back.`,
	}))
}
