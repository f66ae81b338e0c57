import type { Marks } from './marks'

/** A line as it stands on paper: the line of the file that it is from, its page, and its place on that below blank ones, all from 1. */
export type Printed = { line: number; page: number; of: number; text: string }

/** More than any line of a report has; what is longer is no report. */
const longestLine = 5000

export class NoReport extends Error {}

// What tells a printer how to print, and is not printed.
// biome-ignore lint/suspicious/noControlCharactersInRegex: it is control characters that are taken away
const printerWords = /\u001b(?:[&()*][^@-Z]*[@-Z]|\[[0-9;]*[A-Za-z]|.)/g

// biome-ignore lint/suspicious/noControlCharactersInRegex: a printer goes back by 0x08
const typedOver = /(.)\u0008+(.)/gu

/** Lets later text stand over earlier: what is printed twice, or underlined, is there once. */
function over(under: string, above: string): string {
	if (/^[_\s]*$/.test(above) && under.trim() !== '') return under
	let text = ''
	for (let place = 0; place < Math.max(under.length, above.length); place++) {
		const [below, upper] = [under[place] ?? ' ', above[place] ?? ' ']
		text += below === ' ' || (below === '_' && upper !== ' ') ? upper : below
	}
	return text
}

const atEights = (text: string): string => {
	if (!text.includes('\t')) return text
	let out = ''
	for (const char of text) out += char === '\t' ? ' '.repeat(8 - (out.length % 8)) : char
	return out
}

// Frames that are drawn round what stands on a page are rules and gaps.
const across = /[\u2500\u2501\u2550]/g
const frames = /[\u2502-\u254f\u2551-\u257f]/g

/** A line of the file without returns and backspaces: what they print over is there once. */
function flat(raw: string): string {
	const text = raw.replace(printerWords, '')
	return text
		.replace(typedOver, (_, one, two) => (one === '_' ? two : one))
		.split('\r')
		.map(atEights)
		.reduce(over)
		.replace(across, '-')
		.replace(frames, ' ')
		.trimEnd()
		.normalize('NFC')
}

/**
 * Parts the text of a report into its lines as they stand on paper: pages by form feeds, by carriage control (`1` a new page, `0` and `-` blank
 * lines before, `+` over the line above), or by a count of lines.
 * @throws NoReport where a line is longer than printers print
 */
export function printedLines(
	{ control, pageLines }: Pick<Marks, 'control' | 'pageLines'>,
	put: (line: Printed) => void,
) {
	let rest = ''
	let [line, page, of, printed] = [0, 1, 0, 0]
	let last: Printed | null = null
	// A page begins only once something stands before it.
	let begun = false
	const flush = () => {
		if (last) put(last)
		last = null
	}
	const add = (text: string) => {
		flush()
		if (pageLines > 0 && printed >= pageLines) turn()
		printed++
		// Blank lines at the head of a page say nothing, and some pages have more of them than others.
		if (of === 0 && text === '') return
		of++
		begun = true
		last = { line, page, of, text }
	}
	const turn = () => {
		flush()
		if (begun) page++
		of = 0
		printed = 0
	}
	const raw = (given: string) => {
		line++
		if (given.length > longestLine) throw new NoReport(`Line ${line} has over ${longestLine} characters.`)
		const pieces = given.split('\f')
		for (const [place, piece] of pieces.entries()) {
			if (place > 0) turn()
			if (place < pieces.length - 1 && piece.trim() === '') continue
			if (!control) {
				add(flat(piece))
				continue
			}
			const [mark, text] = [piece[0] ?? ' ', flat(piece.slice(1))]
			if (mark === '1') turn()
			if (mark === '+' && last !== null) {
				const above: Printed = last
				last = { ...above, text: over(above.text, text).trimEnd() }
				continue
			}
			for (let blank = mark === '-' ? 2 : mark === '0' ? 1 : 0; blank > 0; blank--) add('')
			add(text)
		}
	}
	const through = (last: boolean) => {
		const parts = rest.split('\n')
		rest = last ? '' : (parts.pop() ?? '')
		if (rest.length > longestLine * 4) throw new NoReport(`Line ${line + 1} has over ${longestLine} characters.`)
		for (const part of parts) raw(part.endsWith('\r') ? part.slice(0, -1) : part)
	}
	return {
		write: (text: string) => {
			rest += text
			if (text.includes('\n') || rest.length > longestLine * 4) through(false)
		},
		end: () => {
			if (rest !== '') through(true)
			flush()
		},
	}
}
