import type { Fields } from '../fields'
import type { At } from '../fieldTypes'
import type { Node, Slab } from '../flow'
import type { Language, Said } from '../languages'
import { sayIn } from '../languages'
import type { Face, Metrics, PageItem } from '../page'
import type { Family } from '../schemaParts'
import type { SymbolName } from '../symbologies'
import { type Align, breakLines, type Line, lineItems, type Span } from '../text'
import type { CompiledInline } from '../values'

/** The dark cells of a symbol in a square or strip one unit wide; or why there is none. */
export type Encoded =
	| { ok: true; cells: readonly (readonly [number, number, number, number])[]; height: number }
	| { ok: false; message: string }

/** What a layout is drawn with; it comes in, so that drawing stays pure. */
export type Tools = {
	metrics: Metrics
	/** Width ÷ height of a picture, and how many points wide it is at 150 dpi; null for one that is missing. */
	picture: (sha256: string) => { ratio: number } | null
	encode: (symbol: SymbolName, text: string) => Encoded
}

/** A paper being drawn. */
export type Doc = {
	at: At
	tools: Tools
	/** What a person must know of; `stop` where it would shame the firm. */
	notes: { piece: string; what: string; stop?: boolean }[]
	/** Codes that were drawn, for a machine to read them back. */
	/** Codes as they were drawn: what each says, and how wide one of its cells is, in points. */
	codes: { piece: string; symbol: SymbolName; text: string; cell: number }[]
	/** Where each piece lies across the page. */
	frames: Map<string, Frame>
	/** Where the columns of each table lie. */
	columns: { piece: string; column: string; x: number; width: number }[]
}
/** Across the page: where a piece begins and how wide it is. */
export type Frame = { x: number; width: number }
/** Draws a piece of a paper; nothing where it is not shown. */
export type Draw = (doc: Doc, frame: Frame) => Node[]

type Style = {
	bold?: boolean | undefined
	italic?: boolean | undefined
	underline?: boolean | undefined
	size?: number | undefined
	color?: string | undefined
	display?: boolean | undefined
}
/** How text looks, worked out. */
export type Look = { face: Face; size: number; color: string; underline?: boolean }

/** What pieces are compiled with. */
export type Kit = {
	fields: Fields
	color: (name: string | undefined) => string
	/** The look of a style, what it leaves open taken from `base`. */
	look: (style: Style, base?: Style) => Look
}

/** What of a layout says how its text looks. */
type Looks = {
	palette: readonly { name: string; color: string }[]
	text: { family: Family; size: number; color: string }
	display?: Family | undefined
}

/** What the pieces of a layout are compiled with: its fields, colours and looks of text. */
export function kitOf(layout: Looks, fields: Fields): Kit {
	const palette = new Map(layout.palette.map(({ name, color }) => [name, color]))
	const ink = palette.get(layout.text.color) ?? layout.palette[0]?.color ?? '000000'
	const color = (name: string | undefined) => (name === undefined ? ink : (palette.get(name) ?? ink))
	return {
		fields,
		color,
		look: (style, base = {}) => {
			const family = (style.display ?? base.display) && layout.display ? layout.display : layout.text.family
			const bold = style.bold ?? base.bold
			const italic = style.italic ?? base.italic
			return {
				face: `${family}/${bold ? (italic ? 'bold italic' : 'bold') : italic ? 'italic' : 'regular'}`,
				size: style.size ?? base.size ?? layout.text.size,
				color: color(style.color ?? base.color),
				...((style.underline ?? base.underline) ? { underline: true } : {}),
			}
		},
	}
}

/** Height of a line as a multiple of its size, unless a piece says otherwise. */
export const usualLead = 1.28

/** The baseline of a line that is `height` high, from its top: text sits a little above the middle. */
export const baseline = (size: number, height: number): number => (height - size) / 2 + size * 0.8

/** Words in the language of a paper. */
export const say = (doc: Pick<Doc, 'at'>, said: Said): string => sayIn(said, doc.at.languages)

/** Text broken into slabs, a line each; the first two and the last two stay together. */
export function textSlabs(
	lines: readonly Line[],
	frame: Frame,
	piece: string,
	{ lead = usualLead, align, keep = false }: { lead?: number; align?: Align | undefined; keep?: boolean } = {},
): Slab[] {
	return lines.map((line, index) => {
		const height = line.size * lead
		return {
			is: 'slab',
			height,
			items: lineItems(line, frame.x, frame.width, baseline(line.size, height), align),
			keep: index === lines.length - 1 ? keep : (index === 0 || index === lines.length - 2) && lines.length > 1,
			piece,
		}
	})
}

/** Slabs as one that is not parted. */
export function together(slabs: readonly Slab[], piece: string, keep = false): Slab {
	const items: PageItem[] = []
	let height = 0
	for (const slab of slabs) {
		for (const item of slab.items) item.y += height
		items.push(...slab.items)
		height += slab.height
	}
	return { is: 'slab', height, items: items, keep, piece }
}

/** Text of one look, broken into lines. */
export const plainLines = (text: string, look: Look, width: number, { tools }: Doc): Line[] =>
	breakLines([{ text, ...look }], width, tools.metrics)

/** Compiled runs with their looks. */
export type Runs = { run: CompiledInline; look: Look }[]
/** Compiled runs, each with its look; what a run leaves open is taken from `base`. */
export const withLooks = (runs: readonly CompiledInline[], kit: Kit, base: Style): Runs =>
	runs.map((run) => ({ run, look: kit.look(run.inline, base) }))
/** The runs as they are written; null when they name fields and all are empty. */
export function spansOf(runs: Runs, at: At): Span[] | null {
	let [fields, found] = [false, false]
	const spans: Span[] = []
	for (const { run, look } of runs) {
		const text = run.write(at)
		if (run.isField) fields = true
		if (text === null) continue
		if (run.isField) found = true
		if (text !== '') spans.push({ text, ...look })
	}
	return fields && !found ? null : spans
}

/** A gap, where there is any. */
export const gap = (height: number): Node[] => (height > 0 ? [{ is: 'gap', height }] : [])

export type { Language }
