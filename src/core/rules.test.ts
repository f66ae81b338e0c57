import { describe, expect, test } from 'vitest'
import { fieldValues, firstLetters, letterKinds } from '@/kinds'
import { invoice } from '../../tests/support'
import { addresses, areMailboxes } from './addresses'
import { addDays, daysBetween, dayText, isDay } from './calendar'
import { amountText, parseAmount, typedAmount } from './currency'
import { parseDecimal, percentOf, roundQuotient } from './decimal'
import { orderNets } from './document'
import { dueDate, parseTerms, termsText } from './dueDate'
import { fileName } from './fileName'
import { formatAmount, formatDay, formatMoney } from './format'
import { fieldsIn, fillLetter, unknownFields } from './letter'
import { bodyParts, htmlBody, plainBody, tableText } from './messageBody'
import { attempt } from './refusal'
import { registerNumber } from './register'
import { compute } from './worked'

const first = (kind: string) => firstLetters[kind] ?? { name: '', subject: '', body: '' }

test('half a unit goes away from zero, or to the even one when asked', () => {
	const halves = [5n, 15n, 25n, -5n, -15n]
	expect(halves.map((n) => roundQuotient(n, 10n, 'half-away'))).toEqual([1n, 2n, 3n, -1n, -2n])
	expect(halves.map((n) => roundQuotient(n, 10n, 'half-even'))).toEqual([0n, 2n, 2n, 0n, -2n])
	expect(percentOf(11300n, { units: 15n, scale: 0 }, 'half-away')).toBe(1695n)
})

test('amounts are read and written by the currency’s own minor unit', () => {
	const read = (text: string, currency: string) => attempt(() => parseAmount(text, currency, 'amount'))
	expect(read('12.5', 'GBP')).toEqual({ ok: true, value: 1250n })
	expect(read('1200', 'JPY')).toEqual({ ok: true, value: 1200n })
	expect(read('12.5', 'JPY')).toMatchObject({ ok: false })
	expect(amountText(-5n, 'KWD')).toBe('-0.005')
	expect(attempt(() => parseDecimal(0.1, 'x', 6))).toMatchObject({ ok: false, refusal: { path: 'x' } })
})

test('an amount is typed with or without thousands commas; a decimal comma is refused, never taken for one', () => {
	const typed = (text: string) => typedAmount(text, 'GBP', 'amount')
	expect(
		[typed('1,250.5'), typed('1250.50'), typed(' 12,345,678 '), typed('')].map((one) => one.ok && one.value),
	).toEqual([125_050, 125_050, 1_234_567_800, 0])
	for (const text of ['12,50', '1,2500', '12,5', '1,250,5', 'ten'])
		expect(typed(text)).toMatchObject({
			ok: false,
			refusal: { message: expect.stringContaining('a point for decimals') },
		})
})

describe('terms as firms write them', () => {
	test.each([
		['30 days', { net: 30 }],
		['net 14', { net: 14 }],
		['On receipt', { net: 0 }],
		['30 days EOM', { net: 30, endOfMonth: true }],
		['45 days from the end of month', { net: 45, endOfMonth: true }],
		['15th of next month', { dayOfMonth: 15, monthsAfter: 1 }],
		['Day 20 of 2 months on', { dayOfMonth: 20, monthsAfter: 2 }],
	])('%s', (text, terms) => {
		expect(parseTerms(text)).toEqual(terms)
		expect(parseTerms(termsText(terms))).toEqual(terms)
	})

	test('what is no terms is said to be none, and a date that does not exist has no due date', () => {
		expect(parseTerms('whenever')).toBeNull()
		expect(parseTerms('32nd of next month')).toBeNull()
		expect(dueDate({ date: '2026-02-30', terms: { net: 30 } })).toMatchObject({ ok: false, refusal: { path: 'date' } })
		expect(dueDate({ date: '2026-02-01', terms: { net: -1 } })).toMatchObject({
			ok: false,
			refusal: { path: 'terms.net' },
		})
	})
})

test('days are counted over months, years and leap days', () => {
	expect(addDays('2028-02-28', 2)).toBe('2028-03-01')
	expect(daysBetween('2025-12-31', '2026-03-01')).toBe(60)
	expect([isDay('2027-02-29'), isDay('2028-02-29'), isDay('28-2-2028')]).toEqual([false, true, false])
	expect(dayText('2026-10-03')).toBe('3 Oct 2026')
})

test('file names are safe on every file system and still say what the file is', () => {
	expect(fileName(['SK-10462', 'Brack Point / Sailing: "A"'], 'pdf')).toBe('SK-10462 Brack Point - Sailing- -A-.pdf')
	expect(fileName(['山本 Ørsted Łódź'], 'pdf')).toBe('山本 Ørsted Łódź.pdf')
	expect(fileName([' ..'], 'pdf')).toBe('document.pdf')
	expect(fileName(['CON'], 'pdf')).toBe('_CON.pdf')
	expect(Buffer.byteLength(fileName(['山'.repeat(200)], 'pdf'))).toBeLessThanOrEqual(124)
	expect(fileName(['a\u0000b\u202ec'], 'pdf')).toBe('a-b-c.pdf')
})

test('numbers are padded to their digits and grow past them', () => {
	expect(registerNumber({ prefix: 'SK-', digits: 5 }, 42)).toBe('SK-00042')
	expect(registerNumber({ prefix: '', digits: 2 }, 12345)).toBe('12345')
})

test('figures and days are written as the customer’s country does, without passing through a float', () => {
	expect(formatAmount('12345678901234567.89')).toBe('12,345,678,901,234,567.89')
	expect(formatMoney('1234.50', 'GBP')).toBe('£1,234.50')
	expect(formatMoney('1234.50', 'NOK', 'nb-NO')).toBe('1\u00a0234,50\u00a0kr')
	expect(formatAmount('-3.00')).toBe('−3.00')
	expect([formatDay('2026-09-03'), formatDay('2026-10-31', 'de-DE')]).toEqual(['3 Sep 2026', '31. Okt. 2026'])
})

test('a letter names customer, number, amount and due date, and leaves an unknown mark to be seen', () => {
	const values = fieldValues(invoice([{ quantity: '2', unitPrice: '10' }]))
	expect(fillLetter(first('invoice').subject, values)).toBe('Invoice T-0041 from Tarn Chandlers')
	expect(fillLetter(first('invoice').body, values)).toContain(
		'our invoice T-0041 for £24.00 is attached. It is due on 30 Nov 2026.',
	)
	expect(fillLetter('{ Due Date } {nonsense}', values)).toBe('30 Nov 2026 {nonsense}')
	expect(fillLetter('{items}', values)).toMatch(/^Item\tQuantity\tNet, GBP\n.+\t2.*\t20\.00$/)
})

test('a table in a message is drawn where that can be, else its columns are filled up with spaces', () => {
	const table = tableText(
		['Number', 'Your order', 'Open'],
		[
			['T-1', '', '1,200.00'],
			['T-20 <b>', '', '5.00'],
		],
	)
	const body = `Dear A & B,\r\n\r\n${table}\n\nBye\tbye`
	expect(plainBody(body)).toBe(
		['Dear A & B,', '', 'Number         Open', 'T-1        1,200.00', 'T-20 <b>       5.00', '', 'Bye bye'].join('\n'),
	)
	const html = htmlBody(body) ?? ''
	expect(html).toContain('Dear A &amp; B,')
	expect([...html.matchAll(/<t[hd][^>]*right">([^<]*)</g)].map(([, cell]) => cell)).toEqual([
		'Open',
		'1,200.00',
		'5.00',
	])
	expect(html).toContain('T-20 &lt;b&gt;')
	expect(htmlBody('No table\there')).toBeNull()
})

test('lines of a message that are no table stay lines; a table begins anew where its columns are others', () => {
	const body = 'One\nTwo\n\nA\tB\n1\t2\nC\tD\tE\nx\ty\tz\nEnd'
	expect(bodyParts(body)).toEqual([
		{ text: 'One\nTwo\n' },
		{
			rows: [
				['A', 'B'],
				['1', '2'],
			],
		},
		{
			rows: [
				['C', 'D', 'E'],
				['x', 'y', 'z'],
			],
		},
		{ text: 'End' },
	])
	// What stands right is filled up on its left, and no line ends in spaces.
	expect(plainBody('No\tText\n1\tlong words\n200\tx')).toBe(' No   Text\n  1   long words\n200   x')
})

test('the nets of a document’s orders add up to its net', () => {
	const orders = ['8801', '8802'].map((number, id) => ({
		id,
		number,
		day: '2026-10-03',
		purchaseOrder: '',
		sourceFile: 'f',
	}))
	const content = invoice(
		[
			{ quantity: '3', unitPrice: '3.33' },
			{ quantity: '1', unitPrice: '10' },
		],
		{
			orders,
			discounts: [{ label: '', percent: '7.5' }],
			charges: [{ label: 'Freight', order: 1, amount: '4.00', taxCode: 'STD' }],
		},
	)
	const second = { ...content, lines: content.lines.map((line, index) => ({ ...line, order: index })) }
	expect(orderNets(second)).toEqual([924n, 1325n])
	expect(content.priced.net).toBe('22.49')
})

test('an input of another shape is refused with its place, as the worked cases are', () => {
	expect(compute('price', { currency: 'GBP', taxCodes: [], lines: [{ quantity: '1' }] })).toMatchObject({
		error: { path: 'lines.0.unitPrice' },
	})
	expect(compute('due', { date: '2026-01-01', terms: {} })).toMatchObject({ error: { path: 'terms' } })
	expect(compute('age', 'nothing')).toMatchObject({ error: { path: '' } })
})

test('every first letter names only known fields, and those of statements fill in for one', () => {
	for (const kind of letterKinds) {
		const { subject, body } = first(kind)
		expect(unknownFields(`${subject} ${body}`)).toEqual([])
		expect(fieldsIn(body)).toContain('customer')
	}
	expect(unknownFields('{number} {nummer} { Due Date }')).toEqual(['{nummer}'])
	expect(fieldsIn('{Past Due} of {amount}')).toEqual(['amount', 'past due'])
})

test('a list of addresses is well formed when each of them is', () => {
	expect(addresses('a@b.example, c@d.example;e@f.example')).toHaveLength(3)
	expect([areMailboxes(''), areMailboxes('a@b.example, c@d'), areMailboxes('a@b.example c@d.example')]).toEqual([
		true,
		false,
		true,
	])
})
