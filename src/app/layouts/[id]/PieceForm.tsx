'use client'
import type { ComponentType } from 'react'
import type { Piece, PieceType } from '@/layout/schema'
import type { FormOf, Put } from './parts'
import { AddressForm } from './pieceForms/AddressForm'
import { AgingForm } from './pieceForms/AgingForm'
import { BesideForm } from './pieceForms/BesideForm'
import { BoxForm } from './pieceForms/BoxForm'
import { CodeForm } from './pieceForms/CodeForm'
import { FactsForm } from './pieceForms/FactsForm'
import { LinesForm } from './pieceForms/LinesForm'
import { PictureForm } from './pieceForms/PictureForm'
import { RuleForm } from './pieceForms/RuleForm'
import { SlipForm } from './pieceForms/SlipForm'
import { SpaceForm } from './pieceForms/SpaceForm'
import { TotalsForm } from './pieceForms/TotalsForm'
import { WordsForm } from './pieceForms/WordsForm'

/** The form for what a type of piece has that others have not; null where it has nothing. */
const forms: { [T in PieceType]: ComponentType<FormOf<T>> | null } = {
	words: WordsForm,
	facts: FactsForm,
	address: AddressForm,
	lines: LinesForm,
	totals: TotalsForm,
	aging: AgingForm,
	picture: PictureForm,
	code: CodeForm,
	slip: SlipForm,
	rule: RuleForm,
	space: SpaceForm,
	turn: null,
	box: BoxForm,
	beside: BesideForm,
}

export function PieceForm({ piece, put }: { piece: Piece; put: Put }) {
	const Form = forms[piece.type] as ComponentType<{ piece: Piece; put: Put }> | null
	return Form && <Form piece={piece} put={put} />
}
