import { amountText, parseAmount } from '@/core/currency'
import { sharesByOrder } from '@/core/divideBill'
import type { BillContent } from '@/core/document'
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
	type Shared,
	setAgreed,
	setShared,
	waitingParts,
} from '@/store/orders'
import { sharedOf } from './draft'

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
	const shares = sharesByOrder(content)
	const changed = changes.some(({ kind, words }) => kind === 'content' && /(^|; )with(out)? /.test(words))
	const shared = changed || changes.some(({ kind }) => kind !== 'content')
	content.orders.forEach(({ id, number }, place) => {
		const before = readOrder(books, id)
		if (!before || before.document_id !== documentId) return
		const share = shares[place]
		const wasChanged = changed || (sharedOf(before)?.changed ?? false)
		// An order that is whole and unchanged is billed by its own terms and the firm's rules again.
		const ownTerms = !wasChanged && !isDivided(books, before.part_of ?? id)
		if (share && (shared || before.shared !== null))
			setShared(books, id, ownTerms ? null : { ...share, changed: wasChanged })
		letWait(books, id)
		recount(books, id)
		const agreed = changes.map(({ words, reason, clerk }) => `${words} (${clerk}: ${reason})`)
		const detail = [why, ...agreed].join('; ')
		record(books, desk, { subject: 'order', id, act: `order ${number} waits again`, detail })
	})
	return content.orders.length
}

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

/** Puts waiting parts back on the waiting rest of their order; when it is whole again, its own terms count, unless a person changed them. */
export function joinWaiting(books: Books): void {
	for (const { id, to } of waitingParts(books)) {
		const [part, home] = [readOrder(books, id), readOrder(books, to)]
		if (!part || !home) continue
		const [own, also] = [sharedOf(home), sharedOf(part)]
		moveLines(books, id, to)
		joinPart(books, id, to)
		const both = own && also ? addUpShares(own, also, home.currency) : (own ?? also)
		const whole = !isDivided(books, home.part_of ?? home.id)
		setShared(books, to, both && (!whole || both.changed) ? both : null)
		recount(books, to)
	}
}

function addUpShares(one: Shared, other: Shared, currency: string): Shared {
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
	return { discounts, charges, changed: one.changed || other.changed }
}
