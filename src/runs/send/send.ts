import { shownNumber } from '@/core/document'
import { fillLetter } from '@/core/letter'
import { type AnyContent, fieldValues, isStatement, keyOf, letterOf, readContent } from '@/kinds'
import { languagesFor, sayIn } from '@/layout/languages'
import { usualLeaving } from '@/layout/leaving'
import { word } from '@/layout/words'
import { composeMessage, messageIdFor, type RawMessage } from '@/post/compose'
import { askToRead, outdatedWords } from '@/runs/drafts/handMessage'
import { companionBytes } from '@/runs/files/companionFiles'
import { typeOf } from '@/runs/files/companions'
import { lockedFile, lockedOf, passwordFor } from '@/runs/files/lock'
import { pdfOf } from '@/runs/files/pdfOf'
import { choiceOf } from '@/runs/statements/choice'
import { type Books, inOneStep } from '@/store/books'
import { readCompany } from '@/store/company'
import type { Desk } from '@/store/events'
import { filesOfItems } from '@/store/ledger'
import { companionsOf } from '@/store/made'
import { addMessage, copiesOf, type Outgoing, toWrite } from '@/store/messages'
import { readSettings } from '@/store/settings'
import { letterFor } from './letterFor'

/** Address that messages come from. */
export const senderOf = (books: Books): string => readSettings(books).mail.sender || readCompany(books)?.email || ''

/**
 * Writes the message of every made document that has an address and none yet. One step.
 * @returns how many, and why others wait: their PDFs are to be locked, and there is no password. One that names what is otherwise by now is held to be read
 */
export function writeMessages(books: Books, desk: Desk, runId: number): { written: number; hindered: string[] } {
	return inOneStep(books, () => {
		const sender = senderOf(books)
		const { replyTo, bcc } = readSettings(books).mail
		const copies = choiceOf(books, runId)?.copies === true
		const { leaving } = readSettings(books)
		const hindered: string[] = []
		let unread = 0
		const documents = toWrite(books, runId)
		const letters = new Map<string, { subject: string; body: string }>()
		for (const { id, content: text, email, cc, file_sha256, own_subject, own_body, own_said, ...of } of documents) {
			const content = readContent(text)
			const own = { subject: own_subject ?? '', body: own_body ?? '', said: own_said ?? '' }
			if (outdatedWords(own, content) !== '') {
				unread++
				askToRead(books, desk, id)
				continue
			}
			const customer = { id: of.customer_id, name: of.customer_name, lock: of.lock }
			const password = passwordFor(books, customer, content)
			if (password && !password.ok) {
				hindered.push(password.why)
				continue
			}
			const locked = password !== null
			const { attached } = leaving[keyOf(content)] ?? usualLeaving
			const letter = letters.get(letterOf(content)) ?? letterFor(books, letterOf(content))
			letters.set(letterOf(content), letter)
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
						? of.companions
								.split(',')
								.filter((format) => format !== 'locked')
								.sort()
								.join()
						: '',
			})
		}
		return { written: documents.length - hindered.length - unread, hindered }
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

/**
 * The exact bytes of a message; the file in it is checked against its recorded hash on the way.
 * @throws Error where a file is not the recorded one, or is to be locked and is not
 */
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
	const beside = (locked ? [] : companionsOf(books, message.document_id)).filter(({ format }) =>
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
				beside.map(async (file) => ({ ...(await companionBytes(books, file)), type: typeOf(file.format) })),
			)),
		],
	})
}

/** A message as it was at an attempt: locked as then, and to whom it went then, where it was addressed anew since. */
export function asItWent(
	message: Outgoing,
	{ recipient, locked, copy }: { recipient: string; locked: string; copy: string },
): Outgoing {
	if (copy !== '' || recipient === message.recipient) return { ...message, locked }
	const { number, file_sha256: fileSha256, sender } = message
	return { ...message, locked, recipient, message_id: messageIdFor({ number, fileSha256, recipient, sender }) }
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
