import { type Block, plain, type Saying } from './blockKit'
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
export function blocksOf({ layout, kit, tables }: Compiled, content: Content, tools: Saying['tools']): Block[] {
	const at: At = { content, languages: languagesFor(content), place: -1, row: 0, page: 1, pages: 1 }
	const saying: Saying = { kit, at, tools }
	const on = (pieces: readonly Piece[], without: string) =>
		pieces.filter((piece) => (piece.on ?? 'every') !== 'following' && piece.on !== without && !namesPages(piece))
	const shown = tables.filter((table) => isShown(table.id, layout.body, saying))
	const hidden = outOfSight(shown, kit, at)
	const said =
		hidden.length > 0 && content.kind !== 'statement'
			? [
					plain(
						`${say(saying, word('Not listed here'))}: ${hidden.length} ${say(saying, word('lines'))}${content.kind === 'unpriced' ? '' : ` (${say(saying, word('Net'))} ${netOf(content, hidden)})`}`,
						kit.look({ italic: true }),
					),
				]
			: []
	return [
		...stack(on(layout.head, 'last'), saying),
		...stack(layout.body, saying),
		...said,
		...stack(on(layout.foot, ''), saying),
	]
}

const namesPages = (piece: Piece): boolean => /"field":"pages?"/.test(JSON.stringify(piece))

/** Whether a piece and all that it stands in are shown. */
function isShown(id: string, pieces: readonly Piece[], saying: Saying): boolean {
	const outer = pieces.find((piece) => allWithin([piece]).some((inner) => inner.id === id))
	if (!outer || !compileCondition(outer.when, saying.kit.fields)(saying.at)) return false
	return (
		outer.id === id ||
		isShown(
			id,
			outer.type === 'box' ? outer.pieces : outer.type === 'beside' ? outer.columns.flatMap((one) => one.pieces) : [],
			saying,
		)
	)
}

const stack = (pieces: readonly Piece[], saying: Saying): Block[] =>
	pieces.flatMap((piece) => (compileCondition(piece.when, saying.kit.fields)(saying.at) ? blocks(piece, saying) : []))

function blocks(piece: Piece, saying: Saying): Block[] {
	if (piece.type === 'box') {
		const { kit } = saying
		const inner = stack(piece.pieces, saying)
		const color = (name: string | undefined) => (name === undefined ? null : kit.color(name))
		return inner.length === 0 ? [] : [{ is: 'box', blocks: inner, fill: color(piece.fill), edge: color(piece.edge) }]
	}
	if (piece.type === 'beside') {
		const shares = piece.columns.reduce((sum, { share }) => sum + share, 0)
		const columns = piece.columns.map(({ share, pieces }) => ({ share: share / shares, blocks: stack(pieces, saying) }))
		return columns.every((column) => column.blocks.length === 0) ? [] : [{ is: 'beside', columns }]
	}
	return leafOf(piece).blocks(piece, saying)
}
