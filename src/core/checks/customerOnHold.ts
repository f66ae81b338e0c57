import type { Checked, Finding } from './finding'

/** The firm has said that nothing is billed to this customer at present. */
export function customerOnHold({ content, customer }: Checked): Finding[] {
	if (customer.hold === '') return []
	return [
		{
			code: 'on-hold',
			level: 'stop',
			brief: 'customer on hold',
			text: `${content.customer.name} is on hold: ${customer.hold}. Take the hold off under Accounts, or hold the invoice back.`,
		},
	]
}
