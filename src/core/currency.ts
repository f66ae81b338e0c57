import { z } from 'zod'
import { decimalText, parseDecimal, pow10 } from './decimal'
import { attempt, type Result, refuse } from './refusal'

// ISO 4217, list one: the currencies whose minor unit is not a hundredth.
const exponents: Record<string, number> = Object.fromEntries([
	...'BIF CLP DJF GNF ISK JPY KMF KRW PYG RWF UGX UYI VND VUV XAF XOF XPF'.split(' ').map((code) => [code, 0]),
	...'BHD IQD JOD KWD LYD OMR TND'.split(' ').map((code) => [code, 3]),
	...'CLF UYW'.split(' ').map((code) => [code, 4]),
])
const known = new Set(Intl.supportedValuesOf('currency'))

/** Whether the text is a currency code of ISO 4217. */
export const isCurrency = (code: string): boolean => known.has(code)

/** A currency as it is typed: its code, in any case. */
export const currencyCode = z
	.string()
	.trim()
	.toUpperCase()
	.refine(isCurrency, 'Write the currency as its code, such as GBP.')

/** Decimals of a currency's minor unit: GBP 2, JPY 0, KWD 3 (ISO 4217). */
export const minorDigits = (currency: string): number => exponents[currency] ?? 2

/** Minor units as plain text: 3750 GBP → "37.50", 3750 JPY → "3750". */
export const amountText = (minor: bigint, currency: string): string =>
	decimalText({ units: minor, scale: minorDigits(currency) })

/** Reads an amount into minor units. Refused at `path`: not a number, or finer than the currency's minor unit. */
export function parseAmount(value: unknown, currency: string, path: string): bigint {
	const digits = minorDigits(currency)
	const decimal = parseDecimal(value, path, 40)
	if (decimal.scale > digits) {
		return refuse(path, `"${value}" is finer than the smallest unit of ${currency} (${digits} decimals).`)
	}
	return decimal.units * pow10(digits - decimal.scale)
}

/** The most that one amount can be, in minor units: sums of several are still held exactly by a number. */
const mostMinor = 999_999_999_999_999n
/** Whether an amount is more than can be kept. */
export const isTooMuch = (minor: bigint): boolean => minor > mostMinor || minor < -mostMinor

/** Reads an amount into minor units as a number. Refused at `path` as by `parseAmount`, and where it is more than can be kept. */
export function minorNumber(value: unknown, currency: string, path: string): number {
	const minor = parseAmount(value, currency, path)
	if (isTooMuch(minor))
		return refuse(path, `It is more than can be kept, ${amountText(mostMinor, currency)} ${currency}.`)
	return Number(minor)
}

/** An amount as a clerk types it, its thousands commas taken out: "1,250.00" → "1250.00". Any other comma stays, to be refused. */
export const plainAmount = (typed: unknown): string => {
	const text = String(typed ?? '').trim()
	return /^-?\d{1,3}(,\d{3})+(\.\d*)?$/.test(text) ? text.replaceAll(',', '') : text
}

/** Minor units of an amount as it is typed, 0 when it is left empty. Refused: not a number, or finer than the currency's minor unit. */
export const typedAmount = (typed: unknown, currency: string, path: string): Result<number> =>
	attempt(() => minorNumber(plainAmount(typed) || '0', currency, path))
