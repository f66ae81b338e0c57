import type { Fields } from './fields'
import type { PaperKind } from './fieldTypes'
import { pieceName, pieceTypes } from './pieceTypes'
import type { Layout, Piece, PieceType } from './schema'
import { allWithin, colourKeys, withinOf } from './schema'
import { conditionWords } from './values'

// Changes to a layout, each giving a new one; what is not concerned stays the same object.

export type Band = 'head' | 'body' | 'foot'
export const bands: readonly Band[] = ['head', 'body', 'foot']
/** Where a piece stands: in a band, or in a stack of a box (0) or of pieces side by side. */
export type Spot = { band: Band; within: string | null; stack: number; index: number }

/** Every piece of a layout, those within others too, from head to foot. */
export const piecesOf = (layout: Layout): Piece[] => allWithin([...layout.head, ...layout.body, ...layout.foot])
/** A piece by its id; null where none has it. */
export const pieceOf = (layout: Layout, id: string): Piece | null =>
	piecesOf(layout).find((piece) => piece.id === id) ?? null

/** A stack of pieces with a change made in it. */
type Change = (pieces: Piece[], spot: Omit<Spot, 'index'>) => Piece[]

function mapStacks(layout: Layout, change: Change): Layout {
	const stackOf = (pieces: Piece[], spot: Omit<Spot, 'index'>): Piece[] => {
		const changed = change(pieces, spot)
		const inner = changed.map((piece) => within(piece, spot.band))
		return inner.every((piece, index) => piece === pieces[index]) && inner.length === pieces.length ? pieces : inner
	}
	const within = (piece: Piece, band: Band): Piece => {
		if (piece.type === 'box') {
			const pieces = stackOf(piece.pieces, { band, within: piece.id, stack: 0 })
			return pieces === piece.pieces ? piece : { ...piece, pieces }
		}
		if (piece.type === 'beside') {
			const columns = piece.columns.map((column, stack) => {
				const pieces = stackOf(column.pieces, { band, within: piece.id, stack })
				return pieces === column.pieces ? column : { ...column, pieces }
			})
			return columns.every((column, index) => column === piece.columns[index]) ? piece : { ...piece, columns }
		}
		return piece
	}
	return {
		...layout,
		head: stackOf(layout.head, { band: 'head', within: null, stack: 0 }),
		body: stackOf(layout.body, { band: 'body', within: null, stack: 0 }),
		foot: stackOf(layout.foot, { band: 'foot', within: null, stack: 0 }),
	}
}

/** Puts another piece in the place of one. */
export const replacePiece = (layout: Layout, id: string, piece: Piece): Layout =>
	mapStacks(layout, (pieces) =>
		pieces.some((one) => one.id === id) ? pieces.map((one) => (one.id === id ? piece : one)) : pieces,
	)

/** A layout without a piece and all that stands in it. */
export const removePiece = (layout: Layout, id: string): Layout =>
	mapStacks(layout, (pieces) => (pieces.some((one) => one.id === id) ? pieces.filter((one) => one.id !== id) : pieces))

/** Where a piece stands; null for one that there is not. */
export function spotOf(layout: Layout, id: string): Spot | null {
	let found: Spot | null = null
	mapStacks(layout, (pieces, spot) => {
		const index = pieces.findIndex((piece) => piece.id === id)
		if (index >= 0) found = { ...spot, index }
		return pieces
	})
	return found
}

const same = (a: Omit<Spot, 'index'>, b: Omit<Spot, 'index'>): boolean =>
	a.band === b.band && a.within === b.within && a.stack === b.stack

/** Puts a piece in at a spot. */
export const insertPiece = (layout: Layout, spot: Spot, piece: Piece): Layout =>
	mapStacks(layout, (pieces, here) =>
		same(spot, here) ? [...pieces.slice(0, spot.index), piece, ...pieces.slice(spot.index)] : pieces,
	)

/** Moves a piece to a spot, as the spots are before it leaves its own; into itself it cannot be moved. */
export function movePiece(layout: Layout, id: string, to: Spot): Layout {
	const piece = pieceOf(layout, id)
	const from = spotOf(layout, id)
	if (!piece || !from || allWithin([piece]).some((inner) => inner.id === to.within)) return layout
	const index = same(from, to) && from.index < to.index ? to.index - 1 : to.index
	if (same(from, to) && from.index === index) return layout
	return insertPiece(removePiece(layout, id), { ...to, index }, piece)
}

/** The piece before or after in the order down the paper: past its neighbour, or out of what it stands in. */
export function stepPiece(layout: Layout, id: string, by: 1 | -1): Layout {
	const spot = spotOf(layout, id)
	if (!spot) return layout
	const count = stackAt(layout, spot).length
	if (by === -1 && spot.index > 0) return movePiece(layout, id, { ...spot, index: spot.index - 1 })
	if (by === 1 && spot.index < count - 1) return movePiece(layout, id, { ...spot, index: spot.index + 2 })
	if (spot.within) {
		const outer = pieceOf(layout, spot.within)
		const columns = outer?.type === 'beside' ? outer.columns.length : 1
		const stack = spot.stack + by
		if (stack >= 0 && stack < columns) {
			const next = { ...spot, stack, index: 0 }
			return movePiece(layout, id, by === 1 ? next : { ...next, index: stackAt(layout, next).length })
		}
		const around = spotOf(layout, spot.within)
		return around ? movePiece(layout, id, { ...around, index: around.index + (by === 1 ? 1 : 0) }) : layout
	}
	const band = bands[bands.indexOf(spot.band) + by]
	if (!band) return layout
	return movePiece(layout, id, { band, within: null, stack: 0, index: by === 1 ? 0 : layout[band].length })
}

const stackAt = (layout: Layout, { band, within, stack }: Omit<Spot, 'index'>): Piece[] => {
	if (within === null) return layout[band]
	const piece = pieceOf(layout, within)
	return piece ? (withinOf(piece)[stack] ?? []) : []
}

/** An id that no piece has. */
export function freeId(layout: Layout, wanted: string): string {
	const ids = new Set(piecesOf(layout).map(({ id }) => id))
	for (let count = 1; ; count++) {
		const id = count === 1 ? wanted : `${wanted}-${count}`
		if (!ids.has(id)) return id
	}
}

/** A piece with ids of its own, to stand beside the one it is like. */
export function copyPiece(layout: Layout, id: string): { layout: Layout; id: string } {
	const piece = pieceOf(layout, id)
	const spot = spotOf(layout, id)
	if (!piece || !spot) return { layout, id }
	const taken = new Set(piecesOf(layout).map((one) => one.id))
	const fresh = (own: Piece): Piece => {
		let count = 2
		while (taken.has(`${own.id}-${count}`)) count++
		const made = `${own.id}-${count}`
		taken.add(made)
		if (own.type === 'box') return { ...own, id: made, pieces: own.pieces.map(fresh) }
		if (own.type === 'beside')
			return {
				...own,
				id: made,
				columns: own.columns.map((column) => ({ ...column, pieces: column.pieces.map(fresh) })),
			}
		return { ...own, id: made }
	}
	const copy = fresh(piece)
	return { layout: insertPiece(layout, { ...spot, index: spot.index + 1 }, copy), id: copy.id }
}

/** The records that papers of a kind list in the first place, and the figure that their sums are of. */
export const mainRecords = (kind: PaperKind) =>
	kind === 'statement'
		? ({ source: 'items', of: 'item', figure: 'item.open' } as const)
		: ({ source: 'lines', of: 'line', figure: kind === 'unpriced' ? 'line.quantity' : 'line.net' } as const)

/** A new piece of a type, as it is first put in. */
export const newPiece = (type: PieceType, layout: Layout): Piece => pieceTypes[type].fresh(freeId(layout, type), layout)

/** Types that papers of a kind can have. */
export const typesFor = (kind: PaperKind): PieceType[] =>
	(Object.keys(pieceTypes) as PieceType[]).filter((type) => pieceTypes[type].fits(kind))

export type OutlineRow = { piece: Piece; band: Band; depth: number; name: string; about: string }

/** Every piece down the paper, with what it is called and what is to be known of it at a glance. */
export function outline(layout: Layout, fields: Fields): OutlineRow[] {
	const rows: OutlineRow[] = []
	const walk = (pieces: readonly Piece[], band: Band, depth: number) => {
		for (const piece of pieces) {
			rows.push({
				piece,
				band,
				depth,
				name: pieceName(piece, (key) => fields.get(key)?.name ?? key),
				about: aboutPiece(piece, fields),
			})
			for (const stack of withinOf(piece)) walk(stack, band, depth + 1)
		}
	}
	for (const band of bands) walk(layout[band], band, 0)
	return rows
}

const onWords = { every: 'every page', first: 'first page', following: 'following pages', last: 'last page' }
function aboutPiece(piece: Piece, fields: Fields): string {
	const parts = [
		piece.on && piece.on !== 'every' ? onWords[piece.on] : '',
		piece.type === 'lines' && piece.only ? `only those whose ${conditionWords(piece.only, fields)}` : '',
		piece.type === 'address' && piece.window ? 'in the window' : '',
		piece.when ? `when ${conditionWords(piece.when, fields)}` : '',
	]
	return parts.filter(Boolean).join('; ')
}

/** Every colour that a part of a layout names, put otherwise. */
function recoloured<Part>(part: Part, other: (name: string) => string): Part {
	if (Array.isArray(part)) return part.map((one) => recoloured(one, other)) as Part
	if (typeof part !== 'object' || part === null) return part
	return Object.fromEntries(
		Object.entries(part).map(([key, value]) => [
			key,
			colourKeys.has(key) && typeof value === 'string' ? other(value) : recoloured(value, other),
		]),
	) as Part
}
const withPieces = (layout: Layout, other: (name: string) => string): Layout => ({
	...layout,
	...recoloured({ head: layout.head, body: layout.body, foot: layout.foot }, other),
	text: { ...layout.text, color: other(layout.text.color) },
})

/** The palette's colour of a name under another; the same layout where that cannot be. */
export function renameColour(layout: Layout, from: string, to: string): Layout {
	if (to === '' || to === from || layout.palette.some(({ name }) => name === to)) return layout
	const palette = layout.palette.map((own) => (own.name === from ? { ...own, name: to } : own))
	return { ...withPieces(layout, (name) => (name === from ? to : name)), palette }
}

/** Takes a colour out of the palette; what has it gets the first of those that are left. */
export function removeColour(layout: Layout, name: string): Layout {
	const palette = layout.palette.filter((own) => own.name !== name)
	const [instead] = palette
	if (!instead || palette.length === layout.palette.length) return layout
	return { ...withPieces(layout, (own) => (own === name ? instead.name : own)), palette }
}

/** What differs between two layouts, piece by piece, in words. */
export function differences(before: Layout, after: Layout, fields: Fields): string[] {
	const [old, now] = [outline(before, fields), outline(after, fields)]
	const own = (piece: Piece) => JSON.stringify(withinOf(piece).length > 0 ? { ...piece, pieces: 0, columns: 0 } : piece)
	const known = new Map(old.map((row, place) => [row.piece.id, { row, place }]))
	const kept = now.filter(({ piece }) => known.has(piece.id))
	const inOrder = [...kept].sort((a, b) => (known.get(a.piece.id)?.place ?? 0) - (known.get(b.piece.id)?.place ?? 0))
	return [
		...(JSON.stringify(before.page) === JSON.stringify(after.page) ? [] : ['paper and margins']),
		...(JSON.stringify(before.palette) === JSON.stringify(after.palette) ? [] : ['colours']),
		...(JSON.stringify([before.text, before.display]) === JSON.stringify([after.text, after.display])
			? []
			: ['typefaces']),
		...(before.under === after.under ? [] : ['letter paper']),
		...(JSON.stringify(before.reckoned) === JSON.stringify(after.reckoned) ? [] : ['reckoned fields']),
		...old.filter(({ piece }) => !now.some((row) => row.piece.id === piece.id)).map(({ name }) => `gone: ${name}`),
		...now.filter(({ piece }) => !known.has(piece.id)).map(({ name }) => `new: ${name}`),
		...kept.flatMap(({ piece, name }) => {
			const was = known.get(piece.id)?.row.piece
			return was && own(was) !== own(piece) ? [`changed: ${name}`] : []
		}),
		...(kept.some((row, place) => inOrder[place] !== row) ? ['the order of pieces'] : []),
	]
}
