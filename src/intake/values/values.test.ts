import { describe, expect, test } from 'vitest'
import { orderOfDay, readDay } from '@/core/readDay'
import { markOf, readFigure } from './figure'

describe('figures as files write them', () => {
	test.each([
		['1,240.50', 'point', '1240.5'],
		['1 240,50', 'comma', '1240.5'],
		['1\u202f240,50', 'comma', '1240.5'],
		['1.240,5', 'comma', '1240.5'],
		["1'862.09", 'point', '1862.09'],
		['£12', 'point', '12'],
		['kr 14,50', 'comma', '14.5'],
		['kr. 14,50', 'comma', '14.5'],
		['-€5', 'point', '-5'],
		['(3.00)', 'point', '-3'],
		['3.00-', 'point', '-3'],
		['−4', 'point', '-4'],
		['5 CR', 'point', '-5'],
		['+2', 'point', '2'],
		['1234,-', 'comma', '1234'],
		['.5', 'point', '0.5'],
		['0012.50', 'point', '12.5'],
		['1O', 'point', null],
		['1,2', 'point', null],
		['12,34,567', 'point', null],
		['1,234,56', 'point', null],
		['(-5)', 'point', null],
		['12.50 each', 'point', null],
		['12%', 'point', null],
		['', 'point', null],
		['1234567890123456', 'point', null],
		['0.1234567', 'point', null],
	] as const)('%s with a %s is %s', (text, mark, value) => {
		const read = readFigure(text, mark, 'amount')
		expect(read.ok ? read.figure.value : null).toBe(value)
	})

	test('a currency, a unit or a percent stands with a figure where it belongs, and nowhere else', () => {
		const holds = (text: string, what: 'amount' | 'unit' | 'percent') => {
			const read = readFigure(text, 'point', what)
			return read.ok ? [read.figure.currency, read.figure.unit, read.figure.percent] : 'refused'
		}
		expect(holds('€12.50', 'amount')).toEqual(['EUR', '', false])
		expect(holds('12.50 USD', 'amount')).toEqual(['USD', '', false])
		expect(holds('$12.50', 'amount')).toEqual(['', '', false])
		expect(holds('EUR 12 USD', 'amount')).toBe('refused')
		expect(holds('20 m', 'unit')).toEqual(['', 'm', false])
		expect(holds('20kg', 'unit')).toEqual(['', 'kg', false])
		expect(holds('20x', 'unit')).toBe('refused')
		expect(holds('€20', 'unit')).toBe('refused')
		expect(holds('12.5 %', 'percent')).toEqual(['', '', true])
	})

	test.each([
		['1,250.5', 'point'],
		['1.250,5', 'comma'],
		['2,50', 'comma'],
		['1.234.567', 'comma'],
		['0,125', 'comma'],
		['1234,-', 'comma'],
		['1,250', 'either'],
		['€1.250', 'either'],
		['1250', null],
		['Rope', null],
	] as const)('%s says %s of the mark', (text, says) => {
		expect(markOf(text)).toBe(says)
	})
})

describe('days as files write them', () => {
	test.each([
		['03/10/2026', 'day first', '2026-10-03'],
		['10/03/2026', 'month first', '2026-10-03'],
		['2026-10-03', 'day first', '2026-10-03'],
		['2026-10-03T23:30:00Z', 'day first', '2026-10-03'],
		['2026-10-05 14:31:00', 'month first', '2026-10-05'],
		['20261005', 'day first', '2026-10-05'],
		['3 Oct 26', 'day first', '2026-10-03'],
		['October 5, 2026', 'day first', '2026-10-05'],
		['5. Oktober 2026', 'month first', '2026-10-05'],
		['5 de octubre de 2026', 'month first', '2026-10-05'],
		['5 août 2026', 'day first', '2026-08-05'],
		['5 mars 2026', 'day first', '2026-03-05'],
		['5 maj 2026', 'day first', '2026-05-05'],
		['3.10.2026', 'month first', '2026-10-03'],
		['26/10/05', 'year first', '2026-10-05'],
		['31/09/2026', 'day first', null],
		['2026-02-31', 'day first', null],
		['05/10/2026', 'year first', null],
		['yesterday', 'day first', null],
		['5 Smarch 2026', 'day first', null],
	] as const)('%s, %s, is %s', (text, format, value) => {
		expect(readDay(text, format)).toBe(value)
	})

	test.each([
		['13/10/2026', 'day first'],
		['10/13/2026', 'month first'],
		['05/10/2026', 'either'],
		['05/05/2026', null],
		['31/02/2026', null],
		['05.10.2026', null],
		['2026-10-05', null],
	] as const)('%s says %s of the order', (text, says) => {
		expect(orderOfDay(text)).toBe(says)
	})
})
