import { deflateSync } from 'node:zlib'
import type { Page, PageItem } from '@/layout/page'
import { type FaceSubset, subsetsFor } from './fontKit'
import type { Logo } from './logo'
import { type PdfFile, type PdfRef, pdfFile } from './objects'
import { isPlain, runsOf } from './runs'
import { widthOf } from './shape'

/** `day` is the document's; no other time is in the file. */
export type PdfInfo = { title: string; author: string; subject: string; day: string; language?: string }
/** Pages of one size, and the pictures that they bear by hash. */
export type PdfPart = { paper: { width: number; height: number }; pages: Page[]; pictures: ReadonlyMap<string, Logo> }

/** Writes pages as PDF bytes. The same parts and info give the same bytes at any time and in any process. */
export function writePdf(parts: readonly PdfPart[], info: PdfInfo): Buffer {
	const file = pdfFile()
	const tree = file.reserve()
	const fonts = new Map<string, Embedded>()
	for (const [face, subset] of subsetsFor(textsOf(parts)))
		fonts.set(face, { name: `F${fonts.size + 1}`, ref: embed(file, subset), show: subset.show })
	const images = new Map<string, Image>()
	const kids: PdfRef[] = []
	for (const { paper, pages, pictures } of parts)
		for (const page of pages) {
			const own = new Map<string, PdfRef>()
			for (const item of page) {
				if (item.type !== 'image') continue
				const picture = pictures.get(item.sha256)
				if (!picture) continue
				const image = images.get(item.sha256) ?? { name: `I${images.size + 1}`, ref: file.put(picture.object) }
				images.set(item.sha256, image)
				own.set(image.name, image.ref)
			}
			const content = file.put({
				dict: { Filter: 'FlateDecode' },
				stream: deflateSync(pageContent(page, paper.height, fonts, images), { level: 4 }),
			})
			kids.push(
				file.put({
					dict: {
						Type: 'Page',
						Parent: tree,
						MediaBox: [0, 0, paper.width, paper.height],
						Contents: content,
						Resources: {
							Font: Object.fromEntries([...fonts.values()].map(({ name, ref }) => [name, ref])),
							...(own.size > 0 ? { XObject: Object.fromEntries(own) } : {}),
						},
					},
				}),
			)
		}
	file.put({ dict: { Type: 'Pages', Count: kids.length, Kids: kids } }, tree)
	const root = file.putRaw(
		`<</Type /Catalog/Pages ${tree.ref} 0 R/Lang (${info.language ?? 'en'})/ViewerPreferences <</DisplayDocTitle true>>>>`,
	)
	const noon = `D:${info.day.replaceAll('-', '')}120000Z`
	const about = {
		Title: { text: info.title },
		Author: { text: info.author },
		Subject: { text: info.subject },
		Creator: { text: 'North Tally' },
		Producer: { text: 'North Tally' },
		CreationDate: { text: noon },
	}
	return file.end(root, file.put({ dict: about }))
}

type Embedded = { name: string; ref: PdfRef; show: (text: string) => string }
type Image = { name: string; ref: PdfRef }

function* textsOf(parts: readonly PdfPart[]): Generator<{ face: string; text: string }> {
	for (const { pages } of parts) for (const page of pages) for (const item of page) if (item.type === 'text') yield item
}

/** ISO 32000, 9.7: a composite font over the subset's glyphs. */
function embed(file: PdfFile, { written, fileLength, file: bytes, toUnicode }: FaceSubset): PdfRef {
	const fontFile = file.putRaw(`<</Length1 ${fileLength}/Filter /FlateDecode>>`, bytes)
	const descriptor = file.putRaw(`<<${written.descriptor}/FontFile2 ${fontFile.ref} 0 R>>`)
	const descendant = file.putRaw(`<<${written.descendant}/FontDescriptor ${descriptor.ref} 0 R>>`)
	const unicode = file.putRaw('<</Filter /FlateDecode>>', toUnicode)
	return file.putRaw(`<<${written.font}/DescendantFonts [${descendant.ref} 0 R]/ToUnicode ${unicode.ref} 0 R>>`)
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

/** The items of a page as content operators (ISO 32000, 8 and 9); y runs upwards there. */
function pageContent(
	page: Page,
	height: number,
	fonts: ReadonlyMap<string, Embedded>,
	images: ReadonlyMap<string, { name: string }>,
): string {
	const out: string[] = []
	let inText = false
	let font = ''
	let fontSize = 0
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
	const setFont = (name: string, size: number) => {
		if (name === font && size === fontSize) return
		out.push(`/${name} ${number(size)} Tf`)
		font = name
		fontSize = size
	}
	const drawText = (item: Extract<PageItem, { type: 'text' }>, y: number) => {
		text(true)
		setFill(item.color)
		if (!item.turn && isPlain(item.text)) {
			const embedded = fonts.get(item.face)
			if (!embedded) return
			setFont(embedded.name, item.size)
			out.push(`1 0 0 1 ${number(item.x)} ${number(y)} Tm`, embedded.show(item.text))
			return
		}
		const [cos, sin] = item.turn ? [Math.cos(item.turn), Math.sin(item.turn)] : [1, 0]
		let along = 0
		for (const run of runsOf(item.face, item.text)) {
			const embedded = fonts.get(run.face)
			if (!embedded) continue
			setFont(embedded.name, item.size)
			const [x, up] = [item.x + cos * along, y + sin * along]
			out.push(
				`${number(cos)} ${number(sin)} ${number(-sin)} ${number(cos)} ${number(x)} ${number(up)} Tm`,
				embedded.show(run.text),
			)
			along += (widthOf(run.face, run.text) * item.size) / 1000
		}
	}
	for (const item of page) {
		const y = height - item.y
		if (item.type === 'text') {
			drawText(item, y)
			continue
		}
		text(false)
		if (item.type === 'image') {
			const image = images.get(item.sha256)
			if (!image) continue
			out.push(
				`q ${number(item.width)} 0 0 ${number(item.height)} ${number(item.x)} ${number(y - item.height)} cm /${image.name} Do Q`,
			)
		} else if (item.type === 'cells') {
			setFill(item.color)
			for (const [left, top, width, tall] of item.cells)
				out.push(`${fine(item.x + left)} ${fine(y - top - tall)} ${fine(width)} ${fine(tall)} re`)
			out.push('f')
		} else if (item.type === 'round') {
			out.push(roundBox(item, y))
			// The colours set within are gone after it.
		} else {
			setFill(item.color)
			const tall = item.type === 'rule' ? item.thickness : item.height
			out.push(`${number(item.x)} ${number(y - tall)} ${number(item.width)} ${number(tall)} re f`)
		}
	}
	text(false)
	return out.join('\n')
}

/** Cells of a code must meet exactly, so they are written finer. */
const fine = (value: number): string => String(Math.round(value * 10000) / 10000)

/** A box, its corners as quarters of a circle. */
function roundBox(item: Extract<PageItem, { type: 'round' }>, top: number): string {
	const { x, width, height, color, edge } = item
	const radius = Math.min(item.radius, width / 2, height / 2)
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
