import { z } from 'zod'
import { isDay } from '@/core/calendar'
import type { DocumentContent, DocumentDiscount } from '@/core/document'
import { asDocumentDiscount, isDiscountOn, sameLabel } from '@/core/documentDiscounts'
import { type Books, inOneStep } from '@/store/books'
import { allDiscounts } from '@/store/catalogue'
import { addChange, beforeLatestChange, markUndone } from '@/store/changes'
import { readDocument } from '@/store/documents'
import { type Desk, record } from '@/store/events'
import type { Outcome } from './acts'
import { undoDivide } from './divide'
import { undoMerge } from './merge'
import { redraft, type Unpriced } from './redraft'

const decimal = z
	.string()
	.trim()
	.regex(/^-?\d+(\.\d{1,6})?$/, 'Write a number such as 12.50.')

/** What may be changed on a document: its lines by their place, its discounts, its due date, its recipient; always with a reason. */
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
	/** Names of the discounts that it is to have, '' for the orders' own; left out: as they are. */
	discounts: z.array(z.string()).optional(),
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
		const changed = changedContent(books, before.content, change)
		const words = difference(before.content, changed, before.email, change.email)
		if (words.length === 0) return { ok: false, message: 'Nothing is different from before.' }
		addChange(books, desk, documentId, {
			reason: change.reason,
			words: words.join('; '),
			content: before.content,
			email: before.email,
		})
		redraft(books, desk, before, changed, change.email)
		record(books, desk, {
			subject: 'document',
			id: documentId,
			act: 'changed',
			detail: `${words.join('; ')}: ${change.reason}`,
		})
		return { ok: true }
	})
}

/** A content with a change made to it, its figures to be computed. */
export function changedContent(books: Books, { priced: _, ...content }: DocumentContent, change: Change): Unpriced {
	return {
		...content,
		dueDay: change.dueDay,
		discounts: change.discounts ? discountsNamed(change.discounts, discountChoices(books, content)) : content.discounts,
		lines: content.lines.map((line, index) => {
			const given = change.lines.find((each) => each.line === index)
			if (!given) return line
			const { line: __, ...values } = given
			return { ...line, ...values }
		}),
	}
}

const discountsNamed = (labels: string[], choices: DocumentDiscount[]): DocumentDiscount[] =>
	choices.filter(({ label }) => labels.some((wanted) => sameLabel(wanted, label)))

/** The discounts that a document has, and the firm's others that can be taken on its day and in its currency. */
export function discountChoices(
	books: Books,
	{ discounts, day, currency }: Pick<DocumentContent, 'discounts' | 'day' | 'currency'>,
): DocumentDiscount[] {
	const others = allDiscounts(books).filter(
		(named) => isDiscountOn(named, day, currency) && !discounts.some(({ label }) => sameLabel(label, named.label)),
	)
	return [...discounts, ...others.map(asDocumentDiscount)]
}

/** Takes the latest change of a draft back, whatever it was. */
export function undoChange(books: Books, desk: Desk, documentId: number): Outcome {
	return inOneStep(books, (): Outcome => {
		const now = readDocument(books, documentId)
		const before = beforeLatestChange(books, documentId)
		if (!now || now.number !== null || !before) return { ok: false, message: 'There is no change to take back.' }
		if (before.kind === 'divided') return undoDivide(books, desk, now, before)
		if (before.kind === 'merged') return undoMerge(books, desk, now, before)
		const { priced: _, ...content } = before.content
		markUndone(books, before.id, desk.now())
		redraft(books, desk, now, content, before.email)
		record(books, desk, { subject: 'document', id: documentId, act: 'took the change back', detail: now.customer_name })
		return { ok: true }
	})
}

const names = {
	quantity: 'quantity',
	unitPrice: 'price',
	discountPercent: 'discount',
	description: 'text',
	taxCode: 'tax code',
} as const

const discountWords = (discount: DocumentDiscount): string =>
	`${discount.label || 'the order’s discount'} ${'percent' in discount ? `${discount.percent}%` : discount.amount}`

/** What is different, in words: "line 2: price none → 4.20". */
export function difference(
	before: DocumentContent,
	after: Unpriced,
	emailBefore: string,
	emailAfter: string,
): string[] {
	const lines = after.lines.flatMap((line, index) => {
		const old = before.lines[index]
		const parts = (Object.keys(names) as (keyof typeof names)[]).filter((key) => old && old[key] !== line[key])
		return parts.map((key) => `line ${index + 1}: ${names[key]} ${old?.[key] || 'none'} → ${line[key] ?? 'none'}`)
	})
	const had = before.discounts.map(discountWords)
	const has = after.discounts.map(discountWords)
	const off = had.filter((words) => !has.includes(words)).map((words) => `without ${words}`)
	const on = has.filter((words) => !had.includes(words)).map((words) => `with ${words}`)
	const due = before.dueDay === after.dueDay ? [] : [`due ${before.dueDay} → ${after.dueDay}`]
	const email = emailBefore === emailAfter ? [] : [`email ${emailBefore || 'none'} → ${emailAfter || 'none'}`]
	return [...lines, ...off, ...on, ...due, ...email]
}
