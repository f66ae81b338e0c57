import { z } from 'zod'
import { agreeOn } from '@/core/brought'
import { isDay } from '@/core/calendar'
import { creditable as creditableOf, creditBill } from '@/core/creditBill'
import { plainAmount } from '@/core/currency'
import type { BillContent, DocumentCharge, DocumentDiscount, Unpriced } from '@/core/document'
import { asDocumentDiscount, isDiscountOn, sameLabel } from '@/core/documentDiscounts'
import { no, type Outcome } from '@/core/outcome'
import { billsOrders } from '@/kinds'
import { chargeNameFor } from '@/layout/freightName'
import { type Books, inOneStep } from '@/store/books'
import { allDiscounts } from '@/store/catalogue'
import { addChange } from '@/store/changes'
import { readBill } from '@/store/documents'
import { type Desk, record } from '@/store/events'
import { readOrder } from '@/store/orders'
import { readSettings } from '@/store/settings'
import { addedLineSchema, addLines } from './addLines'
import { askedOf, notesOf } from './creditRest'
import { difference, touched } from './difference'
import { divideDraft } from './divide'
import { type BillRow, lookingAt, openDraft, recheckOtherDrafts, redraft } from './redraft'

const decimal = z
	.string()
	.trim()
	.regex(/^-?\d+(\.\d{1,6})?$/, 'Write a number such as 12.50.')

/** What may be changed on a document: its lines by their place, its discounts and freight, its due date, its recipient; always with a reason. */
export const changeSchema = z.object({
	lines: z.array(
		z.object({
			line: z.number().int().min(0),
			quantity: decimal,
			unitPrice: decimal.nullable(),
			discountPercent: decimal,
			description: z.string().trim().min(1, 'A line needs a description.').max(6000),
			taxCode: z.string().trim().toUpperCase(),
		}),
	),
	/** Names of the discounts that it is to have, '' for the orders' own; left out: as they are. */
	discounts: z.array(z.string()).optional(),
	/** Freight by the place of the charge, as it is typed: "12.50", "4%", empty for none; the place after the last adds one. */
	charges: z
		.array(
			z
				.string()
				.trim()
				.refine((typed) => readCharge(typed) !== null, 'Freight is an amount such as 12.50, or a percent such as 4%.'),
		)
		.optional(),
	/** Lines, by their place, that are taken off: they wait for the next run. */
	off: z.array(z.number().int().min(0)).optional(),
	/** Lines that are added. */
	added: z.array(addedLineSchema).max(200).optional(),
	/** Of a revision, where its customer's name, address or tax treatment changed: whose particulars it has. */
	particulars: z.enum(['as issued', 'as now']).optional(),
	dueDay: z.string().refine(isDay, 'Give a due date.'),
	email: z.string().trim(),
	reason: z.string().trim().min(1, 'Say why it is changed; the reason is kept with the invoice.'),
})
export type Change = z.infer<typeof changeSchema>

/** Freight as it is typed; `'none'` when it is left empty, null when it is neither amount nor percent. */
function readCharge(typed: string): { amount: string } | { percent: string } | 'none' | null {
	const plain = plainAmount(typed.replace('%', ''))
	if (typed.trim() === '') return 'none'
	if (!/^\d+(\.\d{1,4})?$/.test(plain)) return null
	return typed.includes('%') ? { percent: plain } : { amount: plain }
}

/**
 * Changes a draft before it is numbered: computed and checked anew, what it was kept, the reason on record. Lines that are taken off are
 * divided off it, to wait for the next run; lines that are added come as an order of their own. Each is taken back by itself.
 * @throws where lines cannot be added; the step is undone then
 */
export function changeDraft(books: Books, desk: Desk, documentId: number, change: Change): Outcome {
	return inOneStep(books, (): Outcome => {
		const found = openDraft(books, documentId)
		if (!found.ok) return found
		const { off = [], added = [], reason } = change
		const bills = found.draft.credits_id === null && billsOrders(found.draft.content)
		if (!bills && off.length + added.length > 0) return no('Only the lines of an invoice are taken off, or added to.')
		const changed = changeContent(books, desk, found.draft, change)
		if (!changed.ok) return changed
		if (!changed.differs && off.length + added.length === 0) return no('Nothing is different from before.')
		// First what is added, so that lines that are taken off leave something where they stood.
		const now = readBill(books, documentId)
		if (added.length > 0 && now) addLines(books, desk, now, added, reason)
		if (off.length === 0) return { ok: true }
		const divided = divideDraft(books, desk, documentId, { lines: off, to: 'next run', reason })
		if (!divided.ok) throw new Error(divided.message)
		return { ok: true }
	})
}

/** Changes what stands on a draft, where anything is different. */
function changeContent(
	books: Books,
	desk: Desk,
	before: BillRow,
	change: Change,
): { ok: true; differs: boolean } | { ok: false; message: string } {
	const changed =
		before.credits_id === null ? changedBill(books, before.content, change) : changedCredit(books, before, change)
	if (!changed.ok) return changed
	const words = difference(before.content, changed.content, before.email, change.email)
	if (words.length === 0) return { ok: true, differs: false }
	const looking = lookingAt(books, desk, before.run_id)
	const effect = redraft(books, looking, before, changed.content, change.email)
	addChange(books, desk, before.id, {
		kind: 'content',
		reason: change.reason,
		words: words.join('; '),
		touches: touched(before.content, changed.content, before.email, change.email),
		content: before.content,
		email: before.email,
		effect,
	})
	recheckOtherDrafts(books, looking, before)
	record(books, desk, {
		subject: 'document',
		id: before.id,
		act: 'changed',
		detail: `${words.join('; ')}: ${change.reason}`,
	})
	return { ok: true, differs: true }
}

type Changed = { ok: true; content: Unpriced } | { ok: false; message: string }

/** A content with a change made to it, its figures to be computed. */
export function changedBill(books: Books, { priced: _, ...content }: BillContent, change: Change): Changed {
	const charges = change.charges
		? change.charges.flatMap((typed, place): DocumentCharge[] => {
				const read = readCharge(typed)
				if (read === null || read === 'none') return []
				const own = content.charges[place]
				const tax = readSettings(books).freightTaxCode || (content.lines[0]?.taxCode ?? '')
				const { label, order, taxCode } = own ?? { label: '', order: 0, taxCode: tax }
				return [{ label, order, taxCode, ...read }]
			})
		: content.charges
	const discounts = change.discounts
		? discountsNamed(change.discounts, discountChoices(books, content))
		: content.discounts
	const changed = {
		...content,
		dueDay: change.dueDay,
		lines: content.lines.map((line, index) => {
			const given = change.lines.find((each) => each.line === index)
			if (!given) return line
			const { line: __, ...values } = given
			return { ...line, ...values }
		}),
	}
	return { ok: true, content: agreeOn(changed, discounts, charges) }
}

/** A draft credit note changes only within what it credits: how much of each line, and its texts; price, discount and tax are the invoice's. */
function changedCredit(books: Books, { id, credits_id, content }: BillRow, change: Change): Changed {
	const bill = credits_id === null ? null : readBill(books, credits_id)
	if (!bill || !content.refersTo) return no('What it credits is no longer here.')
	const given = new Map(change.lines.map((line) => [line.line, line]))
	const fixed = content.lines.find((line, index) => {
		const own = given.get(index)
		return (
			own &&
			(own.unitPrice !== line.unitPrice ||
				Number(own.discountPercent) !== Number(line.discountPercent) ||
				own.taxCode !== line.taxCode ||
				(line.credits === null && own.quantity !== line.quantity))
		)
	})
	if (fixed || change.discounts !== undefined || change.charges !== undefined)
		return no(
			`Price, discount, tax and freight are those of ${bill.number}, which it credits. Only how much of each line, and its text, can be changed.`,
		)
	const notes = notesOf(books, bill.id, id)
	const left = creditableOf(bill.content, notes)
	const lines = content.lines.flatMap(({ credits, quantity }, index) => {
		if (credits === null) return []
		const typed = given.get(index)?.quantity ?? quantity
		const size = typed.replace('-', '')
		const most = left.lines[credits] ?? '0'
		return [{ line: credits, quantity: most.startsWith('-') ? `-${size}` : size, sign: typed, was: quantity }]
	})
	const turned = lines.find(({ sign, was }) => sign.startsWith('-') !== was.startsWith('-') && Number(sign) !== 0)
	if (turned) return no(`Line ${turned.line + 1}: what is credited keeps its sign; write ${turned.was} or less of it.`)
	const { number, day, reason, refersTo } = content
	const credited = creditBill(
		bill.content,
		notes,
		{ lines, freight: askedOf(content).freight },
		{
			...{ number, day, reason, of: refersTo, chargeName: chargeNameFor(bill.content) },
		},
	)
	if (!credited.ok) return no(credited.refusal.message)
	const texts = new Map(
		content.lines.map((line, index) => [
			`${line.credits} ${line.creditsCharge}`,
			given.get(index)?.description ?? line.description,
		]),
	)
	return {
		ok: true,
		content: {
			...credited.value,
			customer: content.customer,
			issuer: content.issuer,
			dueDay: change.dueDay,
			lines: credited.value.lines.map((line) => ({
				...line,
				description: texts.get(`${line.credits} ${line.creditsCharge}`) ?? line.description,
			})),
		},
	}
}

const discountsNamed = (labels: string[], choices: DocumentDiscount[]): DocumentDiscount[] =>
	choices.filter(({ label }) => labels.some((wanted) => sameLabel(wanted, label)))

/** The discounts that a document has, those that its orders name (also one that ran out), and the firm's others that run on its day. */
export function discountChoices(
	books: Books,
	{ discounts, day, currency, orders }: Pick<BillContent, 'discounts' | 'day' | 'currency' | 'orders'>,
): DocumentDiscount[] {
	const named = orders.flatMap(({ id }) => readOrder(books, id)?.discount_label ?? [])
	const others = allDiscounts(books).filter(
		(discount) =>
			(isDiscountOn(discount, day, currency) ||
				(named.some((label) => sameLabel(label, discount.label)) &&
					(discount.amount === '' || discount.currency === currency))) &&
			!discounts.some(({ label }) => sameLabel(label, discount.label)),
	)
	return [...discounts, ...others.map(asDocumentDiscount)]
}
