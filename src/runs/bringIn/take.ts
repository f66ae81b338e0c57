import { createHash } from 'node:crypto'
import { correctedRows } from '@/intake/corrected'
import type { ColumnSays } from '@/intake/evidence'
import { missingFields, type Reading, readingSchema } from '@/intake/reading'
import type { Rows } from '@/intake/rows'
import { settled } from '@/intake/settled'
import { type Books, inOneStep } from '@/store/books'
import { correctionsOf, leftOutOf } from '@/store/corrections'
import type { Desk } from '@/store/events'
import { readFile, type SourceFile, setReview } from '@/store/files'
import { leftCounts, outcomeKeeper, refusedCount, standingCounts } from '@/store/outcomes'
import { readPaperKind } from '@/store/paperKinds'
import { openStaging, rowCount, rowsIn, type Staging } from '@/store/staging'
import { kindRules } from './kinds'
import type { Taken, Watch } from './kinds/kind'
import { knownBooks, stampOf } from './knownBooks'
import { type Review, readAnswers } from './review'

const watched = (rows: Rows, watch: Watch): Rows => ({
	...rows,
	*each() {
		let done = 0
		for (const row of rows.each()) {
			if (++done % 2000 === 0) watch.seen(done, rows.last)
			yield row
		}
	},
})

/**
 * Works out what a file would bring, by how it is set to be read, what was corrected in it, and the books as they are. Kept beside the file;
 * nothing of it is in the books.
 */
export function takeFile(books: Books, desk: Desk, fileId: number, watch: Watch): Review | null {
	const file = readFile(books, fileId)
	if (!file?.look) return null
	const staging = openStaging(books.folder, fileId)
	try {
		return takeInto(books, desk, file, staging, watch)
	} finally {
		staging.close()
	}
}

function takeInto(books: Books, desk: Desk, file: SourceFile, staging: Staging, watch: Watch): Review {
	const reading = readingSchema.parse(JSON.parse(file.reading))
	const evidence: ColumnSays[] = JSON.parse(file.look ?? '{}').evidence ?? []
	const answers = readAnswers(file.answers)
	// Read first: what changes while the rows are gone through is found by the stamp afterwards.
	const stamp = stampOf(books)
	const known = knownBooks(books)
	const kept = rowsIn(staging)
	const leftOut = new Set(leftOutOf(books, file.id).map(({ row }) => row))
	const rows = watched(correctedRows(kept, correctionsOf(books, file.id), leftOut, reading.lineFrom), watch)
	const missing = [
		...missingFields(reading, known.ownFields).map(({ label }) => label),
		...missingOfSheet(books, reading),
	]
	const decided = settled(rows, reading, evidence, known.ownFields)
	let all = rowCount(staging)
	let out = outcomeKeeper(staging, all)
	let digest = digestOf(stampFree(file))
	let taken: Taken = { rows: 0 }
	try {
		if (missing.length === 0 && decided.questions.length === 0) {
			taken = kindRules[reading.kind].take({
				books,
				desk,
				fileId: file.id,
				accepted: file.state === 'accepted',
				known,
				reading,
				decided,
				rows,
				answers,
				anew: () => {
					out.end()
					out = outcomeKeeper(staging, all)
					digest = digestOf(stampFree(file))
				},
				refuse: (refusal) => {
					digest.add(`${refusal.row} ${refusal.field} ${refusal.remedy}\n`)
					out.refuse(refusal)
				},
				left: (row, why) => {
					digest.add(`${row} ${why}\n`)
					out.left(row, why)
				},
				record: (record) => {
					digest.add(`${record.key} ${record.standing} ${record.brief} ${record.body}\n`)
					out.record(record)
				},
				stage: (staged) => {
					const { order, standing, apart, words } = staged
					digest.add(`${order.number} ${apart} ${standing} ${order.sameAs} ${order.note} ${words}\n`)
					out.order(staged)
				},
			})
		}
		out.end()
	} catch (error) {
		out.giveUp()
		throw error
	}
	if (reading.headRow !== null) all--
	const left = leftCounts(staging)
	const refused = refusedCount(staging)
	const review: Review = {
		digest: digest.end(),
		stamp,
		rows: { all, taken: taken.rows, refused, left },
		money: taken.money ?? [],
		untold: taken.untold ?? 0,
		sourceTotal: taken.sourceTotal ?? null,
		decided,
		missing,
		standings: standingCounts(staging),
		lookedUp: taken.lookedUp ?? {},
		withoutPrice: taken.withoutPrice ?? 0,
		unknown: taken.unknown ?? [],
		payments: taken.payments ?? [],
		extract: taken.extract ?? null,
	}
	const counted = taken.rows + refused + left.reduce((sum, { rows: some }) => sum + some, 0)
	if (missing.length === 0 && decided.questions.length === 0 && counted !== all)
		throw new Error(
			`The rows do not add up: ${all} were read, but ${taken.rows} taken, ${refused} refused and ${counted - taken.rows - refused} left out.`,
		)
	inOneStep(books, () => {
		const now = readFile(books, file.id)
		// What was set meanwhile is worked out by the job that follows.
		if (now && now.reading === file.reading && now.answers === file.answers)
			setReview(books, file.id, JSON.stringify(review))
	})
	return review
}

/** What must be said of a sheet's rows before they are taken: the kind of paper that they are for, and which of them belong together. */
function missingOfSheet(books: Books, { kind, paperKind, columns, defaults }: Reading): string[] {
	if (kind !== 'rows') return []
	const paper = readPaperKind(books, paperKind)
	if (paper?.records !== 'sheet' || paper.away_at) return ['The kind of paper that the rows are for']
	return paper.each === 'key' && columns.key === undefined && !defaults.key ? ['What a paper is for'] : []
}

/** A hash of many short texts, which are put together first. */
function digestOf(first: string) {
	const hash = createHash('sha256').update(first)
	let text = ''
	return {
		add: (more: string) => {
			text += more
			if (text.length < 100_000) return
			hash.update(text)
			text = ''
		},
		end: () => hash.update(text).digest('hex'),
	}
}

/** What of a file decides its outcome, apart from its rows and the books. */
const stampFree = ({ kind, reading, answers }: SourceFile): string => JSON.stringify([kind, reading, answers])
