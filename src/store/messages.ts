import type { Books } from './books'
import type { Desk } from './events'

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
}
export type Outgoing = Message & { file_name: string; file_sha256: string; number: string; customer_name: string }
export type Letter = { kind: string; subject: string; body: string }

const columns =
	'm.id, m.document_id, m.run_id, m.message_id, m.sender_name, m.sender, m.recipient, m.subject, m.body, m.written_at, m.state, m.last_answer'
const outgoing = `${columns}, d.file_name, d.file_sha256, d.number, d.customer_name`

export function readLetter({ sql }: Books, kind: string): Letter | null {
	return sql<[string], Letter>('SELECT kind, subject, body FROM letter WHERE kind = ?').get(kind) ?? null
}

export function saveLetter({ sql }: Books, letter: Letter): void {
	sql<[Letter]>(
		`INSERT INTO letter (kind, subject, body) VALUES (@kind, @subject, @body)
		 ON CONFLICT (kind) DO UPDATE SET subject = @subject, body = @body`,
	).run(letter)
}

/** Made documents of a run that have an address and no message yet. */
export const toWrite = (
	{ sql }: Books,
	runId: number,
): { id: number; content: string; email: string; file_sha256: string }[] =>
	sql<[number], { id: number; content: string; email: string; file_sha256: string }>(
		`SELECT d.id, c.content, d.email, d.file_sha256 FROM document d JOIN document_content c ON c.document_id = d.id
		 WHERE d.run_id = ? AND d.made_at IS NOT NULL AND d.email <> '' AND d.void_at IS NULL AND NOT EXISTS (SELECT 1 FROM message m WHERE m.document_id = d.id)
		 ORDER BY d.position`,
	).all(runId)

export function addMessage({ sql }: Books, message: Omit<Message, 'id' | 'state' | 'last_answer'>): void {
	sql<[Omit<Message, 'id' | 'state' | 'last_answer'>]>(
		`INSERT INTO message (document_id, run_id, message_id, sender_name, sender, recipient, subject, body, written_at, state)
		 VALUES (@document_id, @run_id, @message_id, @sender_name, @sender, @recipient, @subject, @body, @written_at, 'waiting')`,
	).run(message)
}

export const waitingMessages = ({ sql }: Books, runId: number, most: number): Outgoing[] =>
	sql<[number, number], Outgoing>(
		`SELECT ${outgoing} FROM message m JOIN document d ON d.id = m.document_id WHERE m.run_id = ? AND m.state = 'waiting' AND d.void_at IS NULL ORDER BY m.id LIMIT ?`,
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

/** Messages that the runner left in the middle of sending. */
export const leftSending = ({ sql }: Books): Outgoing[] =>
	sql<[], Outgoing>(
		`SELECT ${outgoing} FROM message m JOIN document d ON d.id = m.document_id WHERE m.state = 'sending'`,
	).all()

/** Everything in the postroom: what has not gone, what was refused, what is unsure. */
export const inPostroom = ({ sql }: Books): Outgoing[] =>
	sql<[], Outgoing>(
		`SELECT ${outgoing} FROM message m JOIN document d ON d.id = m.document_id WHERE m.state <> 'sent' AND d.void_at IS NULL
		 ORDER BY CASE m.state WHEN 'unsure' THEN 0 WHEN 'refused' THEN 1 ELSE 2 END, m.id LIMIT 2000`,
	).all()

export const postroomCount = ({ sql }: Books): number =>
	sql<[], { n: number }>(
		`SELECT (SELECT count(*) FROM message m JOIN document d ON d.id = m.document_id WHERE m.state <> 'sent' AND d.void_at IS NULL)
			+ (SELECT count(*) FROM document WHERE made_at IS NOT NULL AND email = '' AND printed_at IS NULL AND void_at IS NULL) AS n`,
	).get()?.n ?? 0

export const sendCounts = ({ sql }: Books, runId: number): Record<MessageState, number> => {
	const counts = { waiting: 0, sending: 0, sent: 0, refused: 0, unsure: 0 }
	const rows = sql<[number], { state: MessageState; n: number }>(
		'SELECT state, count(*) AS n FROM message WHERE run_id = ? GROUP BY state',
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
}
export type AttemptRow = Attempt & {
	document_id: number
	number: string
	customer_id: number
	customer_name: string
	currency: string
	total: number
}

/** Adds a line to the sent log. */
export function addAttempt({ sql }: Books, desk: Desk, attempt: Omit<Attempt, 'id' | 'at' | 'clerk'>): void {
	sql<[Omit<Attempt, 'id'>]>(
		`INSERT INTO attempt (message_id, at, recipient, subject, file_name, file_sha256, raw_sha256, outcome, answer, practice, clerk)
		 VALUES (@message_id, @at, @recipient, @subject, @file_name, @file_sha256, @raw_sha256, @outcome, @answer, @practice, @clerk)`,
	).run({ ...attempt, at: desk.now(), clerk: desk.clerk })
}

const attemptColumns = `a.id, a.message_id, a.at, a.recipient, a.subject, a.file_name, a.file_sha256, a.raw_sha256, a.outcome, a.answer, a.practice,
	a.clerk, d.id AS document_id, d.number, d.customer_id, d.customer_name, d.currency, d.total`
const attemptFrom = 'attempt a JOIN message m ON m.id = a.message_id JOIN document d ON d.id = m.document_id'

/** The sent log, the latest first: attempts whose customer, number, address or subject holds `words`. */
export function sentLog({ sql }: Books, words: string, most: number): { rows: AttemptRow[]; total: number } {
	const like = `%${words.replace(/[\\%_]/g, '\\$&')}%`
	const where = `(d.customer_name LIKE @like ESCAPE '\\' OR d.number LIKE @like ESCAPE '\\' OR a.recipient LIKE @like ESCAPE '\\' OR a.subject LIKE @like ESCAPE '\\')`
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
