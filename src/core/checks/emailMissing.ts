import { isMailbox } from '../addresses'
import type { Checked, Finding } from './finding'

/** No address: the document is printed. A malformed one stops it, because nothing would arrive. */
export function emailMissing({
	content,
	customer,
}: {
	content: { kind: string; customer: { name: string }; paper?: { name: string } | undefined }
	customer: Pick<Checked['customer'], 'email'>
}): Finding[] {
	if (customer.email === '') {
		return [
			{
				code: 'no-email',
				level: 'look',
				brief: 'no email: will print',
				text: `${content.customer.name} has no email address. The ${nameOf(content)} will be listed to print.`,
			},
		]
	}
	if (isMailbox(customer.email)) return []
	return [
		{
			code: 'email',
			level: 'stop',
			brief: 'email malformed',
			text: `"${customer.email}" is not an email address. Correct it under Accounts, or empty it to print the ${nameOf(content)}.`,
		},
	]
}

const nameOf = ({ kind, paper }: { kind: string; paper?: { name: string } | undefined }): string =>
	(paper?.name ?? kind.replace('-', ' ')).toLowerCase()
