import bidiFactory from 'bidi-js'
import { openFace, shaped, standInsOf } from './faces'

const bidi = bidiFactory()

/** A stretch of text of one face, in the order in which it is set from the left. */
export type Run = { face: string; text: string; fromRight: boolean }

const plainText = /^[\x20-\x7e\xa0-\xff\u2013\u2014\u2018\u2019\u201c\u201d\u2022\u2026\u20ac\u2122\u2212]*$/
const fromRight = /[\u0590-\u08ff\ufb1d-\ufdff\ufe70-\ufeff]/
const faceOfChar = new Map<string, string | null>()

const hasGlyph = (face: string, char: string): boolean =>
	openFace(face).font.hasGlyphForCodePoint(char.codePointAt(0) ?? 0)

/** The face that a character is set in: the wanted one, else the first stand-in that has it; null for none. */
export function faceFor(face: string, char: string): string | null {
	const key = face + char
	const known = faceOfChar.get(key)
	if (known !== undefined) return known
	const found = hasGlyph(face, char) ? face : (standInsOf(face).find((other) => hasGlyph(other, char)) ?? null)
	if (faceOfChar.size > 100_000) faceOfChar.clear()
	faceOfChar.set(key, found)
	return found
}

const kept = new Map<string, Run[]>()

/** Whether every face has all of a text, so that it is one run of its own. */
export const isPlain = (text: string): boolean => plainText.test(text)

/** A text as runs of one face each, from left to right as they are set (Unicode Standard Annex 9). */
export function runsOf(face: string, text: string): Run[] {
	if (plainText.test(text)) return [{ face, text, fromRight: false }]
	const key = `${face} ${text}`
	const known = kept.get(key)
	if (known) return known
	if (kept.size > 20_000) kept.clear()
	const made = fromRight.test(text) ? mixedRuns(face, text) : runsFromLeft(face, [...text])
	kept.set(key, made)
	return made
}

function runsFromLeft(face: string, chars: string[]): Run[] {
	const runs: Run[] = []
	for (const char of chars) {
		const own = faceFor(face, char) ?? face
		const last = runs.at(-1)
		if (last?.face === own) last.text += char
		else runs.push({ face: own, text: char, fromRight: false })
	}
	return runs
}

function mixedRuns(face: string, text: string): Run[] {
	const levels = bidi.getEmbeddingLevels(text)
	const mirrored = bidi.getMirroredCharactersMap(text, levels)
	const order = Array.from({ length: text.length }, (_, index) => index)
	for (const [start, end] of bidi.getReorderSegments(text, levels)) {
		const part = order.slice(start, end + 1).reverse()
		order.splice(start, part.length, ...part)
	}
	const runs: (Run & { last: number })[] = []
	let neutral = face
	for (const index of order) {
		// A character of two halves is taken once, at its first.
		const code = text.charCodeAt(index)
		if (code >= 0xdc00 && code <= 0xdfff) continue
		const char = mirrored.get(index) ?? String.fromCodePoint(text.codePointAt(index) ?? code)
		const odd = ((levels.levels[index] ?? 0) & 1) === 1
		// A space goes with what is beside it, so that words that run from the right are shaped as one stretch.
		const own = char === ' ' && odd && hasGlyph(neutral, ' ') ? neutral : (faceFor(face, char) ?? face)
		neutral = own
		const last = runs.at(-1)
		if (last && last.face === own && last.fromRight === odd) {
			last.text = odd && shaped.has(own.split('/')[0] ?? '') ? char + last.text : last.text + char
			last.last = index
		} else runs.push({ face: own, text: char, fromRight: odd, last: index })
	}
	return runs.map(({ face: own, text: words, fromRight: odd }) => ({ face: own, text: words, fromRight: odd }))
}
