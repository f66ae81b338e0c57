import type { LayoutRef } from '@/core/document'
import { baseOf, type KindName } from '@/kinds'
import { languageOf } from '@/layout/languages'
import { looksOf, paperKinds } from '@/layout/looks'
import { type Books, inOneStep } from './books'
import { type Desk, record } from './events'

export type LayoutRow = {
	id: number
	kind: KindName
	name: string
	shipped: string
	away_at: string | null
	/** The latest that is released; 0 for none. */
	version: number
	/** Where the draft stands; null when nothing is in the making. */
	step: number | null
	/** The highest number that a step of it ever had. */
	last_step: number
}
type VersionRow = { version: number; note: string; released_at: string; released_by: string }
export type StepRow = { step: number; body: string; words: string; at: string; clerk: string }

const columns = `l.id, l.kind, l.name, l.shipped, l.away_at,
	coalesce((SELECT max(version) FROM layout_version v WHERE v.layout_id = l.id), 0) AS version,
	(SELECT step FROM layout_draft d WHERE d.layout_id = l.id) AS step, l.last_step`

/** Where a layout stands, by a number that it never has twice: the step in the making, or one below 0 where nothing is. */
export const editStepOf = ({ step, last_step }: LayoutRow): number => step ?? -1 - last_step

/** Every layout in use or in the making, by kind and name. */
export const allLayouts = ({ sql }: Books): LayoutRow[] =>
	sql<[], LayoutRow>(`SELECT ${columns} FROM layout l WHERE away_at IS NULL ORDER BY kind, name COLLATE NOCASE`).all()

/** One layout; null where there is none. */
export const layoutRow = ({ sql }: Books, id: number): LayoutRow | null =>
	sql<[number], LayoutRow>(`SELECT ${columns} FROM layout l WHERE id = ?`).get(id) ?? null

/** The layout of a kind with a name, in any case, that is not put away; null where there is none. */
export const layoutNamed = ({ sql }: Books, kind: string, name: string): LayoutRow | null =>
	sql<[string, string], LayoutRow>(
		`SELECT ${columns} FROM layout l WHERE kind = ? AND name = ? COLLATE NOCASE AND away_at IS NULL`,
	).get(kind, name) ?? null

/** A released version's JSON; null for one that there is not. */
export const versionBody = ({ sql }: Books, id: number, version: number): string | null =>
	sql<[number, number], { body: string }>('SELECT body FROM layout_version WHERE layout_id = ? AND version = ?').get(
		id,
		version,
	)?.body ?? null

/** Released versions, the newest first. */
export const versionsOf = ({ sql }: Books, id: number): VersionRow[] =>
	sql<[number], VersionRow>(
		'SELECT version, note, released_at, released_by FROM layout_version WHERE layout_id = ? ORDER BY version DESC',
	).all(id)

/** What is in the making: where it stands, which steps lie before and after. */
export function layoutDraft(
	{ sql }: Books,
	id: number,
): (StepRow & { from_version: number; first: number; last: number }) | null {
	return (
		sql<[number], StepRow & { from_version: number; first: number; last: number }>(
			`SELECT s.step, s.body, s.words, s.at, s.clerk, d.from_version,
				(SELECT min(step) FROM layout_step o WHERE o.layout_id = s.layout_id) AS first,
				(SELECT max(step) FROM layout_step o WHERE o.layout_id = s.layout_id) AS last
			 FROM layout_draft d JOIN layout_step s ON s.layout_id = d.layout_id AND s.step = d.step WHERE d.layout_id = ?`,
		).get(id) ?? null
	)
}

/** Adds a layout with its draft. @returns its id */
export function addLayout(
	books: Books,
	desk: Desk,
	layout: { kind: KindName; name: string; body: string; words: string; from: number },
): number {
	const { lastInsertRowid } = books
		.sql<[string, string, string, string]>('INSERT INTO layout (kind, name, made_at, made_by) VALUES (?, ?, ?, ?)')
		.run(layout.kind, layout.name, desk.now(), desk.clerk)
	const id = Number(lastInsertRowid)
	startDraft(books, desk, id, layout.from, layout.body, layout.words)
	record(books, desk, { subject: 'layout', id, act: 'made a layout', detail: `${layout.name}: ${layout.words}` })
	return id
}

/** Begins a draft, from a released version or anew; what was in the making before is gone. @returns its first step */
export function startDraft(books: Books, desk: Desk, id: number, from: number, body: string, words: string): number {
	dropDraft(books, id)
	const step = insertStep(books, desk, id, body, words)
	books
		.sql<[number, number, number]>('INSERT INTO layout_draft (layout_id, step, from_version) VALUES (?, ?, ?)')
		.run(id, step, from)
	return step
}

/** Forgets what of a layout is in the making, with all its steps. */
export function dropDraft({ sql }: Books, id: number): void {
	sql<[number]>('DELETE FROM layout_draft WHERE layout_id = ?').run(id)
	sql<[number]>('DELETE FROM layout_step WHERE layout_id = ?').run(id)
}

/** Adds a step after where the draft stands; what was taken back lies no longer before it. @returns the step */
export function addStep(books: Books, desk: Desk, id: number, after: number, body: string, words: string): number {
	books.sql<[number, number]>('DELETE FROM layout_step WHERE layout_id = ? AND step > ?').run(id, after)
	const step = insertStep(books, desk, id, body, words)
	standAt(books, id, step)
	return step
}

function insertStep({ sql }: Books, desk: Desk, id: number, body: string, words: string): number {
	const numbered = sql<[number], { last_step: number }>(
		'UPDATE layout SET last_step = last_step + 1 WHERE id = ? RETURNING last_step',
	).get(id)
	if (!numbered) throw new Error(`There is no layout ${id}.`)
	sql<[number, number, string, string, string, string]>(
		'INSERT INTO layout_step (layout_id, step, body, words, at, clerk) VALUES (?, ?, ?, ?, ?, ?)',
	).run(id, numbered.last_step, body, words, desk.now(), desk.clerk)
	return numbered.last_step
}

/** The step before or after one; null at either end. */
export const adjacentStep = ({ sql }: Books, id: number, step: number, by: 1 | -1): number | null =>
	sql<[number, number], { step: number | null }>(
		by < 0
			? 'SELECT max(step) AS step FROM layout_step WHERE layout_id = ? AND step < ?'
			: 'SELECT min(step) AS step FROM layout_step WHERE layout_id = ? AND step > ?',
	).get(id, step)?.step ?? null

/** Stands at one of the steps of a layout in the making. */
export function standAt({ sql }: Pick<Books, 'sql'>, id: number, step: number): void {
	sql<[number, number]>('UPDATE layout_draft SET step = ? WHERE layout_id = ?').run(step, id)
}

/** Makes a version that documents may be made by. @returns its number */
export function addVersion({ sql }: Books, desk: Desk, id: number, body: string, note: string): number {
	const next =
		(sql<[number], { last: number | null }>('SELECT max(version) AS last FROM layout_version WHERE layout_id = ?').get(
			id,
		)?.last ?? 0) + 1
	sql<[number, number, string, string, string, string]>(
		'INSERT INTO layout_version (layout_id, version, body, note, released_at, released_by) VALUES (?, ?, ?, ?, ?, ?)',
	).run(id, next, body, note, desk.now(), desk.clerk)
	return next
}

/** Gives a layout another name. */
export const renameLayout = ({ sql }: Books, id: number, name: string): void => {
	sql<[string, number]>('UPDATE layout SET name = ? WHERE id = ?').run(name, id)
}
/** Puts a layout away. */
export const putLayoutAway = ({ sql }: Books, desk: Desk, id: number): void => {
	sql<[string, string, number]>('UPDATE layout SET away_at = ?, away_by = ? WHERE id = ?').run(
		desk.now(),
		desk.clerk,
		id,
	)
}

type ChoiceRow = { kind: KindName; customer_id: number | null; language: string; layout_id: number }
/** Every choice of a layout: the firm's, a language's, a customer's. */
export const allChoices = ({ sql }: Books): ChoiceRow[] =>
	sql<[], ChoiceRow>('SELECT kind, customer_id, language, layout_id FROM layout_choice ORDER BY id').all()

/** Chooses a layout for a kind: for all, a language, or a customer; null takes the choice back. */
export function choose(
	{ sql }: Books,
	{
		kind,
		customer,
		language = '',
		layout,
	}: { kind: KindName; customer: number | null; language?: string; layout: number | null },
): void {
	sql<[string, number, string]>(
		'DELETE FROM layout_choice WHERE kind = ? AND coalesce(customer_id, 0) = ? AND language = ?',
	).run(kind, customer ?? 0, language)
	if (layout === null) return
	sql<[string, number | null, string, number]>(
		'INSERT INTO layout_choice (kind, customer_id, language, layout_id) VALUES (?, ?, ?, ?)',
	).run(kind, customer, language, layout)
}

/** Which layout, in its version in force, a paper of a kind gets. */
export type LayoutFor = (kind: KindName, customer: { id: number; locale: string }, given: LayoutRef) => LayoutRef

/**
 * Reads once who gets which layout: what a person gave a draft counts first, then the customer's own, the language's, the firm's. One
 * without a released version is passed over.
 * @throws Error where a kind has no released layout
 */
export function layoutsInForce(books: Books): LayoutFor {
	const rows = new Map(allLayouts(books).flatMap((row) => (row.version > 0 ? [[row.id, row] as const] : [])))
	const choices = new Map(
		allChoices(books).map(({ kind, customer_id, language, layout_id }) => [
			`${kind} ${customer_id ?? ''} ${language}`,
			layout_id,
		]),
	)
	const refOf = (id: number | undefined, kind: KindName, own: boolean): LayoutRef | null => {
		const row = id === undefined ? undefined : rows.get(id)
		return row && row.kind === kind ? { name: row.name, version: row.version, id: row.id, own } : null
	}
	return (kind, { id, locale }, given) => {
		const firms = refOf(choices.get(`${kind}  `), kind, false)
		const found =
			(given.own ? refOf(given.id, kind, true) : null) ??
			refOf(choices.get(`${kind} ${id} `), kind, false) ??
			refOf(choices.get(`${kind}  ${languageOf(locale) ?? ''}`), kind, false) ??
			firms
		if (!found)
			throw new Error(`There is no released layout for papers of the kind ${kind}. Release one under Layouts.`)
		return found
	}
}

/** Brings the looks that ship with the program into the books, each once, and lets the firm begin with the first of each kind. */
export function bringLooks(books: Books): void {
	const known = () => books.sql<[], { n: number }>(`SELECT count(*) AS n FROM layout WHERE shipped <> ''`).get()?.n ?? 0
	if (known() >= paperKinds.length * 3) return
	inOneStep(books, () => {
		for (const kind of paperKinds) bringLooksOf(books, kind)
	})
}

/** Brings the looks of one kind, each once, and begins with the first. */
export function bringLooksOf(books: Books, kind: KindName): void {
	inOneStep(books, () => {
		const { sql } = books
		for (const look of looksOf(baseOf(kind))) {
			const there = sql<[string, string], { id: number }>('SELECT id FROM layout WHERE kind = ? AND shipped = ?').get(
				kind,
				look.name,
			)
			if (there) continue
			const id = Number(
				sql<[string, string, string]>(
					`INSERT INTO layout (kind, name, shipped, made_at, made_by) VALUES (?, ?, ?, strftime('%Y-%m-%dT%H:%M:%fZ', 'now'), 'North Tally')`,
				).run(kind, freeName(books, kind, look.name), look.name).lastInsertRowid,
			)
			sql<[number, string]>(
				`INSERT INTO layout_version (layout_id, version, body, note, released_at, released_by)
					 VALUES (?, 1, ?, 'as it ships', strftime('%Y-%m-%dT%H:%M:%fZ', 'now'), 'North Tally')`,
			).run(id, JSON.stringify(look))
			const chosen = sql<[string], unknown>(
				`SELECT 1 FROM layout_choice WHERE kind = ? AND customer_id IS NULL AND language = ''`,
			).get(kind)
			if (!chosen) choose(books, { kind, customer: null, layout: id })
		}
	})
}

/** A name that no layout of the kind has, made from the wanted one. */
export function freeName(books: Books, kind: string, wanted: string): string {
	for (let count = 1; ; count++) {
		const name = count === 1 ? wanted : `${wanted} ${count}`
		if (!layoutNamed(books, kind, name)) return name
	}
}

/** Whether papers of a kind have a released layout: the firm's choice. */
export const hasReadyLayout = ({ sql }: Books, kind: string): boolean =>
	sql<[string], unknown>(
		`SELECT 1 FROM layout_choice c JOIN layout_version v ON v.layout_id = c.layout_id
		 WHERE c.kind = ? AND c.customer_id IS NULL AND c.language = '' LIMIT 1`,
	).get(kind) !== undefined
