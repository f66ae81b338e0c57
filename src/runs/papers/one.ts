import type { Day } from '@/core/calendar'
import { no, type Outcome } from '@/core/outcome'
import { capital } from '@/core/wording'
import { readCheckInputs } from '@/runs/drafts/checkInputs'
import { readRates } from '@/runs/drafts/rates'
import { type Books, inOneStep } from '@/store/books'
import { readCompany } from '@/store/company'
import { dropDraft } from '@/store/drafts'
import { type Desk, latestEventId, record } from '@/store/events'
import { isGoing, latestJob } from '@/store/jobs'
import { readOrder } from '@/store/orders'
import { readPaperKind } from '@/store/paperKinds'
import { addToRun, leaveRun, type MadePaper, papersOf, readRecord, recordOfOrder, whyGone } from '@/store/paperRecords'
import { runGroups } from '@/store/places'
import { addRun, endRun, noteChecked } from '@/store/runs'
import { readSettings } from '@/store/settings'
import { addDraft, whyNone } from './drafting'

/** What becomes of the draft that there is: it makes room, or stays beside the new one as a version. */
type Again = 'replace' | 'both' | null
type MadeOne = { ok: true; id: number } | Extract<Outcome, { ok: false }>

/** The paper of an order of the books, by itself. */
export function makeOfOrder(
	books: Books,
	desk: Desk,
	kindId: number,
	orderId: number,
	again: Again,
	today: Day,
): MadeOne {
	return inOneStep(books, (): MadeOne => {
		const kind = readPaperKind(books, kindId)
		const order = readOrder(books, orderId)
		if (!order) return no('There is no such order.')
		if (kind?.records !== 'orders') return no('This kind of paper is not made from orders.')
		const made = makeOne(books, desk, recordOfOrder(books, desk, kindId, order), again, today)
		if (made.ok) record(books, desk, { subject: 'order', id: orderId, act: `made its ${kind.name}` })
		return made
	})
}

/**
 * Makes one paper of a record in a run of its own. Where one stands already, it asks: an open draft may be replaced or kept beside; what is
 * issued is never replaced.
 */
export function makeOne(books: Books, desk: Desk, recordId: number, again: Again, today: Day): MadeOne {
	return inOneStep(books, (): MadeOne => {
		const found = readRecord(books, recordId)
		if (!found) return no('There is no such record.')
		const kind = readPaperKind(books, found.kind_id)
		const company = readCompany(books)
		const hindered = whyNone(books, kind)
		if (!kind || !company || hindered) return no(hindered)
		const gone = whyGone(books, found)
		if (gone) return no(`It no longer counts: ${gone}.`)
		const standing = papersOf(books, recordId).filter((paper) => paper.stands === 1)
		const [latest] = standing
		const draft = standing.find(({ number }) => number === null) ?? null
		if (latest && again === null)
			return draft
				? {
						...no(`${capital(versionWords(draft))} of ${found.number} is open. Replace it, or keep both as versions?`),
						ask: 'draft',
					}
				: {
						...no(
							`${latest.number}, version ${latest.version}, was issued for ${found.number} and stays as it is. Make another version?`,
						),
						ask: 'issued',
					}
		if (again === 'replace') {
			if (!draft) return no('There is no open draft to replace: what is issued stays. Make another version.')
			const refused = putAside(books, desk, draft, recordId)
			if (refused) return no(refused)
		}
		const run = addRun(books, desk, today, today, kind.key, readSettings(books).numbering, 'open')
		addToRun(books, run, recordId)
		const making = {
			kind,
			day: today,
			company,
			rates: readRates(books),
			factsOf: readCheckInputs(books, [], today, run),
		}
		const id = addDraft(books, making, found, run, 1)
		const detail = `${kind.name} of ${found.number}${again === 'replace' ? ', in place of the draft' : again === 'both' ? ', another version' : ''}`
		record(books, desk, { subject: 'document', id, act: 'made a paper', detail })
		noteChecked(books, run, latestEventId(books))
		return { ok: true, id }
	})
}

const versionWords = ({ number, version }: MadePaper): string =>
	number === null ? `a draft, version ${version},` : `${number}, version ${version},`

/** Puts a draft away that another takes the place of; a run that has nothing left ends. @returns why not, empty where it is */
function putAside(books: Books, desk: Desk, { document_id, run_id }: MadePaper, recordId: number): string {
	if (isGoing(latestJob(books, run_id))) return 'A step of the draft’s run is going. Wait until it is done.'
	dropDraft(books, desk, document_id, 'it was made anew from its record')
	leaveRun(books, desk, run_id, recordId)
	record(books, desk, { subject: 'document', id: document_id, act: 'made anew', detail: 'the draft was put away' })
	if (runGroups(books, run_id).length === 0) endRun(books, desk, run_id, 'given-back')
	return ''
}

/** Drops one open draft of a paper; what it was made from is without it again. */
export function dropPaper(books: Books, desk: Desk, documentId: number, recordId: number, reason: string): Outcome {
	const words = reason.trim()
	if (words === '') return no('Say why it is dropped; the reason is kept.')
	return inOneStep(books, (): Outcome => {
		const draft = papersOf(books, recordId).find(({ document_id }) => document_id === documentId)
		if (!draft || draft.number !== null || draft.place === 'dropped') return no('Only an open draft is dropped.')
		if (isGoing(latestJob(books, draft.run_id))) return no('A step of its run is going. Wait until it is done.')
		dropDraft(books, desk, documentId, words)
		leaveRun(books, desk, draft.run_id, recordId)
		record(books, desk, { subject: 'document', id: documentId, act: 'dropped the draft', detail: words })
		if (runGroups(books, draft.run_id).length === 0) endRun(books, desk, draft.run_id, 'given-back')
		return { ok: true }
	})
}
