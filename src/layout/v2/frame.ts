import { type BillContent, shownNumber } from '@/core/document'
import type { StatementContent } from '@/core/statement'
import { a4, type Face, hair, ink, type Metrics, mute, type Page, wrap, write } from './page'

export const margin = 52
export const right = a4.width - margin
export const bottom = a4.height - 78
export const brick = 'a3341f'
const full = right - margin

/** What every document says about itself. */
type Framed = Pick<BillContent | StatementContent, 'number' | 'revision' | 'issuer' | 'customer' | 'locale'>
/** A document being laid out: its pages, and how far down the last one it has come. */
export type Flow<Content extends Framed = Framed> = {
	pages: Page[]
	page: Page
	y: number
	content: Content
	metrics: Metrics
	/** What its kind is called. */
	name: string
	drawHead: () => void
}
/** Width ÷ height of the logo, when there is one. */
export type LogoShape = { sha256: string; ratio: number } | null

/** Begins a document with its first page. */
export function newFlow<Content extends Framed>(content: Content, metrics: Metrics, name: string): Flow<Content> {
	const first: Page = []
	return { pages: [first], page: first, y: margin, content, metrics, name, drawHead: () => {} }
}

/** Height that a page after the first has below its running head. */
export const pageHeight = bottom - margin - 30

/** Goes to a new page when `height` points no longer fit; what is higher than a page begins where it is. */
export function need(flow: Flow, height: number): void {
	if (flow.y + Math.min(height, pageHeight) <= bottom) return
	flow.page = []
	flow.pages.push(flow.page)
	flow.y = margin
	const { page, content, metrics, name } = flow
	const title = `${name} ${shownNumber(content) || 'without a number yet'}`
	const titles = wrap(title, 250, metrics, 'regular', 10)
	const names = wrap(content.issuer.name, 225, metrics, 'bold', 10)
	names.forEach((line, index) => {
		write(page, metrics, margin, flow.y + 9 + index * 12, line, { face: 'bold', size: 10 })
	})
	titles.forEach((line, index) => {
		write(page, metrics, right, flow.y + 9 + index * 12, line, { size: 10, align: 'right' })
	})
	flow.y += 18 + 12 * Math.max(titles.length, names.length)
	flow.drawHead()
}

export type Block = { text: string; size?: number; face?: Face; color?: string; lead?: number }

/** Lines of text one below the other in a width, from `x` (or to it, aligned right), over pages where need be; gives where they end. */
export function block(
	flow: Flow,
	at: { x: number; y: number; width: number; align?: 'left' | 'right' },
	parts: Block[],
): number {
	flow.y = at.y
	for (const { text, size = 9, face = 'regular', color = ink, lead = size * 1.28 } of parts) {
		for (const line of wrap(text, at.width, flow.metrics, face, size)) {
			need(flow, lead)
			write(flow.page, flow.metrics, at.x, flow.y + size, line, { size, face, color, align: at.align ?? 'left' })
			flow.y += lead
		}
	}
	return flow.y
}

/** Two columns beside each other from the same height; goes on below the longer. */
export function beside(flow: Flow, ...columns: (() => void)[]): void {
	const start = { page: flow.page, index: flow.pages.length - 1, y: flow.y }
	let end = { index: start.index, y: start.y }
	for (const column of columns) {
		flow.page = flow.pages[start.index] ?? start.page
		flow.y = start.y
		column()
		const index = flow.pages.indexOf(flow.page)
		if (index > end.index || (index === end.index && flow.y > end.y)) end = { index, y: flow.y }
	}
	flow.page = flow.pages[end.index] ?? flow.page
	flow.y = end.y
}

/** Draws the firm's letterhead on the first page. */
export function letterhead(flow: Flow, logo: LogoShape): void {
	const { page, content, name } = flow
	const { issuer } = content
	const lines = [
		...issuer.address,
		issuer.country,
		issuer.phone,
		issuer.email,
		issuer.taxNumber && `Tax number ${issuer.taxNumber}`,
	].filter(Boolean)
	beside(
		flow,
		() => {
			if (logo) {
				const height = Math.min(46, 170 / logo.ratio)
				page.push({ type: 'image', x: margin, y: margin - 8, width: height * logo.ratio, height, sha256: logo.sha256 })
				flow.y += height
			} else block(flow, { x: margin, y: flow.y - 5, width: 245 }, [{ text: issuer.name, size: 17, face: 'bold' }])
		},
		() => {
			block(flow, { x: right, y: flow.y - 10, width: 230, align: 'right' }, [
				{ text: name, size: 24, face: 'bold', lead: 33 },
				{ text: issuer.name, size: 8.5, face: 'bold' },
				...lines.map((text) => ({ text, size: 8.5, color: mute })),
			])
		},
	)
	flow.y = Math.max(flow.y, margin + 76) + 8
}

/** To whom it goes on the left, below a rule, and facts about it on the right; below the facts, what it comes to in a box. */
export function parties(flow: Flow, facts: Fact[], sums: Sum[]): void {
	const { customer } = flow.content
	need(flow, 90)
	flow.page.push({ type: 'rule', x: margin, y: flow.y, width: full, thickness: 1.2, color: ink })
	flow.y += 10
	beside(
		flow,
		() => {
			block(flow, { x: margin, y: flow.y, width: 245 }, [
				{ text: 'To', size: 8.5, color: mute, lead: 13 },
				{ text: customer.name, size: 11, face: 'bold' },
				...customer.address.map((text) => ({ text, size: 10 })),
				...(customer.taxNumber ? [{ text: `Tax number ${customer.taxNumber}`, size: 8.5, color: mute, lead: 14 }] : []),
			])
		},
		() => {
			for (const { label, value, color = ink, face = 'regular' } of facts) {
				const start = flow.y
				beside(
					flow,
					() => {
						block(flow, { x: 330, y: start, width: 84 }, [{ text: label, color: mute, lead: 13 }])
					},
					() => {
						block(flow, { x: 420, y: start, width: right - 420 }, [{ text: value, color, face, lead: 13 }])
					},
				)
			}
			flow.y += 6
			sumBox(flow, sums)
		},
	)
	flow.y += 14
}

export type Fact = { label: string; value: string; color?: string; face?: Face }
export type Sum = { label: string; amount: string; strong: boolean; color?: string }

function sumBox(flow: Flow, sums: Sum[]): void {
	const { metrics } = flow
	const sizes = sums.map(({ strong }) => (strong ? 14 : 10))
	const rows = sums.map(({ label, amount, strong }, index) => {
		const size = sizes[index] ?? 10
		const width = metrics.width(amount, strong ? 'bold' : 'regular', size)
		// An amount that leaves its label no room stands below it.
		const below = width > right - 322 - 24 - metrics.width(label, strong ? 'bold' : 'regular', 9)
		return {
			size,
			below,
			labels: wrap(label, below ? right - 338 : right - 346 - width, metrics, strong ? 'bold' : 'regular', 9),
		}
	})
	const heights = rows.map(
		({ size, below, labels }) => Math.max(size * 1.35, labels.length * 11.5) + (below ? size * 1.35 : 0),
	)
	const height = heights.reduce((sum, one) => sum + one, 0) + 10
	need(flow, height)
	flow.page.push({ type: 'box', x: 322, y: flow.y, width: right - 322, height, color: 'f3efe4' })
	let y = flow.y + 5
	sums.forEach(({ amount, strong, color = ink }, index) => {
		const { size = 10, below = false, labels = [] } = rows[index] ?? {}
		labels.forEach((line, place) => {
			write(flow.page, metrics, 330, y + (below ? 10 : size) + place * 11.5, line, {
				face: strong ? 'bold' : 'regular',
				color: strong ? ink : mute,
			})
		})
		const at = below ? y + labels.length * 11.5 + size : y + size
		write(flow.page, metrics, right - 8, at, amount, { face: strong ? 'bold' : 'regular', size, color, align: 'right' })
		y += heights[index] ?? 0
	})
	flow.y += height
}

/** The firm's closing words where they are too long for the foot of every page. */
export function closing(flow: Flow): void {
	const words = flow.content.issuer.closingWords
	if (footLines(flow).length <= 2) return
	flow.y += 14
	block(flow, { x: margin, y: flow.y, width: full }, [{ text: words, size: 8.5, color: mute }])
}

const footLines = ({ content, metrics }: Flow): string[] =>
	wrap(content.issuer.closingWords, full - 90, metrics, 'regular', 8.5)

/** Puts its foot on each page, and the draft mark while it has no number. */
export function finish(flow: Flow): Page[] {
	const closing = footLines(flow)
	flow.pages.forEach((page, index) => {
		const y = a4.height - 52
		page.push({ type: 'rule', x: margin, y: y - 12, width: full, thickness: 0.4, color: hair })
		if (closing.length <= 2)
			closing.forEach((line, place) => {
				write(page, flow.metrics, margin, y + place * 11, line, { size: 8.5, color: mute })
			})
		write(page, flow.metrics, right, y, `Page ${index + 1} of ${flow.pages.length}`, {
			size: 8.5,
			color: mute,
			align: 'right',
		})
		if (!flow.content.number) draftMark(page, flow.metrics)
	})
	return flow.pages
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
		x: a4.width / 2 - (Math.cos(turn) * width) / 2,
		y: a4.height / 2 + 60 + (Math.sin(turn) * width) / 2,
	})
}
