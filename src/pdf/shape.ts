import type { Font, Glyph } from 'fontkit'
import { openFace } from './faces'

const mostWords = 60_000

/** Glyphs with their advances, in the order in which they are set; `codes` are the characters that each stands for. */
export type Shaped = { glyphs: number[]; advances: number[]; width: number; codes: string[] }

/** Words with the space before them, so that a line is a short list of cached pieces. */
export const wordsOf = (text: string): string[] => text.split(/(?= )/)

const shapers = new Map<string, (word: string) => Shaped>()

function shaperOf(face: string): (word: string) => Shaped {
	const known = shapers.get(face)
	if (known) return known
	const own = openFace(face)
	const made = own.shaped ? wholeShaper(own.font) : pairShaper(own.font)
	shapers.set(face, made)
	return made
}

/** The glyphs of a word of one face. */
export const shape = (face: string, word: string): Shaped => shaperOf(face)(word)

/** Width of a stretch of one face, thousandths of its size. */
export function widthOf(face: string, text: string): number {
	const shaper = shaperOf(face)
	if (openFace(face).shaped) return shaper(text).width
	let width = 0
	for (const word of wordsOf(text)) width += shaper(word).width
	return width
}

/**
 * Glyphs and kerned advances of words. Kerning is asked of the font once a pair of characters and then remembered: shaping
 * whole words anew costs twenty times as much, and gives the same, since no ligature is wanted.
 */
function pairShaper(font: Font): (word: string) => Shaped {
	const cache = new Map<string, Shaped>()
	const glyphs = new Map<string, Pick<Glyph, 'id' | 'advanceWidth'>>()
	const kerning = new Map<string, number>()
	const scale = 1000 / font.unitsPerEm
	const glyphOf = (char: string): Pick<Glyph, 'id' | 'advanceWidth'> => {
		const known = glyphs.get(char)
		if (known) return known
		const glyph = font.glyphForCodePoint(char.codePointAt(0) ?? 0)
		// A glyph works its advance out at each look, so the two figures that are needed are kept.
		const kept = { id: glyph.id, advanceWidth: glyph.advanceWidth }
		glyphs.set(char, kept)
		return kept
	}
	const kernOf = (left: string, right: string): number => {
		const pair = left + right
		const known = kerning.get(pair)
		if (known !== undefined) return known
		const run = font.layout(pair, { kern: true, liga: false, clig: false, calt: false })
		const plain =
			run.glyphs.length === 2 && run.glyphs[0]?.id === glyphOf(left).id && run.glyphs[1]?.id === glyphOf(right).id
		const kern = plain ? (run.positions[0]?.xAdvance ?? 0) - glyphOf(left).advanceWidth : 0
		kerning.set(pair, kern)
		return kern
	}
	return (word) => {
		const known = cache.get(word)
		if (known) return known
		if (cache.size > mostWords) cache.clear()
		const chars = [...word]
		const made: Shaped = { glyphs: [], advances: [], width: 0, codes: chars }
		chars.forEach((char, index) => {
			const next = chars[index + 1]
			const { id, advanceWidth } = glyphOf(char)
			const advance = (advanceWidth + (next === undefined ? 0 : kernOf(char, next))) * scale
			made.glyphs.push(id)
			made.advances.push(advance)
			made.width += advance
		})
		cache.set(word, made)
		return made
	}
}

/** Whole stretches of a script whose letters join, as the font shapes them, already in the order from the left. */
function wholeShaper(font: Font): (text: string) => Shaped {
	const cache = new Map<string, Shaped>()
	const scale = 1000 / font.unitsPerEm
	return (text) => {
		const known = cache.get(text)
		if (known) return known
		if (cache.size > mostWords) cache.clear()
		const run = font.layout(text, undefined, undefined, undefined, 'rtl')
		const advances = run.positions.map(({ xAdvance }) => xAdvance * scale)
		const made: Shaped = {
			glyphs: run.glyphs.map(({ id }) => id),
			advances,
			width: advances.reduce((sum, advance) => sum + advance, 0),
			codes: run.glyphs.map(({ codePoints }) => String.fromCodePoint(...(codePoints ?? []))),
		}
		cache.set(text, made)
		return made
	}
}
