import { writers } from '@/companions'
import type { Paper, Picture } from '@/companions/paper'
import { type Companion, companionRules, companionsIn } from '@/core/companions'
import type { AnyContent } from '@/kinds'
import { blocksOf } from '@/layout/blocks'
import { languageOf } from '@/layout/languages'
import type { Leaving } from '@/layout/leaving'
import { encode } from '@/pdf/codes'
import { titleOf } from '@/pdf/makeDocument'
import type { FileFormat } from '@/store/made'
import { type AssetSource, assetsFor } from './assets'

// What is made beside a document's PDF, from the same frozen content and its layout's version.

/** The media type that a file beside the PDF is sent as. */
export const typeOf = (format: FileFormat): string =>
	format === 'locked' ? 'application/pdf' : companionRules[format].type

/** What goes to a customer beside the PDF: their own choice, else the kind's. */
export const companionsFor = (own: string, leaving: Leaving): Companion[] =>
	own === '' ? leaving.beside : companionsIn(own)

/** A document in a format. A paper from before layouts were data has JSON alone; null for what it has not. */
export const makeCompanion = (content: AnyContent, format: Companion, source: AssetSource): Promise<Buffer | null> =>
	writers[format]({ content, paper: () => paperOf(content, source) })

async function paperOf(content: AnyContent, source: AssetSource): Promise<Paper | null> {
	const { layout, pictures } = await assetsFor(content, source)
	if (!layout) return null
	const kept = new Map<string, Picture>()
	for (const [sha256, { ratio }] of pictures) {
		const picture = source.picture(sha256)
		if (picture && picture.type !== 'application/pdf') kept.set(sha256, { ...picture, ratio })
	}
	return {
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
}
