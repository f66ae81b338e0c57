import type { PaperKind } from '../fieldTypes'
import type { LinesPiece } from '../pieces/linesSchema'
import type { Layout, Piece } from '../schema'
import { word } from '../words'
import {
	apart,
	before,
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
	words,
} from './build'
import { closing, logo, movementFigures, slipFor, theirTax } from './parts'

const small = { size: 8, color: 'grey' }

/** Firm, facts and bank down a narrow margin; beside it the title, whom it is for, the lines and what they come to. */
export function margin(kind: PaperKind): Layout {
	return {
		format: 1,
		kind,
		name: 'Margin',
		page: page('A4', 48, 46, 40, 42),
		palette: [
			{ name: 'ink', color: '24211d' },
			{ name: 'grey', color: '6b645a' },
			{ name: 'moss', color: '43603c' },
			{ name: 'hair', color: 'cfc9bd' },
			{ name: 'late', color: 'a3341f' },
		],
		text: { family: 'barlow', size: 9.5, color: 'ink' },
		display: 'source-serif',
		head: [
			words(
				'running',
				[paragraph([f('issuer.name', { bold: true }), text('   '), f('title'), text(' '), f('number')])],
				{
					on: 'following',
					size: 9,
					color: 'grey',
				},
			),
		],
		body: [
			{
				type: 'beside',
				id: 'sheet',
				gap: 22,
				columns: [
					{
						share: 1,
						pieces: [
							logo(110, 60, { bold: true, size: 14, display: true }),
							words(
								'firm',
								[
									paragraph([f('issuer.name', { bold: true, color: 'ink' })]),
									paragraph([f('issuer.address')]),
									paragraph([f('issuer.country')]),
								],
								{
									...small,
									above: 14,
								},
							),
							words(
								'reach',
								[
									paragraph([f('issuer.phone')]),
									paragraph([f('issuer.email')]),
									paragraph([w('Tax number'), text('\n'), f('issuer.tax-number')]),
								],
								{
									...small,
									above: 8,
								},
							),
							{ type: 'rule', id: 'margin-rule', above: 14, thickness: 0.6, color: 'moss' },
							{
								type: 'facts',
								id: 'facts',
								above: 8,
								labels: 'above',
								labelColor: 'grey',
								rows: factsOf(kind, { bold: true }),
							},
							...(isOwn(kind) ? [] : howToPay(kind)),
						],
					},
					{
						share: 2.9,
						pieces: [
							words('title', [paragraph([f('title')])], { display: true, size: 30, color: 'moss', lead: 1.1 }),
							{ type: 'address', id: 'to', of: 'customer', above: 18, size: 10.5, nameSize: 12 },
							theirTax({
								...small,
								above: 3,
							}),
							...asked(kind),
							...tables(kind),
							...(kind === 'unpriced'
								? []
								: hasFigures(kind)
									? ([
											{
												type: 'totals',
												id: 'totals',
												above: 8,
												rows: [
													{ row: 'subtotal', color: 'grey' },
													{ row: 'discounts', color: 'grey' },
													{ row: 'charges', color: 'grey' },
													{ row: 'net' },
													{ row: 'taxes', color: 'grey' },
													{ row: 'prepaid', color: 'grey' },
													{ row: 'total', bold: true, size: 12, money: 'sign', color: 'moss' },
												],
											},
										] satisfies Piece[])
									: ([
											words('by-days', [paragraph([w('By days past due')])], { ...small, above: 14, keep: true }),
											{ type: 'aging', id: 'aging', as: 'down', late: 'late' },
											...apart(small),
										] satisfies Piece[])),
							...(isOwn(kind)
								? []
								: ([
										{ type: 'rule', id: 'pay-rule', above: 12, thickness: 0.6, color: 'hair' },
										{ type: 'space', id: 'pay-space', height: 8 },
										...payment('pay', kind, { display: true, italic: true, size: 10.5 }),
									] satisfies Piece[])),
						],
					},
				],
			},
		],
		foot: [
			...slipFor(kind),
			{
				type: 'beside',
				id: 'foot',
				gap: 22,
				columns: [
					{
						share: 1,
						pieces: [words('pages', [paragraph([w('Page'), text(' '), f('page'), text(' / '), f('pages')])], small)],
					},
					{ share: 2.9, pieces: [closing(small)] },
				],
			},
		],
		reckoned: [],
	}
}

/** How it is to be paid, down the margin. */
const howToPay = (kind: PaperKind): Piece[] => [
	words('how', [paragraph([w('How to pay')])], {
		size: 8.5,
		color: 'grey',
		above: 16,
		keep: true,
		when: toPay(kind),
	}),
	words('bank', [paragraph([f('issuer.bank')])], { size: 8.5, when: toPay(kind) }),
	{
		type: 'code',
		id: 'pay-code',
		above: 8,
		symbol: 'payment',
		value: [],
		width: 84,
		when: when(test('currency', 'is', 'EUR')),
	},
]

/** What is asked for, in one sentence set large. */
function asked(kind: PaperKind): Piece[] {
	const large = { size: 15, bold: true }
	if (kind === 'unpriced') return []
	if (kind === 'priced')
		return [words('asked', [paragraph([f('total', large), text('   '), w('Total', { color: 'grey' })])], { above: 22 })]
	if (kind === 'invoice')
		return [
			words(
				'asked',
				[paragraph([f('amount-due', large), text('   '), w('Due', { color: 'grey' }), text(' '), f('due-day')])],
				{ above: 22 },
			),
		]
	if (kind === 'credit-note')
		return [
			words('asked', [paragraph([f('amount-due', large), text('   '), w('To your credit', { color: 'grey' })])], {
				above: 22,
			}),
		]
	return [
		words('asked', [paragraph([f('total-size', large), text('   '), w('You owe in all', { color: 'grey' })])], {
			above: 22,
			when: when(test('total', 'above', '-0.0001'), test('show', 'is', 'all')),
		}),
		words(
			'asked-only',
			[paragraph([f('total-size', large), text('   '), w('Past due on this statement', { color: 'grey' })])],
			{ above: 22, when: when(test('show', 'is', 'past-due')) },
		),
		words(
			'asked-credit',
			[paragraph([f('total-size', large), text('   '), w('To your credit in all', { color: 'grey' })])],
			{
				above: 22,
				when: when(test('total', 'below', '0')),
			},
		),
		words(
			'asked-late',
			[paragraph([f('past-due', { bold: true, color: 'late' }), text('   '), w('to pay now', { color: 'grey' })])],
			{
				above: 2,
				when: when(test('past-due', 'above', '0'), test('show', 'is', 'all')),
			},
		),
	]
}

function tables(kind: PaperKind): Piece[] {
	const look: Omit<LinesPiece, 'type' | 'id' | 'of' | 'columns'> = {
		above: 18,
		ruleColor: 'hair',
		rules: 'lines',
		pad: 4,
		head: { color: 'moss', bold: true },
	}
	if (isBill(kind))
		return [
			{
				...look,
				type: 'lines',
				id: 'lines',
				of: 'lines',
				keep: true,
				...(isOwn(kind)
					? {}
					: {
							group: {
								by: 'line.order.number',
								head: [
									w('Order', { color: 'moss' }),
									text(' '),
									f('line.order.number'),
									text('  '),
									f('line.order.day', { bold: false, color: 'grey' }),
									f('line.order.purchaseOrder', { before: '  ', bold: false, color: 'grey' }),
								],
							} satisfies LinesPiece['group'],
						}),
				columns: [
					{
						id: 'description',
						head: word('Description'),
						cell: [
							[f('line.description')],
							[
								f('line.quantity', { size: 8, color: 'grey' }),
								f('line.unit', { before: '\u00a0', size: 8, color: 'grey' }),
								...(hasFigures(kind)
									? [
											text(' × ', { size: 8, color: 'grey' }),
											f('line.price', { empty: word('no price'), size: 8, color: 'grey' }),
											f('line.price-per', { before: ' / ', size: 8, color: 'grey' }),
											f('line.discount-percent', { before: ' − ', size: 8, color: 'grey' }),
										]
									: []),
							],
							[
								f('line.item', { size: 8, color: 'grey' }),
								...(hasFigures(kind) ? [f('line.tax-code', { before: ' · ', size: 8, color: 'grey' })] : []),
							],
						],
						width: 'rest',
					},
					...(hasFigures(kind)
						? ([
								{
									id: 'amount',
									head: word('Amount'),
									cell: [[f('line.net', { format: { money: 'none' } })]],
									width: { most: 110 },
									align: 'right',
								},
							] satisfies LinesPiece['columns'])
						: []),
				],
			},
		]
	return [
		{
			...look,
			type: 'lines',
			id: 'items',
			of: 'items',
			when: when(test('form', 'is', 'open items')),
			columns: [
				{
					id: 'what',
					head: word('Number'),
					cell: [
						[f('item.number', { bold: true }), f('item.kind', { before: '  ' })],
						[
							f('item.day', { size: 8, color: 'grey' }),
							f('item.their-order', { before: ' · ', size: 8, color: 'grey' }),
						],
					],
					width: 'rest',
				},
				{
					id: 'due',
					head: word('Due'),
					cell: [[f('item.due-day')], [f('item.days-late', { size: 8, color: 'late', before: before('Days late') })]],
					width: { most: 80 },
					align: 'right',
				},
				{
					id: 'open',
					head: word('Open'),
					cell: [
						[f('item.open', { format: { money: 'none' } })],
						[f('item.amount', { format: { money: 'none' }, size: 8, color: 'grey' })],
					],
					width: { most: 110 },
					align: 'right',
				},
			],
		},
		{
			...look,
			type: 'lines',
			id: 'happened',
			of: 'movements',
			when: when(test('form', 'is', 'balance forward')),
			columns: [
				{
					id: 'words',
					head: word('What happened'),
					cell: [[f('movement.words')], [f('movement.day', { size: 8, color: 'grey' })]],
					width: 'rest',
				},
				...movementFigures(),
			],
		},
	]
}
