import 'server-only'
import { refresh } from 'next/cache'
import { z } from 'zod'
import type { Outcome } from '@/core/outcome'
import { type Books, inOneReading, inOneStep } from '@/store/books'
import type { Desk } from '@/store/events'
import { plainWords } from '@/store/plainWords'
import { books, desk } from '../books'

/** The books, and who acts on them when. */
export type At = { books: Books; desk: Desk }

/** The id of a thing in the books. */
export const id = z.number().int().positive()

/**
 * Some of an object's fields, those that were given: what a schema fills in by itself where a field is left out is not among them, since it
 * would overwrite what stands.
 */
export const partOf = <Shape extends z.ZodRawShape>(schema: z.ZodObject<Shape>) =>
	z.record(z.string(), z.unknown()).transform((given, context): Partial<z.infer<z.ZodObject<Shape>>> => {
		const parsed = schema.partial().safeParse(given)
		if (parsed.success)
			return Object.fromEntries(Object.entries(parsed.data).filter(([key]) => key in given)) as Partial<
				z.infer<z.ZodObject<Shape>>
			>
		for (const { message } of parsed.error.issues) context.addIssue(message)
		return z.NEVER
	})

/** What a schema refused, in its own words. */
export const refused = (error: z.ZodError): Outcome => ({
	ok: false,
	message: error.issues.map(({ message }) => message).join(' '),
})

type Work<Input extends unknown[], Answer> = (at: At, ...input: Input) => Answer
type Act<Input extends unknown[]> = (...input: { [Place in keyof Input]: unknown }) => Promise<Outcome>

/**
 * Every act of a person comes through here: what the browser sent is parsed, who acts is known (roles will stand here), the work is done,
 * and the answer is data, also where something broke. What is in view is read anew.
 * @param does the work, as one step of the books or as several
 */
function actOf<Input extends unknown[]>(
	schema: z.ZodType<Input>,
	does: (at: At, input: Input) => Outcome | Promise<Outcome>,
	leaves: boolean,
): Act<Input> {
	return async (...input) => {
		const parsed = schema.safeParse(input)
		if (!parsed.success) return refused(parsed.error)
		try {
			const outcome = await does({ books: books(), desk: await desk() }, parsed.data)
			if (!leaves) refresh()
			return outcome
		} catch (error) {
			console.error(error)
			return { ok: false, message: `It could not be done, and nothing was changed: ${plainWords(error)}` }
		}
	}
}

/**
 * An act that is one step of the books: what it decides by is read within that step, so nobody changes it in between, and where it breaks
 * nothing of it stays.
 * @param leaves true for an act after which the browser goes to another page, which is read then
 */
export const act = <Input extends unknown[]>(schema: z.ZodType<Input>, work: Work<Input, Outcome>, leaves = false) =>
	actOf(schema, (at, input) => inOneStep(at.books, () => work(at, ...input)), leaves)

/** An act that only reads, all of one moment; nothing in view is otherwise after it. */
export const look = <Input extends unknown[]>(schema: z.ZodType<Input>, work: Work<Input, Outcome>) =>
	actOf(schema, (at, input) => inOneReading(at.books, () => work(at, ...input)), true)

/**
 * An act that waits for something besides the books: a file that comes in, a picture that is looked at, a paper that is drawn on trial. It
 * takes its steps itself.
 */
export const longAct = <Input extends unknown[]>(
	schema: z.ZodType<Input>,
	work: Work<Input, Promise<Outcome>>,
	leaves = false,
) => actOf(schema, (at, input) => work(at, ...input), leaves)

type Params = Record<string, string>

/**
 * A route that writes: what comes is no form but a file or a part of one, and the answer is of its own shape. All else is as with `act`;
 * no other route may write (`tests/architecture.test.ts`).
 */
export const actRoute =
	(work: (at: At, request: Request, params: Params) => Response | Promise<Response>) =>
	async (request: Request, context: { params: Promise<Params> }): Promise<Response> => {
		try {
			return await work({ books: books(), desk: await desk() }, request, await context.params)
		} catch (error) {
			console.error(error)
			return Response.json(
				{ ok: false, message: `It could not be done, and nothing was changed: ${plainWords(error)}` },
				{ status: 500 },
			)
		}
	}

/** The fields of a form, as they were typed; lines end as they do in the books, not as forms send them. */
export const asObject = (form: FormData) =>
	Object.fromEntries(
		[...form]
			.filter(([key]) => !key.startsWith('$'))
			.map(([key, value]) => [key, typeof value === 'string' ? value.replaceAll('\r\n', '\n') : value]),
	)

/** A form that a schema reads. */
export const formed = <Fields>(
	schema: z.ZodType<Fields>,
	work: (at: At, fields: Fields) => Outcome | undefined,
	prepare: (fields: Record<string, FormDataEntryValue>, form: FormData, at: At) => Record<string, unknown> | Outcome = (
		fields,
	) => fields,
) =>
	act(z.tuple([z.instanceof(FormData)]), (at, form) => {
		const prepared = prepare(asObject(form), form, at)
		if (isRefusal(prepared)) return prepared
		const parsed = schema.safeParse(prepared)
		if (!parsed.success) return refused(parsed.error)
		return work(at, parsed.data) ?? { ok: true }
	})

const isRefusal = (value: Record<string, unknown> | Outcome): value is Extract<Outcome, { ok: false }> =>
	value.ok === false && typeof value.message === 'string'
