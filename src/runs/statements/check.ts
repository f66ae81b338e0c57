import { dayText } from '@/core/calendar'
import type { Finding } from '@/core/checks'
import { emailMissing } from '@/core/checks/emailMissing'
import { lockMissing } from '@/core/checks/lockMissing'
import { unprintable } from '@/core/checks/unprintable'
import { parseAmount } from '@/core/currency'
import { mostRows, type StatementContent } from '@/core/statement'
import { textsOf } from '@/kinds'
import { unprintable as notPrinted } from '@/pdf/fontKit'
import { lockFault } from '@/runs/files/lock'
import type { Books } from '@/store/books'
import type { Customer } from '@/store/customers'
import { readSettings } from '@/store/settings'
import { emailOf } from './draft'

/** So many rows, about, are on a page. */
const rowsOfPage = 32

/** What a statement comes to, minor units. */
export const minorOf = ({ total, currency }: StatementContent): bigint => parseAmount(total, currency, 'total')

/** What is to be said of a draft statement, the worst first. */
export function checkStatement(
	books: Books,
	content: StatementContent,
	customer: Customer,
	balance: bigint,
): Finding[] {
	const email = emailOf(customer)
	const dispute: Finding[] =
		content.disputed !== content.balance || balance <= 0n
			? []
			: [
					{
						code: 'all-disputed',
						level: 'look',
						brief: 'all in dispute',
						text: `All that ${customer.name} owes is in dispute. Hold the statement back, or send it as it is.`,
					},
				]
	const { closedTo } = readSettings(books)
	const closed: Finding[] =
		content.charge === null || closedTo === '' || content.day > closedTo
			? []
			: [
					{
						code: 'charge-in-closed-month',
						level: 'stop',
						brief: 'books closed',
						text: `The late charge of ${customer.name} would be entered as of ${dayText(content.day)}, but the books are closed to ${dayText(closedTo)}. Drop the charge, or open them under Company.`,
					},
				]
	const long: Finding[] =
		content.tooLong === undefined
			? []
			: [
					{
						code: 'too-long',
						level: 'stop',
						brief: 'too long',
						text: `It would list ${content.tooLong} rows, on some ${Math.ceil(content.tooLong / rowsOfPage)} pages; at most ${mostRows} are listed. Hold it back, and ${
							content.form === 'balance forward'
								? 'start one from a later day, or leave them in peace where its letter lists so much'
								: 'start a balance forward for them, which lists what happened since a day'
						}.`,
					},
				]
	const found = [
		...closed,
		...long,
		...unprintable({ texts: textsOf(content), unprintable: notPrinted }),
		...emailMissing({ content, customer: { email } }),
		...lockMissing({ customer: { lockFault: email === '' ? '' : lockFault(books, customer, content) } }),
		...dispute,
	]
	return [...found.filter(({ level }) => level === 'stop'), ...found.filter(({ level }) => level === 'look')]
}
