'use client'
import { Colour, type FormOf, Pick, Points } from '../parts'

export function AgingForm({ piece, put }: FormOf<'aging'>) {
	return (
		<div className="grid grid-cols-2 gap-2">
			<Pick
				label="As"
				value={piece.as ?? 'across'}
				options={[
					['across', 'side by side'],
					['down', 'one below the other'],
				]}
				onChange={(as) => put({ as })}
			/>
			<Colour label="Late in" value={piece.late} none="usual" onChange={(late) => put({ late })} />
			<Points label="Size" value={piece.size} none="usual" least={4} most={40} onChange={(size) => put({ size })} />
		</div>
	)
}
