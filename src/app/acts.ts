'use server'
import { refresh } from 'next/cache'
import { cookies } from 'next/headers'
import { z } from 'zod'
import { isDay } from '@/core/calendar'
import { parseAmount } from '@/core/currency'
import { attempt } from '@/core/refusal'
import { yearOf } from '@/core/register'
import { fileKinds } from '@/intake/kinds'
import { readingSchema } from '@/intake/reading'
import { readLogo } from '@/pdf/logo'
import {
	askStep,
	closeRun,
	giveRunBack,
	holdBack,
	looksRight,
	type Outcome,
	printed,
	releaseHeld,
	reportSourceTotal,
	startRun,
	stopStep,
} from '@/runs/acts'
import { acceptFile, changeReading, dropFile } from '@/runs/bringIn'
import { changeDraft, changeSchema, undoChange } from '@/runs/change'
import { creditSchema, startCredit, voidDocument } from '@/runs/correct'
import { decideMessage } from '@/runs/send'
import { inOneStep } from '@/store/books'
import { itemSchema, saveItem, saveTaxRate, taxRateSchema } from '@/store/catalogue'
import { companySchema, readCompany, saveCompany, saveLogo } from '@/store/company'
import { customerSchema, saveCustomer } from '@/store/customers'
import { record } from '@/store/events'
import { readMessage, saveLetter } from '@/store/messages'
import { saveRegister } from '@/store/registers'
import { changeSettings, mailSchema, readSettings, seatClerk } from '@/store/settings'
import { books, clerkCookie, desk, now, today } from './books'

const id = z.number().int().positive()
const refused = (error: z.ZodError): Outcome => ({
	ok: false,
	message: error.issues.map(({ message }) => message).join(' '),
})
/** After a change every count and list in view is read anew. */
const done = (outcome: Outcome = { ok: true }): Outcome => {
	refresh()
	return outcome
}

export async function sitDown(name: string): Promise<Outcome> {
	const clerk = name.trim().slice(0, 40)
	if (!clerk) return { ok: false, message: 'Give a name.' }
	seatClerk(books(), { clerk, now })
	;(await cookies()).set(clerkCookie, clerk, { httpOnly: true, sameSite: 'strict', maxAge: 400 * 86_400 })
	return done()
}

export async function setReading(fileId: number, change: unknown): Promise<Outcome> {
	const parsed = readingSchema.partial().safeParse(change)
	if (!parsed.success) return refused(parsed.error)
	changeReading(books(), id.parse(fileId), parsed.data)
	return done()
}

export async function accept(fileId: number): Promise<Outcome & { words?: string }> {
	const accepted = acceptFile(books(), await desk(), id.parse(fileId))
	if (!accepted.ok) return accepted
	refresh()
	return { ok: true, words: accepted.words }
}

export async function drop(fileId: number): Promise<Outcome> {
	dropFile(books(), await desk(), id.parse(fileId))
	return done()
}

export async function beginRun(upTo: string, documentDay: string): Promise<Outcome> {
	return startRun(books(), await desk(), z.string().parse(upTo), z.string().parse(documentDay))
}

export async function goOn(runId: number, step: 'number' | 'make' | 'send', expected: number): Promise<Outcome> {
	return done(
		askStep(
			books(),
			await desk(),
			id.parse(runId),
			z.enum(['number', 'make', 'send']).parse(step),
			z.number().int().parse(expected),
		),
	)
}

export const stop = async (runId: number): Promise<Outcome> => done(stopStep(books(), await desk(), id.parse(runId)))
export const close = async (runId: number): Promise<Outcome> => done(closeRun(books(), await desk(), id.parse(runId)))
export const giveBack = async (runId: number): Promise<Outcome> =>
	done(giveRunBack(books(), await desk(), id.parse(runId)))
export const hold = async (documentId: number, reason: string): Promise<Outcome> =>
	done(holdBack(books(), await desk(), id.parse(documentId), z.string().parse(reason)))
export const release = async (documentId: number): Promise<Outcome> =>
	done(releaseHeld(books(), await desk(), id.parse(documentId)))
export const looked = async (documentId: number, right: boolean): Promise<Outcome> =>
	done(looksRight(books(), await desk(), id.parse(documentId), z.boolean().parse(right)))

export async function change(documentId: number, wanted: unknown): Promise<Outcome> {
	const parsed = changeSchema.safeParse(wanted)
	if (!parsed.success) return refused(parsed.error)
	return done(changeDraft(books(), await desk(), id.parse(documentId), parsed.data))
}

export const undo = async (documentId: number): Promise<Outcome> =>
	done(undoChange(books(), await desk(), id.parse(documentId)))

export async function credit(documentId: number, wanted: unknown): Promise<Outcome> {
	const parsed = creditSchema.safeParse(wanted)
	if (!parsed.success) return refused(parsed.error)
	return startCredit(books(), await desk(), id.parse(documentId), parsed.data)
}

export const makeVoid = async (documentId: number, reason: string): Promise<Outcome> =>
	done(voidDocument(books(), await desk(), id.parse(documentId), z.string().parse(reason)))

export async function markPrinted(documentIds: number[]): Promise<Outcome> {
	const own = books()
	const at = await desk()
	const outcome = inOneStep(own, () => {
		const outcomes = z
			.array(id)
			.parse(documentIds)
			.map((one) => printed(own, at, one))
		return outcomes.find(({ ok }) => !ok) ?? outcomes[0]
	})
	return done(outcome)
}

export async function sourceTotal(runId: number, currency: string, text: string): Promise<Outcome> {
	return done(
		reportSourceTotal(
			books(),
			await desk(),
			id.parse(runId),
			z.string().length(3).parse(currency),
			z.string().parse(text),
		),
	)
}

export async function decide(messageId: number, decision: 'again' | 'sent'): Promise<Outcome> {
	const message = readMessage(books(), id.parse(messageId))
	if (!message || !decideMessage(books(), await desk(), message, z.enum(['again', 'sent']).parse(decision)))
		return { ok: false, message: 'It was decided meanwhile; look again.' }
	return done()
}

const asObject = (form: FormData) => Object.fromEntries([...form].filter(([key]) => !key.startsWith('$')))

export async function setCompany(form: FormData): Promise<Outcome> {
	const parsed = companySchema.safeParse(asObject(form))
	if (!parsed.success) return refused(parsed.error)
	saveCompany(books(), await desk(), parsed.data)
	return done()
}

export async function setLogo(form: FormData): Promise<Outcome> {
	const file = form.get('logo')
	if (!(file instanceof File) || file.size === 0) return { ok: false, message: 'Choose a PNG or SVG file.' }
	if (file.size > 1_000_000)
		return { ok: false, message: 'The logo is over 1 MB. Make it smaller; 600 points wide is plenty.' }
	const bytes = Buffer.from(await file.arrayBuffer())
	const logo = await readLogo(file.type, bytes, 'new')
	if (!logo.ok) return { ok: false, message: logo.refusal.message }
	saveLogo(books(), await desk(), { type: file.type, bytes })
	return done()
}

export async function removeLogo(): Promise<Outcome> {
	saveLogo(books(), await desk(), null)
	return done()
}

export async function setMail(form: FormData): Promise<Outcome> {
	const fields = asObject(form)
	const before = readSettings(books()).mail
	const parsed = mailSchema.safeParse({
		...fields,
		secure: fields.secure === 'on',
		password: fields.password || before.password,
	})
	if (!parsed.success) return refused(parsed.error)
	if (parsed.data.mode === 'real' && !parsed.data.host)
		return { ok: false, message: 'Real mail needs the name of the mail server.' }
	changeSettings(books(), await desk(), { mail: parsed.data })
	return done()
}

export async function setWorkDate(day: string): Promise<Outcome> {
	if (day !== '' && !isDay(day)) return { ok: false, message: 'Choose a day, or none for today.' }
	changeSettings(books(), await desk(), { workDate: day })
	return done()
}

export async function setCustomer(form: FormData): Promise<Outcome> {
	const fields = asObject(form)
	const limit = String(fields.credit_limit ?? '').replaceAll(',', '')
	const amount = attempt(() =>
		limit === '' ? null : Number(parseAmount(limit, String(fields.currency).toUpperCase(), 'Credit limit')),
	)
	if (!amount.ok) return { ok: false, message: `Credit limit: ${amount.refusal.message}` }
	const parsed = customerSchema.safeParse({
		...fields,
		credit_limit: amount.value,
		wants_order: fields.wants_order === 'on' ? 1 : 0,
	})
	if (!parsed.success) return refused(parsed.error)
	saveCustomer(books(), await desk(), parsed.data)
	return done()
}

export async function setItem(form: FormData): Promise<Outcome> {
	const parsed = itemSchema.safeParse(asObject(form))
	if (!parsed.success) return refused(parsed.error)
	saveItem(books(), await desk(), parsed.data)
	return done()
}

export async function setTaxRate(form: FormData): Promise<Outcome> {
	const parsed = taxRateSchema.safeParse(asObject(form))
	if (!parsed.success) return refused(parsed.error)
	saveTaxRate(books(), await desk(), parsed.data)
	return done()
}

const checkSettings = z.object({
	lookAbove: z.string(),
	usualTimes: z.coerce.number().min(1, 'Times the usual: 1 or more.'),
	priceShare: z.coerce.number().min(0, 'A share is a percent of 0 or more.').max(1000),
	closedTo: z.string().refine((day) => day === '' || isDay(day), 'Choose the last closed day, or none.'),
})

export async function setChecks(form: FormData): Promise<Outcome> {
	const parsed = checkSettings.safeParse(asObject(form))
	if (!parsed.success) return refused(parsed.error)
	const home = readCompany(books())?.currency ?? 'GBP'
	const above = attempt(() => Number(parseAmount(parsed.data.lookAbove.replaceAll(',', '') || '0', home, 'Total')))
	if (!above.ok) return { ok: false, message: above.refusal.message }
	changeSettings(books(), await desk(), { ...parsed.data, lookAbove: above.value })
	return done()
}

export async function setFreightTaxCode(code: string): Promise<Outcome> {
	changeSettings(books(), await desk(), { freightTaxCode: z.string().parse(code) })
	return done()
}

const registerSchema = z.object({
	kind: z.enum(['invoice', 'credit-note']),
	prefix: z
		.string()
		.trim()
		.max(20)
		.regex(
			/^[A-Za-z0-9./-]*(\{year\})?[A-Za-z0-9./-]*$/,
			'A prefix holds letters, digits, points, strokes, hyphens and {year}.',
		),
	digits: z.coerce.number().int().min(1, 'At least one digit.').max(12, 'At most twelve digits.'),
	next: z.coerce.number().int().min(1, 'The next number is 1 or above.').max(999_999_999_999),
	first: z.coerce.number().int().min(1).optional(),
	yearly: z.literal('on').optional(),
})

export async function setRegister(form: FormData): Promise<Outcome> {
	const parsed = registerSchema.safeParse(asObject(form))
	if (!parsed.success) return refused(parsed.error)
	const { yearly, first, ...shape } = parsed.data
	const restarts = yearly === 'on'
	if (restarts && !shape.prefix.includes('{year}')) {
		return {
			ok: false,
			message: 'A register that begins again each year needs {year} in its prefix, so that no number comes twice.',
		}
	}
	const year = restarts ? yearOf(today()) : 0
	const saved = saveRegister(books(), await desk(), { ...shape, first: first ?? 1, yearly: restarts ? 1 : 0, year })
	return saved.ok ? done() : saved
}

const letterSchema = z.object({
	kind: z.enum(['invoice', 'credit-note']),
	subject: z.string().trim().min(1, 'A letter needs a subject.').max(200),
	body: z.string().trim().min(1, 'A letter needs a text.').max(20_000),
})

export async function setLetter(form: FormData): Promise<Outcome> {
	const parsed = letterSchema.safeParse(asObject(form))
	if (!parsed.success) return refused(parsed.error)
	const own = books()
	const at = await desk()
	inOneStep(own, () => {
		saveLetter(own, parsed.data)
		record(own, at, {
			subject: 'setting',
			id: `letter ${parsed.data.kind}`,
			act: 'changed the letter',
			after: parsed.data,
		})
	})
	return done()
}

export async function setKind(fileId: number, kind: string): Promise<Outcome> {
	return setReading(fileId, { kind: z.enum(fileKinds).parse(kind) })
}
