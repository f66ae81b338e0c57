import { randomUUID } from 'node:crypto'
import { z } from 'zod'
import { type Day, dayText } from '@/core/calendar'
import { type BillContent, orderNets } from '@/core/document'
import { blankLine } from '@/intake/orderForm'
import type { Books } from '@/store/books'
import { readCompany } from '@/store/company'
import { readCustomer } from '@/store/customers'
import { addDocument, addFindings, readBill } from '@/store/documents'
import { type Desk, record } from '@/store/events'
import {
	linesOf,
	moveLine,
	noteGathered,
	putOnDocument,
	readOrder,
	setShared,
	standOn,
	takeOrder,
} from '@/store/orders'
import { readRun } from '@/store/runs'
import { makeDraft } from './draft'
import { mergeDrafts } from './merge'
import { lookAtForm, writeOrder } from './orderForm'
import { type Rates, readRates } from './rates'
import { type BillRow, lookingAt, recompute } from './redraft'
import { datesDecide } from './taxPoint'

/** A line that a person adds to a draft, as it is typed. */
export const addedLineSchema = z.object({
	item: z.string().trim().max(200),
	description: z.string().trim().max(6000),
	quantity: z.string().trim().min(1, 'A line that is added needs a quantity.').max(40),
	unitPrice: z.string().trim().max(40),
	taxCode: z.string().trim().toUpperCase().max(40),
})
type AddedLine = z.infer<typeof addedLineSchema>

/**
 * Adds lines to a draft: every line stands on an order, so they become one, written for this customer and taken into this run, whose draft
 * is put on this one at once. The tally counts the order as gathered; taking it back leaves it a draft of its own.
 * @throws where the lines cannot be read, or cannot stand on this invoice; the step is undone then
 */
export function addLines(books: Books, desk: Desk, draft: BillRow, lines: readonly AddedLine[], reason: string): void {
	const company = readCompany(books)
	const customer = readCustomer(books, draft.customer_id)
	const run = readRun(books, draft.run_id)
	if (!company || !customer || !run) throw new Error('The draft’s run or customer is gone.')
	const { content } = draft
	const last = content.orders.at(-1)
	const form = {
		...{ key: randomUUID(), number: '', customer: customer.number, currency: content.currency },
		...{ day: dayOf(last?.day ?? content.day), purchaseOrder: last?.purchaseOrder ?? '' },
		...{ discount: '', discountName: '', freight: '0', note: '', delivery: '', own: {} },
		lines: lines.map((line) => ({ ...blankLine, ...line })),
	}
	const seen = lookAtForm(books, form, run.document_day)
	const day = dayFor(content, seen.lines, readRates(books))
	const written = writeOrder(books, desk, { ...form, day: dayOf(day) }, run.document_day)
	if (!written.ok) {
		const troubles = written.seen?.troubles.map(({ words, line }) =>
			line === null ? words : `Added line ${line + 1}: ${words}`,
		)
		throw new Error(troubles?.join(' ') || written.message)
	}
	// Its percents are those of the invoice, on which all are taken; an amount off, or of freight, is that of the orders that have it.
	const inPercent = <Share extends object>(share: Share) => 'percent' in share
	setShared(books, written.id, {
		discounts: content.discounts.filter(inPercent),
		charges: content.charges.filter(inPercent).map(({ order: _, ...share }) => share),
		as: 'agreed',
	})
	const other = draftOf(books, desk, draft, written.id)
	const merged = mergeDrafts(books, desk, draft.id, { other, reason })
	if (!merged.ok)
		throw new Error(
			`The added lines cannot stand on this invoice, so write them as an order of their own, under Write an order. ${merged.message}`,
		)
	record(books, desk, {
		subject: 'document',
		id: draft.id,
		act: 'added lines',
		detail: `${lines.length} as order ${written.number}: ${reason}`,
	})
}

/** The day of an order of the invoice on which the added lines are taxed as the invoice is: the last such, else the last. */
function dayFor({ priced: _, ...content }: BillContent, lines: { taxCode: string }[], rates: Rates): Day {
	const [like] = content.lines
	const days = [...new Set(content.orders.map(({ day }) => day))].reverse()
	const fits = days.find((day) => {
		const [order] = content.orders
		if (!like || !order) return true
		const added = lines.map(({ taxCode }) => ({ ...like, taxCode, order: content.orders.length }))
		const whole = { ...content, orders: [...content.orders, { ...order, day }], lines: [...content.lines, ...added] }
		return datesDecide(whole, rates).clash === null
	})
	return fits ?? days[0] ?? content.day
}

/** Days in the order form begin with the day. */
const dayOf = (day: string): string => {
	const [year = '', month = '', date = ''] = day.split('-')
	return year.length === 4 ? `${date}/${month}/${year}` : dayText(day)
}

/** Takes an order into the run of a draft, and makes its own draft there. */
function draftOf(books: Books, desk: Desk, beside: BillRow, orderId: number): number {
	const looking = lookingAt(books, desk, beside.run_id)
	const company = readCompany(books)
	const customer = readCustomer(books, beside.customer_id)
	const run = readRun(books, beside.run_id)
	takeOrder(books, beside.run_id, orderId)
	const order = readOrder(books, orderId)
	if (!company || !customer || !run || !order) throw new Error('What was written is gone.')
	const lines = new Map([[orderId, linesOf(books, orderId)]])
	const made = makeDraft({ day: run.document_day, company, customer, orders: [order], lines, rates: looking.rates })
	const { run_id, position, customer_id, customer_name, email } = beside
	const id = addDocument(books, {
		...{ run_id, position, customer_id, customer_name, email, order_numbers: order.number },
		...{ net: made.net, tax: made.tax, total: made.total, level: 'clear', content: made.content },
	})
	const of = { id, run_id, customer_id, credits_id: null }
	const { priced: _, ...unpriced } = made.content
	addFindings(books, id, recompute(books, looking, of, unpriced, email).findings)
	putOnDocument(books, orderId, id)
	noteGathered(books, run_id, orderId, order.currency, orderNets(made.content)[0] ?? 0n)
	for (const { id: line } of lines.get(orderId) ?? []) moveLine(books, line, orderId, id)
	standOn(books, id, made.content.lines.length)
	if (!readBill(books, id)) throw new Error('Its draft is gone.')
	return id
}
