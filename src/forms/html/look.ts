import type { Element } from 'domhandler'
import type { Builder } from '../build'
import type { Align, Paragraph, Style } from '../form'
import { type NumberForm, numberAs } from '../numbers'
import { colorOf, lengthOf, type StyleSheets } from './css'

export type Place = { builder: Builder; sheets: StyleSheets; width: number }

/** What goes on within an element from what it stands in. */
export type Look = {
	style: Style
	align?: Align
	lead?: number
	/** White space counts as it stands. */
	pre?: boolean
	list?: { is: 'dots' } | { is: 'numbers'; form: NumberForm; next: number } | { is: 'none' }
	left: number
}

const headings: Record<string, number> = { h1: 24, h2: 18, h3: 14, h4: 12, h5: 10, h6: 8 }

/** How an element looks in what it stands in (CSS 2.2, 6.2: what goes on within). */
export function lookOf(element: Element, before: Look, sheets: StyleSheets): Look {
	const said = sheets.of(element)
	const { name, attribs } = element
	const em = before.style.size ?? 12
	const size =
		lengthOf(said.get('font-size'), em, em) ??
		headings[name] ??
		(name === 'small' ? em * 0.83 : name === 'big' ? em * 1.2 : em)
	const weight = said.get('font-weight') ?? (/^(b|strong|th|h\d)$/.test(name) ? 'bold' : undefined)
	const slant =
		said.get('font-style') ?? (/^(i|em|cite|var|address)$/.test(name) && name !== 'address' ? 'italic' : undefined)
	const decoration =
		said.get('text-decoration') ??
		said.get('text-decoration-line') ??
		(/^(u|ins)$/.test(name) ? 'underline' : undefined)
	const face =
		said
			.get('font-family')
			?.split(',')[0]
			?.trim()
			.replace(/^['"]|['"]$/g, '') ?? attribs.face
	const color = colorOf(said.get('color')) ?? colorOf(attribs.color) ?? before.style.color
	const bold =
		weight === undefined ? before.style.bold : weight === 'bold' || weight === 'bolder' || Number(weight) >= 600
	const italic = slant === undefined ? before.style.italic : slant !== 'normal'
	const underline = decoration === undefined ? before.style.underline : decoration.includes('underline')
	const wanted = said.get('text-align') ?? attribs.align ?? (name === 'center' || name === 'th' ? 'center' : undefined)
	const align: Align | undefined =
		wanted === 'right' || wanted === 'end' ? 'right' : wanted === 'center' ? 'center' : wanted ? 'left' : before.align
	const high = said.get('line-height')
	const lead =
		high === undefined || high === 'normal'
			? before.lead
			: /^[\d.]+$/.test(high)
				? Number(high)
				: (lengthOf(high, size, size) ?? 0) / size || before.lead
	return {
		style: {
			...(bold ? { bold: true as const } : {}),
			...(italic ? { italic: true as const } : {}),
			...(underline ? { underline: true as const } : {}),
			size: Math.round(size * 10) / 10,
			...(color ? { color } : {}),
			...((face ?? before.style.face) ? { face: face ?? before.style.face ?? '' } : {}),
		},
		...(align ? { align } : {}),
		...(lead ? { lead } : {}),
		...(before.pre || name === 'pre' || /^pre/.test(said.get('white-space') ?? '') ? { pre: true } : {}),
		...(name === 'ol'
			? { list: numbersOf(attribs, said) }
			: name === 'ul'
				? { list: { is: /\bnone\b/.test(markers(said)) ? ('none' as const) : ('dots' as const) } }
				: before.list
					? { list: before.list }
					: {}),
		left: before.left,
	}
}

const markers = (said: ReadonlyMap<string, string>): string =>
	said.get('list-style-type') ?? said.get('list-style') ?? ''

/** How a list counts, and from where. */
function numbersOf(attribs: Record<string, string>, said: ReadonlyMap<string, string>): NonNullable<Look['list']> {
	const how = `${attribs.type ?? ''} ${markers(said)}`
	if (/\bnone\b/.test(how)) return { is: 'none' }
	const form: NumberForm = /upper-(alpha|latin)|\bA\b/.test(how)
		? 'upper letter'
		: /lower-(alpha|latin)|\ba\b/.test(how)
			? 'lower letter'
			: /upper-roman|\bI\b/.test(how)
				? 'upper roman'
				: /lower-roman|\bi\b/.test(how)
					? 'lower roman'
					: 'decimal'
	return { is: 'numbers', form, next: Number(attribs.start ?? 1) || 1 }
}

/** How an item of a list begins; the list counts on. */
export function listed(item: Element, { list }: Look): Pick<Paragraph, 'list' | 'label'> {
	if (!list || list.is === 'dots') return { list: 'dots' }
	if (list.is === 'none') return {}
	const own = Number(item.attribs.value) || list.next
	list.next = own + 1
	return { list: 'numbers', label: `${numberAs(own, list.form)}.` }
}

/** Whether an element is not to be seen. */
export const hidden = (element: Element, sheets: StyleSheets): boolean => {
	const said = sheets.of(element)
	return said.get('display') === 'none' || said.get('visibility') === 'hidden' || element.attribs.hidden !== undefined
}
