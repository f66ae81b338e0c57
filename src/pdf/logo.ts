import { deflateSync, inflateSync } from 'node:zlib'
import PNG from 'png-js'
import type { Result } from '@/core/refusal'
import type { PdfDict, PdfObject } from './objects'
import { svgFault } from './svgBounds'

/** A logo made ready once, to be put into many documents. */
export type Logo = {
	sha256: string
	/** Width ÷ height. */
	ratio: number
	/** Points across, of a picture made of points; null for one of lines. */
	pixels: number | null
	/** The picture as an object of a PDF file, one unit wide and high. */
	object: PdfObject
}

const refused = (message: string): Result<Logo> => ({ ok: false, refusal: { path: 'logo', message } })

/**
 * Makes a logo ready from PNG, JPEG or SVG bytes. Refused: other kinds, a damaged picture, an SVG that uses text, gradients,
 * filters or pictures inside (only filled and stroked shapes are taken).
 * @param kept whether the books have it: it was taken by the rules of its day, and papers that bear it must be made again
 */
export async function readLogo(type: string, bytes: Buffer, sha256: string, kept = false): Promise<Result<Logo>> {
	if (type === 'image/png') return readPng(bytes, sha256)
	if (type === 'image/jpeg') return readJpeg(bytes, sha256)
	if (type === 'image/svg+xml') return readSvg(bytes.toString('utf8'), sha256, kept)
	return refused('The picture must be a PNG, a JPEG or an SVG file.')
}

async function readPng(bytes: Buffer, sha256: string): Promise<Result<Logo>> {
	try {
		// What the head says is looked at before anything is unpacked: a few kilobytes can hold gigabytes of one colour.
		const { width, height } = pngSize(bytes)
		if (width * height > mostPixels)
			return refused(`The picture has ${width} × ${height} points; 2000 × 2000 are enough.`)
		const png = new PNG(bytes)
		// The decoder throws where nobody can catch it when the data is cut short, so it is tried here first.
		inflateSync(Buffer.from(png.imgData), { maxOutputLength: (width * 8 + 4) * height + 4096 })
		const pixels = Buffer.from(await new Promise<Uint8Array>((resolve) => png.decode(resolve)))
		const count = width * height
		const colours = Buffer.alloc(count * 3)
		const alpha = Buffer.alloc(count)
		for (let index = 0; index < count; index++) {
			pixels.copy(colours, index * 3, index * 4, index * 4 + 3)
			alpha[index] = pixels[index * 4 + 3] ?? 255
		}
		const picture = {
			Type: 'XObject',
			Subtype: 'Image',
			Width: width,
			Height: height,
			BitsPerComponent: 8,
			Filter: 'FlateDecode',
		}
		const packedColours = deflateSync(colours, { level: 9 })
		const packedAlpha = alpha.every((value) => value === 255) ? null : deflateSync(alpha, { level: 9 })
		const mask = packedAlpha && { dict: { ...picture, ColorSpace: 'DeviceGray' }, stream: packedAlpha }
		const object: PdfObject = {
			dict: { ...picture, ColorSpace: 'DeviceRGB', ...(mask ? { SMask: mask } : {}) },
			stream: packedColours,
		}
		return { ok: true, value: { sha256, ratio: width / height, pixels: width, object } }
	} catch {
		return refused('The PNG cannot be read; it may be damaged. Save it again and choose the new file.')
	}
}

/** A JPEG goes into the file as it is (ISO 32000-2, 7.4.8); its head says how large it is and how many colours it has. */
function readJpeg(bytes: Buffer, sha256: string): Result<Logo> {
	const head = jpegHead(bytes)
	if (!head) return refused('The JPEG cannot be read; it may be damaged. Save it again and choose the new file.')
	const { width, height, colours, turn } = head
	if (width * height > mostJpegPixels)
		return refused(`The picture has ${width} × ${height} points; 2000 × 2000 are enough.`)
	const space = colours === 1 ? 'DeviceGray' : colours === 3 ? 'DeviceRGB' : null
	if (space === null)
		return refused('The JPEG is made for a printing press (CMYK). Save it as RGB and choose the new file.')
	const dict = {
		...{ Type: 'XObject', Subtype: 'Image', Width: width, Height: height },
		...{ BitsPerComponent: 8, ColorSpace: space, Filter: 'DCTDecode' },
	}
	const object: PdfObject = { dict, stream: bytes }
	if (turn === 1) return { ok: true, value: { sha256, ratio: width / height, pixels: width, object } }
	const matrix = upright[turn]
	if (!matrix) return refused('The JPEG is to be seen mirrored. Save it as it is to be seen and choose the new file.')
	const turned: PdfObject = {
		dict: { Type: 'XObject', Subtype: 'Form', BBox: [0, 0, 1, 1], Resources: { XObject: { I: object } } },
		stream: Buffer.from(`${matrix} cm /I Do`),
	}
	const [wide, tall] = turn === 3 ? [width, height] : [height, width]
	return { ok: true, value: { sha256, ratio: wide / tall, pixels: wide, object: turned } }
}

/** How a picture that a camera took on its side is set upright in a square of one unit, by its orientation (Exif 2.32, 4.6.4). */
const upright: Record<number, string> = { 3: '-1 0 0 -1 1 1', 6: '0 -1 1 0 0 1', 8: '0 1 -1 0 1 0' }

/** The orientation that a camera noted, from the segment that begins at `at`; 1, upright, without one. */
function orientationAt(bytes: Buffer, at: number, length: number): number {
	const tiff = bytes.subarray(at + 10, at + 2 + length)
	if (bytes.toString('latin1', at + 4, at + 8) !== 'Exif' || tiff.length < 14) return 1
	const little = tiff.toString('latin1', 0, 2) === 'II'
	const short = (from: number) =>
		from + 2 > tiff.length ? 0 : little ? tiff.readUInt16LE(from) : tiff.readUInt16BE(from)
	const first = little ? tiff.readUInt32LE(4) : tiff.readUInt32BE(4)
	for (let entry = 0; entry < Math.min(short(first), 100); entry++) {
		const from = first + 2 + entry * 12
		if (short(from) === 0x0112) return short(from + 8) >= 1 && short(from + 8) <= 8 ? short(from + 8) : 1
	}
	return 1
}

/** Size and colours of a JPEG, from its frame (ITU-T T.81, B.2.2); null where it has none, is not of 8 bits, or is cut short. */
function jpegHead(bytes: Buffer): { width: number; height: number; colours: number; turn: number } | null {
	if (bytes.length < 4 || bytes.readUInt16BE(0) !== 0xffd8 || bytes.lastIndexOf(Buffer.from([0xff, 0xd9])) < 4)
		return null
	let turn = 1
	for (let at = 2; at + 9 < bytes.length; ) {
		if (bytes[at] !== 0xff) return null
		const marker = bytes[at + 1] ?? 0
		if (marker === 0xff) {
			at++
			continue
		}
		// Baseline, extended and progressive frames; lossless and arithmetic ones no reader need know.
		if (marker >= 0xc0 && marker <= 0xc2) {
			const [bits, height, width] = [bytes[at + 4], bytes.readUInt16BE(at + 5), bytes.readUInt16BE(at + 7)]
			return bits === 8 && width > 0 && height > 0 ? { width, height, colours: bytes[at + 9] ?? 0, turn } : null
		}
		if (marker === 0xda || (marker >= 0xc3 && marker <= 0xcf && ![0xc4, 0xc8, 0xcc].includes(marker))) return null
		if (marker === 0xe1 && turn === 1) turn = orientationAt(bytes, at, bytes.readUInt16BE(at + 2))
		at += 2 + bytes.readUInt16BE(at + 2)
	}
	return null
}

/** A JPEG is not unpacked here, and telephones take large ones. */
const mostJpegPixels = 50_000_000
const mostPixels = 4_000_000

/** Points across and down, from the first chunk (ISO/IEC 15948, 11.2.2). @throws where the bytes are no PNG */
function pngSize(bytes: Buffer): { width: number; height: number } {
	if (bytes.length < 33 || bytes.toString('latin1', 12, 16) !== 'IHDR') throw new Error('no PNG')
	return { width: bytes.readUInt32BE(16), height: bytes.readUInt32BE(20) }
}

/** What was refused from the beginning: no picture in the books has it. */
const neverTaken = /<(text|image|filter|mask|pattern|linearGradient|radialGradient|foreignObject|script)\b/i
/** Elements that draw by what lies elsewhere, run something, or are not taken. */
const strange =
	/<(text|image|filter|mask|pattern|linearGradient|radialGradient|foreignObject|script|style|use|a|animate\w*|set|iframe|video|audio)\b/i
/** Attributes that run or fetch something, and declarations by which a few letters become many. */
const lively =
	/\son\w+\s*=|javascript:|(href|src)\s*=\s*["']?\s*[^"'#\s]|url\(\s*["']?\s*[^"'#\s)]|@import|<!ENTITY|<!DOCTYPE[^>]*\[/i

/** Draws the SVG once on a page of its own size and keeps what was drawn. */
async function readSvg(svg: string, sha256: string, kept: boolean): Promise<Result<Logo>> {
	const size = svgSize(svg)
	if (!size) return refused('The SVG needs a viewBox, or a width and a height.')
	if (!kept && lively.test(svg))
		return refused('The SVG fetches or runs something. Save it again as plain SVG, of shapes alone.')
	if ((kept ? neverTaken : strange).test(svg)) {
		return refused(
			'The SVG holds text, pictures, gradients, styles or filters. Turn text into paths and use plain colours, or choose a PNG.',
		)
	}
	const fault = svgFault(svg, kept)
	if (fault) return refused(fault)
	const [width, height] = size
	// Loaded where an SVG is drawn: it takes longer than many papers.
	const [{ default: PDFDocument }, { default: SVGtoPDF }] = await Promise.all([
		import('pdfkit'),
		import('svg-to-pdfkit'),
	])
	const scratch = new PDFDocument({ size: [width, height], margin: 0, compress: false })
	try {
		SVGtoPDF(scratch, svg, 0, 0, { width, height, preserveAspectRatio: 'none', assumePt: true })
	} catch {
		return refused('The SVG cannot be read. Save it again as plain SVG and choose the new file.')
	}
	const content = Buffer.concat(scratch.page.content.buffer)
	const states = Object.entries<PDFKit.PDFKitReference>(scratch.page.ext_gstates).map(
		([name, ref]): [string, PdfObject] => [name, { dict: ref.data as PdfDict }],
	)
	const packed = deflateSync(content, { level: 9 })
	const object: PdfObject = {
		dict: {
			Type: 'XObject',
			Subtype: 'Form',
			BBox: [0, 0, width, height],
			Matrix: [1 / width, 0, 0, 1 / height, 0, 0],
			Filter: 'FlateDecode',
			Resources: { ExtGState: Object.fromEntries(states) },
		},
		stream: packed,
	}
	return { ok: true, value: { sha256, ratio: width / height, pixels: null, object } }
}

function svgSize(svg: string): [number, number] | null {
	const head = /<svg\b[^>]*>/i.exec(svg)?.[0] ?? ''
	const box = /viewBox=["']\s*[-\d.]+[ ,]+[-\d.]+[ ,]+([\d.]+)[ ,]+([\d.]+)/i.exec(head)
	const side = (name: string) => Number(new RegExp(`\\b${name}=["']([\\d.]+)`, 'i').exec(head)?.[1])
	const width = box ? Number(box[1]) : side('width')
	const height = box ? Number(box[2]) : side('height')
	return width > 0 && height > 0 ? [width, height] : null
}
