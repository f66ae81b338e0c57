import { type DayFormat, readDay } from '@/core/readDay'

/** How the file parts decimals. */
export type DecimalMark = '.' | ','

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
