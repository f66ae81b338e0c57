import { type ChildNode, type Element, isTag } from 'domhandler'
import { textContent } from 'domutils'
import { type Block, type Cell, type Row, type Rule, type Table, usualRule } from '../form'
import { colorOf, lengthOf, ruleOf } from './css'
import { type Look, lookOf, type Place } from './look'

const rowsOf = (element: Element, head = false): { row: Element; head: boolean }[] =>
	element.children
		.filter(isTag)
		.flatMap((one) =>
			one.name === 'tr'
				? [{ row: one, head }]
				: /^(thead|tbody|tfoot)$/.test(one.name)
					? rowsOf(one, one.name === 'thead')
					: [],
		)

/** Reads what stands in a cell. */
type ReadBlocks = (nodes: readonly ChildNode[], look: Look, place: Place) => Block[]

/** A table with the widths that it says, or that its cells want. */
export function readTable(element: Element, look: Look, place: Place, readBlocks: ReadBlocks): Table {
	const { builder, sheets } = place
	const id = builder.nextId('t')
	const said = sheets.of(element)
	const level: Rule[] = []
	const upright: Rule[] = []
	const widths: number[] = []
	const wants: number[] = []
	let pad: number | undefined
	const width = Math.min(
		place.width,
		lengthOf(said.get('width'), 12, place.width) ?? lengthOf(element.attribs.width, 12, place.width) ?? place.width,
	)
	const columns = element.children
		.filter(isTag)
		.flatMap((one) => (one.name === 'colgroup' ? one.children.filter(isTag) : one.name === 'col' ? [one] : []))
	columns.forEach((column, index) => {
		const own = lengthOf(sheets.of(column).get('width') ?? column.attribs.width?.replace(/^(\d+)$/, '$1px'), 12, width)
		if (own) widths[index] = own
	})
	/** Columns that a cell above still takes, with how many rows it goes on. */
	const taken: number[] = []
	const rows = rowsOf(element).map(({ row, head }): Row => {
		const cells: Cell[] = []
		let at = 0
		const skip = () => {
			while ((taken[at] ?? 0) > 0) {
				taken[at] = (taken[at] ?? 1) - 1
				cells.push({ blocks: [], span: 1, goesOn: true })
				at++
			}
		}
		const rowFill = colorOf(sheets.of(row).get('background-color'))
		const rowRule = ruleOf(sheets.of(row).get('border-bottom'))
		const ruled: Rule[] = rowRule ? [rowRule] : []
		for (const cell of row.children.filter(isTag).filter(({ name }) => name === 'td' || name === 'th')) {
			skip()
			const own = sheets.of(cell)
			const span = Math.max(1, Math.min(60, Number(cell.attribs.colspan) || 1))
			const down = Math.max(1, Math.min(500, Number(cell.attribs.rowspan) || 1))
			const inner = lookOf(cell, lookOf(row, look, sheets), sheets)
			const fill = colorOf(own.get('background-color')) ?? colorOf(cell.attribs.bgcolor) ?? rowFill
			for (const side of ['top', 'bottom']) ruled.push(...[ruleOf(own.get(`border-${side}`)) ?? []].flat())
			for (const side of ['left', 'right']) upright.push(...[ruleOf(own.get(`border-${side}`)) ?? []].flat())
			pad ??= lengthOf(own.get('padding-left'), inner.style.size)
			const wide = lengthOf(own.get('width') ?? cell.attribs.width?.replace(/^(\d+)$/, '$1px'), 12, width)
			if (wide && span === 1) widths[at] ??= wide
			if (span === 1) wants[at] = Math.max(wants[at] ?? 0, Math.min(40, textContent(cell).trim().length))
			for (let column = at; column < at + span; column++) if (down > 1) taken[column] = down - 1
			cells.push({
				blocks: readBlocks(cell.children, { ...inner, left: 0 }, { ...place, width: width / 2 }),
				span,
				...(fill ? { fill } : {}),
			})
			at += span
		}
		skip()
		level.push(...ruled)
		const rule = usualRule(ruled)
		return { cells, ...(head ? { head: true as const } : {}), ...(rule ? { rule } : {}) }
	})
	builder.block = id
	const most = Math.max(1, ...rows.map(({ cells }) => cells.reduce((sum, { span }) => sum + span, 0)))
	const known = widths.reduce((sum, one) => sum + (one ?? 0), 0)
	const open = Array.from({ length: most }, (_, index) => index).filter((index) => !widths[index])
	const wanted = open.reduce((sum, index) => sum + Math.max(4, wants[index] ?? 4), 0)
	const room = Math.max(open.length * 20, width - known)
	const rule =
		usualRule(level) ??
		usualRule(upright) ??
		(Number(element.attribs.border) > 0 ? { thickness: 0.75, color: '000000' } : undefined)
	return {
		is: 'table',
		id,
		columns: Array.from(
			{ length: most },
			(_, index) => widths[index] ?? (room * Math.max(4, wants[index] ?? 4)) / wanted,
		),
		rows,
		...(said.get('margin-left') === 'auto'
			? { align: said.get('margin-right') === 'auto' ? ('center' as const) : ('right' as const) }
			: {}),
		lines: upright.length > 0 || Number(element.attribs.border) > 0 ? 'grid' : level.length > 0 ? 'rows' : 'none',
		...(rule ? { rule } : {}),
		pad: pad ?? 2,
	}
}
