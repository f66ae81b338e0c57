import PDFDocument from 'pdfkit'
import { a4, type Page, type PageItem } from '@/layout/page'
import { type FaceSubset, subsetOf } from './fontKit'
import type { Logo } from './logo'
import type { PdfObject, PdfValue } from './objects'

// Writes papers from before layouts were data, byte for byte as they were made: nothing here changes.
const faces = ['regular', 'bold'] as const
type Face = (typeof faces)[number]

export type PdfInfo = {
	title: string
	author: string
	subject: string /** The document's day; no other time is in the file. */
	day: string
}

/** Writes pages as PDF bytes. The same pages, logo and info give the same bytes at any time and in any process. */
export async function writeEarlierPdf(pages: Page[], logo: Logo | null, info: PdfInfo): Promise<Buffer> {
	const doc = new PDFDocument({
		autoFirstPage: false,
		margin: 0,
		size: [a4.width, a4.height],
		compress: true,
		// No standard font: pdfkit would read its metrics anew for each document.
		font: '',
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
	const characters = new Set<string>()
	for (const page of pages)
		for (const item of page) if (item.type === 'text') for (const char of item.text) characters.add(char)
	const subset: Record<Face, FaceSubset> = {
		regular: subsetOf('regular', characters),
		bold: subsetOf('bold', characters),
	}
	const fonts = Object.fromEntries(faces.map((face) => [face, embed(doc, subset[face])]))
	const image = logo ? embedPicture(doc, logo.object) : null
	for (const page of pages) {
		doc.addPage()
		for (const face of faces) doc.page.fonts[fontName[face]] = fonts[face]
		if (image) doc.page.xobjects.Logo = image
		doc.addContent(pageContent(page, (face, text) => subset[face].show(text)))
	}
	doc.end()
	await ended
	return Buffer.concat(chunks)
}

const fontName = { regular: 'R', bold: 'B' } as const

/** A picture with those that it holds, which come first. */
function embedPicture(doc: PDFKit.PDFDocument, { dict, stream }: PdfObject): PDFKit.PDFKitReference {
	const within = (value: PdfValue): unknown => {
		if (typeof value !== 'object') return value
		if (Array.isArray(value)) return value.map(within)
		if ('dict' in value) return embedPicture(doc, value as PdfObject)
		return Object.fromEntries(Object.entries(value).map(([key, inner]) => [key, within(inner)]))
	}
	const ref = doc.ref(within(dict) as Record<string, unknown>)
	ref.end(stream)
	return ref
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
		Flags: 4,
		FontBBox: descriptor.bbox,
		ItalicAngle: 0,
		Ascent: descriptor.ascent,
		Descent: descriptor.descent,
		CapHeight: descriptor.capHeight,
		XHeight: descriptor.xHeight,
		StemV: subset.face === 'bold' ? 120 : 80,
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

function colour(hex: string): string {
	const part = (from: number) =>
		String(Math.round((Number.parseInt(hex.slice(from, from + 2), 16) / 255) * 1000) / 1000)
	return `${part(0)} ${part(2)} ${part(4)} rg`
}
const colours = new Map<string, string>()
function fill(hex: string): string {
	const known = colours.get(hex)
	if (known) return known
	const made = colour(hex)
	colours.set(hex, made)
	return made
}

/** The items of a page as content operators (ISO 32000, 8 and 9). pdfkit turns y downwards on a new page; here it runs upwards again. */
function pageContent(page: Page, show: (face: Face, text: string) => string): string {
	const out: string[] = [`1 0 0 -1 0 ${number(a4.height)} cm`]
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
		out.push(fill(hex))
		ink = hex
	}
	const draw = (item: PageItem) => {
		const y = a4.height - item.y
		if (item.type === 'round' || item.type === 'cells') return
		if (item.type === 'text') {
			const face = item.face === 'bold' ? 'bold' : 'regular'
			text(true)
			setFill(item.color)
			const wanted = `/${fontName[face]} ${item.size} Tf`
			if (wanted !== font) out.push(wanted)
			font = wanted
			const [cos, sin] = item.turn ? [Math.cos(item.turn), Math.sin(item.turn)] : [1, 0]
			out.push(
				`${number(cos)} ${number(sin)} ${number(-sin)} ${number(cos)} ${number(item.x)} ${number(y)} Tm`,
				show(face, item.text),
			)
			return
		}
		text(false)
		if (item.type === 'image') {
			out.push(
				`q ${number(item.width)} 0 0 ${number(item.height)} ${number(item.x)} ${number(y - item.height)} cm /Logo Do Q`,
			)
			return
		}
		setFill(item.color)
		const height = item.type === 'rule' ? item.thickness : item.height
		out.push(`${number(item.x)} ${number(y - height)} ${number(item.width)} ${number(height)} re f`)
	}
	for (const item of page) draw(item)
	text(false)
	return out.join('\n')
}
