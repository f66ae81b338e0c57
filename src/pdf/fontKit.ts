import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { deflateSync } from 'node:zlib'
import { create, type Font, type Glyph } from 'fontkit'
import type { Face, Metrics } from '@/layout/page'

/*
 * Every document embeds its fonts, yet no document makes a subset of its own: subsets are made once a process for a set of
 * character blocks, and a document takes the set that its own characters need. So the same document gets the same bytes,
 * whatever else is made beside it.
 *
 *   document's text ──► blocks it needs ──► subset of each face (cached: bytes compressed once, widths, map to Unicode)
 *   word ──► glyphs and kerning (cached) ──► text operator of that subset (cached)
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
const files: Record<Face, string> = {
	regular: '400Regular/SourceSans3_400Regular.ttf',
	bold: '600SemiBold/SourceSans3_600SemiBold.ttf',
}
export const faces: Face[] = ['regular', 'bold']

/** Texts whose widths are kept, a face. */
const mostMeasured = 20_000

type Word = { glyphs: number[]; advances: number[]; width: number }
export type FaceSubset = {
	face: Face
	name: string
	/** The font file, compressed. */
	file: Buffer
	fileLength: number
	toUnicode: Buffer
	/** Advance widths by glyph of the subset, thousandths of the size. */
	widths: number[]
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
export type Subset = Record<Face, FaceSubset>

export type FontKit = {
	metrics: Metrics
	/** Characters of the text that no document could print, each once. */
	unprintable: (text: string) => string[]
	/** The subset that a document with these characters embeds. */
	subsetFor: (characters: Iterable<string>) => Subset
}

const mostWords = 60_000
let opened: FontKit | null = null

/** The fonts of this process, opened at the first call. */
export function fontKit(): FontKit {
	opened ??= openFonts()
	return opened
}

function openFonts(): FontKit {
	const folder = join(process.env.NORTH_TALLY_ROOT ?? process.cwd(), 'node_modules/@expo-google-fonts/source-sans-3')
	const open = (face: Face): Font => {
		const font = create(readFileSync(join(folder, files[face])))
		if ('fonts' in font) throw new Error(`${files[face]} is a collection, not one face.`)
		return font
	}
	const fonts: Record<Face, Font> = { regular: open('regular'), bold: open('bold') }
	const shape: Record<Face, (word: string) => Word> = { regular: shaper(fonts.regular), bold: shaper(fonts.bold) }
	const printable = new Map<string, boolean>()
	const has = (char: string): boolean => {
		const known = printable.get(char)
		if (known !== undefined) return known
		const found = char === '\n' || faces.every((face) => fonts[face].hasGlyphForCodePoint(char.codePointAt(0) ?? 0))
		printable.set(char, found)
		return found
	}
	const subsets = new Map<string, Subset>()
	// What stands on one document mostly stands on the next: labels, the firm's own lines, days.
	const measured: Record<Face, Map<string, number>> = { regular: new Map(), bold: new Map() }
	return {
		metrics: {
			width: (text, face, size) => {
				const known = measured[face].get(text)
				if (known !== undefined) return (known * size) / 1000
				let width = 0
				for (const word of words(text)) width += shape[face](word).width
				if (measured[face].size >= mostMeasured) measured[face].clear()
				measured[face].set(text, width)
				return (width * size) / 1000
			},
		},
		unprintable: (text) => {
			if (allInBase.test(text)) return []
			const missing = new Set<string>()
			for (const char of text) if (!has(char)) missing.add(char)
			return [...missing]
		},
		subsetFor: (characters) => {
			const needed = new Set<number>()
			for (const char of characters) {
				const code = char.codePointAt(0) ?? 0
				if (!inBase.has(code)) needed.add(blockOf(code))
			}
			const sorted = [...needed].sort((a, b) => a - b)
			const key = sorted.join(' ')
			const known = subsets.get(key)
			if (known) return known
			if (subsets.size >= mostSubsets) subsets.clear()
			const more = sorted.flatMap((block) => range(block * 16, block * 16 + 15))
			const codes = [...base, ...more.filter((code) => !inBase.has(code))]
			const made: Subset = {
				regular: makeSubset('regular', fonts.regular, codes, shape.regular),
				bold: makeSubset('bold', fonts.bold, codes, shape.bold),
			}
			subsets.set(key, made)
			return made
		},
	}
}

/** Words with the space before them, so that a line is a short list of cached pieces. */
const words = (text: string): string[] => text.split(/(?= )/)

/**
 * Glyphs and kerned advances of words. Kerning is asked of the font once a pair of characters and then remembered: shaping
 * whole words anew costs twenty times as much, and gives the same, since no ligature is wanted.
 */
function shaper(font: Font): (word: string) => Word {
	const cache = new Map<string, Word>()
	const glyphs = new Map<string, Glyph>()
	const kerning = new Map<string, number>()
	const glyphOf = (char: string): Glyph => {
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
		const made: Word = { glyphs: [], advances: [], width: 0 }
		chars.forEach((char, index) => {
			const next = chars[index + 1]
			const { id, advanceWidth } = glyphOf(char)
			const advance = advanceWidth + (next === undefined ? 0 : kernOf(char, next))
			made.glyphs.push(id)
			made.advances.push(advance)
			made.width += advance
		})
		cache.set(word, made)
		return made
	}
}

const hex = (value: number): string => value.toString(16).padStart(4, '0')

function makeSubset(face: Face, font: Font, codes: number[], shape: (word: string) => Word): FaceSubset {
	const subset = font.createSubset()
	const place = new Map<number, number>([[0, 0]])
	const widths: number[] = [font.getGlyph(0).advanceWidth]
	const unicode: number[] = [0xfffd]
	for (const code of codes) {
		if (!font.hasGlyphForCodePoint(code)) continue
		const glyph = font.glyphForCodePoint(code)
		const id = subset.includeGlyph(glyph.id)
		if (!place.has(glyph.id)) unicode[id] = code
		place.set(glyph.id, id)
		widths[id] = glyph.advanceWidth
	}
	const file = subset.encode()
	// Parts of composed glyphs that no character asked for have places of their own.
	for (let id = 0; id < widths.length; id++) {
		widths[id] ??= 0
		unicode[id] ??= 0xfffd
	}
	const { bbox } = font
	return {
		face,
		name: `${face === 'regular' ? 'NTLYRG' : 'NTLYSB'}+${font.postscriptName}`,
		file: deflateSync(file, { level: 9 }),
		fileLength: file.length,
		toUnicode: deflateSync(toUnicodeMap(unicode), { level: 9 }),
		widths,
		descriptor: {
			ascent: font.ascent,
			descent: font.descent,
			capHeight: font.capHeight,
			xHeight: font.xHeight,
			bbox: [bbox.minX, bbox.minY, bbox.maxX, bbox.maxY],
		},
		show: shower(place, widths, shape),
	}
}

function shower(place: Map<number, number>, widths: number[], shape: (word: string) => Word): (text: string) => string {
	const cache = new Map<string, string>()
	const showWord = (word: string): string => {
		const known = cache.get(word)
		if (known !== undefined) return known
		if (cache.size > mostWords) cache.clear()
		const { glyphs, advances } = shape(word)
		let codes = '<'
		glyphs.forEach((glyph, index) => {
			const id = place.get(glyph) ?? 0
			const kern = (widths[id] ?? 0) - (advances[index] ?? 0)
			codes += hex(id)
			if (kern !== 0) codes += `>${kern}<`
		})
		codes += '>'
		cache.set(word, codes)
		return codes
	}
	return (text) => `[${words(text).map(showWord).join('').replaceAll('><', '').replaceAll('<>', '')}] TJ`
}

/** ISO 32000, 9.10.3: which character each glyph stands for, so that text can be selected and searched. */
function toUnicodeMap(unicode: number[]): Buffer {
	const ranges: string[] = []
	for (let from = 0; from < unicode.length; from += 100) {
		const part = unicode.slice(from, from + 100)
		ranges.push(
			`${part.length} beginbfchar\n${part.map((code, index) => `<${hex(from + index)}> <${hex(code)}>`).join('\n')}\nendbfchar`,
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
