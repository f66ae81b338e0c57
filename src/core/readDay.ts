import { type Day, isDay } from './calendar'

/** How days are written whose parts could stand for one another. */
export type DayFormat = 'year first' | 'day first' | 'month first'

/** Month names and their usual short forms in English, German, French, Spanish, Dutch, Norwegian, Danish and Swedish, without accents. */
const months = [
	'january jan januar janner janvier janv enero ene januari',
	'february feb februar fevrier fevr fev febrero februari febr',
	'march mar marz mrz maerz mars marzo maart mrt marts',
	'april apr avril avr abril abr',
	'may mai mayo mei maj',
	'june jun juni juin junio',
	'july jul juli juil juillet julio',
	'august aug aout aou agosto ago augustus augusti',
	'september sep sept septembre septiembre',
	'october oct oktober okt octobre octubre',
	'november nov novembre noviembre',
	'december dec dezember dez decembre diciembre dic desember des',
]
const monthOf = new Map(months.flatMap((names, index) => names.split(' ').map((name) => [name, index + 1] as const)))
const fillers = new Set(['of', 'the', 'de', 'del', 'le', 'el', 'den', 'der'])

const iso =
	/^(\d{4})-(\d{1,2})-(\d{1,2})(?:[T ]\d{1,2}:\d{2}(?::\d{2}(?:[.,]\d+)?)?(?: ?[ap]m)?\s*(?:Z|[+-]\d{2}:?\d{2})?)?$/i
const time = /[ T]\d{1,2}:\d{2}(?::\d{2}(?:[.,]\d+)?)?(?: ?[ap]m)?$/i
const parted = /^(\d{1,4})( ?[-/.] ?| )(\d{1,2})\2(\d{4}|\d{1,2})$/
const digits = (text: string | undefined): number => Number(text ?? Number.NaN)

function made(year: number, month: number, day: number): Day | null {
	const full = year < 100 ? 2000 + year : year
	const text = `${full}-${String(month).padStart(2, '0')}-${String(day).padStart(2, '0')}`
	return full >= 1900 && full < 2200 && isDay(text) ? text : null
}

/**
 * Reads a day (READING, rule 15): "2026-10-03" with or without a time, "20261003", "3 Oct 2026" and "October 3, 2026" in eight
 * languages, and "03/10/2026" by `format`; with dots between the day comes first. A year of two digits is of this century.
 * @returns null when it is no day that exists, or does not fit `format`
 */
export function readDay(text: string, format: DayFormat): Day | null {
	const given = text.trim()
	const whole = iso.exec(given)
	if (whole) return made(digits(whole[1]), digits(whole[2]), digits(whole[3]))
	const compact = /^(\d{4})(\d{2})(\d{2})$/.exec(given)
	if (compact) return made(digits(compact[1]), digits(compact[2]), digits(compact[3]))
	const bare = given.replace(time, '')
	const numeric = parted.exec(bare)
	if (!numeric) return named(bare)
	const [, first = '', separator = '', b, last = ''] = numeric
	if (first.length === 4) return last.length > 2 ? null : made(digits(first), digits(b), digits(last))
	if (first.length === 3 || last.length === 1) return null
	if (separator.includes('.')) return made(digits(last), digits(b), digits(first))
	if (format === 'year first')
		return last.length === 2 && first.length === 2 ? made(digits(first), digits(b), digits(last)) : null
	return format === 'month first'
		? made(digits(last), digits(first), digits(b))
		: made(digits(last), digits(b), digits(first))
}

/** A day whose month is a word, wherever it stands. */
function named(text: string): Day | null {
	if (!/\p{L}/u.test(text)) return null
	const parts = text
		.normalize('NFD')
		.replace(/\p{M}/gu, '')
		.toLowerCase()
		.split(/[\s,./'’-]+/)
		.filter((part) => part !== '' && !fillers.has(part))
	const place = parts.findIndex((part) => monthOf.has(part))
	if (parts.length !== 3 || place < 0) return null
	const month = monthOf.get(parts[place] ?? '') ?? 0
	const [a = '', b = ''] = parts.filter((_, index) => index !== place)
	const [year, day] = /^\d{4}$/.test(a) ? [a, b] : [b, a.replace(/^(\d{1,2})(st|nd|rd|th|er|e)$/, '$1')]
	return /^\d{1,2}$/.test(day) && /^(\d{2}|\d{4})$/.test(year) ? made(Number(year), month, Number(day)) : null
}

/** What a written day says of the order of its parts: which comes first, that it could be either ("either"), or nothing (null). */
export function orderOfDay(text: string): 'day first' | 'month first' | 'either' | null {
	const numeric = parted.exec(text.trim().replace(time, ''))
	if (!numeric || numeric[2]?.includes('.') || (numeric[1]?.length ?? 0) > 2 || (numeric[4]?.length ?? 0) < 2)
		return null
	const [byDay, byMonth] = [readDay(text, 'day first'), readDay(text, 'month first')]
	if (byDay === null) return byMonth === null ? null : 'month first'
	if (byMonth === null) return 'day first'
	return byDay === byMonth ? null : 'either'
}
