import { isZero } from '@/core/document'
import { formatAmount, formatDay, formatMoney } from '@/core/format'
import type { StatementContent, StatementItem } from '@/core/statement'
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
import { hair, ink, type Metrics, mute, type Page, paper, wrap, write } from './page'

type Canvas = Framing<StatementContent>

// Left edges of the words, right edges of the figures.
const column = {
	day: margin,
	number: margin + 68,
	order: margin + 158,
	due: margin + 252,
	late: 382,
	amount: 463,
	open: right,
}
const slipHeight = 96

/**
 * Lays a statement out on A4: what it is as of and what is owed, its items by due date with credits apart, the amounts by how late
 * they are, how to pay, and a slip to return with a payment at the foot of the last page.
 */
export function layoutStatement(content: StatementContent, metrics: Metrics, logo: LogoShape): Page[] {
	const canvas: Canvas = newCanvas(content, metrics)
	letterhead(canvas, logo)
	parties(canvas)
	if (content.form === 'balance forward') movements(canvas)
	else items(canvas)
	canvas.drawHead = () => {}
	lateness(canvas)
	payment(canvas)
	slip(canvas)
	return finish(canvas)
}

const money = ({ content }: Canvas, amount: string): string => formatMoney(amount, content.currency, content.locale)

function parties(canvas: Canvas): void {
	const { page, metrics, content } = canvas
	const top = canvas.y
	const left = recipient(canvas)
	const facts: [string, string][] = [
		['Number', content.number || 'set when numbered'],
		['As of', formatDay(content.day, content.locale)],
		['Customer number', content.customer.number],
		['Amounts in', content.currency],
	]
	let y = top + 18
	for (const [label, value] of facts) {
		write(page, metrics, 330, y, label, { color: mute })
		write(page, metrics, 420, y, value, {
			color: content.number || label !== 'Number' ? ink : brick,
			face: label === 'Number' ? 'bold' : 'regular',
		})
		y += 13
	}
	y += 4
	const credit = content.total.startsWith('-')
	const label = credit
		? 'To your credit in all'
		: content.show === 'past-due'
			? 'Past due on this statement'
			: 'You owe in all'
	const owed: [string, string][] = [
		[label, content.total.replace('-', '')],
		...(content.show === 'all' ? [['of it past due', content.pastDue] satisfies [string, string]] : []),
	]
	page.push({ type: 'box', x: 322, y: y - 8, width: right - 322, height: 14 + owed.length * 16, color: 'f3efe4' })
	owed.forEach(([label, amount], place) => {
		const at = y + 8 + place * 16
		const late = place > 0 && !isZero(amount)
		write(page, metrics, 330, at, label, { color: place === 0 ? ink : mute, face: place === 0 ? 'bold' : 'regular' })
		write(page, metrics, right - 8, at, money(canvas, amount), {
			face: place === 0 ? 'bold' : 'regular',
			size: place === 0 ? 13 : 10,
			color: late ? brick : ink,
			align: 'right',
		})
	})
	canvas.y = Math.max(left, y + owed.length * 16 + 6) + 14
}

type Cell = [x: number, text: string, align: 'left' | 'right']

function head(canvas: Canvas, cells: Cell[]): void {
	const y = canvas.y + 9
	for (const [x, text, align] of cells)
		write(canvas.page, canvas.metrics, x, y, text, { size: 8.5, color: mute, align })
	canvas.page.push({ type: 'rule', x: margin, y: y + 5, width: right - margin, thickness: 0.8, color: ink })
	canvas.y = y + 7
}

function items(canvas: Canvas): void {
	const { content } = canvas
	const headed = (title: string) => () => {
		if (title) {
			write(canvas.page, canvas.metrics, margin, canvas.y + 11, title, { face: 'bold', size: 9 })
			canvas.y += 12
		}
		head(canvas, [
			[column.day, 'Date', 'left'],
			[column.number, 'Number', 'left'],
			[column.order, 'Your order', 'left'],
			[column.due, 'Due', 'left'],
			[column.late, 'Days late', 'right'],
			[column.amount, 'Amount', 'right'],
			[column.open, `Open, ${content.currency}`, 'right'],
		])
	}
	const debits = content.items.filter(({ open }) => !open.startsWith('-'))
	const credits = content.items.filter(({ open }) => open.startsWith('-'))
	const parts: [string, StatementItem[]][] = [
		[credits.length > 0 ? 'What you owe' : '', debits],
		['To your credit, not yet applied', credits],
	]
	for (const [title, part] of parts) {
		if (part.length === 0) continue
		canvas.drawHead = headed(title)
		need(canvas, 48)
		canvas.drawHead()
		for (const item of part) row(canvas, item)
		canvas.y += 8
	}
}

const kindWords: Partial<Record<StatementItem['kind'], string>> = {
	payment: 'payment',
	charge: 'charge',
	'debit note': 'debit note',
	adjustment: 'adjustment',
}

function row(canvas: Canvas, item: StatementItem): void {
	const { metrics, content } = canvas
	const { locale } = content
	const kind = kindWords[item.kind]
	const numbers = wrap(
		kind ? `${item.number} (${kind})` : item.number,
		column.order - column.number - 8,
		metrics,
		'regular',
		9,
	)
	const order = wrap(item.theirOrder, column.due - column.order - 8, metrics, 'regular', 9)
	const height = Math.max(numbers.length, order.length) * 11.5 + 5
	need(canvas, height)
	const { page } = canvas
	const y = canvas.y + 11
	const debit = !item.open.startsWith('-')
	write(page, metrics, column.day, y, formatDay(item.day, locale))
	numbers.forEach((text, line) => {
		write(page, metrics, column.number, y + line * 11.5, text)
	})
	order.forEach((text, line) => {
		write(page, metrics, column.order, y + line * 11.5, text, { color: mute })
	})
	if (debit) write(page, metrics, column.due, y, formatDay(item.due, locale), { color: item.pastDue ? brick : ink })
	const late = item.disputed ? 'disputed' : item.pastDue ? String(item.daysPastDue) : ''
	write(page, metrics, column.late, y, late, { align: 'right', color: item.pastDue ? brick : mute })
	write(page, metrics, column.amount, y, formatAmount(item.amount, locale), { align: 'right', color: mute })
	write(page, metrics, column.open, y, formatAmount(item.open, locale), { align: 'right' })
	canvas.y += height
	page.push({ type: 'rule', x: margin, y: canvas.y, width: right - margin, thickness: 0.4, color: hair })
}

function movements(canvas: Canvas): void {
	const { content, metrics } = canvas
	const { locale } = content
	canvas.drawHead = () =>
		head(canvas, [
			[column.day, 'Date', 'left'],
			[column.number, 'What happened', 'left'],
			[column.amount, 'Amount', 'right'],
			[column.open, `Balance, ${content.currency}`, 'right'],
		])
	canvas.drawHead()
	const line = (day: string, words: string, change: string, balance: string, strong = false) => {
		const face = strong ? 'bold' : 'regular'
		const lines = wrap(words, 290, metrics, face, 9)
		const height = lines.length * 11.5 + 5
		need(canvas, height)
		const y = canvas.y + 11
		write(canvas.page, metrics, column.day, y, formatDay(day, locale))
		lines.forEach((text, place) => {
			write(canvas.page, metrics, column.number, y + place * 11.5, text, { face })
		})
		if (change) write(canvas.page, metrics, column.amount, y, formatAmount(change, locale), { align: 'right' })
		write(canvas.page, metrics, column.open, y, formatAmount(balance, locale), { align: 'right', face })
		canvas.y += height
		canvas.page.push({ type: 'rule', x: margin, y: canvas.y, width: right - margin, thickness: 0.4, color: hair })
	}
	line(content.since, 'Opening balance', '', content.opening, true)
	for (const { day, words, change, balance } of content.movements) line(day, words, change, balance)
	line(content.day, 'Closing balance', '', content.balance, true)
	canvas.y += 8
}

/** The amounts by how late they are, and what does not count among them. */
function lateness(canvas: Canvas): void {
	const { content, metrics } = canvas
	need(canvas, 74)
	const { page } = canvas
	canvas.y += 10
	write(page, metrics, margin, canvas.y + 6, 'By days past due', { size: 8.5, color: mute })
	const width = (right - margin) / content.buckets.length
	page.push({ type: 'rule', x: margin, y: canvas.y + 12, width: right - margin, thickness: 0.8, color: ink })
	content.buckets.forEach(({ name, amount }, place) => {
		const x = margin + (place + 1) * width - 6
		write(page, metrics, x, canvas.y + 25, name, { size: 8.5, color: mute, align: 'right' })
		write(page, metrics, x, canvas.y + 39, formatAmount(amount, content.locale), {
			align: 'right',
			color: place > 0 && !isZero(amount) ? brick : ink,
		})
	})
	canvas.y += 48
	page.push({ type: 'rule', x: margin, y: canvas.y, width: right - margin, thickness: 0.4, color: hair })
	const rest = [
		isZero(content.unapplied)
			? ''
			: `${money(canvas, content.unapplied)} stand to your credit and are not yet applied.`,
		isZero(content.disputed)
			? ''
			: `${money(canvas, content.disputed)} are in dispute and are not counted as past due.`,
	].filter(Boolean)
	if (rest.length === 0) return
	canvas.y += 13
	write(page, metrics, margin, canvas.y, rest.join(' '), { size: 8.5, color: mute })
}

function payment(canvas: Canvas): void {
	const { content, metrics } = canvas
	const { bank } = content.issuer
	const owed = !content.total.startsWith('-') && !isZero(content.total)
	const late = !isZero(content.pastDue)
	const ask = !owed
		? 'Nothing is to be paid on this statement.'
		: late
			? `Please pay what is past due, ${money(canvas, content.pastDue)}, now, quoting ${content.customer.number}.`
			: `Nothing is past due. Please pay each item by its due date, quoting ${content.customer.number}.`
	need(canvas, 44 + bank.length * 12)
	canvas.y += 24
	write(canvas.page, metrics, margin, canvas.y, owed ? 'How to pay' : 'Payment', { size: 8.5, color: mute })
	canvas.y += 14
	for (const [index, line] of [ask, ...(owed ? bank : [])].entries()) {
		write(canvas.page, metrics, margin, canvas.y, line, { face: index === 0 ? 'bold' : 'regular', size: 9.5 })
		canvas.y += 13
	}
}

/** To be cut off and returned with a payment. */
function slip(canvas: Canvas): void {
	const { content, metrics } = canvas
	if (content.total.startsWith('-') || isZero(content.total)) return
	need(canvas, slipHeight + 12)
	const { page } = canvas
	const top = paper.height - 78 - slipHeight
	for (let x = margin; x < right; x += 7) page.push({ type: 'rule', x, y: top, width: 4, thickness: 0.6, color: mute })
	write(page, metrics, margin, top + 16, 'To return with your payment', { face: 'bold', size: 9.5 })
	write(page, metrics, right, top + 16, content.issuer.name, { size: 9, color: mute, align: 'right' })
	const facts: [string, string][] = [
		['From', `${content.customer.name}, ${content.customer.number}`],
		['Statement', `${content.number || 'without a number yet'} as of ${formatDay(content.day, content.locale)}`],
		['Asked for', money(canvas, content.total)],
	]
	facts.forEach(([label, value], place) => {
		write(page, metrics, margin, top + 34 + place * 14, label, { color: mute })
		const [first = ''] = wrap(value, 260, metrics, 'regular', 9)
		write(page, metrics, margin + 62, top + 34 + place * 14, first)
	})
	write(page, metrics, 400, top + 34, `Amount paid, ${content.currency}`, { color: mute })
	page.push({ type: 'rule', x: 400, y: top + 62, width: right - 400, thickness: 0.6, color: ink })
}
