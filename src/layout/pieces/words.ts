import { z } from 'zod'
import { type Block, inlinesOf, type Saying } from '../blockKit'
import type { At } from '../fieldTypes'
import type { Slab } from '../flow'
import type { Language } from '../languages'
import { languages } from '../languages'
import type { Inline, Paragraph } from '../schemaParts'
import { align, base, paragraphs, style } from '../schemaParts'
import { type Align, breakLines } from '../text'
import { compileInlines } from '../values'
import { type Draw, gap, type Kit, spansOf, textSlabs, withLooks } from './kit'
import { everywhere, leaf } from './leaf'

const schema = z.strictObject({
	...base,
	type: z.literal('words'),
	says: z.partialRecord(z.enum(languages), paragraphs),
	...style,
	/** Height of a line as a multiple of its size. */
	lead: z.number().min(0.8).max(3).optional(),
	align,
	/** Not parted from what follows. */
	keep: z.boolean().optional(),
})
type Words = z.infer<typeof schema>

/** Paragraphs in the paper's language. One that names fields, all of them empty, is left out with its own words. */
function compileWords(piece: Words, kit: Kit): Draw {
	const byLanguage = Object.fromEntries(
		Object.entries(piece.says).map(([language, paragraphs]) => [
			language,
			paragraphs.map((paragraph) => compileParagraph(paragraph, piece, kit)),
		]),
	)
	const first = Object.values(byLanguage)[0] ?? []
	return (doc, frame) => {
		const language = doc.at.languages.find((one: Language) => byLanguage[one])
		const paragraphs = (language && byLanguage[language]) ?? first
		let numbered = 0
		const nodes = []
		for (const paragraph of paragraphs) {
			const spans = paragraph.spans(doc.at)
			if (spans === null) continue
			numbered = paragraph.list === 'numbers' ? numbered + 1 : 0
			if (nodes.length > 0) nodes.push(...gap(paragraph.above))
			const mark = paragraph.list === 'dots' ? '•' : paragraph.list === 'numbers' ? `${numbered}.` : ''
			const indent = mark === '' ? 0 : paragraph.size * 1.5
			const own = { x: frame.x + indent, width: frame.width - indent }
			const lines = breakLines(spans, own.width, doc.tools.metrics)
			const slabs: Slab[] = textSlabs(lines, own, piece.id, {
				lead: piece.lead ?? 1.28,
				align: paragraph.align,
				keep: piece.keep ?? false,
			})
			const firstLine = slabs[0]
			if (mark !== '' && firstLine) {
				const look = kit.look(piece)
				const y = firstLine.items.find(({ type }) => type === 'text')?.y ?? look.size
				firstLine.items.unshift({ type: 'text', x: frame.x, y, text: mark, ...look })
			}
			nodes.push(...slabs)
		}
		return nodes
	}
}

function compileParagraph(paragraph: Paragraph, piece: Words, kit: Kit) {
	const runs = withLooks(compileInlines(paragraph.runs, kit.fields), kit, piece)
	const align: Align | undefined = paragraph.align ?? piece.align
	return {
		list: paragraph.list,
		align,
		above: paragraph.above ?? 0,
		size: kit.look(piece).size,
		spans: (at: At) => spansOf(runs, at),
	}
}

/** Text from this size on is a heading. */
const headingSize = 13

function wordsBlocks(piece: Words, saying: Saying): Block[] {
	const language = saying.at.languages.find((one) => piece.says[one])
	const paragraphs: readonly Paragraph[] = (language && piece.says[language]) ?? Object.values(piece.says)[0] ?? []
	return paragraphs.flatMap(({ runs, align, list }): Block[] => {
		const written = inlinesOf(runs, piece, saying)
		if (!written) return []
		const heading = !list && written.length > 0 && written.every(({ size }) => size >= headingSize)
		return [{ is: 'text', runs: written, align: align ?? piece.align ?? 'left', list: list ?? null, heading }]
	})
}

const said = (run: Inline, fieldName: (key: string) => string): string =>
	!('text' in run)
		? fieldName(run.field).toLowerCase()
		: typeof run.text === 'string'
			? run.text
			: (run.text.en ?? Object.values(run.text)[0] ?? '')

export const words = leaf<typeof schema>({
	schema,
	name: 'Words',
	fits: everywhere,
	lettered: true,
	fresh: (id) => ({ type: 'words', id, says: { en: [{ runs: [{ text: 'Words' }] }] } }),
	names: ({ says }, named) => {
		for (const paragraphs of Object.values(says)) for (const { runs } of paragraphs ?? []) named.inlines(runs)
	},
	called: ({ says }, fieldName) => {
		const text = (Object.values(says)[0] ?? [])
			.map(({ runs }) =>
				runs
					.map((run) => said(run, fieldName))
					.join('')
					.trim(),
			)
			.filter(Boolean)
			.join(', ')
		return text === '' ? 'Words' : `Words: ${text.length > 26 ? `${text.slice(0, 25)}…` : text}`
	},
	draw: compileWords,
	blocks: wordsBlocks,
})
