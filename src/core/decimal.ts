import { z } from 'zod'
import { refuse } from './refusal'

/** An exact decimal: `units` ÷ 10^`scale`. 12.50 is { units: 1250n, scale: 2 }. */
export type Decimal = { units: bigint; scale: number }

/** What is done with half a minor unit (CALCULATION, first paragraph). */
export type Rounding = 'half-away' | 'half-even'

const pattern = /^([+-]?)(\d+)(?:\.(\d+))?$/
const powers = Array.from({ length: 40 }, (_, n) => 10n ** BigInt(n))

/** 10 to the power n, for 0 ≤ n < 40. */
export const pow10 = (n: number): bigint => powers[n] ?? 10n ** BigInt(n)

/** Digits before the mark that a figure may have; what comes to more is no quantity, price or amount, but a code in the wrong place. */
const mostDigits = 15
/** A text that is longer is no figure, and is not looked at. */
const longest = 200
const shown = (text: string): string => (text.length > 40 ? `${text.slice(0, 40)}…` : text)

/**
 * Reads "12.50", "-3" or a whole JSON number. Refused at `path`: anything else, a binary fraction, more than `mostDigits` digits before the
 * mark, and more than `maxScale` decimals that are not zero.
 */
export function parseDecimal(value: unknown, path: string, maxScale: number): Decimal {
	const text = typeof value === 'number' && Number.isSafeInteger(value) ? String(value) : value
	if (typeof text !== 'string') {
		return refuse(path, `${JSON.stringify(value) ?? 'Nothing'} is not a decimal. Write it as text, such as "12.50".`)
	}
	const match = text.length > longest ? null : pattern.exec(text.trim())
	if (!match)
		return refuse(path, `"${shown(text)}" is not a number. Write digits with a point for decimals, such as 12.50.`)
	const decimals = (match[3] ?? '').replace(/0+$/, '')
	if (decimals.length > maxScale) {
		return refuse(path, `"${shown(text)}" has ${decimals.length} decimals; at most ${maxScale} are kept here.`)
	}
	if ((match[2] ?? '').replace(/^0+/, '').length > mostDigits)
		return refuse(path, `"${shown(text)}" has more than ${mostDigits} digits before the mark. Correct it.`)
	const units = BigInt((match[2] ?? '0') + decimals)
	return { units: match[1] === '-' ? -units : units, scale: decimals.length }
}

/** The nearest whole number to `numerator` ÷ `denominator`, exact; halves go as `rounding` says. */
export function roundQuotient(numerator: bigint, denominator: bigint, rounding: Rounding): bigint {
	const negative = numerator < 0n !== denominator < 0n
	const n = numerator < 0n ? -numerator : numerator
	const d = denominator < 0n ? -denominator : denominator
	const whole = n / d
	const twice = (n % d) * 2n
	const up = twice > d || (twice === d && (rounding === 'half-away' || whole % 2n === 1n))
	const size = up ? whole + 1n : whole
	return negative ? -size : size
}

/** `percent` of `amount` (minor units), rounded to whole minor units. */
export function percentOf(amount: bigint, percent: Decimal, rounding: Rounding): bigint {
	return roundQuotient(amount * percent.units, 100n * pow10(percent.scale), rounding)
}

/** The decimal as plain text with at least `minScale` decimals: 12.5 → "12.50" for 2. */
export function decimalText(value: Decimal, minScale = 0): string {
	const scale = Math.max(value.scale, minScale)
	const units = value.units * pow10(scale - value.scale)
	const digits = (units < 0n ? -units : units).toString().padStart(scale + 1, '0')
	const text = scale === 0 ? digits : `${digits.slice(0, -scale)}.${digits.slice(-scale)}`
	return units < 0n ? `-${text}` : text
}

/** Plain decimal text with at least so many decimals: "2.1" → "2.10" for 2. */
export function withDecimals(text: string, decimals: number): string {
	const point = text.indexOf('.')
	if (decimals === 0 || text === '') return text
	return point < 0 ? `${text}.${'0'.repeat(decimals)}` : text.padEnd(point + 1 + decimals, '0')
}

/** `numerator` ÷ `denominator` as text, exact when it ends within eight decimals, else cut there with "…". */
export function quotientText(numerator: bigint, denominator: bigint, minScale: number): string {
	const scaled = numerator * pow10(8)
	const exact = scaled % denominator === 0n
	const text = decimalText({ units: scaled / denominator, scale: 8 })
	if (!exact) return `${text}…`
	const [whole = '0', decimals = ''] = text.split('.')
	const kept = decimals.replace(/0+$/, '').padEnd(minScale, '0')
	return kept ? `${whole}.${kept}` : whole
}

/** Compares two quotients of whole numbers with positive denominators: below, at or above 0. */
export const compareQuotients = (a: { over: bigint; under: bigint }, b: { over: bigint; under: bigint }): number => {
	const difference = a.over * b.under - b.over * a.under
	return difference < 0n ? -1 : difference > 0n ? 1 : 0
}

const percentText = /^(\d{1,2}(\.\d{1,4})?|100)$/

/** A percent as it is typed: 0 to 100 with at most four decimals. */
export const percentCode = (words: string) => z.string().trim().regex(percentText, words)
/** The same, or nothing. */
export const percentOrNone = (words: string) =>
	z
		.string()
		.trim()
		.refine((text) => text === '' || percentText.test(text), words)

// A number that has no needless nought, as most have none.
const barest = /^(?:-?[1-9]\d*|0|-?(?:0|[1-9]\d*)\.\d*[1-9])$/

/** A number as plain decimal text without needless noughts: "0012.50" → "12.5", "1.5E-2" → "0.015"; other text as it is. */
export function plainNumber(text: string): string {
	if (barest.test(text)) return text
	const match = /^([+-]?)(\d*)(?:\.(\d*))?(?:[eE]([+-]?\d{1,3}))?$/.exec(text)
	if (!match) return text
	const [, sign = '', whole = '', decimals = '', exponent = '0'] = match
	let digits = whole + decimals
	let point = whole.length + Number(exponent)
	if (point <= 0) {
		digits = '0'.repeat(1 - point) + digits
		point = 1
	}
	digits = digits.padEnd(point, '0')
	const before = digits.slice(0, point).replace(/^0+(?=\d)/, '')
	const after = digits.slice(point).replace(/0+$/, '')
	const plain = after === '' ? before : `${before}.${after}`
	return sign === '-' && plain !== '0' ? `-${plain}` : plain
}
