import { expect, test } from 'vitest'
import type { StatementContent } from '@/core/statement'
import { invoice } from '../../tests/support'
import { a4, type Metrics, type Page } from './page'
import { layoutStatement } from './statement'

const metrics: Metrics = { width: (text, _face, size) => text.length * size * 0.5 }
const texts = (pages: Page[]) => pages.flat().flatMap((mark) => (mark.type === 'text' ? [mark.text] : []))
const { issuer, customer } = invoice([{ quantity: '1', unitPrice: '1' }])
type Item = StatementContent['items'][number]
const item = (more: Partial<Item> = {}): Item => ({
	id: 1,
	kind: 'invoice',
	number: 'T-0041',
	day: '2026-08-31',
	due: '2026-09-30',
	theirOrder: 'PO-7',
	amount: '120.00',
	open: '100.00',
	daysPastDue: 31,
	pastDue: true,
	disputed: false,
	...more,
})
const content = (more: Partial<StatementContent> = {}): StatementContent => ({
	kind: 'statement',
	layout: { name: 'statement', version: 1 },
	number: 'S-001',
	revision: 1,
	day: '2026-10-31',
	dueDay: '2026-10-31',
	currency: 'GBP',
	locale: 'en-GB',
	issuer,
	customer,
	form: 'open items',
	show: 'all',
	credits: 'apart',
	items: [item()],
	since: '',
	opening: '0.00',
	movements: [],
	buckets: ['not due', '1-30', '31-60', '61-90', 'over 90'].map((name, place) => ({
		name,
		amount: place === 2 ? '100.00' : '0.00',
	})),
	pastDue: '100.00',
	disputed: '0.00',
	unapplied: '0.00',
	balance: '100.00',
	total: '100.00',
	oldest: 31,
	charge: null,
	letter: 'past-due-2',
	spared: '',
	...more,
})
const said = (more: Partial<StatementContent> = {}) => texts(layoutStatement(content(more), metrics, null, 'Statement'))

test('it says what is owed, what of it is past due, each item with its days, and how to pay', () => {
	expect(said()).toEqual(
		expect.arrayContaining([
			'Statement',
			'S-001',
			'You owe in all',
			'£100.00',
			'of it past due',
			'31 Aug 2026',
			'PO-7',
			'30 Sep 2026',
			'31',
			'120.00',
			'Please pay what is past due, £100.00, now, quoting A1.',
			'To return with your payment',
		]),
	)
})

test('credits stand in a part of their own; what is disputed or unapplied is said', () => {
	const credit = item({ id: 2, kind: 'payment', number: 'BACS 7', open: '-20.00', pastDue: false, daysPastDue: 0 })
	const disputed = item({ id: 3, number: 'T-0042', disputed: true, pastDue: false })
	const words = said({ items: [item(), disputed, credit], unapplied: '20.00', disputed: '100.00' })
	expect(words).toEqual(
		expect.arrayContaining([
			'What you owe',
			'To your credit, not yet applied',
			'BACS 7 (payment)',
			'−20.00',
			'disputed',
		]),
	)
	expect(words.join(' ')).toContain('£20.00 stand to your credit and are not yet applied. £100.00 are in dispute')
})

test('nothing late is asked for by its due dates, and nothing owed asks for nothing and has no slip', () => {
	const calm = said({ pastDue: '0.00', items: [item({ pastDue: false, daysPastDue: 0 })] })
	expect(calm).toContain('Nothing is past due. Please pay each item by its due date, quoting A1.')
	const credit = said({ total: '-5.00', balance: '-5.00', pastDue: '0.00' })
	expect(credit).toContain('Nothing is to be paid on this statement.')
	expect(credit).toEqual(expect.arrayContaining(['To your credit in all', '£5.00']))
	expect(credit).not.toContain('To return with your payment')
})

test('past due only says so; a draft carries its mark', () => {
	expect(said({ show: 'past-due' })).toContain('Past due on this statement')
	expect(said({ number: '' })).toEqual(expect.arrayContaining(['Draft', 'set when numbered']))
})

test('carried forward it shows opening and closing balance and what happened between', () => {
	const movements = [{ day: '2026-10-05', words: 'invoice T-0050', change: '40.00', balance: '100.00' }]
	expect(said({ form: 'balance forward', since: '2026-10-01', opening: '60.00', movements })).toEqual(
		expect.arrayContaining(['Opening balance', '60.00', 'invoice T-0050', '40.00', 'Closing balance', '100.00']),
	)
})

test('nothing is drawn off the page, however long the names and however many the items', () => {
	const long = 'A very long name of a harbour trust and its several subsidiaries along the coast'
	const items = Array.from({ length: 120 }, (_, id) => item({ id, number: `${long} ${id}`, theirOrder: long }))
	const address = Array.from({ length: 6 }, () => long)
	const pages = layoutStatement(
		content({ items, customer: { ...customer, name: long, address } }),
		metrics,
		null,
		'Statement',
	)
	expect(pages.length).toBeGreaterThan(3)
	for (const mark of pages.flat()) {
		if (mark.type !== 'text') continue
		expect(mark.y).toBeGreaterThan(0)
		expect(mark.y).toBeLessThan(a4.height - 20)
		expect(mark.x + metrics.width(mark.text, mark.face, mark.size)).toBeLessThan(a4.width - 20)
	}
})
