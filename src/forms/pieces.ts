import type { Leaf, Piece } from '@/layout/schema'
import type { Inline as LayoutInline, Paragraph as LayoutParagraph } from '@/layout/schemaParts'
import type { Block, Inline, Paragraph, Tab } from './form'
import {
	answerAt,
	beside,
	bounded,
	deepest,
	idFor,
	idOf,
	type Making,
	mostColumns,
	note,
	type Part,
	usualLead,
} from './making'
import { inLots, isBlank, isPlain, runsOf, sizeOf } from './runs'
import { tablePieces } from './tables'

/**
 * How a paragraph of a list stands in a layout, which numbers them itself from 1 on: where the form counts otherwise, its number stands as
 * text.
 * @param numbered how many numbers stand before it in its piece
 */
function listAs({ list, label }: Paragraph, numbered: number): { list?: 'dots' | 'numbers'; before?: string } {
	if (list !== 'numbers' || label === undefined || label === `${numbered + 1}.`) return list ? { list } : {}
	return label === '' ? {} : { before: `${label} ` }
}
/** The looks of a run, without what it says. */
function styleOf(run: LayoutInline | undefined): object {
	const { bold, italic, underline, size, color, display } = run ?? {}
	return JSON.parse(JSON.stringify({ bold, italic, underline, size, color, display }))
}

/** Words that further paragraphs may join. */
type OpenWords = {
	piece: Extract<Leaf, { type: 'words' }>
	paragraphs: LayoutParagraph[]
	lead: number
	numbered: number
}

/**
 * A stack of blocks as pieces, one below the other.
 * @param depth how deep pieces may stand within each other from here on
 */
export function stack(blocks: readonly Block[], width: number, making: Making, depth: number): Piece[] {
	const out: Piece[] = []
	/** Space that came with what stands before. */
	let space = 0
	const open: { words: OpenWords | null } = { words: null }
	const put = (pieces: Piece[], above: number) => {
		open.words = null
		pieces.forEach((piece, index) => {
			const own = (index === 0 ? above : 0) + (piece.above ?? 0)
			out.push(own > 0.2 ? { ...piece, above: bounded(own, 0, 400) } : piece)
		})
	}
	for (const block of blocks) {
		if (block.is === 'table') {
			put(tablePieces(block, width, making, depth), space)
			space = 0
			continue
		}
		const lead = bounded((block.lead ?? 1) * usualLead, 0.8, 3)
		if (block.page && out.length > 0 && making.band === 'body' && depth === deepest) {
			put([{ type: 'turn', id: idFor('new-page', making) }], 0)
			space = 0
		}
		if (isBlank(block)) {
			if (!(block.page && block.inlines.length === 0))
				space += sizeOf(block, making.looks) * lead + (block.above ?? 0) + (block.below ?? 0)
			continue
		}
		const above = Math.max(space, block.above ?? 0)
		space = block.below ?? 0
		if (!isPlain(block)) {
			put(specialPieces(block, width, making, depth, lead), above)
			continue
		}
		const runs = runsOf(block, making)
		if (runs.length === 0) {
			space += above
			continue
		}
		const joined = open.words && open.words.lead === lead && open.words.paragraphs.length < 150 ? open.words : null
		const list = listAs(block, joined?.numbered ?? 0)
		if (list.before) runs.unshift({ text: list.before, ...styleOf(runs[0]) })
		const own = inLots(runs).map(
			(lot, at): LayoutParagraph => ({
				...(block.align && block.align !== 'left' ? { align: block.align } : {}),
				...(list.list && at === 0 ? { list: list.list } : {}),
				...(above > 0.2 && at === 0 ? { above: bounded(above, 0, 200) } : {}),
				runs: lot,
			}),
		)
		if (joined) {
			joined.paragraphs.push(...own)
			joined.numbered = list.list === 'numbers' ? joined.numbered + 1 : 0
			making.pieceOf.set(block.id, joined.piece.id)
			if (block.keep) joined.piece.keep = true
			continue
		}
		const paragraphs = own.map(({ above: _above, ...rest }) => rest)
		const piece: Extract<Leaf, { type: 'words' }> = {
			type: 'words',
			id: idOf(block.id, making),
			says: { [making.language]: paragraphs },
			lead,
			...(block.keep ? { keep: true } : {}),
		}
		put([piece], above)
		const placed = out.at(-1)
		open.words =
			placed?.type === 'words' ? { piece: placed, paragraphs, lead, numbered: list.list === 'numbers' ? 1 : 0 } : null
	}
	return out
}

const wordsPiece = (
	id: string,
	runs: LayoutInline[],
	lead: number,
	making: Making,
	align?: Paragraph['align'],
	list?: Paragraph['list'],
): Piece => ({
	type: 'words',
	id,
	says: { [making.language]: inLots(runs).map((lot, at) => ({ ...(list && at === 0 ? { list } : {}), runs: lot })) },
	lead,
	...(align && align !== 'left' ? { align } : {}),
})

/** What is more than text: pictures, tabs, indents, a ground, rules above and below. */
function specialPieces(paragraph: Paragraph, width: number, making: Making, depth: number, lead: number): Piece[] {
	const { left = 0, right = 0, fill, ruleAbove, ruleBelow } = paragraph
	const rule = (own: { thickness: number; color: string }): Piece => ({
		type: 'rule',
		id: idFor(`${paragraph.id}-rule`, making),
		thickness: bounded(own.thickness, 0.1, 20),
		color: making.looks.color(own.color),
	})
	const indented = (left > 1 || right > 1) && depth > 1 && width - left - right > 40
	const boxed = fill !== undefined && depth > (indented ? 2 : 1)
	const inner = width - (indented ? left + right : 0) - (boxed ? 8 : 0)
	let pieces = linePieces(paragraph, inner, making, depth - (indented ? 1 : 0) - (boxed ? 1 : 0), lead)
	if (boxed && pieces.length > 0)
		pieces = [
			{ type: 'box', id: idFor(`${paragraph.id}-ground`, making), fill: making.looks.color(fill), pad: 4, pieces },
		]
	if (indented && pieces.length > 0)
		pieces = [
			beside(
				`${paragraph.id}-in`,
				[
					...(left > 1 ? [{ width: left, pieces: [] }] : []),
					{ width: width - left - right, pieces },
					...(right > 1 ? [{ width: right, pieces: [] }] : []),
				],
				width,
				making,
			),
		]
	const first = pieces[0]
	return [
		...(ruleAbove ? [rule(ruleAbove)] : []),
		...(ruleAbove && first ? [{ ...first, above: 3 }, ...pieces.slice(1)] : pieces),
		...(ruleBelow ? [{ ...rule(ruleBelow), ...(pieces.length > 0 ? { above: 3 } : {}) }] : []),
	]
}

/** The pictures of a paragraph, and its text between tabs. */
function linePieces(paragraph: Paragraph, width: number, making: Making, depth: number, lead: number): Piece[] {
	const pictures: Piece[] = paragraph.inlines.flatMap((inline, index) =>
		inline.is === 'picture' ? picturePiece(inline, index, paragraph, width, making) : [],
	)
	const hasText = paragraph.inlines.some(
		(inline) => inline.is === 'mark' || inline.is === 'page' || (inline.is === 'text' && inline.text.trim() !== ''),
	)
	if (pictures.length > 1 && depth > 1 && pictures.length <= mostColumns && !hasText)
		return [
			beside(
				`${paragraph.id}-row`,
				pictures.map((piece) => ({ width: width / pictures.length, pieces: [piece] })),
				width,
				making,
			),
		]
	if (pictures.length > 0 && hasText) note(making, paragraph.id, 'A picture within a line of text stands above it.')
	const text = hasText ? tabbed(paragraph, width, making, depth, lead) : []
	return [...pictures, ...text]
}

function picturePiece(
	picture: Extract<Inline, { is: 'picture' }>,
	index: number,
	paragraph: Paragraph,
	width: number,
	making: Making,
): Piece[] {
	const answer = answerAt(paragraph.id, index, making)
	if (answer && 'is' in answer && answer.is === 'nothing') return []
	const wide = Math.min(picture.width, width)
	const field = answer && 'field' in answer ? answer.field : null
	return [
		{
			type: 'picture',
			id: idOf(paragraph.id, making),
			of: field === 'issuer.logo' ? 'logo' : field ? { field } : { image: picture.sha256 },
			width: bounded(wide, 4, 800),
			height: bounded((picture.height * wide) / Math.max(picture.width, 1), 4, 800),
			...(paragraph.align && paragraph.align !== 'left' ? { align: paragraph.align } : {}),
		},
	]
}

/** Where tabs lead when a paragraph says nothing of its own. */
const usualTab = 36

function tabbed(paragraph: Paragraph, width: number, making: Making, depth: number, lead: number): Piece[] {
	const whole = () => {
		const id = idFor(paragraph.id, making)
		making.pieceOf.set(paragraph.id, id)
		const list = listAs(paragraph, 0)
		const runs = runsOf(paragraph, making)
		if (list.before) runs.unshift({ text: list.before, ...styleOf(runs[0]) })
		return wordsPiece(id, runs, lead, making, paragraph.align, list.list)
	}
	const places = paragraph.inlines.flatMap((inline, index) => (inline.is === 'tab' ? [index] : []))
	if (places.length === 0) return [whole()]
	const size = sizeOf(paragraph, making.looks)
	const wideOf = (from: number, to: number) =>
		paragraph.inlines
			.slice(from, to)
			.reduce(
				(sum, inline) => sum + ('style' in inline ? (inline.is === 'text' ? inline.text.length : 9) * size * 0.5 : 0),
				0,
			)
	const parts: Part[] = []
	let from = 0
	let x = 0
	let at = 0
	let align: 'left' | 'center' | 'right' = 'left'
	let stop = 0
	/** Whether some text has no room between its tabs. */
	let narrow = false
	const close = (to: number, until: number) => {
		const runs = runsOf(paragraph, making, from, to)
		const said = runs.some((run) => 'field' in run || (typeof run.text === 'string' && run.text.trim() !== ''))
		const wide = until - x
		if (said && wide < 12) narrow = true
		if (wide > 0.5) {
			const id = said
				? idFor(parts.some(({ pieces }) => pieces.length > 0) ? `${paragraph.id}-at` : paragraph.id, making)
				: ''
			// The paragraph is shown where its mark stands, not where its label does.
			const marked = paragraph.inlines.slice(from, to).some((inline) => inline.is === 'mark')
			if (said && (marked || !making.pieceOf.has(paragraph.id))) making.pieceOf.set(paragraph.id, id)
			parts.push({ width: wide, pieces: said ? [wordsPiece(id, runs, lead, making, align)] : [] })
		}
		x = until
	}
	for (const [order, place] of [...places, paragraph.inlines.length].entries()) {
		const last = order === places.length
		const text = wideOf(from, place)
		const end: number = align === 'left' ? x + text : align === 'right' ? stop : stop + text / 2
		const next: Tab | undefined = last
			? undefined
			: (paragraph.tabs?.find((one) => one.at > Math.max(end, at) + 0.5 && one.at <= width + 1) ?? {
					at: Math.min(width, Math.ceil((end + 1) / usualTab) * usualTab),
					align: 'left' as const,
				})
		if (align === 'left')
			close(place, last ? width : next?.align === 'left' ? next.at : Math.min(next?.at ?? width, end + 4))
		else if (align === 'right') close(place, Math.min(width, stop))
		else close(place, Math.min(width, stop + (stop - x)))
		if (next) {
			align = next.align
			stop = Math.min(next.at, width)
			at = stop
			if (align === 'left' && stop > x + 0.5) {
				parts.push({ width: stop - x, pieces: [] })
				x = stop
			}
		}
		from = place + 1
	}
	if (x < width - 0.5) parts.push({ width: width - x, pieces: [] })
	if (parts.length > mostColumns || depth < 2 || narrow) {
		note(making, paragraph.id, 'Text between tabs stands with spaces between.')
		return [whole()]
	}
	return [beside(`${paragraph.id}-tabs`, parts, width, making)]
}
