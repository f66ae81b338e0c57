import { all, type Element, textIn, under, within } from '@/archive/tree'
import { type Archive, bytesOf } from '@/archive/zip'
import { refuse } from '@/core/refusal'
import { type Builder, finished, notTooLong, withHanging } from '../build'
import {
	type Band,
	type Block,
	type Cell,
	type Form,
	type Inline,
	type Paragraph,
	type Row,
	type Table,
	usualRule,
} from '../form'
import { listCounter } from '../numbers'
import { type Relations, relationsOf, treeOf } from './pack'
import { borderOf, colorOf, type ParagraphLook, paragraphLook, stylesOf, twentieths } from './styles'
import { controlMark, controlOf, type Place, pageBreak, readText } from './text'

/**
 * Reads a text document in the format of ISO/IEC 29500 (WordprocessingML).
 * @throws a refusal (`refuse`) where there is no text document in the package
 */
export async function readDocx(archive: Archive, builder: Builder): Promise<Form> {
	const start = [...(await relationsOf(archive, '')).values()].find(({ type }) => type === 'officeDocument')?.target
	const main = start ?? 'word/document.xml'
	const tree = await treeOf(archive, main)
	const body = under(tree, 'body')
	if (!body)
		return refuse('file', 'There is no text document in the file. Save the form as DOCX and choose the new file.')
	const relations = await relationsOf(archive, main)
	const part = (type: string) => [...relations.values()].find((one) => one.type === type && !one.external)?.target
	const styles = stylesOf(
		await treeOf(archive, part('styles')),
		await treeOf(archive, part('numbering')),
		await treeOf(archive, part('theme')),
	)
	if (archive.names.some((name) => /vbaProject|\.bin$/i.test(name) && /vba|macro/i.test(name)))
		builder.note('The form has macros. They are left out.')
	const footnotes = new Map<string, string>()
	for (const kind of ['footnote', 'endnote'])
		for (const one of within(await treeOf(archive, part(`${kind}s`)), kind))
			footnotes.set(`${kind[0]}${one.attributes.id}`, textIn(one))
	const media = new Map<string, Buffer>()
	const keepMedia = async (of: Relations) => {
		for (const { type, target, external } of of.values())
			if (type === 'image' && !external && !media.has(target) && archive.names.includes(target))
				media.set(target, await bytesOf(archive, target))
	}
	await keepMedia(relations)
	const counting = { counter: listCounter(), begun: new Set<string>() }
	const placeOf = (of: Relations): Place => {
		const place: Place = {
			...counting,
			builder,
			styles,
			relations: of,
			media,
			footnotes,
			blocks: (element) => readBlocks(element, place),
		}
		return place
	}
	const blocks = readBlocks(body, placeOf(relations))
	notTooLong(blocks)
	builder.block = ''

	const sections = all(body, 'sectPr')
	const section = sections[0]
	if (sections.length > 1)
		builder.note('The form has several sections. Paper, margins, head and foot are those of the first.')
	if (Number(under(section, 'cols')?.attributes.num ?? 1) > 1) builder.note('Text that runs in columns stands in one.')
	const band = async (reference: string): Promise<Band> => {
		const titled = under(section, 'titlePg') !== undefined
		const found = within(section, reference)
		const read = async (type: string): Promise<Block[]> => {
			const id = found.find(({ attributes }) => (attributes.type ?? 'default') === type)?.attributes['r:id']
			const target = relations.get(id ?? '')?.target
			const own = target === undefined ? undefined : await treeOf(archive, target)
			if (!own || target === undefined) return []
			const of = await relationsOf(archive, target)
			await keepMedia(of)
			return withoutEmpty(readBlocks(own, placeOf(of)))
		}
		const every = await read('default')
		return titled ? { every, first: await read('first') } : { every }
	}
	const size = under(section, 'pgSz')?.attributes ?? {}
	const margin = under(section, 'pgMar')?.attributes ?? {}
	const points = (text: string | undefined, usual: number) => Math.abs(twentieths(text) ?? usual)
	const head = await band('headerReference')
	const foot = await band('footerReference')
	return {
		from: 'docx',
		page: {
			width: points(size.w, 595.3),
			height: points(size.h, 841.9),
			margins: {
				top: points(margin.top, 72),
				right: points(margin.right, 72),
				bottom: points(margin.bottom, 72),
				left: points(margin.left, 72),
			},
			headAt: points(margin.header, 36),
			footAt: points(margin.footer, 36),
		},
		language: all(await treeOf(archive, part('styles')), 'lang')[0]?.attributes.val ?? '',
		head,
		body: blocks,
		foot,
		notes: builder.notes,
	}
}

const withoutEmpty = (blocks: Block[]): Block[] =>
	blocks.some((block) => block.is === 'table' || block.inlines.length > 0) ? blocks : []

function readBlocks(parent: Element, place: Place): Block[] {
	return within(parent).flatMap((element): Block[] => {
		if (element.name === 'p') return readParagraph(element, place)
		if (element.name === 'tbl') return [readTable(element, place)]
		if (element.name === 'sdt') return readControl(element, place)
		if (['ins', 'moveTo', 'customXml', 'smartTag'].includes(element.name)) return readBlocks(element, place)
		if (element.name === 'AlternateContent')
			return readBlocks(under(element, 'Choice') ?? under(element, 'Fallback') ?? element, place)
		if (element.name === 'altChunk') place.builder.note('A document within the document is left out.')
		return []
	})
}

/** A control round whole paragraphs: what it shows gives way to one mark in the first of them. */
function readControl(sdt: Element, place: Place): Block[] {
	const { name, repeats } = controlOf(sdt)
	const content = under(sdt, 'sdtContent')
	if (!content) return []
	const blocks = readBlocks(content, place)
	const first = blocks.find((block) => block.is === 'paragraph')
	if (repeats)
		place.builder.note(`“${name || 'A section'}” repeats paragraphs; they stand once. Put it in a row of a table.`)
	const plain = blocks.every((block) => block.is === 'paragraph' && block.inlines.every(({ is }) => is !== 'mark'))
	if (name === '' || repeats || !first || !plain || all(content, 'sdt', 'tbl', 'fldChar', 'fldSimple').length > 0)
		return blocks
	const shown = blocks.flatMap((block) => (block.is === 'paragraph' ? block.inlines : []))
	return [{ ...first, inlines: [controlMark(name, shown, {})] }]
}

function readParagraph(element: Element, place: Place): Block[] {
	const { styles, builder } = place
	const id = builder.nextId('p')
	builder.block = id
	const properties = under(element, 'pPr')
	const named = styles.of(under(properties, 'pStyle')?.attributes.val ?? styles.usual)
	const look: ParagraphLook = {
		...styles.base.paragraph,
		...named.paragraph,
		...paragraphLook(properties),
	}
	const numbered = listed(look.list, named.paragraph.list, place)
	const { inlines, hanging } = readText(element, { ...styles.base.run, ...named.run }, place)
	builder.block = id
	if (under(properties, 'framePr')) builder.note('A frame stands in the flow of the text.')
	const parts = splitAt(inlines)
	const section = under(properties, 'sectPr')
	const made = parts.map(
		(own, index): Paragraph =>
			finished(
				{
					...paragraphOf(index === 0 ? id : builder.nextId('p'), look, own, index === 0 ? numbered : {}),
					...(index > 0 ? { page: true as const } : {}),
				},
				builder,
			),
	)
	if (section && under(section, 'type')?.attributes.val !== 'continuous') {
		const next = paragraphOf(builder.nextId('p'), {}, [], {})
		return withHanging(hanging, [...made, { ...next, page: true }])
	}
	return withHanging(hanging, made)
}

/** A paragraph's parts between page breaks. */
function splitAt(inlines: readonly Inline[]): Inline[][] {
	const parts: Inline[][] = [[]]
	for (const inline of inlines) {
		if (inline === pageBreak) parts.push([])
		else parts.at(-1)?.push(inline)
	}
	return parts
}

/** How a paragraph of a list begins; lists count on as they are used (ISO/IEC 29500-1, 17.9.6, and 17.9.27 for one that begins anew). */
function listed(
	own: ParagraphLook['list'],
	styled: ParagraphLook['list'],
	place: Place,
): Pick<Paragraph, 'list' | 'label'> {
	const id = own?.id ?? styled?.id
	const list = own && id !== '0' ? place.styles.listOf(id) : undefined
	const kind = list?.kinds[own?.level ?? 0]
	if (!own || !list || !kind || kind === 'none') return {}
	if (kind === 'dots') return { list: 'dots' }
	const first = `${id} ${own.level}`
	const startAt = place.begun.has(first) ? undefined : list.startAt[own.level]
	place.begun.add(first)
	return { list: 'numbers', label: place.counter.next(list.counter, own.level, list.levels, startAt) }
}

function paragraphOf(
	id: string,
	look: ParagraphLook,
	inlines: Inline[],
	numbered: Pick<Paragraph, 'list' | 'label'>,
): Paragraph {
	const { align, above, below, left, right, lead, tabs, page, keep, fill, ruleAbove, ruleBelow } = look
	return {
		is: 'paragraph',
		id,
		inlines,
		...(align && align !== 'left' ? { align } : {}),
		...(above ? { above } : {}),
		...(below ? { below } : {}),
		...(left && !numbered.list ? { left } : {}),
		...(right ? { right } : {}),
		...(lead ? { lead } : {}),
		...numbered,
		...(tabs ? { tabs } : {}),
		...(page ? { page: true as const } : {}),
		...(keep ? { keep: true as const } : {}),
		...(fill ? { fill } : {}),
		...(ruleAbove ? { ruleAbove } : {}),
		...(ruleBelow ? { ruleBelow } : {}),
	}
}

function readTable(element: Element, place: Place): Table {
	const { builder, styles } = place
	const id = builder.nextId('t')
	builder.block = id
	const properties = [
		...styles.of(under(element, 'tblPr', 'tblStyle')?.attributes.val).table,
		...within(element, 'tblPr'),
	]
	const said = (...path: string[]) => properties.map((one) => under(one, ...path)).findLast((one) => one !== undefined)
	if (under(element, 'tblPr', 'tblpPr')) builder.note('A table that floats stands in the flow of the text.')
	const rows = rowsIn(element, undefined).map(({ row, repeated }): Row => {
		const cells = cellsIn(row).map((cell): Cell => {
			const own = under(cell, 'tcPr')
			const merge = under(own, 'vMerge')
			const fill = colorOf(under(own, 'shd')?.attributes.fill)
			const goesOn = merge !== undefined && merge.attributes.val !== 'restart'
			const covered = goesOn ? textIn(cell).trim() : ''
			if (covered !== '') builder.note(`Text in a cell that another covers is left out: “${covered.slice(0, 120)}”.`)
			return {
				blocks: goesOn ? [] : readBlocks(cell, place),
				span: Math.max(1, Math.min(60, Number(under(own, 'gridSpan')?.attributes.val) || 1)),
				...(fill ? { fill } : {}),
				...(goesOn ? { goesOn: true as const } : {}),
			}
		})
		const rule = usualRule(
			cellsIn(row).flatMap((cell) =>
				['top', 'bottom'].flatMap((side) => borderOf(under(cell, 'tcPr', 'tcBorders', side)) ?? []),
			),
		)
		return {
			cells,
			...(rule ? { rule } : {}),
			...(under(row, 'trPr', 'tblHeader') ? { head: true as const } : {}),
			...(repeated !== undefined ? { repeated } : {}),
		}
	})
	builder.block = id
	const borders = (name: string) => borderOf(said('tblBorders', name))
	const cellBorders = all(element, 'tcBorders')
	const ofCells = (...names: string[]) =>
		cellBorders.flatMap((one) => names.flatMap((name) => borderOf(under(one, name)) ?? []))
	const upright = [borders('insideV') ?? [], ...ofCells('left', 'right', 'start', 'end')].flat()
	const level = [borders('insideH') ?? borders('bottom') ?? [], ...ofCells('top', 'bottom')].flat()
	const jc = said('jc')?.attributes.val
	const rule = usualRule(level) ?? usualRule(upright)
	const left = twentieths(said('tblInd')?.attributes.w)
	const widths = within(under(element, 'tblGrid'), 'gridCol').map(({ attributes }) => twentieths(attributes.w) ?? 0)
	const most = Math.max(1, ...rows.map(({ cells }) => cells.reduce((sum, { span }) => sum + span, 0)))
	return {
		is: 'table',
		id,
		columns: Array.from({ length: most }, (_, index) => Math.max(4, widths[index] ?? 72)),
		rows,
		...(left && left > 0 ? { left } : {}),
		...(jc === 'center' || jc === 'right' ? { align: jc } : {}),
		lines: upright.length > 0 ? 'grid' : level.length > 0 ? 'rows' : 'none',
		...(rule ? { rule } : {}),
		pad: twentieths(said('tblCellMar', 'left')?.attributes.w ?? said('tblCellMar', 'start')?.attributes.w) ?? 5.4,
	}
}

/** Rows of a table, with the name of the section that repeats them. */
function rowsIn(parent: Element, repeated: string | undefined): { row: Element; repeated: string | undefined }[] {
	return within(parent).flatMap((element) => {
		if (element.name === 'tr') return under(element, 'trPr', 'del') ? [] : [{ row: element, repeated }]
		if (element.name === 'sdt') {
			const { name, repeats } = controlOf(element)
			return rowsIn(under(element, 'sdtContent') ?? element, repeats ? name || 'repeated' : repeated)
		}
		return ['ins', 'customXml'].includes(element.name) ? rowsIn(element, repeated) : []
	})
}

function cellsIn(row: Element): Element[] {
	return within(row).flatMap((element): Element[] => {
		if (element.name === 'tc') return [element]
		if (element.name !== 'sdt') return ['ins', 'customXml'].includes(element.name) ? cellsIn(element) : []
		const { name } = controlOf(element)
		const cells = cellsIn(under(element, 'sdtContent') ?? { name: '', attributes: {}, children: [] })
		// A control round a cell is one round what stands in it.
		return name === ''
			? cells
			: cells.map((cell) => ({
					...cell,
					children: [
						...within(cell, 'tcPr'),
						{
							name: 'sdt',
							attributes: {},
							children: [
								...within(element, 'sdtPr'),
								{
									name: 'sdtContent',
									attributes: {},
									children: cell.children.filter((child) => typeof child === 'string' || child.name !== 'tcPr'),
								},
							],
						},
					],
				}))
	})
}
