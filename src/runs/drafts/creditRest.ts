import { creditBill } from '@/core/creditBill'
import { type BillContent, billSchema } from '@/core/document'
import { chargeNameFor } from '@/layout/freightName'
import type { Books } from '@/store/books'
import { readBill } from '@/store/documents'
import { creditsOf } from '@/store/issued'

/** The credit notes of a bill, drafts among them, but for one. */
export const notesOf = (books: Books, billId: number, butFor = 0): BillContent[] =>
	creditsOf(books, billId)
		.filter(({ id }) => id !== butFor)
		.map(({ content }) => billSchema.parse(JSON.parse(content)))

/** Of each line of a credit note that credits one: how much, as it is asked for. */
export const askedOf = (content: BillContent) => ({
	lines: content.lines.flatMap(({ credits, quantity }) =>
		credits === null
			? []
			: [{ line: credits, quantity: quantity.startsWith('-') ? quantity.slice(1) : `-${quantity}` }],
	),
	freight: content.lines.some(({ creditsCharge }) => creditsCharge !== null),
})

/** Whether a draft credit note no longer takes what is left, since another of the same invoice was added, changed or made void. */
export function restChanged(
	books: Books,
	document: { id: number; credits_id: number | null },
	content: BillContent,
): boolean {
	if (document.credits_id === null || content.refersTo === null) return false
	const bill = readBill(books, document.credits_id)
	if (!bill) return true
	const { number, day, reason, refersTo } = content
	const again = creditBill(bill.content, notesOf(books, document.credits_id, document.id), askedOf(content), {
		...{ number, day, reason, of: refersTo, chargeName: chargeNameFor(bill.content) },
	})
	return !again.ok || JSON.stringify(again.value.rest) !== JSON.stringify(content.rest)
}
