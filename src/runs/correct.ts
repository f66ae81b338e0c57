import { z } from 'zod'
import { emailMissing } from '@/core/checks/emailMissing'
import { amountText, parseAmount } from '@/core/currency'
import { parseDecimal, pow10, roundQuotient } from '@/core/decimal'
import { type DocumentContent, documentSchema, priceInputOf } from '@/core/document'
import { price } from '@/core/price'
import { type Books, inOneStep } from '@/store/books'
import { readCustomer } from '@/store/customers'
import { addDocument, addFindings, creditsOf, markVoid, readAnyDocument, readDocument } from '@/store/documents'
import { type Desk, record } from '@/store/events'
import { type MessageState, messageOfDocument } from '@/store/messages'
import { releaseBilled } from '@/store/orders'
import { addRun } from '@/store/runs'
import { workDate } from '@/store/settings'
import type { Outcome } from './acts'
import { priceDraft } from './draft'
import { leaveLedger } from './ledger'

const no = (message: string): Outcome => ({ ok: false, message })

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
	reason: z.string().trim().min(1, 'Say why it is credited; the reason is kept.'),
})
export type Credit = z.infer<typeof creditSchema>

/**
 * Starts a credit note for an issued invoice: a run of one draft that refers to it, with negative quantities at the invoice's own
 * prices and discounts. No line can be credited beyond what was invoiced, credit notes before counted in.
 */
export function startCredit(books: Books, desk: Desk, invoiceId: number, credit: Credit): Outcome {
	return inOneStep(books, (): Outcome => {
		const invoice = readDocument(books, invoiceId)
		if (!invoice?.number || invoice.kind !== 'invoice') return no('Only an issued invoice can be credited.')
		if (invoice.void_at) return no('This invoice is void; there is nothing to credit.')
		if (invoice.replaced_at) return no('A revision stands in for this invoice; credit that one.')
		const { content } = invoice
		const left = creditable(books, invoiceId, content)
		const wanted = credit.lines.filter(({ quantity }) => !/^-?0*(\.0*)?$/.test(quantity))
		const over = wanted.find(({ line, quantity }) => exceeds(quantity, left.lines[line] ?? '0'))
		if (over)
			return no(
				`Line ${over.line + 1}: ${over.quantity} is more than the ${left.lines[over.line] ?? '0'} that can still be credited.`,
			)
		const charges = credit.freight && left.freight ? content.charges : []
		if (wanted.length + charges.length === 0) return no('Nothing is left to credit on this invoice.')
		const day = workDate(books, desk.now().slice(0, 10))
		const { priced: _, ...base } = content
		const creditedLines = wanted.flatMap(({ line, quantity }) => {
			const own = content.lines[line]
			return own ? [{ ...own, quantity: turned(quantity), credits: line }] : []
		})
		const draft = priceDraft({
			...base,
			kind: 'credit-note',
			revision: 1,
			refersTo: { number: invoice.number, day: invoice.day },
			number: '',
			day,
			dueDay: day,
			discounts: creditedDiscounts(content, creditedLines),
			charges: [],
			lines: [
				...creditedLines,
				...charges.map(({ label, order, taxCode }, index) => ({
					order,
					sourceRow: 0,
					item: '',
					description: label,
					quantity: '-1',
					unit: '',
					unitPrice: content.priced.charges[index] ?? '0',
					pricePer: '1',
					discountPercent: '0',
					taxCode,
					discountable: false,
					credits: null,
				})),
			],
		})
		const email = readCustomer(books, invoice.customer_id)?.email ?? invoice.email
		const findings = [...draft.refused, ...emailMissing({ content: draft.content, customer: { email } })]
		const runId = addRun(books, desk, day, day, 'credit-note')
		const id = addDocument(books, {
			run_id: runId,
			position: 1,
			customer_id: invoice.customer_id,
			customer_name: invoice.customer_name,
			email,
			order_numbers: invoice.order_numbers,
			net: draft.net,
			tax: draft.tax,
			total: draft.total,
			level: findings[0]?.level ?? 'clear',
			content: draft.content,
			credits_id: invoiceId,
		})
		addFindings(books, id, findings)
		record(books, desk, {
			subject: 'run',
			id: runId,
			act: 'started a credit note',
			detail: `for ${invoice.number}: ${credit.reason}`,
		})
		record(books, desk, { subject: 'document', id: invoiceId, act: 'started a credit note', detail: credit.reason })
		return { ok: true, id: runId }
	})
}

/** The invoice's discounts on the lines that are credited: a percent as it is, an amount in the share of the lines' nets that is credited. */
function creditedDiscounts(invoice: DocumentContent, lines: DocumentContent['lines']): DocumentContent['discounts'] {
	const { currency } = invoice
	const base = (part: DocumentContent['lines']): bigint => {
		const priced = price({ ...priceInputOf({ ...invoice, lines: part }), discounts: [], charges: [] })
		return priced.ok ? priced.value.subtotal : 0n
	}
	if (!invoice.discounts.some((discount) => 'amount' in discount)) return invoice.discounts
	const [whole, credited] = [base(invoice.lines), base(lines)]
	return invoice.discounts.map((discount) => {
		if (!('amount' in discount) || whole === 0n) return discount
		const share = roundQuotient(parseAmount(discount.amount, currency, 'discount') * credited, whole, 'half-away')
		return { label: discount.label, amount: amountText(share < 0n ? -share : share, currency) }
	})
}

/** What of each line, and whether the freight, can still be credited. */
export function creditable(
	books: Books,
	invoiceId: number,
	invoice: DocumentContent,
): { lines: string[]; freight: boolean } {
	const before = creditsOf(books, invoiceId).map(({ content }) => documentSchema.parse(JSON.parse(content)))
	const lines = invoice.lines.map(({ quantity }, index) =>
		before
			.flatMap((note) => note.lines.filter(({ credits }) => credits === index))
			.reduce((left, line) => plus(left, line.quantity), quantity),
	)
	const freight =
		invoice.charges.length > 0 && !before.some((note) => note.lines.some(({ credits }) => credits === null))
	return { lines, freight }
}

const read = (text: string) => parseDecimal(text, 'quantity', 6)
const millionths = (text: string): bigint => {
	const { units, scale } = read(text)
	return units * pow10(6 - scale)
}
const written = (units: bigint): string => {
	const digits = (units < 0n ? -units : units).toString().padStart(7, '0')
	const text = `${digits.slice(0, -6)}.${digits.slice(-6)}`.replace(/\.?0+$/, '')
	return units < 0n ? `-${text}` : text
}
const plus = (a: string, b: string): string => written(millionths(a) + millionths(b))
const turned = (quantity: string): string => written(-millionths(quantity))

/** Whether a quantity goes beyond what is left, in its direction. */
function exceeds(quantity: string, left: string): boolean {
	const [asked, most] = [millionths(quantity), millionths(left)]
	return most >= 0n ? asked < 0n || asked > most : asked > 0n || asked < most
}

/** Whether a document has reached its customer, or may have. */
export const hasReached = (state: MessageState | undefined, { printed_at }: { printed_at: string | null }): boolean =>
	printed_at !== null || state === 'sent' || state === 'sending' || state === 'unsure'

/** Makes an issued document void, which keeps its number: only while it has reached nobody. Its orders wait again. */
export function voidDocument(books: Books, desk: Desk, documentId: number, reason: string): Outcome {
	const words = reason.trim()
	if (!words) return no('Say why it is void; the register shows the reason.')
	return inOneStep(books, (): Outcome => {
		const document = readAnyDocument(books, documentId)
		if (!document?.number) return no('Only a numbered document can be made void; a draft is held back or given back.')
		const state = messageOfDocument(books, documentId)?.state
		if (document.replaced_at) return no('A revision stands in for it; make that one void.')
		if (hasReached(state, document)) return no('It has reached the customer, or may have. Credit it instead.')
		if (creditsOf(books, documentId).length > 0) return no('It has a credit note; that corrects it.')
		if (!markVoid(books, desk, documentId, words)) return no('It is void already.')
		const orders = document.kind === 'invoice' ? releaseBilled(books, documentId) : 0
		leaveLedger(books, desk, documentId, `void: ${words}`)
		record(books, desk, {
			subject: 'document',
			id: documentId,
			act: 'made void',
			detail: `${document.number} ${document.customer_name}: ${words}; ${orders} orders wait again`,
		})
		return { ok: true }
	})
}
