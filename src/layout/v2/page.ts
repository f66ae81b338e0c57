import type { Face, Metrics, Page } from '../page'

export { a4, type Face, type Metrics, type Page } from '../page'

type TextStyle = { face?: Face; size?: number; color?: string; align?: 'left' | 'right' | 'center' }

/** Text as it is printed: a tab is a space. */
export const printed = (text: string): string => text.replaceAll('\t', ' ')

/** Breaks text into lines no wider than `width` points; a word that is wider alone is broken within. A break in the text is kept. */
export function wrap(text: string, width: number, metrics: Metrics, face: Face, size: number): string[] {
	if (!/[\t\n]/.test(text)) return wrapLine(text, width, metrics, face, size)
	return printed(text)
		.split(/\r?\n/)
		.flatMap((part) => wrapLine(part, width, metrics, face, size))
}

function wrapLine(text: string, width: number, metrics: Metrics, face: Face, size: number): string[] {
	const fits = (line: string) => metrics.width(line, face, size) <= width
	if (fits(text)) return [text]
	const lines: string[] = []
	let line = ''
	for (const word of text.split(' ')) {
		const longer = line ? `${line} ${word}` : word
		if (fits(longer)) {
			line = longer
			continue
		}
		if (line) lines.push(line)
		line = ''
		for (const char of word) {
			if (line && !fits(line + char)) {
				lines.push(line)
				line = ''
			}
			line += char
		}
	}
	return [...lines, line]
}

/** Puts text on a page with its left edge, right edge or middle at `x`. */
export function write(page: Page, metrics: Metrics, x: number, y: number, text: string, style: TextStyle = {}): void {
	if (text === '') return
	const { face = 'regular', size = 9, color = ink, align = 'left' } = style
	const width = align === 'left' ? 0 : metrics.width(text, face, size)
	const left = align === 'right' ? x - width : align === 'center' ? x - width / 2 : x
	page.push({ type: 'text', x: left, y, text, face, size, color })
}

export const ink = '20262e'
export const mute = '66655c'
export const hair = 'b9b4a6'
