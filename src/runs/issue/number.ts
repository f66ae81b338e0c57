import { shownNumber } from '@/core/document'
import { compareForNumbering, type Numbering, numberingName } from '@/core/numbering'
import { no, type Outcome } from '@/core/outcome'
import { prefixIn, registerNumber, yearOf } from '@/core/register'
import { type AnyContent, isPaper, type KindName, keyOf, kindOf, numbered, readContent } from '@/kinds'
import { filedAs } from '@/layout/leaving'
import { askToRead } from '@/runs/drafts/handMessage'
import { changedSince } from '@/runs/drafts/meanwhile'
import { fileOf, runFolder } from '@/runs/files/make'
import { today } from '@/runs/receivables/days'
import { lookAgain } from '@/runs/recheck/lookAgain'
import { keepTotals } from '@/runs/tally/statementTotals'
import { tallyOf } from '@/runs/tally/tally'
import { noteLooked } from '@/store/accountMoves'
import { type Books, inOneStep } from '@/store/books'
import { draftKeys, setPosition } from '@/store/drafts'
import { type Desk, record } from '@/store/events'
import { freeze, freezeUnnumbered, type ToNumber, toNumber } from '@/store/issued'
import { fileTaken } from '@/store/made'
import { linesOut, markBilled } from '@/store/orders'
import { isNumbered, kindIn } from '@/store/paperKinds'
import { registerFor, takeValues, whyNotNext } from '@/store/registers'
import { readRun, setNumbering, statementChoice } from '@/store/runs'
import { changeSettings, readSettings, type Settings } from '@/store/settings'
import { contentHash } from './contentHash'
import { enterDocument } from './ledger'
import { knownBy, type ToFreeze, verifyNumbered } from './verify'

type Numbered = { ok: true; count: number; given: Given[] } | { ok: false; message: string }

/**
 * Gives numbers to all documents of a run that may have one, in their order and each from its kind's register, and freezes them, in one
 * step: all or none. What was true when they were gathered is looked at again first; where something changed, the drafts show it and
 * nothing is numbered. At the end what was numbered is verified, and taken back where that fails.
 * @param expected how many the clerk was shown; another count numbers nothing
 * @param seen the record's latest event when it was asked for; drafts that a person changed since are named, and nothing is numbered
 * @throws where what was numbered does not hold; the step is undone then
 */
export function numberDocuments(
	books: Books,
	desk: Desk,
	runId: number,
	expected: number,
	seen: number | null = null,
): Numbered {
	return inOneStep(books, (): Numbered => {
		if (readRun(books, runId)?.state !== 'open') return no('This run is not open.')
		const untied = tallyOf(books, runId).find(({ untied }) => untied !== 0)
		const out = linesOut(books, runId)
		if (untied || out.length > 0)
			return no(
				`The tally does not tie: ${out.map(({ words }) => words).join('; ') || `${untied?.currency} is out`}. Nothing was numbered.`,
			)
		const touched = seen === null ? null : changedSince(books, runId, seen)
		if (touched && !touched.ok) return no(`${touched.message} Nothing was numbered; look at them again.`)
		const changed = lookAgain(books, desk, runId)
		if (changed.length > 0)
			return no(
				`Something changed since the drafts were checked: ${changed.slice(0, 5).join('; ')}${changed.length > 5 ? `; and ${changed.length - 5} more` : ''}. Nothing was numbered; look at them again.`,
			)
		const drafts = toNumber(books, runId)
		if (drafts.length !== expected)
			return no(
				`${expected} were to be numbered, but now it would be ${drafts.length}. Nothing was numbered; look again.`,
			)
		const kinds = new Set(drafts.map(({ kind }) => kind))
		const unopened = [...kinds].find((kind) => isNumbered(books, kind) && !registerFor(books, kind))
		if (unopened)
			return no(
				`There is no number register for ${kindIn(books, unopened).words.nouns}. Open one under Number registers. Nothing was numbered.`,
			)
		for (const [kind, year] of kindsAndYears(drafts)) {
			const register = registerFor(books, kind)
			const taken = register && whyNotNext(books, register, year)
			if (taken) return no(`${taken} Nothing was numbered.`)
		}
		keepTotals(books, runId)
		const day = today(books, desk)
		const { given, faults, frozen } = giveNumbers(books, desk, drafts, runId)
		const wrong = [...faults, ...linesOut(books, runId).map(({ words }) => words)]
		// Thrown, so that the whole step is undone: what does not hold must not stay.
		if (wrong.length > 0)
			throw new Error(`What was numbered does not hold: ${wrong.slice(0, 5).join('; ')}. Nothing was numbered.`)
		// What numbering itself entered makes none of them another: they were looked at in this very step.
		if (statementChoice(books, runId) !== null)
			noteLooked(
				books,
				drafts.map(({ id }) => id),
				day,
			)
		for (const { id } of drafts) askToRead(books, desk, id)
		const detail = given.map(({ first, last }) => (first === last ? first : `${first} to ${last}`)).join(', ')
		const after = { numbered: drafts.length, frozen }
		record(books, desk, { subject: 'run', id: runId, act: `numbered ${drafts.length}`, detail, after })
		return { ok: true, count: drafts.length, given }
	})
}

/** The kinds of drafts with the years that they are dated in. */
function kindsAndYears(drafts: readonly ToNumber[]): [kind: KindName, year: number][] {
	const found = new Map(drafts.map(({ kind, day }) => [`${kind} ${yearOf(day)}`, [kind, yearOf(day)] as const]))
	return [...found.values()].map(([kind, year]) => [kind, year])
}

type Draft = ToNumber & { read: ReturnType<typeof readContent> }

type Given = { noun: string; first: string; last: string }

/** What stands for a number where a kind has no register: the paper's own place in the books. */
const markOf = (id: number): string => `#${id}`
const marked = (content: AnyContent, id: number): AnyContent =>
	isPaper(content) ? { ...content, paper: { ...content.paper, mark: markOf(id) } } : content

/** Numbers and freezes documents, kind by kind and year by year, enters them in the ledger, and reads each back. */
type Numbers = {
	given: Given[]
	faults: string[]
	/** Hashes of what was frozen, by document, for the record. */
	frozen: Record<number, string>
}
function giveNumbers(books: Books, desk: Desk, drafts: ToNumber[], run: number): Numbers {
	const faults: string[] = []
	const frozen: Record<number, string> = {}
	const { leaving } = readSettings(books)
	const groups = new Map<string, { kind: KindName; year: number; drafts: Draft[] }>()
	for (const draft of drafts) {
		const read = readContent(draft.content)
		const year = yearOf(read.day)
		const kind = keyOf(read)
		const key = `${kind} ${year}`
		const group = groups.get(key) ?? { kind, year, drafts: [] }
		group.drafts.push({ ...draft, read })
		groups.set(key, group)
	}
	const given = [...groups.values()].map(({ kind, year, drafts: own }): Given => {
		const { nouns } = kindIn(books, kind).words
		const known = knownBy(books)
		const filed = (id: number, content: AnyContent): string | null => {
			const { filedAs, faults: taken } = fileUnder(books, id, run, content)
			faults.push(...taken)
			return filedAs
		}
		const after = (draft: Draft, { content, text }: ToFreeze) => {
			const { id, customer_id, credits_id } = draft
			frozen[id] = contentHash(text)
			if (kindOf(kind).bills && credits_id === null) markBilled(books, id)
			enterDocument(books, desk, { id, customer_id, content, credits_id })
			faults.push(...verifyNumbered(books, id, { content, text }, known))
		}
		if (!isNumbered(books, kind)) {
			for (const draft of own) {
				const content = withFiled(marked(draft.read, draft.id), leaving, run)
				const text = JSON.stringify(content)
				const { id } = draft
				freezeUnnumbered(books, { id, mark: markOf(id), content: text, filedAs: filed(id, content) }, desk.now())
				after(draft, { content, text })
			}
			return { noun: nouns, first: markOf(own[0]?.id ?? 0), last: markOf(own.at(-1)?.id ?? 0) }
		}
		const register = registerFor(books, kind)
		if (!register) throw new Error(`There is no number register for ${nouns}.`)
		const start = takeValues(books, desk, register, year, own.length)
		const numberOf = (value: number) => registerNumber(register, value, year)
		own.forEach((draft, index) => {
			const { id, read } = draft
			const number = numberOf(start + index)
			const issued = { run, prefix: prefixIn(register, year), value: start + index }
			const content = { ...withFiled(numbered(read, number), leaving, run), issued }
			const text = JSON.stringify(content)
			const place = { registerId: register.id, year: register.yearly === 1 ? year : 0, value: start + index }
			freeze(books, { id, number, ...place, content: text, filedAs: filed(id, content) }, desk.now())
			after(draft, { content, text })
		})
		return { noun: nouns, first: numberOf(start), last: numberOf(start + own.length - 1) }
	})
	return { given, faults, frozen }
}

/** A numbered paper with what its file and title are called, where the firm says it. */
export function withFiled(content: AnyContent, leaving: Settings['leaving'], run: number): AnyContent {
	const { filed: _, ...bare } = content
	const own = leaving[keyOf(content)]
	const filed = own ? filedAs(content, own, runFolder(run)) : {}
	return (Object.keys(filed).length === 0 ? bare : { ...bare, filed }) as AnyContent
}

/** The name that a numbered paper's file will have; else why it cannot have it, since another's is the same. */
export function fileUnder(
	books: Books,
	id: number,
	run: number,
	content: AnyContent,
): { filedAs: string | null; faults: string[] } {
	const file = fileOf(run, content)
	const other = fileTaken(books, file, id)
	if (other === null) return { filedAs: file, faults: [] }
	const remedy = 'put the number among the parts of its name, under Layouts, How papers leave'
	return {
		filedAs: null,
		faults: [`${shownNumber(content)} and ${other} would have the same file, ${file}: ${remedy}`],
	}
}

/** Puts the drafts of a run in the order that they are to be numbered in; the choice is kept for the runs to come. */
export function orderDrafts(books: Books, desk: Desk, runId: number, by: Numbering): Outcome {
	return inOneStep(books, (): Outcome => {
		if (readRun(books, runId)?.state !== 'open') return no('This run is not open.')
		const compare = compareForNumbering(by)
		draftKeys(books, runId)
			.sort(compare)
			.forEach(({ id }, index) => {
				setPosition(books, id, index + 1)
			})
		setNumbering(books, runId, by)
		changeSettings(books, desk, { numbering: by })
		record(books, desk, { subject: 'run', id: runId, act: `ordered the drafts by ${numberingName[by]}` })
		return { ok: true }
	})
}
