import { plainNumber } from '@/core/decimal'
import type { IntakeOrder } from '@/intake/ordersForBooks'
import type { Books } from '@/store/books'
import { type KnownOrder, linesAsBrought } from '@/store/orderIntake'

/** How an order of a file stands with those of its number in the books. */
export type Standing =
	| { is: 'new'; apart: string }
	/** Just so in the books already. */
	| { is: 'known' }
	/** It waits and the file has it otherwise. */
	| { is: 'changed'; order: number; changes: string[] }
	/** The number is that of another order: of another year, or of another customer. */
	| { is: 'of another'; words: string }
	| { is: 'refused'; words: string }

const yearOf = (day: string): string => day.slice(0, 4)

/**
 * Compares an order with those of its number. What the file does not carry says nothing against it.
 * @param others that a person said these are other orders
 */
export function compareWithBooks(
	books: Books,
	order: IntakeOrder,
	known: KnownOrder[],
	others: 'others' | 'same' | null,
): Standing {
	if (known.length === 0) return { is: 'new', apart: '' }
	const own = known.find((one) => one.customer_id === order.customerId && yearOf(one.day) === yearOf(order.day))
	if (own) return compared(books, order, own)
	const [latest] = known
	if (!latest || others === 'others') return { is: 'new', apart: apartFrom(known, order) }
	const where =
		latest.place === 'billed'
			? `billed on ${latest.document_number ?? 'an invoice'}`
			: latest.place === 'in a run'
				? `in run ${latest.run_id}`
				: 'waiting'
	const words = `order ${latest.number} of ${latest.day} for ${latest.customer_number} (${latest.source_file}) is ${where}`
	if (others === null) return { is: 'of another', words }
	return compared(books, order, latest)
}

function compared(books: Books, order: IntakeOrder, known: KnownOrder): Standing {
	const changes = known.same_as === order.sameAs ? [] : differences(books, order, known)
	if (changes.length === 0) return { is: 'known' }
	const what = changes.slice(0, 4).join('; ')
	if (known.place === 'billed')
		return {
			is: 'refused',
			words: `Order ${known.number} was billed on ${known.document_number ?? 'an invoice'}, and this file has it otherwise (${what}). Correct that invoice, or leave this order out.`,
		}
	if (known.place === 'in a run')
		return {
			is: 'refused',
			words: `Order ${known.number} stands on a draft of run ${known.run_id}, and this file has it otherwise (${what}). Change the draft, or give the run back and accept this then.`,
		}
	if (known.acceptance_state === 'going')
		return {
			is: 'refused',
			words: `Order ${known.number} is just being accepted from ${known.source_file}. Look again when that is done.`,
		}
	if (known.divided)
		return {
			is: 'refused',
			words: `Order ${known.number} was divided, and this file has it otherwise (${what}). Withdraw its parts under To bill first, or leave this order out.`,
		}
	return { is: 'changed', order: known.id, changes }
}

/** What tells an order from others of its number: its year, and its customer where that is not enough. */
function apartFrom(known: { apart: string }[], order: IntakeOrder): string {
	const taken = new Set(known.map(({ apart }) => apart))
	const year = order.day.slice(0, 4)
	for (let place = 1; ; place++) {
		const name = place === 1 ? year : `${year} ${place}`
		if (!taken.has(name)) return name
	}
}

const same = (one: string, other: string): boolean => plainNumber(one) === plainNumber(other)
const shown = (text: string | null): string => (text === null || text === '' ? 'nothing' : text)

/** What an order has otherwise than the books, in words. */
export function differences(books: Books, order: IntakeOrder, known: KnownOrder): string[] {
	const changes: string[] = []
	const say = (what: string, was: string | null, is: string | null) =>
		changes.push(`${what}: ${shown(was)} → ${shown(is)}`)
	if (order.customerId !== known.customer_id) changes.push('another customer')
	if (order.day !== known.day) say('date', known.day, order.day)
	if (order.lookedUp === '' && order.currency !== known.currency) say('currency', known.currency, order.currency)
	if (order.purchaseOrder !== known.purchase_order) say('purchase order', known.purchase_order, order.purchaseOrder)
	if (!same(order.discountPercent, known.discount_percent))
		say('order discount', known.discount_percent, order.discountPercent)
	if (
		order.discountAmount !== known.discount_amount &&
		!same(order.discountAmount || '0', known.discount_amount || '0')
	)
		say('order discount in money', known.discount_amount || '0', order.discountAmount || '0')
	if (order.discountLabel.toLowerCase() !== known.discount_label.toLowerCase())
		say('discount', known.discount_label, order.discountLabel)
	if (!same(order.freight || '0', known.freight || '0')) say('freight', known.freight, order.freight)
	if (!same(order.freightPercent || '0', known.freight_percent || '0'))
		say('freight', known.freight_percent, order.freightPercent)
	if (order.delivery !== '' && order.delivery !== known.delivery) say('delivery', known.delivery, order.delivery)
	if (order.own !== '{}' && order.own !== known.own) changes.push('own fields')
	const lines = linesAsBrought(books, known.id)
	if (lines.length !== order.lines.length) say('lines', String(lines.length), String(order.lines.length))
	for (const [place, line] of order.lines.entries()) {
		const before = lines[place]
		if (!before) continue
		const looked = new Set(line.lookedUp.split(','))
		const of = `of line ${place + 1}`
		if (line.item !== before.item_code) say(`item ${of}`, before.item_code, line.item)
		if (!looked.has('text') && line.description !== before.description)
			say(`text ${of}`, before.description, line.description)
		if (!same(line.quantity, before.quantity)) say(`quantity ${of}`, before.quantity, line.quantity)
		if (!looked.has('unit') && line.unit !== '' && line.unit !== before.unit) say(`unit ${of}`, before.unit, line.unit)
		if (!looked.has('price') && !same(line.unitPrice ?? '', before.unit_price ?? ''))
			say(`price ${of}`, before.unit_price, line.unitPrice)
		if (!looked.has('price') && !same(line.pricePer, before.price_per))
			say(`price per ${of}`, before.price_per, line.pricePer)
		if (!same(line.discountPercent, before.discount_percent))
			say(`discount ${of}`, before.discount_percent, line.discountPercent)
		if (!same(line.discountAmount || '0', before.discount_amount || '0'))
			say(`discount ${of}`, before.discount_amount, line.discountAmount)
		if (!looked.has('tax') && line.taxCode !== '' && line.taxCode !== before.tax_code)
			say(`tax code ${of}`, before.tax_code, line.taxCode)
		if (line.own !== '{}' && line.own !== before.own) changes.push(`own fields ${of}`)
	}
	return changes
}
