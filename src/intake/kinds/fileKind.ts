import type { OwnOf } from '@/core/ownFields'
import type { Field } from './field'
import type { Master } from './master'

/** All that the reading of a kind of file goes by. What its rows become in the books is beside it, in `runs/bringIn/kinds`. */
export type FileKindRules = {
	fields: Field[]
	/** Whose own fields its columns can fill. */
	owns: readonly OwnOf[]
	/** What one of its records is called on a page of a printed report. */
	record: string
	/** Whether it can be told by the names of its columns; one that takes any columns cannot. */
	told: boolean
	/** How a row becomes a record of the books; null where rows are no such records. */
	master: Master | null
}
