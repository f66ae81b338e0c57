import type { Companion } from '@/core/companions'
import type { Paper } from './paper'

/** What a document says, as it is frozen, and the paper that its layout makes of it; null for one of before layouts were data. */
export type Source = { content: object; paper: () => Promise<Paper | null> }

/** What writes each format; null where the document has it not. Each is loaded where it is wanted: DOCX takes longer to load than a PDF to make. */
export const writers: Record<Companion, (source: Source) => Promise<Buffer | null>> = {
	docx: async ({ paper }) => {
		const own = await paper()
		return own && (await import('./docx')).writeDocx(own)
	},
	html: async ({ paper }) => {
		const own = await paper()
		return own && (await import('./html')).writeHtml(own)
	},
	json: async ({ content }) => Buffer.from(`${JSON.stringify(content, null, '\t')}\n`, 'utf8'),
}
