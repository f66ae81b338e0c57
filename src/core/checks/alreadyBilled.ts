import type { Checked, Finding } from './finding'

/** The same content for the same customer that stands on an issued invoice already. */
export function alreadyBilled({ billedBefore }: Checked): Finding[] {
	return billedBefore.map(({ order, otherOrder, number }) => ({
		code: 'already-billed',
		level: 'look',
		order,
		brief: `as on ${number}`,
		text: `Order ${order} has the same customer, day and lines as order ${otherOrder}, which was billed on ${number}. Hold it back if it is the same one.`,
	}))
}
