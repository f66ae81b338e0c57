declare module 'fontkit' {
	export type Glyph = { id: number; advanceWidth: number; codePoints?: number[] }
	export type Subset = { includeGlyph(id: number): number; encode(): Uint8Array }
	export type Font = {
		postscriptName: string
		unitsPerEm: number
		ascent: number
		descent: number
		capHeight: number
		xHeight: number
		bbox: { minX: number; minY: number; maxX: number; maxY: number }
		hasGlyphForCodePoint(code: number): boolean
		glyphForCodePoint(code: number): Glyph
		getGlyph(id: number): Glyph
		layout(
			text: string,
			features?: Record<string, boolean>,
			script?: string,
			language?: string,
			direction?: 'ltr' | 'rtl',
		): { glyphs: Glyph[]; positions: { xAdvance: number }[] }
		createSubset(): Subset
	}
	export function create(bytes: Buffer): Font | { fonts: Font[] }
}
declare module 'png-js' {
	export default class PNG {
		constructor(bytes: Buffer)
		width: number
		height: number
		imgData: Uint8Array
		decode(done: (pixels: Uint8Array) => void): void
	}
}
declare module 'svg-to-pdfkit' {
	export default function SVGtoPDF(
		doc: PDFKit.PDFDocument,
		svg: string,
		x: number,
		y: number,
		options: { width: number; height: number; preserveAspectRatio: string; assumePt: boolean },
	): void
}
declare namespace PDFKit {
	interface PDFKitReference {
		/** Pieces of the stream, until the reference is ended. */
		buffer: Uint8Array[]
		data: Record<string, unknown>
		end(chunk?: Uint8Array | string): void
	}
}
declare module 'bidi-js' {
	type Levels = { levels: Uint8Array; paragraphs: { start: number; end: number; level: number }[] }
	export default function bidiFactory(): {
		getEmbeddingLevels(text: string, direction?: 'ltr' | 'rtl'): Levels
		getReorderSegments(text: string, levels: Levels): [number, number][]
		getMirroredCharactersMap(text: string, levels: Levels): Map<number, string>
	}
}
