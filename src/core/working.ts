import { amountText, minorDigits } from './currency'
import { decimalText, pow10, quotientText } from './decimal'
import { type How, type PriceInput, price } from './price'
import type { Result } from './refusal'

/** One figure with how it was reached, in words. `path` is its place in the priced document, `lines.0.net` for instance. */
type WorkingStep = { path: string; amount: bigint; text: string }

/** Every figure of a document with how it was reached; a refusal when it cannot be priced. */
export function working(input: PriceInput): Result<WorkingStep[]> {
	const steps: WorkingStep[] = []
	const priced = price(input, ({ path, amount, how }) =>
		steps.push({ path, amount, text: howWords(how, amount, input.currency) }),
	)
	return priced.ok ? { ok: true, value: steps } : priced
}

/** How a figure was reached, in words: "3 × 1.25 is 3.75". */
function howWords(how: How, amount: bigint, currency: string): string {
	const digits = minorDigits(currency)
	const text = (minor: bigint): string => amountText(minor, currency)
	const percentWords = (units: bigint, scale: number, base: bigint): string => {
		const exact = quotientText(base * units, 100n * pow10(scale + digits), digits)
		return `is ${text(amount)}${rounded(exact, text(amount))}`
	}
	switch (how.by) {
		case 'product': {
			const per = decimalText(how.per) === '1' ? '' : ` ÷ ${decimalText(how.per)}`
			const exact = quotientText(how.numerator, how.denominator * pow10(digits), digits)
			return `${decimalText(how.quantity)} × ${decimalText(how.unitPrice, digits)}${per} is ${text(amount)}${rounded(exact, text(amount))}`
		}
		case 'less':
			return how.discount === 0n
				? `the gross, ${text(how.gross)}, without discount`
				: `${text(how.gross)} − ${text(how.discount)} is ${text(amount)}`
		case 'percent':
			return `${decimalText(how.percent)}% of ${text(how.base)} (${how.of}) ${percentWords(how.percent.units, how.percent.scale, how.base)}`
		case 'amount':
			return how.off ? `${text(amount)} off ${how.of}, an amount` : `${text(amount)}, an amount`
		case 'share':
			return `its part of the document discount: ${text(how.total)} × ${text(how.net)} ÷ ${text(how.base)}, shared out in whole units, is ${text(amount)}`
		case 'sum':
			return how.nets.length > 6
				? `the sum of ${how.nets.length} amounts: the nets of the lines`
				: `${how.nets.map(text).join(' + ')}: the nets of the lines`
		case 'no tax':
			return `${how.code}: no tax is charged on ${text(how.base)}`
		case 'tax': {
			const percent = `${decimalText(how.rate)}%`
			if (how.perLine)
				return `${how.code}: ${percent} ${how.included ? 'within' : 'of'} each of ${how.parts} parts, rounded one by one, adds up to ${text(amount)}`
			if (how.included)
				return `${how.code}: ${text(how.base)} with ${percent} within; ${text(how.base)} − ${text(how.base)} ÷ (1 + ${percent}) is ${text(amount)}`
			return `${how.code}: ${percent} of ${text(how.base)} ${percentWords(how.rate.units, how.rate.scale, how.base)}`
		}
		case 'net': {
			const less = how.discounts === 0n ? '' : ` − ${text(how.discounts)} discount`
			const plus = how.charges === 0n ? '' : ` + ${text(how.charges)} charges`
			const within = how.taxWithin === null ? '' : ` − ${text(how.taxWithin)} tax within`
			return `${text(how.subtotal)} lines${less}${plus}${within}`
		}
		case 'total':
			return `${text(how.net)} net + ${text(how.tax)} tax`
		case 'rest':
			return `${text(amount)}, what is left of the invoice’s ${how.of} after the credit notes before`
		case 'due':
			return `${text(how.total)} − ${text(how.prepaid)} paid already`
	}
}

const rounded = (exact: string, value: string): string => (exact === value ? '' : `, rounded from ${exact}`)
