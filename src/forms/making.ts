import type { Fields } from '@/layout/fields'
import type { Language } from '@/layout/languages'
import type { Piece } from '@/layout/schema'
import type { Block, Form, Note } from './form'
import type { Looks } from './looks'
import type { Answers, PlaceholderAnswer, Understood } from './marks'

/** How deep pieces may still be put within each other below a stack. */
export const deepest = 5
export const mostColumns = 6
export const usualLead = 1.17
const round = (value: number): number => Math.round(value * 100) / 100
/** A length rounded and held between two bounds. */
export const bounded = (value: number, least: number, most: number): number =>
	round(Math.max(least, Math.min(most, value)))

export type Making = {
	form: Form
	understood: Understood
	answers: Answers
	looks: Looks
	language: Language
	fields: Fields
	notes: Note[]
	pieceOf: Map<string, string>
	ids: Set<string>
	band: 'head' | 'body' | 'foot'
	/** Blocks one below the other as pieces; `depth` is how deep pieces may stand within each other from there on. */
	stack: (blocks: readonly Block[], width: number, making: Making, depth: number) => Piece[]
}

/** An id that no piece of the layout has yet: the wanted one, or it with a number behind. */
export function idFor(wanted: string, making: Making): string {
	for (let count = 1; ; count++) {
		const id = count === 1 ? wanted : `${wanted}-${count}`
		if (!making.ids.has(id)) {
			making.ids.add(id)
			return id
		}
	}
}
/** The id of the piece that a block becomes; the block is found there. */
export function idOf(block: string, making: Making): string {
	const id = idFor(block, making)
	if (!making.pieceOf.has(block)) making.pieceOf.set(block, id)
	return id
}
/** Notes once what of a block cannot be as it was in the form. */
export const note = (making: Making, block: string, words: string) => {
	if (!making.notes.some((one) => one.block === block && one.words === words)) making.notes.push({ block, words })
}

/** What a mark was given: the answer, and nothing for one that still stands as it was written. */
export function answerAt(paragraph: string, index: number, making: Making): PlaceholderAnswer | undefined {
	const key = making.understood.keyAt.get(`${paragraph} ${index}`)
	return key === undefined ? undefined : making.answers.marks[key]
}

export type Part = { width: number; pieces: Piece[] }
/** Parts side by side, their widths as shares of the whole; widths and gap in points. */
export const beside = (id: string, parts: readonly Part[], width: number, making: Making, gap = 0): Piece => ({
	type: 'beside',
	id: idFor(id, making),
	columns: parts.map((part) => ({ share: bounded(((part.width || 1) / width) * 10, 0.05, 20), pieces: part.pieces })),
	gap,
})

export const mostRuns = 200
