import { z } from 'zod'
import { divideBill } from '@/core/divideBill'
import type { Unpriced } from '@/core/document'
import { no, type Outcome } from '@/core/outcome'
import { billsOrders } from '@/kinds'
import { type Books, inOneStep } from '@/store/books'
import { addChange } from '@/store/changes'
import { addDocument } from '@/store/documents'
import { hold } from '@/store/drafts'
import { type Desk, record } from '@/store/events'
import { beginPart, readOrder } from '@/store/orders'
import { priceDraft } from './draft'
import { lookingAt, openDraft, recheckOtherDrafts, redraft, whyNotShared } from './redraft'

export const divideSchema = z.object({
	/** The lines, by their place, that leave the document. */
	lines: z.array(z.number().int().min(0)).min(1, 'Choose the lines that leave this invoice.'),
	/** Where they go: to a document of their own in this run, or, held back, to the next run. */
	to: z.enum(['own', 'next run']),
	reason: z.string().trim().min(1, 'Say why; the reason is kept with both.'),
})
type Divide = z.infer<typeof divideSchema>

/**
 * Takes lines off a draft and puts them on one of their own. An order of which only a part leaves is divided too: 8801 and
 * 8801/2. Discounts and freight are shared by rule. Left for the next run, the new draft is held back with the reason, and its orders
 * wait again, with their share, when the run is closed.
 */
export function divideDraft(books: Books, desk: Desk, documentId: number, divide: Divide): Outcome {
	return inOneStep(books, (): Outcome => {
		const found = openDraft(books, documentId)
		if (!found.ok) return found
		const { draft: document } = found
		if (!billsOrders(document.content)) return no('Only an invoice is divided. Make the paper again from its record.')
		if (document.credits_id !== null) return no('A credit note is not divided; change how much it credits.')
		const { content } = document
		const takenOff = new Set(divide.lines.filter((line) => line < content.lines.length))
		if (takenOff.size === 0 || takenOff.size === content.lines.length)
			return no('Some lines must leave and some must stay. To leave all of it, hold the invoice back.')
		const hindered = whyNotShared(document)
		if (hindered) return no(hindered)
		const { stays, leaves, split } = divideBill(content, takenOff)
		const going = withParts(books, leaves, split)
		const looking = lookingAt(books, desk, document.run_id)
		const priced = priceDraft(going, looking.rates)
		const { run_id, position, customer_id, customer_name, email } = document
		const id = addDocument(books, {
			...{ run_id, position, customer_id, customer_name, email },
			order_numbers: '',
			net: 0n,
			tax: 0n,
			total: 0n,
			level: 'clear',
			content: priced.content,
		})
		const next = divide.to === 'next run'
		const where = next ? 'left for the next run' : 'put on an invoice of their own'
		const count = `${takenOff.size} of ${content.lines.length} lines`
		const { reason } = divide
		const part = { id, run_id, customer_id, credits_id: null, net: 0 }
		const effect =
			redraft(books, looking, document, stays, email, [id]) + redraft(books, looking, part, going, email, [])
		addChange(books, desk, documentId, {
			...{ kind: 'divided', otherId: id, reason, content, email, effect },
			words: `${count} ${where}`,
		})
		if (next) hold(books, desk, id, `left for the next run: ${reason}`)
		else if (document.held_reason) hold(books, desk, id, document.held_reason)
		recheckOtherDrafts(books, looking, document)
		recheckOtherDrafts(books, looking, part)
		const detail = `${customer_name}: ${count} ${where}: ${reason}`
		for (const one of [documentId, id]) record(books, desk, { subject: 'document', id: one, act: 'divided', detail })
		return { ok: true, id }
	})
}

/** A part's content with an order of its own for each of which only a part leaves. */
function withParts(books: Books, leaves: Unpriced, split: number[]): Unpriced {
	return {
		...leaves,
		orders: leaves.orders.map((order, place) => {
			const whole = split.includes(place) ? readOrder(books, order.id) : null
			return whole ? { ...order, ...beginPart(books, whole) } : order
		}),
	}
}
