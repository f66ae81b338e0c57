import { z } from 'zod'
import { leafSchemas } from './pieces/leaves'
import { reckonedSchema } from './reckoned'
import { base, type Condition, color, families, points } from './schemaParts'

// A layout as it is kept, edited and travels (docs/layouts.md has it on one page). Lengths are points, 72 to the inch.

const leaf = z.discriminatedUnion('type', leafSchemas)
export type Leaf = z.infer<typeof leaf>
export type Box = {
	id: string
	when?: Condition | undefined
	above?: number | undefined
	on?: 'every' | 'first' | 'following' | 'last' | undefined
	type: 'box'
	pieces: Piece[]
	fill?: string | undefined
	edge?: string | undefined
	thickness?: number | undefined
	radius?: number | undefined
	pad?: number | undefined
}
export type Beside = Omit<Box, 'type' | 'pieces' | 'fill' | 'edge' | 'thickness' | 'radius' | 'pad'> & {
	type: 'beside'
	/** Up to six, with their shares of the width. */
	columns: { share: number; pieces: Piece[] }[]
	gap?: number | undefined
}
export type Piece = Leaf | Box | Beside
export type PieceType = Piece['type']
const pieces: z.ZodType<Piece[]> = z.lazy(() => z.array(pieceSchema).max(300))
const boxPiece = z.strictObject({
	...base,
	type: z.literal('box'),
	pieces,
	fill: color.optional(),
	edge: color.optional(),
	thickness: points(0.1, 10).optional(),
	radius: points(0, 40).optional(),
	pad: points(0, 60).optional(),
})
const besidePiece = z.strictObject({
	...base,
	type: z.literal('beside'),
	columns: z
		.array(z.strictObject({ share: z.number().min(0.05).max(20), pieces }))
		.min(1)
		.max(6),
	gap: points(0, 100).optional(),
})
const pieceSchema: z.ZodType<Piece> = z.union([leaf, boxPiece, besidePiece])

export const papers = {
	A4: { width: 595.28, height: 841.89 },
	Letter: { width: 612, height: 792 },
	A5: { width: 419.53, height: 595.28 },
} as const

/** How deep boxes and columns may stand within each other. */
export const deepest = 5
const depth = (pieces: readonly Piece[]): number =>
	pieces.reduce((most, piece) => Math.max(most, 1 + depth(withinOf(piece).flat())), 0)
/** The stacks of pieces that stand within a piece. */
export const withinOf = (piece: Piece): Piece[][] =>
	piece.type === 'box' ? [piece.pieces] : piece.type === 'beside' ? piece.columns.map(({ pieces }) => pieces) : []
/** Every piece of a stack, those within others too. */
export const allWithin = (pieces: readonly Piece[]): Piece[] =>
	pieces.flatMap((piece) => [piece, ...withinOf(piece).flatMap(allWithin)])

export const layoutSchema = z
	.strictObject({
		format: z.literal(1),
		/** What its papers say; which kind of the firm's it is for stands in the books. */
		kind: z.enum(['invoice', 'credit-note', 'statement', 'priced', 'unpriced']),
		name: z.string().trim().min(1).max(60),
		page: z.strictObject({
			size: z.enum(['A4', 'Letter', 'A5']),
			across: z.boolean(),
			margins: z.strictObject({
				top: points(0, 300),
				right: points(0, 300),
				bottom: points(0, 300),
				left: points(0, 300),
			}),
		}),
		palette: z
			.array(z.strictObject({ name: z.string().min(1).max(40), color: z.string().regex(/^[0-9a-f]{6}$/) }))
			.min(1)
			.max(6),
		/** The letter paper that lies under everything, a PDF by its SHA-256: its second page under the pages after the first. */
		under: z
			.string()
			.regex(/^[0-9a-f]{64}$/)
			.optional(),
		text: z.strictObject({ family: z.enum(families), size: points(4, 40), color }),
		/** The second typeface, for what is set in it. */
		display: z.enum(families).optional(),
		/** What comes with pages, above and below what flows. */
		head: pieces,
		body: pieces,
		foot: pieces,
		reckoned: z.array(reckonedSchema).max(40),
	})
	.superRefine((layout, { addIssue }) => {
		const all = allWithin([...layout.head, ...layout.body, ...layout.foot])
		const ids = new Set<string>()
		for (const { id } of all) {
			if (ids.has(id)) addIssue({ code: 'custom', path: ['body'], message: `Two pieces have the id "${id}".` })
			ids.add(id)
		}
		if (depth([...layout.head, ...layout.body, ...layout.foot]) > deepest)
			addIssue({ code: 'custom', path: ['body'], message: `Pieces stand within each other more than ${deepest} deep.` })
		if (all.length > 900) addIssue({ code: 'custom', path: ['body'], message: 'There are more than 900 pieces.' })
	})
/** Properties by which pieces name a colour of the palette. */
export const colourKeys: ReadonlySet<string> = new Set([
	...['color', 'fill', 'edge', 'tint', 'late', 'labelColor', 'ruleColor'],
])
export type Layout = z.infer<typeof layoutSchema>
