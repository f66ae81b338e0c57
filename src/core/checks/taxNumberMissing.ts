import { taxNumberFault } from '../taxNumber'
import type { Checked, Finding } from './finding'

/** Reverse charge needs the customer's tax number (EU VAT directive, article 226 (4); BT-48), of its country in form and check digits. */
export function taxNumberMissing({ content }: Checked): Finding[] {
	const { customer } = content
	if (customer.tax !== 'reverse-charge') return []
	if (customer.taxNumber.trim() === '')
		return [
			{
				code: 'no-tax-number',
				level: 'stop',
				brief: 'no tax number',
				text: `${customer.name} is billed by reverse charge, for which their tax number must stand on the invoice. Give it under Accounts.`,
			},
		]
	const fault = taxNumberFault(customer.taxNumber, customer.country)
	if (!fault) return []
	return [
		{
			code: 'tax-number-form',
			level: 'look',
			brief: 'tax number odd',
			text: `${fault}. Check it, and correct it under Accounts.`,
		},
	]
}
