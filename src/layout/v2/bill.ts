import { minorDigits } from '@/core/currency'
import type { BillContent } from '@/core/document'
import { isZero } from '@/core/document'
import { formatAmount, formatDay, formatDecimal, formatMoney } from '@/core/format'
import {
	type Block,
	block,
	brick,
	closing,
	type Fact,
	type Flow as Flowing,
	finish,
	type LogoShape,
	letterhead,
	margin,
	need,
	newFlow,
	pageHeight,
	parties,
	right,
} from './frame'
import { ink, type Metrics, mute, type Page, wrap, write } from './page'
import { type Broken, breakRow, type Cell, type Column, type Place, placeColumns, tableHead, tableRow } from './table'

type Flow = Flowing<BillContent>

/**
 * Lays an invoice or credit note out on A4: its whole table over as many pages as it needs, the head of the table on each, page x of y.
 * Whatever its length, every text wraps in its place; totals never stand on a page without a line. Without a number it carries the draft mark.
 */
export function layoutBill(content: BillContent, metrics: Metrics, logo: LogoShape, name: string): Page[] {
	const flow: Flow = newFlow(content, metrics, name)
	letterhead(flow, logo)
	parties(flow, factsOf(content), [dueSum(content)])
	const sums = brokenTotals(flow)
	lines(flow, sums.height)
	totals(flow, sums)
	payment(flow)
	closing(flow)
	return finish(flow)
}

function factsOf(content: BillContent): Fact[] {
	const { locale, supply, refersTo, day } = content
	const references = [...new Set(content.orders.map(({ purchaseOrder }) => purchaseOrder).filter(Boolean))]
	const named = references.join(', ')
	const facts: (Fact | null)[] = [
		{
			label: 'Number',
			value: content.number || 'set when numbered',
			face: 'bold',
			color: content.number ? ink : brick,
		},
		content.revision > 1 ? { label: 'Revision', value: `${content.revision}, in place of the one before` } : null,
		refersTo
			? {
					label: content.kind === 'credit-note' ? 'Credits' : 'Takes back',
					value: `${refersTo.number} of ${formatDay(refersTo.day, locale)}`,
				}
			: null,
		content.reason ? { label: 'Reason', value: content.reason } : null,
		{ label: 'Date', value: formatDay(day, locale) },
		supply && !(supply.from === day && supply.to === day)
			? {
					label: 'Supplied',
					value:
						supply.from === supply.to
							? formatDay(supply.from, locale)
							: `${formatDay(supply.from, locale)} to ${formatDay(supply.to, locale)}`,
				}
			: null,
		content.kind === 'invoice' ? { label: 'Terms', value: content.terms } : null,
		{ label: 'Customer number', value: content.customer.number },
		// Each order names its own as well, so that a long list need not stand here.
		named
			? { label: 'Your order', value: named.length > 120 ? `${references.length} orders, named below` : named }
			: null,
	]
	return facts.filter((fact) => fact !== null)
}

const dueSum = (content: BillContent) => ({
	label: content.kind === 'invoice' ? `Due ${formatDay(content.dueDay, content.locale)}` : 'To your credit',
	amount: formatMoney(content.priced.amountDue, content.currency, content.locale),
	strong: true,
})

const hasDiscounts = (content: BillContent): boolean =>
	content.lines.some(({ discountPercent }) => !isZero(discountPercent))

function columnsOf(content: BillContent): Column[] {
	return [
		{ head: 'Item', align: 'left', most: 62 },
		{ head: 'Description', align: 'left', rest: true },
		{ head: 'Quantity', align: 'right', most: 80 },
		{ head: 'Unit', align: 'left', most: 50 },
		{ head: 'Price', align: 'right', most: 90 },
		...(hasDiscounts(content) ? [{ head: 'Less', align: 'right', most: 46 } satisfies Column] : []),
		{ head: 'Tax', align: 'left', most: 56 },
		{ head: `Amount, ${content.currency}`, align: 'right', most: 100 },
	]
}

function cellsOf(content: BillContent, place: number): Cell[] {
	const line = content.lines[place]
	const figures = content.priced.lines[place]
	if (!line || !figures) return []
	const { locale, currency } = content
	const per = line.pricePer === '1' ? '' : ` / ${formatDecimal(line.pricePer, locale)}`
	const price =
		line.unitPrice === null ? 'no price' : formatDecimal(line.unitPrice, locale, minorDigits(currency)) + per
	return [
		{ text: line.item, size: 8.5, color: mute },
		{ text: line.description },
		{ text: formatDecimal(line.quantity, locale) },
		{ text: line.unit, color: mute },
		{ text: price, color: line.unitPrice === null ? brick : ink },
		...(hasDiscounts(content)
			? [{ text: isZero(line.discountPercent) ? '' : `${formatDecimal(line.discountPercent, locale)}%` }]
			: []),
		{ text: line.taxCode, size: 8.5, color: mute },
		{ text: formatAmount(figures.net, locale) },
	]
}

/** The table: each order's name, then its lines. The last line stays with the totals. */
function lines(flow: Flow, totalsHeight: number): void {
	const { content, metrics } = flow
	const columns = columnsOf(content)
	const rows = content.lines.map((_, place) => cellsOf(content, place))
	const places: Place[] = placeColumns(columns, rows, metrics)
	flow.drawHead = () => tableHead(flow, columns, places)
	const order = content.orders.flatMap((_, index) =>
		content.lines.flatMap((line, place) => (line.order === index ? [place] : [])),
	)
	const foot = Math.min(totalsHeight, pageHeight - 80)
	need(flow, 60)
	flow.drawHead()
	content.orders.forEach(({ number, day, purchaseOrder }, index) => {
		const own = order.filter((place) => content.lines[place]?.order === index)
		if (own.length === 0) return
		const words = `Order ${number} of ${formatDay(day, content.locale)}${purchaseOrder ? `, your order ${purchaseOrder}` : ''}`
		const titles = wrap(words, right - margin, metrics, 'bold', 9)
		const first: Broken = breakRow(flow, places, rows[own[0] ?? 0] ?? [])
		const only = own.length === 1 && own[0] === order.at(-1)
		need(flow, titles.length * 11.5 + 7 + Math.min(first.height, 12 * 11.5) + (only ? foot : 0))
		for (const line of titles) {
			need(flow, 16)
			write(flow.page, metrics, margin, flow.y + 13, line, { face: 'bold', size: 9 })
			flow.y += 11.5
		}
		flow.y += 6.5
		for (const place of own)
			tableRow(flow, columns, places, breakRow(flow, places, rows[place] ?? []), place === order.at(-1) ? foot : 0)
	})
	flow.drawHead = () => {}
}

/** An amount taken off, as it is printed; nothing has no sign. */
const negated = (amount: string): string =>
	isZero(amount.replace('-', '')) ? amount.replace('-', '') : amount.startsWith('-') ? amount.slice(1) : `-${amount}`

type Row = { label: string; amount: string; strong: boolean }

function totalRows(content: BillContent): Row[] {
	const { priced, locale, taxCodes, customer, grounds, currency } = content
	const rows: Row[] = []
	const add = (label: string, amount: string, strong = false) =>
		rows.push({ label, amount: formatAmount(amount, locale), strong })
	const changed = !isZero(priced.discountTotal.replace('-', '')) || content.charges.length > 0
	if (changed) add('Goods and services', priced.subtotal)
	const percentOf = (share: object & { percent?: string }) =>
		share.percent === undefined ? '' : ` ${formatDecimal(share.percent, locale)}%`
	content.discounts.forEach((discount, index) => {
		add((discount.label || 'Discount') + percentOf(discount), negated(priced.discounts[index] ?? '0'))
	})
	content.charges.forEach((charge, index) => {
		add(charge.label + percentOf(charge), priced.charges[index] ?? '0')
	})
	add('Net', priced.net, true)
	for (const { code, rate, base, tax } of priced.taxes) {
		const words = grounds.filter((ground) => ground.code === code).map((ground) => ground.words)
		const name = taxCodes.find((taxCode) => taxCode.code === code)?.name ?? code
		const what =
			customer.tax === 'standard'
				? `${name} (${code}) ${formatDecimal(rate, locale)}% of ${formatAmount(base, locale)}`
				: `${words.join('; ') || name} (${formatAmount(base, locale)})`
		add(customer.tax === 'standard' && words.length > 0 ? `${what}: ${words.join('; ')}` : what, tax)
	}
	rows.push({ label: 'Total', amount: formatMoney(priced.total, currency, locale), strong: true })
	return rows
}

/** The totals: the width of their amounts, their labels broken into lines, and how high they are together. */
type Sums = { width: number; rows: (Row & { lines: string[] })[]; height: number }

function brokenTotals({ content, metrics }: Flow): Sums {
	const plain = totalRows(content)
	const width = Math.max(
		82,
		...plain.map(({ amount, strong }) => metrics.width(amount, strong ? 'bold' : 'regular', 11) + 8),
	)
	const rows = plain.map((row) => ({
		...row,
		lines: wrap(row.label, right - margin - width - 20, metrics, row.strong ? 'bold' : 'regular', 9),
	}))
	const height = rows.reduce((sum, { lines }) => sum + rowHeight(lines), 0) + 44 + (content.home ? 26 : 0)
	return { width, rows, height }
}

const rowHeight = (lines: string[]): number => lines.length * 11.5 + 3.5

function totals(flow: Flow, { width, rows, height }: Sums): void {
	const { content, metrics } = flow
	need(flow, height)
	flow.y += 8
	rows.forEach(({ amount, strong, lines }, index) => {
		const last = index === rows.length - 1
		need(flow, rowHeight(lines) + (last ? 10 : 0))
		if (last) {
			flow.page.push({ type: 'rule', x: 322, y: flow.y + 2, width: right - 322, thickness: 0.8, color: ink })
			flow.y += 6
		}
		const size = last ? 11 : 9
		lines.forEach((line, place) => {
			write(flow.page, metrics, right - width, flow.y + 10 + place * 11.5, line, {
				color: strong ? ink : mute,
				face: last ? 'bold' : 'regular',
				align: 'right',
				size,
			})
		})
		write(flow.page, metrics, right, flow.y + 10, amount, { align: 'right', size, face: last ? 'bold' : 'regular' })
		flow.y += rowHeight(lines)
	})
	flow.y += 6
	if (!content.home) return
	const { currency, rate, day, tax } = content.home
	const words = `Tax in ${currency}: ${formatAmount(tax, content.locale)}, at ${formatDecimal(rate, content.locale)} ${currency} for 1 ${content.currency} as of ${formatDay(day, content.locale)}`
	block(flow, { x: right, y: flow.y, width: right - margin, align: 'right' }, [{ text: words, size: 8.5, color: mute }])
}

function payment(flow: Flow): void {
	const { content } = flow
	const { bank } = content.issuer
	const amount = formatMoney(content.priced.amountDue, content.currency, content.locale)
	const owed = !content.priced.amountDue.startsWith('-') && !isZero(content.priced.amountDue)
	const ask = owed
		? `Please pay ${amount} by ${formatDay(content.dueDay, content.locale)}${content.number ? `, quoting ${content.number}` : ''}.`
		: content.kind === 'credit-note'
			? 'Nothing is to be paid: the amount stands to your credit.'
			: 'Nothing is to be paid on this document.'
	need(flow, 40 + Math.min(bank.length, 12) * 13)
	const parts: Block[] = [
		{ text: owed ? 'How to pay' : 'Payment', size: 8.5, color: mute, lead: 13 },
		{ text: ask, size: 9.5, face: 'bold', lead: 13 },
		...(owed ? bank : []).map((text) => ({ text, size: 9.5, lead: 13 })),
	]
	block(flow, { x: margin, y: flow.y + 10, width: right - margin }, parts)
}
