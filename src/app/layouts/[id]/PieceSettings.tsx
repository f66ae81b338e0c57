'use client'
import type { LayoutFinding } from '@/layout/check'
import { pieceTypes } from '@/layout/pieceTypes'
import type { Piece } from '@/layout/schema'
import { Notice } from '@/ui/Notice'
import { ConditionEdit } from './ConditionEdit'
import { PieceForm } from './PieceForm'
import { Pick, Points, type Put } from './parts'

type Change<Of extends Piece = Piece> = (piece: Of, words: string) => void
type Props = {
	piece: Piece
	/** The band that it stands in by itself, where that comes with pages. */
	top: 'head' | 'foot' | null
	findings: LayoutFinding[]
	onChange: Change
	onCopy: () => void
	onRemove: () => void
	onMove: (by: 1 | -1) => void
}

/** The settings of the chosen piece. */
export function PieceSettings({ piece, top, findings, onChange, onCopy, onRemove, onMove }: Props) {
	const put = (more: Partial<Piece>, words = `changed ${pieceTypes[piece.type].name.toLowerCase()}`) => {
		// What is set back to nothing leaves the layout.
		const next = Object.fromEntries(Object.entries({ ...piece, ...more }).filter(([, value]) => value !== undefined))
		onChange(next as Piece, words)
	}
	return (
		<div className="space-y-4">
			<div className="flex items-baseline gap-2">
				<h2 className="flex-1 text-lg font-semibold">{pieceTypes[piece.type].name}</h2>
				<button
					type="button"
					aria-label="Move up"
					className="px-1 text-plum hover:underline"
					onClick={() => onMove(-1)}
				>
					↑
				</button>
				<button
					type="button"
					aria-label="Move down"
					className="px-1 text-plum hover:underline"
					onClick={() => onMove(1)}
				>
					↓
				</button>
				<button type="button" className="text-plum hover:underline" onClick={onCopy}>
					Copy
				</button>
				<button type="button" className="text-brick hover:underline" onClick={onRemove}>
					Take away
				</button>
			</div>
			{findings.map(({ level, words }) => (
				<Notice key={words} tone={level}>
					{words}
				</Notice>
			))}
			<PieceForm piece={piece} put={put as Put} />
			<hr className="border-rule" />
			<ConditionEdit
				label="Shown"
				none="always"
				value={piece.when}
				onChange={(when) => put({ when }, 'changed when a piece is shown')}
			/>
			{top && (
				<Pick
					label="On"
					value={piece.on ?? 'every'}
					options={[
						['every', 'every page'],
						['first', 'the first page'],
						['following', 'the pages after the first'],
						...(top === 'foot' ? ([['last', 'the last page']] as const) : []),
					]}
					onChange={(on) => put({ on: on === 'every' ? undefined : on })}
				/>
			)}
			<Points
				label="Space above, points"
				value={piece.above}
				none="0"
				onChange={(above) => put({ above })}
				most={400}
			/>
		</div>
	)
}
