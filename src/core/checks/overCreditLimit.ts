import { formatMinor } from '../format'
import type { Checked, Finding } from '.'

/** The invoice alone takes more than the customer's credit limit. */
export function overCreditLimit({ content, customer, total }: Checked): Finding[] {
	const { creditLimit, currency } = customer
	if (creditLimit === null || currency !== content.currency || total <= BigInt(creditLimit)) return []
	return [
		{
			code: 'over-limit',
			level: 'look',
			brief: 'over limit',
			text: `${formatMinor(total, currency)} ${currency} is more than the credit limit of ${formatMinor(creditLimit, currency)}.`,
		},
	]
}
