import type { Paper, Picture } from '@/beside/paper'
import type { AnyContent } from '@/kinds'
import { blocksOf } from '@/layout/blocks'
import { languageOf } from '@/layout/languages'
import { type Beside, besides, type Leaving } from '@/layout/leaving'
import { encode } from '@/pdf/codes'
import { titleOf } from '@/pdf/makeDocument'
import type { FileFormat } from '@/store/made'
import { type ArtSource, artFor } from './art'

// What is made beside a document's PDF, from the same frozen content and its layout's version.

/** How each format is sent. */
export const besideTypes: Record<FileFormat, string> = {
	docx: 'application/vnd.openxmlformats-officedocument.wordprocessingml.document',
	html: 'text/html; charset=utf-8',
	json: 'application/json',
	locked: 'application/pdf',
}

/** What goes to a customer beside the PDF: their own choice, else the kind's. */
export function besideFor(own: string, leaving: Leaving): Beside[] {
	if (own === '') return leaving.beside
	return besides.filter((format) => own.split(',').includes(format))
}

/** A document in a format. A paper from before layouts were data has JSON alone; null for what it has not. */
export async function makeBeside(content: AnyContent, format: Beside, source: ArtSource): Promise<Buffer | null> {
	if (format === 'json') return Buffer.from(`${JSON.stringify(content, null, '\t')}\n`, 'utf8')
	const { layout, pictures } = await artFor(content, source)
	if (!layout) return null
	const kept = new Map<string, Picture>()
	for (const [sha256, { ratio }] of pictures) {
		const picture = source.picture(sha256)
		if (picture && picture.type !== 'application/pdf') kept.set(sha256, { ...picture, ratio })
	}
	const paper: Paper = {
		blocks: blocksOf(layout, content, { encode, picture: (sha256) => kept.get(sha256) ?? null }),
		title: titleOf(content),
		author: content.issuer.name,
		day: content.day,
		language: languageOf(content.locale) ?? 'en',
		size: layout.paper,
		margins: layout.layout.page.margins,
		text: { ...layout.layout.text, color: layout.kit.color(layout.layout.text.color) },
		pictures: kept,
	}
	// Loaded where it is wanted: the writer of DOCX takes longer to load than a PDF to make.
	return format === 'html'
		? (await import('@/beside/html')).writeHtml(paper)
		: await (await import('@/beside/docx')).writeDocx(paper)
}
