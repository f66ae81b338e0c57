import { amountText, parseAmount } from './currency'
import { priceInputOf, type Unpriced } from './document'
import { type Priced, type PriceInput, price } from './price'
import type { Result } from './refusal'

/** Every figure of a bill. */
export const priceBill = (content: Unpriced): Result<Priced> => price(billInput(content))

/**
 * What is computed for a bill. A credit note that takes the last of a line takes what is left of that line's figures, and one that takes
 * the last of its invoice what is left of every figure, so that credits in parts come to the invoice to the penny, tax by rate included.
 */
export function billInput(content: Unpriced): PriceInput {
	const input = priceInputOf(content)
	const { rest, currency } = content
	if (!rest) return input
	const turned = (amount: string): string => amountText(-parseAmount(amount, currency, 'rest'), currency)
	return {
		...input,
		lines: input.lines.map((line, index) => {
			const { credits = null, creditsCharge = null } = content.lines[index] ?? {}
			const charge = creditsCharge === null ? undefined : rest.charges[creditsCharge]
			const left = credits === null ? undefined : rest.lines[credits]
			if (charge !== undefined)
				return { ...line, given: { gross: turned(charge), discount: '0', documentDiscount: '0' } }
			if (!left) return line
			return {
				...line,
				given: {
					gross: turned(left.gross),
					discount: turned(left.discount),
					documentDiscount: turned(left.documentDiscount),
				},
			}
		}),
		...(rest.last || rest.held
			? {
					given: {
						discounts: rest.discounts.map(turned),
						taxes: rest.taxes.map((row) => ({ ...row, base: turned(row.base), tax: turned(row.tax) })),
					},
				}
			: {}),
	}
}
