import { minorDigits } from './currency'
import { type Decimal, parseDecimal, pow10, roundQuotient } from './decimal'

/** A line's discount as a source gives it: a percent, a share of one (0.1 is 10%), or an amount of the whole line. */
export type LineDiscount = { form: 'percent' | 'share' | 'amount'; value: string }

/**
 * A line by itself, minor units: quantity × price ÷ per, less its discount, each rounded (CALCULATION, a document, 1). Every value is
 * decimal text that was read before.
 */
export function lineNet(
	line: { quantity: string; unitPrice: string; pricePer: string },
	discount: LineDiscount,
	currency: string,
): bigint {
	const quick = quickNet(line, discount, currency)
	if (quick !== null) return quick
	const read = (text: string) => parseDecimal(text, 'line', 12)
	const [quantity, price, per] = [read(line.quantity), read(line.unitPrice), read(line.pricePer)]
	const digits = minorDigits(currency)
	if (per.units <= 0n) return 0n
	const gross = roundQuotient(
		quantity.units * price.units * pow10(per.scale + digits),
		per.units * pow10(quantity.scale + price.scale),
		'half-away',
	)
	if (discount.value === '0' || discount.value === '') return gross
	const value = read(discount.value)
	if (discount.form === 'amount') {
		const amount = inMinor(value, digits)
		return gross < 0n ? gross + amount : gross - amount
	}
	const whole = discount.form === 'percent' ? 100n : 1n
	return gross - roundQuotient(gross * value.units, whole * pow10(value.scale), 'half-away')
}

/** Digits of a decimal without its point, and how many stand behind it; null where they are more than a number holds exactly. */
function digitsOf(text: string): { units: number; scale: number } | null {
	if (text.length > 9) return null
	const point = text.indexOf('.')
	if (point < 0) return { units: Number(text), scale: 0 }
	return { units: Number(text.slice(0, point) + text.slice(point + 1)), scale: text.length - point - 1 }
}

/** `size` ÷ `unit`, rounded, halves up; whole numbers that are held exactly. */
function divided(size: number, unit: number): number {
	const rest = size % unit
	return (size - rest) / unit + (rest * 2 >= unit ? 1 : 0)
}

/** The same for a price of one and a percent or none, in whole numbers that are held exactly; null where they are too long for that. */
function quickNet(
	line: { quantity: string; unitPrice: string; pricePer: string },
	discount: LineDiscount,
	currency: string,
): bigint | null {
	if (line.pricePer !== '1' || discount.form !== 'percent') return null
	const [quantity, price, percent] = [
		digitsOf(line.quantity),
		digitsOf(line.unitPrice),
		digitsOf(discount.value || '0'),
	]
	if (!quantity || !price || !percent) return null
	const product = quantity.units * price.units
	const surplus = quantity.scale + price.scale - minorDigits(currency)
	if (!Number.isSafeInteger(product * 10_000) || surplus > 6 || percent.scale > 4) return null
	const gross = surplus < 0 ? Math.abs(product) * 10 ** -surplus : divided(Math.abs(product), 10 ** surplus)
	const share = gross * percent.units
	if (!Number.isSafeInteger(share * 2) || share < 0) return null
	const net = gross - divided(share, 100 * 10 ** percent.scale)
	return BigInt(product < 0 ? -net : net)
}

const inMinor = ({ units, scale }: Decimal, digits: number): bigint =>
	roundQuotient(units * pow10(digits), pow10(scale), 'half-away')

/** An amount in minor units, rounded to them. */
export const minorOf = (text: string, currency: string): bigint =>
	inMinor(parseDecimal(text, 'amount', 12), minorDigits(currency))
