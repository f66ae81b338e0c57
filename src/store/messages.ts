import { type Books, inOneStep } from './books'
import { type Desk, record } from './events'
import { likeOf } from './like'
import { stands } from './places'

export type MessageState = 'waiting' | 'sending' | 'sent' | 'refused' | 'unsure'
export type Message = {
	id: number
	document_id: number
	run_id: number
	message_id: string
	sender_name: string
	sender: string
	recipient: string
	subject: string
	body: string
	written_at: string
	state: MessageState
	last_answer: string
	/** Addresses with commas between; empty for none. */
	cc: string
	bcc: string
	reply_to: string
	/** Ids of documents whose files go along, as JSON. */
	copies: string
	/** Hashes of locked files by their documents, as JSON; empty where none is locked. */
	locked: string
	/** Formats that go along beside the PDF, with commas between. */
	beside: string
	/** When it is tried by itself; null where it goes with the step of its run. */
	due_at: string | null
	/** How often it was put off since `tried_since`. */
	tries: number
	tried_since: string | null
	/** Why a person keeps it back. */
	kept_back: string | null
}
/** What is given when a message is written; the rest is what becomes of it. */
type NewMessage = Omit<Message, 'id' | 'state' | 'last_answer' | 'due_at' | 'tries' | 'tried_since' | 'kept_back'>
export type Outgoing = Message & { file_name: string; file_sha256: string; number: string; customer_name: string }
type Letter = { kind: string; subject: string; body: string }
export type OwnMessage = {
	subject: string
	body: string
	at: string
	clerk: string
	/** What its paper said when it was written or read (its fields, as JSON); empty where that was not kept. */
	said: string
}

const messageColumns =
	'm.id, m.document_id, m.run_id, m.message_id, m.sender_name, m.sender, m.recipient, m.subject, m.body, m.written_at, m.state, m.last_answer, m.cc, m.bcc, m.reply_to, m.copies, m.locked, m.beside, m.due_at, m.tries, m.tried_since, m.kept_back'
export const outgoing = `${messageColumns}, d.file_name, d.file_sha256, d.number, d.customer_name`

/** The letter of a kind as the firm wrote it; null where it is the shipped one. */
export function readLetter({ sql }: Books, kind: string): Letter | null {
	return sql<[string], Letter>('SELECT kind, subject, body FROM letter WHERE kind = ?').get(kind) ?? null
}

/** Sets a letter, on record; the one before is kept among its versions. */
export function saveLetter(books: Books, desk: Desk, letter: Letter): void {
	inOneStep(books, () => {
		books
			.sql<[string, string, string]>(
				'INSERT INTO letter_version (kind, subject, body, at, clerk) SELECT kind, subject, body, ?, ? FROM letter WHERE kind = ?',
			)
			.run(desk.now(), desk.clerk, letter.kind)
		books
			.sql<[Letter]>(
				`INSERT INTO letter (kind, subject, body) VALUES (@kind, @subject, @body)
				 ON CONFLICT (kind) DO UPDATE SET subject = @subject, body = @body`,
			)
			.run(letter)
		record(books, desk, { subject: 'setting', id: `letter ${letter.kind}`, act: 'changed the letter', after: letter })
	})
}

type LetterVersion = { id: number; subject: string; body: string; at: string; clerk: string }

/** How a letter was before, the latest first; each with when and by whom it was replaced. */
export const letterVersions = ({ sql }: Books, kind: string): LetterVersion[] =>
	sql<[string], LetterVersion>(
		'SELECT id, subject, body, at, clerk FROM letter_version WHERE kind = ? ORDER BY id DESC LIMIT 50',
	).all(kind)

/** The message that a person wrote for one document. */
export const ownMessage = ({ sql }: Books, documentId: number): OwnMessage | null =>
	sql<[number], OwnMessage>('SELECT subject, body, at, clerk, said FROM own_message WHERE document_id = ?').get(
		documentId,
	) ?? null

/** Keeps the message of one document as a person wrote it, in place of the one before. */
export function saveOwnMessage(
	{ sql }: Books,
	desk: Desk,
	documentId: number,
	{ subject, body, said }: Pick<OwnMessage, 'subject' | 'body' | 'said'>,
): void {
	sql<[number, string, string, string, string, string]>(
		`INSERT INTO own_message (document_id, subject, body, at, clerk, said) VALUES (?, ?, ?, ?, ?, ?)
		 ON CONFLICT (document_id) DO UPDATE SET subject = excluded.subject, body = excluded.body, at = excluded.at, clerk = excluded.clerk,
			said = excluded.said`,
	).run(documentId, subject, body, desk.now(), desk.clerk, said)
}

type ToWrite = {
	id: number
	content: string
	email: string
	cc: string
	file_sha256: string
	own_subject: string | null
	own_body: string | null
	own_said: string | null
	customer_id: number
	customer_name: string
	/** How their PDFs are locked; empty for not. */
	lock: string
	/** Formats that were filed beside it, with commas between. */
	companions: string
}

/** Made documents of a run that have an address, no message yet, and none that is held. */
export const toWrite = ({ sql }: Books, runId: number): ToWrite[] =>
	sql<[number], ToWrite>(
		`SELECT d.id, c.content, d.email, k.cc, d.file_sha256, o.subject AS own_subject, o.body AS own_body, o.said AS own_said, k.id AS customer_id,
			k.name AS customer_name, k.lock,
			coalesce((SELECT group_concat(DISTINCT format) FROM document_file WHERE document_id = d.id), '') AS companions
		 FROM placed d JOIN document_content c ON c.document_id = d.id JOIN customer k ON k.id = d.customer_id
			LEFT JOIN own_message o ON o.document_id = d.id
		 WHERE d.run_id = ? AND d.place = 'made'
		 ORDER BY d.position`,
	).all(runId)

/** Enters a message that waits to be sent. */
export function addMessage({ sql }: Books, message: NewMessage): void {
	sql<[NewMessage]>(
		`INSERT INTO message (document_id, run_id, message_id, sender_name, sender, recipient, subject, body, written_at, state, cc, bcc, reply_to, copies, locked, beside)
		 VALUES (@document_id, @run_id, @message_id, @sender_name, @sender, @recipient, @subject, @body, @written_at, 'waiting', @cc, @bcc, @reply_to, @copies, @locked, @beside)`,
	).run(message)
}

/** Messages of a run that may leave, of those after one: what waits for its step, or what is due by itself at a time. */
export const waitingMessages = (
	{ sql }: Books,
	runId: number,
	most: number,
	due: string | null = null,
	after = 0,
): Outgoing[] =>
	sql<[{ runId: number; due: string | null; after: number; most: number }], Outgoing>(
		`SELECT ${outgoing} FROM message m JOIN placed d ON d.id = m.document_id
		 WHERE m.run_id = @runId AND m.state = 'waiting' AND m.kept_back IS NULL AND m.id > @after AND ${stands}
			AND CASE WHEN @due IS NULL THEN m.due_at IS NULL ELSE m.due_at <= @due END
		 ORDER BY m.id LIMIT @most`,
	).all({ runId, due, after, most })

/** A message that may leave this moment: it waits, is not kept back, and its document stands; null where not. */
export const mayLeave = ({ sql }: Books, id: number): { recipient: string; last_answer: string } | null =>
	sql<[number], { recipient: string; last_answer: string }>(
		`SELECT m.recipient, m.last_answer FROM message m JOIN placed d ON d.id = m.document_id
		 WHERE m.id = ? AND m.state = 'waiting' AND m.kept_back IS NULL AND ${stands}`,
	).get(id) ?? null

/**
 * Runs of which something is due by itself, and how many messages and copies. The runner asks twice a second: by what is due, never by the
 * runs of all that was ever sent.
 */
export const dueRuns = ({ sql }: Books, now: string): { run_id: number; n: number }[] =>
	sql<[{ now: string }], { run_id: number; n: number }>(
		`SELECT m.run_id, count(*) AS n FROM message m JOIN placed d ON d.id = m.document_id
		 WHERE m.due_at <= @now AND m.kept_back IS NULL AND ${stands}
			AND (m.state = 'waiting' OR (m.state = 'sent' AND EXISTS (SELECT 1 FROM message_copy c WHERE c.message_id = m.id AND c.state = 'waiting')))
		 GROUP BY +m.run_id ORDER BY +m.run_id`,
	).all({ now })

/** Puts all of a run that is due by itself off to a time, where no server was there to be tried. */
export const postpone = ({ sql }: Books, runId: number, now: string, until: string): void => {
	sql<[string, number, string]>('UPDATE message SET due_at = ? WHERE run_id = ? AND due_at <= ?').run(until, runId, now)
}

/** Sets when a message is tried by itself, and how often it was put off; null and 0 for none. */
export const setDue = (
	{ sql }: Books,
	id: number,
	{ dueAt, tries, since }: { dueAt: string | null; tries: number; since: string | null },
): void => {
	sql<[string | null, number, string | null, number]>(
		'UPDATE message SET due_at = ?, tries = ?, tried_since = ? WHERE id = ?',
	).run(dueAt, tries, since, id)
}

/** One message with its document; null where there is none. */
export function readMessage({ sql }: Books, id: number): Outgoing | null {
	return (
		sql<[number], Outgoing>(
			`SELECT ${outgoing} FROM message m JOIN document d ON d.id = m.document_id WHERE m.id = ?`,
		).get(id) ?? null
	)
}

/** The message of a document; null where none was written. */
export function messageOfDocument({ sql }: Books, documentId: number): Outgoing | null {
	return (
		sql<[number], Outgoing>(
			`SELECT ${outgoing} FROM message m JOIN document d ON d.id = m.document_id WHERE m.document_id = ?`,
		).get(documentId) ?? null
	)
}

/** Moves a message from one state to another; false when it was not in the first. */
export function move({ sql }: Books, id: number, from: MessageState, to: MessageState, answer = ''): boolean {
	return (
		sql<[MessageState, string, number, MessageState]>(
			'UPDATE message SET state = ?, last_answer = ? WHERE id = ? AND state = ?',
		).run(to, answer, id, from).changes > 0
	)
}

/** Notes the locked files that a message goes out with. */
export const setLocked = ({ sql }: Books, id: number, locked: string): void => {
	sql<[string, number]>('UPDATE message SET locked = ? WHERE id = ?').run(locked, id)
}

/** Messages that the runner left in the middle of sending; asked so that the index of what is not sent is used. */
export const leftSending = ({ sql }: Books): Outgoing[] =>
	sql<[], Outgoing>(
		`SELECT ${outgoing} FROM message m JOIN document d ON d.id = m.document_id WHERE m.state = 'sending' AND m.state <> 'sent'`,
	).all()

/** How many messages of a run stand how; of documents that no longer stand, those that were sent. */
export const sendCounts = ({ sql }: Books, runId: number): Record<MessageState, number> => {
	const counts = { waiting: 0, sending: 0, sent: 0, refused: 0, unsure: 0 }
	const rows = sql<[number], { state: MessageState; n: number }>(
		`SELECT m.state, count(*) AS n FROM message m JOIN placed d ON d.id = m.document_id
		 WHERE m.run_id = ? AND (m.state = 'sent' OR ${stands}) GROUP BY m.state`,
	).all(runId)
	for (const { state, n } of rows) counts[state] = n
	return counts
}

export type AttemptOutcome = 'sent' | 'refused' | 'unsure' | 'not sent'
type Attempt = {
	id: number
	message_id: number
	at: string
	recipient: string
	subject: string
	file_name: string
	file_sha256: string
	raw_sha256: string
	outcome: AttemptOutcome
	answer: string
	practice: number
	clerk: string
	/** The locked files that it went out with, as the message has them. */
	locked: string
	/** What the server said of each recipient, as JSON. */
	said: string
	/** The address of a copy that was sent alone; empty for the message. */
	copy: string
}
export type AttemptRow = Attempt & {
	document_id: number
	number: string
	customer_id: number
	customer_name: string
	currency: string
	total: number
	/** Who else read it; the second without being named in it. */
	cc: string
	bcc: string
}

/** The documents whose files go along with a message, by id, with their numbers. */
export const copiesOf = ({ sql }: Books, { copies }: Pick<Message, 'copies'>): { id: number; number: string }[] =>
	sql<[string], { id: number; number: string }>(
		'SELECT d.id, d.number FROM json_each(?) j JOIN document d ON d.id = j.value ORDER BY j.key',
	).all(copies)

/** Adds a line to the sent log. */
export function addAttempt({ sql }: Books, desk: Desk, attempt: Omit<Attempt, 'id' | 'at' | 'clerk'>): void {
	sql<[Omit<Attempt, 'id'>]>(
		`INSERT INTO attempt (message_id, at, recipient, subject, file_name, file_sha256, raw_sha256, outcome, answer, practice, clerk, locked, said, copy)
		 VALUES (@message_id, @at, @recipient, @subject, @file_name, @file_sha256, @raw_sha256, @outcome, @answer, @practice, @clerk, @locked, @said, @copy)`,
	).run({ ...attempt, at: desk.now(), clerk: desk.clerk })
}

const attemptColumns = `a.id, a.message_id, a.at, a.recipient, a.subject, a.file_name, a.file_sha256, a.raw_sha256, a.outcome, a.answer, a.practice,
	a.clerk, a.locked, a.said, a.copy, d.id AS document_id, d.number, d.customer_id, d.customer_name, d.currency, d.total, m.cc, m.bcc`
const attemptFrom = 'attempt a JOIN message m ON m.id = a.message_id JOIN document d ON d.id = m.document_id'

/** The sent log, the latest first: attempts whose customer, number, address or subject holds `words`. */
export function sentLog({ sql }: Books, words: string, most: number): { rows: AttemptRow[]; total: number } {
	const { like } = likeOf(words)
	const where = `(d.customer_name LIKE @like ESCAPE '\\' OR d.number LIKE @like ESCAPE '\\' OR a.recipient LIKE @like ESCAPE '\\' OR a.subject LIKE @like ESCAPE '\\'
		OR m.cc LIKE @like ESCAPE '\\' OR m.bcc LIKE @like ESCAPE '\\')`
	const rows = sql<[{ like: string; most: number }], AttemptRow>(
		`SELECT ${attemptColumns} FROM ${attemptFrom} WHERE ${where} ORDER BY a.id DESC LIMIT @most`,
	).all({ like, most })
	const total =
		sql<[{ like: string }], { n: number }>(`SELECT count(*) AS n FROM ${attemptFrom} WHERE ${where}`).get({ like })
			?.n ?? 0
	return { rows, total }
}

/** One attempt to send; null where there is none. */
export function readAttempt({ sql }: Books, id: number): AttemptRow | null {
	return sql<[number], AttemptRow>(`SELECT ${attemptColumns} FROM ${attemptFrom} WHERE a.id = ?`).get(id) ?? null
}

/** Attempts to send a document, the latest first. */
export const attemptsOfDocument = ({ sql }: Books, documentId: number): AttemptRow[] =>
	sql<[number], AttemptRow>(`SELECT ${attemptColumns} FROM ${attemptFrom} WHERE d.id = ? ORDER BY a.id DESC`).all(
		documentId,
	)

/** Attempts to send to a customer, the latest 500, the latest first. */
export const attemptsOfCustomer = ({ sql }: Books, customerId: number): AttemptRow[] =>
	sql<[number], AttemptRow>(
		`SELECT ${attemptColumns} FROM ${attemptFrom} WHERE d.customer_id = ? ORDER BY a.id DESC LIMIT 500`,
	).all(customerId)

/** How many messages of a run were put off, and are tried by themselves. */
export const putOffCount = ({ sql }: Books, runId: number): number =>
	sql<[number], { n: number }>(`SELECT count(*) AS n FROM placed WHERE run_id = ? AND place = 'put off'`).get(runId)
		?.n ?? 0

/** When the latest attempt was. */
export const lastAttemptAt = ({ sql }: Books): string | null =>
	sql<[], { at: string }>('SELECT at FROM attempt ORDER BY id DESC LIMIT 1').get()?.at ?? null
