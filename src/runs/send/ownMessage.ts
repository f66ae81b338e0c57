import { z } from 'zod'
import { fillLetter } from '@/core/letter'
import { no, type Outcome } from '@/core/outcome'
import { fieldValues, letterOf } from '@/kinds'
import { saidBy } from '@/runs/drafts/handMessage'
import { type Books, inOneStep } from '@/store/books'
import { readAnyDocument } from '@/store/documents'
import { standAsItIs } from '@/store/drafts'
import { type Desk, record } from '@/store/events'
import { holdMessage } from '@/store/issued'
import { messageOfDocument, ownMessage, saveOwnMessage } from '@/store/messages'
import { letterFor } from './letterFor'

const gone: Outcome = { ok: false, message: 'Its message is written already; it can no longer be changed.' }

export const ownMessageSchema = z.object({
	subject: z.string().trim().min(1, 'A message needs a subject.').max(200),
	body: z.string().trim().min(1, 'A message needs a text.').max(20_000),
})

/** Writes the message of one document anew, for this message only; the letter stays as it is. */
export function writeOwnMessage(
	books: Books,
	desk: Desk,
	documentId: number,
	{ subject, body }: z.infer<typeof ownMessageSchema>,
): Outcome {
	return inOneStep(books, () => {
		const document = readAnyDocument(books, documentId)
		if (!document || messageOfDocument(books, documentId)) return gone
		saveOwnMessage(books, desk, documentId, { subject, body, said: saidBy(document.content) })
		record(books, desk, { subject: 'document', id: documentId, act: 'wrote its message', detail: subject })
		return { ok: true }
	})
}

/**
 * Holds the message of a document to be read before it goes, or lets it go: as it was read, whatever becomes of its letter, and though its
 * account may be otherwise by now.
 */
export function holdToRead(books: Books, desk: Desk, documentId: number, held: boolean): Outcome {
	return inOneStep(books, (): Outcome => {
		const document = readAnyDocument(books, documentId)
		if (!document || messageOfDocument(books, documentId)) return gone
		if (!held && document.number === null) return no('It has no number yet. Read its message once it is numbered.')
		if (!held) {
			const letter = letterFor(books, letterOf(document.content))
			const values = fieldValues(document.content)
			const filled = { subject: fillLetter(letter.subject, values), body: fillLetter(letter.body, values) }
			const read = ownMessage(books, documentId) ?? filled
			saveOwnMessage(books, desk, documentId, { ...read, said: saidBy(document.content) })
		}
		if (!holdMessage(books, documentId, held)) return gone
		if (!held) standAsItIs(books, documentId)
		const act = held ? 'held its message to be read' : 'read its message'
		const detail = held || document.changed === '' ? '' : `and let it go, though ${document.changed}`
		record(books, desk, { subject: 'document', id: documentId, act, detail })
		return { ok: true }
	})
}
