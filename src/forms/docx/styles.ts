import { all, type Element, under, within } from '@/archive/tree'
import type { Align, Style, Tab } from '../form'
import type { Level, NumberForm } from '../numbers'

/** Twentieths of a point (ISO/IEC 29500-1, 17.18.81) as points; undefined for what is no number. */
export const twentieths = (text: string | undefined): number | undefined => {
	const match = /^(-?\d+(?:\.\d+)?)(pt|cm|mm|in)?$/.exec(text ?? '')
	if (!match) return undefined
	const factor = { pt: 1, cm: 28.3465, mm: 2.83465, in: 72 }[match[2] ?? ''] ?? 0.05
	return Number(match[1]) * factor
}

/** What a paragraph says of itself; `undefined` where it leaves that to its style. */
export type ParagraphLook = {
	align?: Align
	above?: number
	below?: number
	left?: number
	right?: number
	hanging?: number
	lead?: number
	list?: { id: string | undefined; level: number }
	tabs?: Tab[]
	page?: boolean
	keep?: boolean
	fill?: string
	ruleAbove?: { thickness: number; color: string }
	ruleBelow?: { thickness: number; color: string }
}
/** What text says of itself, a false among it where it takes back what its style has. */
export type RunLook = {
	[Key in 'bold' | 'italic' | 'underline' | 'caps' | 'hidden']?: boolean
} & { size?: number; color?: string; face?: string }

type List = {
	counter: string
	levels: (Level | undefined)[]
	/** Levels that have marks, or nothing, in the place of numbers. */
	kinds: ('dots' | 'numbers' | 'none')[]
	startAt: (number | undefined)[]
}

export type Styles = {
	base: { run: RunLook; paragraph: ParagraphLook }
	/** The looks of a style with all that it is based on. */
	of: (id: string | undefined) => { run: RunLook; paragraph: ParagraphLook; table: Element[] }
	/** The paragraph style that counts where none is named. */
	usual: string | undefined
	/** A list by its id: what counts its paragraphs, its levels, and where it begins anew. */
	listOf: (id: string | undefined) => List | undefined
	face: (theme: string) => string | undefined
}

const on = (element: Element | undefined): boolean | undefined =>
	element === undefined ? undefined : !['0', 'false', 'off', 'none'].includes(element.attributes.val ?? '1')
/** A colour as six small hex digits; undefined for `auto` and what is none. */
export const colorOf = (text: string | undefined): string | undefined =>
	text && /^[0-9a-f]{6}$/i.test(text) ? text.toLowerCase() : undefined
const aligns: Record<string, Align> = {
	...{ left: 'left', start: 'left', both: 'left', center: 'center', right: 'right', end: 'right' },
}
const border = (element: Element | undefined) => {
	const { val = 'none', sz = '4', color } = element?.attributes ?? {}
	if (!element || val === 'none' || val === 'nil') return undefined
	return { thickness: Math.min(6, Math.max(0.25, Number(sz) / 8 || 0.5)), color: colorOf(color) ?? '000000' }
}

export { border as borderOf }

/** Only what is said: the keys of what is not are left out, so that styles can be laid over each other. */
const said = <Look extends object>(look: Look): Look =>
	Object.fromEntries(Object.entries(look).filter(([, value]) => value !== undefined)) as Look

/** How text looks by its run properties (ISO/IEC 29500-1, 17.3.2). */
export function runLook(properties: Element | undefined, face: Styles['face']): RunLook {
	if (!properties) return {}
	const fonts = under(properties, 'rFonts')?.attributes ?? {}
	const size = Number(under(properties, 'sz')?.attributes.val)
	const theme = fonts.asciiTheme ?? fonts.hAnsiTheme
	return said<RunLook>({
		bold: on(under(properties, 'b')),
		italic: on(under(properties, 'i')),
		underline: on(under(properties, 'u')),
		caps: on(under(properties, 'caps')),
		hidden: on(under(properties, 'vanish')),
		...(size > 0 ? { size: size / 2 } : {}),
		...(colorOf(under(properties, 'color')?.attributes.val)
			? { color: colorOf(under(properties, 'color')?.attributes.val) }
			: {}),
		...(((theme ? face(theme) : undefined) ?? fonts.ascii ?? fonts.hAnsi)
			? { face: (theme ? face(theme) : undefined) ?? fonts.ascii ?? fonts.hAnsi }
			: {}),
	} as RunLook)
}

/** How a paragraph looks by its properties (ISO/IEC 29500-1, 17.3.1). */
export function paragraphLook(properties: Element | undefined): ParagraphLook {
	if (!properties) return {}
	const spacing = under(properties, 'spacing')?.attributes ?? {}
	const indent = under(properties, 'ind')?.attributes ?? {}
	const line = Number(spacing.line)
	const number = under(properties, 'numPr')
	const tabs = within(under(properties, 'tabs'), 'tab').flatMap(({ attributes }): Tab[] => {
		const at = twentieths(attributes.pos)
		const align = attributes.val === 'decimal' ? 'right' : aligns[attributes.val ?? 'left']
		return at === undefined || attributes.val === 'clear' || !align ? [] : [{ at, align }]
	})
	const borders = under(properties, 'pBdr')
	return said<ParagraphLook>({
		align: aligns[under(properties, 'jc')?.attributes.val ?? ''],
		above: twentieths(spacing.before),
		below: twentieths(spacing.after),
		left: twentieths(indent.left ?? indent.start),
		right: twentieths(indent.right ?? indent.end),
		hanging: twentieths(indent.hanging),
		lead: line > 0 && (spacing.lineRule ?? 'auto') === 'auto' ? line / 240 : undefined,
		list: number && {
			id: under(number, 'numId')?.attributes.val,
			level: Math.max(0, Math.min(8, Number(under(number, 'ilvl')?.attributes.val) || 0)),
		},
		tabs: tabs.length > 0 ? tabs.sort((a, b) => a.at - b.at) : undefined,
		page: on(under(properties, 'pageBreakBefore')),
		keep: on(under(properties, 'keepNext')),
		fill: colorOf(under(properties, 'shd')?.attributes.fill),
		ruleAbove: border(under(borders, 'top')),
		ruleBelow: border(under(borders, 'bottom')),
	} as ParagraphLook)
}

const forms: Record<string, NumberForm> = {
	...{ lowerLetter: 'lower letter', upperLetter: 'upper letter', lowerRoman: 'lower roman', upperRoman: 'upper roman' },
}

/** A list's levels (ISO/IEC 29500-1, 17.9), and where this use of it begins anew. */
function listFrom(counter: string, abstract: Element | undefined, use: Element): List {
	const list: List = { counter, levels: [], kinds: [], startAt: [] }
	for (const level of within(abstract, 'lvl')) {
		const at = Number(level.attributes.ilvl) || 0
		const kind = under(level, 'numFmt')?.attributes.val ?? 'decimal'
		list.kinds[at] = kind === 'bullet' ? 'dots' : kind === 'none' ? 'none' : 'numbers'
		list.levels[at] = {
			start: Number(under(level, 'start')?.attributes.val ?? 1),
			form: forms[kind] ?? 'decimal',
			text: under(level, 'lvlText')?.attributes.val ?? `%${at + 1}.`,
		}
	}
	for (const override of within(use, 'lvlOverride')) {
		const start = under(override, 'startOverride')?.attributes.val
		if (start !== undefined) list.startAt[Number(override.attributes.ilvl) || 0] = Number(start)
	}
	return list
}

/** Styles of a package: its own, those that they are based on, its lists and the typefaces of its theme. */
export function stylesOf(
	tree: Element | undefined,
	numbering: Element | undefined,
	theme: Element | undefined,
): Styles {
	const fonts = (name: string) => under(all(theme, name)[0], 'latin')?.attributes.typeface
	const face = (name: string) => fonts(name.startsWith('major') ? 'majorFont' : 'minorFont')
	const abstract = new Map(within(numbering, 'abstractNum').map((one) => [one.attributes.abstractNumId ?? '', one]))
	const lists = new Map(
		within(numbering, 'num').map((one): [string, List] => {
			const counter = under(one, 'abstractNumId')?.attributes.val ?? ''
			return [one.attributes.numId ?? '', listFrom(counter, abstract.get(counter), one)]
		}),
	)
	const listOf: Styles['listOf'] = (id) => lists.get(id ?? '')
	const byId = new Map(within(tree, 'style').map((one) => [one.attributes.styleId ?? '', one]))
	const known = new Map<string, ReturnType<Styles['of']>>()
	const of = (id: string | undefined, seen: ReadonlySet<string> = new Set()): ReturnType<Styles['of']> => {
		const style = id === undefined || seen.has(id) ? undefined : byId.get(id)
		if (!style || id === undefined) return { run: {}, paragraph: {}, table: [] }
		const before = known.get(id)
		if (before) return before
		const base = of(under(style, 'basedOn')?.attributes.val, new Set([...seen, id]))
		const looks = {
			run: { ...base.run, ...runLook(under(style, 'rPr'), face) },
			paragraph: { ...base.paragraph, ...paragraphLook(under(style, 'pPr')) },
			table: [...base.table, ...within(style, 'tblPr')],
		}
		known.set(id, looks)
		return looks
	}
	const usual = within(tree, 'style').find(
		({ attributes }) => attributes.type === 'paragraph' && ['1', 'true'].includes(attributes.default ?? ''),
	)
	const defaults = under(tree, 'docDefaults')
	return {
		base: {
			run: { size: 10, ...runLook(under(defaults, 'rPrDefault', 'rPr'), face) },
			paragraph: paragraphLook(under(defaults, 'pPrDefault', 'pPr')),
		},
		of,
		usual: usual?.attributes.styleId,
		listOf,
		face,
	}
}

/** A look as the form's model has it. */
export const styleOf = ({ bold, italic, underline, size, color, face }: RunLook): Style => ({
	...(bold ? { bold: true } : {}),
	...(italic ? { italic: true } : {}),
	...(underline ? { underline: true } : {}),
	...(size ? { size } : {}),
	...(color ? { color } : {}),
	...(face ? { face } : {}),
})
