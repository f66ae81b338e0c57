import type { Checked, Finding } from './finding'

/** Asks for a look where the customer's address has one line or none. */
export function addressIncomplete({ content }: Checked): Finding[] {
	if (content.customer.address.length >= 2) return []
	return [
		{
			code: 'address',
			level: 'look',
			brief: 'address incomplete',
			text: `${content.customer.name} has ${content.customer.address.length === 0 ? 'no address' : 'an address of one line'}. Complete it under Accounts.`,
		},
	]
}
