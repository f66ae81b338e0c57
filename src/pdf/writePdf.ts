import PDFDocument from 'pdfkit'
import type { Mark, Page } from '@/layout/page'
import { type FaceSubset, subsetsFor } from './fontKit'
import type { Logo } from './logo'
import { runsOf } from './runs'
import { widthOf } from './shape'

/** `day` is the document's; no other time is in the file. */
export type PdfInfo = { title: string; author: string; subject: string; day: string; language?: string }
/** Pages of one size, and the pictures that they bear by hash. */
export type PdfPart = { paper: { width: number; height: number }; pages: Page[]; pictures: ReadonlyMap<string, Logo> }

/**
 * Writes pages as PDF bytes. The same parts and info give the same bytes at any time and in any process.
 * pdfkit keeps the objects and the cross-reference; the page content is written here from marks that are placed already.
 */
export async function writePdf(parts: readonly PdfPart[], info: PdfInfo): Promise<Buffer> {
	const doc = new PDFDocument({
		autoFirstPage: false,
		margin: 0,
		compress: true,
		// No standard font: pdfkit would read its metrics anew for each document.
		font: '',
		lang: info.language ?? 'en',
		displayTitle: true,
		info: {
			Title: info.title,
			Author: info.author,
			Subject: info.subject,
			Creator: 'North Tally',
			Producer: 'North Tally',
			CreationDate: new Date(`${info.day}T12:00:00Z`),
		},
	})
	const chunks: Uint8Array[] = []
	doc.on('data', (chunk: Uint8Array) => chunks.push(chunk))
	const ended = new Promise<void>((resolve, reject) => {
		doc.on('end', resolve)
		doc.on('error', reject)
	})
	const subsets = subsetsFor(textsOf(parts))
	const fonts = new Map<string, Embedded>()
	for (const [face, subset] of subsets)
		fonts.set(face, { name: `F${fonts.size + 1}`, ref: embed(doc, subset), show: subset.show })
	const images = new Map<string, { name: string; ref: PDFKit.PDFKitReference }>()
	for (const { paper, pages, pictures } of parts)
		for (const page of pages) {
			doc.addPage({ size: [paper.width, paper.height], margin: 0 })
			for (const { name, ref } of fonts.values()) doc.page.fonts[name] = ref
			for (const mark of page) {
				if (mark.type !== 'image') continue
				const picture = pictures.get(mark.sha256)
				if (!picture) continue
				const image = images.get(mark.sha256) ?? { name: `I${images.size + 1}`, ref: picture.embed(doc) }
				images.set(mark.sha256, image)
				doc.page.xobjects[image.name] = image.ref
			}
			doc.addContent(pageContent(page, paper.height, fonts, images))
		}
	doc.end()
	await ended
	return Buffer.concat(chunks)
}

type Embedded = { name: string; ref: PDFKit.PDFKitReference; show: (text: string) => string }

function* textsOf(parts: readonly PdfPart[]): Generator<{ face: string; text: string }> {
	for (const { pages } of parts) for (const page of pages) for (const mark of page) if (mark.type === 'text') yield mark
}

/** ISO 32000, 9.7: a composite font over the subset's glyphs. */
function embed(doc: PDFKit.PDFDocument, subset: FaceSubset): PDFKit.PDFKitReference {
	const ended = (data: Record<string, unknown>, stream?: Buffer) => {
		const ref = doc.ref(data)
		ref.end(stream)
		return ref
	}
	const { descriptor, name } = subset
	const file = ended({ Length1: subset.fileLength, Filter: 'FlateDecode' }, subset.file)
	const fontDescriptor = ended({
		Type: 'FontDescriptor',
		FontName: name,
		Flags: subset.italic ? 68 : 4,
		FontBBox: descriptor.bbox,
		ItalicAngle: subset.italic ? -11 : 0,
		Ascent: descriptor.ascent,
		Descent: descriptor.descent,
		CapHeight: descriptor.capHeight,
		XHeight: descriptor.xHeight,
		StemV: subset.bold ? 120 : 80,
		FontFile2: file,
	})
	const descendant = ended({
		Type: 'Font',
		Subtype: 'CIDFontType2',
		BaseFont: name,
		CIDToGIDMap: 'Identity',
		FontDescriptor: fontDescriptor,
		W: [0, subset.widths],
		CIDSystemInfo: { Registry: new String('Adobe'), Ordering: new String('Identity'), Supplement: 0 },
	})
	const toUnicode = ended({ Filter: 'FlateDecode' }, subset.toUnicode)
	return ended({
		Type: 'Font',
		Subtype: 'Type0',
		BaseFont: name,
		Encoding: 'Identity-H',
		DescendantFonts: [descendant],
		ToUnicode: toUnicode,
	})
}

const number = (value: number): string => String(Math.round(value * 100) / 100)

const colours = new Map<string, string>()
/** A colour's three parts, as operators take them. */
function parts(hex: string): string {
	const known = colours.get(hex)
	if (known) return known
	const part = (from: number) => Math.round((Number.parseInt(hex.slice(from, from + 2), 16) / 255) * 1000) / 1000
	const made = `${part(0)} ${part(2)} ${part(4)}`
	colours.set(hex, made)
	return made
}

/** The page's marks as content operators (ISO 32000, 8 and 9). pdfkit turns y downwards on a new page; here it runs upwards again. */
function pageContent(
	page: Page,
	height: number,
	fonts: ReadonlyMap<string, Embedded>,
	images: ReadonlyMap<string, { name: string }>,
): string {
	const out: string[] = [`1 0 0 -1 0 ${number(height)} cm`]
	let inText = false
	let font = ''
	let ink = ''
	const text = (open: boolean) => {
		if (open === inText) return
		out.push(open ? 'BT' : 'ET')
		inText = open
	}
	const setFill = (hex: string) => {
		if (hex === ink) return
		out.push(`${parts(hex)} rg`)
		ink = hex
	}
	const drawText = (mark: Extract<Mark, { type: 'text' }>, y: number) => {
		text(true)
		setFill(mark.color)
		const [cos, sin] = mark.turn ? [Math.cos(mark.turn), Math.sin(mark.turn)] : [1, 0]
		let along = 0
		for (const run of runsOf(mark.face, mark.text)) {
			const embedded = fonts.get(run.face)
			if (!embedded) continue
			const wanted = `/${embedded.name} ${number(mark.size)} Tf`
			if (wanted !== font) out.push(wanted)
			font = wanted
			const [x, up] = [mark.x + cos * along, y + sin * along]
			out.push(
				`${number(cos)} ${number(sin)} ${number(-sin)} ${number(cos)} ${number(x)} ${number(up)} Tm`,
				embedded.show(run.text),
			)
			along += (widthOf(run.face, run.text) * mark.size) / 1000
		}
	}
	for (const mark of page) {
		const y = height - mark.y
		if (mark.type === 'text') {
			drawText(mark, y)
			continue
		}
		text(false)
		if (mark.type === 'image') {
			const image = images.get(mark.sha256)
			if (!image) continue
			out.push(
				`q ${number(mark.width)} 0 0 ${number(mark.height)} ${number(mark.x)} ${number(y - mark.height)} cm /${image.name} Do Q`,
			)
		} else if (mark.type === 'cells') {
			setFill(mark.color)
			for (const [left, top, width, tall] of mark.cells)
				out.push(`${fine(mark.x + left)} ${fine(y - top - tall)} ${fine(width)} ${fine(tall)} re`)
			out.push('f')
		} else if (mark.type === 'round') {
			out.push(roundBox(mark, y))
			// The colours set within are gone after it.
		} else {
			setFill(mark.color)
			const tall = mark.type === 'rule' ? mark.thickness : mark.height
			out.push(`${number(mark.x)} ${number(y - tall)} ${number(mark.width)} ${number(tall)} re f`)
		}
	}
	text(false)
	return out.join('\n')
}

/** Cells of a code must meet exactly, so they are written finer. */
const fine = (value: number): string => String(Math.round(value * 10000) / 10000)

/** A box, its corners as quarters of a circle. */
function roundBox(mark: Extract<Mark, { type: 'round' }>, top: number): string {
	const { x, width, height, color, edge } = mark
	const radius = Math.min(mark.radius, width / 2, height / 2)
	const bottom = top - height
	const k = radius * 0.5523
	const path =
		radius <= 0
			? [`${number(x)} ${number(bottom)} ${number(width)} ${number(height)} re`]
			: [
					`${number(x + radius)} ${number(bottom)} m`,
					`${number(x + width - radius)} ${number(bottom)} l`,
					curve(x + width - radius + k, bottom, x + width, bottom + radius - k, x + width, bottom + radius),
					`${number(x + width)} ${number(top - radius)} l`,
					curve(x + width, top - radius + k, x + width - radius + k, top, x + width - radius, top),
					`${number(x + radius)} ${number(top)} l`,
					curve(x + radius - k, top, x, top - radius + k, x, top - radius),
					`${number(x)} ${number(bottom + radius)} l`,
					curve(x, bottom + radius - k, x + radius - k, bottom, x + radius, bottom),
					'h',
				]
	const set = [color ? `${parts(color)} rg` : '', edge ? `${parts(edge.color)} RG ${number(edge.thickness)} w` : '']
	const paint = color && edge ? 'B' : color ? 'f' : edge ? 'S' : 'n'
	return ['q', ...set.filter(Boolean), ...path, paint, 'Q'].join('\n')
}
const curve = (...values: number[]): string => `${values.map(number).join(' ')} c`
