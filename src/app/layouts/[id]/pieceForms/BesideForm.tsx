'use client'
import { Button } from '@/ui/Button'
import { type FormOf, Points } from '../parts'

export function BesideForm({ piece, put }: FormOf<'beside'>) {
	return (
		<>
			<div className="grid grid-cols-3 gap-2">
				{piece.columns.map((column, index) => (
					<Points
						key={index}
						label={`Share ${index + 1}`}
						value={column.share}
						least={0.05}
						most={20}
						onChange={(share) =>
							share && put({ columns: piece.columns.map((own, at) => (at === index ? { ...own, share } : own)) })
						}
					/>
				))}
			</div>
			<Points label="Space between" value={piece.gap} none="16" most={100} onChange={(gap) => put({ gap })} />
			<div className="flex gap-2">
				{piece.columns.length < 6 && (
					<Button
						onClick={() =>
							put({ columns: [...piece.columns, { share: 1, pieces: [] }] }, 'put a column beside the others')
						}
					>
						Another column
					</Button>
				)}
				{piece.columns.length > 1 && piece.columns.at(-1)?.pieces.length === 0 && (
					<Button onClick={() => put({ columns: piece.columns.slice(0, -1) }, 'took an empty column away')}>
						Take the empty one away
					</Button>
				)}
			</div>
		</>
	)
}
