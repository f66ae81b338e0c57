import { z } from 'zod'
import { amountText, isCurrency, typedAmount } from './currency'
import { attempt, type Result, refuse } from './refusal'

// Least amounts: each in a currency, and compared with amounts of that currency alone.

/** In home's currency, and in others by their code (minor units each); a currency that is not named has none. */
type Leasts = { least: number; leasts?: Record<string, number> | undefined }
export const leastsShape = {
	least: z.number().int().min(0),
	leasts: z.record(z.string(), z.number().int().min(0)).optional(),
}

/** The least amount in a currency (minor units); 0 where none is set. */
export const leastIn = ({ least, leasts }: Leasts, currency: string, isHome: boolean): bigint =>
	BigInt(isHome ? least : (leasts?.[currency] ?? 0))

/**
 * Reads least amounts as they are typed: one of the home currency, and after semicolons those of others with their code: "5.00; JPY 800".
 * @returns minor units; refused with what is wrong where a part is no amount of its currency
 */
export function readLeasts(text: string, home: string): Result<Leasts> {
	return attempt(() => {
		let least = 0
		const leasts: Record<string, number> = {}
		for (const part of text
			.split(';')
			.map((one) => one.trim())
			.filter(Boolean)) {
			const code = /[A-Za-z]{3}/.exec(part)?.[0]?.toUpperCase() ?? home
			if (!isCurrency(code)) refuse('least', `“${part}”: ${code} is not a currency code of ISO 4217.`)
			const amount = typedAmount(part.replace(/[A-Za-z]{3}/, '').trim(), code, 'least')
			if (!amount.ok || amount.value < 0)
				refuse('least', `“${part}” is no amount of ${code}. Write it as 5.00; JPY 800.`)
			else if (code === home) least = amount.value
			else leasts[code] = amount.value
		}
		return Object.keys(leasts).length > 0 ? { least, leasts } : { least }
	})
}

/** Least amounts as they are typed. */
export const leastsText = ({ least, leasts = {} }: Leasts, home: string): string =>
	[
		amountText(BigInt(least), home),
		...Object.entries(leasts).map(([currency, minor]) => `${currency} ${amountText(BigInt(minor), currency)}`),
	].join('; ')
