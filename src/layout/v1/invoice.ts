import { minorDigits } from '@/core/currency'
import type { BillContent } from '@/core/document'
import { isZero } from '@/core/document'
import { formatAmount, formatDay, formatDecimal, formatMoney } from '@/core/format'
import {
	brick,
	type Canvas as Framing,
	finish,
	type LogoShape,
	letterhead,
	margin,
	need,
	newCanvas,
	recipient,
	right,
} from './frame'
import { hair, ink, type Metrics, mute, type Page, wrap, write } from './page'

// Right edges of the figures, left edges of the words.
const column = {
	item: margin,
	text: margin + 62,
	quantity: 336,
	unit: 341,
	price: 425,
	discount: 462,
	tax: 468,
	amount: right,
}
const textWidth = 205

type Canvas = Framing<BillContent>

/**
 * Lays an invoice out on A4: its whole table over as many pages as it needs, the head of the table on each, page x of y.
 * Without a number it carries the draft mark.
 */
export function layoutInvoice(content: BillContent, metrics: Metrics, logo: LogoShape): Page[] {
	const canvas: Canvas = newCanvas(content, metrics)
	canvas.drawHead = () => tableHead(canvas)
	letterhead(canvas, logo)
	parties(canvas)
	tableHead(canvas)
	orders(canvas)
	canvas.drawHead = () => {}
	totals(canvas)
	payment(canvas)
	return finish(canvas)
}

function parties(canvas: Canvas): void {
	const { page, metrics, content } = canvas
	const { customer, locale } = content
	const top = canvas.y
	const left = recipient(canvas)
	const references = [...new Set(content.orders.map(({ purchaseOrder }) => purchaseOrder).filter(Boolean))]
	const facts: [string, string][] = [
		['Number', content.number || 'set when numbered'],
		...(content.revision > 1
			? [['Revision', `${content.revision}, in place of the one before`] satisfies [string, string]]
			: []),
		...(content.refersTo
			? [
					['Credits', `${content.refersTo.number} of ${formatDay(content.refersTo.day, locale)}`] satisfies [
						string,
						string,
					],
				]
			: []),
		['Date', formatDay(content.day, locale)],
		...(content.kind === 'invoice' ? [['Terms', content.terms] satisfies [string, string]] : []),
		['Customer number', customer.number],
		...(references.length > 0 ? [['Your order', references.join(', ')] satisfies [string, string]] : []),
	]
	let y = top + 18
	for (const [label, value] of facts) {
		write(page, metrics, 330, y, label, { color: mute })
		const lines = wrap(value, right - 420, metrics, 'regular', 9)
		for (const line of lines.slice(0, 4)) {
			write(page, metrics, 420, y, line, {
				color: content.number || label !== 'Number' ? ink : brick,
				face: label === 'Number' ? 'bold' : 'regular',
			})
			y += 13
		}
	}
	y += 4
	page.push({ type: 'box', x: 322, y: y - 8, width: right - 322, height: 40, color: 'f3efe4' })
	write(
		page,
		metrics,
		330,
		y + 7,
		content.kind === 'invoice' ? `Due ${formatDay(content.dueDay, locale)}` : 'To your credit',
		{ face: 'bold', size: 10 },
	)
	write(page, metrics, 330, y + 22, content.kind === 'invoice' ? 'Amount due' : 'Amount', { color: mute })
	write(page, metrics, right - 8, y + 20, formatMoney(content.priced.amountDue, content.currency, locale), {
		face: 'bold',
		size: 15,
		align: 'right',
	})
	canvas.y = Math.max(left, y + 40) + 16
}

function tableHead(canvas: Canvas): void {
	const { page, metrics, content } = canvas
	const y = canvas.y + 9
	const style = { size: 8.5, color: mute } as const
	write(page, metrics, column.item, y, 'Item', style)
	write(page, metrics, column.text, y, 'Description', style)
	write(page, metrics, column.quantity, y, 'Quantity', { ...style, align: 'right' })
	write(page, metrics, column.price, y, 'Price', { ...style, align: 'right' })
	if (hasDiscounts(content)) write(page, metrics, column.discount, y, 'Less', { ...style, align: 'right' })
	write(page, metrics, column.tax, y, 'Tax', style)
	write(page, metrics, column.amount, y, `Amount, ${content.currency}`, { ...style, align: 'right' })
	page.push({ type: 'rule', x: margin, y: y + 5, width: right - margin, thickness: 0.8, color: ink })
	canvas.y = y + 7
}

const hasDiscounts = (content: BillContent): boolean =>
	content.lines.some(({ discountPercent }) => !isZero(discountPercent))

function orders(canvas: Canvas): void {
	const { content } = canvas
	content.orders.forEach((order, index) => {
		const words = `Order ${order.number} of ${formatDay(order.day, content.locale)}${order.purchaseOrder ? `, your order ${order.purchaseOrder}` : ''}`
		need(canvas, 34)
		write(canvas.page, canvas.metrics, margin, canvas.y + 13, words, { face: 'bold', size: 9 })
		canvas.y += 18
		content.lines.forEach((line, place) => {
			if (line.order === index) tableRow(canvas, place)
		})
	})
}

function tableRow(canvas: Canvas, place: number): void {
	const { metrics, content } = canvas
	const line = content.lines[place]
	const figures = content.priced.lines[place]
	if (!line || !figures) return
	const { locale, currency } = content
	const description = wrap(line.description, textWidth, metrics, 'regular', 9)
	const code = wrap(line.item, column.text - column.item - 6, metrics, 'regular', 8.5)
	const height = Math.max(description.length, code.length) * 11.5 + 5
	need(canvas, height)
	const { page } = canvas
	const y = canvas.y + 11
	for (const [index, text] of code.entries())
		write(page, metrics, column.item, y + index * 11.5, text, { size: 8.5, color: mute })
	for (const [index, text] of description.entries()) write(page, metrics, column.text, y + index * 11.5, text)
	write(page, metrics, column.quantity, y, formatDecimal(line.quantity, locale), { align: 'right' })
	write(page, metrics, column.unit, y, line.unit, { color: mute })
	const per = line.pricePer === '1' ? '' : ` / ${formatDecimal(line.pricePer, locale)}`
	const price =
		line.unitPrice === null ? 'no price' : formatDecimal(line.unitPrice, locale, minorDigits(currency)) + per
	write(page, metrics, column.price, y, price, { align: 'right', color: line.unitPrice === null ? brick : ink })
	if (!isZero(line.discountPercent))
		write(page, metrics, column.discount, y, `${formatDecimal(line.discountPercent, locale)}%`, { align: 'right' })
	write(page, metrics, column.tax, y, line.taxCode, { size: 8.5, color: mute })
	write(page, metrics, column.amount, y, formatAmount(figures.net, locale), { align: 'right' })
	canvas.y += height
	page.push({ type: 'rule', x: margin, y: canvas.y, width: right - margin, thickness: 0.4, color: hair })
}

function totals(canvas: Canvas): void {
	const { content, metrics } = canvas
	const { priced, locale, taxCodes, customer } = content
	const rows: [string, string][] = []
	const changed = !isZero(priced.discountTotal) || content.charges.length > 0
	if (changed) rows.push(['Goods and services', priced.subtotal])
	const percentOf = (share: object & { percent?: string }) =>
		share.percent === undefined ? '' : ` ${formatDecimal(share.percent, locale)}%`
	content.discounts.forEach((discount, index) => {
		const label = (discount.label || 'Discount') + percentOf(discount)
		rows.push([label, `-${priced.discounts[index] ?? '0'}`.replace('--', '')])
	})
	content.charges.forEach((charge, index) => {
		rows.push([charge.label + percentOf(charge), priced.charges[index] ?? '0'])
	})
	rows.push(['Net', priced.net])
	for (const { code, rate, base, tax } of priced.taxes) {
		const name = taxCodes.find((taxCode) => taxCode.code === code)?.name ?? code
		if (customer.tax === 'standard')
			rows.push([`${name} (${code}) ${formatDecimal(rate, locale)}% of ${formatAmount(base, locale)}`, tax])
	}
	if (customer.tax === 'exempt') rows.push(['Exempt from tax', priced.taxTotal])
	if (customer.tax === 'reverse-charge')
		rows.push(['Reverse charge: tax is accounted for by the customer', priced.taxTotal])
	need(canvas, rows.length * 15 + 44)
	canvas.y += 16
	for (const [label, amount] of rows) {
		write(canvas.page, metrics, right - 90, canvas.y, label, { color: label === 'Net' ? ink : mute, align: 'right' })
		write(canvas.page, metrics, right, canvas.y, formatAmount(amount, locale), { align: 'right' })
		canvas.y += 15
	}
	canvas.page.push({ type: 'rule', x: 322, y: canvas.y - 9, width: right - 322, thickness: 0.8, color: ink })
	write(canvas.page, metrics, right - 90, canvas.y + 6, 'Total', { face: 'bold', size: 11, align: 'right' })
	write(canvas.page, metrics, right, canvas.y + 6, formatMoney(priced.total, content.currency, locale), {
		face: 'bold',
		size: 11,
		align: 'right',
	})
	canvas.y += 24
}

function payment(canvas: Canvas): void {
	const { content, metrics } = canvas
	const { bank } = content.issuer
	const amount = formatMoney(content.priced.amountDue, content.currency, content.locale)
	const owed = !content.priced.amountDue.startsWith('-') && !isZero(content.priced.amountDue)
	const ask = owed
		? `Please pay ${amount} by ${formatDay(content.dueDay, content.locale)}${content.number ? `, quoting ${content.number}` : ''}.`
		: content.kind === 'credit-note'
			? 'Nothing is to be paid: the amount stands to your credit.'
			: 'Nothing is to be paid on this document.'
	need(canvas, 40 + bank.length * 12)
	canvas.y += 12
	write(canvas.page, metrics, margin, canvas.y, owed ? 'How to pay' : 'Payment', { size: 8.5, color: mute })
	canvas.y += 14
	for (const [index, line] of [ask, ...(owed ? bank : [])].entries()) {
		write(canvas.page, metrics, margin, canvas.y, line, { face: index === 0 ? 'bold' : 'regular', size: 9.5 })
		canvas.y += 13
	}
}
