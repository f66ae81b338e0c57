'use client'
import { Colour, type FormOf, Points } from '../parts'

export function BoxForm({ piece, put }: FormOf<'box'>) {
	return (
		<div className="grid grid-cols-2 gap-2">
			<Colour label="Ground" value={piece.fill} none="none" onChange={(fill) => put({ fill })} />
			<Colour label="Edge" value={piece.edge} none="none" onChange={(edge) => put({ edge })} />
			<Points
				label="Thickness of edge"
				value={piece.thickness}
				none="0.6"
				least={0.1}
				most={10}
				onChange={(thickness) => put({ thickness })}
			/>
			<Points label="Rounded by" value={piece.radius} none="0" most={40} onChange={(radius) => put({ radius })} />
			<Points label="Space within" value={piece.pad} none="8" most={60} onChange={(pad) => put({ pad })} />
		</div>
	)
}
