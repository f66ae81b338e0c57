import type { Checked, Finding } from '.'

const mailbox = /^[^\s@,;<>]+@[^\s@,;<>.]+(\.[^\s@,;<>.]+)+$/

/** Whether one address is well formed enough to be given to a mail server. */
export const isMailbox = (address: string): boolean => mailbox.test(address)

/** No address: the document is printed. A malformed one stops it, because nothing would arrive. */
export function emailMissing({
	content,
	customer,
}: Pick<Checked, 'content'> & { customer: Pick<Checked['customer'], 'email'> }): Finding[] {
	if (customer.email === '') {
		return [
			{
				code: 'no-email',
				level: 'look',
				brief: 'no email: will print',
				text: `${content.customer.name} has no email address. The invoice will be listed to print.`,
			},
		]
	}
	if (isMailbox(customer.email)) return []
	return [
		{
			code: 'email',
			level: 'stop',
			brief: 'email malformed',
			text: `"${customer.email}" is not an email address. Correct it under Accounts, or empty it to print the invoice.`,
		},
	]
}
