'use server'
import { z } from 'zod'
import { no } from '@/core/outcome'
import { paperBases, paperKindSchema, paperSources } from '@/core/paperKind'
import { orderFormSchema } from '@/intake/orderForm'
import { isKindName } from '@/kinds'
import { acceptPaper } from '@/runs/papers/accept'
import { takeColumns } from '@/runs/papers/columns'
import { startPapers } from '@/runs/papers/gather'
import { fileOnly, issueOne } from '@/runs/papers/issue'
import { setKeeping, takeFilesAway } from '@/runs/papers/keep'
import { bringKindBack, changeKind, makeKind, takeKindAway } from '@/runs/papers/kinds'
import { dropPaper, makeOfOrder, makeOne } from '@/runs/papers/one'
import { withdraw, writeRecord } from '@/runs/papers/write'
import { askFor } from '@/store/jobs'
import { readRun } from '@/store/runs'
import { today } from '../books'
import { act, formed, id } from './seam'

const years = z
	.string()
	.trim()
	.regex(/^([1-9]\d?|100)?$/, 'Years are 1 to 100, or nothing for good.')
const languages = ['en', 'de', 'fr', 'es', 'nb', 'nl'] as const

/** The fields of the form of a kind. */
const kindFields = (fields: Record<string, FormDataEntryValue>) => ({
	name: fields.name,
	several: fields.several,
	names: Object.fromEntries(
		languages.flatMap((language) => {
			const name = String(fields[`name-${language}`] ?? '').trim()
			return name === '' ? [] : [[language, name]]
		}),
	),
	numbered: fields.numbered === 'on',
	stands: String(fields.stands ?? '').trim() === '' ? null : Number(fields.stands),
	becomesOrder: fields.becomesOrder === 'on',
	...(fields.each === undefined ? {} : { each: fields.each }),
})

export const newPaperKind = formed(
	z.object({ base: z.enum(paperBases), records: z.enum(paperSources), body: paperKindSchema }),
	({ books, desk }, { base, records, body }) => makeKind(books, desk, base, records, body),
	(fields) => ({ base: fields.base, records: fields.records, body: kindFields(fields) }),
)
export const setPaperKind = formed(
	z.object({ kind: id, seen: z.string(), body: paperKindSchema }),
	({ books, desk }, { kind, seen, body }) => changeKind(books, desk, kind, body, seen),
	(fields) => ({ kind: Number(fields.kind), seen: fields.seen, body: kindFields(fields) }),
)
export const kindAway = act(z.tuple([id, z.string()]), ({ books, desk }, kind, reason) =>
	takeKindAway(books, desk, kind, reason),
)
export const kindBack = act(z.tuple([id]), ({ books, desk }, kind) => bringKindBack(books, desk, kind))

export const saveRecord = act(z.tuple([id, orderFormSchema]), ({ books, desk }, kind, form) =>
	writeRecord(books, desk, kind, form, today()),
)
export const withdrawPaperRecord = act(z.tuple([id, z.string()]), ({ books, desk }, record, reason) =>
	withdraw(books, desk, record, reason),
)
export const beginPapers = act(
	z.tuple([id, z.string(), z.string()]),
	({ books, desk }, kind, upTo, day) => startPapers(books, desk, kind, upTo, day),
	true,
)

const again = z.enum(['replace', 'both']).nullable()
export const paperOfOrder = act(
	z.tuple([id, id, again]),
	({ books, desk }, kind, order, how) => makeOfOrder(books, desk, kind, order, how, today()),
	true,
)
export const paperOfRecord = act(
	z.tuple([id, again]),
	({ books, desk }, record, how) => makeOne(books, desk, record, how, today()),
	true,
)
export const dropPaperDraft = act(z.tuple([id, id, z.string()]), ({ books, desk }, document, record, reason) =>
	dropPaper(books, desk, document, record, reason),
)
export const issuePaper = act(z.tuple([id, z.enum(['send', 'file'])]), ({ books, desk }, document, how) =>
	issueOne(books, desk, document, how),
)
export const fileOrSend = act(z.tuple([id, z.boolean()]), ({ books, desk }, document, only) =>
	fileOnly(books, desk, document, only),
)
export const acceptLines = act(
	z.tuple([
		id,
		z.object({
			lines: z.array(z.number().int().min(0)).max(5000),
			number: z.string().trim().max(40, 'An order’s number has up to 40 letters.'),
			reason: z.string().max(500),
		}),
	]),
	({ books, desk }, document, given) => acceptPaper(books, desk, document, { ...given, day: today() }),
)

export const columnsTaken = act(
	z.tuple([
		id,
		z
			.array(
				z.object({
					place: z.number().int().min(0),
					of: z.enum(['sheet', 'row', 'none']),
					type: z.enum(['text', 'number', 'day']),
				}),
			)
			.max(200),
	]),
	({ books, desk }, file, columns) => takeColumns(books, desk, file, columns),
)

export const printTrial = act(z.tuple([id]), ({ books, desk }, run) => {
	if (!readRun(books, run)) return no('There is no such run.')
	return askFor(books, desk, { kind: 'trial print', run }) === null
		? no('Another step of this run is still going.')
		: { ok: true }
})
export const keepFor = formed(
	z.object({
		trialDays: z.coerce
			.number()
			.int()
			.min(1, 'Trial prints are kept for a day or more.')
			.max(365, 'Trial prints are kept for a year at most.'),
		years: z.record(z.string().refine(isKindName), years),
	}),
	({ books, desk }, { trialDays, years: many }) =>
		setKeeping(
			books,
			desk,
			trialDays,
			Object.fromEntries(Object.entries(many).map(([kind, text]) => [kind, text === '' ? null : Number(text)])),
		),
	(fields) => ({
		trialDays: fields.trialDays,
		years: Object.fromEntries(
			Object.entries(fields).flatMap(([name, value]) => (name.startsWith('years ') ? [[name.slice(6), value]] : [])),
		),
	}),
)
export const filesAway = act(
	z.tuple([z.string().refine(isKindName), z.number().int(), z.string()]),
	({ books, desk }, kind, expected, reason) =>
		isKindName(kind)
			? takeFilesAway(books, desk, kind, today(), expected, reason)
			: { ok: false, message: 'There is no such kind of paper.' },
)
