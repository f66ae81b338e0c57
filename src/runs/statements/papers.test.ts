import { describe, expect, test } from 'vitest'
import { formatAmount } from '@/core/format'
import type { StatementChoice, StatementContent } from '@/core/statement'
import { drawDocument } from '@/pdf/makeDocument'
import { notePromise } from '@/runs/customers/promises'
import { enterPayment, paymentSchema } from '@/runs/receivables/payment'
import type { Books } from '@/store/books'
import { benchRows } from '@/store/places'
import { artOf, look, lookNames } from '../../../tests/looks'
import { contentOf, stated } from '../../../tests/stated'
import { desk } from '../../../tests/support'

/** A1's statement in pounds, as it is wanted, with 12.00 of theirs unapplied beside the credit note of 5.00. */
async function paper(
	more: Partial<StatementChoice>,
	before: (books: Books) => void = () => {},
): Promise<StatementContent> {
	const { books, run } = await stated({ customers: [1], ...more }, (books) => {
		const given = { customer: 1, day: '2026-10-30', amount: '12.00', currency: 'GBP', reference: 'x', to: 'nothing' }
		enterPayment(books, desk, paymentSchema.parse(given))
		before(books)
	})
	const row = benchRows(books, run).find(({ currency }) => currency === 'GBP')
	return contentOf(books, row?.id)
}
const printed = (content: StatementContent, name: (typeof lookNames)[number]) =>
	drawDocument({ ...content, number: 'S-1' }, look('statement', name), artOf('statement'))
		.pages.flat()
		.flatMap((mark) => (mark.type === 'text' ? [mark.text] : []))
		.join(' ')
const promised = (books: Books) =>
	notePromise(books, desk, { customer: 1, day: '2026-11-09', amount: '20.00', currency: 'GBP', note: '' })

// 150.00 are owed, 130.00 of it past due; 17.00 stand to their credit.
describe.each(lookNames)('on the look %s', (name) => {
	test('what is owed in all and what is to pay now bear each other out; credits that are not listed are named', async () => {
		const apart = await paper({})
		expect(apart).toMatchObject({ total: '133.00', pastDue: '130.00', asked: '113.00', unapplied: '17.00' })
		const listed = printed(apart, name)
		expect(listed).toContain('133.00')
		expect(listed).toMatch(/You owe in all/)
		expect(listed).toContain('£113.00')
		expect(listed).not.toContain('£130.00')
		expect(listed).toContain('£17.00 stand to your credit and are not yet applied.')
		const left = await paper({ credits: 'left out' })
		expect(left.total).toBe('133.00')
		const bare = printed(left, name)
		expect(bare).toContain('Not listed: £17.00 to your credit. They are taken off the amounts above.')
		expect(bare).not.toContain('not yet applied')
		expect(bare).not.toContain(formatAmount('150.00'))
	})

	test('past due alone: its total is what is asked for, and what is promised is said and not asked for', async () => {
		const content = await paper({ show: 'past-due' }, promised)
		expect(content).toMatchObject({ total: '93.00', asked: '93.00', promised: '20.00', pastDue: '130.00' })
		const text = printed(content, name)
		expect(text).toContain('Past due on this')
		expect(text).not.toContain('You owe in all')
		expect(text).toContain('£93.00')
		expect(text).toContain('£20.00 of what is past due is promised, and not asked for again.')
		expect(text).toContain('Please pay what is past due, £93.00, now')
	})

	test('balance forward shows all that happened also where only those with something past due get it', async () => {
		const content = await paper({ form: 'balance forward', since: '2026-10-01', show: 'past-due' })
		expect(content).toMatchObject({ show: 'all', total: '133.00', balance: '133.00', asked: '113.00' })
		const text = printed(content, name)
		expect(text).toContain('You owe in all')
		expect(text).not.toContain('Past due on this')
	})
})
