'use client'
import { Colour, type FormOf, Points } from '../parts'

export function RuleForm({ piece, put }: FormOf<'rule'>) {
	return (
		<div className="grid grid-cols-2 gap-2">
			<Points
				label="Thickness"
				value={piece.thickness}
				none="0.6"
				least={0.1}
				most={20}
				onChange={(thickness) => put({ thickness })}
			/>
			<Points label="Length" value={piece.length} none="whole width" least={1} onChange={(length) => put({ length })} />
			<Colour label="Colour" value={piece.color} none="usual" onChange={(color) => put({ color })} />
		</div>
	)
}
