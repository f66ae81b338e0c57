import { expect, test } from 'vitest'
import { invoice } from '../../tests/support'
import { layoutBill } from './bill'
import { a4, type Metrics, type Page, wrap } from './page'

// Every character half as wide as its size: enough to see where things go.
const metrics: Metrics = { width: (text, _face, size) => text.length * size * 0.5 }
const texts = (page: Page) => page.flatMap((mark) => (mark.type === 'text' ? [mark.text] : []))
const lines = (count: number) =>
	Array.from({ length: count }, (_, index) => ({
		quantity: '1',
		unitPrice: '10',
		description: `Line ${index + 1} of the order`,
	}))

test('forty lines run over pages: each line once, the head of the table and the page’s place on each', () => {
	const pages = layoutBill(invoice(lines(70)), metrics, null, 'Invoice')
	expect(pages.length).toBeGreaterThan(2)
	const all = pages.flatMap(texts)
	for (let line = 1; line <= 70; line++)
		expect(all.filter((text) => text === `Line ${line} of the order`)).toHaveLength(1)
	pages.forEach((page, index) => {
		expect(texts(page)).toContain(`Page ${index + 1} of ${pages.length}`)
		if (texts(page).some((text) => text.startsWith('Line '))) expect(texts(page)).toContain('Description')
	})
	expect(texts(pages.at(-1) ?? [])).toContain('Total')
})

test('nothing is drawn off the page, however long the names and however many the lines', () => {
	const long = 'A very long name of a harbour trust and its several subsidiaries along the coast'
	const content = invoice(
		lines(45).map((line) => ({ ...line, description: `${line.description} ${long} ${long}` })),
		{
			customer: {
				number: 'A1',
				name: long,
				address: Array.from({ length: 6 }, () => long),
				taxNumber: 'X',
				tax: 'reverse-charge',
			},
		},
	)
	for (const page of layoutBill(content, metrics, null, 'Invoice')) {
		for (const mark of page) {
			if (mark.type !== 'text') continue
			expect(mark.y).toBeGreaterThan(0)
			expect(mark.y).toBeLessThan(a4.height - 20)
			expect(mark.x).toBeGreaterThan(20)
			expect(mark.x + metrics.width(mark.text, mark.face, mark.size)).toBeLessThan(a4.width - 20)
		}
	}
})

test('a draft carries its mark, a numbered invoice does not', () => {
	const said = (number: string) => layoutBill(invoice(lines(1), { number }), metrics, null, 'Invoice').flatMap(texts)
	expect(said('')).toEqual(expect.arrayContaining(['Draft', 'set when numbered']))
	expect(said('T-0041')).not.toContain('Draft')
	expect(said('T-0041')).toContain('Please pay £12.00 by 30 Nov 2026, quoting T-0041.')
})

test('what changes the figures is said: discounts, freight, each tax, exemption, reverse charge', () => {
	const content = invoice(
		[
			{ quantity: '1', unitPrice: '100', discountPercent: '12.5' },
			{ quantity: '1', unitPrice: '10', taxCode: 'ZERO' },
		],
		{
			discounts: [{ label: '', percent: '10' }],
			charges: [{ label: 'Freight', order: 0, amount: '6.50', taxCode: 'STD' }],
		},
	)
	const all = layoutBill(content, metrics, null, 'Invoice').flatMap(texts)
	expect(all).toEqual(
		expect.arrayContaining([
			'Less',
			'12.5%',
			'Discount 10%',
			'−9.75',
			'Freight',
			'6.50',
			'VAT (STD) 20% of 85.25',
			'17.05',
			'VAT zero (ZERO) 0% of 9.00',
		]),
	)
	const exempt = (tax: 'exempt' | 'reverse-charge') =>
		layoutBill(
			invoice([{ quantity: '1', unitPrice: '1' }], {
				customer: { ...content.customer, tax },
				grounds: [{ code: tax === 'exempt' ? 'EXEMPT' : 'REVERSE', words: `why ${tax}` }],
			}),
			metrics,
			null,
			'Invoice',
		).flatMap(texts)
	expect(exempt('exempt')).toContain('why exempt (1.00)')
	expect(exempt('reverse-charge')).toContain('why reverse-charge (1.00)')
})

test('a credit asks for nothing', () => {
	const all = layoutBill(invoice([{ quantity: '-1', unitPrice: '100' }]), metrics, null, 'Invoice').flatMap(texts)
	expect(all).toContain('Nothing is to be paid on this document.')
	expect(all.join(' ')).not.toContain('Bank of Tarn')
})

test('a credit note says what it is, what it credits, and that nothing is to be paid', () => {
	const content = invoice([{ quantity: '-2', unitPrice: '10' }], {
		kind: 'credit-note',
		number: 'CN-1',
		refersTo: { number: 'T-0041', day: '2026-10-31' },
	})
	const all = layoutBill(content, metrics, null, 'Credit note').flatMap(texts)
	expect(all).toEqual(
		expect.arrayContaining(['Credit note', 'Credits', 'T-0041 of 31 Oct 2026', 'To your credit', '−£24.00']),
	)
	expect(all.join(' ')).toContain('the amount stands to your credit')
	expect(all).not.toContain('Terms')
	expect(all.join(' ')).not.toContain('Please pay')
})

test('text is broken between words, and within one that is too wide alone', () => {
	expect(wrap('one two three', 36, metrics, 'regular', 9)).toEqual(['one two', 'three'])
	expect(wrap('abcdefghij', 18, metrics, 'regular', 9)).toEqual(['abcd', 'efgh', 'ij'])
})
