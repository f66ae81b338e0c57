import type { PaperKind } from '../fieldTypes'
import type { LinesPiece } from '../pieces/linesSchema'
import type { Layout, Piece } from '../schema'
import { word } from '../words'
import {
	apart,
	f,
	factsOf,
	hasFigures,
	isBill,
	isOwn,
	page,
	paragraph,
	payment,
	test,
	text,
	toPay,
	w,
	when,
	withoutFigures,
	words,
} from './build'
import { closing, logo, movementColumns, slipFor, theirTax } from './parts'
import { itemColumns } from './plain'

const small = { size: 8, color: 'grey' }

/** A band with the title across the page, the address in an envelope's window, facts as a strip, a table on tinted rows, tax as a table. */
export function ledger(kind: PaperKind): Layout {
	return {
		format: 1,
		kind,
		name: 'Ledger',
		page: page('A4', 36, 48, 34, 56.69),
		palette: [
			{ name: 'ink', color: '1c2733' },
			{ name: 'grey', color: '5c6670' },
			{ name: 'band', color: '234a5e' },
			{ name: 'pale', color: 'edf2f4' },
			{ name: 'white', color: 'ffffff' },
			{ name: 'late', color: '9c2f1c' },
		],
		text: { family: 'libre-franklin', size: 8.5, color: 'ink' },
		display: 'source-serif',
		head: [
			{
				type: 'box',
				id: 'running-band',
				on: 'following',
				fill: 'band',
				pad: 5,
				pieces: [
					{
						type: 'beside',
						id: 'running-row',
						columns: [
							{
								share: 1,
								pieces: [
									words('running-firm', [paragraph([f('issuer.name')])], {
										color: 'white',
										display: true,
										bold: true,
										size: 10,
									}),
								],
							},
							{
								share: 1,
								pieces: [
									words('running-title', [paragraph([f('title'), text(' '), f('number')])], {
										color: 'white',
										align: 'right',
									}),
								],
							},
						],
					},
				],
			},
		],
		body: [
			{
				type: 'beside',
				id: 'firm-row',
				columns: [
					{
						share: 1,
						pieces: [logo(150, 38, { bold: true, size: 15, display: true })],
					},
					{
						share: 2,
						pieces: [
							words('firm-name', [paragraph([f('issuer.name')])], {
								display: true,
								bold: true,
								size: 11,
								align: 'right',
							}),
							{ type: 'address', id: 'firm-line', of: 'issuer', as: 'line', align: 'right', ...small },
							words(
								'firm-reach',
								[
									paragraph([
										f('issuer.phone', { after: ' · ' }),
										f('issuer.email', { after: ' · ' }),
										w('Tax number'),
										text(' '),
										f('issuer.tax-number'),
									]),
								],
								{ ...small, align: 'right' },
							),
						],
					},
				],
			},
			{
				type: 'box',
				id: 'band',
				above: 10,
				fill: 'band',
				pad: 8,
				pieces: [
					{
						type: 'beside',
						id: 'band-row',
						columns: [
							{
								share: 1,
								pieces: [
									words('title', [paragraph([f('title')])], {
										display: true,
										bold: true,
										size: 18,
										color: 'white',
										lead: 1.15,
									}),
								],
							},
							{
								share: 1,
								pieces: [
									words('band-number', [paragraph([f('number', { empty: word('set when numbered') })])], {
										size: 13,
										bold: true,
										color: 'white',
										align: 'right',
										lead: 1.6,
									}),
								],
							},
						],
					},
				],
			},
			{
				type: 'beside',
				id: 'window-row',
				gap: 20,
				columns: [
					{
						share: 1.5,
						pieces: [{ type: 'address', id: 'window', of: 'customer', window: 'dl', size: 10, nameSize: 10.5 }],
					},
					{
						share: 1,
						pieces:
							kind === 'unpriced'
								? []
								: [
										{
											type: 'box',
											id: 'asked',
											above: 14,
											edge: 'band',
											radius: 4,
											pad: 10,
											pieces: asked(kind),
										},
									],
					},
				],
			},
			theirTax({ ...small, above: 2 }),
			{
				type: 'box',
				id: 'strip',
				above: 8,
				fill: 'pale',
				pad: 7,
				pieces: [
					{
						type: 'facts',
						id: 'facts',
						labels: 'above',
						across: 4,
						labelColor: 'grey',
						rows: factsOf(kind, {}).slice(1),
					},
				],
			},
			...ledgerTables(kind),
			...(kind === 'unpriced'
				? []
				: hasFigures(kind)
					? ([
							{
								type: 'beside',
								id: 'below',
								above: 10,
								gap: 22,
								columns: [
									{
										share: 1.15,
										pieces: [
											{
												type: 'totals',
												id: 'tax-table',
												taxes: 'table',
												labels: 'left',
												size: 8,
												rows: [{ row: 'taxes', bold: true }],
											},
										],
									},
									{
										share: 1,
										pieces: [
											{
												type: 'totals',
												id: 'totals',
												labels: 'left',
												taxes: 'sum',
												rows: [
													{ row: 'subtotal' },
													{ row: 'discounts' },
													{ row: 'charges' },
													{ row: 'net', bold: true },
													{ row: 'taxes' },
													{ row: 'total', bold: true, size: 11, money: 'sign', ruled: true },
													{ row: 'prepaid' },
												],
											},
										],
									},
								],
							},
						] satisfies Piece[])
					: ([
							{ type: 'aging', id: 'aging', above: 12, title: word('By days past due'), late: 'late' },
							...apart(small),
						] satisfies Piece[])),
			...(isOwn(kind) ? [] : [payBox(kind)]),
		],
		foot: [
			...slipFor(kind),
			{
				type: 'beside',
				id: 'foot',
				columns: [
					{ share: 5, pieces: [closing(small)] },
					{
						share: 1,
						pieces: [words('pages', [paragraph([f('page'), text(' / '), f('pages')])], { ...small, align: 'right' })],
					},
				],
			},
			{ type: 'rule', id: 'foot-band', above: 5, thickness: 3, color: 'band' },
		],
		reckoned: [],
	}
}

/** How it is to be paid, in a box below. */
const payBox = (kind: PaperKind): Piece => ({
	type: 'box',
	id: 'pay-box',
	above: 14,
	edge: 'pale',
	radius: 4,
	pad: 10,
	pieces: [
		{
			type: 'beside',
			id: 'pay-row',
			gap: 14,
			columns: [
				{
					share: 4,
					pieces: [
						...payment('pay', kind, { bold: true, size: 9 }),
						words('bank', [paragraph([f('issuer.bank')])], { above: 4, when: toPay(kind) }),
					],
				},
				{
					share: 1,
					pieces: [
						{
							type: 'code',
							id: 'pay-code',
							symbol: 'payment',
							value: [],
							width: 74,
							align: 'right',
							when: when(test('currency', 'is', 'EUR')),
						},
					],
				},
			],
		},
	],
})

/** What is asked for and by when, set large. */
function asked(kind: PaperKind): Piece[] {
	const amount = (field: string): Piece =>
		words('asked-amount', [paragraph([f(field)])], { size: 19, bold: true, display: true, lead: 1.2 })
	const label = (key: string, id = 'asked-label'): Piece => words(id, [paragraph([w(key)])], small)
	if (kind === 'invoice')
		return [
			label('Amount due'),
			amount('amount-due'),
			words('asked-day', [paragraph([w('Due date'), text(' '), f('due-day', { bold: true })])], { above: 3 }),
		]
	if (kind === 'credit-note') return [label('To your credit'), amount('amount-due')]
	if (isOwn(kind)) return [label('Total'), amount('total')]
	return [
		words('asked-owed', [paragraph([w('You owe in all')])], {
			...small,
			when: when(test('total', 'above', '-0.0001'), test('show', 'is', 'all')),
		}),
		words('asked-only', [paragraph([w('Past due on this statement')])], {
			...small,
			when: when(test('show', 'is', 'past-due')),
		}),
		words('asked-credit', [paragraph([w('To your credit in all')])], {
			...small,
			when: when(test('total', 'below', '0')),
		}),
		amount('total-size'),
		words('asked-late', [paragraph([w('to pay now'), text(' '), f('past-due', { bold: true, color: 'late' })])], {
			above: 3,
			when: when(test('past-due', 'above', '0'), test('show', 'is', 'all')),
		}),
	]
}

const ledgerColumns = (): LinesPiece['columns'] => [
	{ id: 'row', head: '', cell: [[f('line.row')]], width: { most: 20 }, align: 'right', color: 'grey' },
	{
		id: 'description',
		head: word('Description'),
		cell: [
			[f('line.description')],
			[
				f('line.item', { size: 7.5, color: 'grey' }),
				f('line.order.number', { before: ' · ', size: 7.5, color: 'grey' }),
				f('line.order.purchaseOrder', { before: ' · ', size: 7.5, color: 'grey' }),
			],
		],
		width: 'rest',
	},
	{
		id: 'quantity',
		head: word('Quantity'),
		cell: [[f('line.quantity'), f('line.unit', { before: '\u00a0' })]],
		width: { most: 84 },
		align: 'right',
	},
	{
		id: 'price',
		head: word('Price'),
		cell: [
			[f('line.price', { empty: word('no price') }), f('line.price-per', { before: ' / ' })],
			[f('line.discount-percent', { before: '− ', size: 7.5 })],
		],
		width: { most: 90 },
		align: 'right',
	},
	{
		id: 'tax',
		head: word('Tax'),
		cell: [[f('line.tax-rate')]],
		width: { most: 44 },
		align: 'right',
		color: 'grey',
	},
	{
		id: 'amount',
		head: word('Amount'),
		cell: [[f('line.net', { format: { money: 'none' } })]],
		width: { most: 100 },
		align: 'right',
	},
]

function ledgerTables(kind: PaperKind): Piece[] {
	const look: Omit<LinesPiece, 'type' | 'id' | 'of' | 'columns'> = {
		above: 12,
		rules: 'none',
		tint: 'pale',
		pad: 3.5,
		head: { fill: 'band', color: 'white', bold: true },
	}
	if (isBill(kind))
		return [
			{
				...look,
				type: 'lines',
				id: 'lines',
				of: 'lines',
				keep: true,
				columns: kind === 'unpriced' ? withoutFigures(ledgerColumns()) : ledgerColumns(),
			},
		]
	return [
		{
			...look,
			type: 'lines',
			id: 'items',
			of: 'items',
			sort: [{ field: 'item.credit' }],
			columns: itemColumns(),
			when: when(test('form', 'is', 'open items')),
		},
		{
			...look,
			type: 'lines',
			id: 'happened',
			of: 'movements',
			when: when(test('form', 'is', 'balance forward')),
			columns: movementColumns(),
		},
	]
}
