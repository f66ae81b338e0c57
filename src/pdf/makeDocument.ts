import { createHash } from 'node:crypto'
import { isIssued, shownNumber } from '@/core/document'
import { type AnyContent, isPaper, kindOf } from '@/kinds'
import { type Across, acrossMark, type Compiled, type Drawn, drawPaper } from '@/layout/draw'
import { drawEarlier } from '@/layout/earlier'
import { languageOf, languagesFor, sayIn } from '@/layout/languages'
import { a4 } from '@/layout/page'
import type { Tools } from '@/layout/pieces/kit'
import { word } from '@/layout/words'
import { encode } from './codes'
import { metrics } from './fontKit'
import type { Logo } from './logo'
import { type PdfInfo, type PdfPart, writePdf } from './writePdf'

type MadePdf = { bytes: Buffer; sha256: string; pages: number }

/**
 * What a paper is made with: the version of its layout, null for one from before layouts were data; its pictures by hash; and whether
 * it is a trial, which no customer may get, or a copy beside the first.
 */
export type Assets = { layout: Compiled | null; pictures: ReadonlyMap<string, Logo>; trial?: boolean; copy?: boolean }

const toolsOf = (pictures: ReadonlyMap<string, Logo>): Tools => ({
	metrics,
	encode,
	picture: (sha256) => pictures.get(sha256) ?? null,
})

/** What stands across a paper that is not to be sent: a draft's mark, or that its layout is not released. */
const acrossOf = (content: AnyContent, { trial, copy }: Assets): Across =>
	trial ? 'Trial' : !isIssued(content) ? 'Draft' : copy ? 'Copy' : null

/** A paper on its pages, before any bytes. */
export const drawDocument = (content: AnyContent, layout: Compiled, art: Assets): Drawn =>
	drawPaper(layout, content, toolsOf(art.pictures), acrossOf(content, art))

function partOf(content: AnyContent, art: Assets): PdfPart {
	const { pictures, layout } = art
	if (layout) return { ...drawDocument(content, layout, art), pictures }
	const logo = pictures.get(content.issuer.logo ?? '') ?? null
	const pages = drawEarlier(content, metrics, logo)
	if (art.copy) {
		const text = sayIn(word('Copy'), languagesFor(content))
		for (const page of pages) page.unshift(acrossMark(text, 'bold', a4, { metrics }))
	}
	return { paper: a4, pages, pictures }
}

/**
 * The PDF of a document, from what it says and its layout's version alone: the same always give the same bytes.
 * @throws Error where the content names a layout that is not given
 */
export async function makeDocument(content: AnyContent, art: Assets): Promise<MadePdf> {
	if (art.layout) return writeDrawn(content, drawDocument(content, art.layout, art), art)
	const info = infoOf(content)
	if (content.layout.id !== 0) throw new Error(`${info.title} has no layout to be made by.`)
	const { pages } = partOf(content, art)
	const { writeEarlierPdf } = await import('./earlierPdf')
	const bytes = await writeEarlierPdf(pages, art.pictures.get(content.issuer.logo ?? '') ?? null, info)
	return { bytes, sha256: hashOf(bytes), pages: pages.length }
}

/** The PDF of a paper that is drawn. */
export function writeDrawn(content: AnyContent, { paper, pages }: Drawn, { pictures }: Assets): MadePdf {
	const bytes = writePdf([{ paper, pages, pictures }], infoOf(content))
	return { bytes, sha256: hashOf(bytes), pages: pages.length }
}

const hashOf = (bytes: Buffer): string => createHash('sha256').update(bytes).digest('hex')

/** What a paper's files are titled. */
export function titleOf(content: AnyContent): string {
	const name = (isPaper(content) && content.paper.name) || kindOf(content.kind).words.name
	return content.filed?.title || (isIssued(content) ? `${name} ${shownNumber(content)}` : `Draft ${name.toLowerCase()}`)
}

/** What the file says of itself. */
function infoOf(content: AnyContent): PdfInfo {
	const title = titleOf(content)
	return {
		title,
		author: content.issuer.name,
		subject: `${title} to ${content.customer.name}`,
		day: content.day,
		language: languageOf(content.locale) ?? 'en',
	}
}

/** A paper again, marked as a copy. */
export function makeCopy(content: AnyContent, art: Assets): Buffer {
	return writePdf([partOf(content, { ...art, copy: true })], infoOf(content))
}

/** Several documents as one PDF to print, one after the other, each by its own layout and with its own pictures. */
export function makeTogether(documents: readonly { content: AnyContent; art: Assets }[]): Buffer {
	const first = documents[0]?.content
	const title = `${documents.length} documents to print`
	return writePdf(
		documents.map(({ content, art }) => partOf(content, art)),
		{ title, author: first?.issuer.name ?? '', subject: title, day: first?.day ?? '2000-01-01' },
	)
}
