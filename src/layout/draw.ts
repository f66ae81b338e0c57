import type { At, Content } from './fieldTypes'
import { type Canvas, heightOfAll, type Node, place, type Region, type Trouble } from './flow'
import { languagesFor, sayIn } from './languages'
import { netOf } from './netOf'
import type { Page, PageItem } from './page'
import { compilePiece } from './pieces'
import { type Doc, type Draw, type Frame, type Kit, kitOf, plainLines, say, type Tools, textSlabs } from './pieces/kit'
import { outOfSight } from './pieces/lineChoice'
import type { LinesPiece } from './pieces/linesSchema'
import { allWithin, type Layout, type Piece, papers } from './schema'
import { fieldsOf } from './values'
import { word } from './words'

/** A layout made ready for any number of papers. */
export type Compiled = {
	layout: Layout
	kit: Kit
	paper: { width: number; height: number }
	head: Banded[]
	body: Draw[]
	/** The last piece of the body with a table of lines; -1 for none. */
	lastTable: number
	foot: Banded[]
	tables: LinesPiece[]
	/** Ids of the pieces that flow. */
	flowing: ReadonlySet<string>
}
type Banded = { on: NonNullable<Piece['on']>; draw: Draw }

/** What a paper came to: its pages, where each piece stands on them, and what a person must know of. */
export type Drawn = {
	paper: { width: number; height: number }
	pages: Page[]
	regions: Region[]
	troubles: Trouble[]
	notes: Doc['notes']
	codes: Doc['codes']
	columns: Doc['columns']
	/** Lines of a bill that no table shows, by their places. */
	outOfSight: number[]
	/** What stands alone at the head of a page after the first, with little or nothing below it. */
	alone: { piece: string; page: number }[]
}

/** What is written across a paper that no customer may get. */
export type Across = 'Draft' | 'Trial' | 'Copy' | null

/** Makes a layout ready for any number of papers. */
export function compileLayout(layout: Layout): Compiled {
	const kit = kitOf(layout, fieldsOf(layout))
	const { width, height } = papers[layout.page.size]
	const banded = (pieces: readonly Piece[]): Banded[] =>
		pieces.map((piece) => ({ on: piece.on ?? 'every', draw: compilePiece(piece, kit) }))
	return {
		layout,
		kit,
		paper: layout.page.across ? { width: height, height: width } : { width, height },
		head: banded(layout.head),
		body: layout.body.map((piece) => compilePiece(piece, kit)),
		lastTable: layout.body.findLastIndex((piece) =>
			allWithin([piece]).some((inner) => inner.type === 'lines' && inner.of === 'lines'),
		),
		foot: banded(layout.foot),
		tables: allWithin(layout.body).flatMap((piece) => (piece.type === 'lines' ? [piece] : [])),
		flowing: new Set(allWithin(layout.body).map(({ id }) => id)),
	}
}

/** Below what stands at the head of a page, and above what stands at its foot. */
const clear = 10
/**
 * Draws a paper. The same layout, content and tools give the same items.
 */
export function drawPaper(compiled: Compiled, content: Content, tools: Tools, across: Across): Drawn {
	const { layout, paper, kit } = compiled
	const { margins } = layout.page
	const languages = languagesFor(content)
	const at: At = { content, languages, place: -1, row: 0, page: 1, pages: 1 }
	const notes: Doc['notes'] = []
	const codes: Doc['codes'] = []
	const frames: Doc['frames'] = new Map()
	const columns: Doc['columns'] = []
	const frame: Frame = { x: margins.left, width: paper.width - margins.left - margins.right }
	const bandAt = (bands: Banded[], page: number, pages: number, last: boolean): Node[] =>
		bands
			.filter(
				({ on }) =>
					on === 'every' ||
					(on === 'first' && page === 0) ||
					(on === 'following' && page > 0) ||
					(on === 'last' && last),
			)
			.flatMap(({ draw }) =>
				draw({ at: { ...at, page: page + 1, pages }, tools, notes, codes, frames, columns }, frame),
			)
	// Heights are measured with a page number as wide as any; only the first page differs from those after it.
	const heights: (number | undefined)[] = []
	const bandHeight = (name: 'head' | 'foot', page: number, last: boolean): number => {
		const bands = compiled[name]
		const alike = bands.every(({ on }) => on === 'every')
		const key = (name === 'head' ? 0 : 4) + (alike ? 0 : (page === 0 ? 0 : 1) + (last ? 2 : 0))
		const known = heights[key]
		if (known !== undefined) return known
		const nodes = bands.length === 0 ? [] : bandAt(bands, page === 0 && !alike ? 0 : 887, 888, last)
		const height = nodes.length > 0 ? heightOfAll(nodes) + clear : 0
		heights[key] = height
		return height
	}
	const lowest = paper.height - margins.bottom
	const canvas: Canvas = {
		pages: [[]],
		top: (page) => margins.top + bandHeight('head', page, false),
		bottom: (page) => lowest - bandHeight('foot', page, false),
		regions: [],
		troubles: [],
	}
	const doc: Doc = { at, tools, notes, codes, frames, columns }
	const drawn = compiled.body.map((draw) => draw(doc, frame))
	// A table that is not shown, by its own condition or that of what it stands in, shows no line.
	const shown = compiled.tables.filter(({ id }) => frames.has(id))
	const hidden = outOfSight(shown, kit, at)
	if (hidden.length > 0) {
		const after = compiled.lastTable === -1 ? drawn.length - 1 : compiled.lastTable
		drawn[after]?.push(...hiddenWords(hidden, doc, frame, kit))
	}
	const nodes = drawn.flat()
	const end = place(canvas, nodes, { page: 0, y: canvas.top(0) })
	// What comes with the last page needs its room there; where there is none, it gets a page of its own.
	if (end.y > lowest - bandHeight('foot', end.page, true) + 0.01) canvas.pages.push([])
	const pages = canvas.pages.length
	const feet = new Set(allWithin(layout.foot).map(({ id }) => id))
	canvas.pages.forEach((page, index) => {
		const head = bandOn(bandAt(compiled.head, index, pages, index === pages - 1), margins.top, index, canvas, lowest)
		const footNodes = bandAt(compiled.foot, index, pages, index === pages - 1)
		const footTop = lowest - heightOfAll(footNodes)
		const foot = bandOn(footNodes, footTop, index, canvas, paper.height)
		// A foot that no page could hold reaches up over what stands above it.
		const highest =
			footTop < canvas.top(index) - 0.01
				? canvas.regions.find(({ page, piece }) => page === index && feet.has(piece))
				: undefined
		if (highest) canvas.troubles.push({ piece: highest.piece, page: index, what: 'too high' })
		// In reading order: head, what flows, foot.
		page.unshift(...head)
		page.push(...foot)
		const under = letterUnder(layout.under, index, tools)
		if (across) page.unshift(acrossMark(sayIn(word(across), languages), kit.look({ bold: true }).face, paper, tools))
		if (under) page.unshift({ type: 'image', x: 0, y: 0, width: paper.width, height: paper.height, sha256: under })
	})
	for (const region of canvas.regions) {
		const { x, width } = frames.get(region.piece) ?? frame
		region.left = x
		region.right = x + width
	}
	return {
		paper,
		pages: canvas.pages,
		regions: canvas.regions,
		troubles: [...canvas.troubles, ...offPaper(canvas, paper, tools)],
		notes,
		codes,
		columns,
		outOfSight: hidden,
		alone: standingAlone(canvas, compiled),
	}
}

/** How many lines no table shows, and how much they come to; the figures below are always those of the whole document. */
function hiddenWords(hidden: readonly number[], doc: Doc, frame: Frame, kit: Kit): Node[] {
	const { content } = doc.at
	if (content.kind === 'statement') return []
	const net = content.kind === 'unpriced' ? '' : ` (${say(doc, word('Net'))} ${netOf(content, hidden)})`
	const text = `${say(doc, word('Not listed here'))}: ${hidden.length} ${say(doc, word('lines'))}${net}`
	return textSlabs(plainLines(text, kit.look({ italic: true }), frame.width, doc), frame, '', {})
}

/** The items of a band, placed on a page of its own and taken from there. */
function bandOn(nodes: Node[], top: number, page: number, canvas: Canvas, bottom: number): PageItem[] {
	const pages: Page[] = []
	for (let index = 0; index <= page; index++) pages.push([])
	const own: Canvas = {
		pages,
		top: () => top,
		bottom: () => bottom,
		regions: canvas.regions,
		troubles: canvas.troubles,
	}
	place(own, nodes, { page, y: top })
	return pages[page] ?? []
}

/** Less than this of what flows, on a page of its own, looks left over. */
const leastAlone = 46

/** Pages after the first on which hardly anything of what flows stands, with the piece that does. */
function standingAlone({ pages, regions }: Canvas, { flowing }: Compiled): Drawn['alone'] {
	return pages.flatMap((_, page) => {
		const own = page === 0 ? [] : regions.filter((region) => region.page === page && flowing.has(region.piece))
		const [first] = own
		if (!first) return []
		const top = Math.min(...own.map((region) => region.top))
		const bottom = Math.max(...own.map((region) => region.bottom))
		return bottom - top < leastAlone ? [{ piece: first.piece, page }] : []
	})
}

/** The page of a letter paper that lies under a page: its second, where it has one, under those after the first. */
function letterUnder(under: string | undefined, page: number, { picture }: Tools): string | null {
	if (under === undefined) return null
	const following = `${under}#2`
	return page > 0 && picture(following) ? following : under
}

/** Words across a page, pale and under everything else. */
export function acrossMark(
	text: string,
	face: string,
	paper: { width: number; height: number },
	{ metrics }: Pick<Tools, 'metrics'>,
): PageItem {
	const turn = Math.atan2(paper.height, paper.width) * 0.75
	const room = Math.min(paper.width / Math.cos(turn), paper.height / Math.sin(turn)) * 0.72
	const size = Math.min(170, (100 * room) / Math.max(1, metrics.width(text, face, 100)))
	const width = metrics.width(text, face, size)
	return {
		...{ type: 'text', text, face, size, turn, color: 'f2ebdf' },
		x: paper.width / 2 - (Math.cos(turn) * width) / 2 + (Math.sin(turn) * size) / 3,
		y: paper.height / 2 + (Math.sin(turn) * width) / 2 + (Math.cos(turn) * size) / 3,
	}
}

/** Texts that reach over the edge of the paper. */
function offPaper(canvas: Canvas, paper: { width: number; height: number }, { metrics }: Tools): Trouble[] {
	const troubles: Trouble[] = []
	canvas.pages.forEach((page, index) => {
		for (const item of page) {
			if (item.type !== 'text' || item.turn) continue
			const right = item.x + metrics.width(item.text, item.face, item.size)
			if (item.x < -0.5 || right > paper.width + 0.5 || item.y < 0 || item.y > paper.height)
				troubles.push({ piece: pieceAt(canvas.regions, index, item.y), page: index, what: 'off the paper' })
		}
	})
	return troubles
}
const pieceAt = (regions: readonly Region[], page: number, y: number): string =>
	regions.findLast((region) => region.page === page && region.top - 2 <= y && y <= region.bottom + 2)?.piece ?? ''
