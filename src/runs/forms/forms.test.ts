import { expect, test } from 'vitest'
import type { Change } from '@/forms/carryOver'
import { type Answers, understand } from '@/forms/marks'
import { layoutOfForm } from '@/forms/toLayout'
import { fieldsByKey } from '@/layout/fields'
import { vocabularyFor } from '@/runs/layouts/formMarksLeft'
import { keepStep, moveInSteps, putAway, releaseLayout } from '@/runs/layouts/layouts'
import type { Books } from '@/store/books'
import { formAnswers, formBody, formRow, formsOfLayout } from '@/store/forms'
import { layoutDraft, layoutRow } from '@/store/layouts'
import { controlsForm, docx, paragraph, run } from '../../../tests/forms/byHand'
import { work } from '../../../tests/runs'
import { desk, firmBooks } from '../../../tests/support'
import { answerForm, bringForm, bringNewerForm, changedSinceMade, dropForm, makeOfForm } from './forms'

const must = (outcome: { ok: true; id?: number } | { ok: false; message: string }): number => {
	if (!outcome.ok) throw new Error(outcome.message)
	return outcome.id ?? 0
}
async function brought(books: Books, bytes: Buffer, name = 'Ours'): Promise<number> {
	const id = must(bringForm(books, desk, { kind: 'invoice', name, fileName: `${name}.docx`, bytes }))
	await work(books)
	return id
}
async function newer(books: Books, of: number, bytes: Buffer): Promise<number> {
	const id = must(bringNewerForm(books, desk, of, { fileName: 'newer.docx', bytes }))
	await work(books)
	return id
}
const seen = (books: Books, id: number) => {
	const read = formBody(books, id)
	if (!read) throw new Error(formRow(books, id)?.refused ?? 'not read')
	const answers = formAnswers(books, id)
	return { ...read, answers, ...understand(read.form, answers, vocabularyFor(books, 'invoice')) }
}
const say = (books: Books, id: number, about: keyof Answers, said: Record<string, unknown>) =>
	answerForm(
		books,
		desk,
		id,
		Object.entries(said).map(([key, answer]) => ({
			about,
			key,
			was: formAnswers(books, id)[about][key] ?? null,
			answer,
		})),
	)
/** Gives every mark what is offered for it. */
const takeAll = (books: Books, id: number) =>
	must(
		say(
			books,
			id,
			'marks',
			Object.fromEntries(
				seen(books, id).marks.flatMap(({ key, offer }) => (offer ? [[key, { field: offer.field }]] : [])),
			),
		),
	)
const p = (text: string) => paragraph(run(text))
const cells = (...texts: string[]) =>
	`<w:tr>${texts.map((text) => `<w:tc><w:tcPr><w:tcW w:w="2000"/></w:tcPr>${p(text)}</w:tc>`).join('')}</w:tr>`
const lines = (...marks: string[]) =>
	`<w:tbl><w:tblGrid>${marks.map(() => '<w:gridCol w:w="2000"/>').join('')}</w:tblGrid>${cells('Text', 'Qty', 'Price', 'Amount')}${cells(...marks)}</w:tbl>`
const table = lines('{{text}}', '{{qty}}', '{{price}}', '{{line_total}}')

test('a form is mapped, made a layout and released; a mark that says nothing yet keeps it from that, unless it is said to be text', async () => {
	const books = firmBooks()
	const id = await brought(books, controlsForm(), 'Facture')
	expect(() => must(say(books, id, 'marks', {}))).not.toThrow()
	const before = seen(books, id)
	expect(before.answers.marks).toEqual({})
	takeAll(books, id)
	must(say(books, id, 'marks', { 'paper|client': null }))
	const layout = must(makeOfForm(books, desk, id))
	const step = () => layoutDraft(books, layout)?.step ?? 0
	expect(await releaseLayout(books, desk, layout, step(), 'first')).toMatchObject({
		ok: false,
		message: expect.stringMatching(/a mark of its form still stands.*Nom du client/),
	})
	must(say(books, id, 'marks', { 'paper|client': { field: 'customer.name' } }))
	expect(must(makeOfForm(books, desk, id))).toBe(layout)
	expect(await releaseLayout(books, desk, layout, step(), 'first')).toMatchObject({ ok: true, id: 1 })
	expect(formsOfLayout(books, layout).map(({ file_name }) => file_name)).toEqual(['Facture.docx'])

	const text = await brought(books, docx(p('Clause [one] {{number}}') + table), 'Text')
	takeAll(books, text)
	const other = must(makeOfForm(books, desk, text))
	const stop = async () => releaseLayout(books, desk, other, layoutDraft(books, other)?.step ?? 0, 'x')
	expect(await stop()).toMatchObject({ message: expect.stringContaining('[one]') })
	must(say(books, text, 'marks', { 'paper|one': { is: 'text' } }))
	expect(await stop()).toMatchObject({ message: expect.not.stringContaining('mark of its form') })
	must(say(books, text, 'marks', { 'paper|one': { is: 'nothing' } }))
	must(makeOfForm(books, desk, text))
	expect(layoutDraft(books, other)?.body).not.toContain('[one]')
})

test('a newer form keeps what was said of marks that stand where they stood; renamed, moved, new and gone ones are told and say nothing', async () => {
	const books = firmBooks()
	const id = await brought(
		books,
		docx(
			p('Invoice {{Number}}') +
				p('To: {{Customer}}') +
				p('Due: {{Due}}') +
				p('Sum {{Qty_total}}') +
				p('Bank {{bank}}') +
				table,
		),
	)
	takeAll(books, id)
	must(
		say(books, id, 'marks', {
			'paper|qtytotal': { field: 'order-count' },
			'paper|customer': { field: 'customer.contact' },
		}),
	)
	const layout = must(makeOfForm(books, desk, id))
	const now = await newer(
		books,
		id,
		docx(
			p('Invoice {{NUMBER}}') +
				p('To: {{Buyer}}') +
				p('Bank {{bank}}') +
				p('Ours: {{our_phone}}') +
				lines('{{text}}', '{{qty}} {{Due}}', '{{price}}', '{{Qty_total}}'),
		),
	)
	const { answers, changes, marks } = seen(books, now)
	// A slip in upper case is none.
	expect(answers.marks).toEqual({
		...{
			'paper|number': { field: 'number' },
			'paper|bank': { field: 'issuer.bank' },
			'lines|text': { field: 'line.description' },
		},
		...{ 'lines|qty': { field: 'line.quantity' }, 'lines|price': { field: 'line.price' } },
	})
	expect(changes).toEqual(
		expect.arrayContaining<Change>([
			{ is: 'renamed', key: 'paper|buyer', name: 'Buyer', from: 'Customer', was: { field: 'customer.contact' } },
			{ is: 'moved', key: 'lines|due', name: 'Due', from: null, to: 'lines', was: { field: 'due-day' } },
			{ is: 'moved', key: 'lines|qtytotal', name: 'Qty_total', from: null, to: 'lines', was: { field: 'order-count' } },
			{ is: 'new', key: 'paper|ourphone', name: 'our_phone' },
			{ is: 'gone', name: 'line_total', was: { field: 'line.net' } },
		]),
	)
	expect(changes).toHaveLength(5)
	expect(marks.filter(({ key }) => !answers.marks[key]).map(({ name }) => name)).toEqual([
		'Buyer',
		'our_phone',
		'Due',
		'Qty_total',
	])
	expect(must(makeOfForm(books, desk, now))).toBe(layout)
	expect(layoutDraft(books, layout)?.words).toBe('made of newer.docx')
	// The form before is kept with what was said of it.
	expect(formsOfLayout(books, layout).map(({ id: one }) => one)).toEqual([now, id])
	expect(formAnswers(books, id).marks['paper|customer']).toEqual({ field: 'customer.contact' })
})

test('marks of one name are one, but where what stands before them says two things; a clerk parts and joins them', async () => {
	const books = firmBooks()
	const id = await brought(
		books,
		docx(
			p('Date: {{date}}') + p('Due date: {{date}}') + p('{{customer}} and {{Customer}}') + p('as of {{date}}') + table,
		),
	)
	const keys = () =>
		seen(books, id)
			.marks.filter(({ source }) => !source)
			.map(({ key, offer, spots }) => [key, offer?.field, spots.length])
	expect(keys()).toEqual([
		['paper|date', 'day', 2],
		['paper|date#2', 'due-day', 1],
		['paper|customer', 'customer.name', 2],
	])
	must(say(books, id, 'apart', { 'paper|date': false }))
	expect(keys()[0]).toEqual(['paper|date', 'day', 3])
	must(say(books, id, 'apart', { 'paper|date': true }))
	expect(keys().filter(([key]) => String(key).startsWith('paper|date'))).toHaveLength(3)
	// A field may stand for several marks.
	must(say(books, id, 'marks', { 'paper|date': { field: 'day' }, 'paper|date#2': { field: 'day' } }))
	expect(layoutOfForm(seen(books, id), seen(books, id).answers, 'invoice', 'x').layout.body).toBeDefined()
})

test('what two people say of a mark at once is not overwritten; another’s word is told', async () => {
	const books = firmBooks()
	const id = await brought(books, docx(p('{{number}}') + table))
	const other = { ...desk, clerk: 'Wren' }
	must(answerForm(books, other, id, [{ about: 'marks', key: 'paper|number', was: null, answer: { field: 'number' } }]))
	expect(
		answerForm(books, desk, id, [{ about: 'marks', key: 'paper|number', was: null, answer: { is: 'text' } }]),
	).toMatchObject({ ok: false, message: expect.stringMatching(/^Wren said something else/) })
	expect(formAnswers(books, id).marks).toEqual({ 'paper|number': { field: 'number' } })
})

test('a layout changed on the paper since is told before it is made anew, and Undo brings that back', async () => {
	const books = firmBooks()
	const id = await brought(books, docx(p('{{number}}') + table))
	takeAll(books, id)
	const layout = must(makeOfForm(books, desk, id))
	expect(changedSinceMade(books, layout)).toBe(false)
	const { body = '', step = 0 } = layoutDraft(books, layout) ?? {}
	const changed = JSON.stringify({ ...JSON.parse(body), foot: [{ type: 'rule', id: 'mine' }] })
	must(keepStep(books, desk, layout, step, changed, 'a rule'))
	expect(changedSinceMade(books, layout)).toBe(true)
	must(makeOfForm(books, desk, id))
	expect(layoutDraft(books, layout)?.body).not.toContain('mine')
	must(moveInSteps(books, layout, layoutDraft(books, layout)?.step ?? 0, -1))
	expect(layoutDraft(books, layout)?.body).toContain('mine')
})

test('a form that is refused, the same file again, a layout that was put away: each says so', async () => {
	const books = firmBooks()
	const bad = await brought(books, Buffer.from('%PDF-1.7'), 'Bad')
	expect(formRow(books, bad)).toMatchObject({ read: 0, refused: expect.stringMatching(/PDF/) })
	expect(makeOfForm(books, desk, bad)).toMatchObject({ ok: false })
	must(dropForm(books, desk, bad))
	const bytes = docx(p('{{number}}') + table)
	const id = await brought(books, bytes)
	const layout = must(makeOfForm(books, desk, id))
	expect(bringForm(books, desk, { kind: 'invoice', name: 'ours', fileName: 'a.docx', bytes })).toMatchObject({
		message: expect.stringMatching(/There is a layout/),
	})
	expect(bringNewerForm(books, desk, id, { fileName: 'a.docx', bytes })).toMatchObject({
		message: expect.stringMatching(/same file/),
	})
	expect(dropForm(books, desk, id)).toMatchObject({ ok: false })
	must(putAway(books, desk, layout))
	expect(layoutRow(books, layout)?.away_at).not.toBeNull()
	expect(makeOfForm(books, desk, id)).toMatchObject({ message: expect.stringMatching(/put away/) })
	expect(
		bringNewerForm(books, desk, id, { fileName: 'b.docx', bytes: Buffer.concat([bytes, Buffer.from([0])]) }),
	).toMatchObject({ ok: false })
})

test('words that a clerk pointed at are a mark, also in a newer form where they stand behind the same words', async () => {
	const books = firmBooks()
	const id = await brought(books, docx(p('Invoice to Muster and Sons, Hull') + p('number 0000 of today') + table))
	must(
		say(books, id, 'points', {
			1: { paragraph: 'Invoice to Muster and Sons, Hull', from: 11, to: 26 },
			2: { paragraph: 'number 0000 of today', from: 7, to: 11 },
		}),
	)
	const pointed = seen(books, id).marks.filter(({ manner }) => manner === 'pointed')
	expect(pointed.map(({ name, offer }) => [name, offer?.field])).toEqual([
		['Muster and Sons', undefined],
		['0000', 'number'],
	])
	must(
		say(books, id, 'marks', { 'paper|musterandsons': { field: 'customer.name' }, 'paper|0000': { field: 'number' } }),
	)
	const { body } = layoutOfForm(seen(books, id), seen(books, id).answers, 'invoice', 'x', fieldsByKey).layout
	expect(JSON.stringify(body)).toMatch(
		/"text":"Invoice to ".*"field":"customer.name".*"text":", Hull".*"text":"number ".*"field":"number".*" of today"/,
	)
	must(makeOfForm(books, desk, id))
	const now = await newer(books, id, docx(p('Invoice to Muster and Sons, Leith') + p('no. 0000') + table))
	expect(seen(books, now).answers.marks).toEqual({ 'paper|musterandsons': { field: 'customer.name' } })
	expect(seen(books, now).changes).toEqual([{ is: 'gone', name: '0000', was: { field: 'number' } }])
})
