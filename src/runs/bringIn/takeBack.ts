import { no, type Outcome } from '@/core/outcome'
import { type Books, inOneStep } from '@/store/books'
import { type Desk, record } from '@/store/events'
import { extractOfFile } from '@/store/extracts'
import { markTakenBack, readFile, takeAcceptancesBack } from '@/store/files'
import { clearTakenBack, holdOrder, putAway, standingOfFile } from '@/store/orderIntake'
import { readOrder } from '@/store/orders'
import { takeExtractBack, whyNotExtractBack } from '../extract/takeBack'

type Back = { ok: true; words: string } | { ok: false; message: string }

/** Why an accepted file cannot be taken back; null where it can: orders while none of them stands in a run, an extract while nothing was built on it. */
export function whyNotBack(books: Books, fileId: number): string | null {
	const file = readFile(books, fileId)
	if (file?.state !== 'accepted') return 'Nothing of this file is in the books.'
	if (file.kind === 'open items') return whyNotExtractBack(books, fileId)
	if (file.kind !== 'orders')
		return `A file of ${file.kind} is not taken back as a whole; bring in one that says it otherwise.`
	const { in_run, billed, runs } = standingOfFile(books, fileId)
	if (billed > 0) return `${billed} of its orders are billed. Correct those invoices; the file stays.`
	if (in_run > 0) return `${in_run} of its orders stand in run ${runs}. Give that run back first.`
	return null
}

/** Takes a whole accepted file back: its orders count no more, all at once. */
export async function takeFileBack(books: Books, desk: Desk, fileId: number, reason: string): Promise<Back> {
	const begun = inOneStep(books, (): Back => {
		const why = whyNotBack(books, fileId)
		if (why) return { ok: false, message: why }
		const extract = extractOfFile(books, fileId)
		const words = extract
			? takeExtractBack(books, desk, extract, reason)
			: `${standingOfFile(books, fileId).waits} orders were taken back: ${reason}.`
		takeAcceptancesBack(books, desk, fileId, reason)
		markTakenBack(books, fileId, words)
		record(books, desk, { subject: 'file', id: fileId, act: 'took the file back', detail: words })
		return { ok: true, words }
	})
	// Torn before this, or in it, the rest is cleared when it is done again; none of them counts any more.
	const again = readFile(books, fileId)?.state === 'taken back'
	if (!begun.ok && !again) return begun
	while (inOneStep(books, () => clearTakenBack(books, desk, fileId, reason, 500)) > 0)
		await new Promise((resolve) => setTimeout(resolve, 1))
	return begun.ok ? begun : { ok: true, words: readFile(books, fileId)?.result ?? '' }
}

/** Withdraws one waiting order, with why: it counts no more. */
export function withdrawOrder(books: Books, desk: Desk, orderId: number, reason: string): Outcome {
	return inOneStep(books, (): Outcome => {
		const order = readOrder(books, orderId)
		if (!order || order.away_how) return no('This order is no longer here.')
		if (reason.trim() === '') return no('Say why it is withdrawn.')
		if (order.billed) return no('It is billed. Correct its invoice.')
		if (order.run_id !== null) return no(`It stands in run ${order.run_id}. Give it back there first.`)
		return putAway(books, desk, orderId, 'withdrawn', reason.trim())
			? { ok: true }
			: no('It was taken up by a run just now. Look again.')
	})
}

/** Holds a waiting order back from runs, with why; or lets it go in again. */
export function holdWaiting(books: Books, desk: Desk, orderId: number, reason: string | null): Outcome {
	return inOneStep(books, (): Outcome => {
		if (reason !== null && reason.trim() === '') return no('Say why it is held back.')
		return holdOrder(books, desk, orderId, reason?.trim() ?? null)
			? { ok: true }
			: no('It waits no more: a run has taken it up, or it was withdrawn.')
	})
}
