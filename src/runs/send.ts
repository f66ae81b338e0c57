import { addresses } from '@/core/addresses'
import { shownNumber } from '@/core/document'
import { fillLetter } from '@/core/letter'
import { type AnyContent, fieldValues, firstLetters, isStatement, keyOf, letterOf, readContent } from '@/kinds'
import { firstPaperLetter } from '@/kinds/paper'
import { languagesFor, sayIn } from '@/layout/languages'
import { usualLeaving } from '@/layout/leaving'
import { word } from '@/layout/words'
import { composeMessage, messageIdFor, type RawMessage } from '@/post/compose'
import type { MailLine } from '@/post/smtp'
import { type Books, inOneStep } from '@/store/books'
import { readCompany } from '@/store/company'
import { readCustomer } from '@/store/customers'
import { type Desk, record } from '@/store/events'
import { filesOfItems } from '@/store/ledger'
import { filesBeside } from '@/store/made'
import {
	type AttemptOutcome,
	addAttempt,
	addMessage,
	copiesOf,
	leftSending,
	type MessageState,
	move,
	type Outgoing,
	readLetter,
	toWrite,
	waitingMessages,
} from '@/store/messages'
import { paperKindOf } from '@/store/paperKinds'
import { readSettings } from '@/store/settings'
import { besideTypes } from './beside'
import { besideBytes } from './besideFiles'
import { LockFault, lockedFile, lockedOf, lockForSending, passwordFor } from './lock'
import { pdfOf } from './pdfOf'
import { choiceOf } from './statements'

/** Address that messages come from. */
export const senderOf = (books: Books): string => readSettings(books).mail.sender || readCompany(books)?.email || ''

const firstOfOwn = (books: Books, kind: string) => {
	const own = paperKindOf(books, kind)
	return own && firstPaperLetter(own)
}

/** The letter that goes with a kind of document: the firm's own, else the first one. */
export const letterFor = (books: Books, kind: string): { subject: string; body: string } =>
	readLetter(books, kind) ?? firstLetters[kind] ?? firstOfOwn(books, kind) ?? { subject: '', body: '' }

/**
 * Writes the message of every made document that has an address and none yet. One step.
 * @returns how many, and why others wait: their PDFs are to be locked, and there is no password
 */
export function writeMessages(books: Books, desk: Desk, runId: number): { written: number; hindered: string[] } {
	return inOneStep(books, () => {
		const sender = senderOf(books)
		const { replyTo, bcc } = readSettings(books).mail
		const copies = choiceOf(books, runId)?.copies === true
		const { leaving } = readSettings(books)
		const hindered: string[] = []
		const documents = toWrite(books, runId)
		for (const { id, content: text, email, cc, file_sha256, own_subject, own_body, customer_id } of documents) {
			const content = readContent(text)
			const customer = readCustomer(books, customer_id)
			const password = customer && passwordFor(books, customer, content)
			if (password && !password.ok) {
				hindered.push(password.why)
				continue
			}
			const locked = password !== null
			const { attached } = leaving[keyOf(content)] ?? usualLeaving
			const letter = letterFor(books, letterOf(content))
			const values = fieldValues(content)
			addMessage(books, {
				document_id: id,
				run_id: runId,
				sender,
				sender_name: content.issuer.name,
				recipient: email,
				message_id: messageIdFor({ number: shownNumber(content), fileSha256: file_sha256, recipient: email, sender }),
				subject: own_subject ?? fillLetter(letter.subject, values),
				body: withLockWords(own_body ?? fillLetter(letter.body, values), locked, content),
				written_at: desk.now(),
				cc,
				bcc,
				reply_to: replyTo,
				copies: JSON.stringify(copies ? lateInvoices(books, content) : []),
				locked: locked ? '{}' : '',
				// What goes beside a locked PDF would say the same unlocked: it is filed alone.
				beside:
					attached && !locked
						? [...new Set(filesBeside(books, id).map(({ format }) => format))]
								.filter((format) => format !== 'locked')
								.join()
						: '',
			})
		}
		return { written: documents.length - hindered.length, hindered }
	})
}

/** The letter says that the PDF is locked, never with what. */
const withLockWords = (body: string, locked: boolean, content: AnyContent): string =>
	locked ? `${body.trimEnd()}\n\n${sayIn(word('The PDF opens with your password.'), languagesFor(content))}\n` : body

/** The invoices issued here that are past due on a statement and have their file. */
export const lateInvoices = (books: Books, content: AnyContent): number[] =>
	isStatement(content)
		? filesOfItems(
				books,
				content.items.filter(({ pastDue }) => pastDue).map(({ id }) => id),
			)
		: []

/** The exact bytes of a message; the file in it is checked against its recorded hash on the way. */
export async function rawOf(books: Books, message: Outgoing): Promise<RawMessage> {
	const locked = lockedOf(message)
	const paper = await pdfOf(books, message.document_id)
	if (!paper || paper.sha256 !== message.file_sha256)
		throw new Error(`The file of ${message.number} is not the recorded one.`)
	const papers = await Promise.all(
		[message.document_id, ...copiesOf(books, message).map(({ id }) => id)].map(async (id) => {
			const sha256 = locked?.[id]
			if (!locked) return id === message.document_id ? paper : pdfOf(books, id)
			if (sha256 === undefined) throw new Error(`The PDF of ${message.number} is to be locked, and is not yet.`)
			return lockedFile(books, id, sha256)
		}),
	)
	const beside = (locked ? [] : filesBeside(books, message.document_id)).filter(({ format }) =>
		message.beside.split(',').includes(format),
	)
	return composeMessage({
		cc: message.cc,
		replyTo: message.reply_to,
		messageId: message.message_id,
		sender: message.sender,
		senderName: message.sender_name,
		recipient: message.recipient,
		subject: message.subject,
		body: message.body,
		writtenAt: message.written_at,
		files: [
			...papers.flatMap((file) => (file ? [{ name: file.name, bytes: file.bytes, type: 'application/pdf' }] : [])),
			...(await Promise.all(
				beside.map(async (file) => ({ ...(await besideBytes(books, file)), type: besideTypes[file.format] })),
			)),
		],
	})
}

/** A message as it was sent, put together again; null with why where a part of it is lost. */
export async function rawAgain(
	books: Books,
	message: Outgoing,
): Promise<RawMessage | { raw: null; sha256: ''; why: string }> {
	try {
		return await rawOf(books, message)
	} catch (error) {
		return { raw: null, sha256: '', why: error instanceof Error ? error.message : String(error) }
	}
}

export type SendResult = { handled: boolean; away: string | null }

/**
 * Sends the waiting messages of a run, `lines` at a time, until none is left, the server is away, or `stopping` says so.
 * A message is `sending` in the books before its first byte leaves, and has its line in the sent log with its outcome.
 */
export async function sendWaiting(
	books: Books,
	desk: Desk,
	runId: number,
	lines: MailLine[],
	practice: boolean,
	progress: () => boolean,
): Promise<SendResult> {
	const state: { away: string | null; stopped: boolean } = { away: null, stopped: false }
	const queue: Outgoing[] = []
	const taken = new Set<number>()
	const next = (): Outgoing | undefined => {
		if (queue.length === 0) queue.push(...waitingMessages(books, runId, 200).filter(({ id }) => !taken.has(id)))
		const message = queue.shift()
		if (message) taken.add(message.id)
		return message
	}
	await Promise.all(
		lines.map(async (line) => {
			while (!state.away && !state.stopped) {
				const message = next()
				if (!message) break
				const away = await sendOne(books, desk, message, line, practice)
				if (away) state.away = away
				if (!progress()) state.stopped = true
			}
		}),
	)
	return { handled: !state.away && !state.stopped, away: state.away }
}

/** A message with what it needs locked; one that cannot be is refused with the reason, so that it holds no other up. */
async function readyToLeave(
	books: Books,
	desk: Desk,
	waiting: Outgoing,
	along: readonly number[],
): Promise<Outgoing | null> {
	try {
		return await lockForSending(books, desk, waiting, along)
	} catch (error) {
		if (!(error instanceof LockFault)) throw error
		move(books, waiting.id, 'waiting', 'refused', error.message)
		return null
	}
}

async function sendOne(
	books: Books,
	desk: Desk,
	waiting: Outgoing,
	line: MailLine,
	practice: boolean,
): Promise<string | null> {
	const along = copiesOf(books, waiting).map(({ id }) => id)
	const message = await readyToLeave(books, desk, waiting, along)
	if (!message) return null
	const { raw, sha256 } = await rawOf(books, message)
	if (!move(books, message.id, 'waiting', 'sending')) return null
	const { outcome, answer } = await line.send(
		{ from: message.sender, to: [message.recipient, ...addresses(message.cc), ...addresses(message.bcc)] },
		raw,
	)
	if (outcome === 'away') {
		note(books, desk, message, 'waiting', 'not sent', sha256, answer, practice)
		return answer
	}
	note(books, desk, message, outcome, outcome, sha256, answer, practice)
	return null
}

function note(
	books: Books,
	desk: Desk,
	message: Outgoing,
	state: MessageState,
	outcome: AttemptOutcome,
	rawSha256: string,
	answer: string,
	practice: boolean,
): void {
	inOneStep(books, () => {
		move(books, message.id, 'sending', state, answer)
		addAttempt(books, desk, {
			message_id: message.id,
			recipient: message.recipient,
			subject: message.subject,
			file_name: message.file_name,
			file_sha256: message.file_sha256,
			raw_sha256: rawSha256,
			outcome,
			answer,
			practice: practice ? 1 : 0,
			locked: message.locked,
		})
	})
}

/** Messages that were being sent when the runner died may have arrived: they wait for a person to decide. */
export async function settleLeftSending(books: Books, desk: Desk): Promise<number> {
	const left = leftSending(books)
	const practice = readSettings(books).mail.mode === 'practice'
	for (const message of left) {
		// With a part of it lost it cannot be put together; that it may have arrived is said all the same.
		const { sha256 } = await rawAgain(books, message)
		note(
			books,
			desk,
			message,
			'unsure',
			'unsure',
			sha256,
			'The runner ended while this message was on its way; it may have arrived.',
			practice,
		)
	}
	return left.length
}

/** A person's decision on a message that was refused or is unsure: try again, or take it as sent. */
export function decideMessage(books: Books, desk: Desk, message: Outgoing, decision: 'again' | 'sent'): boolean {
	return inOneStep(books, () => {
		if (message.state !== 'refused' && message.state !== 'unsure') return false
		if (decision === 'sent' && message.state !== 'unsure') return false
		const words = decision === 'again' ? 'to be sent again' : 'taken as sent'
		const moved = move(
			books,
			message.id,
			message.state,
			decision === 'again' ? 'waiting' : 'sent',
			`${message.last_answer} (${words} by ${desk.clerk})`,
		)
		if (moved)
			record(books, desk, {
				subject: 'message',
				id: message.id,
				act: words,
				detail: `${message.number} to ${message.recipient}`,
			})
		return moved
	})
}
