'use server'
import { z } from 'zod'
import { isDay } from '@/core/calendar'
import { typedAmount } from '@/core/currency'
import { percentOrNone } from '@/core/decimal'
import { readLeasts } from '@/core/leasts'
import { unknownFields } from '@/core/letter'
import { no, type Outcome } from '@/core/outcome'
import { isOwnKind } from '@/core/paperKind'
import { yearOf } from '@/core/register'
import { stageSchema } from '@/core/stages'
import { isKindName, isLetter } from '@/kinds'
import { readLogo } from '@/pdf/logo'
import { askToLookAgain } from '@/runs/customers/changeCustomer'
import { pictureFault } from '@/runs/files/untrustedImages'
import { letterFor } from '@/runs/send/letterFor'
import { inOneStep } from '@/store/books'
import { companySchema, homeCurrency, saveCompany, saveLogo } from '@/store/company'
import { saveLetter } from '@/store/messages'
import { saveRegister } from '@/store/registers'
import { changeSettings, mailSchema, readSettings } from '@/store/settings'
import { today } from '../books'
import { act, formed, longAct } from './seam'

export const setCompany = formed(companySchema, ({ books, desk }, fields) => {
	saveCompany(books, desk, fields)
	askToLookAgain(books, desk, 'the company')
})

export const setLogo = longAct(z.tuple([z.instanceof(FormData)]), async ({ books, desk }, form) => {
	const file = form.get('logo')
	if (!(file instanceof File) || file.size === 0) return no('Choose a PNG, JPEG or SVG file.')
	if (file.size > 1_000_000) return no('The logo is over 1 MB. Make it smaller; 600 points wide is plenty.')
	const bytes = Buffer.from(await file.arrayBuffer())
	const fault = await pictureFault(file.type, bytes)
	if (fault) return no(fault)
	const logo = await readLogo(file.type, bytes, 'new')
	if (!logo.ok) return no(logo.refusal.message)
	saveLogo(books, desk, { type: file.type, bytes })
	return { ok: true }
})
export const removeLogo = act(z.tuple([]), ({ books, desk }) => {
	saveLogo(books, desk, null)
	return { ok: true }
})

export const setMail = formed(
	mailSchema,
	({ books, desk }, mail) => {
		if (mail.mode === 'real' && !mail.host) return no('Real mail needs the name of the mail server.')
		changeSettings(books, desk, { mail })
	},
	(fields, _form, { books }) => ({
		...fields,
		secure: fields.secure === 'on',
		retry: {
			minutes: String(fields.retryMinutes ?? '')
				.split(/[,;\s]+/)
				.filter(Boolean)
				.map(Number),
			hours: fields.retryHours,
		},
		password: fields.password || readSettings(books).mail.password,
	}),
)

export const setWorkDate = act(z.tuple([z.string()]), ({ books, desk }, day) => {
	if (day !== '' && !isDay(day)) return no('Choose a day, or none for today.')
	changeSettings(books, desk, { workDate: day })
	return { ok: true }
})

const registerSchema = z.object({
	kind: z.string().refine(isKindName, 'There is no such kind of paper.'),
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

export const setRegister = formed(registerSchema, ({ books, desk }, { yearly, ...shape }) => {
	const restarts = yearly === 'on'
	if (restarts && !shape.prefix.includes('{year}'))
		return no('A register that begins again each year needs {year} in its prefix, so that no number comes twice.')
	const saved = saveRegister(books, desk, { ...shape, yearly: restarts ? 1 : 0, year: yearOf(today()) })
	if (saved.ok) askToLookAgain(books, desk, 'a number register')
	return saved
})

const letterSchema = z.object({
	kind: z.string().refine((kind) => isLetter(kind) || isOwnKind(kind), 'There is no such letter.'),
	subject: z.string().trim().min(1, 'A letter needs a subject.').max(200),
	body: z.string().trim().min(1, 'A letter needs a text.').max(20_000),
	/** Its subject and text as they were opened. */
	seen: z.string(),
})

export const setLetter = formed(letterSchema, ({ books, desk }, { seen, ...letter }) => {
	const [unknown] = unknownFields(`${letter.subject} ${letter.body}`)
	if (unknown) return no(`There is no field ${unknown}. Put fields in from the list.`)
	return inOneStep(books, (): Outcome => {
		const now = letterFor(books, letter.kind)
		const plain = (text: string) => text.replace(/\r\n/g, '\n').trim()
		if (plain(seen) !== plain(`${now.subject}\n${now.body}`))
			return no(
				'Somebody changed this letter since you opened it. What you typed is still here; look at theirs in another window, and open it anew to change it.',
			)
		saveLetter(books, desk, letter)
		return { ok: true }
	})
})

const stagesSchema = z.object({
	stages: z.array(stageSchema).max(20, 'At most twenty stages.'),
	promiseDays: z.coerce.number().int().min(1, 'A promise is taken for at least a day ahead.').max(366),
})

export const setStages = formed(
	stagesSchema,
	({ books, desk }, { stages, promiseDays }) => {
		changeSettings(books, desk, { stages, promiseDays })
	},
	({ promiseDays }, form, { books }) => {
		const stages = []
		for (let place = 0; form.has(`name${place}`); place++) {
			const text = (field: string) => String(form.get(`${field}${place}`) ?? '').trim()
			const least = readLeasts(text('least'), homeCurrency(books))
			if (!least.ok) return no(`Stage ${place + 1}, the least: ${least.refusal.message}`)
			stages.push({ name: text('name'), days: Number(text('days')), ...least.value, read: text('read') === 'on' })
		}
		return { stages, promiseDays }
	},
)

const lateSchema = z.object({
	percent: percentOrNone('A percent is from 0 to 100, such as 8.'),
	/** From when on it counts; rates of days before stay. */
	from: z.string().refine((day) => day === '' || isDay(day), 'Give the first day of the rate, or none for all days.'),
	per: z.enum(['year', 'month']),
	year: z.enum(['365', 'actual']),
	grace: z.coerce.number().int().min(0, 'Days of grace: 0 or more.'),
	minimum: z.string(),
})

export const setLateTerms = formed(lateSchema, ({ books, desk }, { percent, from, ...late }) => {
	const minimum = typedAmount(late.minimum, homeCurrency(books), 'minimum')
	if (!minimum.ok || minimum.value < 0) return no('The least charge is an amount such as 5.00.')
	const { lateTerms } = readSettings(books)
	const others = lateTerms.rates.filter((rate) => rate.from !== from)
	const rates = [...others, { from, percent }].sort((a, b) => (a.from < b.from ? -1 : 1))
	// Days before any rate have none without saying so.
	while (rates[0]?.percent === '') rates.shift()
	changeSettings(books, desk, { lateTerms: { ...late, minimum: minimum.value, rates } })
})
