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
	orderHead,
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

const small = { size: 8.5, color: 'grey' }

/** Logo and firm above a rule, whom it is for beside the facts, the amount in a box, and a ruled table: the quiet one. */
export function plain(kind: PaperKind): Layout {
	return {
		format: 1,
		kind,
		name: 'Plain',
		page: page('A4', 44, 52, 40, 52),
		palette: [
			{ name: 'ink', color: '20262e' },
			{ name: 'grey', color: '66655c' },
			{ name: 'hair', color: 'b9b4a6' },
			{ name: 'ground', color: 'f3efe4' },
			{ name: 'late', color: 'a3341f' },
		],
		text: { family: 'source-sans', size: 9, color: 'ink' },
		head: [
			{
				type: 'beside',
				id: 'running-head',
				on: 'following',
				columns: [
					{ share: 1, pieces: [words('running-firm', [paragraph([f('issuer.name')])], { size: 10, bold: true })] },
					{
						share: 1,
						pieces: [
							words('running-title', [paragraph([f('title'), text(' '), f('number')])], { size: 10, align: 'right' }),
						],
					},
				],
			},
		],
		body: [
			{
				type: 'beside',
				id: 'letterhead',
				columns: [
					{
						share: 1,
						pieces: [logo(170, 46, { bold: true, size: 17 })],
					},
					{
						share: 1,
						pieces: [
							words('title', [paragraph([f('title')])], { size: 24, bold: true, align: 'right', lead: 1.2 }),
							words(
								'firm',
								[
									paragraph([f('issuer.name', { bold: true, color: 'ink' })]),
									paragraph([f('issuer.address')]),
									paragraph([f('issuer.country')]),
									paragraph([f('issuer.phone')]),
									paragraph([f('issuer.email')]),
									paragraph([w('Tax number'), text(' '), f('issuer.tax-number')]),
								],
								{ ...small, align: 'right' },
							),
						],
					},
				],
			},
			{ type: 'rule', id: 'rule', above: 12, thickness: 1.2 },
			{
				type: 'beside',
				id: 'parties',
				above: 10,
				gap: 24,
				columns: [
					{
						share: 1,
						pieces: [
							{ type: 'address', id: 'to', of: 'customer', label: word('To'), size: 10, nameSize: 11 },
							theirTax({
								...small,
								above: 3,
							}),
						],
					},
					{
						share: 1,
						pieces: [
							{ type: 'facts', id: 'facts', rows: factsOf(kind, { bold: true }), labelColor: 'grey' },
							...(kind === 'unpriced'
								? []
								: ([
										{ type: 'box', id: 'sum', above: 6, fill: 'ground', pad: 7, pieces: sumOf(kind) },
									] satisfies Piece[])),
						],
					},
				],
			},
			...tables(kind),
			...(kind === 'unpriced'
				? []
				: hasFigures(kind)
					? ([
							{
								type: 'beside',
								id: 'below',
								above: 6,
								columns: [
									{ share: 0.42, pieces: [] },
									{
										share: 0.58,
										pieces: [
											{
												type: 'totals',
												id: 'totals',
												rows: [
													{ row: 'subtotal', color: 'grey' },
													{ row: 'discounts', color: 'grey' },
													{ row: 'charges', color: 'grey' },
													{ row: 'net' },
													{ row: 'taxes', color: 'grey' },
													{ row: 'total', bold: true, size: 11, money: 'sign', ruled: true },
													{ row: 'prepaid', color: 'grey' },
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
			...(isOwn(kind)
				? []
				: [
						words('how', [paragraph([w('How to pay')])], { ...small, above: 12, keep: true, when: toPay(kind) }),
						...payment('pay', kind, { size: 9.5, bold: true }),
						words('bank', [paragraph([f('issuer.bank')])], { size: 9.5, when: toPay(kind) }),
					]),
		],
		foot: [
			...slipFor(kind),
			{ type: 'rule', id: 'foot-rule', thickness: 0.4, color: 'hair' },
			{
				type: 'beside',
				id: 'foot',
				above: 4,
				columns: [
					{ share: 5, pieces: [closing(small)] },
					{
						share: 1,
						pieces: [
							words('pages', [paragraph([w('Page'), text(' '), f('page'), text(' / '), f('pages')])], {
								...small,
								align: 'right',
							}),
						],
					},
				],
			},
		],
		reckoned: [],
	}
}

/** What it comes to, in the box below the facts. */
function sumOf(kind: PaperKind): Piece[] {
	const row = (
		id: string,
		label: Parameters<typeof words>[1],
		amount: string,
		strong: boolean,
		more: Partial<Piece> = {},
	): Piece => ({
		type: 'beside',
		id,
		gap: 8,
		columns: [
			{ share: 1, pieces: [words(`${id}-label`, label, { bold: strong, ...(strong ? {} : { color: 'grey' }) })] },
			{
				share: 1.1,
				pieces: [
					words(`${id}-amount`, [paragraph([f(amount)])], { size: strong ? 14 : 10, bold: strong, align: 'right' }),
				],
			},
		],
		...(more.when ? { when: more.when } : {}),
	})
	if (kind === 'invoice') return [row('due', [paragraph([w('Due'), text(' '), f('due-day')])], 'amount-due', true)]
	if (kind === 'credit-note') return [row('credit', [paragraph([w('To your credit')])], 'amount-due', true)]
	if (isOwn(kind)) return [row('total-sum', [paragraph([w('Total')])], 'total', true)]
	const owed = when(test('total', 'above', '-0.0001'), test('show', 'is', 'all'))
	return [
		row('owed', [paragraph([w('You owe in all')])], 'total-size', true, { when: owed } as Partial<Piece>),
		row('credit', [paragraph([w('To your credit in all')])], 'total-size', true, {
			when: when(test('total', 'below', '0')),
		} as Partial<Piece>),
		row('past', [paragraph([w('Past due on this statement')])], 'total-size', true, {
			when: when(test('total', 'above', '-0.0001'), test('show', 'is', 'past-due')),
		} as Partial<Piece>),
		row('late', [paragraph([w('to pay now')])], 'past-due', false, {
			when: when(test('show', 'is', 'all')),
		} as Partial<Piece>),
	]
}

/** The table of lines, or what is open, or what happened. */
function tables(kind: PaperKind): Piece[] {
	if (isBill(kind))
		return [
			{
				type: 'lines',
				id: 'lines',
				of: 'lines',
				above: 14,
				ruleColor: 'hair',
				keep: true,
				head: { color: 'grey' },
				...(isOwn(kind) ? {} : { group: orderHead }),
				columns: kind === 'unpriced' ? withoutFigures(billColumns()) : billColumns(),
			},
		]
	const open = (id: string, credit: 'yes' | 'no', title: string): LinesPiece => ({
		type: 'lines',
		id,
		of: 'items',
		above: 14,
		ruleColor: 'hair',
		head: { color: 'grey' },
		title: word(title),
		only: when(test('item.credit', 'is', credit)),
		when: when(test('form', 'is', 'open items')),
		columns: itemColumns(),
	})
	return [
		open('owed-items', 'no', 'What you owe'),
		open('credit-items', 'yes', 'To your credit, not yet applied'),
		{
			type: 'lines',
			id: 'happened',
			of: 'movements',
			above: 14,
			ruleColor: 'hair',
			head: { color: 'grey' },
			when: when(test('form', 'is', 'balance forward')),
			columns: movementColumns(),
		},
	]
}

const billColumns = (): LinesPiece['columns'] => [
	{ id: 'item', head: word('Item'), cell: [[f('line.item')]], width: { most: 62 }, size: 8.5, color: 'grey' },
	{ id: 'description', head: word('Description'), cell: [[f('line.description')]], width: 'rest' },
	{ id: 'quantity', head: word('Quantity'), cell: [[f('line.quantity')]], width: { most: 80 }, align: 'right' },
	{ id: 'unit', head: word('Unit'), cell: [[f('line.unit')]], width: { most: 50 }, color: 'grey' },
	{
		id: 'price',
		head: word('Price'),
		cell: [[f('line.price', { empty: word('no price') }), f('line.price-per', { before: ' / ' })]],
		width: { most: 90 },
		align: 'right',
	},
	{
		id: 'less',
		head: word('Less'),
		cell: [[f('line.discount-percent')]],
		width: { most: 46 },
		align: 'right',
		when: when(test('reckoned.any-less', 'above', '0')),
	},
	{ id: 'tax', head: word('Tax'), cell: [[f('line.tax-code')]], width: { most: 56 }, size: 8.5, color: 'grey' },
	{
		id: 'amount',
		head: word('Amount'),
		cell: [[f('line.net', { format: { money: 'none' } })]],
		width: { most: 100 },
		align: 'right',
	},
]

/** Columns of a statement's open items. */
export const itemColumns = (): LinesPiece['columns'] => [
	{ id: 'day', head: word('Date'), cell: [[f('item.day')]], width: { most: 76 } },
	{
		id: 'number',
		head: word('Number'),
		cell: [[f('item.number'), f('item.kind', { before: ' (', after: ')' })]],
		width: { most: 120 },
	},
	{ id: 'theirs', head: word('Your order'), cell: [[f('item.their-order')]], width: 'rest', color: 'grey' },
	{ id: 'due', head: word('Due'), cell: [[f('item.due-day')]], width: { most: 76 } },
	{
		id: 'late',
		head: word('Days late'),
		cell: [[f('item.days-late')]],
		width: { most: 60 },
		align: 'right',
		color: 'late',
	},
	{
		id: 'amount',
		head: word('Amount'),
		cell: [[f('item.amount', { format: { money: 'none' } })]],
		width: { most: 90 },
		align: 'right',
		color: 'grey',
	},
	{
		id: 'open',
		head: word('Open'),
		cell: [[f('item.open', { format: { money: 'none' } })]],
		width: { most: 90 },
		align: 'right',
	},
]
