import { formatAmount } from '@/core/format'
import type { Compiled } from './draw'
import { bucketName } from './fieldCatalogue'
import type { At, Content } from './fieldTypes'
import { languagesFor } from './languages'
import { netOf } from './netOf'
import { addressLines } from './pieces/address'
import { paymentText } from './pieces/code'
import { type Doc, type Encoded, type Kit, type Look, type Runs, say, spansOf, withLooks } from './pieces/kit'
import { chooser, outOfSight } from './pieces/lineChoice'
import { sumOf } from './pieces/lines'
import { homeWords, sumsOf, taxRows } from './pieces/totals'
import type { Leaf, LinesPiece, Piece } from './schema'
import { allWithin } from './schema'
import type { Inline, Paragraph } from './schemaParts'
import { symbologies } from './symbologies'
import type { Align, Span } from './text'
import { compileCondition, compileInlines, joined, writeValue } from './values'
import { word } from './words'

// A paper as what it says and in which order, without places on pages: for formats that lay text out by themselves.

export type Run = { text: string; bold: boolean; italic: boolean; underline?: boolean; size: number; color: string }
export type Cell = { lines: Run[][]; align: Align; picture: { sha256: string; width: number } | null }
export type Row = { cells: Cell[]; strong: boolean }
export type Block =
	| { is: 'text'; runs: Run[]; align: Align; list: 'dots' | 'numbers' | null; heading: boolean }
	/** `shares` are the widths of its columns, of the whole. */
	| { is: 'table'; head: Cell[] | null; rows: Row[]; shares: number[]; ruled: boolean }
	| { is: 'picture'; sha256: string; width: number; height: number; align: Align }
	| {
			is: 'code'
			encoded: Extract<Encoded, { ok: true }>
			bars: boolean
			text: string
			width: number
			height: number
			align: Align
	  }
	| { is: 'rule'; color: string }
	| { is: 'beside'; columns: { share: number; blocks: Block[] }[] }
	| { is: 'box'; blocks: Block[]; fill: string | null; edge: string | null }

type Tools = { encode: Doc['tools']['encode']; picture: (sha256: string) => { ratio: number } | null }
type Say = { kit: Kit; at: At; tools: Tools }

/** Text from this size on is a heading. */
const headingSize = 13

/**
 * A paper in its reading order: what comes on its first page, what flows, what comes on its last. What names pages is left out, since
 * each format has its own.
 */
export function blocksOf({ layout, kit, tables }: Compiled, content: Content, tools: Tools): Block[] {
	const at: At = { content, languages: languagesFor(content), place: -1, row: 0, page: 1, pages: 1 }
	const own: Say = { kit, at, tools }
	const on = (pieces: readonly Piece[], without: string) =>
		pieces.filter((piece) => (piece.on ?? 'every') !== 'following' && piece.on !== without && !namesPages(piece))
	const shown = tables.filter((table) => isShown(table.id, layout.body, own))
	const hidden = outOfSight(shown, kit, at)
	const said =
		hidden.length > 0 && content.kind !== 'statement'
			? [
					plain(
						`${say(own, word('Not listed here'))}: ${hidden.length} ${say(own, word('lines'))}${content.kind === 'unpriced' ? '' : ` (${say(own, word('Net'))} ${netOf(content, hidden)})`}`,
						kit.look({ italic: true }),
					),
				]
			: []
	return [
		...stack(on(layout.head, 'last'), own),
		...stack(layout.body, own),
		...said,
		...stack(on(layout.foot, ''), own),
	]
}

const namesPages = (piece: Piece): boolean => /"field":"pages?"/.test(JSON.stringify(piece))

/** Whether a piece and all that it stands in are shown. */
function isShown(id: string, pieces: readonly Piece[], own: Say): boolean {
	const outer = pieces.find((piece) => allWithin([piece]).some((inner) => inner.id === id))
	if (!outer || !compileCondition(outer.when, own.kit.fields)(own.at)) return false
	return (
		outer.id === id ||
		isShown(
			id,
			outer.type === 'box' ? outer.pieces : outer.type === 'beside' ? outer.columns.flatMap((one) => one.pieces) : [],
			own,
		)
	)
}

const stack = (pieces: readonly Piece[], own: Say): Block[] =>
	pieces.flatMap((piece) => (compileCondition(piece.when, own.kit.fields)(own.at) ? blocks(piece, own) : []))

const runOf = (text: string, { face, size, color, underline }: Omit<Span, 'text'>): Run => ({
	text,
	bold: face.includes('bold'),
	italic: face.includes('italic'),
	...(underline ? { underline } : {}),
	size,
	color,
})
const plain = (text: string, look: Look, align: Align = 'left', heading = false): Block => ({
	is: 'text',
	runs: [runOf(text, look)],
	align,
	list: null,
	heading,
})
const cell = (text: string, look: Look, align: Align = 'left'): Cell => ({
	lines: text === '' ? [] : text.split('\n').map((line) => [runOf(line, look)]),
	align,
	picture: null,
})
const runsOf = (runs: Runs, at: At): Run[] | null => spansOf(runs, at)?.map((span) => runOf(span.text, span)) ?? null
const inlinesOf = (inlines: readonly Inline[], base: Parameters<Kit['look']>[0], { kit, at }: Say): Run[] | null =>
	runsOf(withLooks(compileInlines(inlines, kit.fields), kit, base), at)

function blocks(piece: Piece, own: Say): Block[] {
	const { kit, at, tools } = own
	switch (piece.type) {
		case 'words':
			return wordsBlocks(piece, own)
		case 'facts':
		case 'slip': {
			const look = kit.look(piece)
			const labels = piece.type === 'facts' ? kit.look({ color: piece.labelColor, size: piece.size }) : look
			const rows = piece.rows.flatMap(({ label, value, when }): Row[] => {
				const runs = compileCondition(when, kit.fields)(at) ? inlinesOf(value, piece, own) : null
				return runs
					? [{ cells: [cell(say(own, label), labels), { lines: [runs], align: 'left', picture: null }], strong: false }]
					: []
			})
			if (piece.type === 'slip') rows.push({ cells: [cell(say(own, piece.paid), look), cell('', look)], strong: false })
			const title =
				piece.type === 'slip' ? [plain(say(own, piece.title), kit.look({ ...piece, bold: true }), 'left', true)] : []
			return rows.length === 0 ? [] : [...title, { is: 'table', head: null, rows, shares: [0.4, 0.6], ruled: false }]
		}
		case 'address': {
			const said = addressLines(piece, at.content)
			if (!said) return []
			const look = kit.look(piece)
			const name = kit.look({ ...piece, bold: piece.as !== 'line', size: piece.nameSize ?? piece.size })
			const label = piece.label === undefined ? [] : [say(own, piece.label)]
			if (piece.as === 'line')
				return [plain([...label, [said.name, ...said.lines].join(' · ')].join(' '), look, piece.align)]
			return [
				...label.map((text) =>
					plain(text, kit.look({ size: Math.max(7, look.size - 1.5), color: piece.color }), piece.align),
				),
				plain(said.name, name, piece.align),
				...said.lines.map((line) => plain(line, look, piece.align)),
			]
		}
		case 'lines':
			return linesBlocks(piece, own)
		case 'totals':
			return totalsBlocks(piece, own)
		case 'aging': {
			const { content } = at
			if (content.kind !== 'statement' || content.buckets.length === 0) return []
			const look = kit.look(piece)
			const title =
				piece.title === undefined
					? []
					: [plain(say(own, piece.title), kit.look({ ...piece, bold: true }), 'left', true)]
			const names = content.buckets.map(({ name }) => cell(bucketName(name, at), look, 'right'))
			const sums = content.buckets.map(({ amount }) => cell(formatAmount(amount, content.locale), look, 'right'))
			const shares = names.map(() => 1 / names.length)
			return [...title, { is: 'table', head: names, rows: [{ cells: sums, strong: false }], shares, ruled: true }]
		}
		case 'picture': {
			const field = typeof piece.of === 'object' && 'field' in piece.of ? kit.fields.get(piece.of.field) : undefined
			const raw =
				piece.of === 'logo'
					? (at.content.issuer.logo ?? '')
					: 'image' in piece.of
						? piece.of.image
						: (field?.read(at) ?? '')
			const sha256 = typeof raw === 'string' ? raw : ''
			const picture = sha256 === '' ? null : tools.picture(sha256)
			if (picture) {
				const width = Math.min(piece.width, piece.height * picture.ratio)
				return [{ is: 'picture', sha256, width, height: width / picture.ratio, align: piece.align ?? 'left' }]
			}
			const runs = piece.none === undefined ? null : inlinesOf(piece.none, {}, own)
			return runs ? [{ is: 'text', runs, align: piece.align ?? 'left', list: null, heading: false }] : []
		}
		case 'code': {
			const text =
				piece.symbol === 'payment' ? paymentText(at.content) : joined(compileInlines(piece.value, kit.fields), at)
			const symbol = piece.symbol === 'payment' ? 'qr' : piece.symbol
			const encoded = text ? tools.encode(symbol, text) : null
			if (!text || !encoded?.ok) return []
			const { bars } = symbologies[symbol]
			const height = bars ? (piece.height ?? 36) : piece.width
			const align = piece.align ?? 'left'
			const label = piece.label === undefined ? [] : [plain(say(own, piece.label), kit.look({ size: 7.5 }), align)]
			return [{ is: 'code', encoded, bars, text, width: piece.width, height, align }, ...label]
		}
		case 'rule':
			return [{ is: 'rule', color: kit.color(piece.color) }]
		case 'space':
		case 'turn':
			return []
		case 'box': {
			const inner = stack(piece.pieces, own)
			const color = (name: string | undefined) => (name === undefined ? null : kit.color(name))
			return inner.length === 0 ? [] : [{ is: 'box', blocks: inner, fill: color(piece.fill), edge: color(piece.edge) }]
		}
		case 'beside': {
			const shares = piece.columns.reduce((sum, { share }) => sum + share, 0)
			const columns = piece.columns.map(({ share, pieces }) => ({ share: share / shares, blocks: stack(pieces, own) }))
			return columns.every((column) => column.blocks.length === 0) ? [] : [{ is: 'beside', columns }]
		}
	}
}

function wordsBlocks(piece: Extract<Leaf, { type: 'words' }>, own: Say): Block[] {
	const language = own.at.languages.find((one) => piece.says[one])
	const paragraphs: readonly Paragraph[] = (language && piece.says[language]) ?? Object.values(piece.says)[0] ?? []
	return paragraphs.flatMap(({ runs, align, list }): Block[] => {
		const written = inlinesOf(runs, piece, own)
		if (!written) return []
		const heading = !list && written.length > 0 && written.every(({ size }) => size >= headingSize)
		return [{ is: 'text', runs: written, align: align ?? piece.align ?? 'left', list: list ?? null, heading }]
	})
}

function linesBlocks(piece: LinesPiece, own: Say): Block[] {
	const { kit, at } = own
	const base = { size: piece.size, color: piece.color }
	const groups = chooser(piece, kit)(at)
	if (groups.length === 0) return piece.none === undefined ? [] : [plain(say(own, piece.none), kit.look(base))]
	const columns = piece.columns.filter(({ when }) => compileCondition(when, kit.fields)(at))
	const strong = kit.look({ ...base, bold: true })
	const head = columns.map((column) => cell(say(own, column.head), kit.look({ ...base, bold: true }), column.align))
	let row = 0
	const rows = groups.flatMap(({ places, titled }): Row[] => {
		const first = { ...at, place: places[0] ?? 0, row: row + 1 }
		const title =
			titled && piece.group
				? runsOf(withLooks(compileInlines(piece.group.head, kit.fields), kit, { ...base, bold: true }), first)
				: null
		const records = places.map((place): Row => {
			const here: Say = { ...own, at: { ...at, place, row: ++row } }
			return {
				strong: false,
				cells: columns.map((column): Cell => {
					const raw = column.picture ? (kit.fields.get(column.picture.field)?.read(here.at) ?? '') : ''
					const sha256 = typeof raw === 'string' && raw !== '' && own.tools.picture(raw) ? raw : ''
					return {
						lines: column.cell.flatMap((inlines) => {
							const runs = inlinesOf(inlines, { ...base, ...column, color: column.color ?? piece.color }, here)
							return runs ? [runs] : []
						}),
						align: column.align ?? 'left',
						picture: sha256 ? { sha256, width: column.picture?.width ?? 40 } : null,
					}
				}),
			}
		})
		const subtotal = piece.group?.subtotal
		const field = subtotal && kit.fields.get(subtotal.of)
		const sum = field ? writeValue(sumOf(field.read, places, at), field, { money: 'none' }, at) : ''
		const stands = columns.findIndex((column) =>
			column.cell.flat().some((inline) => 'field' in inline && inline.field === subtotal?.of),
		)
		const sumAt = stands === -1 ? columns.length - 1 : stands
		return [
			...(title ? [{ strong: true, cells: [{ lines: [title], align: 'left' as const, picture: null }] }] : []),
			...records,
			...(field && subtotal
				? [
						{
							strong: true,
							cells: columns.map((column, place) =>
								place === sumAt
									? cell(sum, strong, 'right')
									: cell(place === Math.max(0, sumAt - 1) ? say(own, subtotal.label) : '', strong, column.align),
							),
						},
					]
				: []),
		]
	})
	const wide = (width: LinesPiece['columns'][number]['width']) =>
		typeof width === 'number' ? width : width === 'rest' ? 190 : width.most
	const all = columns.reduce((total, { width }) => total + wide(width), 0)
	const title = piece.title === undefined ? [] : [plain(say(own, piece.title), strong, 'left', true)]
	const said = head.some(({ lines }) => lines.length > 0)
	return [
		...title,
		{
			is: 'table',
			head: said ? head : null,
			rows,
			shares: columns.map(({ width }) => wide(width) / all),
			ruled: piece.rules !== 'none',
		},
	]
}

function totalsBlocks(piece: Extract<Leaf, { type: 'totals' }>, own: Say): Block[] {
	const { kit, at } = own
	const { content } = at
	if (content.kind === 'statement') return []
	const base = { size: piece.size, color: piece.color }
	const rows = piece.rows.flatMap((row): Row[] => {
		if (!compileCondition(row.when, kit.fields)(at)) return []
		const look = kit.look(row, base)
		return sumsOf(row, content, own, piece.taxes === 'table' || piece.taxes === 'sum').map(({ label, amount }) => ({
			cells: [cell(label, look), cell(amount, look, 'right')],
			strong: row.bold === true,
		}))
	})
	const look = kit.look(base)
	const [heads = [], ...taxes] = piece.taxes === 'table' ? taxRows(content, own) : []
	const side = (place: number): Align => (place === 0 ? 'left' : 'right')
	const home = homeWords(content, own)
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
