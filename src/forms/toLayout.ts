import type { KindName } from '@/kinds'
import { type Fields, fieldsByKey } from '@/layout/fields'
import { type Language, languageOf } from '@/layout/languages'
import {
	type Layout,
	type Inline as LayoutInline,
	type Paragraph as LayoutParagraph,
	type Leaf,
	type Piece,
	papers,
} from '@/layout/schema'
import {
	type Block,
	type Cell,
	type Form,
	type Inline,
	type Note,
	type Paragraph,
	paragraphsIn,
	type Row,
	type Tab,
	type Table,
} from './form'
import { type Looks, looksOf } from './looks'
import type { Answers, MarkAnswer, Source, Understood } from './marks'

/** A layout made of a form, where each of the form's blocks came to stand, and what is not as it was. */
export type Made = { layout: Layout; pieceOf: Record<string, string>; notes: Note[] }

/** How deep pieces may still be put within each other below a stack. */
const deepest = 5
const mostColumns = 6
const usualLead = 1.17
const round = (value: number): number => Math.round(value * 100) / 100
const bounded = (value: number, least: number, most: number): number => round(Math.max(least, Math.min(most, value)))

type Making = {
	form: Form
	understood: Understood
	answers: Answers
	looks: Looks
	language: Language
	fields: Fields
	notes: Note[]
	pieceOf: Map<string, string>
	ids: Set<string>
	band: 'head' | 'body' | 'foot'
}

/**
 * Makes a layout of a form: its paragraphs, tables and pictures become pieces, its marks the fields that they were given. A mark that was
 * given none stands as it was written.
 * @param name the layout's
 */
export function layoutOfForm(
	understood: Understood,
	answers: Answers,
	kind: KindName,
	name: string,
	fields: Fields = fieldsByKey,
): Made {
	const { form } = understood
	const looks = looksOf(form)
	const making: Making = {
		form,
		understood,
		answers,
		looks,
		language: languageOf(form.language || 'en') ?? 'en',
		fields,
		notes: [...form.notes, ...looks.notes],
		pieceOf: new Map(),
		ids: new Set(),
		band: 'body',
	}
	const { page, paper } = pageOf(form, making)
	const width = paper.width - page.margins.left - page.margins.right
	const bandOf = (which: 'head' | 'foot'): Piece[] => {
		making.band = which
		const { every, first } = form[which]
		const all = stack(every, width, making, deepest)
		if (!first) return all
		return [
			...stack(first, width, making, deepest).map((piece) => ({ ...piece, on: 'first' as const })),
			...all.map((piece) => ({ ...piece, on: 'following' as const })),
		]
	}
	const head = bandOf('head')
	const foot = bandOf('foot')
	making.band = 'body'
	const body = stack(form.body, width, making, deepest)
	const layout: Layout = {
		format: 1,
		kind,
		name,
		page,
		palette: looks.palette,
		text: looks.text,
		...(looks.display ? { display: looks.display } : {}),
		head,
		body: head.length > 0 ? withSpace(body, form, page.margins.top, head, making) : body,
		foot,
		reckoned: [],
	}
	return { layout, pieceOf: Object.fromEntries(making.pieceOf), notes: making.notes }
}

/** Text begins where it did below a running head: space stands in for what the head leaves. */
function withSpace(body: Piece[], form: Form, top: number, head: readonly Piece[], making: Making): Piece[] {
	const first = body[0]
	const tall = head.reduce((sum, piece) => sum + roughHeight(piece, making.looks.text.size), 0)
	const room = form.page.margins.top - top - tall - 10
	return first && room > 2
		? [{ type: 'space', id: idFor('head-room', making), height: bounded(room, 0, 400) }, ...body]
		: body
}

function roughHeight(piece: Piece, size: number): number {
	const above = piece.above ?? 0
	if (piece.type === 'words')
		return above + (Object.values(piece.says)[0]?.length ?? 1) * (piece.size ?? size) * (piece.lead ?? 1.28)
	if (piece.type === 'picture') return above + piece.height
	if (piece.type === 'box')
		return above + 2 * (piece.pad ?? 8) + piece.pieces.reduce((sum, inner) => sum + roughHeight(inner, size), 0)
	if (piece.type === 'beside')
		return (
			above +
			Math.max(...piece.columns.map(({ pieces }) => pieces.reduce((sum, inner) => sum + roughHeight(inner, size), 0)))
		)
	return above + (piece.type === 'space' ? piece.height : piece.type === 'rule' ? 1 : 14)
}

function pageOf(form: Form, making: Making): { page: Layout['page']; paper: { width: number; height: number } } {
	const { width, height, margins, headAt, footAt } = form.page
	const across = width > height
	const [narrow, long] = across ? [height, width] : [width, height]
	const nearest = (Object.entries(papers) as [Layout['page']['size'], { width: number; height: number }][]).sort(
		([, a], [, b]) =>
			Math.abs(a.width - narrow) + Math.abs(a.height - long) - (Math.abs(b.width - narrow) + Math.abs(b.height - long)),
	)[0]
	const size = nearest?.[0] ?? 'A4'
	const own = papers[size]
	if (Math.abs(own.width - narrow) + Math.abs(own.height - long) > 12)
		making.notes.push({
			block: '',
			words: `Its paper of ${Math.round(width)} by ${Math.round(height)} points is set as ${size}, the nearest.`,
		})
	const has = (band: Form['head']) => band.every.length + (band.first?.length ?? 0) > 0
	const set = {
		top: bounded(has(form.head) ? Math.min(headAt, margins.top) : margins.top, 0, 300),
		right: bounded(margins.right, 0, 300),
		bottom: bounded(has(form.foot) ? Math.min(footAt, margins.bottom) : margins.bottom, 0, 300),
		left: bounded(margins.left, 0, 300),
	}
	return { page: { size, across, margins: set }, paper: across ? { width: own.height, height: own.width } : own }
}

function idFor(wanted: string, making: Making): string {
	for (let count = 1; ; count++) {
		const id = count === 1 ? wanted : `${wanted}-${count}`
		if (!making.ids.has(id)) {
			making.ids.add(id)
			return id
		}
	}
}
/** The id of the piece that a block becomes; the block is found there. */
function idOf(block: string, making: Making): string {
	const id = idFor(block, making)
	if (!making.pieceOf.has(block)) making.pieceOf.set(block, id)
	return id
}
const note = (making: Making, block: string, words: string) => {
	if (!making.notes.some((one) => one.block === block && one.words === words)) making.notes.push({ block, words })
}

/** What a mark was given: the answer, and nothing for one that still stands as it was written. */
function answerAt(paragraph: string, index: number, making: Making): MarkAnswer | undefined {
	const key = making.understood.keyAt.get(`${paragraph} ${index}`)
	return key === undefined ? undefined : making.answers.marks[key]
}

/** A paragraph's parts as runs of a layout. Pictures and tabs are dealt with before. */
function runsOf(paragraph: Paragraph, making: Making, from = 0, to = paragraph.inlines.length): LayoutInline[] {
	const runs: LayoutInline[] = []
	const text = (words: string, style: object) => {
		for (let at = 0; at < words.length; at += 3900) {
			const last = runs.at(-1)
			const own = words.slice(at, at + 3900)
			if (
				last &&
				'text' in last &&
				typeof last.text === 'string' &&
				last.text.length + own.length < 3900 &&
				sameLook(last, style)
			)
				last.text += own
			else runs.push({ text: own, ...style })
		}
	}
	for (let index = from; index < to; index++) {
		const inline = paragraph.inlines[index]
		if (!inline) continue
		if (inline.is === 'text') text(inline.text, making.looks.style(inline.style))
		else if (inline.is === 'break') text('\n', {})
		else if (inline.is === 'tab') text('  ', {})
		else if (inline.is === 'page') {
			if (making.band === 'body')
				note(
					making,
					paragraph.id,
					'A page number within the text is left out: pages are counted at their head or foot.',
				)
			else runs.push({ field: inline.of, ...making.looks.style(inline.style) })
		} else if (inline.is === 'mark') runs.push(...markRuns(inline, paragraph.id, index, making))
	}
	return runs
}

function markRuns(
	mark: Extract<Inline, { is: 'mark' }>,
	paragraph: string,
	index: number,
	making: Making,
): LayoutInline[] {
	const style = making.looks.style(mark.style)
	const key = making.understood.keyAt.get(`${paragraph} ${index}`)
	// What opens or closes a repetition says nothing itself.
	if (key === undefined && mark.edge) return []
	const answer = key === undefined ? undefined : making.answers.marks[key]
	if (!answer || ('is' in answer && answer.is === 'text')) return [{ text: mark.shown, ...style }]
	if ('is' in answer) return []
	const type = making.fields.get(answer.field)?.type
	const { day, ...others } = mark.format ?? {}
	const format = { ...others, ...(day && type === 'day' ? { day } : {}) }
	return [
		{
			field: answer.field,
			...(Object.keys(format).length > 0 ? { format } : {}),
			...(mark.before ? { before: mark.before } : {}),
			...(mark.after ? { after: mark.after } : {}),
			...style,
		},
	]
}

const sameLook = (run: object, style: object): boolean => {
	const { text: _text, ...own } = run as { text: string }
	return JSON.stringify(own) === JSON.stringify(style)
}

const isBlank = (block: Block): boolean =>
	block.is === 'paragraph' &&
	block.inlines.every((inline) => inline.is === 'text' && inline.text.trim() === '') &&
	!block.ruleAbove &&
	!block.ruleBelow
const sizeOf = (paragraph: Paragraph, looks: Looks): number => {
	const sizes = paragraph.inlines.flatMap((inline) =>
		'style' in inline && inline.style.size ? [inline.style.size] : [],
	)
	return sizes.length > 0 ? Math.max(...sizes) : looks.text.size
}
/** Whether a paragraph is one among the paragraphs of a piece of words. */
const isPlain = (paragraph: Paragraph): boolean =>
	!paragraph.left &&
	!paragraph.right &&
	!paragraph.fill &&
	!paragraph.ruleAbove &&
	!paragraph.ruleBelow &&
	!paragraph.page &&
	paragraph.inlines.every(({ is }) => is !== 'picture' && is !== 'tab')

/** Runs in lots that a paragraph of a layout holds. */
const inLots = (runs: readonly LayoutInline[]): LayoutInline[][] =>
	Array.from({ length: Math.max(1, Math.ceil(runs.length / mostRuns)) }, (_, at) =>
		runs.slice(at * mostRuns, (at + 1) * mostRuns),
	)

/** Words that further paragraphs may join. */
type OpenWords = { piece: Extract<Leaf, { type: 'words' }>; paragraphs: LayoutParagraph[]; lead: number }

/**
 * A stack of blocks as pieces, one below the other.
 * @param depth how deep pieces may stand within each other from here on
 */
function stack(blocks: readonly Block[], width: number, making: Making, depth: number): Piece[] {
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
		const own = inLots(runs).map(
			(lot, at): LayoutParagraph => ({
				...(block.align && block.align !== 'left' ? { align: block.align } : {}),
				...(block.list ? { list: block.list } : {}),
				...(above > 0.2 && at === 0 ? { above: bounded(above, 0, 200) } : {}),
				runs: lot,
			}),
		)
		const joins = open.words
		if (joins && joins.lead === lead && joins.paragraphs.length < 150) {
			joins.paragraphs.push(...own)
			making.pieceOf.set(block.id, joins.piece.id)
			if (block.keep) joins.piece.keep = true
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
		open.words = placed?.type === 'words' ? { piece: placed, paragraphs, lead } : null
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
	says: { [making.language]: inLots(runs).map((lot) => ({ ...(list ? { list } : {}), runs: lot })) },
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

type Part = { width: number; pieces: Piece[] }
const beside = (id: string, parts: readonly Part[], width: number, making: Making, gap = 0): Piece => ({
	type: 'beside',
	id: idFor(id, making),
	columns: parts.map((part) => ({ share: bounded(((part.width || 1) / width) * 10, 0.05, 20), pieces: part.pieces })),
	gap,
})

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
	const whole = () =>
		wordsPiece(idOf(paragraph.id, making), runsOf(paragraph, making), lead, making, paragraph.align, paragraph.list)
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
		if (wide > 0.5)
			parts.push({
				width: wide,
				pieces: said
					? [
							wordsPiece(
								parts.some(({ pieces }) => pieces.length > 0)
									? idFor(`${paragraph.id}-at`, making)
									: idOf(paragraph.id, making),
								runs,
								lead,
								making,
								align,
							),
						]
					: [],
			})
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

/** The rows of a table in groups: those that are repeated for each of something, and those between them. */
function tablePieces(table: Table, width: number, making: Making, depth: number): Piece[] {
	const sum = table.columns.reduce((all, one) => all + one, 0)
	const left = table.align ? 0 : Math.min(table.left ?? 0, width * 0.6)
	const whole = sum > (width - left) * 0.97 || depth < 3
	const own = whole ? width - (depth < 3 ? 0 : left) : sum
	const scale = own / Math.max(sum, 1)
	const columns = table.columns.map((one) => one * scale)
	const pieces = groupsOf(table, making).flatMap((group) =>
		group.source
			? [linesPiece(table, group, columns, making)]
			: staticPieces(table, group.from, group.to, columns, making, depth - (whole && left < 1 ? 0 : 1)),
	)
	const first = pieces[0]
	if (first) making.pieceOf.set(table.id, first.id)
	const before = table.align === 'right' ? width - own : table.align === 'center' ? (width - own) / 2 : left
	if ((whole && left < 1) || pieces.length === 0 || depth < 2) return pieces
	const after = width - own - before
	return [
		beside(
			`${table.id}-set`,
			[
				...(before > 1 ? [{ width: before, pieces: [] }] : []),
				{ width: own, pieces },
				...(after > 1 ? [{ width: after, pieces: [] }] : []),
			],
			width,
			making,
		),
	]
}

type Group = { from: number; to: number; source: Source | null; head: number | null }

function groupsOf(table: Table, making: Making): Group[] {
	const groups: Group[] = []
	const { sourceOf, edges } = making.understood
	table.rows.forEach((row, index) => {
		if (edges.has(`${table.id} ${index}`)) return
		const source = sourceOf(table.id, index)
		const last = groups.at(-1)
		// Empty rows below a repeated one were room for more lines.
		if (!source && last?.source && isEmptyRow(row)) {
			note(making, table.id, 'Empty rows below the repeated one are left out: there are as many as there are lines.')
			return
		}
		if (last && last.source === source && last.to === index - 1) last.to = index
		else groups.push({ from: index, to: index, source, head: null })
	})
	// The row above a repeated one names its columns, where it says as many things and none of them is a mark.
	groups.forEach((group, at) => {
		const before = groups[at - 1]
		if (!group.source || !before || before.source) return
		const head = table.rows[before.to]
		if (!head || !isHead(head, table.rows[group.from])) return
		group.head = before.to
		before.to--
	})
	return groups.filter(({ from, to }) => to >= from)
}

const isEmptyRow = (row: Row): boolean => row.cells.every(({ blocks }) => blocks.every(isBlank))
const isHead = (row: Row, repeated: Row | undefined): boolean =>
	row.cells.length === repeated?.cells.length &&
	row.cells.every(({ blocks }) =>
		blocks.every(
			(block) => block.is === 'paragraph' && block.inlines.every(({ is }) => is === 'text' || is === 'break'),
		),
	) &&
	row.cells.filter(({ blocks }) => !blocks.every(isBlank)).length >= Math.min(2, row.cells.length)

const paragraphsOf = (cell: Cell | undefined): Paragraph[] => paragraphsIn(cell?.blocks ?? [])
const plainText = (cell: Cell | undefined): string =>
	paragraphsOf(cell)
		.map(({ inlines }) =>
			inlines.map((inline) => (inline.is === 'text' ? inline.text : inline.is === 'break' ? '\n' : '')).join(''),
		)
		.join('\n')
		.trim()

const mostCellLines = 8
const mostRuns = 200
/** Lines of a cell, no more than it holds: those beyond stand in its last, below each other. */
function upToLines(lines: readonly LayoutInline[][], most: number): LayoutInline[][] {
	if (lines.length <= most) return [...lines]
	const last = lines.slice(most - 1).flatMap((line, index) => (index === 0 ? line : [{ text: '\n' }, ...line]))
	return [...lines.slice(0, most - 1), last]
}

/** Paragraphs of a column down the rows of one record. */
const inColumn = (rows: readonly Row[], column: number, columns: number): Paragraph[] =>
	rows.flatMap(({ cells }) =>
		cells.flatMap((cell, index) => (Math.min(index, columns - 1) === column ? paragraphsOf(cell) : [])),
	)

/** Rows that are repeated as a table of lines: a column a cell, and further rows of the same record as further lines of their cells. */
function linesPiece(table: Table, group: Group, columns: readonly number[], making: Making): Piece {
	const rows = table.rows.slice(group.from, group.to + 1)
	// The columns are those of the row with the most cells; what others have more or less of goes to the nearest.
	const row = rows.reduce<Row | undefined>(
		(most, one) => (one.cells.length > (most?.cells.length ?? 0) ? one : most),
		undefined,
	)
	const head = group.head === null ? undefined : table.rows[group.head]
	const id = idOf(table.id, making)
	const cells = row?.cells ?? []
	const widthOf = (index: number): number => {
		const start = cells.slice(0, index).reduce((sum, { span }) => sum + span, 0)
		return columns.slice(start, start + (cells[index]?.span ?? 1)).reduce((sum, one) => sum + one, 0)
	}
	const between = 8
	const textLength = (index: number) =>
		rows.reduce(
			(sum, one) => sum + paragraphsOf(one.cells[index]).reduce((all, { inlines }) => all + inlines.length, 0),
			0,
		)
	const widest =
		cells.map((_, index) => index).sort((a, b) => widthOf(b) - widthOf(a) || textLength(b) - textLength(a))[0] ?? 0
	const headRun = paragraphsOf(head?.cells.find((cell) => plainText(cell) !== ''))
		.flatMap(({ inlines }) => inlines)
		.find((inline) => inline.is === 'text')
	const headStyle = headRun?.is === 'text' ? making.looks.style(headRun.style) : {}
	const fill = head?.cells.find((cell) => cell.fill)?.fill
	const sizes = cells.flatMap((cell) =>
		paragraphsOf(cell).flatMap(({ inlines }) =>
			inlines.flatMap((inline) =>
				'style' in inline ? [making.looks.style(inline.style).size ?? making.looks.text.size] : [],
			),
		),
	)
	const size = sizes.length > 0 ? Math.max(...sizes) : making.looks.text.size
	const ruled = row?.rule ?? (table.lines === 'none' ? undefined : table.rule)
	for (const cell of [...cells, ...(head?.cells ?? [])]) {
		for (const block of cell.blocks) making.pieceOf.set(block.id, id)
		if (cell.blocks.some(({ is }) => is === 'table'))
			note(making, table.id, 'A table within a repeated row stands as lines of its cell.')
	}
	for (const cell of rows.flatMap(({ cells }) => cells))
		for (const { id: own, inlines } of paragraphsOf(cell))
			if (inlines.some((inline, at) => inline.is === 'picture' && !answerAt(own, at, making)))
				note(
					making,
					table.id,
					'A picture in a repeated row is left out. Describe it as a mark in the form, {picture}, and give it a field.',
				)
	if (table.lines === 'grid')
		note(making, table.id, 'Lines between the columns of a repeated table are not drawn; those between its rows are.')
	return {
		type: 'lines',
		id,
		of: group.source ?? 'lines',
		columns: cells.map((_, index) => {
			const paragraphs = inColumn(rows, index, cells.length)
			const align =
				paragraphs.find((one) => one.align)?.align ?? paragraphsOf(head?.cells[index]).find((one) => one.align)?.align
			const picture = paragraphs.flatMap((one) =>
				one.inlines.flatMap((inline, at) => {
					const answer = inline.is === 'picture' ? answerAt(one.id, at, making) : undefined
					return inline.is === 'picture' && answer && 'field' in answer
						? [{ field: answer.field, width: bounded(Math.min(inline.width, widthOf(index)), 8, 300) }]
						: []
				}),
			)[0]
			const lines = paragraphs.map((one) => runsOf(one, making)).filter((runs) => runs.length > 0)
			return {
				id: `column-${index + 1}`,
				head: plainText(head?.cells[index]),
				cell: upToLines(lines, mostCellLines),
				width: index === widest ? ('rest' as const) : bounded(widthOf(index) - between, 8, 600),
				...(align && align !== 'left' ? { align } : {}),
				...(picture ? { picture } : {}),
			}
		}),
		rules: ruled ? 'lines' : 'none',
		...(ruled ? { ruleColor: making.looks.color(ruled.color) } : {}),
		head: {
			...(fill ? { fill: making.looks.color(fill) } : {}),
			...(headStyle.color ? { color: headStyle.color } : {}),
			...(headStyle.bold ? { bold: true } : {}),
			size: bounded(headStyle.size ?? (headRun ? making.looks.text.size : size), 4, 40),
		},
		...(size !== making.looks.text.size ? { size } : {}),
	}
}

/** Rows that stand once: cells side by side. Cells that go on over several rows stand beside a stack of these. */
function staticPieces(
	table: Table,
	from: number,
	to: number,
	columns: readonly number[],
	making: Making,
	depth: number,
): Piece[] {
	const pieces: Piece[] = []
	const drawn = table.lines !== 'none' && table.rule
	const rule = (): Piece => ({
		type: 'rule',
		id: idFor(`${table.id}-rule`, making),
		thickness: bounded(table.rule?.thickness ?? 0.5, 0.1, 20),
		color: making.looks.color(table.rule?.color ?? '000000'),
	})
	if (table.lines === 'grid')
		note(making, table.id, 'Lines between the columns of a table are not drawn; those between its rows are.')
	for (let index = from; index <= to; index++) {
		const row = table.rows[index]
		if (!row || making.understood.edges.has(`${table.id} ${index}`)) continue
		const goesOn = (row: Row | undefined, first: boolean): boolean =>
			(first ? row?.cells[0] : row?.cells.at(-1))?.goesOn === true
		const first = goesOn(table.rows[index + 1], true)
		let last = index
		while (last < to && row.cells.length > 1 && goesOn(table.rows[last + 1], first)) last++
		if (drawn) pieces.push(rule())
		if (last > index && depth > 2) {
			pieces.push(tallCell(table, index, last, first, columns, making, depth))
			index = last
			continue
		}
		pieces.push(...rowPieces(table, row, columns, making, depth, drawn ? 2 : 0))
	}
	return drawn && pieces.length > 0 ? [...pieces, rule()] : pieces
}

/** A cell at the edge that goes on over rows, beside the stack of what stands in these. */
function tallCell(
	table: Table,
	from: number,
	to: number,
	first: boolean,
	columns: readonly number[],
	making: Making,
	depth: number,
): Piece {
	const tall = first ? table.rows[from]?.cells[0] : table.rows[from]?.cells.at(-1)
	const span = tall?.span ?? 1
	const own = first ? columns.slice(0, span) : columns.slice(-span)
	const rest = first ? columns.slice(span) : columns.slice(0, -span)
	const width = (parts: readonly number[]) => parts.reduce((sum, one) => sum + one, 0)
	const cell = stack(tall?.blocks ?? [], width(own) - table.pad * 2, making, depth - 1)
	const others: Table = {
		...table,
		lines: 'none',
		rows: table.rows
			.slice(from, to + 1)
			.map((row) => ({ ...row, cells: row.cells.filter((_, at) => (first ? at !== 0 : at !== row.cells.length - 1)) })),
	}
	const stacked = others.rows.flatMap((row) => rowPieces(others, row, rest, making, depth - 1, 0))
	const parts = [
		{ width: width(own), pieces: cell },
		{ width: width(rest), pieces: stacked },
	]
	return beside(`${table.id}-beside`, first ? parts : parts.reverse(), width(columns), making)
}

function rowPieces(
	table: Table,
	row: Row,
	columns: readonly number[],
	making: Making,
	depth: number,
	above: number,
): Piece[] {
	const width = columns.reduce((sum, one) => sum + one, 0)
	let at = 0
	const parts = row.cells.map((cell, index): Part => {
		const own = columns.slice(at, at + cell.span).reduce((sum, one) => sum + one, 0)
		at += cell.span
		const last = index === row.cells.length - 1
		return { width: own, pieces: stack(cell.blocks, own - table.pad * (last ? 1 : 2), making, Math.max(1, depth - 2)) }
	})
	const filled = row.cells.find(({ fill }) => fill)?.fill
	if (row.cells.some(({ fill }) => fill !== filled) && filled)
		note(making, table.id, 'A ground of single cells lies under their whole row.')
	const said = parts.filter(({ pieces }) => pieces.length > 0)
	if (said.length === 0)
		return [
			{
				type: 'space',
				id: idFor(`${table.id}-empty`, making),
				height: bounded(making.looks.text.size * usualLead, 0, 700),
			},
		]
	let made: Piece[]
	if (parts.length === 1 || depth < 2) made = parts.flatMap(({ pieces }) => pieces)
	else if (parts.length > mostColumns) {
		note(making, table.id, `A row of ${parts.length} cells stands in ${mostColumns} columns.`)
		const kept = parts.slice(0, mostColumns - 1)
		const rest = parts.slice(mostColumns - 1)
		made = [
			beside(
				`${table.id}-row`,
				[
					...kept,
					{ width: rest.reduce((sum, one) => sum + one.width, 0), pieces: rest.flatMap(({ pieces }) => pieces) },
				],
				width,
				making,
				table.pad,
			),
		]
	} else made = [beside(`${table.id}-row`, parts, width, making, table.pad)]
	if (filled && depth > 2)
		return [
			{ type: 'box', id: idFor(`${table.id}-ground`, making), fill: making.looks.color(filled), pad: 3, pieces: made },
		]
	const [first, ...others] = made
	return first && above > 0 ? [{ ...first, above: (first.above ?? 0) + above }, ...others] : made
}
