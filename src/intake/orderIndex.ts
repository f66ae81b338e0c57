import { type SheetRow, textOf } from './cell'
import type { Reading } from './reading'
import type { OrdersOut } from './readOrder'
import { type cellReader, type Rows, type RowsOut, reasonSkipped, refusalOf, type Shape, troubleOf } from './rows'

/** The words that a row of a total begins with (rule 7). */
const totalWord = /^(grand |sub ?-?)?(total|totals|totalt|sum|summe|summa|gesamt|gesamtsumme|totaal|suma)\b/i
const lineKeys = ['item', 'description', 'quantity', 'unitPrice']

/** Whether anything of a line stands in one of the row's groups or nested lines. */
export const hasLine = (row: SheetRow, shape: Shape, line: number): boolean =>
	(shape.lines[shape.nested ? 0 : line] ?? []).some(
		({ field, place }) =>
			lineKeys.includes(field.key) && place !== undefined && textOf(shape.cell(row, line, place)) !== '',
	)
/** How many lines of an order a row holds: those nested in it, or one for each group of columns. */
export const linesIn = (row: SheetRow, shape: Shape): number =>
	shape.nested ? (row.lines?.length ?? 1) : shape.lines.length

/** Whether a row is a total, and its figure as it stands: in the column of line totals, else its only figure. */
function totalIn(row: SheetRow, reading: Reading, shape: Shape): { figure: string } | null {
	const at = (key: string) => textOf(shape.cell(row, 0, reading.columns[key]))
	// The word may stand where orders have their number, since that is often the first column.
	const order = at('order')
	if ((order !== '' && !totalWord.test(order)) || at('customer') !== '' || at('day') !== '') return null
	const first = row.cells.map(textOf).find((text) => text !== '') ?? ''
	if (!totalWord.test(first) || (at('quantity') !== '' && at('unitPrice') !== '')) return null
	const own = at('lineTotal')
	const figures = row.cells.map(textOf).filter((text) => /\d/.test(text) && text !== first)
	return { figure: own || (figures.length === 1 ? (figures[0] ?? '') : '') }
}

/** Where a row belongs: to the order of a number, to the order above, or to none; what belongs to none is left or refused at once. */
type Belongs = { to: 'order'; key: string } | { to: 'above' } | { to: 'none'; above: 'stays' | 'is lost' }

function belonging(
	row: SheetRow,
	isAbove: boolean,
	reading: Reading,
	shape: Shape,
	read: ReturnType<typeof cellReader>,
	out: RowsOut & Pick<OrdersOut, 'sourceTotal'>,
): Belongs {
	const why = reasonSkipped(row, reading)
	if (why === 'head') return { to: 'none', above: 'stays' }
	if (why && why !== 'left out') {
		out.left(row.row, why)
		return { to: 'none', above: 'stays' }
	}
	const refuse = (remedy: string): Belongs => {
		if (row.leftOut) out.left(row.row, 'left out')
		else out.refuse(refusalOf(row, reading, shape, shape.row, 0, 'order', remedy))
		return { to: 'none', above: 'is lost' }
	}
	const at = (key: string) => shape.cell(row, 0, reading.columns[key])
	const cell = at('order')
	// What could not be read rightly is of no order above.
	if (cell === '' && row.trouble !== undefined) return refuse(row.trouble)
	if (cell === '' || totalWord.test(textOf(cell))) {
		const total = totalIn(row, reading, shape)
		if (total) {
			out.left(row.row, 'total')
			if (total.figure !== '') out.sourceTotal(row.row, total.figure)
			return { to: 'none', above: 'stays' }
		}
	}
	if (cell !== '') {
		const number = read(cell, 'text')
		return number.why === '' ? { to: 'order', key: number.text.toUpperCase() } : refuse(number.why)
	}
	const carried = textOf(at('customer')) === '' && textOf(at('day')) === ''
	let lines = false
	for (let line = 0; line < linesIn(row, shape); line++) lines ||= hasLine(row, shape, line)
	if (carried && lines && isAbove) return { to: 'above' }
	const trouble = troubleOf(row, shape, reading)
	if (trouble && !row.leftOut) {
		out.refuse(trouble)
		return { to: 'none', above: 'is lost' }
	}
	return refuse(
		carried && lines
			? 'It belongs to the order above, and that cannot be told. Give it its order number.'
			: 'Every row of an order needs its order number. Give it here.',
	)
}

/** Rows of one order stand apart in the source, so that they must be gathered first. */
export class Scattered extends Error {}

type Parts = { rows: Rows; reading: Reading; shape: Shape; read: ReturnType<typeof cellReader>; out: OrdersOut }

/**
 * Gives the rows of each order as they come, while each order's stand together.
 * @throws Scattered where they do not; what was given until then is to be forgotten
 */
export function ordersInTurn({ rows, reading, shape, read, out }: Parts, onOrder: (rows: SheetRow[]) => void): void {
	const done = new Set<string>()
	let key: string | null = null
	let own: SheetRow[] = []
	const close = () => {
		if (key === null) return
		done.add(key)
		onOrder(own)
		key = null
		own = []
	}
	for (const row of rows.each()) {
		const belongs = belonging(row, key !== null, reading, shape, read, out)
		if (belongs.to === 'above') own.push(row)
		else if (belongs.to === 'none') {
			if (belongs.above === 'is lost') close()
		} else if (belongs.key === key) own.push(row)
		else {
			close()
			if (done.has(belongs.key)) throw new Scattered()
			key = belongs.key
			own = [row]
		}
	}
	close()
}

/** Gives the rows of each order wherever they stand, the orders by their first row: gone through once for their numbers, then one by one. */
export function ordersGathered({ rows, reading, shape, read, out }: Parts, onOrder: (rows: SheetRow[]) => void): void {
	const orders = new Map<string, number>()
	const first: number[] = []
	const last: number[] = []
	// The row that follows each of the same order.
	const next = new Int32Array(rows.last + 1)
	let above: number | null = null
	for (const row of rows.each()) {
		const belongs = belonging(row, above !== null, reading, shape, read, out)
		if (belongs.to === 'none') {
			if (belongs.above === 'is lost') above = null
			continue
		}
		const known: number | undefined = belongs.to === 'above' ? (above ?? undefined) : orders.get(belongs.key)
		if (known === undefined) {
			above = first.length
			if (belongs.to === 'order') orders.set(belongs.key, above)
			first.push(row.row)
			last.push(row.row)
		} else {
			next[last[known] ?? 0] = row.row
			last[known] = row.row
			above = known
		}
	}
	const get = rows.anywhere()
	for (const [order, from] of first.entries()) {
		const own: SheetRow[] = []
		for (let row = from; row > 0; row = row === last[order] ? 0 : (next[row] ?? 0)) {
			const found = get(row)
			if (found) own.push(found)
		}
		onOrder(own)
	}
}
