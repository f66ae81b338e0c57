import { sha256 } from '@/intake/sha256'
import { sameKey, takeSheetRows } from '@/intake/sheetRows'
import { keepSheetRecord, replaceEarlier, type StagedPaper, sheetTitle } from '@/runs/records/sheetRecords'
import { inOneStep } from '@/store/books'
import { record } from '@/store/events'
import { readPaperKind } from '@/store/paperKinds'
import { earlierRecords } from '@/store/paperRecords'
import { noteRowTaken, rowsTaken } from '@/store/rowsTaken'
import { workDate } from '@/store/settings'
import { hereBefore } from '../review'
import {
	type Entered,
	type Entering,
	eachRecord,
	type KindRules,
	restWords,
	standing,
	type Taken,
	type Taking,
} from './kind'

/** Takes the rows of a sheet: which become one paper, whom it goes to, and whether an earlier sheet had it. */
function takeRows({ books, fileId, known, reading, decided, rows, refuse, left, record: stage }: Taking): Taken {
	const kind = readPaperKind(books, reading.paperKind)
	if (kind?.records !== 'sheet') return { rows: 0 }
	const entered = rowsTaken(books, fileId)
	const earlier = earlierRecords(books, kind.id, fileId)
	let taken = 0
	takeSheetRows(
		rows,
		reading,
		decided,
		known.ownFields,
		kind.each,
		sheetTitle(books, fileId),
		{ isCustomer: (number) => known.customers.has(number.toUpperCase()) },
		{
			refuse,
			left,
			paper: (paper) => {
				taken += paper.rows.length
				const says = sha256(JSON.stringify(paper)).slice(0, 20)
				const first = paper.rows[0] ?? 0
				const before = earlier.get(sameKey(paper.key)) ?? []
				const open = before.filter(({ issued }) => !issued).map(({ id }) => id)
				const body: StagedPaper = { ...paper, earlier: open }
				const here = entered.get(first) === says
				stage({
					key: paper.key,
					first_row: first,
					standing: here ? hereBefore : open.length > 0 ? 'changed' : 'new',
					brief: JSON.stringify({
						name: paper.recipient.name || paper.customer,
						rows: paper.rows.length,
						otherwise: paper.otherwise.length,
						email: paper.recipient.email,
						issued: before.some(({ issued }) => issued),
					}),
					body: here ? '' : JSON.stringify(body),
					said: says,
				})
			},
		},
	)
	return { rows: taken }
}

/** Records come in one a paper; those of earlier sheets that nothing was issued of make room where the clerk said so. */
function enterRows({ books, desk, file, staging, review, reading, answers }: Entering): Entered {
	const kind = readPaperKind(books, reading.paperKind)
	if (kind?.records !== 'sheet' || kind.away_at) throw new Error('The kind of paper was taken away. Choose another.')
	const day = workDate(books, desk.now().slice(0, 10))
	let [added, replaced, kept] = [0, 0, 0]
	for (const { standing, first_row, body, said } of eachRecord(staging)) {
		if (standing === hereBefore) continue
		const staged: StagedPaper = JSON.parse(body)
		noteRowTaken(books, file.id, first_row, said)
		if (answers.amended === 'replace') {
			const done = replaceEarlier(books, desk, staged.earlier, file.name)
			replaced += done.replaced
			kept += done.kept
		}
		keepSheetRecord(books, desk, file, kind.id, staged, day)
		added++
	}
	const parts = [
		`${added === 1 ? 'One record' : `${added} records`} for ${kind.several} came in`,
		...(replaced > 0 ? [`${replaced} of an earlier sheet made room`] : []),
		...(kept > 0 ? [`${kept} of an earlier sheet stay, since a step of their run is going`] : []),
	]
	record(books, desk, {
		subject: 'paper kind',
		id: kind.id,
		act: 'brought in a sheet',
		detail: `${file.name}: ${added}`,
	})
	return { words: `${parts.join('; ')}${restWords(review)}.`, left: { ...review, standings: {} } }
}

export const rowsRules: KindRules = {
	take: takeRows,
	enter: (entering, end) => inOneStep(entering.books, () => end(enterRows(entering))),
	countToAccept: (review) => standing(review, 'new', 'changed'),
	one: 'record',
	several: 'records',
}
