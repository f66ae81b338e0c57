import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { type DecimalMark, readFigure } from '@/intake/values/figure'
import { allocateDiscount } from './allocateDiscount'
import { addDays, daysBetween, dayText, endOfMonth, isDay, weekday } from './calendar'
import { amountText, minorDigits, parseAmount } from './currency'
import { decimalText, parseDecimal, percentOf, plainNumber, roundQuotient } from './decimal'
import { dueDate } from './dueDate'
import { fileName } from './fileName'
import { formatAmount } from './format'
import { type PriceInput, price } from './price'
import { readDay } from './readDay'
import { attempt } from './refusal'
import { countYear, registerNumber } from './register'
import { working } from './working'

const figure = (text: string, mark: DecimalMark) => {
	const read = readFigure(text, mark, 'amount')
	return read.ok ? read.figure.value : null
}

const day = fc.integer({ min: -20_000, max: 40_000 }).map((days) => addDays('2000-01-01', days))
const minor = fc.bigInt({ min: 1n - 10n ** 15n, max: 10n ** 15n - 1n })

describe('exact decimals', () => {
	test('what is written is read back the same, in every currency', () => {
		fc.assert(
			fc.property(minor, fc.constantFrom('GBP', 'JPY', 'KWD', 'CLF'), (amount, currency) => {
				const text = amountText(amount, currency)
				expect(parseAmount(text, currency, 'amount')).toBe(amount)
				expect(text.split('.')[1]?.length ?? 0).toBe(minorDigits(currency))
			}),
		)
	})

	test('rounding is never off by more than half, and turns with the sign', () => {
		fc.assert(
			fc.property(
				minor,
				fc.bigInt({ min: 1n, max: 10n ** 12n }),
				fc.constantFrom('half-away' as const, 'half-even' as const),
				(n, d, rounding) => {
					const rounded = roundQuotient(n, d, rounding)
					const error = n - rounded * d
					expect((error < 0n ? -error : error) * 2n <= d).toBe(true)
					expect(roundQuotient(-n, d, rounding)).toBe(-rounded)
				},
			),
		)
	})

	test('a hundred percent is all of it and nought percent nothing', () => {
		fc.assert(
			fc.property(minor, (amount) => {
				expect(percentOf(amount, parseDecimal('100', 'p', 4), 'half-away')).toBe(amount)
				expect(percentOf(amount, parseDecimal('0.0', 'p', 4), 'half-away')).toBe(0n)
			}),
		)
	})

	test('a figure printed for a reader is the same figure when it is read in again', () => {
		fc.assert(
			fc.property(fc.bigInt({ min: -(10n ** 12n), max: 10n ** 12n }), (amount) => {
				const text = amountText(amount, 'GBP')
				expect(figure(formatAmount(text, 'en-GB'), 'point')).toBe(plainNumber(text))
				expect(figure(formatAmount(text, 'nb-NO'), 'comma')).toBe(plainNumber(text))
			}),
		)
	})

	test('a decimal keeps its value whatever zeros it is written with', () => {
		fc.assert(
			fc.property(
				fc.bigInt({ min: 0n, max: 10n ** 10n }),
				fc.integer({ min: 0, max: 6 }),
				fc.integer({ min: 0, max: 4 }),
				(units, scale, zeros) => {
					const text = decimalText({ units, scale })
					const padded = zeros > 0 ? `${text}${scale === 0 ? '.' : ''}${'0'.repeat(zeros)}` : text
					expect(decimalText(parseDecimal(padded, 'x', 6))).toBe(decimalText(parseDecimal(text, 'x', 6)))
				},
			),
		)
	})
})

test('a document discount is shared out whole, each share within one unit of its part', () => {
	const nets = fc.array(fc.bigInt({ min: 0n, max: 10_000_000n }), { minLength: 1, maxLength: 12 })
	fc.assert(
		fc.property(nets, fc.integer({ min: 0, max: 100 }), (list, percent) => {
			const base = list.reduce((sum, net) => sum + net, 0n)
			const discount = (base * BigInt(percent)) / 100n
			const shares = allocateDiscount(discount, list)
			expect(shares.reduce((sum, share) => sum + share, 0n)).toBe(base === 0n ? 0n : discount)
			shares.forEach((share, index) => {
				const exact = base === 0n ? 0n : (list[index] ?? 0n) * discount
				const error = share * (base || 1n) - exact
				expect((error < 0n ? -error : error) < (base || 1n)).toBe(true)
			})
			expect(
				allocateDiscount(
					-discount,
					list.map((net) => -net),
				).map((share) => -share),
			).toEqual(shares)
		}),
	)
})

describe('the calendar', () => {
	test('going forward and back ends on the same day, counted in between', () => {
		fc.assert(
			fc.property(day, fc.integer({ min: 0, max: 5000 }), (from, days) => {
				const to = addDays(from, days)
				expect([isDay(to), daysBetween(from, to), addDays(to, -days)]).toEqual([true, days, from])
			}),
		)
	})

	test('a due date is never before the document, lies in the month meant, and never on a weekend when it rolls', () => {
		fc.assert(
			fc.property(
				day,
				fc.integer({ min: 1, max: 31 }),
				fc.integer({ min: 1, max: 24 }),
				(date, dayOfMonth, monthsAfter) => {
					const due = dueDate({ date, terms: { dayOfMonth, monthsAfter } })
					expect(due.ok && due.value > date && due.value <= endOfMonth(date, monthsAfter)).toBe(true)
					const rolled = dueDate({ date, terms: { net: dayOfMonth }, roll: 'next-business-day' })
					expect(rolled.ok && [1, 2, 3, 4, 5].includes(weekday(rolled.value))).toBe(true)
				},
			),
		)
	})

	test('a day as it is shown is read back as the same day', () => {
		fc.assert(
			fc.property(day, (shown) => {
				expect(readDay(dayText(shown), 'month first')).toBe(shown)
				expect(readDay(shown.split('-').reverse().join('/'), 'day first')).toBe(shown)
			}),
		)
	})
})

test('a file name made of anything is safe, not empty, and short enough', () => {
	fc.assert(
		fc.property(fc.array(fc.string({ unit: 'binary' }), { maxLength: 4 }), (parts) => {
			const name = fileName(parts, 'pdf')
			expect(name).toMatch(/^[^<>:"/\\|?*\p{Cc}]+\.pdf$/u)
			expect(name).not.toMatch(/^[ .]|[ .]\.pdf$/)
			expect(Buffer.byteLength(name)).toBeLessThanOrEqual(125)
		}),
	)
})

test('every figure of a document has its row of Working, whose amount it is', () => {
	const percent = fc.constantFrom('0.5', '7', '33.3333')
	const share = fc.oneof(
		percent.map((value) => ({ percent: value })),
		fc.constantFrom('0.01', '1.00').map((amount) => ({ amount })),
	)
	const line = fc.record({
		quantity: fc.constantFrom('3', '12.5', '-1'),
		unitPrice: fc.constantFrom('9.99', '120'),
		taxCode: fc.constantFrom('A', 'B'),
	})
	const document = fc.record({
		lines: fc.array(fc.record({ line, discounts: fc.array(percent, { maxLength: 2 }) }), {
			minLength: 1,
			maxLength: 5,
		}),
		discounts: fc.array(share, { maxLength: 2 }),
		charges: fc.array(share, { maxLength: 2 }),
	})
	fc.assert(
		fc.property(document, ({ lines, discounts, charges }) => {
			const input: PriceInput = {
				currency: 'GBP',
				taxCodes: [
					{ code: 'A', rate: '20' },
					{ code: 'B', rate: '5.5' },
				],
				lines: lines.map(({ line: own, discounts: off }) => ({
					...own,
					discounts: off.map((one) => ({ percent: one })),
				})),
				discounts,
				charges: charges.map((charge) => ({ ...charge, taxCode: 'A' })),
			}
			const [priced, steps] = [price(input), working(input)]
			fc.pre(priced.ok && steps.ok)
			if (!priced.ok || !steps.ok) return
			const { value } = priced
			const figures: [string, bigint][] = [
				...value.lines.flatMap(({ gross, net, documentDiscount }, place): [string, bigint][] => [
					[`lines.${place}.gross`, gross],
					[`lines.${place}.net`, net],
					...(documentDiscount === 0n
						? []
						: [[`lines.${place}.documentDiscount`, documentDiscount] satisfies [string, bigint]]),
				]),
				...value.discounts.map((amount, place): [string, bigint] => [`discounts.${place}`, amount]),
				...value.charges.map((amount, place): [string, bigint] => [`charges.${place}`, amount]),
				...value.taxes.map(({ tax }, place): [string, bigint] => [`taxes.${place}.tax`, tax]),
				['subtotal', value.subtotal],
				['net', value.net],
				['total', value.total],
			]
			for (const [path, amount] of figures)
				expect(steps.value.find((step) => step.path === path)).toMatchObject({
					amount,
					text: expect.stringMatching(/\d/),
				})
		}),
	)
})

test('a register’s numbers are all different, over the years too', () => {
	fc.assert(
		fc.property(
			fc.boolean(),
			fc.integer({ min: 1, max: 8 }),
			fc.array(fc.integer({ min: 2024, max: 2030 }), { maxLength: 40 }),
			(yearly, digits, years) => {
				const shape = { prefix: yearly ? 'A{year}-' : 'A-', digits, first: 1, yearly: yearly ? 1 : 0 }
				const counts = new Map<number, number>()
				const given = years.map((year) => {
					const value = counts.get(countYear(shape, year)) ?? shape.first
					counts.set(countYear(shape, year), value + 1)
					return registerNumber(shape, value, year)
				})
				expect(new Set(given).size).toBe(given.length)
			},
		),
	)
})

test('a figure has at most fifteen digits before the mark, however long what is given; it is refused at once', () => {
	const refusal = (text: string) => {
		const read = attempt(() => parseDecimal(text, 'quantity', 6))
		return read.ok ? 'taken' : read.refusal.message
	}
	expect(refusal('9'.repeat(15))).toBe('taken')
	expect(refusal(`000${'9'.repeat(15)}.50`)).toBe('taken')
	expect(refusal('4006381333931000')).toContain('more than 15 digits')
	expect(refusal('9'.repeat(9_000_000)).length).toBeLessThan(200)
})
