import { type Block, type Cell, cell, inlinesOf, plain, runsOf, type Saying, type Row as TableRow } from '../blockKit'
import { compileCondition, compileInlines, writeValue } from '../values'
import { say, withLooks } from './kit'
import { chooser } from './lineChoice'
import { sumOf } from './lineSums'
import type { LinesPiece } from './linesSchema'

/** A table with its title, groups and subtotals. */
export function linesBlocks(piece: LinesPiece, saying: Saying): Block[] {
	const { kit, at } = saying
	const base = { size: piece.size, color: piece.color }
	const groups = chooser(piece, kit)(at)
	if (groups.length === 0) return piece.none === undefined ? [] : [plain(say(saying, piece.none), kit.look(base))]
	const columns = piece.columns.filter(({ when }) => compileCondition(when, kit.fields)(at))
	const strong = kit.look({ ...base, bold: true })
	const head = columns.map((column) => cell(say(saying, column.head), kit.look({ ...base, bold: true }), column.align))
	let row = 0
	const rows = groups.flatMap(({ places, titled }): TableRow[] => {
		const first = { ...at, place: places[0] ?? 0, row: row + 1 }
		const title =
			titled && piece.group
				? runsOf(withLooks(compileInlines(piece.group.head, kit.fields), kit, { ...base, bold: true }), first)
				: null
		const records = places.map((place): TableRow => {
			const here: Saying = { ...saying, at: { ...at, place, row: ++row } }
			return {
				strong: false,
				cells: columns.map((column): Cell => {
					const raw = column.picture ? (kit.fields.get(column.picture.field)?.read(here.at) ?? '') : ''
					const sha256 = typeof raw === 'string' && raw !== '' && saying.tools.picture(raw) ? raw : ''
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
									: cell(place === Math.max(0, sumAt - 1) ? say(saying, subtotal.label) : '', strong, column.align),
							),
						},
					]
				: []),
		]
	})
	const wide = (width: LinesPiece['columns'][number]['width']) =>
		typeof width === 'number' ? width : width === 'rest' ? 190 : width.most
	const all = columns.reduce((total, { width }) => total + wide(width), 0)
	const title = piece.title === undefined ? [] : [plain(say(saying, piece.title), strong, 'left', true)]
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
