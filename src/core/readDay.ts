import { type Day, isDay } from './calendar'

/** How days are written. */
export type DayFormat = 'year first' | 'day first' | 'month first'

const monthNames = 'jan feb mar apr may jun jul aug sep oct nov dec'.split(' ')

const nameOf = (part: string): number =>
	/^[a-z]{3}/i.test(part) ? monthNames.indexOf(part.slice(0, 3).toLowerCase()) : -1

/** Reads "2026-10-03", "03/10/2026", "3 Oct 2026" and the like; null when it is no day that exists. */
export function readDay(text: string, format: DayFormat): Day | null {
	const parts = text.trim().split(/[-/. ]+/)
	if (parts.length !== 3) return null
	const [a = '', b = '', c = ''] = parts
	// A month in letters says by itself which part it is.
	const monthFirst = nameOf(a) >= 0 || (nameOf(b) < 0 && format === 'month first')
	const [year = '', month = '', day = ''] = a.length === 4 ? [a, b, c] : monthFirst ? [c, a, b] : [c, b, a]
	const monthNumber = nameOf(month) >= 0 ? nameOf(month) + 1 : Number(month)
	const fullYear = year.length === 2 ? `20${year}` : year
	const iso = `${fullYear}-${String(monthNumber).padStart(2, '0')}-${day.padStart(2, '0')}`
	return isDay(iso) ? iso : null
}
