import { orderNets } from '@/core/document'
import { type AnyContent, billsOrders } from '@/kinds'
import type { Books } from '@/store/books'
import { changesBehind } from '@/store/changes'
import { gatheredNet, type Listed, type SourceLine, sourceLine, sourceOrder } from '@/store/watch'

/** Of a line of a document, what stays as it was ordered whatever a person changes. */
const fixed = ['item', 'unit', 'pricePer', 'discountAmount'] as const
/** What a person may change of it, each by an act that is kept. */
const changeable = ['description', 'quantity', 'unitPrice', 'discountPercent', 'taxCode'] as const

/** A line as it was ordered, by the names that documents have. */
const asOrdered = (line: SourceLine) => ({
	...{ item: line.item_code, unit: line.unit, pricePer: line.price_per, discountAmount: line.discount_amount },
	...{ description: line.description, quantity: line.quantity, unitPrice: line.unit_price },
	...{ discountPercent: line.discount_percent, taxCode: line.tax_code },
})
type Agreed = {
	description: string
	quantity: string
	unit_price: string | null
	discount_percent: string
	tax_code: string
}
const asAgreed = (agreed: Agreed) => ({
	...{ description: agreed.description, quantity: agreed.quantity, unitPrice: agreed.unit_price },
	...{ discountPercent: agreed.discount_percent, taxCode: agreed.tax_code },
})

/**
 * What of an issued invoice is otherwise than its orders, line by line: what stays as ordered, and what nobody changed. Where it stands, its
 * orders and lines stand on it; where it was never changed, it comes to what was gathered.
 */
export function sourceFaults(books: Books, row: Listed, content: AnyContent): string[] {
	if (!billsOrders(content) || row.credits_id !== null) return []
	const changes = row.touched === 1 ? changesBehind(books, row.id) : []
	const touched = changes.some(({ touches }) => touches.split(',').includes('lines'))
	const standing = row.place !== 'void' && row.place !== 'replaced'
	const wrong: string[] = []
	content.lines.forEach((line, place) => {
		// Documents from before lines had ids name their rows alone.
		if (line.line === 0) return
		const what = `line ${place + 1} of ${row.number}`
		const source = sourceLine(books, line.line)
		if (!source) {
			wrong.push(`${what} is of a line that is not there`)
			return
		}
		const ordered = asOrdered(source)
		for (const key of fixed)
			if ((line[key] ?? '') !== ordered[key])
				wrong.push(`${what}: ${key} is ${line[key]}, and ${ordered[key]} in its order`)
		if (line.sourceRow !== source.source_row)
			wrong.push(`${what} is of row ${source.source_row} of its file, and says ${line.sourceRow}`)
		if (!touched) {
			const expected = source.agreed === null ? ordered : asAgreed(JSON.parse(source.agreed))
			for (const key of changeable)
				if (line[key] !== ordered[key] && line[key] !== expected[key])
					wrong.push(`${what}: ${key} is ${line[key]}, and ${expected[key]} in its order; nobody changed it`)
		}
		if (!standing) return
		if (source.document_id !== row.id) wrong.push(`${what} stands on another document`)
		if (source.order_id !== content.orders[line.order]?.id) wrong.push(`${what} is of another order by now`)
	})
	if (standing) for (const order of content.orders) wrong.push(...orderFaults(books, row, order))
	if (changes.length === 0 && standing && content.orders.every(({ brings }) => brings))
		orderNets(content).forEach((net, place) => {
			const order = content.orders[place]
			const gathered = order ? gatheredNet(books, row.run_id, order.id) : null
			if (gathered !== null && BigInt(gathered) !== net)
				wrong.push(
					`order ${order?.number} was gathered at ${gathered}, and ${row.number} has ${net} of it, which nobody changed`,
				)
		})
	return wrong
}

/** An order beside the invoice that bills it. */
function orderFaults(
	books: Books,
	row: Listed,
	{ id, number, day, purchaseOrder }: { id: number; number: string; day: string; purchaseOrder: string },
): string[] {
	const order = sourceOrder(books, id)
	if (!order) return [`${row.number} bills order ${number}, which is not there`]
	const facts: [what: string, is: unknown, said: unknown][] = [
		['number', order.number, number],
		['day', order.day, day],
		['purchase order', order.purchase_order, purchaseOrder],
		['customer', order.customer_id, row.customer_id],
		['currency', order.currency, row.currency],
		['document', order.document_id, row.id],
		['run', order.run_id, row.run_id],
		['being billed', order.billed, 1],
		['being away', order.away_how, null],
	]
	return facts.flatMap(([what, is, said]) =>
		is === said ? [] : [`order ${number}: ${what} is ${is}, and ${said} on ${row.number}`],
	)
}
