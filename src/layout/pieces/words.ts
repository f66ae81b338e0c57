import type { At } from '../fieldTypes'
import type { Slab } from '../flow'
import type { Language } from '../languages'
import type { Leaf } from '../schema'
import type { Paragraph } from '../schemaParts'
import { type Align, breakLines } from '../text'
import { compileInlines } from '../values'
import { type Draw, gap, type Kit, spansOf, textSlabs, withLooks } from './kit'

type Words = Extract<Leaf, { type: 'words' }>

/** Paragraphs in the paper's language. One that names fields, all of them empty, is left out with its own words. */
export function compileWords(piece: Words, kit: Kit): Draw {
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
