import type { Piece } from '@/layout/schema'
import type { Inline as LayoutInline } from '@/layout/schemaParts'
import { type Cell, type Paragraph, paragraphsIn, type Row, type Table } from './form'
import { answerAt, beside, bounded, idFor, idOf, type Making, mostColumns, note, type Part, usualLead } from './making'
import type { Source } from './marks'
import { isBlank, runsOf } from './runs'

/** The rows of a table in groups: those that are repeated for each of something, and those between them. */
export function tablePieces(table: Table, width: number, making: Making, depth: number): Piece[] {
	const sum = table.columns.reduce((all, one) => all + one, 0)
	const left = table.align ? 0 : Math.min(table.left ?? 0, width * 0.6)
	const whole = sum > (width - left) * 0.97 || depth < 3
	const own = whole ? width - (depth < 3 ? 0 : left) : sum
	const scale = own / Math.max(sum, 1)
	const columns = table.columns.map((one) => one * scale)
	const groups = groupsOf(table, making)
	// A head on a ground sets the text of the lines below it in a little: that of the other rows stands below theirs.
	const inset = groups.some(
		({ source, head }) => source && head !== null && table.rows[head]?.cells.some(({ fill }) => fill),
	)
		? 4
		: 0
	const pieces = groups.flatMap((group) =>
		group.source
			? repeatedPieces(table, group, columns, making, depth > 3 ? inset : 0)
			: staticPieces(table, group, columns, making, depth - (whole && left < 1 ? 0 : 1), inset),
	)
	const first = pieces[0]
	if (first) making.pieceOf.set(table.id, first.id)
	const before = table.align === 'right' ? width - own : table.align === 'center' ? (width - own) / 2 : left
	if ((whole && left < 1) || pieces.length === 0 || depth < 2) return pieces
	const after = width - own - before
	return [
		beside(
			`${table.id}-set`,
			[
				...(before > 1 ? [{ width: before, pieces: [] }] : []),
				{ width: own, pieces },
				...(after > 1 ? [{ width: after, pieces: [] }] : []),
			],
			width,
			making,
		),
	]
}

type Group = { from: number; to: number; source: Source | null; head: number | null }

function groupsOf(table: Table, making: Making): Group[] {
	const groups: Group[] = []
	const { sourceOf, edges } = making.understood
	table.rows.forEach((row, index) => {
		if (edges.has(`${table.id} ${index}`)) return
		const source = sourceOf(table.id, index)
		const last = groups.at(-1)
		// Empty rows below a repeated one were room for more lines.
		if (!source && last?.source && isEmptyRow(row)) {
			note(making, table.id, 'Empty rows below the repeated one are left out: there are as many as there are lines.')
			return
		}
		if (last && last.source === source && last.to === index - 1) last.to = index
		else groups.push({ from: index, to: index, source, head: null })
	})
	// The row above a repeated one names its columns, where it says as many things and none of them is a mark.
	groups.forEach((group, at) => {
		const before = groups[at - 1]
		if (!group.source || !before || before.source) return
		const head = table.rows[before.to]
		if (!head || !isHead(head, table.rows[group.from])) return
		group.head = before.to
		before.to--
	})
	return groups.filter(({ from, to }) => to >= from)
}

const isEmptyRow = (row: Row): boolean => row.cells.every(({ blocks }) => blocks.every(isBlank))
const isHead = (row: Row, repeated: Row | undefined): boolean =>
	row.cells.length === repeated?.cells.length &&
	row.cells.every(({ blocks }) =>
		blocks.every(
			(block) => block.is === 'paragraph' && block.inlines.every(({ is }) => is === 'text' || is === 'break'),
		),
	) &&
	row.cells.filter(({ blocks }) => !blocks.every(isBlank)).length >= Math.min(2, row.cells.length)

const paragraphsOf = (cell: Cell | undefined): Paragraph[] => paragraphsIn(cell?.blocks ?? [])
const plainText = (cell: Cell | undefined): string =>
	paragraphsOf(cell)
		.map(({ inlines }) =>
			inlines.map((inline) => (inline.is === 'text' ? inline.text : inline.is === 'break' ? '\n' : '')).join(''),
		)
		.join('\n')
		.trim()

const mostCellLines = 8
/** Lines of a cell, no more than it holds: those beyond stand in its last, below each other. */
function upToLines(lines: readonly LayoutInline[][], most: number): LayoutInline[][] {
	if (lines.length <= most) return [...lines]
	const last = lines.slice(most - 1).flatMap((line, index) => (index === 0 ? line : [{ text: '\n' }, ...line]))
	return [...lines.slice(0, most - 1), last]
}

/** Paragraphs of a column down the rows of one record. */
const inColumn = (rows: readonly Row[], column: number, columns: number): Paragraph[] =>
	rows.flatMap(({ cells }) =>
		cells.flatMap((cell, index) => (Math.min(index, columns - 1) === column ? paragraphsOf(cell) : [])),
	)

/** Repeated rows; without a head they have a line below the last alone. */
function repeatedPieces(
	table: Table,
	group: Group,
	columns: readonly number[],
	making: Making,
	inset: number,
): Piece[] {
	const lines = linesPiece(table, group, columns, making)
	// Text on the ground of a head is set in by itself.
	const piece =
		inset > 0 && lines.type === 'lines' && !lines.head?.fill ? setIn(table, [lines], columns, inset, making) : lines
	const rule = table.rows[group.from]?.rule ?? (table.lines === 'none' ? undefined : table.rule)
	if (!rule || lines.type !== 'lines' || lines.rules !== 'none') return [piece]
	return [
		piece,
		{
			type: 'rule',
			id: idFor(`${table.id}-rule`, making),
			thickness: bounded(rule.thickness, 0.1, 20),
			color: making.looks.color(rule.color),
		},
	]
}

/** Rows that are repeated as a table of lines: a column a cell, and further rows of the same record as further lines of their cells. */
function linesPiece(table: Table, group: Group, columns: readonly number[], making: Making): Piece {
	const rows = table.rows.slice(group.from, group.to + 1)
	// The columns are those of the row with the most cells; what others have more or less of goes to the nearest.
	const row = rows.reduce<Row | undefined>(
		(most, one) => (one.cells.length > (most?.cells.length ?? 0) ? one : most),
		undefined,
	)
	const head = group.head === null ? undefined : table.rows[group.head]
	const id = idOf(table.id, making)
	const cells = row?.cells ?? []
	const widthOf = (index: number): number => {
		const start = cells.slice(0, index).reduce((sum, { span }) => sum + span, 0)
		return columns.slice(start, start + (cells[index]?.span ?? 1)).reduce((sum, one) => sum + one, 0)
	}
	const between = 8
	const textLength = (index: number) =>
		rows.reduce(
			(sum, one) => sum + paragraphsOf(one.cells[index]).reduce((all, { inlines }) => all + inlines.length, 0),
			0,
		)
	const widest =
		cells.map((_, index) => index).sort((a, b) => widthOf(b) - widthOf(a) || textLength(b) - textLength(a))[0] ?? 0
	const headRun = paragraphsOf(head?.cells.find((cell) => plainText(cell) !== ''))
		.flatMap(({ inlines }) => inlines)
		.find((inline) => inline.is === 'text')
	const headStyle = headRun?.is === 'text' ? making.looks.style(headRun.style) : {}
	const fill = head?.cells.find((cell) => cell.fill)?.fill
	const sizes = cells.flatMap((cell) =>
		paragraphsOf(cell).flatMap(({ inlines }) =>
			inlines.flatMap((inline) =>
				'style' in inline ? [making.looks.style(inline.style).size ?? making.looks.text.size] : [],
			),
		),
	)
	const size = sizes.length > 0 ? Math.max(...sizes) : making.looks.text.size
	const ruled = row?.rule ?? (table.lines === 'none' ? undefined : table.rule)
	for (const cell of [...cells, ...(head?.cells ?? [])]) {
		for (const block of cell.blocks) making.pieceOf.set(block.id, id)
		if (cell.blocks.some(({ is }) => is === 'table'))
			note(making, table.id, 'A table within a repeated row stands as lines of its cell.')
	}
	for (const cell of rows.flatMap(({ cells }) => cells))
		for (const { id: own, inlines } of paragraphsOf(cell))
			if (inlines.some((inline, at) => inline.is === 'picture' && !answerAt(own, at, making)))
				note(
					making,
					table.id,
					'A picture in a repeated row is left out. Describe it as a mark in the form, {picture}, and give it a field.',
				)
	if (table.lines === 'grid')
		note(making, table.id, 'Lines between the columns of a repeated table are not drawn; those between its rows are.')
	const headed = (head?.cells ?? []).some((cell) => plainText(cell) !== '')
	return {
		type: 'lines',
		id,
		of: group.source ?? 'lines',
		columns: cells.map((_, index) => {
			const paragraphs = inColumn(rows, index, cells.length)
			const align =
				paragraphs.find((one) => one.align)?.align ?? paragraphsOf(head?.cells[index]).find((one) => one.align)?.align
			const picture = paragraphs.flatMap((one) =>
				one.inlines.flatMap((inline, at) => {
					const answer = inline.is === 'picture' ? answerAt(one.id, at, making) : undefined
					return inline.is === 'picture' && answer && 'field' in answer
						? [{ field: answer.field, width: bounded(Math.min(inline.width, widthOf(index)), 8, 300) }]
						: []
				}),
			)[0]
			const lines = paragraphs.map((one) => runsOf(one, making)).filter((runs) => runs.length > 0)
			return {
				id: `column-${index + 1}`,
				head: plainText(head?.cells[index]),
				cell: upToLines(lines, mostCellLines),
				width: index === widest ? ('rest' as const) : bounded(widthOf(index) - between, 8, 600),
				...(align && align !== 'left' ? { align } : {}),
				...(picture ? { picture } : {}),
			}
		}),
		// Without a head there is no line below one.
		rules: ruled && headed ? 'lines' : 'none',
		...(ruled ? { ruleColor: making.looks.color(ruled.color) } : {}),
		head: {
			...(fill ? { fill: making.looks.color(fill) } : {}),
			...(headStyle.color ? { color: headStyle.color } : {}),
			...(headStyle.bold ? { bold: true } : {}),
			size: bounded(headStyle.size ?? (headRun ? making.looks.text.size : size), 4, 40),
		},
		...(size !== making.looks.text.size ? { size } : {}),
	}
}

/** Rows that stand once: cells side by side. Cells that go on over several rows stand beside a stack of these. */
function staticPieces(
	table: Table,
	{ from, to }: Group,
	columns: readonly number[],
	making: Making,
	depth: number,
	inset: number,
): Piece[] {
	const pieces: Piece[] = []
	const drawn = table.lines !== 'none' && table.rule
	const rule = (): Piece => ({
		type: 'rule',
		id: idFor(`${table.id}-rule`, making),
		thickness: bounded(table.rule?.thickness ?? 0.5, 0.1, 20),
		color: making.looks.color(table.rule?.color ?? '000000'),
	})
	if (table.lines === 'grid')
		note(making, table.id, 'Lines between the columns of a table are not drawn; those between its rows are.')
	for (let index = from; index <= to; index++) {
		const row = table.rows[index]
		if (!row || making.understood.edges.has(`${table.id} ${index}`)) continue
		const goesOn = (row: Row | undefined, first: boolean): boolean =>
			(first ? row?.cells[0] : row?.cells.at(-1))?.goesOn === true
		const first = goesOn(table.rows[index + 1], true)
		let last = index
		while (last < to && row.cells.length > 1 && goesOn(table.rows[last + 1], first)) last++
		if (drawn) pieces.push(rule())
		if (last > index && depth > 2) {
			pieces.push(tallCell(table, index, last, first, columns, making, depth))
			index = last
			continue
		}
		const own = rowPieces(table, row, columns, making, depth - (inset > 0 ? 1 : 0), inset > 0 || !drawn ? 0 : 2)
		pieces.push(...(inset > 0 && depth > 3 ? [setIn(table, own, columns, inset, making)] : own))
	}
	return drawn && pieces.length > 0 ? [...pieces, rule()] : pieces
}

/** A row set in on both sides. */
function setIn(table: Table, pieces: Piece[], columns: readonly number[], inset: number, making: Making): Piece {
	const width = columns.reduce((sum, one) => sum + one, 0)
	const edge = { width: inset, pieces: [] }
	const row = beside(`${table.id}-in`, [edge, { width: width - 2 * inset, pieces }, edge], width, making)
	return table.lines === 'none' ? row : { ...row, above: 2 }
}

/** A cell at the edge that goes on over rows, beside the stack of what stands in these. */
function tallCell(
	table: Table,
	from: number,
	to: number,
	first: boolean,
	columns: readonly number[],
	making: Making,
	depth: number,
): Piece {
	const tall = first ? table.rows[from]?.cells[0] : table.rows[from]?.cells.at(-1)
	const span = tall?.span ?? 1
	const own = first ? columns.slice(0, span) : columns.slice(-span)
	const rest = first ? columns.slice(span) : columns.slice(0, -span)
	const width = (parts: readonly number[]) => parts.reduce((sum, one) => sum + one, 0)
	const cell = making.stack(tall?.blocks ?? [], width(own) - table.pad * 2, making, depth - 1)
	const others: Table = {
		...table,
		lines: 'none',
		rows: table.rows
			.slice(from, to + 1)
			.map((row) => ({ ...row, cells: row.cells.filter((_, at) => (first ? at !== 0 : at !== row.cells.length - 1)) })),
	}
	const stacked = others.rows.flatMap((row) => rowPieces(others, row, rest, making, depth - 1, 0))
	const parts = [
		{ width: width(own), pieces: cell },
		{ width: width(rest), pieces: stacked },
	]
	return beside(`${table.id}-beside`, first ? parts : parts.reverse(), width(columns), making)
}

function rowPieces(
	table: Table,
	row: Row,
	columns: readonly number[],
	making: Making,
	depth: number,
	above: number,
): Piece[] {
	const width = columns.reduce((sum, one) => sum + one, 0)
	let at = 0
	const parts = row.cells.map((cell, index): Part => {
		const own = columns.slice(at, at + cell.span).reduce((sum, one) => sum + one, 0)
		at += cell.span
		const last = index === row.cells.length - 1
		return {
			width: own,
			pieces: making.stack(cell.blocks, own - table.pad * (last ? 1 : 2), making, Math.max(1, depth - 2)),
		}
	})
	const filled = row.cells.find(({ fill }) => fill)?.fill
	if (row.cells.some(({ fill }) => fill !== filled) && filled)
		note(making, table.id, 'A ground of single cells lies under their whole row.')
	const said = parts.filter(({ pieces }) => pieces.length > 0)
	if (said.length === 0)
		return [
			{
				type: 'space',
				id: idFor(`${table.id}-empty`, making),
				height: bounded(making.looks.text.size * usualLead, 0, 700),
			},
		]
	let made: Piece[]
	if (parts.length === 1 || depth < 2) made = parts.flatMap(({ pieces }) => pieces)
	else if (parts.length > mostColumns) {
		note(making, table.id, `A row of ${parts.length} cells stands in ${mostColumns} columns.`)
		const kept = parts.slice(0, mostColumns - 1)
		const rest = parts.slice(mostColumns - 1)
		made = [
			beside(
				`${table.id}-row`,
				[
					...kept,
					{ width: rest.reduce((sum, one) => sum + one.width, 0), pieces: rest.flatMap(({ pieces }) => pieces) },
				],
				width,
				making,
				table.pad,
			),
		]
	} else made = [beside(`${table.id}-row`, parts, width, making, table.pad)]
	if (filled && depth > 2)
		return [
			{ type: 'box', id: idFor(`${table.id}-ground`, making), fill: making.looks.color(filled), pad: 3, pieces: made },
		]
	const [first, ...others] = made
	return first && above > 0 ? [{ ...first, above: (first.above ?? 0) + above }, ...others] : made
}
