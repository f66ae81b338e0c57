import { z } from 'zod'
import type { BillContent, DocumentDiscount } from '@/core/document'
import { formatAmount, formatDay, formatDecimal, formatMoney, formatPercent } from '@/core/format'
import { type Block, cell, plain, type Saying, type Row as TableRow } from '../blockKit'
import { isNone, taxWords } from '../fieldCatalogue'
import type { Node, Slab } from '../flow'
import { chargeNameOn } from '../freightName'
import type { Said } from '../languages'
import type { PageItem } from '../page'
import { base as baseSchema, conditionSchema, lettering, saidSchema, style } from '../schemaParts'
import type { Align } from '../text'
import { lineItems } from '../text'
import { compileCondition } from '../values'
import { word } from '../words'
import {
	baseline,
	type Doc,
	type Draw,
	type Frame,
	gap,
	type Kit,
	type Look,
	plainLines,
	say,
	textSlabs,
	together,
	usualLead,
} from './kit'
import { leaf, onBills } from './leaf'

export const totalRows = ['subtotal', 'discounts', 'charges', 'net', 'taxes', 'total', 'prepaid', 'due'] as const
const schema = z.strictObject({
	...baseSchema,
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
type Totals = z.infer<typeof schema>

type Row = Totals['rows'][number]
type Sum = { label: string; amount: string }

/** An amount taken off, as it is printed; nothing has no sign. */
const negated = (amount: string): string =>
	isNone(amount) ? amount.replace('-', '') : amount.startsWith('-') ? amount.slice(1) : `-${amount}`

/** The figures below the table: always those of the whole document. */
function compileTotals(piece: Totals, kit: Kit): Draw {
	const base = { size: piece.size, color: piece.color }
	const rows = piece.rows.map((row) => ({
		row,
		shown: compileCondition(row.when, kit.fields),
		look: kit.look(row, base),
		amountLook: kit.look({ ...row, color: row.color }, { size: base.size }),
	}))
	const small = kit.look({ ...base, size: Math.max(7, kit.look(base).size - 0.5) })
	return (doc, frame): Node[] => {
		const { content } = doc.at
		if (content.kind === 'statement') return []
		const sums = rows.flatMap(({ row, shown, look, amountLook }) =>
			shown(doc.at)
				? sumsOf(row, content, doc, piece.taxes === 'table' || piece.taxes === 'sum').map((sum) => ({
						...sum,
						look,
						amountLook,
						ruled: row.ruled === true,
					}))
				: [],
		)
		const { metrics } = doc.tools
		const wide = sums.map(({ amount, amountLook }) => metrics.width(amount, amountLook.face, amountLook.size))
		// The amounts have one column, as wide as the widest of the same size; a label never has less than a third.
		const column = Math.min(frame.width * 0.66, Math.max(60, ...wide.map((width) => width + 10)))
		const labelWidth = frame.width - column - 8
		const slabs: Slab[] = sums.map(({ label, amount, look, amountLook, ruled }) =>
			drawSum({ label, amount }, { look, amountLook, ruled }, labelWidth, frame, doc),
		)
		const home = content.home
			? textSlabs(plainLines(homeWords(content, doc), small, frame.width, doc), frame, piece.id, {
					align: piece.labels === 'left' ? 'left' : 'right',
				})
			: []
		const table = piece.taxes === 'table' ? taxTable(content, frame, doc) : []
		const keep = (slab: Slab, index: number): Slab => ({ ...slab, keep: index < slabs.length - 1 })
		return [...table, ...slabs.map(keep), ...(home.length > 0 ? gap(4) : []), ...home]
	}

	function drawSum(
		{ label, amount }: Sum,
		{ look, amountLook, ruled }: { look: Look; amountLook: Look; ruled: boolean },
		labelWidth: number,
		frame: Frame,
		doc: Doc,
	): Slab {
		const lead = Math.max(look.size, amountLook.size) * usualLead + 1
		const lines = plainLines(label, look, labelWidth, doc)
		const top = ruled ? 4 : 0
		const items: PageItem[] = ruled
			? [{ type: 'rule', x: frame.x, y: 1.2, width: frame.width, thickness: 0.8, color: kit.color(undefined) }]
			: []
		lines.forEach((line, index) => {
			items.push(
				...lineItems(
					line,
					frame.x,
					labelWidth,
					top + index * lead + baseline(look.size, lead),
					piece.labels === 'left' ? 'left' : 'right',
				),
			)
		})
		const [value] = plainLines(amount, amountLook, 1e6, doc)
		if (value) items.push(...lineItems(value, frame.x, frame.width, top + baseline(look.size, lead), 'right'))
		return { is: 'slab', height: top + lines.length * lead + 1.5, items: items, piece: piece.id }
	}

	/** Tax by code as a table: code and name, rate, base, tax. */
	function taxTable(content: BillContent, frame: Frame, doc: Doc): Node[] {
		if (content.priced.taxes.length === 0) return []
		const [heads = [], ...taxes] = taxRows(content, doc)
		const shares = [0.4, 0.15, 0.225, 0.225]
		const row = (cells: string[], look: Look): Slab => {
			let x = frame.x
			const parts = cells.map((cell, index) => {
				const width = frame.width * (shares[index] ?? 0)
				const own = { x, width: width - 4 }
				x += width
				return textSlabs(plainLines(cell, look, own.width, doc), own, piece.id, {
					align: index === 0 ? 'left' : 'right',
				})
			})
			const columns = parts.map((slabs) => together(slabs, piece.id))
			return {
				is: 'slab',
				height: Math.max(...columns.map(({ height }) => height)) + 2,
				items: columns.flatMap(({ items }) => items),
				keep: true,
				piece: piece.id,
			}
		}
		const body = kit.look(base)
		const rows = taxes.map((cells) => row(cells, body))
		const head = row(heads, small)
		head.items.push({
			type: 'rule',
			x: frame.x,
			y: head.height - 0.5,
			width: frame.width,
			thickness: 0.5,
			color: kit.color(undefined),
		})
		head.height += 3
		return [head, ...rows, ...gap(6)]
	}
}

/** The head of the rates, of a narrow column: papers that were issued keep theirs, which was broken there. */
const rateHead = ({ spoken }: BillContent): string => (spoken === 2 ? 'Rate' : spoken ? 'Rate of tax' : 'Tax rate')

/** Tax by code as rows of a table, their heads first. */
function taxRows(content: BillContent, doc: Pick<Doc, 'at'>): string[][] {
	const { locale } = content
	return [
		['Tax', rateHead(content), 'Tax base', 'Amount'].map((key) => say(doc, word(key))),
		...content.priced.taxes.map(({ code, rate, base, tax }) => {
			const { name, grounds } = taxWords(content, code)
			const said = content.customer.tax === 'standard' ? [`${name || code} (${code})`, grounds] : [grounds || name]
			return [
				said.filter(Boolean).join(': '),
				formatPercent(rate, locale),
				formatAmount(base, locale),
				formatAmount(tax, locale),
			]
		}),
	]
}

/** Tax in the home currency, said below the totals; empty where it is none. */
const homeWords = ({ home, locale, currency }: BillContent, doc: Pick<Doc, 'at'>): string =>
	home
		? `${say(doc, word('Tax in'))} ${home.currency}: ${formatAmount(home.tax, locale)}, ${say(doc, word('at'))} ${formatDecimal(home.rate, locale)} ${home.currency} = 1 ${currency}, ${formatDay(home.day, locale)}`
		: ''

/** The label and amount of a row, or of each that it stands for. Discounts and charges that there are none of have no row. */
function sumsOf({ row, label, money }: Row, content: BillContent, doc: Pick<Doc, 'at'>, taxesApart: boolean): Sum[] {
	const { priced, locale, currency, discounts, charges } = content
	const amountOf = (amount: string) =>
		money === 'sign'
			? formatMoney(amount, currency, locale)
			: money === 'code'
				? `${currency}\u00a0${formatAmount(amount, locale)}`
				: formatAmount(amount, locale)
	const one = (usual: Said, amount: string): Sum[] => [{ label: say(doc, label ?? usual), amount: amountOf(amount) }]
	const percentOf = (share: object & { percent?: string }) =>
		share.percent === undefined ? '' : ` ${formatPercent(share.percent, locale)}`
	switch (row) {
		case 'subtotal':
			return !isNone(priced.discountTotal) || charges.length > 0 ? one(word('Goods and services'), priced.subtotal) : []
		case 'discounts':
			return discounts.map((discount, index) => ({
				label: discountLabel(discount, say(doc, label ?? word('Discount')), doc) + percentOf(discount),
				amount: amountOf(negated(priced.discounts[index] ?? '0')),
			}))
		case 'charges':
			return charges.map((charge, index) => ({
				label: chargeNameOn(content, index, (said) => say(doc, said)) + percentOf(charge),
				amount: amountOf(priced.charges[index] ?? '0'),
			}))
		case 'net':
			return one(word('Net'), priced.net)
		case 'taxes':
			return taxesApart ? one(word('Tax'), priced.taxTotal) : taxSums(content, amountOf)
		case 'total':
			return one(word('Total'), priced.total)
		case 'prepaid':
			return isNone(priced.prepaid) ? [] : one(word('Paid before'), negated(priced.prepaid))
		case 'due':
			return one(priced.amountDue.startsWith('-') ? word('To your credit') : word('Amount due'), priced.amountDue)
	}
}

/** A discount by its name; the standing one, which the program names, in the language of the paper. */
const discountLabel = (discount: DocumentDiscount, usual: string, doc: Pick<Doc, 'at'>): string =>
	'percent' in discount && discount.standing === true ? say(doc, word('Standing discount')) : discount.label || usual

function taxSums(content: BillContent, amountOf: (amount: string) => string): Sum[] {
	const { priced, locale, customer } = content
	return priced.taxes.map(({ code, rate, base, tax }) => {
		const { name, grounds } = taxWords(content, code)
		const amount = amountOf(tax)
		if (customer.tax !== 'standard') return { label: `${grounds || name} (${formatAmount(base, locale)})`, amount }
		const what = `${name} (${code}) ${formatPercent(rate, locale)} · ${formatAmount(base, locale)}`
		return { label: grounds ? `${what}: ${grounds}` : what, amount }
	})
}

function totalsBlocks(piece: Totals, saying: Saying): Block[] {
	const { kit, at } = saying
	const { content } = at
	if (content.kind === 'statement') return []
	const base = { size: piece.size, color: piece.color }
	const rows = piece.rows.flatMap((row): TableRow[] => {
		if (!compileCondition(row.when, kit.fields)(at)) return []
		const look = kit.look(row, base)
		return sumsOf(row, content, saying, piece.taxes === 'table' || piece.taxes === 'sum').map(({ label, amount }) => ({
			cells: [cell(label, look), cell(amount, look, 'right')],
			strong: row.bold === true,
		}))
	})
	const look = kit.look(base)
	const [heads = [], ...taxes] = piece.taxes === 'table' ? taxRows(content, saying) : []
	const side = (place: number): Align => (place === 0 ? 'left' : 'right')
	const home = homeWords(content, saying)
	return [
		...(taxes.length === 0
			? []
			: [
					{
						is: 'table' as const,
						head: heads.map((text, place) => cell(text, look, side(place))),
						rows: taxes.map((cells) => ({
							cells: cells.map((text, place) => cell(text, look, side(place))),
							strong: false,
						})),
						shares: [0.4, 0.15, 0.225, 0.225],
						ruled: true,
					},
				]),
		{ is: 'table', head: null, rows, shares: [0.66, 0.34], ruled: false },
		...(home === '' ? [] : [plain(home, look)]),
	]
}

export const totals = leaf<typeof schema>({
	schema,
	name: 'Totals',
	fits: onBills,
	lettered: true,
	fresh: (id) => ({
		type: 'totals',
		id,
		rows: [{ row: 'net' }, { row: 'taxes' }, { row: 'total', bold: true, money: 'sign', ruled: true }],
	}),
	names: ({ rows }, named) => {
		for (const { when } of rows) named.condition(when)
	},
	draw: compileTotals,
	blocks: totalsBlocks,
})
