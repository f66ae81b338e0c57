/** A day as ISO text, "2026-10-31". Days compare as text. */
export type Day = string

const pattern = /^(\d{4})-(\d{2})-(\d{2})$/

// A ledger names the same few hundred days over and over.
const times = new Map<Day, number>()
function utc(day: Day): number {
	const known = times.get(day)
	if (known !== undefined) return known
	const time = pattern.test(day) ? Date.parse(`${day}T00:00:00Z`) : Number.NaN
	// Some readers of dates take 30 February for 2 March.
	const real = Number.isNaN(time) || iso(time) !== day ? Number.NaN : time
	if (times.size > 20_000) times.clear()
	times.set(day, real)
	return real
}
const iso = (ms: number): Day => new Date(ms).toISOString().slice(0, 10)

/** Whether the text is a day that exists: "2026-02-29" is not. */
export const isDay = (text: string): boolean => !Number.isNaN(utc(text))

/** The day so many days later; earlier where `days` is negative. */
export const addDays = (day: Day, days: number): Day => iso(utc(day) + days * 86_400_000)

/** Days from `from` to `to`; negative when `to` is earlier. */
export const daysBetween = (from: Day, to: Day): number => Math.round((utc(to) - utc(from)) / 86_400_000)

/** Last day of the month that is `monthsAfter` months after the day's own. */
export function endOfMonth(day: Day, monthsAfter = 0): Day {
	const date = new Date(utc(day))
	return iso(Date.UTC(date.getUTCFullYear(), date.getUTCMonth() + monthsAfter + 1, 0))
}

/** 0 Sunday … 6 Saturday. */
export const weekday = (day: Day): number => new Date(utc(day)).getUTCDay()

const months = 'Jan Feb Mar Apr May Jun Jul Aug Sep Oct Nov Dec'.split(' ')

/** "2026-10-31" → "31 Oct 2026". */
export function dayText(day: Day): string {
	const [year, month, date] = day.split('-')
	return `${Number(date)} ${months[Number(month) - 1] ?? month} ${year}`
}
