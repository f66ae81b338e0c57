import { type Element, textIn, under, within } from '@/archive/tree'
import { pictureMark } from '../brackets'
import type { Builder } from '../build'
import type { Block, Inline, Style } from '../form'
import type { listCounter } from '../numbers'
import { lengthOf, type Properties, type Styles, styleOf } from './styles'

export type Place = {
	builder: Builder
	styles: Styles
	media: ReadonlyMap<string, Buffer>
	counter: ReturnType<typeof listCounter>
	blocks: (element: Element) => Block[]
}

/** Fields whose name is that of a mark, by the attribute in which it stands (ISO/IEC 26300-1, 7). */
const named: Record<string, string> = {
	...{ 'user-field-get': 'name', 'variable-get': 'name', 'variable-set': 'name', 'user-defined': 'name' },
	...{
		'database-display': 'column-name',
		'text-input': 'description',
		expression: 'formula',
		'user-field-input': 'name',
	},
	'variable-input': 'name',
}
/** Fields that say what the document knows of itself: marks by what they are. */
const known: Record<string, string> = {
	...{ date: 'Date', 'creation-date': 'Date', 'modification-date': 'Date', 'print-date': 'Date' },
	...{ 'sender-company': 'Issuer name', 'sender-street': 'Issuer address', 'sender-email': 'Issuer email' },
	...{ 'sender-phone-work': 'Issuer telephone' },
}

/** Reads what stands in a paragraph; frames that hang on it are read as blocks of their own. */
export function readText(paragraph: Element, base: Properties, place: Place): { inlines: Inline[]; hanging: Block[] } {
	const { builder, styles } = place
	const out: Inline[] = []
	const hanging: Block[] = []
	const read = (element: Element, style: Style) => {
		for (const part of element.children) {
			if (typeof part === 'string') {
				// Line ends and blanks of the file are one blank (ISO/IEC 26300-1, 6.1.2).
				out.push({ is: 'text', text: part.replace(/[ \t\r\n]+/g, ' '), style })
				continue
			}
			const { name, attributes } = part
			const field = named[name]
			if (field !== undefined) {
				const called = (attributes[field] ?? attributes[`text:${field}`] ?? '').trim()
				if (called !== '') out.push(fieldMark(called, textIn(part), style))
				continue
			}
			if (known[name] !== undefined) {
				out.push(fieldMark(known[name] ?? '', textIn(part), style))
				continue
			}
			switch (name) {
				case 'span':
				case 'a':
				case 'meta':
				case 'ruby-base':
					if (name === 'a' && /^[a-z]+:/i.test(attributes.href ?? ''))
						builder.note(`A link leads to ${(attributes.href ?? '').slice(0, 80)}: its words stand, without it.`)
					read(part, name === 'span' ? styleOf(styles.text(attributes['style-name']), styles, style) : style)
					break
				case 's':
					out.push({ is: 'text', text: ' '.repeat(Math.min(200, Number(attributes.c ?? 1) || 1)), style })
					break
				case 'tab':
					out.push({ is: 'tab' })
					break
				case 'line-break':
					out.push({ is: 'break' })
					break
				case 'page-number':
					out.push({ is: 'page', of: 'page', style })
					break
				case 'page-count':
					out.push({ is: 'page', of: 'pages', style })
					break
				case 'placeholder': {
					const shown = textIn(part)
					out.push(fieldMark(shown.replace(/^[<«[{]+|[>»\]}]+$/g, '').trim(), shown, style))
					break
				}
				case 'content-control': {
					const called = attributes.alias || attributes.tag || ''
					if (called === '') read(part, style)
					else out.push({ ...fieldMark(called, textIn(part), style), manner: 'control' })
					break
				}
				case 'conditional-text':
				case 'hidden-text':
				case 'hidden-paragraph':
					builder.note('A rule of the form on what is hidden is not carried over. A piece can be shown on a condition.')
					if (name === 'conditional-text') out.push({ is: 'text', text: textIn(part), style })
					break
				case 'note':
					builder.note(`A note at the foot is left out: “${textIn(under(part, 'note-body')).trim().slice(0, 120)}”.`)
					break
				case 'frame':
					readFrame(part)
					break
				case 'custom-shape':
				case 'line':
				case 'rect':
				case 'g':
				case 'control':
					if (textIn(part).trim() !== '') {
						builder.note('A shape with text stands in the flow of the text, without its outline.')
						hanging.push(...place.blocks(part))
					} else builder.note('A drawn shape is left out.')
					break
				case 'annotation':
				case 'annotation-end':
				case 'bookmark':
				case 'bookmark-start':
				case 'bookmark-end':
				case 'soft-page-break':
				case 'change':
				case 'change-start':
				case 'change-end':
					break
				default:
					read(part, style)
			}
		}
	}
	const readFrame = (frame: Element) => {
		const box = under(frame, 'text-box')
		if (box) {
			builder.note('A text box stands where it is anchored, above this, in the flow of the text.')
			hanging.push(...place.blocks(box))
			return
		}
		const image = within(frame, 'image')[0]
		if (!image) {
			builder.note('A chart or an embedded object is left out. Put it in as a picture.')
			return
		}
		const name = textIn(under(frame, 'desc')) || textIn(under(frame, 'title')) || frame.attributes.name || ''
		const href = (image.attributes.href ?? '').replace(/^\.\//, '')
		const bytes = place.media.get(href)
		if (!bytes) {
			builder.note(`A picture lies elsewhere (${href.slice(0, 80)}) and is not fetched. Put it into the form itself.`)
			return
		}
		const sha256 = builder.picture(name, bytes)
		if (!sha256) return
		if (!['as-char', undefined].includes(frame.attributes['anchor-type']))
			builder.note('A picture that floats stands where it is anchored, in the flow of the text.')
		out.push({
			is: 'picture',
			sha256,
			width: lengthOf(frame.attributes.width) ?? 72,
			height: lengthOf(frame.attributes.height) ?? 72,
			...pictureMark(name),
		})
	}
	read(paragraph, styleOf(base, styles))
	return { inlines: trimmed(out), hanging }
}

const fieldMark = (name: string, shown: string, style: Style): Extract<Inline, { is: 'mark' }> => ({
	is: 'mark',
	manner: 'field',
	name,
	shown: shown.trim() || `«${name}»`,
	style,
})

/** Blanks at the ends of a paragraph are those of the file. */
function trimmed(inlines: Inline[]): Inline[] {
	const [first] = inlines
	const last = inlines.at(-1)
	if (first?.is === 'text') first.text = first.text.trimStart()
	if (last?.is === 'text') last.text = last.text.trimEnd()
	return inlines.filter((inline) => inline.is !== 'text' || inline.text !== '')
}
