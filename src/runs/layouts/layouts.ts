import { no, type Outcome } from '@/core/outcome'
import { type AnyContent, baseOf, type KindName, keyOf } from '@/kinds'
import { looksOf, withAccent } from '@/layout/looks'
import { readLayout } from '@/layout/readLayout'
import type { Layout } from '@/layout/schema'
import { type Books, inOneStep } from '@/store/books'
import { allCustomers } from '@/store/customers'
import { readAnyDocument } from '@/store/documents'
import { draftsOf, replaceContent } from '@/store/drafts'
import { type Desk, record } from '@/store/events'
import {
	addLayout,
	addStep,
	addVersion,
	adjacentStep,
	allChoices,
	allLayouts,
	choose,
	dropDraft,
	editStepOf,
	type LayoutRow,
	layoutDraft,
	layoutNamed,
	layoutRow,
	layoutsInForce,
	putLayoutAway,
	renameLayout,
	type StepRow,
	standAt,
	startDraft,
	versionBody,
} from '@/store/layouts'
import { kindIn } from '@/store/paperKinds'
import { papersBy } from '@/store/papers'
import { runsOpen } from '@/store/runs'
import { checkForRelease } from './checks'
import { marksLeft } from './formMarksLeft'

/** Who gets a layout, in words a list can show. */
type UsedBy = { firm: boolean; languages: string[]; customers: string[] }

/** Who gets each layout. */
export function usesOf(books: Books): Map<number, UsedBy> {
	const names = new Map(allCustomers(books).map(({ id, name }) => [id, name]))
	const uses = new Map<number, UsedBy>()
	for (const { layout_id, customer_id, language } of allChoices(books)) {
		const use = uses.get(layout_id) ?? { firm: false, languages: [], customers: [] }
		if (customer_id !== null) use.customers.push(names.get(customer_id) ?? 'a customer')
		else if (language !== '') use.languages.push(language)
		else use.firm = true
		uses.set(layout_id, use)
	}
	return uses
}

/** "the firm, customers whose language is de, Ardlow Ferries and 2 more". */
export function usedByWords({ firm, languages, customers }: UsedBy): string {
	const parts = [
		firm ? 'the firm' : '',
		...languages.map((language) => `customers whose language is ${language}`),
		customers.length > 3
			? `${customers.slice(0, 2).join(', ')} and ${customers.length - 2} more`
			: customers.join(', '),
	]
	return parts.filter(Boolean).join(', ')
}

/**
 * What is in the making of a layout, or its latest version where nothing is.
 * @throws Error where the layout has neither a draft nor a version
 */
export function currentBody(books: Books, row: LayoutRow): string {
	const body = layoutDraft(books, row.id)?.body ?? versionBody(books, row.id, row.version)
	if (body === null) throw new Error(`The layout ${row.name} has neither a draft nor a version.`)
	return body
}

type From = { look: string; accent?: string | undefined } | { layout: number } | { nothing: true }

/** Makes a layout, from a shipped look, from another or from nothing; it is in the making until it is released. */
export function makeLayout(books: Books, desk: Desk, kind: KindName, wanted: string, from: From): Outcome {
	return inOneStep(books, (): Outcome => {
		const name = wanted.trim()
		if (name === '' || name.length > 60) return no('Give the layout a name of up to 60 letters.')
		if (layoutNamed(books, kind, name))
			return no(`There is a layout “${name}” for ${kindIn(books, kind).words.nouns} already. Choose another name.`)
		const base = beginningOf(books, kind, from)
		if (!base) return no('What it is to begin from is gone. Choose another.')
		const body = JSON.stringify({ ...base.layout, kind: baseOf(kind), name })
		return { ok: true, id: addLayout(books, desk, { kind, name, body, words: base.words, from: 0 }) }
	})
}

function beginningOf(books: Books, kind: KindName, from: From): { layout: Layout; words: string } | null {
	if ('nothing' in from) {
		const [plain] = looksOf(baseOf(kind))
		return plain ? { layout: { ...plain, head: [], body: [], foot: [] }, words: 'from nothing' } : null
	}
	if ('look' in from) {
		const look = looksOf(baseOf(kind)).find(({ name }) => name === from.look)
		if (!look) return null
		return { layout: from.accent ? withAccent(look, from.accent) : look, words: `from the look ${look.name}` }
	}
	const row = layoutRow(books, from.layout)
	if (!row) return null
	const read = readLayout(currentBody(books, row))
	return read.ok ? { layout: read.layout, words: `from ${row.name}` } : null
}

const changedBy = (draft: StepRow | null): string =>
	draft
		? `${draft.clerk} changed this layout at ${draft.at.slice(11, 16)}: ${draft.words}`
		: 'This layout was released meanwhile, or what was in the making thrown away'

/**
 * Keeps a change of a layout in the making as a step of its own.
 * @param after where the layout stood when the change was made (`editStepOf`); where it stands elsewhere by now, somebody else changed it, and
 * nothing is kept
 */
export function keepStep(books: Books, desk: Desk, id: number, after: number, body: string, words: string): Outcome {
	return inOneStep(books, (): Outcome => {
		const row = layoutRow(books, id)
		if (!row || row.away_at) return no('There is no such layout any more.')
		const read = readLayout(body)
		if (!read.ok)
			return no(
				`It was not kept: ${read.faults
					.map(({ path, message }) => `${path}: ${message}`)
					.slice(0, 3)
					.join('; ')}`,
			)
		if (read.layout.kind !== baseOf(row.kind)) return no('A layout cannot become one of another kind of paper.')
		if (editStepOf(row) !== after)
			return no(
				`${changedBy(layoutDraft(books, id))}. Your last change was not kept; read the page anew and make it again.`,
			)
		const whole = JSON.stringify({ ...read.layout, name: row.name })
		const on =
			row.step ??
			startDraft(books, desk, id, row.version, versionBody(books, id, row.version) ?? whole, `version ${row.version}`)
		return { ok: true, id: addStep(books, desk, id, on, whole, words) }
	})
}

/**
 * Takes the last change back, or does it again.
 * @param from where the layout stands in view; where it stands elsewhere by now, nothing is taken back
 */
export function moveInSteps(books: Books, id: number, from: number, by: 1 | -1): Outcome {
	return inOneStep(books, (): Outcome => {
		const row = layoutRow(books, id)
		if (!row || row.away_at) return no('There is no such layout any more.')
		if (editStepOf(row) !== from) return no(`${changedBy(layoutDraft(books, id))}. Read the page anew to see it.`)
		const step = row.step === null ? null : adjacentStep(books, id, row.step, by)
		if (step === null) return no(by < 0 ? 'There is nothing to take back.' : 'There is nothing to do again.')
		standAt(books, id, step)
		return { ok: true, id: step }
	})
}

/**
 * Throws away what is in the making; the latest version stays. One that was never released is put away with it.
 * @param from where the layout stands in view; where it stands elsewhere by now, nothing is thrown away
 */
export function dropLayoutDraft(books: Books, desk: Desk, id: number, from: number): Outcome {
	return inOneStep(books, (): Outcome => {
		const row = layoutRow(books, id)
		if (!row || row.step === null) return no('Nothing of it is in the making.')
		if (row.step !== from) return no(`${changedBy(layoutDraft(books, id))}. Read the page anew to see it.`)
		dropDraft(books, id)
		if (row.version === 0) putLayoutAway(books, desk, id)
		record(books, desk, { subject: 'layout', id, act: 'threw the draft away', detail: row.name })
		return { ok: true }
	})
}

/**
// Drafts of open runs keep the version that they were looked at with until they are numbered: numbering looks at them again, shows which
// layouts changed, and asks (`lookAgain`).

/**
 * Makes a version that papers are drawn by from then on. Refused where a check stops it.
 */
export async function releaseLayout(
	books: Books,
	desk: Desk,
	id: number,
	step: number,
	note: string,
): Promise<Outcome> {
	const row = layoutRow(books, id)
	const draft = layoutDraft(books, id)
	if (!row || !draft) return no('Nothing of it is in the making.')
	const words = note.trim()
	if (words === '') return no('Say in a line what changed.')
	const left = marksLeft(books, id, draft.body)
	if (left.length > 0)
		return no(
			`It cannot be released: ${left.length === 1 ? 'a mark of its form still stands' : `${left.length} marks of its form still stand`} on the paper as written: ${left.slice(0, 5).join(', ')}. Give each a field under Its form, or say there that it is text.`,
		)
	const stops = (await checkForRelease(books, draft.body, row.kind)).filter(({ level }) => level === 'stop')
	if (stops.length > 0)
		return no(
			`It cannot be released: ${stops
				.slice(0, 3)
				.map((stop) => stop.words)
				.join(' ')}${stops.length > 3 ? ` And ${stops.length - 3} more.` : ''}`,
		)
	return inOneStep(books, (): Outcome => {
		const now = layoutDraft(books, id)
		if (now?.step !== step || now.body !== draft.body)
			return no('The layout was changed meanwhile. Look at it again and release it then.')
		const version = addVersion(books, desk, id, now.body, words.slice(0, 200))
		dropDraft(books, id)
		record(books, desk, { subject: 'layout', id, act: `released version ${version}`, detail: `${row.name}: ${words}` })
		return { ok: true, id: version }
	})
}

/**
 * Takes an earlier version up again as what is in the making; gives the step that it is.
 * @param from where the layout stands in view; where it stands elsewhere by now, nothing is taken up
 */
export function bringVersionBack(books: Books, desk: Desk, id: number, from: number, version: number): Outcome {
	return inOneStep(books, (): Outcome => {
		const row = layoutRow(books, id)
		const body = versionBody(books, id, version)
		if (!row || body === null) return no('There is no such version.')
		if (editStepOf(row) !== from) return no(`${changedBy(layoutDraft(books, id))}. Read the page anew to see it.`)
		const words = `version ${version} again`
		const whole = JSON.stringify({ ...JSON.parse(body), name: row.name })
		const step =
			row.step === null
				? startDraft(books, desk, id, version, whole, words)
				: addStep(books, desk, id, row.step, whole, words)
		record(books, desk, { subject: 'layout', id, act: `took version ${version} up again`, detail: row.name })
		return { ok: true, id: step }
	})
}

/** Gives a layout another name. */
export function nameLayout(books: Books, desk: Desk, id: number, wanted: string): Outcome {
	return inOneStep(books, (): Outcome => {
		const row = layoutRow(books, id)
		const name = wanted.trim()
		if (!row) return no('There is no such layout.')
		if (name === '' || name.length > 60) return no('Give the layout a name of up to 60 letters.')
		const other = layoutNamed(books, row.kind, name)
		if (other && other.id !== id) return no(`There is a layout “${name}” already. Choose another name.`)
		renameLayout(books, id, name)
		record(books, desk, { subject: 'layout', id, act: 'renamed the layout', detail: `${row.name} → ${name}` })
		return { ok: true }
	})
}

/** Puts a layout away. Refused while anybody gets it, or a draft was given it, since these would print otherwise than was chosen. */
export function putAway(books: Books, desk: Desk, id: number): Outcome {
	return inOneStep(books, (): Outcome => {
		const row = layoutRow(books, id)
		if (!row || row.away_at) return no('There is no such layout.')
		const use = usesOf(books).get(id)
		if (use)
			return no(
				`${row.name} is what ${usedByWords(use)} ${use.firm || use.customers.length === 1 ? 'gets' : 'get'}. Choose another for them first.`,
			)
		const drafts = papersBy(books, id).reduce((sum, one) => sum + one.drafts, 0)
		if (drafts > 0)
			return no(`${drafts} ${drafts === 1 ? 'draft was' : 'drafts were'} given ${row.name}. Give them another first.`)
		dropDraft(books, id)
		putLayoutAway(books, desk, id)
		record(books, desk, { subject: 'layout', id, act: 'put the layout away', detail: row.name })
		return { ok: true }
	})
}

/** Chooses who gets a layout: the firm, a language, or a customer; null gives them what the firm has. */
export function chooseLayout(
	books: Books,
	desk: Desk,
	to: { kind: KindName; customer: number | null; language: string; layout: number | null },
): Outcome {
	return inOneStep(books, (): Outcome => {
		const row = to.layout === null ? null : layoutRow(books, to.layout)
		if (to.layout === null && to.customer === null && to.language === '')
			return no('The firm needs a layout for each kind of paper.')
		if (to.layout !== null && (!row || row.kind !== to.kind || row.away_at))
			return no('There is no such layout for this kind of paper.')
		if (row && row.version === 0) return no(`${row.name} has no released version yet. Release it first.`)
		choose(books, to)
		const whom =
			to.customer === null ? (to.language === '' ? 'the firm' : `language ${to.language}`) : `customer ${to.customer}`
		record(books, desk, {
			subject: 'layout',
			id: to.layout ?? 0,
			act: 'chose a layout',
			detail: `${kindIn(books, to.kind).words.nouns} of ${whom}: ${row?.name ?? 'as the firm'}`,
		})
		return { ok: true }
	})
}

/** Gives drafts of open runs a layout of their own, or what their customers get; numbered papers keep theirs. */
export function giveLayout(books: Books, desk: Desk, documents: readonly number[], layout: number | null): Outcome {
	return inOneStep(books, (): Outcome => {
		const row = layout === null ? null : layoutRow(books, layout)
		if (layout !== null && (!row || row.version === 0 || row.away_at)) return no('There is no such released layout.')
		const inForce = layoutsInForce(books)
		const open = new Set(runsOpen(books))
		let given = 0
		for (const id of documents) {
			const document = readAnyDocument(books, id)
			if (!document || document.number !== null || document.dropped_at !== null || !open.has(document.run_id)) continue
			const { content } = document
			if (row && row.kind !== keyOf(content))
				return no(
					`${row.name} is for ${kindIn(books, row.kind).words.nouns}; ${document.customer_name} has another kind of paper.`,
				)
			const ref = row
				? { name: row.name, version: row.version, id: row.id, own: true }
				: { ...content.layout, own: false }
			const next = inForce(keyOf(content), { id: document.customer_id, locale: content.locale }, ref)
			const after: AnyContent = { ...content, layout: next }
			replaceContent(books, id, after)
			record(books, desk, { subject: 'document', id, act: 'gave it a layout', detail: `${next.name} ${next.version}` })
			given++
		}
		return given === 0
			? no('None of these is a draft that could be given a layout.')
			: { ok: true, words: `${given} drafts have it.` }
	})
}

/** Gives every draft of a kind in a run a layout, or what their customers get. */
export const giveLayoutInRun = (
	books: Books,
	desk: Desk,
	run: number,
	kind: KindName,
	layout: number | null,
): Outcome => giveLayout(books, desk, draftsOf(books, run, { kind }), layout)

/** Layouts that a draft of a kind could be given. */
export const layoutsToGive = (books: Books, kind: KindName): LayoutRow[] =>
	allLayouts(books).filter((row) => row.kind === kind && row.version > 0)
