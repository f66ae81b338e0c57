import type { Checked, Finding } from './finding'

/** Asks for a look where the customer's address has one line or none, beside their country. */
export function addressIncomplete({ content }: Checked): Finding[] {
	const { address, country } = content.customer
	const same = (a: string, b: string) => a.trim().toUpperCase() === b.trim().toUpperCase()
	const lines = address.filter((line) => line.trim() !== '' && !(country !== '' && same(line, country)))
	if (lines.length >= 2) return []
	return [
		{
			code: 'address',
			level: 'look',
			brief: 'address incomplete',
			text: `${content.customer.name} has ${lines.length === 0 ? 'no address' : 'an address of one line'}. Complete it under Accounts.`,
		},
	]
}
