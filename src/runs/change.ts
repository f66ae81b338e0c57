import { z } from 'zod'
import { isDay } from '@/core/calendar'
import { type DocumentContent, orderNets } from '@/core/document'
import { type Books, inOneStep } from '@/store/books'
import { taxCodesOn } from '@/store/catalogue'
import { addChange, beforeLatestChange, markUndone, replaceDraft } from '@/store/changes'
import { readCustomer } from '@/store/customers'
import { addFindings, readDocument } from '@/store/documents'
import { type Desk, record } from '@/store/events'
import { ordersOfRun, putOnDocument } from '@/store/orders'
import { workDate } from '@/store/settings'
import type { Outcome } from './acts'
import { checkDraft, priceDraft, usedTaxCodes } from './draft'
import { readFacts } from './facts'

const decimal = z
	.string()
	.trim()
	.regex(/^-?\d+(\.\d{1,6})?$/, 'Write a number such as 12.50.')

/** What may be changed on a draft: its lines by their place, its due date, its recipient; always with a reason. */
export const changeSchema = z.object({
	lines: z.array(
		z.object({
			line: z.number().int().min(0),
			quantity: decimal,
			unitPrice: decimal.nullable(),
			discountPercent: decimal,
			description: z.string().trim().min(1, 'A line needs a description.'),
			taxCode: z.string().trim().toUpperCase(),
		}),
	),
	dueDay: z.string().refine(isDay, 'Give a due date.'),
	email: z.string().trim(),
	reason: z.string().trim().min(1, 'Say why it is changed; the reason is kept with the invoice.'),
})
export type Change = z.infer<typeof changeSchema>

/** Changes a draft before it is numbered: computed and checked anew, what it was kept, the reason on record. */
export function changeDraft(books: Books, desk: Desk, documentId: number, change: Change): Outcome {
	return inOneStep(books, (): Outcome => {
		const before = readDocument(books, documentId)
		if (!before || before.number !== null)
			return { ok: false, message: 'Only a draft can be changed; this invoice is numbered.' }
		const { priced: _, ...content } = before.content
		const changed: Omit<DocumentContent, 'priced'> = {
			...content,
			dueDay: change.dueDay,
			lines: content.lines.map((line, index) => {
				const given = change.lines.find((each) => each.line === index)
				if (!given) return line
				const { line: __, ...values } = given
				return { ...line, ...values }
			}),
		}
		const words = difference(before.content, changed, before.email, change.email)
		if (words.length === 0) return { ok: false, message: 'Nothing is different from before.' }
		addChange(books, desk, documentId, {
			reason: change.reason,
			words: words.join('; '),
			content: before.content,
			email: before.email,
		})
		redraft(books, desk, before.run_id, before.customer_id, documentId, changed, change.email)
		record(books, desk, {
			subject: 'document',
			id: documentId,
			act: 'changed',
			detail: `${words.join('; ')}: ${change.reason}`,
		})
		return { ok: true }
	})
}

/** Takes the latest change of a draft back. */
export function undoChange(books: Books, desk: Desk, documentId: number): Outcome {
	return inOneStep(books, (): Outcome => {
		const now = readDocument(books, documentId)
		const before = beforeLatestChange(books, documentId)
		if (!now || now.number !== null || !before) return { ok: false, message: 'There is no change to take back.' }
		const { priced: _, ...content } = before.content
		markUndone(books, before.id, desk.now())
		redraft(books, desk, now.run_id, now.customer_id, documentId, content, before.email)
		record(books, desk, { subject: 'document', id: documentId, act: 'took the change back', detail: now.customer_name })
		return { ok: true }
	})
}

function redraft(
	books: Books,
	desk: Desk,
	runId: number,
	customerId: number,
	documentId: number,
	content: Omit<DocumentContent, 'priced'>,
	email: string,
): void {
	const customer = readCustomer(books, customerId)
	if (!customer) throw new Error(`Document ${documentId} has no customer.`)
	const taxCodes = usedTaxCodes([...content.lines, ...content.charges], taxCodesOn(books, content.day))
	const draft = priceDraft({ ...content, taxCodes })
	const orders = ordersOfRun(books, runId)
	const own = orders.filter(({ document_id }) => document_id === documentId)
	const factsOf = readFacts(books, orders, workDate(books, desk.now().slice(0, 10)))
	const findings = checkDraft(draft, factsOf(customer, draft.content, own, email))
	replaceDraft(books, documentId, {
		content: draft.content,
		email,
		net: draft.net,
		tax: draft.tax,
		total: draft.total,
		level: findings[0]?.level ?? 'clear',
	})
	addFindings(books, documentId, findings)
	const nets = orderNets(draft.content)
	draft.content.orders.forEach(({ id }, place) => {
		putOnDocument(books, id, documentId, nets[place] ?? 0n)
	})
}

const names = {
	quantity: 'quantity',
	unitPrice: 'price',
	discountPercent: 'discount',
	description: 'text',
	taxCode: 'tax code',
} as const

/** What is different, in words: "line 2: price none → 4.20". */
function difference(
	before: DocumentContent,
	after: Omit<DocumentContent, 'priced'>,
	emailBefore: string,
	emailAfter: string,
): string[] {
	const lines = after.lines.flatMap((line, index) => {
		const old = before.lines[index]
		const parts = (Object.keys(names) as (keyof typeof names)[]).filter((key) => old && old[key] !== line[key])
		return parts.map((key) => `line ${index + 1}: ${names[key]} ${old?.[key] || 'none'} → ${line[key] ?? 'none'}`)
	})
	const due = before.dueDay === after.dueDay ? [] : [`due ${before.dueDay} → ${after.dueDay}`]
	const email = emailBefore === emailAfter ? [] : [`email ${emailBefore || 'none'} → ${emailAfter || 'none'}`]
	return [...lines, ...due, ...email]
}
