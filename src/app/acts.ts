'use server'
import { refresh } from 'next/cache'
import { cookies } from 'next/headers'
import { z } from 'zod'
import { isDay } from '@/core/calendar'
import { plainAmount, typedAmount } from '@/core/currency'
import { letterKinds, unknownFields } from '@/core/letter'
import { numberings } from '@/core/numbering'
import { yearOf } from '@/core/register'
import { statementChoiceSchema } from '@/core/statement'
import { fileKinds } from '@/intake/kinds'
import { readingSchema } from '@/intake/reading'
import { readLogo } from '@/pdf/logo'
import {
	askStep,
	closeRun,
	giveRunBack,
	haltStep,
	holdBack,
	looksRight,
	type Outcome,
	printed,
	releaseHeld,
	reportSourceTotal,
	resumeStep,
	startRun,
} from '@/runs/acts'
import { acceptFile, changeReading, dropFile } from '@/runs/bringIn'
import { changeDraft, changeSchema, undoChange } from '@/runs/change'
import { leaveInPeace, notePromise, promiseSchema, settlePromise } from '@/runs/chase'
import { creditSchema, startCredit, voidDocument } from '@/runs/correct'
import { divideDraft, divideSchema } from '@/runs/divide'
import { applyCredit, enterPayment, paymentSchema, setDispute, takeBack, writeOff } from '@/runs/ledger'
import { mergeDrafts, mergeSchema } from '@/runs/merge'
import { orderDrafts } from '@/runs/number'
import { holdToRead, ownMessageSchema, writeOwnMessage } from '@/runs/ownMessage'
import { reviseDocument } from '@/runs/revise'
import { decideMessage } from '@/runs/send'
import { dropCharge, startStatements } from '@/runs/statements'
import { inOneStep } from '@/store/books'
import { discountSchema, itemSchema, saveDiscount, saveItem, saveTaxRate, taxRateSchema } from '@/store/catalogue'
import { companySchema, readCompany, saveCompany, saveLogo } from '@/store/company'
import { customerSchema, saveCustomer } from '@/store/customers'
import { record } from '@/store/events'
import { readMessage, saveLetter } from '@/store/messages'
import { registerKinds, saveRegister } from '@/store/registers'
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

export async function beginStatements(form: FormData): Promise<Outcome> {
	const fields = asObject(form)
	const home = readCompany(books())?.currency ?? 'GBP'
	const least = typedAmount(fields.least, home, 'least')
	if (!least.ok) return { ok: false, message: `Least worth a letter: ${least.refusal.message}` }
	const parsed = statementChoiceSchema.safeParse({
		...fields,
		least: least.value,
		hold: fields.hold === 'on',
		copies: fields.copies === 'on',
		charges: fields.charges === 'on',
		customers: form.getAll('customers').map(Number),
	})
	if (!parsed.success) return refused(parsed.error)
	return startStatements(books(), await desk(), parsed.data)
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

export const halt = async (runId: number, how: 'stop' | 'pause'): Promise<Outcome> =>
	done(haltStep(books(), await desk(), id.parse(runId), z.enum(['stop', 'pause']).parse(how)))
export const resume = async (runId: number): Promise<Outcome> =>
	done(resumeStep(books(), await desk(), id.parse(runId)))
export const orderBy = async (runId: number, by: string): Promise<Outcome> =>
	done(orderDrafts(books(), await desk(), id.parse(runId), z.enum(numberings).parse(by)))
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

export async function divide(documentId: number, wanted: unknown): Promise<Outcome> {
	const parsed = divideSchema.safeParse(wanted)
	if (!parsed.success) return refused(parsed.error)
	return done(divideDraft(books(), await desk(), id.parse(documentId), parsed.data))
}

export async function merge(documentId: number, wanted: unknown): Promise<Outcome> {
	const parsed = mergeSchema.safeParse(wanted)
	if (!parsed.success) return refused(parsed.error)
	return done(mergeDrafts(books(), await desk(), id.parse(documentId), parsed.data))
}

export async function revise(documentId: number, wanted: unknown): Promise<Outcome> {
	const parsed = changeSchema.safeParse(wanted)
	if (!parsed.success) return refused(parsed.error)
	return reviseDocument(books(), await desk(), id.parse(documentId), parsed.data)
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

export async function pay(payment: unknown): Promise<Outcome> {
	const parsed = paymentSchema.safeParse(payment)
	if (!parsed.success) return refused(parsed.error)
	return done(enterPayment(books(), await desk(), parsed.data))
}

export const applyTo = async (creditId: number, to: 'oldest' | number[]): Promise<Outcome> =>
	done(applyCredit(books(), await desk(), id.parse(creditId), z.union([z.literal('oldest'), z.array(id)]).parse(to)))
export const unapply = async (applicationId: number): Promise<Outcome> =>
	done(takeBack(books(), await desk(), id.parse(applicationId)))
export const writeItemOff = async (itemId: number, reason: string): Promise<Outcome> =>
	done(writeOff(books(), await desk(), id.parse(itemId), z.string().parse(reason)))
export const dispute = async (itemId: number, note: string): Promise<Outcome> =>
	done(setDispute(books(), await desk(), id.parse(itemId), z.string().parse(note)))

export async function promise(wanted: unknown): Promise<Outcome> {
	const parsed = promiseSchema.safeParse(wanted)
	if (!parsed.success) return refused(parsed.error)
	return done(notePromise(books(), await desk(), parsed.data))
}
export const promiseEnded = async (customerId: number, promiseId: number, kept: boolean): Promise<Outcome> =>
	done(settlePromise(books(), await desk(), id.parse(customerId), id.parse(promiseId), z.boolean().parse(kept)))
export const peace = async (customerId: number, until: string, reason: string): Promise<Outcome> =>
	done(leaveInPeace(books(), await desk(), id.parse(customerId), z.string().parse(until), z.string().parse(reason)))

export const chargeDropped = async (documentId: number): Promise<Outcome> =>
	done(dropCharge(books(), await desk(), id.parse(documentId)))

export async function writeMessage(documentId: number, wanted: unknown): Promise<Outcome> {
	const parsed = ownMessageSchema.safeParse(wanted)
	if (!parsed.success) return refused(parsed.error)
	return done(writeOwnMessage(books(), await desk(), id.parse(documentId), parsed.data))
}
export const holdMessageOf = async (documentId: number, held: boolean): Promise<Outcome> =>
	done(holdToRead(books(), await desk(), id.parse(documentId), z.boolean().parse(held)))

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
	const limit = plainAmount(fields.credit_limit)
	const amount = typedAmount(limit, String(fields.currency).toUpperCase(), 'Credit limit')
	if (!amount.ok) return { ok: false, message: `Credit limit: ${amount.refusal.message}` }
	const parsed = customerSchema.safeParse({
		...fields,
		credit_limit: limit === '' ? null : amount.value,
		wants_order: fields.wants_order === 'on' ? 1 : 0,
		statements: fields.statements === 'on' ? 1 : 0,
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

export async function setDiscount(form: FormData): Promise<Outcome> {
	const fields = asObject(form)
	const parsed = discountSchema.safeParse({
		...fields,
		amount: plainAmount(fields.amount),
		for_all: fields.for_all === 'on' ? 1 : 0,
	})
	if (!parsed.success) return refused(parsed.error)
	saveDiscount(books(), await desk(), parsed.data)
	return done()
}

const freightSchema = z
	.object({
		amount: z.string().trim(),
		percent: z
			.string()
			.trim()
			.regex(/^(\d{1,2}(\.\d{1,4})?|100)?$/, 'A percent is from 0 to 100, such as 5.'),
		freightTaxCode: z.string(),
	})
	.refine(({ amount, percent }) => amount === '' || percent === '', 'Give an amount or a percent, not both.')

export async function setFreight(form: FormData): Promise<Outcome> {
	const fields = asObject(form)
	const parsed = freightSchema.safeParse({ ...fields, amount: plainAmount(fields.amount) })
	if (!parsed.success) return refused(parsed.error)
	const { freightTaxCode, ...freight } = parsed.data
	const home = readCompany(books())?.currency ?? 'GBP'
	const amount = typedAmount(freight.amount, home, 'amount')
	if (!amount.ok) return { ok: false, message: `Freight: ${amount.refusal.message}` }
	if (amount.value < 0) return { ok: false, message: 'Freight cannot be below zero.' }
	changeSettings(books(), await desk(), { freight, freightTaxCode })
	return done()
}

const checkSettings = z.object({
	lookAbove: z.string(),
	usualTimes: z.coerce.number().min(1, 'Times the usual: 1 or more.'),
	usualPart: z.coerce.number().min(0, 'Percent of the usual: 0 to 100.').max(100, 'Percent of the usual: 0 to 100.'),
	priceShare: z.coerce.number().min(0, 'A share is a percent of 0 or more.').max(1000),
	closedTo: z.string().refine((day) => day === '' || isDay(day), 'Choose the last closed day, or none.'),
})

export async function setChecks(form: FormData): Promise<Outcome> {
	const parsed = checkSettings.safeParse(asObject(form))
	if (!parsed.success) return refused(parsed.error)
	const home = readCompany(books())?.currency ?? 'GBP'
	const above = typedAmount(parsed.data.lookAbove, home, 'Total')
	if (!above.ok) return { ok: false, message: above.refusal.message }
	changeSettings(books(), await desk(), { ...parsed.data, lookAbove: above.value })
	return done()
}

const registerSchema = z.object({
	kind: z.enum(registerKinds),
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
	first: z.coerce.number().int().min(1, 'The first number is 1 or above.').max(999_999_999_999),
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
	const saved = saveRegister(books(), await desk(), { ...shape, first, yearly: restarts ? 1 : 0, year })
	return saved.ok ? done() : saved
}

const letterSchema = z.object({
	kind: z.enum(letterKinds),
	subject: z.string().trim().min(1, 'A letter needs a subject.').max(200),
	body: z.string().trim().min(1, 'A letter needs a text.').max(20_000),
})

export async function setLetter(form: FormData): Promise<Outcome> {
	const parsed = letterSchema.safeParse(asObject(form))
	if (!parsed.success) return refused(parsed.error)
	const [unknown] = unknownFields(`${parsed.data.subject} ${parsed.data.body}`)
	if (unknown) return { ok: false, message: `There is no field ${unknown}. Put fields in from the list.` }
	const own = books()
	const at = await desk()
	inOneStep(own, () => {
		saveLetter(own, parsed.data, at)
		record(own, at, {
			subject: 'setting',
			id: `letter ${parsed.data.kind}`,
			act: 'changed the letter',
			after: parsed.data,
		})
	})
	return done()
}

export async function setStages(form: FormData): Promise<Outcome> {
	const number = (name: string) => Number(form.get(name))
	const stageDays = [number('stage0'), number('stage1'), number('stage2')]
	if (!stageDays.every((days, place) => Number.isInteger(days) && days > (stageDays[place - 1] ?? 0)))
		return { ok: false, message: 'The stages begin at whole days that rise, the first at 1 or later.' }
	const letterDays = number('letterDays')
	if (!Number.isInteger(letterDays) || letterDays < 1)
		return { ok: false, message: 'At least one day lies between two letters.' }
	changeSettings(books(), await desk(), { stageDays, letterDays })
	return done()
}

const lateSchema = z.object({
	percent: z
		.string()
		.trim()
		.regex(/^(\d{1,2}(\.\d{1,4})?|100)?$/, 'A percent is from 0 to 100, such as 8.'),
	per: z.enum(['year', 'month']),
	grace: z.coerce.number().int().min(0, 'Days of grace: 0 or more.'),
	minimum: z.string(),
})

export async function setLateTerms(form: FormData): Promise<Outcome> {
	const parsed = lateSchema.safeParse(asObject(form))
	if (!parsed.success) return refused(parsed.error)
	const home = readCompany(books())?.currency ?? 'GBP'
	const minimum = typedAmount(parsed.data.minimum, home, 'minimum')
	if (!minimum.ok || minimum.value < 0) return { ok: false, message: 'The least charge is an amount such as 5.00.' }
	changeSettings(books(), await desk(), { lateTerms: { ...parsed.data, minimum: minimum.value } })
	return done()
}

export async function setKind(fileId: number, kind: string): Promise<Outcome> {
	return setReading(fileId, { kind: z.enum(fileKinds).parse(kind) })
}
