import type { Change } from '@/forms/carryOver'
import type { Form } from '@/forms/form'
import type { Answers } from '@/forms/marks'
import type { KindName } from '@/kinds'
import type { Books } from './books'
import type { Desk } from './events'

type FormRow = {
	id: number
	kind: KindName
	name: string
	layout_id: number | null
	after_id: number | null
	file_name: string
	sha256: string
	brought_at: string
	brought_by: string
	refused: string
	made_sha256: string | null
	away_at: string | null
	/** Whether it was read. */
	read: 0 | 1
}
const columns = `id, kind, name, layout_id, after_id, file_name, sha256, brought_at, brought_by, refused, made_sha256, away_at,
	body IS NOT NULL AS read`

/** One form of the firm's, without its bytes; null where there is none. */
export const formRow = ({ sql }: Books, id: number): FormRow | null =>
	sql<[number], FormRow>(`SELECT ${columns} FROM form WHERE id = ?`).get(id) ?? null

/** Forms of which no layout is made yet, the latest first. */
export const openForms = ({ sql }: Books): FormRow[] =>
	sql<[], FormRow>(`SELECT ${columns} FROM form WHERE layout_id IS NULL AND away_at IS NULL ORDER BY id DESC`).all()

/** The forms that a layout was made of, the newest first; those that were brought in and not yet made anew among them. */
export const formsOfLayout = ({ sql }: Books, layout: number): FormRow[] =>
	sql<[number], FormRow>(`SELECT ${columns} FROM form WHERE layout_id = ? AND away_at IS NULL ORDER BY id DESC`).all(
		layout,
	)

/** Enters a form of the firm's as it came. @returns its id */
export function addForm(
	{ sql }: Books,
	desk: Desk,
	form: {
		kind: string
		name: string
		layout: number | null
		after: number | null
		fileName: string
		sha256: string
		bytes: Buffer
	},
): number {
	return Number(
		sql<(string | number | null | Buffer)[]>(
			`INSERT INTO form (kind, name, layout_id, after_id, file_name, sha256, bytes, brought_at, brought_by) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)`,
		).run(form.kind, form.name, form.layout, form.after, form.fileName, form.sha256, form.bytes, desk.now(), desk.clerk)
			.lastInsertRowid,
	)
}

/** The file of a form as it came; null where there is no form. */
export const formBytes = ({ sql }: Books, id: number): Buffer | null =>
	sql<[number], { bytes: Buffer }>('SELECT bytes FROM form WHERE id = ?').get(id)?.bytes ?? null

/** What was read of a form, and how it differs from the one before it. */
export function formBody({ sql }: Books, id: number): { form: Form; changes: Change[] } | null {
	const row = sql<[number], { body: string | null; changes: string }>(
		'SELECT body, changes FROM form WHERE id = ?',
	).get(id)
	return row?.body ? { form: JSON.parse(row.body), changes: JSON.parse(row.changes) } : null
}

/** Keeps a form as it was read, and what was changed in the reading; it is refused no more. */
export function keepFormBody({ sql }: Books, id: number, form: Form, changes: readonly Change[]): void {
	sql<[string, string, number]>(`UPDATE form SET body = ?, changes = ?, refused = '' WHERE id = ?`).run(
		JSON.stringify(form),
		JSON.stringify(changes),
		id,
	)
}
/** Notes why a form cannot be read, in words. */
export const refuseForm = ({ sql }: Books, id: number, words: string): void => {
	sql<[string, number]>('UPDATE form SET refused = ? WHERE id = ?').run(words, id)
}
/** Says of which layout the form is, and what was made of it. */
export const formMade = ({ sql }: Books, id: number, layout: number, sha256: string): void => {
	sql<[number, string, number]>('UPDATE form SET layout_id = ?, made_sha256 = ? WHERE id = ?').run(layout, sha256, id)
}
/** Puts a form away. */
export const putFormAway = ({ sql }: Books, desk: Desk, id: number): void => {
	sql<[string, string, number]>('UPDATE form SET away_at = ?, away_by = ? WHERE id = ?').run(desk.now(), desk.clerk, id)
}

/** What a person said of the places of a form, by what it is about. */
export function formAnswers({ sql }: Books, id: number): Answers {
	const answers: Answers = { marks: {}, rows: {}, apart: {}, points: {} }
	for (const { about, key, answer } of sql<[number], { about: keyof Answers; key: string; answer: string }>(
		'SELECT about, key, answer FROM form_answer WHERE form_id = ?',
	).all(id))
		Object.assign(answers[about], { [key]: JSON.parse(answer) })
	return answers
}

/** One answer as it stands, as JSON; null for none. */
export const formAnswer = (
	{ sql }: Books,
	id: number,
	about: keyof Answers,
	key: string,
): { answer: string; clerk: string } | null =>
	sql<[number, string, string], { answer: string; clerk: string }>(
		'SELECT answer, clerk FROM form_answer WHERE form_id = ? AND about = ? AND key = ?',
	).get(id, about, key) ?? null

/** Keeps an answer, or takes it back with null. */
export function setFormAnswer(
	{ sql }: Books,
	desk: Desk,
	id: number,
	about: keyof Answers,
	key: string,
	answer: string | null,
): void {
	if (answer === null)
		sql<[number, string, string]>('DELETE FROM form_answer WHERE form_id = ? AND about = ? AND key = ?').run(
			id,
			about,
			key,
		)
	else
		sql<(string | number)[]>(
			`INSERT INTO form_answer (form_id, about, key, answer, at, clerk) VALUES (?, ?, ?, ?, ?, ?)
			 ON CONFLICT (form_id, about, key) DO UPDATE SET answer = excluded.answer, at = excluded.at, clerk = excluded.clerk`,
		).run(id, about, key, answer, desk.now(), desk.clerk)
}
