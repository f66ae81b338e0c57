import type { Face, Metrics, PageItem } from './page'

/** Text of one look. */
export type Span = { text: string; face: Face; size: number; color: string; underline?: boolean | undefined }
/** What stands on one line, without the places of its spans. */
export type Line = { spans: (Span & { width: number })[]; width: number; size: number }
export type Align = 'left' | 'center' | 'right'

/** Characters between which a line may end without a space: Han, kana, Hangul and their full-width neighbours. */
const wide =
	/[\u1100-\u11ff\u2e80-\u9fff\ua960-\ua97f\uac00-\ud7ff\uf900-\ufaff\ufe30-\ufe4f\uff00-\uffef]|[\u{20000}-\u{3ffff}]/u
const notFirst = /^[、。，．・：；？！）］｝」』〉》〕】ー々ぁぃぅぇぉっゃゅょァィゥェォッャュョ,.;:!?)\]}»”’%]/
const rightToLeft = /[\u0590-\u08ff\ufb1d-\ufdff\ufe70-\ufeff]/
const leftToRight = /[A-Za-z\u00c0-\u024f\u0370-\u058f\u1e00-\u1fff\u3040-\u9fff\uac00-\ud7ff]/

/** Whether text runs from the right: its first letter that has a direction does. */
export function runsRightToLeft(text: string): boolean {
	if (!rightToLeft.test(text)) return false
	for (const char of text) {
		if (rightToLeft.test(char)) return true
		if (leftToRight.test(char)) return false
	}
	return false
}

/**
 * Breaks text into lines no wider than `width`: between words, between wide characters, and within a word that is wider alone. A break
 * in the text is kept, a tab is a space. Nothing of it is lost but spaces at which a line ends.
 */
export function breakLines(given: readonly Span[], width: number, metrics: Metrics): Line[] {
	const spans = given.length > 1 ? merged(given) : given
	const [only] = spans
	const whole = wholeLine(spans, width, metrics)
	if (whole) return [whole]
	const lines: Line[] = []
	let line = newLine(only)
	const end = () => {
		lines.push(line)
		line = newLine(only)
	}
	for (const word of wordsOf(spans)) {
		if (word === 'break') {
			end()
			continue
		}
		if (line.spans.length > 0 && line.width + widthOf(word, metrics) > width) end()
		const pieces = line.spans.length === 0 ? fitted(withoutSpace(word), width, metrics) : [word]
		pieces.forEach((piece, index) => {
			if (index > 0) end()
			for (const span of piece) put(line, span, metrics)
		})
	}
	lines.push(line)
	return lines
}

/** Spans of one look that stand beside each other, as one. */
function merged(spans: readonly Span[]): Span[] {
	const made: Span[] = []
	for (const span of spans) {
		const last = made[made.length - 1]
		if (span.text === '') continue
		if (last && alike(last, span)) last.text += span.text
		else made.push(spanOf(span.text, span))
	}
	return made
}

/** A span of another's look. All have the same properties in the same order: thousands of them are read again and again. */
const spanOf = (text: string, { face, size, color, underline }: Span): Span => ({ text, face, size, color, underline })
const measured = (span: Span, width: number): Line['spans'][0] => {
	const { text, face, size, color, underline } = span
	return { text, face, size, color, underline, width }
}

const alike = (a: Span, b: Span): boolean =>
	a.face === b.face && a.size === b.size && a.color === b.color && a.underline === b.underline

/** All of it as one line, where that is wide enough. */
function wholeLine(spans: readonly Span[], width: number, metrics: Metrics): Line | null {
	const line: Line = { spans: [], width: 0, size: 0 }
	for (const span of spans) {
		const { text, face, size } = span
		if (breaks.test(text)) return null
		const own = metrics.width(text, face, size)
		line.width += own
		if (line.width > width) return null
		if (size > line.size) line.size = size
		line.spans.push(measured(span, own))
	}
	return spans.length === 0 ? null : line
}
const breaks = /[\n\r\t]/

const newLine = (first: Span | undefined): Line => ({ spans: [], width: 0, size: first?.size ?? 9 })

function put(line: Line, span: Span, metrics: Metrics): void {
	if (span.text === '') return
	const width = metrics.width(span.text, span.face, span.size)
	const last = line.spans.at(-1)
	if (line.spans.length === 0 || span.size > line.size) line.size = span.size
	if (last && alike(last, span)) {
		last.text += span.text
		// Widths add up at spaces, where nothing is kerned; elsewhere the two are measured together.
		const together = span.text.startsWith(' ') ? last.width + width : metrics.width(last.text, last.face, last.size)
		line.width += together - last.width
		last.width = together
		return
	}
	line.spans.push(measured(span, width))
	line.width += width
}

type Word = Span[]
const widthOf = (word: Word, metrics: Metrics): number =>
	word.reduce((sum, { text, face, size }) => sum + metrics.width(text, face, size), 0)
const withoutSpace = ([first, ...rest]: Word): Word => (first ? [spanOf(first.text.trimStart(), first), ...rest] : [])

/** Words with the space before them, each of one look or several; and the breaks between. */
function wordsOf(spans: readonly Span[]): (Word | 'break')[] {
	const words: (Word | 'break')[] = []
	for (const span of spans) {
		span.text
			.replaceAll('\t', ' ')
			.split(/\r\n|\r|\n/)
			.forEach((part, index) => {
				if (index > 0) words.push('break')
				let first = true
				for (const text of part.split(/(?= )/).flatMap(partsOf)) {
					const last = words.at(-1)
					const tail = last && last !== 'break' ? (last.at(-1)?.text ?? '') : ''
					// The beginning of a span goes on with the word before it, unless a line may end between the two.
					const glued = first && index === 0 && tail !== '' && !text.startsWith(' ') && !mayBreak(tail, text)
					if (glued && last && last !== 'break') last.push(spanOf(text, span))
					else if (text !== '') words.push([spanOf(text, span)])
					first = false
				}
			})
	}
	return words
}

const mayBreak = (before: string, after: string): boolean =>
	(wide.test(before.slice(-1)) || wide.test(after.slice(0, 1))) && !notFirst.test(after)

/** A word parted where a line may end within it. */
function partsOf(word: string): string[] {
	if (!wide.test(word)) return [word]
	const parts: string[] = []
	let part = ''
	for (const char of word) {
		if (part.trim() !== '' && mayBreak(part, char)) {
			parts.push(part)
			part = ''
		}
		part += char
	}
	return [...parts, part]
}

/** A word in pieces no wider than a line. */
function fitted(word: Word, width: number, metrics: Metrics): Word[] {
	if (widthOf(word, metrics) <= width) return [word]
	const pieces: Word[] = []
	let piece: Word = []
	let used = 0
	for (const span of word) {
		let text = ''
		for (const char of span.text) {
			const longer = metrics.width(text + char, span.face, span.size)
			if (used + longer > width && (text !== '' || piece.length > 0)) {
				if (text !== '') piece.push(spanOf(text, span))
				pieces.push(piece)
				piece = []
				used = 0
				text = ''
			}
			text += char
		}
		if (text !== '') {
			piece.push(spanOf(text, span))
			used += metrics.width(text, span.face, span.size)
		}
	}
	return piece.length > 0 ? [...pieces, piece] : pieces
}

/** The items of a line within a width, its baseline at `y`. What runs from the right is set to the right unless it is told otherwise. */
export function lineItems(line: Line, x: number, width: number, y: number, align: Align | undefined): PageItem[] {
	const fromRight =
		line.spans.some(({ text }) => rightToLeft.test(text)) &&
		runsRightToLeft(line.spans.map(({ text }) => text).join(''))
	const side = align ?? (fromRight ? 'right' : 'left')
	let left = side === 'left' ? x : side === 'right' ? x + width - line.width : x + (width - line.width) / 2
	const spans = fromRight ? [...line.spans].reverse() : line.spans
	const items: PageItem[] = []
	for (const span of spans) {
		if (span.text !== '' && span.text !== ' ')
			items.push({ type: 'text', x: left, y, text: span.text, face: span.face, size: span.size, color: span.color })
		if (span.underline)
			items.push({
				type: 'rule',
				x: left,
				y: y + span.size * 0.14,
				width: span.width,
				thickness: Math.max(0.4, span.size * 0.055),
				color: span.color,
			})
		left += span.width
	}
	return items
}
