import { type Element, under, within } from '@/archive/tree'
import type { Align, Rule, Style, Tab } from '../form'
import type { Level, NumberForm } from '../numbers'

/** A length (XSL 1.1, 5.9.13) in points; undefined for what is none. */
export function lengthOf(text: string | undefined): number | undefined {
	const match = /^(-?\d*\.?\d+)(pt|cm|mm|in|pc|px)$/.exec((text ?? '').trim())
	if (!match) return undefined
	return Number(match[1]) * ({ pt: 1, cm: 28.3465, mm: 2.83465, in: 72, pc: 12, px: 0.75 }[match[2] ?? 'pt'] ?? 1)
}
/** A colour as six small hex digits; undefined for what is none. */
export const colorOf = (text: string | undefined): string | undefined =>
	/^#[0-9a-f]{6}$/i.test(text ?? '') ? text?.slice(1).toLowerCase() : undefined
/** A border such as "0.5pt solid #000000". */
export function ruleOf(text: string | undefined): Rule | undefined {
	if (!text || text === 'none' || text === 'hidden') return undefined
	const parts = text.split(/\s+/)
	if (parts.includes('none')) return undefined
	const thickness = parts.map(lengthOf).find((one) => one !== undefined) ?? 0.5
	return { thickness: Math.min(6, Math.max(0.25, thickness)), color: parts.map(colorOf).find(Boolean) ?? '000000' }
}

/** The properties of a style with all that it is based on, by their names. */
export type Properties = Record<string, string>
export type Styles = {
	text: (name: string | undefined, family?: string) => Properties
	paragraph: (name: string | undefined) => Properties & { tabs?: undefined }
	tabs: (name: string | undefined) => Tab[]
	of: (family: string, name: string | undefined, part: string) => Properties
	/** The levels of a list, from 1; nothing for one that has marks in the place of numbers. */
	list: (name: string | undefined) => (Level | undefined)[]
	face: (name: string | undefined) => string | undefined
	element: (family: string, name: string | undefined) => Element | undefined
}

const forms: Record<string, NumberForm> = { a: 'lower letter', A: 'upper letter', i: 'lower roman', I: 'upper roman' }

/** The numbers of a list style's levels (ISO/IEC 26300-1, 16.31). */
function levelsOf(style: Element): (Level | undefined)[] {
	const levels: (Level | undefined)[] = []
	for (const { name, attributes } of within(style)) {
		const at = Math.max(1, Math.min(10, Number(attributes.level) || 1))
		const how = attributes['num-format'] ?? ''
		if (name !== 'list-level-style-number' || how === '') continue
		const shown = Math.max(1, Math.min(at, Number(attributes['display-levels']) || 1))
		const places = Array.from({ length: shown }, (_, place) => `%${at - shown + place + 1}`).join('.')
		levels[at] = {
			start: Number(attributes['start-value'] ?? 1),
			form: forms[how] ?? 'decimal',
			text: `${attributes['num-prefix'] ?? ''}${places}${attributes['num-suffix'] ?? ''}`,
		}
	}
	return levels
}

/** Styles of a text document (ISO/IEC 26300-1, 16): those of its styles, its automatic ones, each with its parents. */
export function stylesOf(...trees: (Element | undefined)[]): Styles {
	const sheets = trees.flatMap((tree) => [under(tree, 'styles'), under(tree, 'automatic-styles')])
	const all = sheets.flatMap((sheet) => within(sheet))
	const byName = new Map<string, Element>()
	const usual = new Map<string, Element>()
	for (const one of all) {
		const { family = '', name = '' } = one.attributes
		if (one.name === 'style') byName.set(`${family} ${name}`, one)
		if (one.name === 'default-style') usual.set(family, one)
	}
	const faces = new Map(
		trees
			.flatMap((tree) => within(under(tree, 'font-face-decls'), 'font-face'))
			.map(({ attributes }) => [attributes['style:name'] ?? attributes.name ?? '', attributes['font-family'] ?? '']),
	)
	const chain = (family: string, name: string | undefined): Element[] => {
		const found: Element[] = []
		let at = name === undefined ? undefined : byName.get(`${family} ${name}`)
		while (at && !found.includes(at)) {
			found.unshift(at)
			at = byName.get(`${family} ${at.attributes['parent-style-name'] ?? ''}`)
		}
		const base = usual.get(family)
		return base ? [base, ...found] : found
	}
	const of = (family: string, name: string | undefined, part: string): Properties =>
		Object.assign({}, ...chain(family, name).map((style) => under(style, part)?.attributes ?? {}))
	const lists = new Map(
		all
			.filter(({ name }) => name === 'list-style')
			.map((one) => [one.attributes['style:name'] ?? one.attributes.name ?? '', levelsOf(one)]),
	)
	return {
		text: (name, family = 'text') =>
			family === 'text' && name !== undefined
				? Object.assign(
						{},
						...chain('text', name)
							.filter((one) => one.name === 'style')
							.map((style) => under(style, 'text-properties')?.attributes ?? {}),
					)
				: of(family, name, 'text-properties'),
		paragraph: (name) => of('paragraph', name, 'paragraph-properties'),
		tabs: (name) => {
			const stops = chain('paragraph', name)
				.map((style) => under(style, 'paragraph-properties', 'tab-stops'))
				.findLast((one) => one !== undefined)
			return within(stops, 'tab-stop').flatMap(({ attributes }): Tab[] => {
				const at = lengthOf(attributes.position)
				const type = attributes.type ?? 'left'
				const align: Align = type === 'center' ? 'center' : type === 'right' || type === 'char' ? 'right' : 'left'
				return at === undefined ? [] : [{ at, align }]
			})
		},
		of,
		list: (name) => lists.get(name ?? '') ?? [],
		face: (name) => (name === undefined ? undefined : (faces.get(name) || name).replace(/^'|'$/g, '')),
		element: (family, name) => chain(family, name).at(-1),
	}
}

/** The looks of text that properties say, laid over those before. */
export function styleOf(properties: Properties, styles: Styles, before: Style = {}): Style {
	const weight = properties['font-weight']
	const size = properties['font-size'] ?? ''
	const underline = properties['text-underline-style']
	const face = styles.face(properties['font-name']) ?? properties['font-family']?.replace(/^'|'$/g, '')
	const slant = properties['font-style']
	const sized = size.endsWith('%') ? ((before.size ?? 12) * Number.parseFloat(size)) / 100 : lengthOf(size)
	const bold = weight === undefined ? before.bold : weight === 'bold' || Number(weight) >= 600 ? true : undefined
	const italic = slant === undefined ? before.italic : slant === 'italic' || slant === 'oblique' ? true : undefined
	const under_ = underline === undefined ? before.underline : underline !== 'none' ? true : undefined
	const color = colorOf(properties.color) ?? before.color
	return {
		...(bold ? { bold } : {}),
		...(italic ? { italic } : {}),
		...(under_ ? { underline: under_ } : {}),
		...((sized ?? before.size) ? { size: Math.round((sized ?? before.size ?? 12) * 10) / 10 } : {}),
		...(color ? { color } : {}),
		...((face ?? before.face) ? { face: face ?? before.face } : {}),
	} as Style
}
