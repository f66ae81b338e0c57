import type { z } from 'zod'
import { everywhere, type Leaf as LeafType, type Named, nothing, type PieceDeclaration } from './pieces/leaf'
import { leaves } from './pieces/leaves'
import type { Beside, Box, Leaf, Piece, PieceType } from './schema'

const box: PieceDeclaration<Box> = {
	name: 'Box',
	fits: everywhere,
	fresh: (id, { text }) => ({ type: 'box', id, edge: text.color, pieces: [] }),
	names: nothing,
}
const beside: PieceDeclaration<Beside> = {
	name: 'Side by side',
	fits: everywhere,
	fresh: (id) => ({
		type: 'beside',
		id,
		columns: [
			{ share: 1, pieces: [] },
			{ share: 1, pieces: [] },
		],
	}),
	names: nothing,
}

/** Every type of piece, in the order in which they are offered. */
export const pieceTypes: { [T in PieceType]: PieceDeclaration<Extract<Piece, { type: T }>> } = {
	...leaves,
	box,
	beside,
}

/** What there is to know of a piece's type. */
const declarationOf = (piece: Piece) => pieceTypes[piece.type] as PieceDeclaration<Piece>
/** The same of one that has no others within it, with how it is drawn and said. */
export const leafOf = (piece: Leaf) => leaves[piece.type] as unknown as LeafType<z.ZodType<Leaf>>

/** Names every field that a piece uses itself, besides those of what stands within it. */
export function namesOf(piece: Piece, named: Named): void {
	named.condition(piece.when)
	declarationOf(piece).names(piece, named)
}

/** What a piece is called in lists: its type, with what tells it from others of the type. */
export function pieceName(piece: Piece, fieldName: (key: string) => string): string {
	const { name, called } = declarationOf(piece)
	return called?.(piece, fieldName) ?? name
}
