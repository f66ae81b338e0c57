'use server'
import { z } from 'zod'
import { no } from '@/core/outcome'
import { isKindName } from '@/kinds'
import { lineSources } from '@/layout/schemaParts'
import { answerForm, bringForm, bringNewerForm, dropForm, makeOfForm } from '@/runs/forms/forms'
import { act, id, longAct } from './seam'

const kind = z.string().refine(isKindName, 'There is no such kind of paper.')

async function fileIn(form: FormData): Promise<{ fileName: string; bytes: Buffer } | null> {
	const file = form.get('file')
	return file instanceof File && file.size > 0
		? { fileName: file.name.slice(0, 200), bytes: Buffer.from(await file.arrayBuffer()) }
		: null
}
const none = 'Choose the form: a DOCX, an ODT or an HTML file.'

export const bringAForm = longAct(
	z.tuple([kind, z.instanceof(FormData)]),
	async ({ books, desk }, of, form) => {
		const file = await fileIn(form)
		return file ? bringForm(books, desk, { ...file, kind: of, name: String(form.get('name') ?? '') }) : no(none)
	},
	true,
)
export const bringANewerForm = longAct(
	z.tuple([id, z.instanceof(FormData)]),
	async ({ books, desk }, of, form) => {
		const file = await fileIn(form)
		return file ? bringNewerForm(books, desk, of, file) : no(none)
	},
	true,
)

const key = z.string().min(1).max(300)
const mark = z.union([
	z.strictObject({ field: z.string().min(1).max(120) }),
	z.strictObject({ is: z.enum(['text', 'nothing']) }),
])
const point = z.strictObject({
	paragraph: z.string().min(1).max(20_000),
	from: z.number().int().min(0),
	to: z.number().int().min(1),
})
const change = z.discriminatedUnion('about', [
	z.object({ about: z.literal('marks'), key, was: mark.nullable(), answer: mark.nullable() }),
	z.object({
		about: z.literal('rows'),
		key,
		was: z.enum([...lineSources, 'once']).nullable(),
		answer: z.enum([...lineSources, 'once']).nullable(),
	}),
	z.object({ about: z.literal('apart'), key, was: z.boolean().nullable(), answer: z.boolean().nullable() }),
	z.object({ about: z.literal('points'), key, was: point.nullable(), answer: point.nullable() }),
])

/** Keeps what was said of marks and rows; the page has it already, and is not read anew. */
export const sayOfForm = act(
	z.tuple([id, z.array(change).min(1).max(400)]),
	({ books, desk }, form, changes) => answerForm(books, desk, form, changes),
	true,
)
export const makeLayoutOfForm = act(z.tuple([id]), ({ books, desk }, form) => makeOfForm(books, desk, form), true)
export const putFormAway = act(z.tuple([id]), ({ books, desk }, form) => dropForm(books, desk, form), true)
