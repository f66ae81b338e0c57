import { createHash } from 'node:crypto'
import { type Books, inOneStep } from './books'

/** Who acts and when: kept with every change. `now` gives UTC ISO text. */
export type Desk = { clerk: string; now: () => string }

type Subject =
	| 'file'
	| 'order'
	| 'run'
	| 'document'
	| 'customer'
	| 'company'
	| 'register'
	| 'message'
	| 'item'
	| 'setting'
	| 'layout'
	| 'form'
	| 'paper kind'
	| 'paper record'
export type Happening = {
	subject: Subject
	id: string | number
	act: string
	detail?: string
	before?: unknown
	after?: unknown
}
export type EventRow = {
	id: number
	at: string
	clerk: string
	act: string
	detail: string
	before: string | null
	after: string | null
}

const kept = (value: unknown): string | null => (value === undefined ? null : JSON.stringify(value))

/** All that an event says. */
export type Said = {
	at: string
	clerk: string
	subject: string
	subject_id: string
	act: string
	detail: string
	before: string | null
	after: string | null
	document_id: number | null
	order_id: number | null
	run_id: number | null
}
const hashed = (text: string): string => createHash('sha256').update(text).digest('hex').slice(0, 32)
const inOrder = (e: Said) => [
	...[e.at, e.clerk, e.subject, e.subject_id, e.act, e.detail, e.before, e.after],
	...[e.document_id, e.order_id, e.run_id],
]
/** The seal of an event: a hash of what it says and of the seal before it, so that none is changed or taken out unseen. */
export const sealOf = (before: string, said: Said): string => hashed(JSON.stringify([before, ...inOrder(said)]))

/** The seal of what was recorded before events were sealed: of all of it together. */
export function firstSeal({ db }: Books): string {
	const hash = createHash('sha256')
	const rows = db.prepare<[], Said>(`SELECT ${saidColumns} FROM event WHERE seal = '' ORDER BY id`)
	for (const row of rows.iterate()) hash.update(JSON.stringify(inOrder(row)))
	return hash.digest('hex').slice(0, 32)
}
const saidColumns = 'at, clerk, subject, subject_id, act, detail, before, after, document_id, order_id, run_id'

/** Adds one line to the append-only record, sealed with the one before. */
export function record(books: Books, desk: Desk, { subject, id, act, detail = '', before, after }: Happening): void {
	inOneStep(books, () => {
		const own = (one: Subject) => (one === subject ? Number(id) : null)
		const said: Said = {
			...{ at: desk.now(), clerk: desk.clerk, subject, subject_id: String(id), act, detail },
			...{ before: kept(before), after: kept(after) },
			...{ document_id: own('document'), order_id: own('order'), run_id: own('run') },
		}
		const last = books.sql<[], { seal: string }>('SELECT seal FROM event ORDER BY id DESC LIMIT 1').get()
		const seal = sealOf(last?.seal || firstSeal(books), said)
		books
			.sql<(string | number | null)[]>(
				`INSERT INTO event (${saidColumns}, seal) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
			)
			.run(...inOrder(said), seal)
	})
}

const columns = 'id, at, clerk, act, detail, before, after'

/** What happened to one thing, the newest first. */
export function eventsOf(
	{ sql }: Books,
	subject: Exclude<Subject, 'document' | 'order'>,
	id: string | number,
	most = 200,
) {
	return sql<[string, string, number], EventRow>(
		`SELECT ${columns} FROM event WHERE subject = ? AND subject_id = ? ORDER BY id DESC LIMIT ?`,
	).all(subject, String(id), most)
}

/**
 * What happened to documents and to orders, the newest first.
 * Held by references, so that no other's is ever among it.
 */
export const eventsOfDocument = (
	{ sql }: Books,
	documentIds: number[],
	orderIds: number[] = [],
	most = 200,
): EventRow[] =>
	sql<[string, string, number], EventRow>(
		`SELECT ${columns} FROM event WHERE document_id IN (SELECT value FROM json_each(?)) OR order_id IN (SELECT value FROM json_each(?)) ORDER BY id DESC LIMIT ?`,
	).all(JSON.stringify(documentIds), JSON.stringify(orderIds), most)

/** In SQL, of `j`: documents (key) with the hash that each was frozen by (value), and of `e` the event by which they were issued. */
export const frozenBy = `event e, json_each(e.after, '$.frozen') j WHERE e.subject IN ('run', 'document') AND json_type(e.after, '$.frozen') = 'object'`

export type TouchedDraft = EventRow & { document_id: number; customer_name: string; order_numbers: string }

/** What was recorded of the drafts of a run after an event, the newest first. */
export const touchedInRun = ({ sql }: Books, runId: number, seen: number): TouchedDraft[] =>
	sql<[number, number], TouchedDraft>(
		`SELECT e.id, e.at, e.clerk, e.act, e.detail, e.before, e.after, d.id AS document_id, d.customer_name, d.order_numbers
		 FROM event e JOIN document d ON d.id = e.document_id
		 WHERE e.id > ? AND d.run_id = ? AND d.number IS NULL AND d.dropped_at IS NULL ORDER BY e.id DESC LIMIT 1000`,
	).all(seen, runId)

/** Of `event e`: what a run numbered. */
const numbering = `(e.subject = 'run' AND json_extract(e.after, '$.numbered') IS NOT NULL)`
/** Whether anything was recorded after an event that may concern the drafts of a run: all but what was done to the run and its documents short of numbering. */
export const anythingSince = ({ sql }: Books, eventId: number, runId: number): boolean =>
	sql<[number, number, number], unknown>(
		`SELECT 1 FROM event e LEFT JOIN document d ON d.id = e.document_id
		 WHERE e.id > ? AND ((e.run_id IS NOT ? AND d.run_id IS NOT ?) OR ${numbering}) LIMIT 1`,
	).get(eventId, runId, runId) !== undefined

/** The latest acts of all, for the Desk. */
export function latestEvents({ sql }: Books, most: number): (EventRow & { subject: Subject; subject_id: string })[] {
	return sql<[number], EventRow & { subject: Subject; subject_id: string }>(
		`SELECT id, at, clerk, subject, subject_id, act, detail, before, after FROM event ORDER BY id DESC LIMIT ?`,
	).all(most)
}

/** Id of the latest event of all: when it is the same, no person has changed anything meanwhile. */
export const latestEventId = ({ sql }: Books): number =>
	sql<[], { id: number | null }>('SELECT max(id) AS id FROM event').get()?.id ?? 0
