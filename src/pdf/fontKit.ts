import { deflateSync } from 'node:zlib'
import type { Face, Metrics } from '@/layout/page'
import { type OpenFace, openFace, standInsOf } from './faces'
import { pdfNumber } from './objects'
import { faceFor, isPlain, runsOf } from './runs'
import { type Shaped, shape, widthOf, wordsOf } from './shape'

/*
 * Every document embeds its fonts, yet no document makes a subset of its own: subsets are made once a process for a set of
 * character blocks, and a document takes the set that its own characters need. So the same document gets the same bytes,
 * whatever else is made beside it.
 *
 *   text ──► runs of one face each (in reading direction, stand-ins) ──► words ──► glyphs and kerning (cached) ──► text operator
 *   document's characters of a face ──► blocks it needs ──► subset (cached: bytes compressed once, widths, map to Unicode)
 *
 * Stand-ins are large, and few documents need them: their subsets have exactly the glyphs that a document uses.
 */
const range = (from: number, to: number): number[] => Array.from({ length: to - from + 1 }, (_, index) => from + index)
/** Every subset has these: Latin-1 and the punctuation of running text. */
const base = [
	...range(0x20, 0x7e),
	...range(0xa0, 0xff),
	0x2013,
	0x2014,
	0x2018,
	0x2019,
	0x201c,
	0x201d,
	0x2022,
	0x2026,
	0x20ac,
	0x2122,
	0x2212,
]
const inBase = new Set(base)
const allInBase = /^[\x20-\x7e\xa0-\xff\n]*$/
/** Other characters come in blocks of sixteen. */
const blockOf = (code: number): number => code >> 4
const mostSubsets = 400
const mostWords = 60_000

export type FaceSubset = {
	face: Face
	name: string
	bold: boolean
	italic: boolean
	/** The font file, compressed. */
	file: Buffer
	fileLength: number
	toUnicode: Buffer
	/** Advance widths by glyph of the subset, thousandths of the size. */
	widths: number[]
	/** Its dictionaries as a file has them, but for what they refer to. */
	written: { descriptor: string; descendant: string; font: string }
	descriptor: {
		ascent: number
		descent: number
		capHeight: number
		xHeight: number
		bbox: [number, number, number, number]
	}
	/** A text operator that shows `text`, kerned. */
	show: (text: string) => string
}

const measured = new Map<Face, Map<string, number>>()
const mostMeasured = 60_000

/** Widths of text by every face, stand-ins among them. */
export const metrics: Metrics = {
	width: (text, face, size) => {
		let own = measured.get(face)
		if (!own) {
			own = new Map()
			measured.set(face, own)
		}
		const known = own.get(text)
		if (known !== undefined) return (known * size) / 1000
		let width = 0
		if (isPlain(text)) width = widthOf(face, text)
		else for (const run of runsOf(face, text)) width += widthOf(run.face, run.text)
		if (own.size >= mostMeasured) own.clear()
		own.set(text, width)
		return (width * size) / 1000
	},
}

/** Characters of a text that no paper could print, each once. */
export function unprintable(text: string): string[] {
	if (allInBase.test(text)) return []
	const missing = new Set<string>()
	for (const char of text) if (char !== '\n' && faceFor('regular', char) === null) missing.add(char)
	return [...missing]
}

/** What a document embeds: a subset of each face that its texts are set in, by face. */
export function subsetsFor(texts: Iterable<{ face: Face; text: string }>): Map<string, FaceSubset> {
	const needed = new Map<string, Set<string>>()
	const pieces = new Map<string, Set<string>>()
	const seen = new Map<Face, Set<string>>()
	const into = <Value>(map: Map<string, Set<Value>>, key: string): Set<Value> => {
		const known = map.get(key)
		if (known) return known
		const made = new Set<Value>()
		map.set(key, made)
		return made
	}
	for (const { face, text } of texts) {
		const own = into(seen, face)
		if (own.has(text)) continue
		own.add(text)
		if (isPlain(text)) {
			into(needed, face)
			continue
		}
		for (const run of runsOf(face, text))
			if (openFace(run.face).shaped) into(pieces, run.face).add(run.text)
			else {
				const characters = into(needed, run.face)
				if (!allInBase.test(run.text)) for (const char of run.text) characters.add(char)
			}
	}
	const subsets = new Map<string, FaceSubset>()
	for (const [face, characters] of needed) subsets.set(face, subsetOf(face, characters))
	for (const [face, texts] of pieces) subsets.set(face, shapedSubset(face, texts))
	return new Map([...subsets].sort(([a], [b]) => (a < b ? -1 : 1)))
}

const subsets = new Map<string, FaceSubset>()

/** The subset of a face that a document with these characters embeds. */
export function subsetOf(face: Face, characters: Iterable<string>): FaceSubset {
	const standIn = standInsOf('regular').includes(face) || standInsOf('bold').includes(face)
	const wanted = new Set<number>()
	for (const char of characters) {
		const code = char.codePointAt(0) ?? 0
		if (standIn) wanted.add(code)
		else if (!inBase.has(code)) wanted.add(blockOf(code))
	}
	const sorted = [...wanted].sort((a, b) => a - b)
	const key = `${face} ${sorted.join(' ')}`
	const known = subsets.get(key)
	if (known) return known
	if (subsets.size >= mostSubsets) subsets.clear()
	const more = standIn ? [0x20, ...sorted] : sorted.flatMap((block) => range(block * 16, block * 16 + 15))
	const codes = standIn ? more : [...base, ...more.filter((code) => !inBase.has(code))]
	const made = makeSubset(openFace(face), codes)
	subsets.set(key, made)
	return made
}

const hex = (value: number): string => value.toString(16).padStart(4, '0')
/** UTF-16 of a text, as a map to Unicode has it. */
const utf16 = (text: string): string =>
	Array.from({ length: text.length }, (_, index) => hex(text.charCodeAt(index))).join('')
/** Papers from before layouts were data have their maps with one number a character. */
const isEarlier = (face: Face): boolean => face === 'regular' || face === 'bold'
const unknown = 'fffd'

function makeSubset(own: OpenFace, codes: number[]): FaceSubset {
	const { font, face } = own
	const subset = font.createSubset()
	const scale = 1000 / font.unitsPerEm
	const place = new Map<number, number>([[0, 0]])
	const widths: number[] = [font.getGlyph(0).advanceWidth * scale]
	const unicode: string[] = [unknown]
	for (const code of codes) {
		if (!font.hasGlyphForCodePoint(code)) continue
		const glyph = font.glyphForCodePoint(code)
		const id = subset.includeGlyph(glyph.id)
		if (!place.has(glyph.id)) unicode[id] = isEarlier(face) ? hex(code) : utf16(String.fromCodePoint(code))
		place.set(glyph.id, id)
		widths[id] = glyph.advanceWidth * scale
	}
	return finishSubset(own, subset.encode(), widths, unicode, place, wordsOf)
}

const shapedSubsets = new Map<string, FaceSubset>()

/** The subset of a face whose letters join: the glyphs that these stretches of text have. */
function shapedSubset(face: Face, texts: Iterable<string>): FaceSubset {
	const own = openFace(face)
	const found = new Map<number, string>()
	for (const text of texts) {
		const { glyphs, codes } = shape(face, text)
		glyphs.forEach((glyph, index) => {
			if (!found.get(glyph)) found.set(glyph, codes[index] ?? '')
		})
	}
	const glyphs = [...found].sort(([a], [b]) => a - b)
	const key = `${face} ${JSON.stringify(glyphs)}`
	const known = shapedSubsets.get(key)
	if (known) return known
	if (shapedSubsets.size >= mostSubsets) shapedSubsets.clear()
	const subset = own.font.createSubset()
	const scale = 1000 / own.font.unitsPerEm
	const place = new Map<number, number>([[0, 0]])
	const widths: number[] = [own.font.getGlyph(0).advanceWidth * scale]
	const unicode: string[] = [unknown]
	for (const [glyph, codes] of glyphs) {
		const id = subset.includeGlyph(glyph)
		place.set(glyph, id)
		unicode[id] = codes === '' ? unknown : utf16(codes)
		widths[id] = own.font.getGlyph(glyph).advanceWidth * scale
	}
	const made = finishSubset(own, subset.encode(), widths, unicode, place, (text) => [text])
	shapedSubsets.set(key, made)
	return made
}

function finishSubset(
	{ face, font, tag, bold, italic }: OpenFace,
	file: Uint8Array,
	widths: number[],
	unicode: string[],
	place: Map<number, number>,
	pieces: (text: string) => string[],
): FaceSubset {
	// Parts of composed glyphs that no character asked for have places of their own.
	for (let id = 0; id < widths.length; id++) {
		widths[id] ??= 0
		unicode[id] ??= unknown
	}
	const { bbox } = font
	const scale = 1000 / font.unitsPerEm
	const name = `${tag}+${font.postscriptName}`
	const box: [number, number, number, number] = [
		bbox.minX * scale,
		bbox.minY * scale,
		bbox.maxX * scale,
		bbox.maxY * scale,
	]
	return {
		face,
		name,
		bold,
		italic,
		file: deflateSync(file, { level: 9 }),
		fileLength: file.length,
		toUnicode: deflateSync(toUnicodeMap(unicode), { level: 9 }),
		widths,
		written: {
			descriptor: `/Type /FontDescriptor/FontName /${name}/Flags ${italic ? 68 : 4}/FontBBox [${box.map(pdfNumber).join(' ')}]/ItalicAngle ${italic ? -11 : 0}/Ascent ${pdfNumber(font.ascent * scale)}/Descent ${pdfNumber(font.descent * scale)}/CapHeight ${pdfNumber(font.capHeight * scale)}/XHeight ${pdfNumber(font.xHeight * scale)}/StemV ${bold ? 120 : 80}`,
			descendant: `/Type /Font/Subtype /CIDFontType2/BaseFont /${name}/CIDToGIDMap /Identity/CIDSystemInfo <</Registry (Adobe)/Ordering (Identity)/Supplement 0>>/W [0 [${widths.map(pdfNumber).join(' ')}]]`,
			font: `/Type /Font/Subtype /Type0/BaseFont /${name}/Encoding /Identity-H`,
		},
		descriptor: {
			ascent: font.ascent * scale,
			descent: font.descent * scale,
			capHeight: font.capHeight * scale,
			xHeight: font.xHeight * scale,
			bbox: box,
		},
		show: shower(place, widths, (word) => shape(face, word), pieces),
	}
}

function shower(
	place: Map<number, number>,
	widths: number[],
	shaped: (word: string) => Shaped,
	pieces: (text: string) => string[],
): (text: string) => string {
	const cache = new Map<string, string>()
	const showWord = (word: string): string => {
		const known = cache.get(word)
		if (known !== undefined) return known
		if (cache.size > mostWords) cache.clear()
		const { glyphs, advances } = shaped(word)
		let codes = '<'
		glyphs.forEach((glyph, index) => {
			const id = place.get(glyph) ?? 0
			const kern = (widths[id] ?? 0) - (advances[index] ?? 0)
			codes += hex(id)
			if (Math.abs(kern) > 0.001) codes += `>${Math.round(kern * 1000) / 1000}<`
		})
		codes += '>'
		cache.set(word, codes)
		return codes
	}
	return (text) => `[${pieces(text).map(showWord).join('').replaceAll('><', '').replaceAll('<>', '')}] TJ`
}

/** ISO 32000, 9.10.3: which characters each glyph stands for, so that text can be selected and searched. */
function toUnicodeMap(unicode: string[]): Buffer {
	const ranges: string[] = []
	for (let from = 0; from < unicode.length; from += 100) {
		const part = unicode.slice(from, from + 100)
		ranges.push(
			`${part.length} beginbfchar\n${part.map((code, index) => `<${hex(from + index)}> <${code}>`).join('\n')}\nendbfchar`,
		)
	}
	return Buffer.from(`/CIDInit /ProcSet findresource begin
12 dict begin
begincmap
/CIDSystemInfo << /Registry (Adobe) /Ordering (UCS) /Supplement 0 >> def
/CMapName /Adobe-Identity-UCS def
/CMapType 2 def
1 begincodespacerange
<0000><ffff>
endcodespacerange
${ranges.join('\n')}
endcmap
CMapName currentdict /CMap defineresource pop
end
end`)
}
