'use client'
import { type FormOf, Points } from '../parts'

export function SpaceForm({ piece, put }: FormOf<'space'>) {
	return <Points label="Height" value={piece.height} most={700} onChange={(height) => put({ height: height ?? 0 })} />
}
