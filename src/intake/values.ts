import { type Day, isDay } from '@/core/calendar'

/** How the file writes days and decimals. */
export type DayFormat = 'year first' | 'day first' | 'month first'
export type DecimalMark = '.' | ','

const monthNames = 'jan feb mar apr may jun jul aug sep oct nov dec'.split(' ')

/** Reads "2026-10-03", "03/10/2026", "3 Oct 2026" and the like; null when it is no day that exists. */
export function readDay(text: string, format: DayFormat): Day | null {
	const parts = text.trim().split(/[-/. ]+/)
	if (parts.length !== 3) return null
	const [a = '', b = '', c = ''] = parts
	const order = a.length === 4 ? [a, b, c] : format === 'month first' ? [c, a, b] : [c, b, a]
	const [year = '', month = '', day = ''] = order
	const named = monthNames.indexOf(month.slice(0, 3).toLowerCase())
	const monthNumber = named >= 0 ? named + 1 : Number(month)
	const fullYear = year.length === 2 ? `20${year}` : year
	const iso = `${fullYear}-${String(monthNumber).padStart(2, '0')}-${day.padStart(2, '0')}`
	return isDay(iso) ? iso : null
}

/** Which format all the texts agree with; day first when both could be. */
export function findDayFormat(texts: string[]): DayFormat {
	const given = texts.filter(Boolean)
	if (given.some((text) => /^\d{4}\D/.test(text))) return 'year first'
	const works = (format: DayFormat) => given.every((text) => readDay(text, format) !== null)
	return !works('day first') && works('month first') ? 'month first' : 'day first'
}

/** Reads "1,240.50", "1 240,50", "-3", "(3.00)", "£12" into plain decimal text; null when it is no number. */
export function readDecimal(text: string, mark: DecimalMark): string | null {
	const bracketed = /^\((.*)\)$/.exec(text.trim())
	const bare = (bracketed?.[1] ?? text).trim().replace(/^[£$€¥]\s?|\s?(?:[A-Z]{3}|%)$/g, '')
	const grouping = mark === '.' ? /[,\s\u00a0\u202f']/g : /[.\s\u00a0\u202f']/g
	const wellGrouped =
		mark === '.'
			? /^-?\d{1,3}(?:[,\s\u00a0\u202f']\d{3})*(?:\.\d+)?$/
			: /^-?\d{1,3}(?:[.\s\u00a0\u202f']\d{3})*(?:,\d+)?$/
	const ungrouped = mark === '.' ? /^-?\d+(?:\.\d+)?$/ : /^-?\d+(?:,\d+)?$/
	const signed = bare.replace(/^(.*)-$/, '-$1').replace('\u2212', '-')
	if (!ungrouped.test(signed) && !wellGrouped.test(signed)) return null
	const plain = signed.replace(grouping, '').replace(',', '.')
	return bracketed ? `-${plain}`.replace('--', '') : plain
}

/** The mark with which more of the texts are numbers; a point when both serve. */
export function findDecimalMark(texts: string[]): DecimalMark {
	const given = texts.filter(Boolean)
	const read = (mark: DecimalMark) => given.filter((text) => readDecimal(text, mark) !== null).length
	return read(',') > read('.') ? ',' : '.'
}
