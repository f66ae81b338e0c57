import { createHash } from 'node:crypto'
import { no, type Outcome } from '@/core/outcome'
import { carryOver } from '@/forms/carryOver'
import type { Picture } from '@/forms/form'
import { type Answers, understand } from '@/forms/marks'
import { layoutOfForm } from '@/forms/toLayout'
import { baseOf, type KindName } from '@/kinds'
import { readLayout } from '@/layout/readLayout'
import { fieldsOf } from '@/layout/values'
import { vocabularyFor } from '@/runs/layouts/formMarksLeft'
import { currentBody } from '@/runs/layouts/layouts'
import { type Books, inOneStep } from '@/store/books'
import { keepImage } from '@/store/company'
import { type Desk, record } from '@/store/events'
import {
	addForm,
	formAnswer,
	formAnswers,
	formBody,
	formMade,
	formRow,
	formsOfLayout,
	keepFormBody,
	putFormAway,
	refuseForm,
	setFormAnswer,
} from '@/store/forms'
import { askFor } from '@/store/jobs'
import { addLayout, addStep, freeName, layoutNamed, layoutRow, startDraft, versionBody } from '@/store/layouts'
import { allOwnFields } from '@/store/ownFields'
import { kindIn } from '@/store/paperKinds'
import type { FormRead } from './readForm'

const mostBytes = 30_000_000
const sha256Of = (data: string | Buffer): string => createHash('sha256').update(data).digest('hex')

/** Takes a form in as it came; the runner reads it. */
export function bringForm(
	books: Books,
	desk: Desk,
	given: { kind: KindName; name: string; fileName: string; bytes: Buffer },
): Outcome {
	const name = given.name.trim() || given.fileName.replace(/\.[^.]*$/, '').trim()
	if (name === '' || name.length > 60) return no('Give the layout a name of up to 60 letters.')
	if (given.bytes.length === 0) return no('The file is empty. Choose the form again.')
	if (given.bytes.length > mostBytes)
		return no('The file is over 30 MB; a form is not. Make its pictures smaller and save it again.')
	return inOneStep(books, (): Outcome => {
		if (layoutNamed(books, given.kind, name))
			return no(
				`There is a layout “${name}” for ${kindIn(books, given.kind).words.nouns} already. Choose another name, or bring the form in as a newer one from there.`,
			)
		const id = addForm(books, desk, { ...given, name, layout: null, after: null, sha256: sha256Of(given.bytes) })
		record(books, desk, { subject: 'form', id, act: 'brought a form in', detail: given.fileName })
		askFor(books, desk, { kind: 'read form', form: id })
		return { ok: true, id }
	})
}

/** Takes a newer one of the form that a layout was made of. */
export function bringNewerForm(
	books: Books,
	desk: Desk,
	of: number,
	given: { fileName: string; bytes: Buffer },
): Outcome {
	if (given.bytes.length === 0 || given.bytes.length > mostBytes) return no('Choose a form of up to 30 MB.')
	return inOneStep(books, (): Outcome => {
		const before = formRow(books, of)
		const layout = before?.layout_id ? layoutRow(books, before.layout_id) : null
		if (!before || !layout || layout.away_at)
			return no('There is no layout of this form any more. Bring the form in as a new one.')
		const sha256 = sha256Of(given.bytes)
		const [newest] = formsOfLayout(books, layout.id)
		if (newest?.sha256 === sha256) return no('It is the same file that the layout has already.')
		const last = newest ?? before
		const id = addForm(books, desk, {
			...given,
			kind: layout.kind,
			name: layout.name,
			layout: layout.id,
			after: last.id,
			sha256,
		})
		record(books, desk, {
			subject: 'form',
			id,
			act: 'brought a newer form in',
			detail: `${given.fileName}, of ${layout.name}`,
		})
		askFor(books, desk, { kind: 'read form', form: id })
		return { ok: true, id }
	})
}

/** Keeps what was read of a form; a newer one takes over what was said of the one before it. */
export function keepReadForm(books: Books, desk: Desk, id: number, read: FormRead): string {
	return inOneStep(books, () => {
		const row = formRow(books, id)
		if (!row) return 'The form is gone.'
		if (!read.ok) {
			refuseForm(books, id, read.message)
			return read.message
		}
		for (const { sha256, type, bytes } of read.pictures satisfies Picture[])
			keepImage(books, { sha256, type, bytes: Buffer.from(bytes) })
		const before = row.after_id === null ? null : formBody(books, row.after_id)
		if (!before || row.after_id === null) {
			keepFormBody(books, id, read.form, [])
			return 'Read.'
		}
		const carried = carryOver(
			{ form: before.form, answers: formAnswers(books, row.after_id) },
			read.form,
			vocabularyFor(books, row.kind),
		)
		keepFormBody(books, id, read.form, carried.changes)
		for (const about of ['marks', 'rows', 'apart', 'points'] as const)
			for (const [key, answer] of Object.entries(carried.answers[about]))
				setFormAnswer(books, desk, id, about, key, JSON.stringify(answer))
		return 'Read, with what was said of the form before it.'
	})
}

type FormChange = { about: keyof Answers; key: string; was: unknown; answer: unknown }

/** Keeps what a person said of marks and rows. Where another said something else meanwhile, nothing is kept and it is told. */
export function answerForm(books: Books, desk: Desk, id: number, changes: readonly FormChange[]): Outcome {
	return inOneStep(books, (): Outcome => {
		const row = formRow(books, id)
		if (!row?.read || row.away_at) return no('There is no such form any more.')
		for (const { about, key, was } of changes) {
			const now = formAnswer(books, id, about, key)
			if ((now?.answer ?? null) !== (was === null || was === undefined ? null : JSON.stringify(was)))
				return no(
					`${now?.clerk ?? 'Somebody'} said something else of this meanwhile. Nothing of yours was kept; look at it again.`,
				)
		}
		for (const { about, key, answer } of changes)
			setFormAnswer(books, desk, id, about, key, answer === null ? null : JSON.stringify(answer))
		return { ok: true }
	})
}

/** Makes a layout of a form as it is mapped: a new one in the making, or the next step of the one that was made of it before. */
export function makeOfForm(books: Books, desk: Desk, id: number): Outcome {
	return inOneStep(books, (): Outcome => {
		const row = formRow(books, id)
		const read = row && formBody(books, id)
		if (!row || !read || row.away_at) return no('There is no such form any more.')
		const own = fieldsOf({ reckoned: [] }, allOwnFields(books))
		const answers = formAnswers(books, id)
		const understood = understand(read.form, answers, vocabularyFor(books, row.kind))
		const layout = row.layout_id === null ? null : layoutRow(books, row.layout_id)
		if (row.layout_id !== null && (!layout || layout.away_at))
			return no('The layout of this form was put away. Bring the form in as a new one.')
		const name = layout?.name ?? freeName(books, row.kind, row.name)
		const made = readLayout(JSON.stringify(layoutOfForm(understood, answers, baseOf(row.kind), name, own).layout))
		if (!made.ok)
			return no(
				`The form is more than a layout holds: ${made.faults
					.slice(0, 3)
					.map(({ path, message }) => `${path} ${message}`)
					.join('; ')}. Make the form simpler there.`,
			)
		const body = JSON.stringify(made.layout)
		const words = `made of ${row.file_name}`
		if (!layout) {
			const made = addLayout(books, desk, { kind: row.kind, name, body, words, from: 0 })
			formMade(books, id, made, sha256Of(body))
			return { ok: true, id: made }
		}
		const on =
			layout.step ??
			startDraft(
				books,
				desk,
				layout.id,
				layout.version,
				versionBody(books, layout.id, layout.version) ?? body,
				`version ${layout.version}`,
			)
		addStep(books, desk, layout.id, on, body, words)
		formMade(books, id, layout.id, sha256Of(body))
		record(books, desk, { subject: 'layout', id: layout.id, act: 'made it anew of its form', detail: row.file_name })
		return { ok: true, id: layout.id }
	})
}

/** Whether a layout was changed on the paper since it was made of its form: made anew, that is gone. */
export function changedSinceMade(books: Books, layout: number): boolean {
	const row = layoutRow(books, layout)
	const last = formsOfLayout(books, layout).find(({ made_sha256 }) => made_sha256 !== null)
	if (!row || !last) return false
	return sha256Of(currentBody(books, row)) !== last.made_sha256
}

/** Puts a form away that no layout was made of. */
export function dropForm(books: Books, desk: Desk, id: number): Outcome {
	return inOneStep(books, (): Outcome => {
		const row = formRow(books, id)
		if (!row || row.away_at) return no('There is no such form any more.')
		if (row.made_sha256 !== null) return no('A layout was made of it, and it is kept with that.')
		putFormAway(books, desk, id)
		record(books, desk, { subject: 'form', id, act: 'put the form away', detail: row.file_name })
		return { ok: true }
	})
}
