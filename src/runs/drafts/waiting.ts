import { broughtBy, sameTerms } from '@/core/brought'
import { amountText, parseAmount } from '@/core/currency'
import type { BillContent, Brought } from '@/core/document'
import { addUpDiscounts } from '@/core/documentDiscounts'
import { billsOrders } from '@/kinds'
import type { Books } from '@/store/books'
import { type ChangeRow, changesBehind } from '@/store/changes'
import { readBill } from '@/store/documents'
import { type Desk, record } from '@/store/events'
import {
	type Agreed,
	isDivided,
	joinPart,
	letWait,
	linesOf,
	moveLines,
	readOrder,
	recount,
	setAgreed,
	setShared,
	sharedOf,
	waitingParts,
} from '@/store/orders'

/**
 * Lets the orders of a document wait again, with what was agreed on them: a line's changed values, and, where the document was divided,
 * put together or its discounts or freight changed, each order's share of these. `joinWaiting` comes after the last of them.
 * @returns how many orders
 */
export function ordersWait(books: Books, desk: Desk, documentId: number, why: string): number {
	const document = readBill(books, documentId)
	if (!document || document.credits_id !== null || !billsOrders(document.content)) return 0
	const changes = changesBehind(books, documentId)
	const { content } = document
	keepAgreed(books, content, changes)
	const brought = broughtBy(
		content,
		changes.some(({ touches, followed }) => followed === 0 && touches.includes('terms')),
	)
	content.orders.forEach(({ id, number }, place) => {
		const before = readOrder(books, id)
		if (!before || before.document_id !== documentId) return
		const brings = brought[place]
		setShared(books, id, brings && counts(brings, isDivided(books, before.part_of ?? id)) ? brings : null)
		letWait(books, id)
		recount(books, id)
		const agreed = changes.map(({ words, reason, clerk }) => `${words} (${clerk}: ${reason})`)
		const detail = [why, ...agreed].join('; ')
		record(books, desk, { subject: 'order', id, act: `order ${number} waits again`, detail })
	})
	return content.orders.length
}

/**
 * Whether what an order brought counts in place of its own terms and the rules: a person agreed it, or it is another share than theirs. Where it
 * was not kept what they say, it does while the order is divided.
 */
const counts = (brings: Brought, divided: boolean): boolean =>
	brings.as === 'agreed' ||
	(brings.as === 'shared' && (brings.rules === undefined ? divided : !sameTerms(brings, brings.rules)))

/** Keeps a line's values where a person changed them on the document. */
function keepAgreed(books: Books, content: BillContent, changes: ChangeRow[]): void {
	const [latest] = changes.filter(({ kind }) => kind === 'content')
	content.orders.forEach(({ id }, place) => {
		const own = new Map(linesOf(books, id).map((line) => [line.id, line]))
		for (const line of content.lines.filter(({ order }) => order === place)) {
			const source = own.get(line.line)
			if (!source) continue
			const now = {
				quantity: line.quantity,
				unit_price: line.unitPrice,
				discount_percent: line.discountPercent,
				description: line.description,
				tax_code: line.taxCode,
			}
			const keys = ['quantity', 'unit_price', 'discount_percent', 'description', 'tax_code'] as const
			const kept: Agreed | null = keys.every((key) => now[key] === source[key])
				? null
				: latest
					? { ...now, by: latest.clerk, at: latest.at, reason: latest.reason }
					: source.agreed
			setAgreed(books, line.line, kept)
		}
	})
}

/** Puts waiting parts back on the waiting rest of their order; what it comes to then counts where it is not what the rules say. */
export function joinWaiting(books: Books): void {
	for (const { id, to } of waitingParts(books)) {
		const [part, home] = [readOrder(books, id), readOrder(books, to)]
		if (!part || !home) continue
		const [own, also] = [sharedOf(home), sharedOf(part)]
		moveLines(books, id, to)
		joinPart(books, id, to)
		const both = own || also ? addUpBrought(own ?? byRules(also), also ?? byRules(own), home.currency) : null
		setShared(books, to, both && counts(both, isDivided(books, home.part_of ?? home.id)) ? both : null)
		recount(books, to)
	}
}

/** What the part of an order brings that has nothing of its own: what the rules say of the order, as its other part knows them. */
const byRules = (other: Brought | null): Brought => ({
	...(other?.rules ?? { discounts: [], charges: [] }),
	as: 'shared',
	...(other?.rules ? { rules: other.rules } : {}),
})

/** What two parts of an order bring as one order brings it. */
function addUpBrought(one: Brought, other: Brought, currency: string): Brought {
	const charges = [...one.charges]
	for (const charge of other.charges) {
		const place = charges.findIndex(({ label, taxCode }) => label === charge.label && taxCode === charge.taxCode)
		const known = charges[place]
		if (!known) charges.push(charge)
		else if ('amount' in known && 'amount' in charge) {
			const amount = parseAmount(known.amount, currency, 'amount') + parseAmount(charge.amount, currency, 'amount')
			charges[place] = { ...known, amount: amountText(amount, currency) }
		}
	}
	const discounts = addUpDiscounts([one.discounts, other.discounts], currency)
	const rules = one.rules ?? other.rules
	return { discounts, charges, as: other.as === 'agreed' ? 'agreed' : one.as, ...(rules ? { rules } : {}) }
}
