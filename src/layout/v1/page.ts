import type { Face, Metrics, Page } from '../page'

export type { Face, Metrics, Page } from '../page'

/** A4 in points. */
export const paper = { width: 595.28, height: 841.89 }

type TextStyle = { face?: Face; size?: number; color?: string; align?: 'left' | 'right' | 'center' }

/** Breaks text into lines no wider than `width` points; a word that is wider alone is broken within. */
export function wrap(text: string, width: number, metrics: Metrics, face: Face, size: number): string[] {
	if (metrics.width(text, face, size) <= width) return [text]
	const lines: string[] = []
	let line = ''
	for (const word of text.split(' ')) {
		const longer = line ? `${line} ${word}` : word
		if (metrics.width(longer, face, size) <= width) {
			line = longer
			continue
		}
		if (line) lines.push(line)
		line = ''
		for (const char of word) {
			if (metrics.width(line + char, face, size) > width && line) {
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
