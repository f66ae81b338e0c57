'use server'
import { z } from 'zod'
import { changeDraft, changeSchema } from '@/runs/change'
import { creditSchema, startCredit } from '@/runs/credit'
import { divideDraft, divideSchema } from '@/runs/divide'
import { holdBack, looksRight, printed, releaseHeld } from '@/runs/hold'
import { mergeDrafts, mergeSchema } from '@/runs/merge'
import { holdToRead, ownMessageSchema, writeOwnMessage } from '@/runs/ownMessage'
import { actOnPost, postActs, postChoiceSchema } from '@/runs/postroom'
import { reviseDocument } from '@/runs/revise'
import { dropCharge } from '@/runs/statements'
import { undoChange } from '@/runs/undo'
import { voidDocument } from '@/runs/void'
import { inOneStep } from '@/store/books'
import { act, id } from './seam'

export const hold = act(z.tuple([id, z.string()]), ({ books, desk }, documentId, reason) =>
	holdBack(books, desk, documentId, reason),
)
export const release = act(z.tuple([id]), ({ books, desk }, documentId) => releaseHeld(books, desk, documentId))
export const looked = act(z.tuple([id, z.boolean()]), ({ books, desk }, documentId, right) =>
	looksRight(books, desk, documentId, right),
)
export const change = act(z.tuple([id, changeSchema]), ({ books, desk }, documentId, wanted) =>
	changeDraft(books, desk, documentId, wanted),
)
export const divide = act(z.tuple([id, divideSchema]), ({ books, desk }, documentId, wanted) =>
	divideDraft(books, desk, documentId, wanted),
)
export const merge = act(z.tuple([id, mergeSchema]), ({ books, desk }, documentId, wanted) =>
	mergeDrafts(books, desk, documentId, wanted),
)
export const undo = act(z.tuple([id]), ({ books, desk }, documentId) => undoChange(books, desk, documentId))
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
		return outcomes.find(({ ok }) => !ok) ?? outcomes[0] ?? { ok: true }
	}),
)
export const onPost = act(
	z.tuple([postChoiceSchema, z.enum(postActs), z.string().max(500)]),
	({ books, desk }, choice, what, words) => actOnPost(books, desk, choice, what, words),
)
export const chargeDropped = act(z.tuple([id]), ({ books, desk }, documentId) => dropCharge(books, desk, documentId))
export const writeMessage = act(z.tuple([id, ownMessageSchema]), ({ books, desk }, documentId, wanted) =>
	writeOwnMessage(books, desk, documentId, wanted),
)
export const holdMessageOf = act(z.tuple([id, z.boolean()]), ({ books, desk }, documentId, held) =>
	holdToRead(books, desk, documentId, held),
)
