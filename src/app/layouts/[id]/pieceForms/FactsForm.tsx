'use client'
import { Colour, type FormOf, Pick, Points } from '../parts'
import { RowsForm } from './RowsForm'

export function FactsForm({ piece, put }: FormOf<'facts'>) {
	return (
		<>
			<RowsForm piece={piece} put={put} />
			<div className="grid grid-cols-2 gap-2">
				<Pick
					label="Labels"
					value={piece.labels ?? 'left'}
					options={[
						['left', 'left of values'],
						['above', 'above values'],
					]}
					onChange={(labels) => put({ labels })}
				/>
				<Points
					label="Side by side"
					value={piece.across}
					none="1"
					least={1}
					most={6}
					onChange={(across) => put({ across: across === undefined ? undefined : Math.round(across) })}
				/>
				<Points label="Size" value={piece.size} none="usual" least={4} most={96} onChange={(size) => put({ size })} />
				<Points
					label="Width of labels"
					value={piece.labelWidth}
					none="a third"
					least={10}
					most={400}
					onChange={(labelWidth) => put({ labelWidth })}
				/>
				<Colour
					label="Labels in"
					value={piece.labelColor}
					none="usual"
					onChange={(labelColor) => put({ labelColor })}
				/>
				<Colour label="Values in" value={piece.color} none="usual" onChange={(color) => put({ color })} />
			</div>
		</>
	)
}
