import type { Source } from '@/archive/source'
import type { Books } from './books'
import type { Desk } from './events'

/** Arriving in parts; here and looked at; accepted, wholly or in part; all of it taken back; left out. */
type FileState = 'arriving' | 'read' | 'accepted' | 'taken back' | 'dropped'
export type SourceFile = {
	id: number
	name: string
	sha256: string
	size: number
	kind: string
	/** How it is read, as JSON. */
	reading: string
	state: FileState
	received_at: string
	received_by: string
	accepted_at: string | null
	accepted_by: string | null
	/** What accepting it did, in words. */
	result: string | null
	/** What its columns say, as JSON; null until it was read. */
	look: string | null
	/** Why it cannot be read; empty where it can. */
	trouble: string
	/** What it would bring, as JSON; null until that is known. */
	review: string | null
	answers: string
	reader_id: number | null
	reader_version: number | null
}

const columns =
	'id, name, sha256, size, kind, reading, state, received_at, received_by, accepted_at, accepted_by, result, look, trouble, review, answers, reader_id, reader_version'

/** One file; null where there is none. */
export function readFile({ sql }: Books, id: number): SourceFile | null {
	return sql<[number], SourceFile>(`SELECT ${columns} FROM source_file WHERE id = ?`).get(id) ?? null
}

/** Bytes of a part of a file, but for the last. */
export const partSize = 1 << 20

/** A file as it came, read from the parts that it is kept in. */
export function sourceOfFile({ sql }: Books, { id, name, size }: SourceFile): Source {
	const part = sql<[number, number], { bytes: Buffer }>('SELECT bytes FROM source_part WHERE file_id = ? AND part = ?')
	// What came before files were kept in parts is one.
	const whole = sql<[number], { size: number }>(
		'SELECT length(bytes) AS size FROM source_part WHERE file_id = ? AND part = 0',
	).get(id)?.size
	const each = whole === size ? Math.max(size, 1) : partSize
	let held: { number: number; bytes: Buffer } = { number: -1, bytes: Buffer.alloc(0) }
	const bytesOf = (number: number) => {
		if (held.number !== number) held = { number, bytes: part.get(id, number)?.bytes ?? Buffer.alloc(0) }
		return held.bytes
	}
	return {
		name,
		size,
		read: (from, length) => {
			const to = Math.min(from + length, size)
			const found: Buffer[] = []
			for (let place = from; place < to; ) {
				const number = Math.floor(place / each)
				const bytes = bytesOf(number).subarray(place - number * each, to - number * each)
				if (bytes.length === 0) break
				found.push(bytes)
				place += bytes.length
			}
			return found.length === 1 && found[0] ? found[0] : Buffer.concat(found)
		},
	}
}

/** The latest 200 files, but those that were dropped and those typed on the order form. */
export const allFiles = ({ sql }: Books): SourceFile[] =>
	sql<[], SourceFile>(
		`SELECT ${columns} FROM source_file WHERE state <> 'dropped' AND typed = 0 ORDER BY id DESC LIMIT 200`,
	).all()

/** The file of this hash that is in the books: accepted, or else read and waiting. */
export function sameFile({ sql }: Books, sha256: string, but = 0): SourceFile | null {
	return (
		sql<[string, number], SourceFile>(
			`SELECT ${columns} FROM source_file WHERE sha256 = ? AND state IN ('accepted', 'read') AND id <> ? ORDER BY state, id DESC LIMIT 1`,
		).get(sha256, but) ?? null
	)
}

/** A file that broke off and whose rest is awaited: of the same name, size and time of change, by the same clerk. */
export const arrivingFile = ({ sql }: Books, desk: Desk, mark: string): { id: number } | null =>
	sql<[string, string], { id: number }>(
		`SELECT id FROM source_file WHERE mark = ? AND received_by = ? AND state = 'arriving' ORDER BY id DESC LIMIT 1`,
	).get(mark, desk.clerk) ?? null

/** Begins a file that comes in parts. */
export function beginFile({ sql }: Books, desk: Desk, file: { name: string; size: number; mark: string }): number {
	return Number(
		sql<[string, number, string, string, string]>(
			`INSERT INTO source_file (name, sha256, size, mark, kind, reading, state, received_at, received_by)
			 VALUES (?, '', ?, ?, '', '{}', 'arriving', ?, ?)`,
		).run(file.name, file.size, file.mark, desk.now(), desk.clerk).lastInsertRowid,
	)
}

// What was typed in the order form is kept as a file too, apart from those that were brought in.
/** The mark of a file that was typed on the order form, by its key. */
export const formMark = (key: string): string => `order form ${key}`

/** The order that a writing of the form made already; null for none. */
export const formFile = ({ sql }: Books, key: string): { id: number; number: string } | null =>
	sql<[string], { id: number; number: string }>(
		`SELECT o.id, o.number FROM sales_order o JOIN source_file f ON f.id = o.source_file_id WHERE f.mark = ? ORDER BY o.id LIMIT 1`,
	).get(formMark(key)) ?? null

/** The order that was written in the form as this file; null where it came otherwise. */
export const orderOfForm = ({ sql }: Books, fileId: number): number | null =>
	sql<[number], { id: number }>(
		`SELECT o.id FROM sales_order o JOIN source_file f ON f.id = o.source_file_id WHERE f.id = ? AND f.typed = 1 ORDER BY o.id LIMIT 1`,
	).get(fileId)?.id ?? null

/** Keeps what was typed in the order form. */
export function keepForm(
	books: Books,
	desk: Desk,
	{ name, key, content, sha256 }: { name: string; key: string; content: Buffer; sha256: string },
): number {
	const id = beginFile(books, desk, { name, size: content.length, mark: formMark(key) })
	addPart(books, id, 0, content)
	markHere(books, id)
	setHash(books, id, sha256)
	books.sql<[number]>(`UPDATE source_file SET kind = 'orders', typed = 1 WHERE id = ?`).run(id)
	return id
}

/** Keeps a part; one that is here already stays. */
export function addPart({ sql }: Books, id: number, part: number, bytes: Buffer): void {
	sql<[number, number, Buffer]>('INSERT OR IGNORE INTO source_part (file_id, part, bytes) VALUES (?, ?, ?)').run(
		id,
		part,
		bytes,
	)
}

/** The parts that are here, by number. */
export const partsOf = ({ sql }: Books, id: number): { part: number; size: number }[] =>
	sql<[number], { part: number; size: number }>(
		'SELECT part, length(bytes) AS size FROM source_part WHERE file_id = ? ORDER BY part',
	).all(id)

/** A file is whole: from now on it is looked at. */
export function markHere({ sql }: Books, id: number): void {
	sql<[number]>(`UPDATE source_file SET state = 'read' WHERE id = ? AND state = 'arriving'`).run(id)
}

/** Notes the hash of a file's bytes. */
export function setHash({ sql }: Books, id: number, sha256: string): void {
	sql<[string, number]>('UPDATE source_file SET sha256 = ? WHERE id = ?').run(sha256, id)
}

/** Changes how a file is read; what it would bring is worked out anew. */
export function setReading({ sql }: Books, id: number, kind: string, reading: string): void {
	sql<[string, string, number]>('UPDATE source_file SET kind = ?, reading = ?, review = NULL WHERE id = ?').run(
		kind,
		reading,
		id,
	)
}

/** Keeps what a look at a file found, as JSON, or its trouble in words; what was reviewed before counts no more. */
export function setLook({ sql }: Books, id: number, look: string | null, trouble: string): void {
	sql<[string | null, string, number]>('UPDATE source_file SET look = ?, trouble = ?, review = NULL WHERE id = ?').run(
		look,
		trouble,
		id,
	)
}

/** Keeps the review of a file, as JSON; null where it is to be made anew. */
export function setReview({ sql }: Books, id: number, review: string | null): void {
	sql<[string | null, number]>('UPDATE source_file SET review = ? WHERE id = ?').run(review, id)
}

/** Keeps what a person answered about a file, as JSON; what was reviewed before counts no more. */
export function setAnswers({ sql }: Books, id: number, answers: string): void {
	sql<[string, number]>('UPDATE source_file SET answers = ?, review = NULL WHERE id = ?').run(answers, id)
}

/** Notes the saved reading by which a file is read, and its version; null for none. */
export function setReader({ sql }: Books, id: number, readerId: number | null, version: number | null): void {
	sql<[number | null, number | null, number]>(
		'UPDATE source_file SET reader_id = ?, reader_version = ? WHERE id = ?',
	).run(readerId, version, id)
}

/** Marks a file as accepted, with what came of it, as JSON. */
export function markAccepted({ sql }: Books, desk: Desk, id: number, result: string): void {
	sql<[string, string, string, number]>(
		`UPDATE source_file SET state = 'accepted', accepted_at = ?, accepted_by = ?, result = ? WHERE id = ? AND state IN ('read', 'accepted', 'taken back')`,
	).run(desk.now(), desk.clerk, result, id)
}

/** Marks a file as left aside that was not accepted. */
export function markDropped({ sql }: Books, id: number): void {
	sql<[number]>(`UPDATE source_file SET state = 'dropped' WHERE id = ? AND state IN ('arriving', 'read')`).run(id)
}

/** Marks an accepted file as taken back, with what came of it, as JSON. */
export function markTakenBack({ sql }: Books, id: number, result: string): void {
	sql<[string, number]>(
		`UPDATE source_file SET state = 'taken back', result = ? WHERE id = ? AND state = 'accepted'`,
	).run(result, id)
}

/** How many files are neither accepted nor left aside. */
export const filesWaiting = ({ sql }: Books): number =>
	sql<[], { n: number }>(`SELECT count(*) AS n FROM source_file WHERE state IN ('arriving', 'read')`).get()?.n ?? 0

export type Acceptance = {
	id: number
	file_id: number
	state: 'going' | 'done' | 'stopped' | 'taken back'
	reached: number
	words: string
	at: string
	clerk: string
}
const acceptanceColumns = 'id, file_id, state, reached, words, at, clerk'

/**
 * The accepting of a file that is going, or a new one.
 * @throws Error where it could not be begun
 */
export function goingAcceptance({ sql }: Books, desk: Desk, fileId: number): Acceptance {
	const going = () =>
		sql<[number], Acceptance>(`SELECT ${acceptanceColumns} FROM acceptance WHERE file_id = ? AND state = 'going'`).get(
			fileId,
		)
	const known = going()
	if (known) return known
	sql<[number, string, string]>(`INSERT INTO acceptance (file_id, state, at, clerk) VALUES (?, 'going', ?, ?)`).run(
		fileId,
		desk.now(),
		desk.clerk,
	)
	const begun = going()
	if (!begun) throw new Error('The accepting could not be begun.')
	return begun
}

/** How often a file was accepted, the earliest first. */
export const acceptancesOf = ({ sql }: Books, fileId: number): Acceptance[] =>
	sql<[number], Acceptance>(`SELECT ${acceptanceColumns} FROM acceptance WHERE file_id = ? ORDER BY id`).all(fileId)

/** Notes how many rows an acceptance has written. */
export function reachAcceptance({ sql }: Books, id: number, reached: number): void {
	sql<[number, number]>('UPDATE acceptance SET reached = ? WHERE id = ?').run(reached, id)
}

/** Ends an acceptance, with how it went in words. */
export function endAcceptance({ sql }: Books, id: number, state: 'done' | 'stopped', words: string): void {
	sql<[string, string, number]>('UPDATE acceptance SET state = ?, words = ? WHERE id = ?').run(state, words, id)
}

/** All of a file's acceptings are taken back. */
export function takeAcceptancesBack({ sql }: Books, desk: Desk, fileId: number, reason: string): void {
	sql<(string | number)[]>(
		`UPDATE acceptance SET state = 'taken back', back_at = ?, back_by = ?, back_reason = ? WHERE file_id = ? AND state = 'done'`,
	).run(desk.now(), desk.clerk, reason, fileId)
}
