import type { PaperKind } from '../fieldTypes'
import type { LinesPiece } from '../pieces/linesSchema'
import type { Piece } from '../schema'
import { word } from '../words'
import { f, paragraph, text, toPay, w, words } from './build'

// Pieces that all shipped looks have.

type Style = Parameters<typeof words>[2]

/** The firm's logo, points; the firm's name where it has none. */
export const logo = (width: number, height: number, name: Parameters<typeof f>[1]): Piece => ({
	type: 'picture',
	id: 'logo',
	of: 'logo',
	width,
	height,
	none: [f('issuer.name', name)],
})

/** The customer's tax number with its label. */
export const theirTax = (style: Style): Piece =>
	words('their-tax', [paragraph([w('Tax number'), text(' '), f('customer.tax-number')])], style)

/** The firm's closing words. */
export const closing = (style: Style): Piece => words('closing', [paragraph([f('issuer.closing-words')])], style)

const slip = (kind: PaperKind): Piece => ({
	type: 'slip',
	id: 'slip',
	on: 'last',
	color: 'grey',
	title: word('To return with your payment'),
	when: toPay(kind),
	rows: [
		{ label: word('From'), value: [f('customer.name'), text(', '), f('customer.number')] },
		{ label: word('Statement'), value: [f('number', { empty: word('set when numbered') }), text(', '), f('day')] },
		{ label: word('Amount'), value: [f('total')] },
	],
	paid: word('Amount paid'),
})

/** On statements, a slip to return with a payment, at the foot of the last page. */
export const slipFor = (kind: PaperKind): Piece[] =>
	kind === 'statement' ? [slip(kind), { type: 'space', id: 'slip-space', on: 'last', height: 10 }] : []

/** How much each movement of an account is, and what the account came to by it. */
export const movementFigures = (): LinesPiece['columns'] => [
	{
		id: 'amount',
		head: word('Amount'),
		cell: [[f('movement.amount', { format: { money: 'none' } })]],
		width: { most: 110 },
		align: 'right',
	},
	{
		id: 'balance',
		head: word('Balance'),
		cell: [[f('movement.balance', { format: { money: 'none' } })]],
		width: { most: 110 },
		align: 'right',
	},
]
/** What happened on an account, a movement a row. */
export const movementColumns = (): LinesPiece['columns'] => [
	{ id: 'day', head: word('Date'), cell: [[f('movement.day')]], width: { most: 76 } },
	{ id: 'words', head: word('What happened'), cell: [[f('movement.words')]], width: 'rest' },
	...movementFigures(),
]
