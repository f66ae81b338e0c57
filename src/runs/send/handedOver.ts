import { addresses } from '@/core/addresses'
import { type RetryRule, retryAt } from '@/core/retry'
import type { Handover } from '@/post/smtp'
import type { Books } from '@/store/books'
import { noteWent } from '@/store/chases'
import type { Desk } from '@/store/events'
import { type AttemptOutcome, addAttempt, move, type Outgoing, setDue } from '@/store/messages'
import { type Copy, copiesOfMessage, saveCopy } from '@/store/postroom'
import { workDate } from '@/store/settings'

// What came of a message that was handed over, in the books: where it stands now, when it is tried again, and its line in the sent log.

/** What was handed over: a message with its copies, or a copy alone; and the hash of its bytes. */
export type HandedOver = { message: Outgoing; copy: Copy | null; sha256: string }
export type NoteHow = { practice: boolean; retry: RetryRule }

const attemptOutcomes: Record<Handover['outcome'], AttemptOutcome> = {
	...{ sent: 'sent', refused: 'refused', later: 'not sent', away: 'not sent', crowded: 'not sent', unsure: 'unsure' },
}

/** Notes what came of handing a parcel over: where it stands now, and a line in the sent log. */
export function note(
	books: Books,
	desk: Desk,
	{ message, copy, sha256 }: HandedOver,
	handed: Handover,
	{ practice, retry }: NoteHow,
): void {
	const { outcome, answer, said } = handed
	addAttempt(books, desk, {
		message_id: message.id,
		recipient: copy?.address ?? message.recipient,
		subject: message.subject,
		file_name: message.file_name,
		file_sha256: message.file_sha256,
		raw_sha256: sha256,
		outcome: attemptOutcomes[outcome],
		answer,
		practice: practice ? 1 : 0,
		locked: message.locked,
		said: JSON.stringify(said),
		copy: copy?.address ?? '',
	})
	if (copy) noteCopy(books, desk, message, copy, handed, retry)
	else noteMessage(books, desk, message, handed, retry)
}

/** What follows from a message having reached its customer, whether the server or a person says so. @returns false where it stands otherwise by now */
export function arrived(
	books: Books,
	desk: Desk,
	{ id, document_id }: Pick<Outgoing, 'id' | 'document_id'>,
	from: 'sending' | 'unsure',
	answer: string,
): boolean {
	if (!move(books, id, from, 'sent', answer)) return false
	setDue(books, id, { dueAt: null, tries: 0, since: null })
	noteWent(books, document_id, workDate(books, desk.now().slice(0, 10)))
	return true
}

function noteMessage(
	books: Books,
	desk: Desk,
	message: Outgoing,
	{ outcome, answer, said }: Handover,
	retry: RetryRule,
): void {
	if (outcome === 'later') {
		const since = message.tried_since ?? desk.now()
		const dueAt = retryAt(retry, message.tries, since, desk.now())
		if (dueAt === null) {
			const words = `${answer} (tried ${message.tries + 1} times since ${since.slice(0, 16).replace('T', ' ')}; no longer tried by itself)`
			move(books, message.id, 'sending', 'refused', words)
		} else move(books, message.id, 'sending', 'waiting', answer)
		setDue(books, message.id, { dueAt, tries: message.tries + 1, since })
		return
	}
	if (outcome === 'away' || outcome === 'crowded') {
		move(books, message.id, 'sending', 'waiting', answer)
		// One that is tried by itself is tried again later, else it would be at once.
		if (message.due_at !== null) {
			const since = message.tried_since ?? desk.now()
			const dueAt = retryAt(retry, message.tries, since, desk.now())
			setDue(books, message.id, { dueAt, tries: message.tries + 1, since })
		}
		return
	}
	if (outcome !== 'sent') {
		move(books, message.id, 'sending', outcome, answer)
		setDue(books, message.id, { dueAt: null, tries: 0, since: null })
		return
	}
	arrived(books, desk, message, 'sending', answer)
	const open = new Set(addresses(message.cc))
	for (const { address, code, answer: words } of said.slice(1)) {
		const saved: Copy = {
			...{ message_id: message.id, address, role: open.has(address) ? 'cc' : 'bcc', tries: 0 },
			...{ state: code < 300 ? 'sent' : code < 500 ? 'waiting' : 'refused', answer: words },
		}
		saveCopy(books, saved)
		if (saved.state === 'waiting') copyLater(books, desk, message, saved, retry)
	}
}

/** A copy that the server put off is tried again by itself, by the same rule. */
function copyLater(books: Books, desk: Desk, message: Outgoing, copy: Copy, retry: RetryRule): void {
	const since = message.tried_since ?? desk.now()
	const dueAt = retryAt(retry, copy.tries, since, desk.now())
	saveCopy(books, { ...copy, tries: copy.tries + 1, state: dueAt === null ? 'refused' : 'waiting' })
	if (dueAt !== null) setDue(books, message.id, { dueAt, tries: 0, since })
}

function noteCopy(
	books: Books,
	desk: Desk,
	message: Outgoing,
	copy: Copy,
	{ outcome, answer }: Handover,
	retry: RetryRule,
): void {
	const state = outcome === 'away' || outcome === 'crowded' || outcome === 'later' ? 'waiting' : outcome
	const saved: Copy = { ...copy, state, answer }
	saveCopy(books, saved)
	if (state === 'waiting') copyLater(books, desk, message, saved, retry)
	else if (!copiesOfMessage(books, message.id).some((one) => one.state === 'waiting'))
		setDue(books, message.id, { dueAt: null, tries: 0, since: null })
}
