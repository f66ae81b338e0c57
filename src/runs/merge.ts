import { z } from 'zod'
import { type DocumentContent, documentSchema } from '@/core/document'
import { type Books, inOneStep } from '@/store/books'
import { addChange, changesOf, type Kept, markUndone } from '@/store/changes'
import { addDocument, type DocumentRow, draftsBeside, hold, readDocument } from '@/store/documents'
import { type Desk, record } from '@/store/events'
import { readRun } from '@/store/runs'
import type { Outcome } from './acts'
import { freightLabel } from './draft'
import { redraft, type Unpriced } from './redraft'

const no = (message: string): Outcome => ({ ok: false, message })

export const mergeSchema = z.object({
	/** The draft whose orders come over. */
	other: z.number().int().positive(),
	reason: z.string().trim().min(1, 'Say why; the reason is kept with the invoice.'),
})
export type Merge = z.infer<typeof mergeSchema>
const keptSchema = z.object({
	email: z.string(),
	position: z.number(),
	held: z.string(),
	content: z.unknown(),
})

/** Puts another draft of the same run, customer and currency on this one; both must carry the same discounts. */
export function mergeDrafts(books: Books, desk: Desk, documentId: number, { other, reason }: Merge): Outcome {
	return inOneStep(books, (): Outcome => {
		const [into, from] = [readDocument(books, documentId), readDocument(books, other)]
		if (!into || !from || into.number !== null) return no('Only drafts can be put together; one of them is numbered.')
		if (!draftsBeside(books, documentId).some(({ id }) => id === other))
			return no('Only drafts of the same run, customer and currency can be put together.')
		if (readRun(books, into.run_id)?.state !== 'open') return no('This run is not open.')
		if (sharesOf(into.content) !== sharesOf(from.content))
			return no('They carry different discounts, or another percent of freight. Make these agree with Change first.')
		const before = changesOf(books, other).filter(({ undone_at }) => undone_at === null)
		const earlier = before.length > 0 ? ` (before that: ${before.map(({ words }) => words).join('; ')})` : ''
		const words = `put together with ${from.order_numbers}${earlier}`
		addChange(books, desk, documentId, {
			kind: 'merged',
			kept: JSON.stringify({
				email: from.email,
				position: from.position,
				held: from.held_reason ?? '',
				content: from.content,
			}),
			reason,
			words,
			content: into.content,
			email: into.email,
		})
		redraft(books, desk, { ...into, takesIn: other }, together(into.content, from.content), into.email)
		const detail = `${into.customer_name}: ${into.order_numbers} ${words}: ${reason}`
		record(books, desk, { subject: 'document', id: documentId, act: 'put together', detail })
		return { ok: true, id: documentId }
	})
}

/** What must be the same on both: everything that is taken on the whole document. */
const sharesOf = ({ discounts, charges }: DocumentContent): string =>
	JSON.stringify([discounts, charges.flatMap((charge) => ('percent' in charge ? [charge.percent] : []))])

function together({ priced: _, ...into }: DocumentContent, from: DocumentContent): Unpriced {
	const shift = into.orders.length
	const orders = [...into.orders, ...from.orders]
	const charges = [
		...into.charges,
		...from.charges.flatMap((charge) => ('percent' in charge ? [] : [{ ...charge, order: charge.order + shift }])),
	]
	return {
		...into,
		orders,
		lines: [...into.lines, ...from.lines.map((line) => ({ ...line, order: line.order + shift }))],
		charges: charges.map((charge) =>
			'percent' in charge ? charge : { ...charge, label: freightLabel(orders[charge.order]?.number ?? '') },
		),
	}
}

/** Takes two drafts apart again, as they were; the second keeps its reason for being held. */
export function undoMerge(books: Books, desk: Desk, document: DocumentRow, before: Kept): Outcome {
	const kept = keptSchema.parse(JSON.parse(before.kept))
	const content = documentSchema.parse(kept.content)
	const { priced: _, ...first } = before.content
	const { priced: __, ...second } = content
	markUndone(books, before.id, desk.now())
	redraft(books, desk, document, first, before.email)
	const id = addDocument(books, {
		run_id: document.run_id,
		position: kept.position,
		customer_id: document.customer_id,
		customer_name: document.customer_name,
		email: kept.email,
		order_numbers: '',
		net: 0n,
		tax: 0n,
		total: 0n,
		level: 'clear',
		content,
	})
	redraft(books, desk, { ...document, id }, second, kept.email)
	if (kept.held) hold(books, desk, id, kept.held)
	record(books, desk, {
		subject: 'document',
		id: document.id,
		act: 'took apart again',
		detail: document.customer_name,
	})
	return { ok: true }
}
