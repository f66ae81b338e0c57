import type { Books } from './books'
import type { Desk } from './events'
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
}
export type Outgoing = Message & { file_name: string; file_sha256: string; number: string; customer_name: string }
export type Letter = { kind: string; subject: string; body: string }
export type OwnMessage = { subject: string; body: string; at: string; clerk: string }

const columns =
	'm.id, m.document_id, m.run_id, m.message_id, m.sender_name, m.sender, m.recipient, m.subject, m.body, m.written_at, m.state, m.last_answer, m.cc, m.bcc, m.reply_to, m.copies, m.locked, m.beside'
const outgoing = `${columns}, d.file_name, d.file_sha256, d.number, d.customer_name`

export function readLetter({ sql }: Books, kind: string): Letter | null {
	return sql<[string], Letter>('SELECT kind, subject, body FROM letter WHERE kind = ?').get(kind) ?? null
}

/** Sets a letter; the one before is kept among its versions. */
export function saveLetter({ sql }: Books, letter: Letter, desk?: Desk): void {
	if (desk)
		sql<[string, string, string]>(
			'INSERT INTO letter_version (kind, subject, body, at, clerk) SELECT kind, subject, body, ?, ? FROM letter WHERE kind = ?',
		).run(desk.now(), desk.clerk, letter.kind)
	sql<[Letter]>(
		`INSERT INTO letter (kind, subject, body) VALUES (@kind, @subject, @body)
		 ON CONFLICT (kind) DO UPDATE SET subject = @subject, body = @body`,
	).run(letter)
}

export type LetterVersion = { id: number; subject: string; body: string; at: string; clerk: string }

/** How a letter was before, the latest first; each with when and by whom it was replaced. */
export const letterVersions = ({ sql }: Books, kind: string): LetterVersion[] =>
	sql<[string], LetterVersion>(
		'SELECT id, subject, body, at, clerk FROM letter_version WHERE kind = ? ORDER BY id DESC LIMIT 50',
	).all(kind)

/** The message that a person wrote for one document. */
export const ownMessage = ({ sql }: Books, documentId: number): OwnMessage | null =>
	sql<[number], OwnMessage>('SELECT subject, body, at, clerk FROM own_message WHERE document_id = ?').get(documentId) ??
	null

export function saveOwnMessage({ sql }: Books, desk: Desk, documentId: number, subject: string, body: string): void {
	sql<[number, string, string, string, string]>(
		`INSERT INTO own_message (document_id, subject, body, at, clerk) VALUES (?, ?, ?, ?, ?)
		 ON CONFLICT (document_id) DO UPDATE SET subject = excluded.subject, body = excluded.body, at = excluded.at, clerk = excluded.clerk`,
	).run(documentId, subject, body, desk.now(), desk.clerk)
}

export type ToWrite = {
	id: number
	content: string
	email: string
	cc: string
	file_sha256: string
	own_subject: string | null
	own_body: string | null
	customer_id: number
}

/** Made documents of a run that have an address, no message yet, and none that is held. */
export const toWrite = ({ sql }: Books, runId: number): ToWrite[] =>
	sql<[number], ToWrite>(
		`SELECT d.id, c.content, d.email, k.cc, d.file_sha256, o.subject AS own_subject, o.body AS own_body, d.customer_id
		 FROM placed d JOIN document_content c ON c.document_id = d.id JOIN customer k ON k.id = d.customer_id
			LEFT JOIN own_message o ON o.document_id = d.id
		 WHERE d.run_id = ? AND d.place = 'made'
		 ORDER BY d.position`,
	).all(runId)

export function addMessage({ sql }: Books, message: Omit<Message, 'id' | 'state' | 'last_answer'>): void {
	sql<[Omit<Message, 'id' | 'state' | 'last_answer'>]>(
		`INSERT INTO message (document_id, run_id, message_id, sender_name, sender, recipient, subject, body, written_at, state, cc, bcc, reply_to, copies, locked, beside)
		 VALUES (@document_id, @run_id, @message_id, @sender_name, @sender, @recipient, @subject, @body, @written_at, 'waiting', @cc, @bcc, @reply_to, @copies, @locked, @beside)`,
	).run(message)
}

export const waitingMessages = ({ sql }: Books, runId: number, most: number): Outgoing[] =>
	sql<[number, number], Outgoing>(
		`SELECT ${outgoing} FROM message m JOIN placed d ON d.id = m.document_id WHERE m.run_id = ? AND m.state = 'waiting' AND ${stands} ORDER BY m.id LIMIT ?`,
	).all(runId, most)

export function readMessage({ sql }: Books, id: number): Outgoing | null {
	return (
		sql<[number], Outgoing>(
			`SELECT ${outgoing} FROM message m JOIN document d ON d.id = m.document_id WHERE m.id = ?`,
		).get(id) ?? null
	)
}

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

/** Messages that the runner left in the middle of sending. */
export const leftSending = ({ sql }: Books): Outgoing[] =>
	sql<[], Outgoing>(
		`SELECT ${outgoing} FROM message m JOIN document d ON d.id = m.document_id WHERE m.state = 'sending'`,
	).all()

/** Everything in the postroom: what has not gone, what was refused, what is unsure. */
export const inPostroom = ({ sql }: Books): Outgoing[] =>
	sql<[], Outgoing>(
		`SELECT ${outgoing} FROM message m JOIN placed d ON d.id = m.document_id WHERE m.state <> 'sent' AND ${stands}
		 ORDER BY CASE m.state WHEN 'unsure' THEN 0 WHEN 'refused' THEN 1 ELSE 2 END, m.id LIMIT 2000`,
	).all()

export const postroomCount = ({ sql }: Books): number =>
	sql<[], { n: number }>(
		`SELECT (SELECT count(*) FROM message m JOIN placed d ON d.id = m.document_id WHERE m.state <> 'sent' AND ${stands})
			+ (SELECT count(*) FROM placed WHERE place = 'to print') AS n`,
	).get()?.n ?? 0

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
export type Attempt = {
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
		`INSERT INTO attempt (message_id, at, recipient, subject, file_name, file_sha256, raw_sha256, outcome, answer, practice, clerk, locked)
		 VALUES (@message_id, @at, @recipient, @subject, @file_name, @file_sha256, @raw_sha256, @outcome, @answer, @practice, @clerk, @locked)`,
	).run({ ...attempt, at: desk.now(), clerk: desk.clerk })
}

const attemptColumns = `a.id, a.message_id, a.at, a.recipient, a.subject, a.file_name, a.file_sha256, a.raw_sha256, a.outcome, a.answer, a.practice,
	a.clerk, a.locked, d.id AS document_id, d.number, d.customer_id, d.customer_name, d.currency, d.total, m.cc, m.bcc`
const attemptFrom = 'attempt a JOIN message m ON m.id = a.message_id JOIN document d ON d.id = m.document_id'

/** The sent log, the latest first: attempts whose customer, number, address or subject holds `words`. */
export function sentLog({ sql }: Books, words: string, most: number): { rows: AttemptRow[]; total: number } {
	const like = `%${words.replace(/[\\%_]/g, '\\$&')}%`
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

export function readAttempt({ sql }: Books, id: number): AttemptRow | null {
	return sql<[number], AttemptRow>(`SELECT ${attemptColumns} FROM ${attemptFrom} WHERE a.id = ?`).get(id) ?? null
}

export const attemptsOfDocument = ({ sql }: Books, documentId: number): AttemptRow[] =>
	sql<[number], AttemptRow>(`SELECT ${attemptColumns} FROM ${attemptFrom} WHERE d.id = ? ORDER BY a.id DESC`).all(
		documentId,
	)

export const attemptsOfCustomer = ({ sql }: Books, customerId: number): AttemptRow[] =>
	sql<[number], AttemptRow>(
		`SELECT ${attemptColumns} FROM ${attemptFrom} WHERE d.customer_id = ? ORDER BY a.id DESC LIMIT 500`,
	).all(customerId)
