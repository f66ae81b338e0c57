import type { Node } from '../flow'
import { leafOf } from '../pieceTypes'
import type { Beside, Box, Piece } from '../schema'
import { compileCondition } from '../values'
import { type Doc, type Draw, type Frame, gap, type Kit } from './kit'

/** A piece made ready to be drawn on any paper: shown where its condition holds, with the space above it. */
export function compilePiece(piece: Piece, kit: Kit): Draw {
	const shown = compileCondition(piece.when, kit.fields)
	const draw = drawOf(piece, kit)
	const above = piece.above ?? 0
	return (doc, frame) => {
		if (!shown(doc.at)) return []
		doc.frames.set(piece.id, frame)
		const nodes = draw(doc, frame)
		return nodes.length > 0 && above > 0 ? [...gap(above), ...nodes] : nodes
	}
}

function drawOf(piece: Piece, kit: Kit): Draw {
	if (piece.type === 'box') return compileBox(piece, kit)
	if (piece.type === 'beside') return compileBeside(piece, kit)
	return leafOf(piece).draw(piece, kit)
}

/** Pieces one below the other. */
function compileStack(pieces: readonly Piece[], kit: Kit): Draw {
	const draws = pieces.map((piece) => compilePiece(piece, kit))
	return (doc, frame) => draws.flatMap((draw) => draw(doc, frame))
}

function compileBox(piece: Box, kit: Kit): Draw {
	const inner = compileStack(piece.pieces, kit)
	const pad = piece.pad ?? 8
	const edge = piece.edge === undefined ? null : { color: kit.color(piece.edge), thickness: piece.thickness ?? 0.6 }
	const fill = piece.fill === undefined ? null : kit.color(piece.fill)
	return (doc, { x, width }): Node[] => {
		const nodes = inner(doc, { x: x + pad, width: width - 2 * pad })
		if (nodes.length === 0) return []
		return [{ is: 'box', nodes, look: { x, width, pad, fill, edge, radius: piece.radius ?? 0 }, piece: piece.id }]
	}
}

function compileBeside(piece: Beside, kit: Kit): Draw {
	const columns = piece.columns.map(({ pieces }) => compileStack(pieces, kit))
	const shares = piece.columns.reduce((sum, { share }) => sum + share, 0)
	const between = piece.gap ?? 16
	return (doc: Doc, frame: Frame): Node[] => {
		const room = frame.width - between * (columns.length - 1)
		let x = frame.x
		const drawn = columns.map((column, place) => {
			const width = (room * (piece.columns[place]?.share ?? 1)) / shares
			const nodes = column(doc, { x, width })
			x += width + between
			return nodes
		})
		return drawn.every((nodes) => nodes.length === 0) ? [] : [{ is: 'beside', columns: drawn, piece: piece.id }]
	}
}
