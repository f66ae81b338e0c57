import { dayText } from '@/core/calendar'
import { formatTime } from '@/core/format'
import { registerNumber, yearOf } from '@/core/register'
import { capital } from '@/core/wording'
import type { KindName } from '@/kinds'
import { trialGoes } from '@/runs/papers/keep'
import { countAt, nextAct, tallyOf } from '@/runs/tally/tally'
import { type Books, inOneReading } from '@/store/books'
import { readCompany } from '@/store/company'
import { eventsOf, latestEventId } from '@/store/events'
import { latestJob } from '@/store/jobs'
import { linesOut } from '@/store/orders'
import { isNumbered, kindIn } from '@/store/paperKinds'
import { benchRows, runGroups, toNumberByKind } from '@/store/places'
import { nextValue, registerFor } from '@/store/registers'
import { type Run, readRun } from '@/store/runs'
import { readSettings } from '@/store/settings'
import { trialPrintsOf } from '@/store/trialPrints'
import { benchView } from './view'

function runTitle(books: Books, { kind, up_to }: Run): string {
	const { run } = kindIn(books, kind).words
	return `${capital(run)} ${dayText(up_to)}`
}

/** The numbers that so many documents of a kind would get next. */
function rangeOf(books: Books, run: Run, kind: KindName, count: number): string[] {
	const register = registerFor(books, kind)
	if (!register) return []
	const year = yearOf(run.document_day)
	const start = nextValue(books, register, year)
	const [first, last] = [start, start + count - 1].map((value) => registerNumber(register, value, year))
	return [first === last ? `${first}` : `${first} to ${last}`]
}

const counted = (count: number, { noun, nouns }: { noun: string; nouns: string }): string =>
	`${count} ${count === 1 ? noun : nouns}`

/** What the next step gives numbers to; what has no register is issued without one. */
function toNumberWords(books: Books, numbering: { kind: KindName; count: number }[]): string {
	if (numbering.length === 0) return ''
	const verb = numbering.every(({ kind }) => !isNumbered(books, kind)) ? 'Issue' : 'Number'
	return `${verb} ${numbering.map(({ kind, count }) => counted(count, kindIn(books, kind).words)).join(' and ')}`
}

/** Trial prints of a run that are here, and until when. */
function trialsOf(books: Books, runId: number) {
	const { trialDays } = readSettings(books)
	return trialPrintsOf(books, runId)
		.filter(({ gone_at }) => gone_at === null)
		.map(({ id, papers, made_at, made_by }) => ({
			id,
			words: `${papers === 1 ? 'A draft' : `${papers} drafts`}, printed ${formatTime(made_at)} by ${made_by}`,
			until: dayText(trialGoes(made_at, trialDays).slice(0, 10)),
		}))
}

/** What was done in a run, the first first. */
const recordOf = (books: Books, runId: number) =>
	eventsOf(books, 'run', runId)
		.sort((a, b) => a.id - b.id)
		.map(({ at, clerk, act, detail }) => ({ at, clerk, words: detail ? `${act}: ${detail}` : act }))

/** What the bench of a run shows, all of one moment. @param most rows that come with it; a longer list is fetched whole right after */
export const runView = (books: Books, id: number, most: number) =>
	inOneReading(books, () => {
		const run = readRun(books, id)
		return run ? viewOf(books, run, most) : null
	})
export type RunView = NonNullable<ReturnType<typeof runView>>

function viewOf(books: Books, run: Run, most: number) {
	const seen = latestEventId(books)
	const groups = runGroups(books, run.id)
	const next = nextAct(groups)
	const numbering = next.act === 'number' ? toNumberByKind(books, run.id) : []
	return {
		run: {
			id: run.id,
			numbering: run.numbering,
			/** Lines of orders that stand on no document, or on more than one, in words. */
			lost: run.state === 'open' ? linesOut(books, run.id).map(({ words }) => words) : [],
			/** What was done in it, by whom and when, once it is closed. */
			record: run.state === 'closed' || run.state === 'given-back' ? recordOf(books, run.id) : [],
			state: run.state,
			/** What its documents are called, and what ending it means. */
			words: kindIn(books, run.kind).words,
			title: runTitle(books, run),
			about: `Run ${run.id}, started by ${run.started_by} ${formatTime(run.started_at)}`,
			ended: run.closed_at
				? `${run.state === 'closed' ? 'Closed' : 'Given back'} ${formatTime(run.closed_at)} by ${run.closed_by}`
				: '',
		},
		strips: tallyOf(books, run.id, groups),
		rows: benchRows(books, run.id, most).map(benchView),
		count: groups.reduce((sum, { documents }) => sum + documents, 0),
		next: run.state === 'open' ? next : { act: 'none' as const, count: 0 as const },
		range: numbering.flatMap(({ kind, count }) => rangeOf(books, run, kind, count)).join(', '),
		/** What would be numbered, in words: "Number 122 invoices and 1 credit note". */
		toNumber: toNumberWords(books, numbering),
		job: latestJob(books, run.id),
		mail: readSettings(books).mail.mode,
		byMail: countAt(groups, 'made', 'waiting'),
		/** The record's latest event. */
		seen,
		/** Changes whenever a row may have changed. */
		version: `${seen} ${groups.map(({ place, documents, net }) => `${place} ${documents} ${net}`).join()}`,
		/** Home currency; others are named in the list. */
		home: readCompany(books)?.currency ?? '',
		/** Trial prints that are here, with the day that each goes. */
		trials: trialsOf(books, run.id),
	}
}
