import type { PaperKind } from '../fieldTypes'
import type { Reckoned } from '../reckoned'
import type { Layout } from '../schema'
import { hasFigures } from './build'
import { ledger } from './ledger'
import { margin } from './margin'
import { plain } from './plain'

/** Reckoned by all looks of bills: whether any line has a discount, so that a column for it is worth its room. */
const anyLess: Reckoned = {
	key: 'any-less',
	name: 'Lines with a discount',
	how: { is: 'count', of: 'lines', only: { all: [{ field: 'line.discount-percent', is: 'not empty' }] } },
}

const looks = [plain, ledger, margin]
export const paperKinds = ['invoice', 'credit-note', 'statement'] as const

/** The colour by which each look stands out, as its palette names it. */
const accents: Record<string, string> = { Plain: 'ink', Ledger: 'band', Margin: 'moss' }

/** A look with another colour to stand out by, six hex digits; a look of another name stays as it is. */
export function withAccent(look: Layout, color: string): Layout {
	const accent = accents[look.name]
	return { ...look, palette: look.palette.map((own) => (own.name === accent ? { ...own, color } : own)) }
}

/** The looks that ship with the program for a kind of paper; a firm starts with the first. */
export const looksOf = (kind: PaperKind): Layout[] =>
	looks.map((look) => ({ ...look(kind), reckoned: hasFigures(kind) ? [anyLess] : [] }))
