import { createHash } from 'node:crypto'
import { rmSync } from 'node:fs'
import { join } from 'node:path'
import { type Day, dayText } from '@/core/calendar'
import { no, type Outcome } from '@/core/outcome'
import { keptTo } from '@/core/paperKind'
import type { KindName } from '@/kinds'
import { makeTogether } from '@/pdf/makeDocument'
import { assetsFor, assetsOfBooks } from '@/runs/files/assets'
import { placeFile, runFolder } from '@/runs/files/make'
import { filesFolder } from '@/runs/files/pdfOf'
import { type Books, inOneStep } from '@/store/books'
import { readAnyDocument } from '@/store/documents'
import { draftsOf } from '@/store/drafts'
import { type Desk, record } from '@/store/events'
import { companionsOf } from '@/store/made'
import { noteFilesAway, type Overdue, papersPast } from '@/store/paperKeeping'
import { kindIn } from '@/store/paperKinds'
import { changeSettings, readSettings } from '@/store/settings'
import { addTrialPrint, noteTrialGone, readTrialPrint, trialPrintsBefore } from '@/store/trialPrints'

// How long papers are kept. Trial prints go by themselves after the days that are set, and it is noted; what was issued goes by a person's
// act alone, once the years of its kind are over.

const mostOnTrial = 200

/** Prints the drafts of a run to look at, each with its mark as a draft; at most 200. @returns what came of it, in words */
export async function makeTrialPrint(books: Books, desk: Desk, runId: number): Promise<string> {
	const drafts = draftsOf(books, runId)
	const contents = drafts.slice(0, mostOnTrial).flatMap((id) => readAnyDocument(books, id)?.content ?? [])
	if (contents.length === 0) return 'There is no draft to print.'
	const each = await Promise.all(
		contents.map(async (content) => ({
			content,
			art: { ...(await assetsFor(content, assetsOfBooks(books))), trial: true },
		})),
	)
	const bytes = makeTogether(each)
	const sha256 = createHash('sha256').update(bytes).digest('hex')
	const fileName = `trial/${runFolder(runId)} ${desk.now().replace(/[:.]/g, '-')}.pdf`
	placeFile(join(filesFolder(books), fileName), bytes)
	return inOneStep(books, () => {
		addTrialPrint(books, desk, { run: runId, papers: contents.length, fileName, sha256, size: bytes.length })
		record(books, desk, {
			subject: 'run',
			id: runId,
			act: 'printed drafts to look at',
			detail: `${contents.length} papers`,
		})
		const rest = drafts.length - contents.length
		return `${contents.length} drafts are on the trial print${rest > 0 ? `; ${rest} more are not, since one holds ${mostOnTrial}` : ''}.`
	})
}

/** The last moment at which a trial print is here. */
export const trialGoes = (madeAt: string, days: number): string =>
	new Date(Date.parse(madeAt) + days * 86_400_000).toISOString()

/** Throws away the trial prints whose days are over. @returns how many */
export function throwTrialsAway(books: Books, desk: Desk): number {
	const { trialDays } = readSettings(books)
	const due = trialPrintsBefore(books, trialGoes(desk.now(), -trialDays))
	for (const { id, run_id, file_name, papers } of due) {
		rmSync(join(filesFolder(books), file_name), { force: true })
		inOneStep(books, () => {
			noteTrialGone(books, id, desk.now())
			record(books, desk, {
				subject: 'run',
				id: run_id,
				act: 'threw a trial print away',
				detail: `${papers} drafts, after ${trialDays} days`,
			})
		})
	}
	return due.length
}

/** Where a trial print lies; null where it is gone. */
export function trialFile(books: Books, id: number): { path: string; name: string } | null {
	const print = readTrialPrint(books, id)
	if (!print || print.gone_at) return null
	return { path: join(filesFolder(books), print.file_name), name: `trial of run ${print.run_id}.pdf` }
}

/** Sets how long trial prints, and the files of issued papers by kind, are kept. */
export function setKeeping(
	books: Books,
	desk: Desk,
	trialDays: number,
	years: Partial<Record<KindName, number | null>>,
): Outcome {
	const before = readSettings(books).keepYears
	const keepYears = Object.fromEntries(
		Object.entries({ ...before, ...years }).flatMap(([kind, many]) => (typeof many === 'number' ? [[kind, many]] : [])),
	)
	changeSettings(books, desk, { trialDays, keepYears })
	return { ok: true }
}

/** Issued papers of a kind whose years are over on a day. */
export function pastKeeping(books: Books, kind: KindName, today: Day): Overdue[] {
	const years = readSettings(books).keepYears[kind] ?? null
	if (years === null) return []
	// Those of a year are kept to the end of the year that their years end in.
	return papersPast(books, kind, `${Number(today.slice(0, 4)) - years - 1}-12-31`).filter(
		({ day }) => keptTo(day, years) < today,
	)
}

/**
 * Takes the files of issued papers away whose years are over. What they said, their numbers and the sent log stay.
 * @param expected how many the clerk was shown; another count takes nothing away
 */
export function takeFilesAway(
	books: Books,
	desk: Desk,
	kind: KindName,
	today: Day,
	expected: number,
	reason: string,
): Outcome {
	const words = reason.trim()
	if (words === '') return no('Say why; the reason is kept with each of them.')
	const past = pastKeeping(books, kind, today)
	if (past.length !== expected || past.length === 0)
		return no(`Now it would be ${past.length}, not ${expected}. Nothing was taken away; look again.`)
	const gone: string[] = []
	inOneStep(books, () => {
		for (const { id, file_name } of past) {
			noteFilesAway(books, desk, id, words)
			if (file_name) gone.push(file_name)
			gone.push(...companionsOf(books, id).map((file) => file.file_name))
			record(books, desk, { subject: 'document', id, act: 'took its files away', detail: words })
		}
		record(books, desk, {
			subject: 'setting',
			id: `keeping ${kind}`,
			act: 'took files away whose years are over',
			detail: `${past.length} ${kindIn(books, kind).words.nouns}, ${past[0]?.number} to ${past.at(-1)?.number}: ${words}`,
		})
	})
	// After it is in the books, so that a file is never missing without a word; one that stays behind is found by its name.
	for (const name of gone) rmSync(join(filesFolder(books), name), { force: true })
	return {
		ok: true,
		words: `The files of ${past.length} are gone; what they said stays, dated up to ${dayText(past.at(-1)?.day ?? today)}.`,
	}
}
