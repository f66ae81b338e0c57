import { isZero } from '@/core/document'
import { formatAmount, formatDay, formatMoney } from '@/core/format'
import type { StatementContent, StatementItem } from '@/core/statement'
import {
	block,
	bottom,
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
	parties,
	right,
	type Sum,
} from './frame'
import { hair, ink, type Metrics, mute, type Page, wrap, write } from './page'
import { breakRow, type Cell, type Column, placeColumns, tableHead, tableRow } from './table'

type Flow = Flowing<StatementContent>

const money = ({ content }: Flow, amount: string): string => formatMoney(amount, content.currency, content.locale)

/**
 * Lays a statement out on A4: what it is as of and what is owed, its items by due date with credits apart, the amounts by how late
 * they are, how to pay, and a slip to return with a payment at the foot of the last page.
 */
export function layoutStatement(content: StatementContent, metrics: Metrics, logo: LogoShape, name: string): Page[] {
	const flow: Flow = newFlow(content, metrics, name)
	letterhead(flow, logo)
	parties(flow, factsOf(content), sumsOf(flow))
	if (content.form === 'balance forward') movements(flow)
	else items(flow)
	flow.drawHead = () => {}
	lateness(flow)
	payment(flow)
	closing(flow)
	slip(flow)
	return finish(flow)
}

const factsOf = (content: StatementContent): Fact[] => [
	{ label: 'Number', value: content.number || 'set when numbered', face: 'bold', color: content.number ? ink : brick },
	{ label: 'As of', value: formatDay(content.day, content.locale) },
	{ label: 'Customer number', value: content.customer.number },
	{ label: 'Amounts in', value: content.currency },
]

function sumsOf(flow: Flow): Sum[] {
	const { content } = flow
	const credit = content.total.startsWith('-')
	const label = credit
		? 'To your credit in all'
		: content.show === 'past-due'
			? 'Past due on this statement'
			: 'You owe in all'
	const late: Sum = {
		label: 'of it past due',
		amount: money(flow, content.pastDue),
		strong: false,
		color: isZero(content.pastDue) ? ink : brick,
	}
	return [
		{ label, amount: money(flow, content.total.replace('-', '')), strong: true },
		...(content.show === 'all' ? [late] : []),
	]
}

const kindWords: Partial<Record<StatementItem['kind'], string>> = {
	payment: 'payment',
	charge: 'charge',
	'debit note': 'debit note',
	adjustment: 'adjustment',
}

const itemColumns = (currency: string): Column[] => [
	{ head: 'Date', align: 'left', most: 72 },
	{ head: 'Number', align: 'left', most: 110 },
	{ head: 'Your order', align: 'left', rest: true },
	{ head: 'Due', align: 'left', most: 72 },
	{ head: 'Days late', align: 'right', most: 44 },
	{ head: 'Amount', align: 'right', most: 90 },
	{ head: `Open, ${currency}`, align: 'right', most: 90 },
]

function itemCells(item: StatementItem, locale: string): Cell[] {
	const kind = kindWords[item.kind]
	const debit = !item.open.startsWith('-')
	const late = item.pastDue ? brick : ink
	return [
		{ text: formatDay(item.day, locale) },
		{ text: kind ? `${item.number} (${kind})` : item.number },
		{ text: item.theirOrder, color: mute },
		{ text: debit ? formatDay(item.due, locale) : '', color: late },
		{
			text: item.disputed ? 'disputed' : item.pastDue ? String(item.daysPastDue) : '',
			color: item.pastDue ? brick : mute,
		},
		{ text: formatAmount(item.amount, locale), color: mute },
		{ text: formatAmount(item.open, locale) },
	]
}

function items(flow: Flow): void {
	const { content, metrics } = flow
	const columns = itemColumns(content.currency)
	const places = placeColumns(
		columns,
		content.items.map((item) => itemCells(item, content.locale)),
		metrics,
	)
	const debits = content.items.filter(({ open }) => !open.startsWith('-'))
	const credits = content.items.filter(({ open }) => open.startsWith('-'))
	const parts: [string, StatementItem[]][] = [
		[credits.length > 0 ? 'What you owe' : '', debits],
		['To your credit, not yet applied', credits],
	]
	for (const [title, part] of parts) {
		if (part.length === 0) continue
		flow.drawHead = () => {
			if (title) {
				write(flow.page, metrics, margin, flow.y + 11, title, { face: 'bold', size: 9 })
				flow.y += 12
			}
			tableHead(flow, columns, places)
		}
		const before = flow.pages.length
		need(flow, 60)
		if (flow.pages.length === before) flow.drawHead()
		for (const item of part) tableRow(flow, columns, places, breakRow(flow, places, itemCells(item, content.locale)))
		flow.y += 8
	}
}

function movements(flow: Flow): void {
	const { content, metrics } = flow
	const { locale } = content
	const columns: Column[] = [
		{ head: 'Date', align: 'left', most: 72 },
		{ head: 'What happened', align: 'left', rest: true },
		{ head: 'Amount', align: 'right', most: 100 },
		{ head: `Balance, ${content.currency}`, align: 'right', most: 100 },
	]
	const row = (day: string, words: string, change: string, balance: string, strong = false): Cell[] => {
		const face = strong ? 'bold' : 'regular'
		return [
			{ text: formatDay(day, locale) },
			{ text: words, face },
			{ text: change && formatAmount(change, locale) },
			{ text: formatAmount(balance, locale), face },
		]
	}
	const rows = [
		row(content.since, 'Opening balance', '', content.opening, true),
		...content.movements.map(({ day, words, change, balance }) => row(day, words, change, balance)),
		row(content.day, 'Closing balance', '', content.balance, true),
	]
	const places = placeColumns(columns, rows, metrics)
	flow.drawHead = () => tableHead(flow, columns, places)
	flow.drawHead()
	for (const cells of rows) tableRow(flow, columns, places, breakRow(flow, places, cells))
	flow.y += 8
}

/** The amounts by how late they are, and what does not count among them. */
function lateness(flow: Flow): void {
	const { content, metrics } = flow
	const width = (right - margin) / content.buckets.length
	const amounts = content.buckets.map(({ amount }) => formatAmount(amount, content.locale))
	// Long amounts are written smaller, so that none runs into its neighbour.
	const widest = Math.max(...amounts.map((amount) => metrics.width(amount, 'regular', 9)))
	const size = widest > width - 8 ? Math.max(5.5, (9 * (width - 8)) / widest) : 9
	need(flow, 74)
	flow.y += 10
	write(flow.page, metrics, margin, flow.y + 6, 'By days past due', { size: 8.5, color: mute })
	flow.page.push({ type: 'rule', x: margin, y: flow.y + 12, width: right - margin, thickness: 0.8, color: ink })
	content.buckets.forEach(({ name, amount }, place) => {
		const x = margin + (place + 1) * width - 6
		write(flow.page, metrics, x, flow.y + 25, name, { size: 8.5, color: mute, align: 'right' })
		write(flow.page, metrics, x, flow.y + 39, amounts[place] ?? '', {
			align: 'right',
			size,
			color: place > 0 && !isZero(amount) ? brick : ink,
		})
	})
	flow.y += 48
	flow.page.push({ type: 'rule', x: margin, y: flow.y, width: right - margin, thickness: 0.4, color: hair })
	const rest = [
		isZero(content.unapplied) ? '' : `${money(flow, content.unapplied)} stand to your credit and are not yet applied.`,
		isZero(content.disputed) ? '' : `${money(flow, content.disputed)} are in dispute and are not counted as past due.`,
	].filter(Boolean)
	if (rest.length === 0) return
	block(flow, { x: margin, y: flow.y + 4, width: right - margin }, [{ text: rest.join(' '), size: 8.5, color: mute }])
}

function payment(flow: Flow): void {
	const { content } = flow
	const { bank } = content.issuer
	const owed = !content.total.startsWith('-') && !isZero(content.total)
	const late = !isZero(content.pastDue)
	const ask = !owed
		? 'Nothing is to be paid on this statement.'
		: late
			? `Please pay what is past due, ${money(flow, content.pastDue)}, now, quoting ${content.customer.number}.`
			: `Nothing is past due. Please pay each item by its due date, quoting ${content.customer.number}.`
	need(flow, 44 + Math.min(bank.length, 12) * 13)
	block(flow, { x: margin, y: flow.y + 14, width: right - margin }, [
		{ text: owed ? 'How to pay' : 'Payment', size: 8.5, color: mute, lead: 13 },
		{ text: ask, size: 9.5, face: 'bold', lead: 13 },
		...(owed ? bank : []).map((text) => ({ text, size: 9.5, lead: 13 })),
	])
}

/** To be cut off and returned with a payment, at the foot of the last page. */
function slip(flow: Flow): void {
	const { content, metrics } = flow
	if (content.total.startsWith('-') || isZero(content.total)) return
	const facts: [string, string[]][] = (
		[
			['From', `${content.customer.name}, ${content.customer.number}`],
			['Statement', `${content.number || 'without a number yet'} as of ${formatDay(content.day, content.locale)}`],
			['Asked for', money(flow, content.total)],
		] satisfies [string, string][]
	).map(([label, value]) => [label, wrap(value, 270, metrics, 'regular', 9)])
	const issuer = wrap(content.issuer.name, 240, metrics, 'regular', 9)
	const lines = facts.reduce((sum, [, values]) => sum + values.length, 0)
	const height = 34 + Math.max(issuer.length * 11.5 + 10, 14) + lines * 13
	need(flow, height + 12)
	const { page } = flow
	const top = bottom - height
	for (let x = margin; x < right; x += 7) page.push({ type: 'rule', x, y: top, width: 4, thickness: 0.6, color: mute })
	write(page, metrics, margin, top + 16, 'To return with your payment', { face: 'bold', size: 9.5 })
	issuer.forEach((line, place) => {
		write(page, metrics, right, top + 16 + place * 11.5, line, { size: 9, color: mute, align: 'right' })
	})
	const first = top + 24 + Math.max(issuer.length * 11.5, 12)
	let y = first
	for (const [label, values] of facts) {
		write(page, metrics, margin, y, label, { color: mute })
		for (const value of values) {
			write(page, metrics, margin + 62, y, value)
			y += 13
		}
	}
	write(page, metrics, 400, first, `Amount paid, ${content.currency}`, { color: mute })
	page.push({ type: 'rule', x: 400, y: first + 28, width: right - 400, thickness: 0.6, color: ink })
}
