import type { Day } from './calendar'
import { amountText, minorDigits, parseAmount } from './currency'
import { parseDecimal, pow10, roundQuotient } from './decimal'
import type { BillContent } from './document'

// What the law asks of an invoice: EU VAT directive 2006/112/EC, article 226, and EN 16931 (docs/law.md lists it with its sources).

/** First and last day of what was supplied: those of the orders (article 226 (7); BT-72, BT-73, BT-74). */
export function supplyOf(orders: readonly { day: Day }[]): BillContent['supply'] {
	const days = orders.map(({ day }) => day).sort()
	const [from, to] = [days[0], days.at(-1)]
	return from && to ? { from, to } : null
}

/**
 * Tax of a document in another currency, in the home currency (article 230; BT-111). Null where the document is in the home currency,
 * has no tax, or the worth of its currency is not known. A credit note keeps the rate of the invoice, and the last takes what is left.
 */
export function homeTax(
	{ currency, priced, rest }: Pick<BillContent, 'currency' | 'priced' | 'rest'>,
	firmHome: string,
	firmWorth: { rate: string; day: Day } | null,
): BillContent['home'] {
	const [home, worth] = [rest?.home?.currency ?? firmHome, rest?.home ?? firmWorth]
	if (currency === home || home === '' || worth === null) return null
	if (rest?.home && (rest.last || rest.takesHome)) {
		const left = parseAmount(rest.home.tax, home, 'home')
		return left === 0n ? null : { ...rest.home, tax: amountText(-left, home) }
	}
	const tax = parseAmount(priced.taxTotal, currency, 'tax')
	if (tax === 0n) return null
	const rate = parseDecimal(worth.rate, 'rate', 8)
	const minor = roundQuotient(
		tax * rate.units * pow10(minorDigits(home)),
		pow10(rate.scale + minorDigits(currency)),
		'half-away',
	)
	return { currency: home, rate: worth.rate, day: worth.day, tax: amountText(minor, home) }
}

/** Why there is no tax, in words, by `code language`, as the firm says it. */
export type Grounds = ReadonlyMap<string, string>

/** What is printed until the firm says it otherwise; by language, EXEMPT and REVERSE. */
const usual: Record<string, { EXEMPT: string; REVERSE: string }> = {
	en: { EXEMPT: 'Exempt from VAT', REVERSE: 'Reverse charge: VAT is accounted for by the customer' },
	de: { EXEMPT: 'Steuerfrei', REVERSE: 'Steuerschuldnerschaft des Leistungsempfängers' },
	fr: { EXEMPT: 'Exonéré de TVA', REVERSE: 'Autoliquidation' },
	es: { EXEMPT: 'Exento de IVA', REVERSE: 'Inversión del sujeto pasivo' },
	nl: { EXEMPT: 'Vrijgesteld van btw', REVERSE: 'Btw verlegd' },
	nb: { EXEMPT: 'Unntatt merverdiavgift', REVERSE: 'Omvendt avgiftsplikt' },
	da: { EXEMPT: 'Fritaget for moms', REVERSE: 'Omvendt betalingspligt' },
	sv: { EXEMPT: 'Undantag från moms', REVERSE: 'Omvänd betalningsskyldighet' },
}
/** Languages that grounds can be said in. */
export const groundLanguages = ['en', 'de', 'fr', 'es', 'nl', 'nb', 'da', 'sv'] as const

/** The language of a locale, of those that grounds can be said in; else English. */
export function languageOf(locale: string): string {
	const language = locale.slice(0, 2).toLowerCase().replace('no', 'nb')
	return language in usual ? language : 'en'
}

/**
 * The usual words for why no tax is due, by the code `EXEMPT` or `REVERSE`; empty for other codes. English where the language has none.
 */
export const usualGround = (code: string, language: string): string => {
	const words = usual[language] ?? usual.en
	return code === 'EXEMPT' ? (words?.EXEMPT ?? '') : code === 'REVERSE' ? (words?.REVERSE ?? '') : ''
}

/**
 * Why a document carries no tax, for each of its rows of tax at rate 0 (article 226 (11), (11a); BT-120): by the tax codes of its lines
 * where the firm has words for these, else by the customer's treatment.
 */
export function groundsOf(
	{
		customer,
		priced,
		lines,
		charges,
		locale,
	}: Pick<BillContent, 'customer' | 'priced' | 'lines' | 'charges' | 'locale'>,
	grounds: Grounds,
): BillContent['grounds'] {
	const language = languageOf(locale)
	const said = (code: string) => grounds.get(`${code} ${language}`) ?? grounds.get(`${code} en`) ?? ''
	const zero = priced.taxes.filter(({ rate }) => Number(rate) === 0).map(({ code }) => code)
	if (customer.tax === 'standard') return zero.flatMap((code) => (said(code) ? [{ code, words: said(code) }] : []))
	return zero.flatMap((code) => {
		const codes = [...new Set([...lines, ...charges].map(({ taxCode }) => taxCode))]
		const own = customer.tax === 'exempt' ? [...new Set(codes.map(said).filter(Boolean))] : []
		const words = own.length > 0 ? own : [said(code) || usualGround(code, language)]
		return words.map((one) => ({ code, words: one }))
	})
}
