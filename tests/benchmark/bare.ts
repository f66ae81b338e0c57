import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { create } from 'fontkit'
import PDFDocument from 'pdfkit'
import { billSchema } from '@/core/document'
import { a4, type Page, type PageItem } from '@/layout/page'
import { drawDocument } from '@/pdf/makeDocument'
import { artOf, look } from '../looks'

const folder = join(process.env.NORTH_TALLY_ROOT ?? process.cwd(), 'node_modules/@expo-google-fonts/source-sans-3')
type Face = 'regular' | 'bold'
const files: Record<Face, string> = {
	regular: join(folder, '400Regular/SourceSans3_400Regular.ttf'),
	bold: join(folder, '600SemiBold/SourceSans3_600SemiBold.ttf'),
}
let shared: Record<Face, unknown> | null = null

/** The same pages drawn by pdfkit alone: with fonts opened once (`shared`), or opened by pdfkit for each document. */
async function drawBare(pages: Page[], way: 'shared' | 'plain'): Promise<number> {
	shared ??= { regular: create(readFileSync(files.regular)), bold: create(readFileSync(files.bold)) }
	const doc = new PDFDocument({ autoFirstPage: false, margin: 0, size: [a4.width, a4.height] })
	let size = 0
	doc.on('data', (chunk: Uint8Array) => {
		size += chunk.length
	})
	const ended = new Promise((done) => doc.on('end', done))
	for (const face of ['regular', 'bold'] as const)
		doc.registerFont(face, (way === 'shared' ? shared[face] : files[face]) as string)
	for (const page of pages) {
		doc.addPage()
		for (const mark of page) draw(doc, mark)
	}
	doc.end()
	await ended
	return size
}

function draw(doc: PDFKit.PDFDocument, mark: PageItem): void {
	if (mark.type === 'image' || mark.type === 'cells') return
	doc.fillColor(`#${mark.color ?? '000000'}`)
	if (mark.type === 'text') {
		if (mark.turn) return
		doc.font(mark.face.endsWith('bold') ? 'bold' : 'regular').fontSize(mark.size)
		doc.text(mark.text, mark.x, mark.y, { lineBreak: false, baseline: 'alphabetic' })
		return
	}
	doc.rect(mark.x, mark.y, mark.width, mark.type === 'rule' ? mark.thickness : mark.height).fill()
}

/** Worker: lays the documents out as the product does, and lets pdfkit alone draw them. */
export default async function bare({
	contents,
	way,
}: {
	contents: string[]
	way: 'shared' | 'plain'
}): Promise<number> {
	let size = 0
	for (const content of contents)
		size += await drawBare(
			drawDocument(billSchema.parse(JSON.parse(content)), look('invoice'), artOf('invoice')).pages,
			way,
		)
	return size
}
