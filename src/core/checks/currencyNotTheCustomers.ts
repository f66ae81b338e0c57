import type { Checked, Finding } from './finding'

/** Asks for a look where a document is in another currency than its customer's. */
export function currencyNotTheCustomers({ content, customer }: Checked): Finding[] {
	if (content.currency === customer.currency) return []
	return [
		{
			code: 'currency',
			level: 'look',
			brief: `in ${content.currency}, not ${customer.currency}`,
			text: `The order is in ${content.currency}, but this customer's account is in ${customer.currency}. Check it with the order.`,
		},
	]
}
