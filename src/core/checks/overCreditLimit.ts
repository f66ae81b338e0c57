import { formatMinor } from '../format'
import type { Checked, Finding } from './finding'

/** The invoice, with what the customer owes already and what else is billed to them, takes more than their credit limit. */
export function overCreditLimit({ content, customer, total, alsoBilled, owed }: Checked): Finding[] {
	const { creditLimit, currency } = customer
	if (
		creditLimit === null ||
		currency !== content.currency ||
		total <= 0n ||
		total + alsoBilled + owed <= BigInt(creditLimit)
	)
		return []
	const money = (minor: bigint | number) => `${formatMinor(minor, currency)} ${currency}`
	const also = alsoBilled === 0n ? '' : `, with ${money(alsoBilled)} on their other invoices of this run`
	const before = owed === 0n ? '' : `${also ? ' and' : ', with'} ${money(owed)} that they owe already`
	return [
		{
			code: 'over-limit',
			level: 'look',
			brief: 'over limit',
			text: `${money(total)}${also}${before}${also || before ? ',' : ''} is more than the credit limit of ${money(creditLimit)}. Hold it back, or raise the limit under Accounts.`,
		},
	]
}
