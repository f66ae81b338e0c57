import { parseAmount } from '@/core/currency'
import { formatDay, formatMoney } from '@/core/format'
import { itemTable, noFields } from '@/core/letter'
import { chargeNumber, numberedStatement, type StatementContent, statementSchema } from '@/core/statement'
import { ownTexts } from './bill'
import type { DocumentKind } from './kind'

/**
 * Whether the figures of a statement bear each other out: its buckets less its credits make its balance; what stands on it, or its opening
 * balance and what happened, come to its total; and it asks for what is past due, less what stands to their credit and is promised.
 */
function verify(content: StatementContent): string {
	const { form, show, credits } = content
	const minor = (amount: string) => parseAmount(amount, content.currency, 'amount')
	const sum = (amounts: string[]) => amounts.reduce((total, amount) => total + minor(amount), 0n)
	const [balance, total, unapplied] = [minor(content.balance), minor(content.total), minor(content.unapplied)]
	const owed = sum(content.buckets.map(({ amount }) => amount))
	const listed = sum(content.items.map(({ open }) => open))
	if (owed - unapplied !== balance) return 'does not add up'
	if (content.asked === '') return (form === 'open items' ? listed : balance) === total ? '' : 'does not add up'
	const [asked, promised] = [minor(content.asked), minor(content.promised)]
	const late = minor(content.pastDue) - unapplied
	if (asked + promised !== (late > 0n ? late : 0n)) return 'asks for another amount than is past due'
	if (form === 'open items') {
		const pastDue = sum(content.items.filter((item) => item.pastDue).map(({ open }) => open))
		if (pastDue !== minor(content.pastDue)) return 'has another amount past due than stands on it'
	} else if (minor(content.opening) + sum(content.movements.map(({ change }) => change)) !== balance)
		return 'has movements that do not make its balance'
	if (show === 'past-due') return total === asked ? '' : 'does not add up'
	const whole = form === 'balance forward' ? balance : credits === 'left out' ? listed - unapplied : listed
	return whole === balance && total === balance ? '' : 'does not add up'
}

/** What is taken off what is past due in a letter, where something is. */
const lessOf = ({ asked, unapplied, promised }: StatementContent): [string, string][] =>
	asked === ''
		? []
		: [
				['to your credit', unapplied],
				['promised', promised],
			].flatMap(([words = '', amount = '']): [string, string][] => (Number(amount) > 0 ? [[words, `-${amount}`]] : []))

export const statementKind: DocumentKind<StatementContent> = {
	kind: 'statement',
	schema: statementSchema,
	words: {
		name: 'Statement',
		noun: 'statement',
		nouns: 'statements',
		run: 'statements as of',
		unit: 'item',
		drop: {
			button: 'Drop all',
			question: 'Drop these statements?',
			meaning: 'Nothing is numbered yet. The drafts are put away with their notes; the ledger stays as it is.',
			yes: 'Drop the statements',
		},
		close: 'A closed run can be read but no longer changed.',
	},
	register: { prefix: 'ST-{year}-', yearly: 1 },
	letters: {
		statement: {
			name: 'Statement',
			subject: 'Statement {number} from {firm}, as of {as of}',
			body: `Dear {customer},

our statement {number} as of {as of} is attached. It comes to {amount}, of which {past due} is past due.

If a payment has crossed with this message, or anything is not as you expect, answer it and we will look at it at once.

With kind regards
{firm}`,
		},
		'past-due-1': {
			name: 'Past due, 1',
			subject: 'Statement {number} from {firm}: {past due} past due',
			body: `Dear {customer},

our statement as of {as of} is attached. {past due} of it is past its due date:

{items past due}

It may have slipped by; would you see to it, or tell us when we may expect it? If your payment has crossed with this message, please forget it.

With kind regards
{firm}`,
		},
		'past-due-2': {
			name: 'Past due, 2',
			subject: '{past due} is past due: statement {number} from {firm}',
			body: `Dear {customer},

{past due} is past due on your account, the oldest item by {days late} days:

{items past due}

Please pay it within seven days, or tell us what keeps you from it. The statement as of {as of} is attached.

{firm}`,
		},
		'past-due-3': {
			name: 'Past due, 3',
			subject: 'Last request: {past due} past due, statement {number} from {firm}',
			body: `Dear {customer},

we have written before about what is past due on your account. It is now {past due}, the oldest item by {days late} days:

{items past due}

Unless it is paid within seven days we must hold further deliveries and take the matter on. If you dispute an item, tell us which and why.

{firm}`,
		},
	},
	letter: ({ letter }) => letter,
	fields: (content) => {
		const { locale, currency } = content
		const late = content.items.filter(({ pastDue }) => pastDue)
		return {
			...noFields,
			customer: content.customer.name,
			number: content.number,
			amount: formatMoney(content.total, currency, locale),
			firm: content.issuer.name,
			'as of': formatDay(content.day, locale),
			'past due': formatMoney(content.asked || content.pastDue, currency, locale),
			'days late': String(content.oldest),
			items: itemTable(content.items, content),
			'items past due': itemTable(late, content, lessOf(content)),
		}
	},
	texts: ({ customer, issuer, items, movements }) => [
		...[customer.name, customer.number, ...customer.address, ...ownTexts(customer)],
		...[issuer.name, ...issuer.address, issuer.country, ...issuer.bank],
		...[issuer.taxNumber, issuer.email, issuer.phone, issuer.closingWords],
		...items.flatMap(({ number, theirOrder }) => [number, theirOrder]),
		...movements.map(({ words }) => words),
	],
	count: ({ items }) => items.length,
	numbered: numberedStatement,
	bills: false,
	enters: ({ charge, day, currency, number }) =>
		charge && {
			kind: 'charge',
			side: 'debit',
			number: chargeNumber(number),
			day,
			dueDay: day,
			amount: parseAmount(charge.amount, currency, 'charge'),
			theirOrder: '',
			note: charge.working.join('; '),
			charged: charge.parts.length > 0 ? charge.parts : charge.items.map((id) => ({ id, amount: 0, interest: 0 })),
		},
	verify,
}
