import fc from 'fast-check'
import { expect, test } from 'vitest'
import type { Metrics } from './page'
import { breakLines, lineItems, runsRightToLeft, type Span } from './text'

const metrics: Metrics = { width: (text, face, size) => [...text].length * size * (face === 'bold' ? 0.6 : 0.5) }
const span = (text: string, more: Partial<Span> = {}): Span => ({
	text,
	face: 'regular',
	size: 10,
	color: '000000',
	...more,
})
const said = (spans: Span[], width: number) =>
	breakLines(spans, width, metrics).map(({ spans: own }) => own.map(({ text }) => text).join(''))

test('text is broken between words, at breaks of its own, and within a word that is wider alone', () => {
	expect(said([span('one two three')], 40)).toEqual(['one two', 'three'])
	expect(said([span('first\nsecond\r\nthird')], 400)).toEqual(['first', 'second', 'third'])
	expect(said([span('abcdefghij')], 20)).toEqual(['abcd', 'efgh', 'ij'])
	expect(said([span('a\tb')], 400)).toEqual(['a b'])
	expect(said([span('')], 40)).toEqual([''])
	// What is just as wide as its place stands on one line.
	expect(said([span('one two')], 35)).toEqual(['one two'])
	expect(said([span('one two')], 34.9)).toEqual(['one', 'two'])
})

test('a word of two looks stays together, and text of one look that was given in pieces is one', () => {
	expect(said([span('pay now, SK-'), span('10482', { face: 'bold' })], 62)).toEqual(['pay now,', 'SK-10482'])
	expect(breakLines([span('Due '), span('30 Nov'), span(' 2026')], 400, metrics)).toMatchObject([
		{ spans: [{ text: 'Due 30 Nov 2026' }] },
	])
})

test('Chinese and Japanese are broken between characters, never before a full stop or a closing bracket', () => {
	expect(said([span('港湾の係留設備。点検')], 35)).toEqual(['港湾の係留設', '備。点検'].map((line) => line.slice(0)))
	expect(said([span('山本「港」')], 20)).toEqual(['山本「港」'.slice(0, 3), '港」'].map((line) => line))
	expect(said([span('서울항구 부두')], 20)).toEqual(['서울항구', '부두'])
})

const word = fc.string({
	unit: fc.constantFrom('a', 'b', 'ø', '山', '港', '.', '-', 'שלום', 'é'),
	minLength: 1,
	maxLength: 20,
})
const spans = fc.array(
	fc.record({
		text: fc.array(word, { minLength: 1, maxLength: 8 }).map((words) => words.join(' ')),
		face: fc.constantFrom('regular', 'bold'),
		size: fc.constantFrom(8, 10, 14),
	}),
	{ minLength: 1, maxLength: 5 },
)
test('whatever the text, its looks and the width: nothing is lost but spaces, and no line is wider', () => {
	fc.assert(
		fc.property(spans, fc.integer({ min: 16, max: 300 }), (given, width) => {
			const own = given.map((one) => span(one.text, one))
			const lines = breakLines(own, width, metrics)
			const bare = (texts: string[]) => texts.join('').replaceAll(' ', '')
			expect(bare(lines.flatMap((line) => line.spans.map(({ text }) => text)))).toBe(
				bare(given.map(({ text }) => text)),
			)
			for (const line of lines) {
				const alone = [...line.spans.map(({ text }) => text).join('')].length === 1
				if (!alone) expect(line.width).toBeLessThan(width + 0.001)
				expect(line.width).toBeCloseTo(
					line.spans.reduce((sum, { text, face, size }) => sum + metrics.width(text, face, size), 0),
					6,
				)
			}
		}),
		{ numRuns: 400 },
	)
})

test('Arabic and Hebrew are set from the right, what stands in them of Latin too', () => {
	expect(runsRightToLeft('12 שלום SK-1')).toBe(true)
	expect(runsRightToLeft('Port שלום')).toBe(false)
	expect(runsRightToLeft('Port of Tarn')).toBe(false)
	const [line] = breakLines([span('שלום '), span('Tarn', { face: 'bold' })], 400, metrics)
	const marks = line ? lineItems(line, 100, 200, 10, undefined) : []
	const [latin, hebrew] = marks.map((mark) => (mark.type === 'text' ? mark : null))
	expect([latin?.text, hebrew?.text]).toEqual(['Tarn', 'שלום '])
	expect((hebrew?.x ?? 0) + 25).toBeCloseTo(300, 6)
	expect(line && lineItems(line, 100, 200, 10, 'left')[0]).toMatchObject({ x: 100 })
})
