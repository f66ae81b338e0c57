import { all, type Element, readTree, under, within } from '@/archive/tree'
import { type Archive, bytesOf } from '@/archive/zip'
import { refuse } from '@/core/refusal'
import { type Builder, finished, notTooLong, withHanging } from '../build'
import {
	type Band,
	type Block,
	type Cell,
	type Form,
	type Paragraph,
	type Row,
	type Rule,
	type Table,
	usualRule,
} from '../form'
import { listCounter } from '../numbers'
import { colorOf, lengthOf, ruleOf, type Styles, stylesOf } from './styles'
import { type Place, readText } from './text'

/**
 * Reads a text document in the format of ISO/IEC 26300 (OpenDocument).
 * @throws a refusal (`refuse`) where it is protected, or no text document
 */
export async function readOdt(archive: Archive, builder: Builder): Promise<Form> {
	const tree = async (name: string) =>
		archive.names.includes(name) ? readTree(await archive.open(name), 'The form') : undefined
	const manifest = await tree('META-INF/manifest.xml')
	if (all(manifest, 'encryption-data').length > 0)
		return refuse('file', 'The form is protected with a password. Save it without one and choose the new file.')
	const content = await tree('content.xml')
	const text = under(content, 'body', 'text')
	if (!text)
		return refuse('file', 'There is no text document in the file. Save the form as ODT and choose the new file.')
	const sheet = await tree('styles.xml')
	const styles = stylesOf(sheet, content)
	if (archive.names.some((name) => /^(Basic|Scripts)\//.test(name)))
		builder.note('The form has macros. They are left out.')
	const media = new Map<string, Buffer>()
	for (const one of all(content, 'image').concat(all(sheet, 'image'))) {
		const name = (one.attributes.href ?? '').replace(/^\.\//, '')
		if (archive.names.includes(name) && !media.has(name)) media.set(name, await bytesOf(archive, name))
	}
	const place: Place = {
		builder,
		styles,
		media,
		counter: listCounter(),
		blocks: (element) => readBlocks(element, place),
	}
	const body = readBlocks(text, place)
	notTooLong(body)

	const masters = within(under(sheet, 'master-styles'), 'master-page')
	const named = masterOf(text, styles)
	const master = masters.find(({ attributes }) => attributes['style:name'] === named) ?? masters[0]
	const layout = all(sheet, 'page-layout').find(
		({ attributes }) => (attributes['style:name'] ?? attributes.name) === master?.attributes['page-layout-name'],
	)
	const page = under(layout, 'page-layout-properties')?.attributes ?? {}
	const band = (name: 'header' | 'footer'): Band => {
		const of = (one: string): Block[] => {
			const element = under(master, one)
			const blocks = element ? readBlocks(element, place) : []
			return blocks.some((block) => block.is === 'table' || block.inlines.length > 0) ? blocks : []
		}
		const first = under(master, `${name}-first`)
		if (under(master, `${name}-left`))
			builder.note(`A ${name === 'header' ? 'head' : 'foot'} of left pages alone is left out.`)
		return first ? { every: of(name), first: of(`${name}-first`) } : { every: of(name) }
	}
	const head = band('header')
	const foot = band('footer')
	const margin = (side: string) => lengthOf(page[`margin-${side}`]) ?? lengthOf(page.margin) ?? 56.7
	const taken = (name: 'header' | 'footer', blocks: Band, side: string) => {
		const own = under(layout, `${name}-style`, 'header-footer-properties')?.attributes ?? {}
		const height = lengthOf(own['min-height']) ?? lengthOf(own.height) ?? 0
		return blocks.every.length + (blocks.first?.length ?? 0) === 0
			? 0
			: Math.max(height, 14) + (lengthOf(own[`margin-${side}`]) ?? 0)
	}
	if (Number(under(layout, 'page-layout-properties', 'columns')?.attributes['column-count'] ?? 1) > 1)
		builder.note('Text that runs in columns stands in one.')
	return {
		from: 'odt',
		page: {
			width: lengthOf(page['page-width']) ?? 595.3,
			height: lengthOf(page['page-height']) ?? 841.9,
			margins: {
				top: margin('top') + taken('header', head, 'bottom'),
				right: margin('right'),
				bottom: margin('bottom') + taken('footer', foot, 'top'),
				left: margin('left'),
			},
			headAt: margin('top'),
			footAt: margin('bottom'),
		},
		language: languageOf(styles),
		head,
		body,
		foot,
		notes: builder.notes,
	}
}

function languageOf(styles: Styles): string {
	const { language = '', country = '' } = styles.of('paragraph', undefined, 'text-properties')
	return language === 'none' ? '' : [language, country].filter((one) => one && one !== 'none').join('-')
}

/** The page that the first paragraph asks for, where it does. */
function masterOf(text: Element, styles: Styles): string | undefined {
	const first = within(text).find(({ name }) => name === 'p' || name === 'h' || name === 'table')
	const family = first?.name === 'table' ? 'table' : 'paragraph'
	return styles.element(family, first?.attributes['style-name'])?.attributes['master-page-name']
}

/** A list that paragraphs stand in: its style, and how deep within others of it. Of an item the first paragraph alone has its number. */
type List = { style: string | undefined; level: number; item?: { begun: boolean; startAt: number | undefined } }

function readBlocks(parent: Element, place: Place, list?: List): Block[] {
	const { builder } = place
	return within(parent).flatMap((element): Block[] => {
		switch (element.name) {
			case 'p':
			case 'h':
				return readParagraph(element, place, list)
			case 'list': {
				const own = { style: element.attributes['style-name'] ?? list?.style, level: (list?.level ?? 0) + 1 }
				const goesOn =
					element.attributes['continue-numbering'] === 'true' || element.attributes['continue-list'] !== undefined
				if (own.level === 1 && !goesOn) place.counter.begin(own.style ?? '')
				return within(element).flatMap((item) =>
					readBlocks(item, place, {
						...own,
						item: { begun: item.name === 'list-header', startAt: Number(item.attributes['start-value']) || undefined },
					}),
				)
			}
			case 'table':
				return [readTable(element, place)]
			case 'frame':
			case 'custom-shape':
			case 'g':
			case 'line':
			case 'rect': {
				// What hangs on the page and on no paragraph.
				const { hanging, inlines } = readText({ name: 'p', attributes: {}, children: [element] }, {}, place)
				const id = builder.nextId('p')
				return [...hanging, ...(inlines.length > 0 ? [{ is: 'paragraph' as const, id, inlines }] : [])]
			}
			case 'tracked-changes':
				if (all(element, 'changed-region').length > 0)
					builder.note('Changes that were being tracked are taken as accepted.')
				return []
			default:
				// Sections, indexes and whatever else paragraphs stand in.
				return readBlocks(element, place, list)
		}
	})
}

/** How a paragraph of a list begins. */
function listed(list: List | undefined, { styles, counter }: Place): Pick<Paragraph, 'list' | 'label'> {
	if (!list?.item || list.item.begun) return {}
	list.item.begun = true
	const levels = styles.list(list.style)
	if (!levels[list.level]) return { list: 'dots' }
	// Levels are counted from 1 here, from 0 there.
	return { list: 'numbers', label: counter.next(list.style ?? '', list.level - 1, levels.slice(1), list.item.startAt) }
}

function readParagraph(element: Element, place: Place, inList: List | undefined): Block[] {
	const { styles, builder } = place
	const id = builder.nextId('p')
	builder.block = id
	const name = element.attributes['style-name']
	const numbered = listed(inList, place)
	const look = styles.paragraph(name)
	const { inlines, hanging } = readText(element, styles.text(name, 'paragraph'), place)
	builder.block = id
	const align = { center: 'center' as const, end: 'right' as const, right: 'right' as const }[look['text-align'] ?? '']
	const number = (key: string) => lengthOf(look[key]) ?? 0
	const [above, below, left, right] = ['margin-top', 'margin-bottom', 'margin-left', 'margin-right'].map(number)
	const lead = /^(\d+)%$/.exec(look['line-height'] ?? '')?.[1]
	const fill = colorOf(look['background-color'])
	const [ruleAbove, ruleBelow] = [look['border-top'] ?? look.border, look['border-bottom'] ?? look.border].map(ruleOf)
	const tabs = styles.tabs(name)
	const paragraph: Paragraph = {
		is: 'paragraph',
		id,
		inlines,
		...(align ? { align } : {}),
		...(above ? { above } : {}),
		...(below ? { below } : {}),
		...(left && !numbered.list ? { left } : {}),
		...(right ? { right } : {}),
		...(lead ? { lead: Number(lead) / 100 } : {}),
		...numbered,
		...(tabs.length > 0 ? { tabs } : {}),
		...(look['break-before'] === 'page' || styles.element('paragraph', name)?.attributes['master-page-name']
			? { page: true as const }
			: {}),
		...(look['keep-with-next'] === 'always' ? { keep: true as const } : {}),
		...(fill ? { fill } : {}),
		...(ruleAbove ? { ruleAbove } : {}),
		...(ruleBelow ? { ruleBelow } : {}),
	}
	const after: Block[] =
		look['break-after'] === 'page' ? [{ is: 'paragraph', id: builder.nextId('p'), inlines: [], page: true }] : []
	return withHanging(hanging, [finished(paragraph, builder), ...after])
}

/** Rows of a table; those that the format itself repeats at the head of pages among them. */
const rowsIn = (element: Element, head = false): { row: Element; head: boolean }[] =>
	within(element).flatMap((one) => {
		if (one.name === 'table-row') return [{ row: one, head }]
		if (one.name === 'table-header-rows') return rowsIn(one, true)
		return one.name === 'table-rows' || one.name === 'table-row-group' ? rowsIn(one, head) : []
	})
const columnsIn = (element: Element): Element[] =>
	within(element).flatMap((one) =>
		one.name === 'table-column'
			? Array.from({ length: Math.min(60, Number(one.attributes['number-columns-repeated'] ?? 1) || 1) }, () => one)
			: ['table-columns', 'table-header-columns', 'table-column-group'].includes(one.name)
				? columnsIn(one)
				: [],
	)
const mostRows = 500

function readTable(element: Element, place: Place): Table {
	const { builder, styles } = place
	const id = builder.nextId('t')
	builder.block = id
	const look = styles.of('table', element.attributes['style-name'], 'table-properties')
	const rules: { level: Rule[]; upright: Rule[] } = { level: [], upright: [] }
	let pad: number | undefined
	const rows = rowsIn(element).flatMap(({ row, head }): Row[] => {
		const own: Rule[] = []
		const cells = within(row).flatMap((cell): Cell[] => {
			if (cell.name !== 'table-cell' && cell.name !== 'covered-table-cell') return []
			const look = styles.of('table-cell', cell.attributes['style-name'], 'table-cell-properties')
			const side = (name: string) => ruleOf(look[`border-${name}`] ?? look.border) ?? []
			own.push(...[side('top'), side('bottom')].flat())
			rules.upright.push(...[side('left'), side('right')].flat())
			pad ??= lengthOf(look['padding-left']) ?? lengthOf(look.padding)
			const fill = colorOf(look['background-color'])
			// What a wider cell covers is part of it; what one above covers goes on with it.
			if (cell.name === 'covered-table-cell') return [{ blocks: [], span: 0, goesOn: true }]
			return [
				{
					blocks: readBlocks(cell, place),
					span: Math.max(1, Math.min(60, Number(cell.attributes['number-columns-spanned'] ?? 1) || 1)),
					...(fill ? { fill } : {}),
				},
			]
		})
		rules.level.push(...own)
		const rule = usualRule(own)
		const again = Math.max(1, Math.min(mostRows, Number(row.attributes['number-rows-repeated'] ?? 1) || 1))
		return Array.from({ length: again }, () => ({
			cells: spread(cells),
			...(head ? { head: true as const } : {}),
			...(rule ? { rule } : {}),
		}))
	})
	builder.block = id
	const widths = columnsIn(element).map(
		(column) =>
			lengthOf(styles.of('table-column', column.attributes['style-name'], 'table-column-properties')['column-width']) ??
			72,
	)
	const rule = usualRule(rules.level) ?? usualRule(rules.upright)
	const left = lengthOf(look['margin-left'])
	return {
		is: 'table',
		id,
		columns:
			widths.length > 0
				? widths
				: Array.from({ length: Math.max(1, ...rows.map(({ cells }) => cells.length)) }, () => 72),
		rows,
		...(left && left > 0 ? { left } : {}),
		...(look.align === 'center' || look.align === 'right' ? { align: look.align } : {}),
		lines: rules.upright.length > 0 ? 'grid' : rules.level.length > 0 ? 'rows' : 'none',
		...(rule ? { rule } : {}),
		pad: pad ?? 2.8,
	}
}

/** Cells without those that a wider one before them covers. */
function spread(cells: readonly Cell[]): Cell[] {
	const out: Cell[] = []
	let covered = 0
	for (const cell of cells) {
		if (cell.goesOn && covered > 0) {
			covered--
			continue
		}
		out.push(cell.goesOn ? { ...cell, span: 1 } : cell)
		covered = cell.span - 1
	}
	return out
}
