import type { At } from './fieldTypes'
import type { Doc, Encoded, Kit, Look, Runs } from './pieces/kit'
import { spansOf, withLooks } from './pieces/kit'
import type { Inline } from './schemaParts'
import type { Align, Span } from './text'
import { compileInlines } from './values'

// What a paper says, in the order in which it is read, without places on pages.

export type Run = { text: string; bold: boolean; italic: boolean; underline?: boolean; size: number; color: string }
export type Cell = { lines: Run[][]; align: Align; picture: { sha256: string; width: number } | null }
export type Row = { cells: Cell[]; strong: boolean }
export type Block =
	| { is: 'text'; runs: Run[]; align: Align; list: 'dots' | 'numbers' | null; heading: boolean }
	/** `shares` are the widths of its columns, of the whole. */
	| { is: 'table'; head: Cell[] | null; rows: Row[]; shares: number[]; ruled: boolean }
	| { is: 'picture'; sha256: string; width: number; height: number; align: Align }
	| {
			is: 'code'
			encoded: Extract<Encoded, { ok: true }>
			bars: boolean
			text: string
			width: number
			height: number
			align: Align
	  }
	| { is: 'rule'; color: string }
	| { is: 'beside'; columns: { share: number; blocks: Block[] }[] }
	| { is: 'box'; blocks: Block[]; fill: string | null; edge: string | null }

type Tools = { encode: Doc['tools']['encode']; picture: (sha256: string) => { ratio: number } | null }
/** What a piece says itself with: the layout made ready, and the paper. */
export type Saying = { kit: Kit; at: At; tools: Tools }

const runOf = (text: string, { face, size, color, underline }: Omit<Span, 'text'>): Run => ({
	text,
	bold: face.includes('bold'),
	italic: face.includes('italic'),
	...(underline ? { underline } : {}),
	size,
	color,
})
/** A paragraph of one look. */
export const plain = (text: string, look: Look, align: Align = 'left', heading = false): Block => ({
	is: 'text',
	runs: [runOf(text, look)],
	align,
	list: null,
	heading,
})
/** Text of one look as a cell of a table, a line a line. */
export const cell = (text: string, look: Look, align: Align = 'left'): Cell => ({
	lines: text === '' ? [] : text.split('\n').map((line) => [runOf(line, look)]),
	align,
	picture: null,
})
/** Compiled text as it is written on a paper; null where it names fields and all are empty. */
export const runsOf = (runs: Runs, at: At): Run[] | null =>
	spansOf(runs, at)?.map((span) => runOf(span.text, span)) ?? null
/** Text and fields as they are written; null where it names fields and all are empty. */
export const inlinesOf = (
	inlines: readonly Inline[],
	base: Parameters<Kit['look']>[0],
	{ kit, at }: Saying,
): Run[] | null => runsOf(withLooks(compileInlines(inlines, kit.fields), kit, base), at)
