import type { z } from 'zod'
import type { Block, Saying } from '../blockKit'
import type { Of, PaperKind } from '../fieldTypes'
import type { Condition, Inline } from '../schemaParts'
import type { Draw, Kit } from './kit'

/** Hears what a piece names: fields among its words, fields of its conditions, single ones. `of` is whose fields may stand there. */
export type Named = {
	inlines: (inlines: readonly Inline[], of?: readonly Of[]) => void
	condition: (condition: Condition | undefined, of?: readonly Of[]) => void
	/** `empty` where a paper shows nothing instead when it is empty. */
	field: (key: string, of?: readonly Of[], empty?: boolean) => void
}

/** What there is to know of any type of piece. */
export type PieceDeclaration<Piece> = {
	name: string
	/** Whether papers of a kind can have it. */
	fits: (kind: PaperKind) => boolean
	/** As it is first put into a layout. */
	fresh: (id: string, layout: { kind: PaperKind; text: { color: string } }) => Piece
	/** Names every field that it uses, besides that of when it is shown. */
	names: (piece: Piece, named: Named) => void
	/** What it is called among others of its type; its name without it. */
	called?: (piece: Piece, fieldName: (key: string) => string) => string
}

/** A type of piece that has no others within it: all that the program knows of it but the form for its settings. */
export type Leaf<Schema extends z.ZodType> = PieceDeclaration<z.infer<Schema>> & {
	schema: Schema
	/** Whether it has text that must be large and dark enough. */
	lettered: boolean
	/** Makes it ready to be drawn on any paper. */
	draw: (piece: z.infer<Schema>, kit: Kit) => Draw
	/** What it says, for formats that lay text out by themselves. */
	blocks: (piece: z.infer<Schema>, say: Saying) => Block[]
}

/** Declares a type of piece. */
export const leaf = <Schema extends z.ZodType>(type: Leaf<Schema>): Leaf<Schema> => type

/** For pieces that all papers can have. */
export const everywhere = () => true
/** For pieces of papers that come to something. */
export const onBills = (kind: PaperKind) => kind !== 'statement' && kind !== 'unpriced'
/** For pieces of statements. */
export const onStatements = (kind: PaperKind) => kind === 'statement'
/** For pieces that name no field. */
export const nothing = () => {}
