import { type ChildNode, DomHandler, type Element, isTag, isText } from 'domhandler'
import { getOuterHTML, textContent } from 'domutils'
import { Parser } from 'htmlparser2'
import { refuse } from '@/core/refusal'
import { pictureMark } from '../brackets'
import { type Builder, finished, notTooLong } from '../build'
import type { Block, Form, Inline, Table } from '../form'
import { colorOf, lengthOf, ruleOf, type StyleSheets, styleSheetsOf } from './css'
import { hidden, type Look, listed, lookOf, type Place } from './look'
import { readTable } from './table'

const blockNames = new Set(
	'address,article,aside,blockquote,body,center,dd,div,dl,dt,fieldset,figure,figcaption,footer,form,h1,h2,h3,h4,h5,h6,header,hr,html,li,main,nav,ol,p,pre,section,table,ul'.split(
		',',
	),
)
const left = 'script,noscript,iframe,object,embed,video,audio,canvas,applet,frame,frameset'
const leftOut = new Set(left.split(','))
const silent = new Set(['style', 'head', 'title', 'meta', 'link', 'base', 'template', 'datalist'])
const mostDeep = 150
const mostTags = 200_000

/** Puts the page together, and gives up where it is nested or large without measure. */
class Bounded extends DomHandler {
	private count = 0
	override onopentag(name: string, attributes: Record<string, string>): void {
		if (this.tagStack.length > mostDeep)
			refuse('file', 'The page is nested more than 150 deep. Save it again, simpler.')
		if (++this.count > mostTags)
			refuse('file', 'The page has more than 200,000 parts. Keep in it what every customer gets.')
		super.onopentag(name, attributes)
	}
}

/**
 * Reads a page in HTML with the style sheets that stand in it. Nothing that it points at is fetched, and nothing in it runs.
 * @throws a refusal (`refuse`) where the page is no form, or larger than one
 */
export function readHtml(text: string, builder: Builder): Form {
	const handler = new Bounded()
	new Parser(handler, { decodeEntities: true }).end(text)
	const document = handler.root
	const elements = (names: readonly string[]): Element[] => {
		const out: Element[] = []
		const walk = (nodes: readonly ChildNode[]) => {
			for (const node of nodes) {
				if (!isTag(node)) continue
				if (names.includes(node.name)) out.push(node)
				walk(node.children)
			}
		}
		walk(document.children)
		return out
	}
	const sheets = styleSheetsOf(
		document,
		elements(['style']).map((one) => textContent(one)),
	)
	if (sheets.passedOver > 0)
		builder.note(
			`${sheets.passedOver} rules of its style sheets are passed over: there are too many for so long a page.`,
		)
	const linked = elements(['link']).filter(({ attribs }) => /stylesheet/i.test(attribs.rel ?? ''))
	for (const href of [...linked.map(({ attribs }) => attribs.href ?? ''), ...sheets.elsewhere])
		builder.note(`A style sheet lies elsewhere (${href.slice(0, 80)}) and is not fetched. Put it into the page itself.`)
	const gone = [...new Set(elements([...leftOut]).map(({ name }) => name))]
	if (gone.length > 0) builder.note(`What runs or is shown by other programs is left out: ${gone.join(', ')}.`)
	const [html] = elements(['html'])
	const [body] = elements(['body'])
	const root = body ?? html ?? document
	const base: Look = { style: { size: 12 }, left: 0 }
	const look = body ? lookOf(body, html ? lookOf(html, base, sheets) : base, sheets) : base
	const direct = root.children.filter(isTag)
	const bands = (name: string) => direct.filter((one) => one.name === name)
	const width = sheets.page.get('size')
	const size = sizeOf(width)
	const margins = Object.fromEntries(
		(['top', 'right', 'bottom', 'left'] as const).map((side) => [
			side,
			lengthOf(sheets.page.get(`margin-${side}`)) ?? 56.7,
		]),
	) as Form['page']['margins']
	const place: Place = { builder, sheets, width: size.width - margins.left - margins.right }
	const readAll = (nodes: readonly ChildNode[]) => readBlocks(nodes, look, place)
	const head = readAll(bands('header'))
	const blocks = readAll(root.children.filter((node) => !isTag(node) || !['header', 'footer'].includes(node.name)))
	const foot = readAll(bands('footer'))
	if (head.length + blocks.length + foot.length === 0)
		return refuse('file', 'There is no text in the page. Choose the page that the form is.')
	notTooLong(blocks)
	return {
		from: 'html',
		page: {
			...size,
			margins: {
				...margins,
				top: margins.top + (head.length > 0 ? 20 : 0),
				bottom: margins.bottom + (foot.length > 0 ? 20 : 0),
			},
			headAt: margins.top,
			footAt: margins.bottom,
		},
		language: html?.attribs.lang ?? '',
		head: { every: head },
		body: blocks,
		foot: { every: foot },
		notes: builder.notes,
	}
}

function sizeOf(text = ''): { width: number; height: number } {
	const sizes: Record<string, [number, number]> = { a4: [595.3, 841.9], a5: [419.5, 595.3], letter: [612, 792] }
	const words = text.toLowerCase().split(/\s+/)
	const lengths = words.map((word) => lengthOf(word)).filter((one) => one !== undefined)
	const [wide = 595.3, high = 841.9] = sizes[words.find((word) => sizes[word]) ?? ''] ?? lengths
	return words.includes('landscape') ? { width: high, height: wide } : { width: wide, height: high }
}

/** What stands in an element, as blocks one below the other. */
function readBlocks(nodes: readonly ChildNode[], look: Look, place: Place): Block[] {
	const { builder, sheets } = place
	const out: Block[] = []
	let inlines: Inline[] = []
	const flush = () => {
		const own = tidy(inlines, look.pre ?? false)
		inlines = []
		if (own.length === 0) return
		const id = builder.nextId('p')
		builder.block = id
		out.push(
			finished(
				{
					is: 'paragraph',
					id,
					inlines: own,
					...(look.align && look.align !== 'left' ? { align: look.align } : {}),
					...(look.lead ? { lead: look.lead } : {}),
					...(look.left > 0 ? { left: look.left } : {}),
				},
				builder,
			),
		)
	}
	for (const node of nodes) {
		if (isText(node)) {
			inlines.push({ is: 'text', text: node.data, style: look.style })
			continue
		}
		if (!isTag(node) || silent.has(node.name) || leftOut.has(node.name)) continue
		if (hidden(node, sheets)) {
			if (textContent(node).trim() !== '') builder.note('Hidden text of the form is left out.')
			continue
		}
		if (blockNames.has(node.name) || holdsBlocks(node, sheets)) {
			flush()
			out.push(...readBlock(node, look, place))
		} else readInline(node, look, place, inlines)
	}
	flush()
	return out
}

/** Whether a piece of a line holds, against the rules, what stands in lines of its own. */
const holdsBlocks = (element: Element, sheets: StyleSheets): boolean =>
	sheets.of(element).get('display') === 'block' ||
	element.children.some((child) => isTag(child) && (blockNames.has(child.name) || holdsBlocks(child, sheets)))

function readBlock(element: Element, before: Look, place: Place): Block[] {
	const { builder, sheets } = place
	const said = sheets.of(element)
	const look = lookOf(element, before, sheets)
	const em = look.style.size ?? 12
	if (element.name === 'table') {
		const captions = element.children.filter(isTag).filter(({ name }) => name === 'caption')
		return [
			...readBlocks(
				captions.flatMap(({ children }) => children),
				look,
				place,
			),
			readTable(element, look, place, readBlocks),
		]
	}
	if (element.name === 'hr') {
		const rule = ruleOf(said.get('border-top')) ?? { thickness: 0.75, color: colorOf(said.get('color')) ?? '808080' }
		return [{ is: 'paragraph', id: builder.nextId('p'), inlines: [], ruleBelow: rule, above: 4, below: 4 }]
	}
	const margin = (side: string, usual: number) => lengthOf(said.get(`margin-${side}`), em, place.width) ?? usual
	const own = /^(p|h\d|ul|ol|blockquote|pre)$/.test(element.name) ? em : 0
	const above = margin('top', own)
	const below = margin('bottom', own)
	const fill = colorOf(said.get('background-color'))
	const ruleAbove = ruleOf(said.get('border-top'))
	const ruleBelow = ruleOf(said.get('border-bottom'))
	const floats = /left|right/.test(said.get('float') ?? '') || /absolute|fixed/.test(said.get('position') ?? '')
	const beside = /flex|grid/.test(said.get('display') ?? '')
		? element.children.filter(isTag).filter((one) => !hidden(one, sheets))
		: []
	const inner: Look = {
		...look,
		left:
			element.name === 'li'
				? 0
				: before.left +
					Math.max(0, margin('left', element.name === 'blockquote' ? 30 : 0)) +
					Math.max(0, lengthOf(said.get('padding-left'), em) ?? 0) *
						(element.name === 'ul' || element.name === 'ol' ? 0 : 1),
	}
	const blocks =
		beside.length > 1 && said.get('flex-direction') !== 'column'
			? [sideBySide(beside, inner, place)]
			: readBlocks(element.children, inner, place)
	const first = blocks[0]
	const last = blocks.at(-1)
	if (floats && first) {
		builder.block = first.id
		builder.note('What floats or is set to a place stands in the flow of the text.')
	}
	if (element.name === 'li' && first?.is === 'paragraph' && !first.list) Object.assign(first, listed(element, before))
	if (first?.is === 'paragraph') {
		first.above = Math.max(first.above ?? 0, above)
		if (ruleAbove) first.ruleAbove = ruleAbove
		if (/page|always/.test(said.get('break-before') ?? said.get('page-break-before') ?? '')) first.page = true
	}
	if (last?.is === 'paragraph') {
		last.below = Math.max(last.below ?? 0, below)
		if (ruleBelow) last.ruleBelow = ruleBelow
	}
	if (fill) for (const block of blocks) if (block.is === 'paragraph' && !block.fill) block.fill = fill
	if (/page|always/.test(said.get('break-after') ?? said.get('page-break-after') ?? ''))
		blocks.push({ is: 'paragraph', id: builder.nextId('p'), inlines: [], page: true })
	return blocks
}

/** Parts that a style sheet puts beside each other, as a table of one row. */
function sideBySide(parts: readonly Element[], look: Look, place: Place): Table {
	const id = place.builder.nextId('t')
	const widths = parts.map(
		(part) => lengthOf(place.sheets.of(part).get('width'), 12, place.width) ?? place.width / parts.length,
	)
	return {
		is: 'table',
		id,
		columns: widths,
		rows: [{ cells: parts.map((part) => ({ blocks: readBlock(part, { ...look, left: 0 }, place), span: 1 })) }],
		lines: 'none',
		pad: 4,
	}
}

function readInline(element: Element, before: Look, place: Place, out: Inline[]): void {
	const { builder, sheets } = place
	const { name, attribs } = element
	const look = lookOf(element, before, sheets)
	const field =
		attribs['data-field'] ??
		(/^(input|textarea|select|slot|output)$/.test(name) ? (attribs.name ?? attribs.placeholder) : undefined)
	if (name === 'br') {
		out.push({ is: 'break' })
		return
	}
	if (field?.trim()) {
		const shown = textContent(element).trim() || attribs.value || attribs.placeholder || `[${field.trim()}]`
		out.push({ is: 'mark', manner: 'control', name: field.trim(), shown, style: look.style })
		return
	}
	if (name === 'input' || name === 'textarea' || name === 'select' || name === 'button') {
		builder.note('A field to be filled in has no name and is left out.')
		return
	}
	if (name === 'img' || name === 'svg') {
		const picture = pictureOf(element, place)
		if (picture) out.push(picture)
		return
	}
	if (name === 'a' && /^(https?|ftp|mailto):/i.test(attribs.href ?? ''))
		builder.note(`A link leads to ${(attribs.href ?? '').slice(0, 80)}: its words stand, without it.`)
	if (name === 'sub' || name === 'sup' || name === 's' || name === 'del' || name === 'strike')
		builder.note('Letters that are struck through, raised or lowered stand as others do.')
	for (const child of element.children) {
		if (isText(child))
			out.push({ is: 'text', text: look.pre ? child.data.replaceAll('\n', '\v') : child.data, style: look.style })
		else if (isTag(child) && !silent.has(child.name) && !leftOut.has(child.name) && !hidden(child, sheets))
			readInline(child, look, place, out)
	}
}

function pictureOf(element: Element, { builder, sheets, width }: Place): Inline | null {
	const said = sheets.of(element)
	const { src = '', alt = '', width: wide, height: high } = element.attribs
	const size = (side: 'width' | 'height', own: string | undefined) =>
		lengthOf(said.get(side), 12, side === 'width' ? width : undefined) ??
		(own && /^\d+/.test(own) ? Number.parseFloat(own) * 0.75 : undefined)
	const match = /^data:image\/(?:png|jpe?g|svg\+xml);base64,([A-Za-z0-9+/=\s]+)$/.exec(src)
	const bytes =
		element.name === 'svg'
			? Buffer.from(
					getOuterHTML(element, { xmlMode: true }).replace(
						/^<svg(?![^>]*xmlns=)/,
						'<svg xmlns="http://www.w3.org/2000/svg"',
					),
				)
			: match
				? Buffer.from(match[1] ?? '', 'base64')
				: null
	if (!bytes) {
		builder.note(`A picture lies elsewhere (${src.slice(0, 80)}) and is not fetched. Put it into the form itself.`)
		return null
	}
	const sha256 = builder.picture(alt, bytes)
	if (!sha256) return null
	const [w, h] = [size('width', wide), size('height', high)]
	return {
		is: 'picture',
		sha256,
		width: w ?? (h ? h * 2 : 120),
		height: h ?? (w ? w : 60),
		...pictureMark(alt),
	}
}

/** White space of the file as one blank, none at the ends of lines. */
function tidy(inlines: readonly Inline[], pre: boolean): Inline[] {
	const out: Inline[] = []
	let blank = true
	for (const inline of inlines) {
		if (inline.is !== 'text') {
			out.push(inline)
			blank = inline.is === 'break'
			continue
		}
		if (pre) {
			inline.text.split(/[\n\v]/).forEach((text, index) => {
				if (index > 0) out.push({ is: 'break' })
				if (text !== '') out.push({ ...inline, text })
			})
			continue
		}
		let text = inline.text.replace(/[ \t\r\n\f\v]+/g, ' ')
		if (blank) text = text.trimStart()
		if (text === '') continue
		out.push({ ...inline, text })
		blank = text.endsWith(' ')
	}
	while (out.length > 0) {
		const last = out.at(-1)
		if (last?.is === 'break') out.pop()
		else if (last?.is === 'text' && last.text.trimEnd() !== last.text) {
			last.text = last.text.trimEnd()
			if (last.text === '') out.pop()
			else break
		} else break
	}
	return out
}
