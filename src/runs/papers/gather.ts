import { type Day, dayText, isDay } from '@/core/calendar'
import { compareForNumbering } from '@/core/numbering'
import { no, type Outcome } from '@/core/outcome'
import { readCheckInputs } from '@/runs/drafts/checkInputs'
import { readRates } from '@/runs/drafts/rates'
import { type Books, inOneStep } from '@/store/books'
import { readCompany } from '@/store/company'
import { type Desk, latestEventId, record } from '@/store/events'
import { askFor } from '@/store/jobs'
import { readOrder } from '@/store/orders'
import { type PaperKindRow, paperKindOf, readPaperKind } from '@/store/paperKinds'
import {
	addToRun,
	ordersWithout,
	type PaperRecord,
	recordOfOrder,
	recordsOfRun,
	waitingRecords,
	whyGone,
} from '@/store/paperRecords'
import { addRun, noteChecked, readRun, setRunState } from '@/store/runs'
import { readSettings } from '@/store/settings'
import { addDraft, whyNone } from './drafting'

/** How many records of a kind have no paper yet, dated up to a day. */
export const withoutPaper = (books: Books, kind: PaperKindRow, upTo?: Day): number =>
	kind.records === 'orders' ? ordersWithout(books, kind.id, upTo).length : waitingRecords(books, kind.id, upTo).length

/** Starts a run of papers over all records of a kind that have none yet, dated up to a day; the runner gathers it. */
export function startPapers(books: Books, desk: Desk, kindId: number, upTo: Day, day: Day): Outcome {
	if (!isDay(upTo) || !isDay(day)) return no('Give both days of the run.')
	return inOneStep(books, (): Outcome => {
		const kind = readPaperKind(books, kindId)
		const hindered = whyNone(books, kind)
		if (!kind || hindered) return no(hindered)
		const records =
			kind.records !== 'orders'
				? waitingRecords(books, kindId, upTo).map(({ id }) => id)
				: ordersWithout(books, kindId, upTo).flatMap((id) => {
						const order = readOrder(books, id)
						return order ? [recordOfOrder(books, desk, kindId, order)] : []
					})
		if (records.length === 0)
			return no(`Nothing up to that day is without ${kind.name}. Make another one from its own page.`)
		const id = addRun(books, desk, upTo, day, kind.key, readSettings(books).numbering)
		for (const recordId of records) addToRun(books, id, recordId)
		askFor(books, desk, { kind: 'gather', run: id, expected: 0 })
		record(books, desk, {
			subject: 'run',
			id,
			act: `started ${kind.several}`,
			detail: `${records.length}, up to ${dayText(upTo)}`,
		})
		return { ok: true, id }
	})
}

/**
 * Drafts and checks the papers of a run: one step, all or nothing. A record that was withdrawn since the run was started is left out, and
 * told on the run's record.
 * @returns how many drafts there are; null when the run was gathered before
 */
export function gatherPapers(books: Books, desk: Desk, runId: number, workDate: Day): number | null {
	return inOneStep(books, () => {
		const run = readRun(books, runId)
		const company = readCompany(books)
		const kind = run && paperKindOf(books, run.kind)
		if (run?.state !== 'gathering' || !company || !kind) return null
		const making = {
			...{ kind, company, day: run.document_day },
			rates: readRates(books),
			factsOf: readCheckInputs(books, [], workDate, runId),
		}
		const compare = compareForNumbering(run.numbering)
		const records = recordsOfRun(books, runId).sort((a, b) =>
			compare({ customer: whom(a), day: a.day, order: a.number }, { customer: whom(b), day: b.day, order: b.number }),
		)
		const gone: string[] = []
		let position = 0
		for (const one of records) {
			const why = whyGone(books, one)
			if (why) gone.push(`${one.number}: ${why}`)
			else addDraft(books, making, one, runId, ++position)
		}
		setRunState(books, runId, 'open')
		record(books, desk, {
			subject: 'run',
			id: runId,
			act: 'gathered the run',
			detail: [
				`${position} ${kind.several}`,
				...(gone.length > 0 ? [`left out ${gone.slice(0, 5).join('; ')}`] : []),
			].join('; '),
		})
		noteChecked(books, runId, latestEventId(books))
		return position
	})
}

/** Whom a record's paper goes to. */
const whom = ({ body, customer }: PaperRecord): string => body?.recipient?.name || customer
