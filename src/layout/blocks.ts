import { type Block, plain, type Say } from './blockKit'
import type { Compiled } from './draw'
import type { At, Content } from './fieldTypes'
import { languagesFor } from './languages'
import { netOf } from './netOf'
import { say } from './pieces/kit'
import { outOfSight } from './pieces/lineChoice'
import { leafOf } from './pieceTypes'
import { allWithin, type Piece } from './schema'
import { compileCondition } from './values'
import { word } from './words'

// A paper as what it says and in which order, without places on pages: for formats that lay text out by themselves.

/**
 * A paper in its reading order: what comes on its first page, what flows, what comes on its last. What names pages is left out, since
 * each format has its own.
 */
export function blocksOf({ layout, kit, tables }: Compiled, content: Content, tools: Say['tools']): Block[] {
	const at: At = { content, languages: languagesFor(content), place: -1, row: 0, page: 1, pages: 1 }
	const own: Say = { kit, at, tools }
	const on = (pieces: readonly Piece[], without: string) =>
		pieces.filter((piece) => (piece.on ?? 'every') !== 'following' && piece.on !== without && !namesPages(piece))
	const shown = tables.filter((table) => isShown(table.id, layout.body, own))
	const hidden = outOfSight(shown, kit, at)
	const said =
		hidden.length > 0 && content.kind !== 'statement'
			? [
					plain(
						`${say(own, word('Not listed here'))}: ${hidden.length} ${say(own, word('lines'))}${content.kind === 'unpriced' ? '' : ` (${say(own, word('Net'))} ${netOf(content, hidden)})`}`,
						kit.look({ italic: true }),
					),
				]
			: []
	return [
		...stack(on(layout.head, 'last'), own),
		...stack(layout.body, own),
		...said,
		...stack(on(layout.foot, ''), own),
	]
}

const namesPages = (piece: Piece): boolean => /"field":"pages?"/.test(JSON.stringify(piece))

/** Whether a piece and all that it stands in are shown. */
function isShown(id: string, pieces: readonly Piece[], own: Say): boolean {
	const outer = pieces.find((piece) => allWithin([piece]).some((inner) => inner.id === id))
	if (!outer || !compileCondition(outer.when, own.kit.fields)(own.at)) return false
	return (
		outer.id === id ||
		isShown(
			id,
			outer.type === 'box' ? outer.pieces : outer.type === 'beside' ? outer.columns.flatMap((one) => one.pieces) : [],
			own,
		)
	)
}

const stack = (pieces: readonly Piece[], own: Say): Block[] =>
	pieces.flatMap((piece) => (compileCondition(piece.when, own.kit.fields)(own.at) ? blocks(piece, own) : []))

function blocks(piece: Piece, own: Say): Block[] {
	if (piece.type === 'box') {
		const { kit } = own
		const inner = stack(piece.pieces, own)
		const color = (name: string | undefined) => (name === undefined ? null : kit.color(name))
		return inner.length === 0 ? [] : [{ is: 'box', blocks: inner, fill: color(piece.fill), edge: color(piece.edge) }]
	}
	if (piece.type === 'beside') {
		const shares = piece.columns.reduce((sum, { share }) => sum + share, 0)
		const columns = piece.columns.map(({ share, pieces }) => ({ share: share / shares, blocks: stack(pieces, own) }))
		return columns.every((column) => column.blocks.length === 0) ? [] : [{ is: 'beside', columns }]
	}
	return leafOf(piece).blocks(piece, own)
}
