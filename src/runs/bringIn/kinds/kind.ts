import type { Reading, RowRefusal } from '@/intake/reading'
import type { Rows } from '@/intake/rows'
import type { settled } from '@/intake/settled'
import type { Books } from '@/store/books'
import type { Desk } from '@/store/events'
import type { SourceFile } from '@/store/files'
import { recordsIn, type SheetRecord, type StagedOrder } from '@/store/outcomes'
import type { Staging } from '@/store/staging'
import type { Known } from '../knownBooks'
import type { Answers, Review } from '../review'

/** What a kind's taking has at hand, and where it puts what comes of the rows. */
export type Taking = {
	books: Books
	desk: Desk
	fileId: number
	/** Whether it was accepted before: what it brought then is not brought again. */
	accepted: boolean
	known: Known
	reading: Reading
	decided: ReturnType<typeof settled>
	rows: Rows
	answers: Answers
	/** Forgets what came of the rows so far. */
	anew: () => void
	refuse: (refusal: RowRefusal) => void
	left: (row: number, why: string) => void
	record: (record: Omit<SheetRecord, 'seq'>) => void
	stage: (order: StagedOrder) => void
}
/** What a kind says of its taking beside the records; rows that were taken are told one by one. */
export type Taken = { rows: number } & Partial<
	Pick<Review, 'money' | 'untold' | 'sourceTotal' | 'lookedUp' | 'withoutPrice' | 'unknown' | 'payments' | 'extract'>
>

/** Stops a work that is told to. */
export class Stopped extends Error {}

/** What a work over rows tells of itself; `seen` throws `Stopped` where it is to stop. */
export type Watch = { seen: (done: number, total: number) => void }

/** What the accepting of a kind has at hand. */
export type Entering = {
	books: Books
	desk: Desk
	file: SourceFile
	staging: Staging
	review: Review
	reading: Reading
	answers: Answers
	watch: Watch
}
/** What accepting did, and what of the file is still to bring. */
export type Entered = { words: string; left: Review }

/** The rules of a kind of file, beside its fields: what its rows become, and how that comes into the books. A new one is a file and a line in `index.ts`. */
export type KindRules = {
	take: (taking: Taking) => Taken
	/**
	 * Puts what was taken into the books, in one step within which accepting ends, or step by step until a last one within which it does.
	 * @param end ends the accepting within the step
	 */
	enter: (entering: Entering, end: (entered: Entered) => Accepted) => Promise<Accepted> | Accepted
	/** How many accepting would bring, of what is in view or of what was mended since. */
	countToAccept: (review: Review, accepted: boolean) => number
	/** What one is called, and several are. */
	one: string
	several: string
}
export type Accepted = { ok: true; words: string } | { ok: false; message: string }

/** How many of some standings there are. */
export const standing = ({ standings }: Review, ...names: string[]): number =>
	names.reduce((sum, name) => sum + (standings[name] ?? 0), 0)

/** How many rows were refused, as the end of a sentence; empty where none was. */
export const restWords = (review: Review): string =>
	review.rows.refused === 0
		? ''
		: `; ${review.rows.refused === 1 ? 'one row was' : `${review.rows.refused} rows were`} refused`

/** The records of a staging file in their order, read some hundred at a time. */
export function* eachRecord(staging: Staging): Generator<SheetRecord> {
	for (let after = 0; ; ) {
		const records = recordsIn(staging, null, after, 1000)
		const last = records.at(-1)
		if (!last) return
		after = last.seq
		yield* records
	}
}
