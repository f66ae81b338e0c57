import { recordOf } from './fields'
import type { Of, PaperKind } from './fieldTypes'
import type { Layout, Piece, PieceType } from './schema'
import type { Condition, Inline } from './schemaParts'

/** Hears what a piece names: fields among its words, fields of its conditions, single ones. `of` is whose fields may stand there. */
type Named = {
	inlines: (inlines: readonly Inline[], of?: readonly Of[]) => void
	condition: (condition: Condition | undefined, of?: readonly Of[]) => void
	/** `empty` where a paper shows nothing instead when it is empty. */
	field: (key: string, of?: readonly Of[], empty?: boolean) => void
}

/** What there is to know of a type of piece beside how it is drawn and written. */
type TypeOfPiece<T extends PieceType> = {
	name: string
	/** Whether papers of a kind can have it. */
	fits: (kind: PaperKind) => boolean
	/** As it is first put in. */
	fresh: (id: string, layout: Layout) => Extract<Piece, { type: T }>
	/** Names every field that it uses, besides that of when it is shown. */
	names: (piece: Extract<Piece, { type: T }>, named: Named) => void
}

const everywhere = () => true
const ofBills = (kind: PaperKind) => kind !== 'statement' && kind !== 'unpriced'
const ofStatements = (kind: PaperKind) => kind === 'statement'
const nothing = () => {}
const rowNames = ({ rows }: Extract<Piece, { type: 'facts' | 'slip' }>, named: Named) => {
	for (const { value, when } of rows) {
		named.inlines(value)
		named.condition(when)
	}
}
/** A column with one field, at the right. */
const figureColumn = (id: string, head: string, field: string, money = true) => ({
	...{ id, head, width: { most: 100 }, align: 'right' as const },
	cell: [[money ? { field, format: { money: 'none' as const } } : { field }]],
})

/** Every type of piece, in the order in which they are offered. */
export const pieceTypes: { [T in PieceType]: TypeOfPiece<T> } = {
	words: {
		name: 'Words',
		fits: everywhere,
		fresh: (id) => ({ type: 'words', id, says: { en: [{ runs: [{ text: 'Words' }] }] } }),
		names: ({ says }, named) => {
			for (const paragraphs of Object.values(says)) for (const { runs } of paragraphs ?? []) named.inlines(runs)
		},
	},
	facts: {
		name: 'Facts',
		fits: everywhere,
		fresh: (id) => ({ type: 'facts', id, rows: [{ label: 'Date', value: [{ field: 'day' }] }] }),
		names: rowNames,
	},
	address: {
		name: 'Address',
		fits: everywhere,
		fresh: (id) => ({ type: 'address', id, of: 'customer' }),
		names: nothing,
	},
	lines: {
		name: 'Lines',
		fits: everywhere,
		fresh: (id, { kind }) => ({
			type: 'lines',
			id,
			of: kind === 'statement' ? 'items' : 'lines',
			columns:
				kind === 'statement'
					? [
							{ id: 'number', head: 'Number', cell: [[{ field: 'item.number' }]], width: 'rest' },
							figureColumn('open', 'Open', 'item.open'),
						]
					: [
							{ id: 'text', head: 'Description', cell: [[{ field: 'line.description' }]], width: 'rest' },
							kind === 'unpriced'
								? figureColumn('quantity', 'Quantity', 'line.quantity', false)
								: figureColumn('amount', 'Amount', 'line.net'),
						],
		}),
		names: ({ of, columns, sort, only, group }, named) => {
			const record: readonly Of[] = ['paper', recordOf[of] ?? 'paper']
			for (const { cell, when, picture } of columns) {
				for (const inlines of cell) named.inlines(inlines, record)
				named.condition(when)
				if (picture) named.field(picture.field, record)
			}
			for (const { field } of sort ?? []) named.field(field, record, false)
			named.condition(only, record)
			if (!group) return
			named.field(group.by, record, false)
			named.inlines(group.head, record)
			if (group.subtotal) named.field(group.subtotal.of, record, false)
		},
	},
	totals: {
		name: 'Totals',
		fits: ofBills,
		fresh: (id) => ({
			type: 'totals',
			id,
			rows: [{ row: 'net' }, { row: 'taxes' }, { row: 'total', bold: true, money: 'sign', ruled: true }],
		}),
		names: ({ rows }, named) => {
			for (const { when } of rows) named.condition(when)
		},
	},
	aging: { name: 'Aging', fits: ofStatements, fresh: (id) => ({ type: 'aging', id }), names: nothing },
	picture: {
		name: 'Picture',
		fits: everywhere,
		fresh: (id) => ({ type: 'picture', id, of: 'logo', width: 150, height: 50 }),
		names: ({ of, none }, named) => {
			named.inlines(none ?? [])
			if (typeof of === 'object' && 'field' in of) named.field(of.field, undefined, none === undefined)
		},
	},
	code: {
		name: 'Code',
		fits: everywhere,
		fresh: (id) => ({ type: 'code', id, symbol: 'qr', value: [{ field: 'number' }], width: 70 }),
		names: ({ value }, named) => named.inlines(value),
	},
	slip: {
		name: 'Slip to return',
		fits: ofStatements,
		fresh: (id) => ({
			type: 'slip',
			id,
			title: 'To return with your payment',
			rows: [{ label: 'From', value: [{ field: 'customer.name' }] }],
			paid: 'Amount paid',
		}),
		names: rowNames,
	},
	rule: { name: 'Rule', fits: everywhere, fresh: (id) => ({ type: 'rule', id }), names: nothing },
	space: { name: 'Space', fits: everywhere, fresh: (id) => ({ type: 'space', id, height: 12 }), names: nothing },
	turn: { name: 'New page', fits: everywhere, fresh: (id) => ({ type: 'turn', id }), names: nothing },
	box: {
		name: 'Box',
		fits: everywhere,
		fresh: (id, { text }) => ({ type: 'box', id, edge: text.color, pieces: [] }),
		names: nothing,
	},
	beside: {
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
	},
}

/** Names every field that a piece uses itself, besides those of what stands within it. */
export function namesOf<T extends PieceType>(piece: Extract<Piece, { type: T }>, named: Named): void {
	named.condition(piece.when)
	const type: TypeOfPiece<T> = pieceTypes[piece.type as T]
	type.names(piece, named)
}
