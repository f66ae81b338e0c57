import { z } from 'zod'
import { type Creditable, creditable as creditableOf, creditBill } from '@/core/creditBill'
import type { BillContent } from '@/core/document'
import { no, type Outcome } from '@/core/outcome'
import { chargeNameFor } from '@/layout/freightName'
import { notesOf } from '@/runs/drafts/creditRest'
import { lookingAt, recompute } from '@/runs/drafts/redraft'
import { type Books, inOneStep } from '@/store/books'
import { readCustomer } from '@/store/customers'
import { addDocument, addFindings, readBill } from '@/store/documents'
import { type Desk, latestEventId, record } from '@/store/events'
import { addRun, noteChecked } from '@/store/runs'
import { workDate } from '@/store/settings'

/** Which lines of an invoice are credited, by their place, and how much of each; `freight` credits its charges too. */
export const creditSchema = z.object({
	lines: z.array(
		z.object({
			line: z.number().int().min(0),
			quantity: z
				.string()
				.trim()
				.regex(/^-?\d+(\.\d{1,6})?$/, 'Write a quantity such as 2.5.'),
		}),
	),
	freight: z.boolean(),
	reason: z.string().trim().min(1, 'Say why it is credited; the credit note carries the reason.').max(300),
})
type Credit = z.infer<typeof creditSchema>

/**
 * Starts a credit note for an issued bill: a run of one draft that refers to it. No line can be credited beyond what was billed, credit
 * notes before counted in; the last one takes what is left to the smallest unit. What credits a return is an invoice.
 */
export function startCredit(books: Books, desk: Desk, billId: number, credit: Credit): Outcome {
	return inOneStep(books, (): Outcome => {
		const bill = readBill(books, billId)
		if (!bill?.number || bill.credits_id !== null) return no('Only an issued invoice or return can be credited.')
		if (bill.void_at) return no('It is void; there is nothing to credit.')
		if (bill.replaced_at) return no('A revision stands in for this invoice; credit that one.')
		const today = workDate(books, desk.now().slice(0, 10))
		// A credit note is not dated before what it credits.
		const day = [today, bill.day].sort().at(-1) ?? today
		const credited = creditBill(bill.content, notesOf(books, billId), credit, {
			number: '',
			day,
			reason: credit.reason,
			of: { number: bill.number, day: bill.day },
			chargeName: chargeNameFor(bill.content),
		})
		if (!credited.ok) return no(credited.refusal.message)
		const runId = addRun(books, desk, day, day, 'credit-note', 'customer', 'open')
		const email = readCustomer(books, bill.customer_id)?.email ?? bill.email
		const asDraft = { id: 0, run_id: runId, customer_id: bill.customer_id, credits_id: billId }
		const { draft, findings } = recompute(books, lookingAt(books, desk, runId), asDraft, credited.value, email)
		const id = addDocument(books, {
			run_id: runId,
			position: 1,
			customer_id: bill.customer_id,
			customer_name: bill.customer_name,
			email,
			order_numbers: bill.order_numbers,
			net: draft.net,
			tax: draft.tax,
			total: draft.total,
			level: findings[0]?.level ?? 'clear',
			content: draft.content,
			credits_id: billId,
		})
		addFindings(books, id, findings)
		const act = 'started a credit note'
		record(books, desk, { subject: 'run', id: runId, act, detail: `for ${bill.number}: ${credit.reason}` })
		record(books, desk, { subject: 'document', id: billId, act, detail: credit.reason })
		noteChecked(books, runId, latestEventId(books))
		return { ok: true, id: runId }
	})
}

/** What of each line, and whether the freight, can still be credited. */
export const creditable = (books: Books, billId: number, bill: BillContent): Creditable =>
	creditableOf(bill, notesOf(books, billId))
