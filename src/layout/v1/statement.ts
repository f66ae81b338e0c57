import { isZero } from '@/core/document'
import { formatAmount, formatDay, formatMoney } from '@/core/format'
import type { StatementContent, StatementItem } from '@/core/statement'
import {
	brick,
	type Sheet as Framing,
	finish,
	type LogoShape,
	letterhead,
	margin,
	need,
	newSheet,
	recipient,
	right,
} from './frame'
import { hair, ink, type Metrics, mute, type Page, paper, wrap, write } from './page'

type Sheet = Framing<StatementContent>

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
	const sheet: Sheet = newSheet(content, metrics)
	letterhead(sheet, logo)
	parties(sheet)
	if (content.form === 'balance forward') movements(sheet)
	else items(sheet)
	sheet.drawHead = () => {}
	lateness(sheet)
	payment(sheet)
	slip(sheet)
	return finish(sheet)
}

const money = ({ content }: Sheet, amount: string): string => formatMoney(amount, content.currency, content.locale)

function parties(sheet: Sheet): void {
	const { page, metrics, content } = sheet
	const top = sheet.y
	const left = recipient(sheet)
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
		write(page, metrics, right - 8, at, money(sheet, amount), {
			face: place === 0 ? 'bold' : 'regular',
			size: place === 0 ? 13 : 10,
			color: late ? brick : ink,
			align: 'right',
		})
	})
	sheet.y = Math.max(left, y + owed.length * 16 + 6) + 14
}

type Cell = [x: number, text: string, align: 'left' | 'right']

function head(sheet: Sheet, cells: Cell[]): void {
	const y = sheet.y + 9
	for (const [x, text, align] of cells) write(sheet.page, sheet.metrics, x, y, text, { size: 8.5, color: mute, align })
	sheet.page.push({ type: 'rule', x: margin, y: y + 5, width: right - margin, thickness: 0.8, color: ink })
	sheet.y = y + 7
}

function items(sheet: Sheet): void {
	const { content } = sheet
	const headed = (title: string) => () => {
		if (title) {
			write(sheet.page, sheet.metrics, margin, sheet.y + 11, title, { face: 'bold', size: 9 })
			sheet.y += 12
		}
		head(sheet, [
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
		sheet.drawHead = headed(title)
		need(sheet, 48)
		sheet.drawHead()
		for (const item of part) row(sheet, item)
		sheet.y += 8
	}
}

const kindWords: Partial<Record<StatementItem['kind'], string>> = {
	payment: 'payment',
	charge: 'charge',
	adjustment: 'adjustment',
}

function row(sheet: Sheet, item: StatementItem): void {
	const { metrics, content } = sheet
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
	need(sheet, height)
	const { page } = sheet
	const y = sheet.y + 11
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
	sheet.y += height
	page.push({ type: 'rule', x: margin, y: sheet.y, width: right - margin, thickness: 0.4, color: hair })
}

function movements(sheet: Sheet): void {
	const { content, metrics } = sheet
	const { locale } = content
	sheet.drawHead = () =>
		head(sheet, [
			[column.day, 'Date', 'left'],
			[column.number, 'What happened', 'left'],
			[column.amount, 'Amount', 'right'],
			[column.open, `Balance, ${content.currency}`, 'right'],
		])
	sheet.drawHead()
	const line = (day: string, words: string, change: string, balance: string, strong = false) => {
		const face = strong ? 'bold' : 'regular'
		const lines = wrap(words, 290, metrics, face, 9)
		const height = lines.length * 11.5 + 5
		need(sheet, height)
		const y = sheet.y + 11
		write(sheet.page, metrics, column.day, y, formatDay(day, locale))
		lines.forEach((text, place) => {
			write(sheet.page, metrics, column.number, y + place * 11.5, text, { face })
		})
		if (change) write(sheet.page, metrics, column.amount, y, formatAmount(change, locale), { align: 'right' })
		write(sheet.page, metrics, column.open, y, formatAmount(balance, locale), { align: 'right', face })
		sheet.y += height
		sheet.page.push({ type: 'rule', x: margin, y: sheet.y, width: right - margin, thickness: 0.4, color: hair })
	}
	line(content.since, 'Opening balance', '', content.opening, true)
	for (const { day, words, change, balance } of content.movements) line(day, words, change, balance)
	line(content.day, 'Closing balance', '', content.balance, true)
	sheet.y += 8
}

/** The amounts by how late they are, and what does not count among them. */
function lateness(sheet: Sheet): void {
	const { content, metrics } = sheet
	need(sheet, 74)
	const { page } = sheet
	sheet.y += 10
	write(page, metrics, margin, sheet.y + 6, 'By days past due', { size: 8.5, color: mute })
	const width = (right - margin) / content.buckets.length
	page.push({ type: 'rule', x: margin, y: sheet.y + 12, width: right - margin, thickness: 0.8, color: ink })
	content.buckets.forEach(({ name, amount }, place) => {
		const x = margin + (place + 1) * width - 6
		write(page, metrics, x, sheet.y + 25, name, { size: 8.5, color: mute, align: 'right' })
		write(page, metrics, x, sheet.y + 39, formatAmount(amount, content.locale), {
			align: 'right',
			color: place > 0 && !isZero(amount) ? brick : ink,
		})
	})
	sheet.y += 48
	page.push({ type: 'rule', x: margin, y: sheet.y, width: right - margin, thickness: 0.4, color: hair })
	const rest = [
		isZero(content.unapplied) ? '' : `${money(sheet, content.unapplied)} stand to your credit and are not yet applied.`,
		isZero(content.disputed) ? '' : `${money(sheet, content.disputed)} are in dispute and are not counted as past due.`,
	].filter(Boolean)
	if (rest.length === 0) return
	sheet.y += 13
	write(page, metrics, margin, sheet.y, rest.join(' '), { size: 8.5, color: mute })
}

function payment(sheet: Sheet): void {
	const { content, metrics } = sheet
	const { bank } = content.issuer
	const owed = !content.total.startsWith('-') && !isZero(content.total)
	const late = !isZero(content.pastDue)
	const ask = !owed
		? 'Nothing is to be paid on this statement.'
		: late
			? `Please pay what is past due, ${money(sheet, content.pastDue)}, now, quoting ${content.customer.number}.`
			: `Nothing is past due. Please pay each item by its due date, quoting ${content.customer.number}.`
	need(sheet, 44 + bank.length * 12)
	sheet.y += 24
	write(sheet.page, metrics, margin, sheet.y, owed ? 'How to pay' : 'Payment', { size: 8.5, color: mute })
	sheet.y += 14
	for (const [index, line] of [ask, ...(owed ? bank : [])].entries()) {
		write(sheet.page, metrics, margin, sheet.y, line, { face: index === 0 ? 'bold' : 'regular', size: 9.5 })
		sheet.y += 13
	}
}

/** To be cut off and returned with a payment. */
function slip(sheet: Sheet): void {
	const { content, metrics } = sheet
	if (content.total.startsWith('-') || isZero(content.total)) return
	need(sheet, slipHeight + 12)
	const { page } = sheet
	const top = paper.height - 78 - slipHeight
	for (let x = margin; x < right; x += 7) page.push({ type: 'rule', x, y: top, width: 4, thickness: 0.6, color: mute })
	write(page, metrics, margin, top + 16, 'To return with your payment', { face: 'bold', size: 9.5 })
	write(page, metrics, right, top + 16, content.issuer.name, { size: 9, color: mute, align: 'right' })
	const facts: [string, string][] = [
		['From', `${content.customer.name}, ${content.customer.number}`],
		['Statement', `${content.number || 'without a number yet'} as of ${formatDay(content.day, content.locale)}`],
		['Asked for', money(sheet, content.total)],
	]
	facts.forEach(([label, value], place) => {
		write(page, metrics, margin, top + 34 + place * 14, label, { color: mute })
		const [first = ''] = wrap(value, 260, metrics, 'regular', 9)
		write(page, metrics, margin + 62, top + 34 + place * 14, first)
	})
	write(page, metrics, 400, top + 34, `Amount paid, ${content.currency}`, { color: mute })
	page.push({ type: 'rule', x: 400, y: top + 62, width: right - 400, thickness: 0.6, color: ink })
}
