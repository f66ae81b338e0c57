import { all, type Element, textIn, under, within } from '@/archive/tree'
import { pictureMark } from '../brackets'
import type { Builder } from '../build'
import type { Block, Inline, Placeholder, Style } from '../form'
import type { listCounter } from '../numbers'
import { fieldInlines } from './instruction'
import type { Relations } from './pack'
import { type RunLook, runLook, type Styles, styleOf } from './styles'

/** What text is read with: the package's styles, where its part's ids lead, and its pictures' bytes by their part. */
export type Place = {
	builder: Builder
	styles: Styles
	relations: Relations
	media: ReadonlyMap<string, Buffer>
	footnotes: ReadonlyMap<string, string>
	counter: ReturnType<typeof listCounter>
	/** Lists that were begun, by their ids and levels. */
	begun: Set<string>
	/** Reads a stack of blocks: for what stands in a text box. */
	blocks: (element: Element) => Block[]
}

/** A field whose beginning was met, and what of it has come. */
type Open = { instruction: string; shown: Inline[] | null; style: Style; name: string }

/**
 * Reads the runs of a paragraph (ISO/IEC 29500-1, 17.3). Fields are put together from their parts, and text boxes that hang on it are read
 * as blocks of their own.
 */
export function readText(paragraph: Element, base: RunLook, place: Place): { inlines: Inline[]; hanging: Block[] } {
	const { builder, styles } = place
	const out: Inline[] = []
	const hanging: Block[] = []
	const open: Open[] = []
	const put = (inline: Inline) => {
		const inner = open.at(-1)
		if (!inner) out.push(inline)
		else if (inner.shown) inner.shown.push(inline)
	}
	const close = () => {
		const field = open.pop()
		if (!field) return
		const made =
			/^\s*FORMTEXT/i.test(field.instruction) && field.name !== ''
				? [controlMark(field.name, field.shown ?? [], field.style)]
				: fieldInlines(field.instruction, field.shown ?? [], field.style, builder.note)
		for (const inline of made) put(inline)
	}

	const readRun = (run: Element, from: RunLook) => {
		const properties = under(run, 'rPr')
		const look = {
			...from,
			...styles.of(under(properties, 'rStyle')?.attributes.val).run,
			...runLook(properties, styles.face),
		}
		if (look.hidden) {
			if (textIn(run).trim() !== '' && within(run, 't').length > 0) builder.note('Hidden text of the form is left out.')
			return
		}
		if (under(properties, 'highlight') || under(properties, 'shd')?.attributes.fill?.match(/^(?!auto|ffffff)/i))
			builder.note('A ground behind single words is not carried over.')
		if (under(properties, 'strike') || under(properties, 'vertAlign')?.attributes.val?.match(/^su/))
			builder.note('Letters that are struck through, raised or lowered stand as others do.')
		const style = styleOf(look)
		const text = (words: string) => put({ is: 'text', text: look.caps ? words.toUpperCase() : words, style })
		for (const part of within(run)) {
			switch (part.name) {
				case 't':
					text(textIn(part))
					break
				case 'noBreakHyphen':
					text('\u2011')
					break
				case 'sym':
					builder.note('A letter of a symbol typeface is left out.')
					break
				case 'tab':
				case 'ptab':
					put({ is: 'tab' })
					break
				case 'cr':
					put({ is: 'break' })
					break
				case 'br':
					if (part.attributes.type === 'page' || part.attributes.type === 'column') out.push(pageBreak)
					else put({ is: 'break' })
					break
				case 'fldChar': {
					const { fldCharType } = part.attributes
					if (fldCharType === 'begin')
						open.push({
							instruction: '',
							shown: null,
							style,
							name: under(part, 'ffData', 'name')?.attributes.val ?? '',
						})
					else if (fldCharType === 'separate') {
						const field = open.at(-1)
						if (field) field.shown = []
					} else if (fldCharType === 'end') close()
					break
				}
				case 'instrText': {
					const field = open.at(-1)
					if (field) field.instruction += textIn(part)
					break
				}
				case 'drawing':
				case 'pict':
				case 'object':
				case 'AlternateContent':
					readDrawing(part)
					break
				case 'ruby':
					readAll(under(part, 'rubyBase') ?? part, look)
					builder.note('What stands above letters to say how they are read is left out.')
					break
				case 'footnoteReference':
				case 'endnoteReference': {
					const words = place.footnotes.get(`${part.name[0]}${part.attributes.id}`) ?? ''
					builder.note(`A note at the foot is left out: “${words.trim().slice(0, 120)}”.`)
					break
				}
			}
		}
	}

	const readDrawing = (element: Element) => {
		const chosen =
			element.name === 'AlternateContent' ? (under(element, 'Choice') ?? under(element, 'Fallback')) : element
		if (!chosen) return
		const boxes = all(chosen, 'txbxContent')
		if (boxes[0]) {
			builder.note('A text box stands where it is anchored, above this, in the flow of the text.')
			// A box within a box is read with it.
			for (const box of boxes.filter(
				(one) => !boxes.some((other) => other !== one && all(other, 'txbxContent').includes(one)),
			))
				hanging.push(...place.blocks(box))
			return
		}
		const [anchor] = all(chosen, 'anchor')
		const blips = all(chosen, 'blip', 'imagedata')
		const named = all(chosen, 'docPr', 'cNvPr')[0]?.attributes
		if (blips.length === 0) {
			builder.note(
				all(chosen, 'chart', 'relIds', 'OLEObject').length > 0
					? 'A chart or an embedded object is left out. Put it in as a picture.'
					: 'A drawn shape is left out.',
			)
			return
		}
		if (blips.length > 1) builder.note('Of a group of pictures each stands by itself.')
		for (const blip of blips) readPicture(blip, chosen, named?.descr || named?.title || named?.name || '')
		if (anchor) builder.note('A picture that floats stands where it is anchored, in the flow of the text.')
	}

	const readPicture = (blip: Element, drawing: Element, name: string) => {
		const link = blip.attributes.link ?? blip.attributes.href
		const id = blip.attributes.embed ?? blip.attributes.id
		const relation = place.relations.get(id ?? link ?? '')
		if (!relation || relation.external) {
			builder.note(
				`A picture lies elsewhere${relation ? ` (${relation.target.slice(0, 80)})` : ''} and is not fetched. Put it into the form itself.`,
			)
			return
		}
		const extent = all(drawing, 'extent', 'ext').find(({ attributes }) => Number(attributes.cx) > 0)?.attributes
		const css = all(drawing, 'shape', 'rect')[0]?.attributes.style ?? ''
		const measure = (key: string) => Number(new RegExp(`(?:^|;)\\s*${key}:\\s*([\\d.]+)pt`).exec(css)?.[1])
		const bytes = place.media.get(relation.target)
		const sha256 = bytes ? builder.picture(name, bytes) : null
		if (!bytes) builder.note('A picture is not in the file and is left out.')
		if (!sha256) return
		put({
			is: 'picture',
			sha256,
			width: extent ? Number(extent.cx) / 12_700 : measure('width') || 72,
			height: extent ? Number(extent.cy) / 12_700 : measure('height') || 72,
			...pictureMark(name),
		})
	}

	const readAll = (element: Element, look: RunLook) => {
		for (const part of within(element)) {
			switch (part.name) {
				case 'r':
					readRun(part, look)
					break
				case 'fldSimple': {
					const shown = readText(part, look, place).inlines
					for (const inline of fieldInlines(part.attributes.instr ?? '', shown, styleOf(look), builder.note))
						put(inline)
					break
				}
				case 'sdt': {
					const control = controlOf(part)
					const content = under(part, 'sdtContent')
					if (!content) break
					if (control.name === '' || all(content, 'sdt').length > 0) {
						readAll(content, look)
						break
					}
					const shown = readText(content, look, place).inlines
					put(
						controlMark(
							control.name,
							shown,
							styleOf({ ...look, ...runLook(under(part, 'sdtPr', 'rPr'), styles.face) }),
						),
					)
					break
				}
				case 'del':
				case 'moveFrom':
					if (all(part, 'delText').length > 0) builder.note('Changes that were being tracked are taken as accepted.')
					break
				case 'oMath':
				case 'oMathPara':
					builder.note('A formula is left out. Put it in as a picture.')
					break
				case 'ins':
				case 'moveTo':
				case 'hyperlink':
				case 'smartTag':
				case 'customXml':
				case 'dir':
				case 'bdo':
					if (part.name === 'hyperlink') readLink(part)
					readAll(part, look)
					break
			}
		}
	}
	const readLink = (part: Element) => {
		const relation = place.relations.get(part.attributes['r:id'] ?? '')
		if (relation?.external)
			builder.note(`A link leads to ${relation.target.slice(0, 80)}: its words stand, without it.`)
	}
	readAll(paragraph, base)
	// A field that goes on in another paragraph shows what it showed.
	while (open.length > 0) {
		const field = open.pop()
		if (/MERGEFIELD/i.test(field?.instruction ?? ''))
			builder.note(
				`A field goes on over several paragraphs (${field?.instruction.trim().slice(0, 60)}): what it shows stands as text.`,
			)
		for (const inline of field?.shown ?? []) put(inline)
	}
	return { inlines: out, hanging }
}

/** Where a page ends within a paragraph. */
export const pageBreak: Inline = { is: 'text', text: '\f', style: {} }

/** A content control as a placeholder, in the style of what it shows. */
export function controlMark(name: string, shown: readonly Inline[], style: Style): Inline {
	const picture = shown.find((inline) => inline.is === 'picture')
	if (picture) return { ...picture, mark: name }
	const own = shown.find((inline) => inline.is === 'text')
	const mark: Placeholder = {
		is: 'mark',
		manner: 'control',
		name,
		shown: shown.map((inline) => (inline.is === 'text' ? inline.text : '')).join('') || `[${name}]`,
		style: { ...style, ...(own?.is === 'text' ? own.style : {}) },
	}
	return mark
}

/** What a content control is called, and whether it repeats what is in it (ISO/IEC 29500-1, 17.5.2). */
export function controlOf(sdt: Element): { name: string; repeats: boolean } {
	const properties = under(sdt, 'sdtPr')
	const name = under(properties, 'alias')?.attributes.val || under(properties, 'tag')?.attributes.val || ''
	const repeats = under(properties, 'repeatingSection') !== undefined
	const structural = ['docPartObj', 'docPartList', 'group', 'repeatingSectionItem', 'bibliography'].some((one) =>
		under(properties, one),
	)
	return { name: structural ? '' : name, repeats }
}
