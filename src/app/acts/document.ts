'use server'
import { z } from 'zod'
import type { Outcome } from '@/core/outcome'
import { changeDraft, changeSchema } from '@/runs/drafts/change'
import { divideDraft, divideSchema } from '@/runs/drafts/divide'
import { onSeen } from '@/runs/drafts/meanwhile'
import { mergeDrafts, mergeSchema } from '@/runs/drafts/merge'
import { undoChange } from '@/runs/drafts/undo'
import { creditSchema, startCredit } from '@/runs/issue/credit'
import { reviseDocument } from '@/runs/issue/revise'
import { voidDocument } from '@/runs/issue/void'
import { holdBack, looksRight, printed, releaseHeld } from '@/runs/recheck/hold'
import { holdToRead, ownMessageSchema, writeOwnMessage } from '@/runs/send/ownMessage'
import { actOnPost, postActs, postChoiceSchema } from '@/runs/send/postroom'
import { dropCharge, letStand, makeAllAnew, makeAnew } from '@/runs/statements/compare'
import { inOneStep } from '@/store/books'
import { type At, act, id } from './seam'

/** An act to a draft as it was seen; `schema` is what is said of it. */
const onDraft = <Wanted>(
	schema: z.ZodType<Wanted>,
	work: (at: At, documentId: number, wanted: Wanted) => Outcome,
	of: 'draft' | 'message' = 'draft',
) =>
	act(z.tuple([id, schema, z.number().int().min(0)]), (at, documentId, wanted, seen) =>
		onSeen(at.books, documentId, seen, () => work(at, documentId, wanted), of),
	)

export const hold = onDraft(z.string(), ({ books, desk }, documentId, reason) =>
	holdBack(books, desk, documentId, reason),
)
export const release = act(z.tuple([id]), ({ books, desk }, documentId) => releaseHeld(books, desk, documentId))
export const looked = act(z.tuple([id, z.boolean()]), ({ books, desk }, documentId, right) =>
	looksRight(books, desk, documentId, right),
)
export const change = onDraft(changeSchema, ({ books, desk }, documentId, wanted) =>
	changeDraft(books, desk, documentId, wanted),
)
export const divide = onDraft(divideSchema, ({ books, desk }, documentId, wanted) =>
	divideDraft(books, desk, documentId, wanted),
)
export const merge = onDraft(mergeSchema, ({ books, desk }, documentId, wanted) =>
	mergeDrafts(books, desk, documentId, wanted),
)
export const undo = onDraft(z.literal('latest'), ({ books, desk }, documentId) => undoChange(books, desk, documentId))
export const revise = act(
	z.tuple([id, changeSchema]),
	({ books, desk }, documentId, wanted) => reviseDocument(books, desk, documentId, wanted),
	true,
)
export const credit = act(
	z.tuple([id, creditSchema]),
	({ books, desk }, documentId, wanted) => startCredit(books, desk, documentId, wanted),
	true,
)
export const makeVoid = act(z.tuple([id, z.string()]), ({ books, desk }, documentId, reason) =>
	voidDocument(books, desk, documentId, reason),
)
export const markPrinted = act(z.tuple([z.array(id)]), ({ books, desk }, documentIds) =>
	inOneStep(books, () => {
		const outcomes = documentIds.map((one) => printed(books, desk, one))
		const refusals = outcomes.flatMap((one) => (one.ok ? [] : [one.message]))
		if (refusals.length === 0) return outcomes[0] ?? { ok: true }
		const more = refusals.length > 3 ? [`And ${refusals.length - 3} more.`] : []
		return { ok: false, message: [...refusals.slice(0, 3), ...more].join(' ') }
	}),
)
export const onPost = act(
	z.tuple([postChoiceSchema, z.enum(postActs), z.string().max(500)]),
	({ books, desk }, choice, what, words) => actOnPost(books, desk, choice, what, words),
)
export const chargeDropped = act(z.tuple([id]), ({ books, desk }, documentId) => dropCharge(books, desk, documentId))
export const writeMessage = onDraft(
	ownMessageSchema,
	({ books, desk }, documentId, wanted) => writeOwnMessage(books, desk, documentId, wanted),
	'message',
)
export const holdMessageOf = onDraft(
	z.boolean(),
	({ books, desk }, documentId, held) => holdToRead(books, desk, documentId, held),
	'message',
)
export const anew = act(z.tuple([id]), ({ books, desk }, documentId) => makeAnew(books, desk, documentId))
export const allAnew = act(z.tuple([id]), ({ books, desk }, runId) => makeAllAnew(books, desk, runId))
export const stand = act(z.tuple([id, z.string()]), ({ books, desk }, documentId, reason) =>
	letStand(books, desk, documentId, reason),
)
