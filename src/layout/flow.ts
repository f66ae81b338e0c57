import { lower, type Page, type PageItem } from './page'

/*
 * What pieces make of a document is a galley: a list of nodes, one below the other, not yet on any page. The flow puts them on pages.
 *
 *   slab    a strip that is never parted: a line of text, a row of a table, a picture. Its items are placed across the page already
 *           and lie below 0; the flow lowers them to where it comes to stand.
 *   gap     empty height, which is dropped at the head of a page
 *   table   a head that is repeated, and rows
 *   beside  stacks side by side; they stay together where they fit on a page, else each flows for itself
 *   box     nodes with a ground and an edge round them
 *   fixed   a strip at a height of the page that a standard says
 *   turn    the end of a page; at the head of one it is none
 */
export type Slab = {
	is: 'slab'
	height: number
	items: PageItem[]
	/** Stays on one page with what follows. */
	keep?: boolean
	piece: string
}
type BoxLook = {
	x: number
	width: number
	pad: number
	fill: string | null
	edge: { color: string; thickness: number } | null
	radius: number
}
export type Node =
	| Slab
	| { is: 'gap'; height: number }
	/** `head` draws it anew for each page. */
	| { is: 'table'; headHeight: number; head: () => Slab | null; rows: Slab[]; piece: string }
	| { is: 'beside'; columns: Node[][]; piece: string }
	| { is: 'box'; nodes: Node[]; look: BoxLook; piece: string }
	| { is: 'turn' }
	| { is: 'fixed'; y: number; height: number; items: PageItem[]; piece: string; overflows: boolean }

/** Where a piece came to stand: a page, from top to bottom. */
export type Region = { piece: string; page: number; top: number; bottom: number; left: number; right: number }
/** Something about the flow that a person must know of: a piece that does not fit, or is not where it must be. */
export type Trouble = { piece: string; page: number; what: 'too high' | 'not in the window' | 'off the paper' | 'cut' }

export type Canvas = {
	pages: Page[]
	/** Where what flows begins and ends on a page, from 0. */
	top: (page: number) => number
	bottom: (page: number) => number
	regions: Region[]
	troubles: Trouble[]
}
type Cursor = { page: number; y: number }

/** Puts nodes on pages from a place on, and says where they end. */
export function place(canvas: Canvas, nodes: readonly Node[], start: Cursor): Cursor {
	const cursor = { ...start }
	for (let index = 0; index < nodes.length; index++) {
		const node = nodes[index]
		if (!node) continue
		if (node.is === 'gap') {
			if (cursor.y > canvas.top(cursor.page)) cursor.y += node.height
			continue
		}
		if (node.is === 'fixed') {
			placeFixed(canvas, node, cursor)
			continue
		}
		if (node.is === 'turn') {
			if (!atTop(canvas, cursor)) turn(canvas, cursor)
			continue
		}
		if (!atTop(canvas, cursor) && cursor.y + firstHeight(canvas, nodes, index) > canvas.bottom(cursor.page) + hair)
			turn(canvas, cursor)
		if (node.is === 'slab') put(canvas, node, cursor)
		else if (node.is === 'table')
			placeTable(canvas, node, cursor, node.rows.at(-1)?.keep ? firstHeight(canvas, nodes, index + 1) : 0)
		else if (node.is === 'beside') Object.assign(cursor, placeBeside(canvas, node.columns, cursor))
		else Object.assign(cursor, placeBox(canvas, node, cursor))
	}
	return cursor
}

/** Sums of heights that should be the same may differ in the last bits. */
const hair = 0.001
const atTop = (canvas: Canvas, { page, y }: Cursor): boolean => y <= canvas.top(page) + hair

function turn(canvas: Canvas, cursor: Cursor): void {
	cursor.page++
	while (canvas.pages.length <= cursor.page) canvas.pages.push([])
	cursor.y = canvas.top(cursor.page)
}

function put(canvas: Canvas, slab: Slab, cursor: Cursor): void {
	if (cursor.y + slab.height > canvas.bottom(cursor.page) + hair)
		canvas.troubles.push({ piece: slab.piece, page: cursor.page, what: 'too high' })
	lower(slab.items, cursor.y)
	canvas.pages[cursor.page]?.push(...slab.items)
	note(canvas, slab.piece, cursor, slab.height)
	cursor.y += slab.height
}

function note(canvas: Canvas, piece: string, { page, y }: Cursor, height: number): void {
	const known = canvas.regions.findLast((region) => region.piece === piece && region.page === page)
	if (known) {
		known.top = Math.min(known.top, y)
		known.bottom = Math.max(known.bottom, y + height)
	} else canvas.regions.push({ piece, page, top: y, bottom: y + height, left: 0, right: 0 })
}

/** Height of a node if it is not parted. */
function heightOf(node: Node): number {
	switch (node.is) {
		case 'slab':
		case 'gap':
			return node.height
		case 'table':
			return node.headHeight + node.rows.reduce((sum, row) => sum + row.height, 0)
		case 'beside':
			return Math.max(0, ...node.columns.map(heightOfAll))
		case 'box':
			return heightOfAll(node.nodes) + 2 * node.look.pad
		case 'fixed':
			return node.height
		case 'turn':
			return 0
	}
}
/** Height of a stack of nodes that begins at the head of something: a gap there counts for nothing. */
export const heightOfAll = (nodes: readonly Node[]): number => {
	let height = 0
	for (const node of nodes) if (node.is !== 'gap' || height > 0) height += heightOf(node)
	return height
}

/**
 * How much room a node needs to begin where it is: its first strip, with all that must stay with it. Where that is more than a page, only
 * the strip itself, since no page would do.
 */
function firstHeight(canvas: Canvas, nodes: readonly Node[], index: number): number {
	const page = pageHeight(canvas)
	let height = 0
	for (let next = index; next < nodes.length; next++) {
		const node = nodes[next]
		if (!node) break
		const first = beginning(canvas, node)
		if (height + first.height > page) return height > 0 ? height : first.height
		height += first.height
		if (!first.keep) break
	}
	return height
}

/** The first strip of a node; `keep` when all of the node is in it and what follows must stay with it. */
function beginning(canvas: Canvas, node: Node): { height: number; keep: boolean } {
	const page = pageHeight(canvas)
	switch (node.is) {
		case 'slab':
			return { height: node.height, keep: node.keep === true }
		case 'gap':
			return { height: node.height, keep: true }
		case 'fixed':
		case 'turn':
			return { height: 0, keep: false }
		case 'table': {
			let height = node.headHeight
			for (const row of node.rows) {
				if (height + row.height > page) return { height, keep: false }
				height += row.height
				if (!row.keep) return { height, keep: false }
			}
			return { height, keep: node.rows.at(-1)?.keep === true || node.rows.length === 0 }
		}
		case 'beside': {
			const whole = heightOf(node)
			return whole <= page
				? { height: whole, keep: false }
				: { height: Math.max(0, ...node.columns.map(firstOf(canvas))), keep: false }
		}
		case 'box': {
			const whole = heightOf(node)
			return { height: whole <= page ? whole : firstOf(canvas)(node.nodes) + 2 * node.look.pad, keep: false }
		}
	}
}
const firstOf = (canvas: Canvas) => (nodes: readonly Node[]) => firstHeight(canvas, nodes, 0)

/** What a page after the first holds. */
const pageHeight = (canvas: Canvas): number => canvas.bottom(1) - canvas.top(1)

/** @param after height of what must stand on the page of its last row */
function placeTable(canvas: Canvas, table: Extract<Node, { is: 'table' }>, cursor: Cursor, after: number): void {
	const head = () => {
		const drawn = table.head()
		if (drawn) put(canvas, drawn, cursor)
	}
	head()
	table.rows.forEach((row, index) => {
		let needed = row.height
		let next = index
		for (; table.rows[next]?.keep && next + 1 < table.rows.length; next++) needed += table.rows[next + 1]?.height ?? 0
		if (next === table.rows.length - 1 && table.rows[next]?.keep) needed += after
		const room = pageHeight(canvas) - table.headHeight
		if (index > 0 && cursor.y + (needed > room ? row.height : needed) > canvas.bottom(cursor.page) + hair) {
			turn(canvas, cursor)
			head()
		}
		put(canvas, row, cursor)
	})
}

/** Stacks side by side from the same height; goes on below the one that ends last. */
function placeBeside(canvas: Canvas, columns: readonly Node[][], start: Cursor): Cursor {
	let end = { ...start }
	for (const nodes of columns) {
		const own = place(canvas, nodes, start)
		if (own.page > end.page || (own.page === end.page && own.y > end.y)) end = own
	}
	return end
}

/** The ground lies below what stands in the box, so it is put where the page stood before; a box that is parted has one on each page. */
function placeBox(canvas: Canvas, { nodes, look, piece }: Extract<Node, { is: 'box' }>, start: Cursor): Cursor {
	const before = canvas.pages.map((page) => page.length)
	const inner: Canvas = {
		...canvas,
		top: (page) => (page === start.page ? start.y + look.pad : canvas.top(page) + look.pad),
		bottom: (page) => canvas.bottom(page) - look.pad,
	}
	const end = place(inner, nodes, { page: start.page, y: start.y + look.pad })
	end.y += look.pad
	for (let page = start.page; page <= end.page; page++) {
		const top = page === start.page ? start.y : canvas.top(page)
		const bottom = page === end.page ? end.y : canvas.bottom(page)
		canvas.pages[page]?.splice(before[page] ?? 0, 0, {
			type: 'round',
			x: look.x,
			y: top,
			width: look.width,
			height: bottom - top,
			radius: look.radius,
			color: look.fill,
			edge: look.edge,
		})
		note(canvas, piece, { page, y: top }, bottom - top)
	}
	return end
}

function placeFixed(canvas: Canvas, node: Extract<Node, { is: 'fixed' }>, cursor: Cursor): void {
	const inWindow = cursor.page === 0 && cursor.y <= node.y + hair
	const y = inWindow ? node.y : cursor.y
	if (!inWindow) canvas.troubles.push({ piece: node.piece, page: cursor.page, what: 'not in the window' })
	if (node.overflows) canvas.troubles.push({ piece: node.piece, page: cursor.page, what: 'cut' })
	lower(node.items, y)
	canvas.pages[cursor.page]?.push(...node.items)
	note(canvas, node.piece, { page: cursor.page, y }, node.height)
	cursor.y = y + node.height
}
