import { type BillContent, orderNets } from '@/core/document'
import { ownText, readOwn } from '@/core/ownFields'
import { textLines } from '@/core/textLines'
import { type AnyContent, billsOrders } from '@/kinds'
import type { Books } from '@/store/books'
import { changesBehind } from '@/store/changes'
import { type Listed, type SourceLine, sourceLine, sourceLinesOn, sourceOrder } from '@/store/watch'

/** Of a line of a document, what stays as it was ordered whatever a person changes; by the names that documents and orders have. */
const fixed = [
	['item', 'item_code'],
	['unit', 'unit'],
	['pricePer', 'price_per'],
	['discountAmount', 'discount_amount'],
] as const
/** What a person may change of it, each by an act that is kept. */
const changeable = [
	['description', 'description'],
	['quantity', 'quantity'],
	['unitPrice', 'unit_price'],
	['discountPercent', 'discount_percent'],
	['taxCode', 'tax_code'],
] as const

type Agreed = Pick<SourceLine, (typeof changeable)[number][1]>

/**
 * What of an issued invoice is otherwise than its orders, line by line: what stays as ordered, and what nobody changed. Where it stands, its
 * orders and lines stand on it; where it was never changed, it comes to what was gathered.
 */
export function sourceFaults(books: Books, row: Listed, content: AnyContent): string[] {
	if (!billsOrders(content) || row.credits_id !== null) return []
	const changes = row.touched === 1 ? changesBehind(books, row.id) : []
	const touched = changes.some(({ touches }) => touches.split(',').includes('lines'))
	const standing = row.place !== 'void' && row.place !== 'replaced'
	const onIt = sourceLinesOn(books, row.id)
	const wrong: string[] = []
	content.lines.forEach((line, place) => {
		// Documents from before lines had ids name their rows alone.
		if (line.line === 0) return
		const what = `line ${place + 1} of ${row.number}`
		const source = onIt.get(line.line) ?? sourceLine(books, line.line)
		if (!source) {
			wrong.push(`${what} is of a line that is not there`)
			return
		}
		for (const [key, column] of fixed)
			if ((line[key] ?? '') !== source[column])
				wrong.push(`${what}: ${key} is ${line[key]}, and ${source[column]} in its order`)
		if (line.sourceRow !== source.source_row)
			wrong.push(`${what} is of row ${source.source_row} of its file, and says ${line.sourceRow}`)
		if (line.own !== undefined || source.own !== '{}')
			if (ownText(line.own ?? {}) !== ownText(readOwn(source.own)))
				wrong.push(`${what}: the firm’s own fields are not those of its order`)
		if (!touched) {
			const expected: Agreed = source.agreed === null ? source : JSON.parse(source.agreed)
			for (const [key, column] of changeable)
				if (line[key] !== source[column] && line[key] !== expected[column])
					wrong.push(`${what}: ${key} is ${line[key]}, and ${expected[column]} in its order; nobody changed it`)
		}
		if (!standing) return
		if (source.document_id !== row.id) wrong.push(`${what} stands on another document`)
		if (source.order_id !== content.orders[line.order]?.id) wrong.push(`${what} is of another order by now`)
	})
	if (!standing) return wrong
	const unchanged = changes.length === 0 && content.orders.every(({ brings }) => brings)
	const nets = unchanged ? orderNets(content) : []
	content.orders.forEach((order, place) => {
		wrong.push(...orderFaults(books, row, order, nets[place] ?? null))
	})
	return wrong
}

/**
 * An order beside the invoice that bills it.
 * @param net what the invoice has of it, minor units, where nobody changed it; null where somebody did
 */
function orderFaults(
	books: Books,
	row: Listed,
	{ id, number, day, purchaseOrder, delivery = [], own = {}, sourceFile }: BillContent['orders'][number],
	net: bigint | null,
): string[] {
	const order = sourceOrder(books, id)
	if (!order) return [`${row.number} bills order ${number}, which is not there`]
	const facts: [what: string, is: unknown, said: unknown][] = [
		['number', order.number, number],
		['day', order.day, day],
		['purchase order', order.purchase_order, purchaseOrder],
		['customer', order.customer_id, row.customer_id],
		['place of delivery', textLines(order.delivery).join('\n'), delivery.join('\n')],
		['values in the firm’s own fields', ownText(readOwn(order.own)), ownText(own)],
		['file', order.source_file, sourceFile],
		['currency', order.currency, row.currency],
		['document', order.document_id, row.id],
		['run', order.run_id, row.run_id],
		['being billed', order.billed, 1],
		['being away', order.away_how, null],
	]
	const wrong = facts.flatMap(([what, is, said]) =>
		is === said ? [] : [`order ${number}: ${what} is ${is}, and ${said} on ${row.number}`],
	)
	const { gathered_net, gathered_currency } = order
	if (net !== null && (gathered_net === null || BigInt(gathered_net) !== net || gathered_currency !== row.currency))
		wrong.push(
			`order ${number} was gathered at ${gathered_net === null ? 'no net' : `${gathered_net} ${gathered_currency}`}, and ${row.number} has ${net} ${row.currency} of it, which nobody changed`,
		)
	return wrong
}
