import type { Day } from './calendar'
import { amountText, minorDigits } from './currency'

const numbers = new Map<string, Intl.NumberFormat>()
const days = new Map<string, Intl.DateTimeFormat>()
/** Days as they were written, by locale and day: a run writes the same few hundred. */
const writtenDays = new Map<string, string>()

function numberFormat(locale: string, options: Intl.NumberFormatOptions): Intl.NumberFormat {
	const key = `${locale} ${options.style ?? ''} ${options.currency ?? ''} ${options.minimumFractionDigits ?? ''} ${options.maximumFractionDigits ?? ''}`
	const known = numbers.get(key)
	if (known) return known
	const made = new Intl.NumberFormat(locale, options)
	numbers.set(key, made)
	return made
}

// Decimal text goes to Intl as text, so that no figure passes through a binary float.
const exact = (decimal: string): Intl.StringNumericLiteral => decimal as Intl.StringNumericLiteral
// Narrow no-break spaces and hyphen-minus signs are drawn as the wide space and the true minus of the same meaning.
const drawn = (text: string): string => text.replaceAll('\u202f', '\u00a0').replaceAll('-', '\u2212')

/** Decimal text of an amount with the locale's separators: "1234.50" → "1,234.50". */
export function formatAmount(amount: string, locale = 'en-GB'): string {
	const decimals = amount.split('.')[1]?.length ?? 0
	return drawn(
		numberFormat(locale, { minimumFractionDigits: decimals, maximumFractionDigits: decimals }).format(exact(amount)),
	)
}

/** The amount with its currency's sign: "1234.50", GBP → "£1,234.50". */
export function formatMoney(amount: string, currency: string, locale = 'en-GB'): string {
	const digits = minorDigits(currency)
	return drawn(
		numberFormat(locale, {
			style: 'currency',
			currency,
			minimumFractionDigits: digits,
			maximumFractionDigits: digits,
		}).format(exact(amount)),
	)
}

/** A quantity or price with the decimals it has, at least `minDecimals`: "2.375" → "2.375". */
export function formatDecimal(decimal: string, locale = 'en-GB', minDecimals = 0): string {
	return drawn(
		numberFormat(locale, { minimumFractionDigits: minDecimals, maximumFractionDigits: 6 }).format(exact(decimal)),
	)
}

/** Minor units with separators: 123450 GBP → "1,234.50". */
export const formatMinor = (minor: number | bigint, currency: string, locale = 'en-GB'): string =>
	formatAmount(amountText(BigInt(minor), currency), locale)

/** A day in the locale's short form with the month in letters: "31 Oct 2026". */
export function formatDay(day: Day, locale = 'en-GB'): string {
	const key = `${locale} ${day}`
	const written = writtenDays.get(key)
	if (written !== undefined) return written
	if (writtenDays.size > 20_000) writtenDays.clear()
	const known = days.get(locale)
	const format =
		known ?? new Intl.DateTimeFormat(locale, { day: 'numeric', month: 'short', year: 'numeric', timeZone: 'UTC' })
	if (!known) days.set(locale, format)
	const text = format.format(new Date(`${day}T00:00:00Z`)).replace('Sept', 'Sep')
	writtenDays.set(key, text)
	return text
}

/** How a day can be written: 31 Oct 2026, 31/10/2026, 2026-10-31, Saturday 31 October 2026, October 2026. */
type DayForm = 'short' | 'figures' | 'iso' | 'long' | 'month'
const dayForms: Record<Exclude<DayForm, 'short' | 'iso'>, Intl.DateTimeFormatOptions> = {
	figures: { day: '2-digit', month: '2-digit', year: 'numeric' },
	long: { weekday: 'long', day: 'numeric', month: 'long', year: 'numeric' },
	month: { month: 'long', year: 'numeric' },
}

/** A day in one of the forms, in the locale's words and order. */
export function formatDayAs(day: Day, form: DayForm, locale = 'en-GB'): string {
	if (form === 'short') return formatDay(day, locale)
	if (form === 'iso') return day
	const key = `${form} ${locale}`
	const known = days.get(key)
	const format = known ?? new Intl.DateTimeFormat(locale, { ...dayForms[form], timeZone: 'UTC' })
	if (!known) days.set(key, format)
	const written = format.format(new Date(`${day}T00:00:00Z`))
	// English sets the weekday off with a comma or not, as the data of the day has it; papers have none.
	return form === 'long' && locale.startsWith('en') ? written.replace(', ', ' ') : written
}

/** A percent as decimal text with the locale's sign: "12.5" → "12.5%", "12,5 %". */
export const formatPercent = (percent: string, locale = 'en-GB', decimals?: number): string =>
	// Intl takes a share; moved by its exponent, the text stays exact.
	drawn(
		numberFormat(locale, {
			style: 'percent',
			minimumFractionDigits: decimals ?? 0,
			maximumFractionDigits: decimals ?? 6,
		}).format(exact(`${percent}e-2`)),
	)

/** Decimal text rounded half away from zero to as many decimals, with the locale's separators. */
export const formatFixed = (decimal: string, decimals: number, locale = 'en-GB'): string =>
	drawn(
		numberFormat(locale, { minimumFractionDigits: decimals, maximumFractionDigits: decimals }).format(exact(decimal)),
	)

/** A UTC time as day and clock time on this machine: "31 Oct 2026, 09:12". */
export function formatTime(time: string): string {
	return new Intl.DateTimeFormat('en-GB', {
		day: 'numeric',
		month: 'short',
		year: 'numeric',
		hour: '2-digit',
		minute: '2-digit',
	})
		.format(new Date(time))
		.replace('Sept', 'Sep')
}
