import { mkdirSync } from 'node:fs'
import { join } from 'node:path'
import Database from 'better-sqlite3'
import { type ParsedMail, simpleParser } from 'mailparser'
import { SMTPServer } from 'smtp-server'
import { likeOf } from '@/store/like'

/** A message that reached the practice server, as its recipient would have it. */
type Arrival = {
	id: number
	at: string
	sender: string
	recipient: string
	subject: string
	message_id: string
	size: number
}

/** The practice server keeps its post apart from the books: it stands for the outside world. */
export function openPracticePost(folder: string): Database.Database {
	mkdirSync(folder, { recursive: true })
	const db = new Database(join(folder, 'practice-mail.db'), { timeout: 20_000 })
	db.pragma('journal_mode = WAL')
	db.exec(`CREATE TABLE IF NOT EXISTS arrival (
		id INTEGER PRIMARY KEY, at TEXT NOT NULL, sender TEXT NOT NULL, recipient TEXT NOT NULL, subject TEXT NOT NULL, message_id TEXT NOT NULL,
		raw BLOB NOT NULL) STRICT;
		CREATE INDEX IF NOT EXISTS arrival_message ON arrival (message_id)`)
	return db
}

const columns = 'id, at, sender, recipient, subject, message_id, length(raw) AS size'

/** What arrived, the latest first, whose recipient or subject holds the words. */
export function arrivals(db: Database.Database, words: string, most: number): { rows: Arrival[]; total: number } {
	const { like } = likeOf(words)
	const where = `recipient LIKE @like ESCAPE '\\' OR subject LIKE @like ESCAPE '\\'`
	return {
		rows: db
			.prepare<[{ like: string; most: number }], Arrival>(
				`SELECT ${columns} FROM arrival WHERE ${where} ORDER BY id DESC LIMIT @most`,
			)
			.all({ like, most }),
		total:
			db.prepare<[{ like: string }], { n: number }>(`SELECT count(*) AS n FROM arrival WHERE ${where}`).get({ like })
				?.n ?? 0,
	}
}

type OpenedArrival = Arrival & { raw: Buffer; mail: ParsedMail }

/** One message, read as a mail program would read it. */
export async function openArrival(db: Database.Database, id: number): Promise<OpenedArrival | null> {
	const row = db
		.prepare<[number], Arrival & { raw: Buffer }>(`SELECT ${columns}, raw FROM arrival WHERE id = ?`)
		.get(id)
	return row ? { ...row, mail: await simpleParser(row.raw) } : null
}

/** The arrival of a message, by its Message-ID. */
export function arrivalOf(db: Database.Database, messageId: string): Arrival | null {
	return (
		db
			.prepare<[string], Arrival>(`SELECT ${columns} FROM arrival WHERE message_id = ? ORDER BY id DESC LIMIT 1`)
			.get(messageId) ?? null
	)
}

/** Bytes of a message that the practice server takes. */
const most = 30_000_000

/**
 * A mail server on this machine that takes every message and sends none on. Addresses whose name begins with "refuse" are
 * answered with 550, so that refusals can be practised.
 */
export function practiceServer(db: Database.Database, now: () => string): SMTPServer {
	const add = db.prepare<[string, string, string, string, string, Buffer]>(
		'INSERT INTO arrival (at, sender, recipient, subject, message_id, raw) VALUES (?, ?, ?, ?, ?, ?)',
	)
	return new SMTPServer({
		authOptional: true,
		disabledCommands: ['AUTH', 'STARTTLS'],
		disableReverseLookup: true,
		banner: `North Tally practice mail, process ${process.pid}: nothing leaves this machine`,
		size: most,
		onRcptTo: (address, _session, done) => {
			const refused = /^refuse/i.test(address.address)
			done(refused ? Object.assign(new Error(`No such mailbox: ${address.address}`), { responseCode: 550 }) : null)
		},
		onData: (stream, session, done) => {
			const chunks: Buffer[] = []
			let size = 0
			stream.on('data', (chunk: Buffer) => {
				size += chunk.length
				// What is over the limit is heard to its end and let go of.
				if (size <= most) chunks.push(chunk)
				else chunks.length = 0
			})
			stream.on('end', () => {
				if (size > most)
					return done(
						Object.assign(new Error(`The message is over ${most / 1_000_000} MB, which is the limit here`), {
							responseCode: 552,
						}),
					)
				const raw = Buffer.concat(chunks)
				void simpleParser(raw.subarray(0, raw.indexOf('\r\n\r\n') + 4), {
					skipHtmlToText: true,
					skipTextToHtml: true,
					skipImageLinks: true,
				}).then((mail) => {
					const { mailFrom, rcptTo } = session.envelope
					const { lastInsertRowid } = add.run(
						now(),
						mailFrom ? mailFrom.address : '',
						rcptTo.map(({ address }) => address).join(', '),
						mail.subject ?? '',
						mail.messageId ?? '',
						raw,
					)
					done(null, `Kept as practice message ${lastInsertRowid}`)
				}, done)
			})
		},
	})
}

/** How often each message arrived with each of its recipients, by Message-ID and address with a space between. */
export function arrivalCounts(db: Database.Database): Map<string, number> {
	const counts = new Map<string, number>()
	for (const { message_id, recipient } of db
		.prepare<[], { message_id: string; recipient: string }>('SELECT message_id, recipient FROM arrival')
		.iterate())
		for (const address of recipient.split(', ')) {
			const key = `${message_id} ${address}`
			counts.set(key, (counts.get(key) ?? 0) + 1)
		}
	return counts
}
