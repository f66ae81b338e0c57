import { z } from 'zod'
import { type Books, inOneStep } from '@/store/books'
import { readAnyDocument } from '@/store/documents'
import { type Desk, record } from '@/store/events'
import { holdMessage } from '@/store/issued'
import { messageOfDocument, saveOwnMessage } from '@/store/messages'
import type { Outcome } from './outcome'

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
		saveOwnMessage(books, desk, documentId, subject, body)
		record(books, desk, { subject: 'document', id: documentId, act: 'wrote its message', detail: subject })
		return { ok: true }
	})
}

/** Holds the message of a document to be read before it goes, or lets it go. */
export function holdToRead(books: Books, desk: Desk, documentId: number, held: boolean): Outcome {
	return inOneStep(books, () => {
		if (!holdMessage(books, documentId, held)) return gone
		const act = held ? 'held its message to be read' : 'read its message'
		record(books, desk, { subject: 'document', id: documentId, act })
		return { ok: true }
	})
}
