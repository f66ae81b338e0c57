import { isCurrency } from '@/core/currency'
import { plainNumber } from '@/core/decimal'

/** The mark before the decimals. */
export type DecimalMark = 'point' | 'comma'
/** A figure as it was read: plain decimal text, the currency and the unit that stand with it, whether it is a percent. */
export type Figure = { value: string; currency: string; unit: string; percent: boolean }
export type FigureRead = { ok: true; figure: Figure } | { ok: false; why: string }

const signs: Record<string, string> = { '€': 'EUR', '£': 'GBP', '¥': 'JPY' }
// Signs that several currencies share say nothing alone (READING, rule 18).
const silentSigns = /^(?:\$|kr\.?)$/i
const joinedUnits = new Set('mm cm m km g kg t ml l h pcs st'.split(' '))
const spaces = /[\u00a0\u202f\u2009\u2007]/g
const minus = /[\u2212\u2013]/g

// A sign before or after a currency, the digits with their marks, a sign after them, and what else stands there.
const shape = /^([+-]?)\s*([^\d\s.,'+-]{1,4}\.?)?\s*([+-]?)\s*(\d(?:[\d.,'’ ]*[\d.,])?|[.,]\d+)(-?)(\s*)([^\d\s].*)?$/u
const wholeInPoint = /^-?\d{1,15}(?:\.\d{1,6})?$/

/** The digits and marks of a figure, as they stand; null when there are none. */
function partsOf(text: string) {
	const clean = text.replace(spaces, ' ').replace(minus, '-').trim()
	const bracketed = /^\((.*)\)$/.exec(clean)
	const inner = (bracketed?.[1] ?? clean).trim()
	// "1234,-" is a whole number.
	const match = shape.exec(inner.replace(/(\d)[.,]-$/, '$1'))
	return match && { match, bracketed: bracketed !== null, whole: /\d[.,]-$/.test(inner), inner }
}

/**
 * What a written figure says of the mark before its decimals (READING, rule 16): "point" or "comma" where it can be read one way
 * alone, "either" for one such as 1,250, null for one without a mark or no figure.
 */
export function markOf(text: string): DecimalMark | 'either' | null {
	if (!/[.,]/.test(text)) return null
	const parts = partsOf(text)
	if (!parts) return null
	if (parts.whole) return parts.inner.at(-2) === ',' ? 'comma' : 'point'
	const body = (parts.match[4] ?? '').trim()
	const [points, commas] = [body.split('.').length - 1, body.split(',').length - 1]
	if (points + commas === 0) return null
	if (points > 0 && commas > 0) return body.lastIndexOf('.') > body.lastIndexOf(',') ? 'point' : 'comma'
	const [mark, other]: DecimalMark[] = points > 0 ? ['point', 'comma'] : ['comma', 'point']
	if (points + commas > 1) return other ?? null
	const [before = '', after = ''] = body.split(/[.,]/)
	// Thousands that are parted by a space or an apostrophe leave the mark to the decimals.
	if (after.length !== 3 || /^0*$/.test(before) || /[ '’]/.test(before)) return mark ?? null
	return 'either'
}

/**
 * Reads a figure (READING, rules 16 to 18 and 21).
 * @param mark the file's mark before decimals
 * @param holds whether a unit, a percent, or neither may stand with it; a currency may with any but a unit's
 */
export function readFigure(text: string, mark: DecimalMark, holds: 'amount' | 'unit' | 'percent'): FigureRead {
	if (mark === 'point' && wholeInPoint.test(text))
		return { ok: true, figure: { value: plainNumber(text), currency: '', unit: '', percent: false } }
	const parts = partsOf(text)
	if (!parts) return { ok: false, why: 'This is not a number.' }
	const [, sign = '', before = '', inner = '', digits = '', after = '', gap = '', words = ''] = parts.match
	const tail = words.trim()
	const figure: Figure = { value: '', currency: '', unit: '', percent: false }
	let negative = parts.bracketed
	for (const one of [sign, inner, after]) if (one === '-') negative = !negative
	if ([sign, inner, after].filter((one) => one !== '').length + Number(parts.bracketed) > 1)
		return { ok: false, why: 'It has two signs.' }
	if (before !== '') {
		const currency = currencyOf(before)
		if (currency === null) return { ok: false, why: `“${before}” before a number is not known.` }
		figure.currency = currency
	}
	const credit = /^(?:(\S+) )?cr\.?$/i.exec(tail)
	if (credit) {
		if (negative) return { ok: false, why: 'It has two signs.' }
		negative = true
	}
	const rest = credit ? (credit[1] ?? '') : tail
	if (rest === '%') {
		if (holds !== 'percent') return { ok: false, why: 'A percent does not belong here.' }
		figure.percent = true
	} else if (rest !== '') {
		const currency = currencyOf(rest)
		const letters = rest.replace(/\.$/, '')
		if (holds === 'unit' && /^\p{L}+[23²³]?$/u.test(letters) && (gap !== '' || joinedUnits.has(letters.toLowerCase())))
			figure.unit = letters
		else if (currency !== null && holds !== 'unit') {
			if (figure.currency !== '' && currency !== '' && currency !== figure.currency)
				return { ok: false, why: 'It names two currencies.' }
			figure.currency ||= currency
		} else return { ok: false, why: `“${rest}” after a number is not known.` }
	}
	if (holds === 'unit' && figure.currency !== '') return { ok: false, why: 'A currency does not belong here.' }
	const plain = plainDigits(digits.trim(), mark)
	if (plain === null)
		return {
			ok: false,
			why: `It is not a number with a ${mark} before the decimals and thousands in groups of three digits.`,
		}
	const [whole = '', decimals = ''] = plain.split('.')
	if (whole.replace(/^0+/, '').length > 15) return { ok: false, why: 'It has more than 15 digits before the decimals.' }
	if (decimals.replace(/0+$/, '').length > 6) return { ok: false, why: 'It has more than 6 decimals.' }
	figure.value = plainNumber(negative ? `-${plain}` : plain)
	return { ok: true, figure }
}

/** The code of a currency that stands with a number; empty for a sign that several share, null for none. */
function currencyOf(text: string): string | null {
	const code = signs[text] ?? text.toUpperCase()
	if (code.length === 3 && isCurrency(code) && (code === text || signs[text])) return code
	return silentSigns.test(text) ? '' : null
}

/** Digits with a point before the decimals, their thousands put together; null where the groups are not of three. */
function plainDigits(text: string, mark: DecimalMark): string | null {
	const decimal = mark === 'point' ? '.' : ','
	const place = text.indexOf(decimal)
	const whole = place < 0 ? text : text.slice(0, place)
	const decimals = place < 0 ? '' : text.slice(place + 1)
	if (!/^\d*$/.test(decimals) || (place === 0 && decimals === '')) return null
	const parted = /^\d{1,3}((?:([.,'’ ])\d{3})(?:\2\d{3})*)$/.exec(whole)
	if (!/^\d*$/.test(whole) && (!parted || parted[2] === decimal)) return null
	const bare = whole.replace(/\D/g, '') || '0'
	return decimals === '' ? bare : `${bare}.${decimals}`
}
