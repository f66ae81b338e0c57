'use client'
import { type FormOf, SaidEdit } from '../parts'
import { RowsForm } from './RowsForm'

export function SlipForm({ piece, put }: FormOf<'slip'>) {
	return (
		<>
			<SaidEdit label="Title" value={piece.title} onChange={(title) => put({ title })} />
			<RowsForm piece={piece} put={put} />
			<SaidEdit label="Over the line to write on" value={piece.paid} onChange={(paid) => put({ paid })} />
		</>
	)
}
