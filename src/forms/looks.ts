import type { Family } from '@/layout/schemaParts'
import { familyFor, familyNames } from './faces'
import { type Block, type Form, type Inline, type Note, type Rule, type Style, stacksOf } from './form'

/** How a form's text is set, in what a layout has: a base, a second typeface, and up to six colours. */
export type Looks = {
	palette: { name: string; color: string }[]
	text: { family: Family; size: number; color: string }
	display: Family | undefined
	/** What a style says beside the base. */
	style: (style: Style) => {
		bold?: true
		italic?: true
		underline?: true
		size?: number
		color?: string
		display?: true
	}
	/** The palette's name of a colour, or of the nearest. */
	color: (hex: string) => string
	/** What is not as it was. */
	notes: Note[]
}

const mostColours = 6
const least = 7
const black = '000000'

const usual = <Value>(counts: Map<Value, number>): Value | undefined => [...counts].sort((a, b) => b[1] - a[1])[0]?.[0]
const distance = (a: string, b: string): number => {
	const parts = (hex: string) => [0, 2, 4].map((at) => Number.parseInt(hex.slice(at, at + 2), 16))
	const [one, other] = [parts(a), parts(b)]
	return one.reduce((sum, value, index) => sum + (value - (other[index] ?? 0)) ** 2, 0)
}

/** Every text of a form with its style, and every ground and line with its colour, by where they stand. */
function seen(form: Form): {
	texts: { style: Style; length: number; block: string }[]
	colours: { color: string; block: string }[]
} {
	const texts: { style: Style; length: number; block: string }[] = []
	const colours: { color: string; block: string }[] = []
	const rule = (own: Rule | undefined, block: string) => {
		if (own) colours.push({ color: own.color, block })
	}
	const walk = (blocks: readonly Block[]) => {
		for (const block of blocks) {
			if (block.is === 'table') {
				rule(block.rule, block.id)
				for (const { cells, rule: own } of block.rows) {
					rule(own, block.id)
					for (const cell of cells) {
						if (cell.fill) colours.push({ color: cell.fill, block: block.id })
						walk(cell.blocks)
					}
				}
				continue
			}
			if (block.fill) colours.push({ color: block.fill, block: block.id })
			rule(block.ruleAbove, block.id)
			rule(block.ruleBelow, block.id)
			for (const inline of block.inlines) {
				const length = lengthOf(inline)
				if (length > 0 && 'style' in inline) texts.push({ style: inline.style, length, block: block.id })
			}
		}
	}
	for (const { blocks } of stacksOf(form)) walk(blocks)
	return { texts, colours }
}

const lengthOf = (inline: Inline): number =>
	inline.is === 'text'
		? inline.text.trim().length
		: inline.is === 'mark'
			? inline.shown.length
			: inline.is === 'page'
				? 1
				: 0

/** Works out the looks of a form. */
export function looksOf(form: Form): Looks {
	const { texts, colours } = seen(form)
	const notes: Note[] = []
	const counts = { size: new Map<number, number>(), face: new Map<string, number>(), color: new Map<string, number>() }
	const add = <Value>(map: Map<Value, number>, value: Value, by: number) => map.set(value, (map.get(value) ?? 0) + by)
	for (const { style, length } of texts) {
		add(counts.size, style.size ?? 11, length)
		add(counts.face, style.face ?? '', length)
		add(counts.color, style.color ?? black, length)
	}
	const ink = usual(counts.color) ?? black
	const size = Math.max(least, usual(counts.size) ?? 10)
	const mainFace = usual(counts.face) ?? ''
	const { family } = familyFor(mainFace || undefined)
	const others = [...counts.face]
		.filter(([face]) => familyFor(face || undefined).family !== family)
		.sort((a, b) => b[1] - a[1])
	const display = others[0] ? familyFor(others[0][0] || undefined).family : undefined
	for (const face of counts.face.keys()) {
		if (face === '') continue
		const own = familyFor(face)
		const block = texts.find(({ style }) => style.face === face)?.block ?? ''
		const set = own.family === family || own.family === display ? own.family : family
		if (!own.same) notes.push({ block, words: `${familyNames[set]} stands in for the typeface ${face}.` })
		else if (set !== own.family)
			notes.push({ block, words: `${face} is set in ${familyNames[set]}: a layout has two typefaces.` })
	}
	for (const { color } of colours) add(counts.color, color, 8)
	const wanted = [
		ink,
		...[...counts.color]
			.sort((a, b) => b[1] - a[1])
			.map(([color]) => color)
			.filter((color) => color !== ink),
	]
	const kept = wanted.slice(0, mostColours)
	const palette = kept.map((color, index) => ({ name: index === 0 ? 'ink' : `colour ${index + 1}`, color }))
	const nameOf = (hex: string): string =>
		[...palette].sort((a, b) => distance(a.color, hex) - distance(b.color, hex))[0]?.name ?? 'ink'
	for (const color of wanted.slice(mostColours)) {
		const block =
			[...texts.map(({ style, block }) => ({ color: style.color ?? black, block })), ...colours].find(
				(one) => one.color === color,
			)?.block ?? ''
		const near = palette.find(({ name }) => name === nameOf(color))
		notes.push({ block, words: `The colour #${color} is set as #${near?.color}, the nearest: a layout has six.` })
	}
	const smallest = texts.find(({ style }) => (style.size ?? 11) < least)
	if (smallest)
		notes.push({
			block: smallest.block,
			words: `Text of ${smallest.style.size} points is set in ${least}, the least that can be read.`,
		})
	return {
		palette,
		text: { family, size, color: 'ink' },
		display,
		notes,
		color: nameOf,
		style: ({ bold, italic, underline, size: own, color, face }) => {
			const set = Math.max(least, own ?? 11)
			const name = nameOf(color ?? black)
			return {
				...(bold ? { bold: true as const } : {}),
				...(underline ? { underline: true as const } : {}),
				...(italic ? { italic: true as const } : {}),
				...(set !== size ? { size: set } : {}),
				...(name !== 'ink' ? { color: name } : {}),
				...(display !== undefined && familyFor(face || undefined).family === display ? { display: true as const } : {}),
			}
		},
	}
}
