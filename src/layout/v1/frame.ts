import { type BillContent, shownNumber } from '@/core/document'
import type { StatementContent } from '@/core/statement'
import { hair, ink, type Metrics, mute, type Page, paper, wrap, write } from './page'

// Documents issued with layout version 1 are drawn by this folder alone, byte for byte as when they were made: nothing here changes.
const kindName: Record<string, string> = { invoice: 'Invoice', 'credit-note': 'Credit note', statement: 'Statement' }

export const margin = 52
export const right = paper.width - margin
export const bottom = paper.height - 78
export const brick = 'a3341f'

/** What every document says about itself. */
type Framed = Pick<BillContent | StatementContent, 'kind' | 'number' | 'revision' | 'issuer' | 'customer' | 'locale'>
/** A document being laid out: its pages, and how far down the last one it has come. */
export type Canvas<Content extends Framed = Framed> = {
	pages: Page[]
	page: Page
	y: number
	content: Content
	metrics: Metrics
	drawHead: () => void
}
/** Width ÷ height of the logo, when there is one. */
export type LogoShape = { sha256: string; ratio: number } | null

/** Begins a document with its first page. */
export function newCanvas<Content extends Framed>(content: Content, metrics: Metrics): Canvas<Content> {
	const first: Page = []
	return { pages: [first], page: first, y: margin, content, metrics, drawHead: () => {} }
}

/** Goes to a new page when `height` points no longer fit. */
export function need(canvas: Canvas, height: number): void {
	if (canvas.y + height <= bottom) return
	canvas.page = []
	canvas.pages.push(canvas.page)
	canvas.y = margin
	const { page, content, metrics } = canvas
	write(page, metrics, margin, canvas.y + 9, content.issuer.name, { face: 'bold', size: 10 })
	write(
		page,
		metrics,
		right,
		canvas.y + 9,
		`${kindName[content.kind]} ${shownNumber(content) || 'without a number yet'}`,
		{
			size: 10,
			align: 'right',
		},
	)
	canvas.y += 30
	canvas.drawHead()
}

/** Draws the firm's letterhead on the first page. */
export function letterhead(canvas: Canvas, logo: LogoShape): void {
	const { page, metrics, content } = canvas
	const { issuer } = content
	if (logo) {
		const height = Math.min(46, 170 / logo.ratio)
		page.push({ type: 'image', x: margin, y: margin - 8, width: height * logo.ratio, height, sha256: logo.sha256 })
	} else {
		wrap(issuer.name, 300, metrics, 'bold', 17).forEach((line, index) => {
			write(page, metrics, margin, margin + 12 + index * 20, line, { face: 'bold', size: 17 })
		})
	}
	write(page, metrics, right, margin + 14, kindName[content.kind] ?? '', { face: 'bold', size: 24, align: 'right' })
	let y = margin + 32
	const lines = [
		issuer.name,
		...issuer.address,
		issuer.phone,
		issuer.email,
		issuer.taxNumber && `Tax number ${issuer.taxNumber}`,
	]
	for (const [index, line] of lines.filter(Boolean).entries()) {
		write(page, metrics, right, y, line, {
			size: 8.5,
			color: index === 0 ? ink : mute,
			align: 'right',
			face: index === 0 ? 'bold' : 'regular',
		})
		y += 11
	}
	canvas.y = Math.max(y, margin + 76) + 6
}

/** To whom it goes, below a rule; gives where it ends. */
export function recipient({ page, metrics, content, y: top }: Canvas): number {
	const { customer } = content
	page.push({ type: 'rule', x: margin, y: top, width: right - margin, thickness: 1.2, color: ink })
	let left = top + 18
	write(page, metrics, margin, left, 'To', { size: 8.5, color: mute })
	left += 14
	for (const line of wrap(customer.name, 235, metrics, 'bold', 11)) {
		write(page, metrics, margin, left, line, { face: 'bold', size: 11 })
		left += 13.5
	}
	for (const line of customer.address.flatMap((part) => wrap(part, 235, metrics, 'regular', 10))) {
		write(page, metrics, margin, left, line, { size: 10 })
		left += 12.5
	}
	if (customer.taxNumber) {
		write(page, metrics, margin, left + 3, `Tax number ${customer.taxNumber}`, { size: 8.5, color: mute })
		left += 14
	}
	return left
}

/** Puts its foot on each page, and the draft mark while it has no number. */
export function finish(canvas: Canvas): Page[] {
	canvas.pages.forEach((page, index) => {
		foot(page, canvas, index + 1)
		if (!canvas.content.number) draftMark(page, canvas.metrics)
	})
	return canvas.pages
}

function foot(page: Page, { content, metrics, pages }: Canvas, count: number): void {
	const y = paper.height - 52
	page.push({ type: 'rule', x: margin, y: y - 12, width: right - margin, thickness: 0.4, color: hair })
	wrap(content.issuer.closingWords, right - margin - 90, metrics, 'regular', 8.5)
		.slice(0, 2)
		.forEach((line, index) => {
			write(page, metrics, margin, y + index * 11, line, { size: 8.5, color: mute })
		})
	write(page, metrics, right, y, `Page ${count} of ${pages.length}`, { size: 8.5, color: mute, align: 'right' })
}

function draftMark(page: Page, metrics: Metrics): void {
	const text = 'Draft'
	const size = 150
	const width = metrics.width(text, 'bold', size)
	const turn = Math.PI / 5
	page.unshift({
		type: 'text',
		text,
		face: 'bold',
		size,
		color: 'f3ece0',
		turn,
		x: paper.width / 2 - (Math.cos(turn) * width) / 2,
		y: paper.height / 2 + 60 + (Math.sin(turn) * width) / 2,
	})
}
