import type { BillContent } from '@/core/document'
import type { StatementContent } from '@/core/statement'
import type { Language } from './languages'

/** What is said on a paper. */
export type Content = BillContent | StatementContent
export type PaperKind = Content['kind']

/** How a value is written unless it is told otherwise. `lines` are several, one below the other. */
export type FieldType = 'text' | 'lines' | 'number' | 'count' | 'price' | 'money' | 'percent' | 'day' | 'picture'
export type Raw = string | readonly string[]

/** Where a value is read: the paper, and within it one of its lines, items or movements; the page where it stands on one. */
export type At = {
	content: Content
	languages: readonly Language[]
	/** Index of the line, order, tax, item or movement; -1 for none. */
	place: number
	/** Where it stands among those in sight, from 1; 0 for none. */
	row: number
	page: number
	pages: number
}
/** What a field belongs to: the whole paper, or each of its lines and so on. */
export type Of = 'paper' | 'line' | 'order' | 'tax' | 'item' | 'movement'
export type Field = {
	key: string
	/** As a list of fields has it, below its group. */
	name: string
	group: string
	of: Of
	type: FieldType
	/** Kinds of paper that have it; every one without. */
	kinds?: readonly PaperKind[]
	/** Values that it can have, with their names, where it has no others. */
	values?: readonly [value: string, name: string][]
	read: (at: At) => Raw
}
