import { no, type Outcome } from '@/core/outcome'
import { isBill } from '@/kinds'
import { lookingAt, recheckOtherDrafts } from '@/runs/drafts/redraft'
import { postedAsItIs } from '@/runs/statements/beforeSending'
import { type Books, inOneStep } from '@/store/books'
import { noteWent } from '@/store/chases'
import { readAnyDocument } from '@/store/documents'
import { hold, release, setLooked } from '@/store/drafts'
import { type Desk, record } from '@/store/events'
import { markPrinted } from '@/store/issued'
import { readRun } from '@/store/runs'
import { workDate } from '@/store/settings'

// What a clerk says of one document: hold it back, let it go, it looks right, it was printed.

/** Whether a document's run is open. */
function openAny(books: Books, documentId: number): Outcome {
	const document = readAnyDocument(books, documentId)
	if (!document) return no('There is no such document.')
	return readRun(books, document.run_id)?.state === 'open' ? { ok: true } : no('This run is not open.')
}

function checkOthers(books: Books, desk: Desk, documentId: number): void {
	const document = readAnyDocument(books, documentId)
	if (document && isBill(document.content)) recheckOtherDrafts(books, lookingAt(books, desk, document.run_id), document)
}

/** Keeps a document out of the numbering, with the reason. */
export function holdBack(books: Books, desk: Desk, documentId: number, reason: string): Outcome {
	const words = reason.trim()
	if (!words) return no('Say why it is held back; the tally shows the reason.')
	return inOneStep(books, (): Outcome => {
		const found = openAny(books, documentId)
		if (!found.ok) return found
		if (!hold(books, desk, documentId, words)) return no('It is numbered already and can no longer be held back.')
		checkOthers(books, desk, documentId)
		record(books, desk, {
			subject: 'document',
			id: documentId,
			act: 'held back',
			detail: `${nameOf(books, documentId)}: ${words}`,
		})
		return { ok: true }
	})
}

/** Lets a draft go on that was held back. */
export function releaseHeld(books: Books, desk: Desk, documentId: number): Outcome {
	return inOneStep(books, (): Outcome => {
		const found = openAny(books, documentId)
		if (!found.ok) return found
		const before = readAnyDocument(books, documentId)?.held_reason
		if (!release(books, documentId)) return no('It is not held back.')
		checkOthers(books, desk, documentId)
		record(books, desk, {
			subject: 'document',
			id: documentId,
			act: 'released',
			detail: `${nameOf(books, documentId)}, held back until now: ${before}`,
		})
		return { ok: true }
	})
}

/** Notes that a flagged document looks right, or takes the note back. */
export function looksRight(books: Books, desk: Desk, documentId: number, right: boolean): Outcome {
	return inOneStep(books, (): Outcome => {
		const found = openAny(books, documentId)
		if (!found.ok) return found
		if (!setLooked(books, desk, documentId, right)) return no('Only a document that asks for a look can be looked at.')
		record(books, desk, {
			subject: 'document',
			id: documentId,
			act: right ? 'looked right' : 'to be looked at again',
			detail: nameOf(books, documentId),
			after: { looked: right },
		})
		return { ok: true }
	})
}

/** Notes that a document without an address was printed and posted. */
export function printed(books: Books, desk: Desk, documentId: number): Outcome {
	return inOneStep(books, () => {
		const row = readAnyDocument(books, documentId)
		if (!row?.made_at || row.printed_at) return no('It has no PDF yet, or was noted as printed before.')
		const asItIs = postedAsItIs(books, desk, row)
		if (!asItIs.ok) return asItIs
		markPrinted(books, desk, documentId)
		noteWent(books, documentId, workDate(books, desk.now().slice(0, 10)))
		record(books, desk, {
			subject: 'document',
			id: documentId,
			act: 'printed and posted',
			detail: nameOf(books, documentId),
		})
		return { ok: true }
	})
}

/** How the record names a document: its number once it has one, and its customer. */
function nameOf(books: Books, documentId: number): string {
	const document = readAnyDocument(books, documentId)
	return [document?.number, document?.customer_name].filter(Boolean).join(' ')
}
