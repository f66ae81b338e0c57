'use server'
import { z } from 'zod'
import { readLeasts } from '@/core/leasts'
import { numberings } from '@/core/numbering'
import { no } from '@/core/outcome'
import { statementChoiceSchema } from '@/core/statement'
import { closeRun, giveRunBack, reportSourceTotal } from '@/runs/bench/close'
import { askStep, haltStep, resumeStep, startRun } from '@/runs/bench/steps'
import { orderDrafts } from '@/runs/issue/number'
import { startStatements } from '@/runs/statements/start'
import { homeCurrency } from '@/store/company'
import { act, asObject, id, refused } from './seam'

export const beginRun = act(
	z.tuple([z.string(), z.string(), z.array(id).max(100_000)]),
	({ books, desk }, upTo, documentDay, only) => startRun(books, desk, upTo, documentDay, only),
	true,
)
export const beginStatements = act(
	z.tuple([z.instanceof(FormData)]),
	({ books, desk }, form) => {
		const fields = asObject(form)
		const least = readLeasts(String(fields.least ?? ''), homeCurrency(books))
		if (!least.ok) return no(`Least worth a letter: ${least.refusal.message}`)
		const parsed = statementChoiceSchema.safeParse({
			...fields,
			...least.value,
			hold: fields.hold === 'on',
			copies: fields.copies === 'on',
			charges: fields.charges === 'on',
			customers: form.getAll('customers').map(Number),
		})
		return parsed.success ? startStatements(books, desk, parsed.data, fields.ahead === 'sure') : refused(parsed.error)
	},
	true,
)
export const goOn = act(
	z.tuple([id, z.enum(['number', 'make', 'send']), z.number().int(), z.number().int().min(0)]),
	({ books, desk }, runId, step, expected, seen) => askStep(books, desk, runId, step, expected, seen),
)
export const halt = act(z.tuple([id, z.enum(['stop', 'pause'])]), ({ books, desk }, runId, how) =>
	haltStep(books, desk, runId, how),
)
export const resume = act(z.tuple([id]), ({ books, desk }, runId) => resumeStep(books, desk, runId))
export const orderBy = act(z.tuple([id, z.enum(numberings)]), ({ books, desk }, runId, by) =>
	orderDrafts(books, desk, runId, by),
)
export const close = act(z.tuple([id]), ({ books, desk }, runId) => closeRun(books, desk, runId))
export const giveBack = act(z.tuple([id]), ({ books, desk }, runId) => giveRunBack(books, desk, runId))
export const sourceTotal = act(
	z.tuple([id, z.string().length(3), z.string()]),
	({ books, desk }, runId, currency, text) => reportSourceTotal(books, desk, runId, currency, text),
)
