import { z } from 'zod'
import { languages } from './languages'
import {
	align,
	base,
	type Condition,
	color,
	conditionSchema,
	field,
	inlines,
	lettering,
	paragraphs,
	points,
	saidSchema,
	style,
} from './schemaParts'
import { symbolNames } from './symbologies'

// A layout as it is kept, edited and travels (docs/layouts.md has it on one page). Lengths are points, 72 to the inch.

const wordsPiece = z.strictObject({
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

const factRow = z.strictObject({ label: saidSchema, value: inlines, when: conditionSchema.optional() })
const factsPiece = z.strictObject({
	...base,
	type: z.literal('facts'),
	rows: z.array(factRow).max(60),
	/** Labels left of their values, or above them. */
	labels: z.enum(['left', 'above']).optional(),
	/** How many stand side by side. */
	across: z.number().int().min(1).max(6).optional(),
	labelWidth: points(10, 400).optional(),
	labelColor: color.optional(),
	align,
	...style,
})

export const windows = {
	'din-5008-a': { name: 'DIN 5008 form A', x: 70.87, y: 76.54, width: 226.77, height: 127.56 },
	'din-5008-b': { name: 'DIN 5008 form B', x: 70.87, y: 127.56, width: 226.77, height: 127.56 },
	dl: { name: 'DL', x: 56.69, y: 141.73, width: 255.12, height: 99.21 },
	'us-10': { name: 'US No. 10', x: 63, y: 144, width: 288, height: 81 },
} as const
const addressPiece = z.strictObject({
	...base,
	type: z.literal('address'),
	of: z.enum(['customer', 'delivery', 'issuer']),
	as: z.enum(['block', 'line']).optional(),
	label: saidSchema.optional(),
	country: z.enum(['abroad', 'always', 'never']).optional(),
	/** Where it shows in the window of an envelope: on the first page, at the place that the standard says. */
	window: z.enum(['din-5008-a', 'din-5008-b', 'dl', 'us-10']).optional(),
	/** Size of the name; the rest has the piece's own. */
	nameSize: points(4, 40).optional(),
	/** In a window: the issuer's address in one small line above. */
	back: z.boolean().optional(),
	align,
	...style,
})

const columnSchema = z.strictObject({
	id: z.string().min(1).max(40),
	head: saidSchema,
	/** A line below the other; one that is all empty fields is left out. */
	cell: z.array(inlines).max(8),
	/** Points, as wide as it needs up to a most, or what the others leave. */
	width: z.union([z.literal('rest'), z.strictObject({ most: points(10, 500) }), points(8, 600)]),
	align,
	when: conditionSchema.optional(),
	/** A picture from a field of the line, this wide, above the cell's text. */
	picture: z.strictObject({ field, width: points(8, 300) }).optional(),
	...style,
})
export type LinesColumn = z.infer<typeof columnSchema>
export const lineSources = ['lines', 'orders', 'taxes', 'items', 'movements'] as const
const linesPiece = z.strictObject({
	...base,
	type: z.literal('lines'),
	of: z.enum(lineSources),
	title: saidSchema.optional(),
	columns: z.array(columnSchema).min(1).max(20),
	sort: z
		.array(z.strictObject({ field, down: z.boolean().optional() }))
		.max(6)
		.optional(),
	only: conditionSchema.optional(),
	group: z
		.strictObject({
			by: field,
			head: inlines,
			subtotal: z.strictObject({ label: saidSchema, of: field }).optional(),
		})
		.optional(),
	/** Every second line on this colour. */
	tint: color.optional(),
	/** Rules below each line, below the head alone, or none. */
	rules: z.enum(['lines', 'head', 'none']).optional(),
	ruleColor: color.optional(),
	head: z
		.strictObject({
			fill: color.optional(),
			color: color.optional(),
			bold: z.boolean().optional(),
			size: points(4, 40).optional(),
		})
		.optional(),
	/** Space above and below the text of a line. */
	pad: points(0, 20).optional(),
	none: saidSchema.optional(),
	/** Its last line stays on one page with what follows. */
	keep: z.boolean().optional(),
	...lettering,
})
export type LinesPiece = z.infer<typeof linesPiece>

export const totalRows = ['subtotal', 'discounts', 'charges', 'net', 'taxes', 'total', 'prepaid', 'due'] as const
const totalsPiece = z.strictObject({
	...base,
	type: z.literal('totals'),
	rows: z
		.array(
			z.strictObject({
				row: z.enum(totalRows),
				label: saidSchema.optional(),
				when: conditionSchema.optional(),
				money: z.enum(['sign', 'code', 'none']).optional(),
				ruled: z.boolean().optional(),
				...style,
			}),
		)
		.min(1)
		.max(20),
	/** Tax as rows among the others, as a table of its own before them, or as one sum. */
	taxes: z.enum(['rows', 'table', 'sum']).optional(),
	/** Labels are set to the left edge, or beside their amounts. */
	labels: z.enum(['left', 'right']).optional(),
	...lettering,
})

const agingPiece = z.strictObject({
	...base,
	type: z.literal('aging'),
	title: saidSchema.optional(),
	/** Side by side, or one below the other. */
	as: z.enum(['across', 'down']).optional(),
	/** Colour of what is late. */
	late: color.optional(),
	...lettering,
})

const picturePiece = z.strictObject({
	...base,
	type: z.literal('picture'),
	/** The firm's logo, a picture of the layout's own by its SHA-256, or one from a field. */
	of: z.union([
		z.literal('logo'),
		z.strictObject({ image: z.string().regex(/^[0-9a-f]{64}$/) }),
		z.strictObject({ field }),
	]),
	width: points(4, 800),
	height: points(4, 800),
	align,
	/** What stands there when there is no picture. */
	none: inlines.optional(),
})

/** What a code may be; a payment code is a QR code with words of its own. */
export const symbols = [...symbolNames, 'payment'] as const
const codePiece = z.strictObject({
	...base,
	type: z.literal('code'),
	symbol: z.enum(symbols),
	/** What it says; of a payment code nothing, since that is put together from bank, amount and number. */
	value: inlines,
	/** Width of the symbol. */
	width: points(15, 500),
	/** Height of one made of bars. */
	height: points(10, 200).optional(),
	label: saidSchema.optional(),
	align,
	color: color.optional(),
})

const slipPiece = z.strictObject({
	...base,
	type: z.literal('slip'),
	title: saidSchema,
	rows: z.array(factRow).max(12),
	/** Over the line on which the customer writes what they pay. */
	paid: saidSchema,
	...lettering,
})

const rulePiece = z.strictObject({
	...base,
	type: z.literal('rule'),
	thickness: points(0.1, 20).optional(),
	color: color.optional(),
	/** Length; the whole width without it. */
	length: points(1, 900).optional(),
})
const spacePiece = z.strictObject({ ...base, type: z.literal('space'), height: points(0, 700) })
/** What follows begins a page. */
const turnPiece = z.strictObject({ ...base, type: z.literal('turn') })

const leaf = z.discriminatedUnion('type', [
	wordsPiece,
	factsPiece,
	addressPiece,
	linesPiece,
	totalsPiece,
	agingPiece,
	picturePiece,
	codePiece,
	slipPiece,
	rulePiece,
	spacePiece,
	turnPiece,
])
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

/** Put together from a list: over lines (sum, count, least, most), of two fields or a figure, or text joined from parts. */
const reckonedSchema = z.strictObject({
	key: z.string().regex(/^[a-z][a-z0-9-]{0,39}$/),
	name: z.string().min(1).max(80),
	how: z.discriminatedUnion('is', [
		z.strictObject({ is: z.enum(['sum', 'least', 'most']), of: field, only: conditionSchema.optional() }),
		z.strictObject({ is: z.literal('count'), of: z.enum(lineSources), only: conditionSchema.optional() }),
		z.strictObject({
			is: z.enum(['times', 'plus', 'minus', 'share']),
			of: field,
			by: z.union([
				z.strictObject({ field }),
				z.strictObject({ figure: z.string().regex(/^-?\d{1,12}(\.\d{1,6})?$/) }),
			]),
			decimals: z.number().int().min(0).max(6),
		}),
		z.strictObject({ is: z.literal('joined'), parts: inlines }),
	]),
})
export type Reckoned = z.infer<typeof reckonedSchema>

export const families = ['source-sans', 'source-serif', 'libre-franklin', 'barlow'] as const
export type Family = (typeof families)[number]
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
