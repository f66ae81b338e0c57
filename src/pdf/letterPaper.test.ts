import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { PDFDocument, PDFName, PDFString, rgb, StandardFonts } from '@cantoo/pdf-lib'
import { expect, test } from 'vitest'
import { compileLayout } from '@/layout/draw'
import { looksOf } from '@/layout/looks'
import { layoutSchema } from '@/layout/schema'
import { overLetterPaper } from '@/runs/layouts/checks'
import { pdfText } from '../../tests/browser/pdf'
import { png } from '../../tests/pngs'
import { invoice } from '../../tests/support'
import { inkOf } from './letterInk'
import { readLetterPaper } from './letterPaper'
import { drawDocument, makeDocument } from './makeDocument'

const sha256 = 'd'.repeat(64)
type Change = (pdf: PDFDocument) => void | Promise<void>

/** A letter paper of pages with a head and a rule, changed as wanted. */
async function letter(pages: number, change: Change = () => {}): Promise<Buffer> {
	const pdf = await PDFDocument.create()
	const font = await pdf.embedFont(StandardFonts.Helvetica)
	for (let number = 1; number <= pages; number++) {
		const page = pdf.addPage([595.28, 841.89])
		page.drawText(`LETTERHEAD ${number}`, { x: 40, y: 790, size: 20, font, color: rgb(0.6, 0, 0) })
		page.drawRectangle({ x: 40, y: 40, width: 500, height: 2, color: rgb(0, 0, 0.5) })
	}
	await change(pdf)
	return Buffer.from(await pdf.save())
}
const taken = async (bytes: Buffer) => {
	const read = await readLetterPaper(bytes, sha256)
	if (!read.ok) throw new Error(read.refusal.message)
	return read.value
}
const look = layoutSchema.parse(looksOf('invoice')[0])
const long = invoice(
	Array.from({ length: 60 }, () => ({ quantity: '1', unitPrice: '1' })),
	{
		layout: { id: 1, version: 1, name: 'x', own: false },
	},
)
async function paperOn(bytes: Buffer, content = long): Promise<Buffer> {
	const { pages } = await taken(bytes)
	const pictures = new Map(pages.map((page) => [page.sha256, page]))
	return (await makeDocument(content, { layout: compileLayout({ ...look, under: sha256 }), pictures })).bytes
}
function run(command: string, bytes: Buffer, ...more: string[]): string {
	const folder = mkdtempSync(join(tmpdir(), 'north-tally-letter-'))
	try {
		writeFileSync(join(folder, 'a.pdf'), bytes)
		return execFileSync(command, [...more, join(folder, 'a.pdf'), ...(more.includes('--qdf') ? ['-'] : [])], {
			encoding: 'utf8',
			maxBuffer: 1e8,
		})
	} finally {
		rmSync(folder, { recursive: true })
	}
}

test('a letter paper lies under every page, its second under those after the first, drawn as lines and letters', async () => {
	const bytes = await paperOn(await letter(2))
	expect(run('qpdf', bytes, '--check')).toContain('No syntax')
	const pages = await pdfText(bytes)
	expect(pages.length).toBeGreaterThan(1)
	expect(pages.map((page) => /LETTERHEAD (\d)/.exec(page)?.[1])).toEqual(
		pages.map((_, place) => (place === 0 ? '1' : '2')),
	)
	expect(pages.join()).toContain('T-0041')
	// Once in the file, however many pages it lies under; and the same bytes again.
	expect(run('qpdf', bytes, '--qdf', '--object-streams=disable').match(/\/Subtype \/Form/g)?.length ?? 0).toBe(2)
	const same = await letter(1)
	expect((await paperOn(same)).equals(await paperOn(same))).toBe(true)
})

test('what a letter paper would run, open or link to is not on the paper', async () => {
	const bytes = await letter(1, (pdf) => {
		pdf.addJavaScript('x', 'app.alert("EVIL")')
		const { context } = pdf
		const action = context.obj({ Type: 'Action', S: 'URI', URI: PDFString.of('http://evil.example') })
		pdf.catalog.set(PDFName.of('OpenAction'), context.obj({ S: 'JavaScript', JS: PDFString.of('EVIL()') }))
		const [page] = pdf.getPages()
		page?.node.set(PDFName.of('AA'), context.obj({ O: context.obj({ S: 'JavaScript', JS: PDFString.of('EVIL()') }) }))
		const link = context.register(context.obj({ Type: 'Annot', Subtype: 'Link', Rect: [0, 0, 600, 800], A: action }))
		page?.node.set(PDFName.of('Annots'), context.obj([link]))
		return pdf.attach(Buffer.from('EVIL'), 'evil.exe')
	})
	const made = run('qpdf', await paperOn(bytes), '--qdf', '--object-streams=disable')
	expect(made).not.toMatch(/EVIL|evil|JavaScript|\/URI|\/Annots|\/EmbeddedFile|\/OpenAction/)
	expect(made).toContain('/Form')
})

test('a page that is turned or cut to a part lies as it is seen', async () => {
	const turned = await letter(1, (pdf) => {
		const [page] = pdf.getPages()
		page?.setRotation({ type: 'degrees', angle: 180 } as never)
		page?.setCropBox(10, 10, 575.28, 821.89)
	})
	const { width, height } = await taken(turned)
	expect([Math.round(width), Math.round(height)]).toEqual([575, 822])
	expect(run('qpdf', await paperOn(turned), '--check')).toContain('No syntax')
	// Upside down, the head is printed low on the page.
	const [ink = []] = await inkOf(turned)
	expect(Math.max(...ink.map(([, top]) => top))).toBeGreaterThan(700)
})

/** What draws a picture of 50 by 40 points, 100 from the left and 300 from the foot. */
const drawn = (pdf: PDFDocument, how: string) => {
	const stream = pdf.context.flateStream(`q 50 0 0 40 100 300 cm ${how} Q`)
	pdf.getPages()[0]?.node.addContentStream(pdf.context.register(stream))
}
test.each<[string, Change]>([
	[
		'a picture',
		async (pdf) => {
			const picture = await pdf.embedPng(png(4, 4, [200, 20, 20]))
			pdf.getPages()[0]?.drawImage(picture, { x: 100, y: 300, width: 50, height: 40 })
		},
	],
	['a picture within the text', (pdf) => drawn(pdf, 'BI /W 2 /H 2 /CS /G /BPC 8 ID abcd EI')],
	[
		'a stencil',
		(pdf) => {
			const stencil = pdf.context.stream(new Uint8Array([0x50, 0xa0, 0x50, 0xa0]), {
				...{ Type: 'XObject', Subtype: 'Image', Width: 4, Height: 4, ImageMask: true, BitsPerComponent: 1 },
			})
			pdf.getPages()[0]?.node.setXObject(PDFName.of('Stencil'), pdf.context.register(stencil))
			drawn(pdf, '/Stencil Do')
		},
	],
])('%s of a letter paper is ink as its texts are, where it stands', async (_what, change) => {
	const plain = await inkOf(await letter(1))
	const pictured = await letter(1, change)
	const [ink = []] = await inkOf(pictured)
	expect(ink).toHaveLength((plain[0]?.length ?? 0) + 1)
	const { height } = await taken(pictured)
	expect(ink.map((box) => box.map(Math.round))).toContainEqual([
		100,
		Math.round(height - 340),
		150,
		Math.round(height - 300),
	])
})

test.each([
	['400 pages', () => letter(400), 'has 400 pages'],
	['three pages', () => letter(3), 'has 3 pages'],
	['two sizes', () => letter(2, (pdf) => pdf.getPages()[1]?.setSize(300, 300)), 'of two sizes'],
	['no PDF', async () => Buffer.from('GIF89a'), 'must be a PDF'],
	['a head alone', async () => Buffer.from('%PDF-1.7\n'), 'cannot be read'],
	['one cut short', async () => (await letter(1)).subarray(0, 700), 'cannot be read'],
	['one over 5 MB', async () => Buffer.concat([Buffer.from('%PDF-1.7\n'), Buffer.alloc(5_000_001)]), 'over 5 MB'],
	['a locked one', () => letter(1, (pdf) => void pdf.encrypt({ userPassword: 'secret' })), 'locked with a password'],
	[
		'one nested without end',
		() =>
			letter(1, (pdf) => {
				let inner = pdf.context.obj([])
				for (let depth = 0; depth < 200; depth++) inner = pdf.context.obj([inner])
				pdf
					.getPages()[0]
					?.node.Resources()
					?.set(PDFName.of('ExtGState'), pdf.context.obj({ G: inner }))
			}),
		'built too deep',
	],
])('%s is refused with the remedy', async (_what, make, words) => {
	const read = await readLetterPaper(await make(), sha256)
	expect(read.ok ? '' : read.refusal.message).toContain(words)
})

test('a form that draws itself is taken and ends', async () => {
	const bytes = await letter(1, (pdf) => {
		const ref = pdf.context.nextRef()
		const form = pdf.context.stream('/X Do', {
			...{ Type: 'XObject', Subtype: 'Form', BBox: [0, 0, 10, 10] },
			Resources: { XObject: { X: ref } },
		})
		pdf.context.assign(ref, form)
		pdf.getPages()[0]?.node.newXObject('X', ref)
	})
	expect(run('qpdf', await paperOn(bytes), '--check')).toContain('No syntax')
})

test('text over the letter paper’s own print is found, and none where the margins leave it room', async () => {
	const bytes = await letter(1)
	const ink = await inkOf(bytes)
	expect(ink[0]?.length).toBeGreaterThanOrEqual(2)
	const { pages } = await taken(bytes)
	const pictures = new Map(pages.map((page) => [page.sha256, page]))
	const found = (top: number) => {
		const layout = {
			...look,
			under: sha256,
			page: { ...look.page, margins: { ...look.page.margins, top, bottom: 90 } },
		}
		const compiled = compileLayout(layout)
		return overLetterPaper(layout, drawDocument(long, compiled, { layout: compiled, pictures }), ink)
	}
	expect(found(30).map(({ code }) => code)).toContain('over letter paper')
	expect(found(120)).toEqual([])
})
