import type { Node } from '../flow'
import type { Beside, Box, Piece } from '../schema'
import { breakLines } from '../text'
import { compileCondition, compileInlines } from '../values'
import { compileAddress } from './address'
import { compileAging } from './aging'
import { compileCode } from './code'
import { compileFacts } from './facts'
import { type Doc, type Draw, type Frame, gap, type Kit, spansOf, textSlabs, withLooks } from './kit'
import { compileLines } from './lines'
import { compileSlip } from './slip'
import { compileTotals } from './totals'
import { compileWords } from './words'

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
	switch (piece.type) {
		case 'words':
			return compileWords(piece, kit)
		case 'facts':
			return compileFacts(piece, kit)
		case 'address':
			return compileAddress(piece, kit)
		case 'lines':
			return compileLines(piece, kit)
		case 'totals':
			return compileTotals(piece, kit)
		case 'aging':
			return compileAging(piece, kit)
		case 'picture':
			return compilePicture(piece, kit)
		case 'code':
			return compileCode(piece, kit)
		case 'slip':
			return compileSlip(piece, kit)
		case 'rule': {
			const thickness = piece.thickness ?? 0.6
			const color = kit.color(piece.color)
			return (_doc, { x, width }) => [
				{
					is: 'slab',
					height: thickness,
					items: [{ type: 'rule', x, y: 0, width: Math.min(piece.length ?? width, width), thickness, color }],
					piece: piece.id,
				},
			]
		}
		case 'space':
			return () => [{ is: 'gap', height: piece.height }]
		case 'turn':
			return () => [{ is: 'turn' }]
		case 'box':
			return compileBox(piece, kit)
		case 'beside':
			return compileBeside(piece, kit)
	}
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

function compilePicture(piece: Extract<Piece, { type: 'picture' }>, kit: Kit): Draw {
	const field = typeof piece.of === 'object' && 'field' in piece.of ? kit.fields.get(piece.of.field) : undefined
	const none = compileInlines(piece.none ?? [], kit.fields)
	const noneRuns = withLooks(none, kit, {})
	return (doc, frame): Node[] => {
		const raw =
			piece.of === 'logo'
				? (doc.at.content.issuer.logo ?? '')
				: 'image' in piece.of
					? piece.of.image
					: (field?.read(doc.at) ?? '')
		const sha256 = typeof raw === 'string' ? raw : ''
		const picture = sha256 === '' ? null : doc.tools.picture(sha256)
		if (!picture) {
			if (sha256 !== '') doc.notes.push({ piece: piece.id, what: 'its picture is missing' })
			const spans = none.length === 0 ? null : spansOf(noneRuns, doc.at)
			if (!spans) return []
			return textSlabs(breakLines(spans, frame.width, doc.tools.metrics), frame, piece.id, {
				align: piece.align,
			})
		}
		// As large as it may be, in its own proportions.
		const width = Math.min(piece.width, frame.width, piece.height * picture.ratio)
		const height = width / picture.ratio
		const x =
			piece.align === 'right'
				? frame.x + frame.width - width
				: piece.align === 'center'
					? frame.x + (frame.width - width) / 2
					: frame.x
		return [{ is: 'slab', height, items: [{ type: 'image', x, y: 0, width, height, sha256 }], piece: piece.id }]
	}
}
