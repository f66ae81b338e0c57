import { z } from 'zod'
import { percentsKey } from '@/core/brought'
import { putTogether } from '@/core/divideBill'
import { no, type Outcome } from '@/core/outcome'
import { billsOrders } from '@/kinds'
import { type Books, inOneStep } from '@/store/books'
import { addChange } from '@/store/changes'
import { dropDraft, hold, otherDrafts } from '@/store/drafts'
import { type Desk, record } from '@/store/events'
import { priceDraft } from './draft'
import { lookingAt, openDraft, recheckOtherDrafts, redraft, whyNotShared } from './redraft'
import { datesDecide } from './taxPoint'

export const mergeSchema = z.object({
	/** The draft whose orders come over. */
	other: z.number().int().positive(),
	reason: z.string().trim().min(1, 'Say why; the reason is kept with the invoice.'),
})
type Merge = z.infer<typeof mergeSchema>
/** Why the one that takes in was held before, by whom and since when; empty for not. Who and when were not kept at first. */
export const mergedSchema = z.object({ held: z.string(), by: z.string().default(''), at: z.string().default('') })

/**
 * Puts another draft of the same run, customer and currency on this one. Both must carry the same percents; amounts off and freight add
 * up. If either is held back, both are. The other is put away, and taken out again when this is taken back.
 */
export function mergeDrafts(books: Books, desk: Desk, documentId: number, { other, reason }: Merge): Outcome {
	return inOneStep(books, (): Outcome => {
		const [first, second] = [openDraft(books, documentId), openDraft(books, other)]
		if (!first.ok) return first
		if (!second.ok) return second
		const [into, from] = [first.draft, second.draft]
		if (!billsOrders(into.content) || !billsOrders(from.content)) return no('Only invoices are put together.')
		if (!otherDrafts(books, documentId).some(({ id }) => id === other))
			return no('Only drafts of the same run, customer and currency can be put together.')
		if (percentsKey(into.content) !== percentsKey(from.content))
			return no(
				'They carry other discounts in percent, or another percent of freight. Make these agree with Change first.',
			)
		const hindered = whyNotShared(into) ?? whyNotShared(from)
		if (hindered) return no(hindered)
		const looking = lookingAt(books, desk, into.run_id)
		const together = putTogether(into.content, from.content)
		const { clash } = datesDecide(together, looking.rates)
		if (clash) return no(`They stay two invoices: ${clash.said}`)
		const turned = priceDraft(together, looking.rates).refused.find(({ code }) => code === 'discount-turns')
		if (turned)
			return no(
				`They stay two invoices: what order ${turned.order} has off would count the other way, since one is a bill and together they are a credit, or the other way round.`,
			)
		dropDraft(books, desk, other, `put on ${into.order_numbers}`)
		const held = [into.held_reason, from.held_reason].filter(Boolean)
		const moved = redraft(books, looking, into, together, into.email)
		const words = `put together with ${from.order_numbers}`
		addChange(books, desk, documentId, {
			...{ kind: 'merged', otherId: other, reason, words, content: into.content, email: into.email },
			kept: JSON.stringify({
				held: into.held_reason ?? '',
				by: into.held_by ?? '',
				at: into.held_at ?? '',
			}),
			effect: moved - BigInt(from.net),
		})
		if (held.length > 0) hold(books, desk, documentId, [...new Set(held)].sort().join('; '))
		recheckOtherDrafts(books, looking, into)
		const detail = `${into.customer_name}: ${into.order_numbers} ${words}: ${reason}`
		for (const one of [documentId, other])
			record(books, desk, { subject: 'document', id: one, act: 'put together', detail })
		return { ok: true, id: documentId }
	})
}
