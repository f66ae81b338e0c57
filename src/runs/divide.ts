import { z } from 'zod'
import type { DocumentCharge, DocumentContent } from '@/core/document'
import { type Books, inOneStep } from '@/store/books'
import { addChange, beforeLatestChange, changesOf, type Kept, markUndone } from '@/store/changes'
import { addDocument, type DocumentRow, hold, readDocument } from '@/store/documents'
import { type Desk, record } from '@/store/events'
import { divideOrder, joinOrders, ordersOfRun } from '@/store/orders'
import { readRun } from '@/store/runs'
import type { Outcome } from './acts'
import { freightLabel, priceDraft } from './draft'
import { recheckBeside, redraft, type Unpriced } from './redraft'

const no = (message: string): Outcome => ({ ok: false, message })

export const divideSchema = z.object({
	/** The lines, by their place, that leave the document. */
	lines: z.array(z.number().int().min(0)).min(1, 'Choose the lines that leave this invoice.'),
	/** Where they go: to a document of their own in this run, or, held back, to the next run. */
	to: z.enum(['own', 'next run']),
	reason: z.string().trim().min(1, 'Say why; the reason is kept with both.'),
})
export type Divide = z.infer<typeof divideSchema>
/** What a division keeps with each of the two documents, so that it can be undone from either. */
const keptSchema = z.object({ from: z.number(), to: z.number() })

/**
 * Takes lines off a draft and puts them on one of their own. An order of which only a part leaves is divided too: 8801 and
 * 8801/2. Left for the next run, the new draft is held back with the reason, and its orders wait again when the run is closed.
 */
export function divideDraft(books: Books, desk: Desk, documentId: number, divide: Divide): Outcome {
	return inOneStep(books, (): Outcome => {
		const document = readDocument(books, documentId)
		if (!document || document.number !== null || document.kind !== 'invoice')
			return no('Only a draft invoice can be divided; this one is numbered.')
		if (readRun(books, document.run_id)?.state !== 'open') return no('This run is not open.')
		const { content } = document
		const leaving = new Set(divide.lines.filter((line) => line < content.lines.length))
		if (leaving.size === 0 || leaving.size === content.lines.length)
			return no('Some lines must leave and some must stay. To leave all of it, hold the invoice back.')
		const { stays, leaves } = partContents(books, document, leaving)
		const priced = priceDraft(leaves)
		const id = addDocument(books, {
			run_id: document.run_id,
			position: document.position,
			customer_id: document.customer_id,
			customer_name: document.customer_name,
			email: document.email,
			order_numbers: '',
			net: priced.net,
			tax: priced.tax,
			total: priced.total,
			level: 'clear',
			content: priced.content,
		})
		const next = divide.to === 'next run'
		const where = next ? 'left for the next run' : 'put on an invoice of their own'
		const count = `${leaving.size} of ${content.lines.length} lines`
		const kept = JSON.stringify({ from: documentId, to: id })
		const { reason } = divide
		const change = { kind: 'divided', kept, reason, content, email: document.email } as const
		addChange(books, desk, documentId, { ...change, words: `${count} ${where}` })
		addChange(books, desk, id, { ...change, words: `${count} of ${document.order_numbers}, ${where}` })
		redraft(books, desk, document, stays, document.email)
		redraft(books, desk, { ...document, id }, leaves, document.email)
		if (next) {
			hold(books, desk, id, `left for the next run: ${reason}`)
			recheckBeside(books, desk, { ...document, id })
		}
		const detail = `${document.customer_name}: ${count} ${where}: ${reason}`
		for (const one of [documentId, id]) record(books, desk, { subject: 'document', id: one, act: 'divided', detail })
		return { ok: true, id }
	})
}

/** The contents of the two parts; orders of which only some lines leave are divided in the books on the way. */
function partContents(
	books: Books,
	document: DocumentRow & { content: DocumentContent },
	leaving: Set<number>,
): { stays: Unpriced; leaves: Unpriced } {
	const { priced: _, ...content } = document.content
	const rows = new Map(ordersOfRun(books, document.run_id).map((order) => [order.id, order]))
	const sides = { stays: new Map<number, number>(), leaves: new Map<number, number>() }
	const orders: { stays: Unpriced['orders']; leaves: Unpriced['orders'] } = { stays: [], leaves: [] }
	content.orders.forEach((order, place) => {
		const own = content.lines.map((line, index) => ({ line, index })).filter(({ line }) => line.order === place)
		const parting = own.filter(({ index }) => leaving.has(index))
		if (parting.length < own.length) {
			sides.stays.set(place, orders.stays.length)
			orders.stays.push(order)
		}
		if (parting.length === 0) return
		sides.leaves.set(place, orders.leaves.length)
		const row = rows.get(order.id)
		if (parting.length === own.length || !row) orders.leaves.push(order)
		else {
			const part = divideOrder(
				books,
				row,
				parting.map(({ line }) => line.sourceRow),
			)
			orders.leaves.push({ ...order, ...part })
		}
	})
	const side = (name: 'stays' | 'leaves'): Unpriced => ({
		...content,
		orders: orders[name],
		lines: content.lines.flatMap((line, index) =>
			leaving.has(index) === (name === 'leaves') ? [{ ...line, order: sides[name].get(line.order) ?? 0 }] : [],
		),
		// A percent is taken on both; an amount stays with the first part.
		discounts: content.discounts.filter((discount) => name === 'stays' || 'percent' in discount),
		charges: content.charges.flatMap((charge): DocumentCharge[] => {
			if ('percent' in charge) return [{ ...charge, order: 0 }]
			const stays = sides.stays.has(charge.order)
			const order = sides[name].get(charge.order)
			if (order === undefined || stays !== (name === 'stays')) return []
			const label = freightLabel(orders[name].length > 1 ? (orders[name][order]?.number ?? '') : '')
			return [{ ...charge, label, order }]
		}),
	})
	return { stays: side('stays'), leaves: side('leaves') }
}

/** Puts a divided document together again, from either of its parts, while neither was changed since. */
export function undoDivide(books: Books, desk: Desk, asked: DocumentRow, before: Kept): Outcome {
	const { from, to } = keptSchema.parse(JSON.parse(before.kept))
	const [first, second] = [readDocument(books, from), readDocument(books, to)]
	const own = beforeLatestChange(books, from)
	const standing = changesOf(books, to).filter(({ undone_at }) => undone_at === null)
	if (!first || !second || first.number !== null || second.number !== null)
		return no('A part of it is numbered already, or no longer here; it can no longer be put together.')
	if (own?.kept !== before.kept || standing.length > 1)
		return no('It, or its other part, was changed since. Take that back first.')
	const { priced: _, ...content } = own.content
	markUndone(books, own.id, desk.now())
	const whole = new Set(content.orders.map(({ id }) => id))
	const parents = new Map(ordersOfRun(books, first.run_id).map(({ id, part_of }) => [id, part_of]))
	for (const { id } of second.content.orders) {
		const parent = [...whole].find((one) => one === parents.get(id)) ?? partBeside(content, parents, id)
		if (!whole.has(id) && parent !== undefined) joinOrders(books, id, parent)
	}
	redraft(books, desk, { ...first, takesIn: to }, content, own.email)
	record(books, desk, {
		subject: 'document',
		id: from,
		act: 'put together again',
		detail: asked.customer_name,
	})
	return { ok: true }
}

/** An order of the content that was divided from the same first order. */
const partBeside = (content: Unpriced, parents: Map<number, number | null>, id: number): number | undefined =>
	content.orders.find((order) => parents.get(order.id) != null && parents.get(order.id) === parents.get(id))?.id
