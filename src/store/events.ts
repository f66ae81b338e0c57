import type { Books } from './books'

/** Who acts and when: kept with every change. `now` gives UTC ISO text. */
export type Desk = { clerk: string; now: () => string }

export type Subject =
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

/** Adds one line to the append-only record. */
export function record({ sql }: Books, desk: Desk, { subject, id, act, detail = '', before, after }: Happening): void {
	sql<(string | number | null)[]>(
		`INSERT INTO event (at, clerk, subject, subject_id, act, detail, before, after, document_id, order_id, run_id) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
	).run(
		...[desk.now(), desk.clerk, subject, String(id), act, detail, kept(before), kept(after)],
		...(['document', 'order', 'run'] as const).map((one) => (one === subject ? Number(id) : null)),
	)
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

export type TouchedDraft = EventRow & { document_id: number; customer_name: string; order_numbers: string }

/** What was recorded of the drafts of a run after an event, the newest first. */
export const touchedInRun = ({ sql }: Books, runId: number, seen: number): TouchedDraft[] =>
	sql<[number, number], TouchedDraft>(
		`SELECT e.id, e.at, e.clerk, e.act, e.detail, e.before, e.after, d.id AS document_id, d.customer_name, d.order_numbers
		 FROM event e JOIN document d ON d.id = e.document_id
		 WHERE e.id > ? AND d.run_id = ? AND d.number IS NULL AND d.dropped_at IS NULL ORDER BY e.id DESC LIMIT 1000`,
	).all(seen, runId)

/** Whether anything was recorded after an event that may concern the drafts of a run: all but what was done to the run and its documents short of numbering. */
export const anythingSince = ({ sql }: Books, eventId: number, runId: number): boolean =>
	sql<[number, number, number], unknown>(
		`SELECT 1 FROM event e LEFT JOIN document d ON d.id = e.document_id
		 WHERE e.id > ? AND ((e.run_id IS NOT ? AND d.run_id IS NOT ?) OR e.act LIKE 'numbered %') LIMIT 1`,
	).get(eventId, runId, runId) !== undefined

/**
 * Customers of whom something was recorded after an event that may concern their accounts, beside what was done to a run itself; null where
 * it concerns all: a file that was accepted, a setting.
 */
export function touchedSince({ sql }: Books, eventId: number, runId: number): Set<number> | null {
	type Touch = { subject: string; subject_id: string; customer_id: number | null; own: number; numbered: number }
	const rows = sql<[{ eventId: number; run: number }], Touch>(
		`SELECT DISTINCT e.subject, iif(e.subject = 'customer', e.subject_id, '') AS subject_id, d.customer_id,
			(e.run_id IS @run OR d.run_id IS @run) AS own, e.act LIKE 'numbered %' AS numbered
		 FROM event e LEFT JOIN document d ON d.id = e.document_id WHERE e.id > @eventId`,
	).all({ eventId, run: runId })
	const touched = new Set<number>()
	for (const { subject, subject_id, customer_id, own, numbered } of rows) {
		if (own === 1) continue
		if (subject === 'customer') touched.add(Number(subject_id))
		else if (customer_id !== null) touched.add(customer_id)
		// What another run numbered is in the ledger.
		else if (numbered === 1 || subject === 'file' || subject === 'setting' || subject === 'company') return null
	}
	return touched
}

/** The latest acts of all, for the Desk. */
export function latestEvents({ sql }: Books, most: number): (EventRow & { subject: Subject; subject_id: string })[] {
	return sql<[number], EventRow & { subject: Subject; subject_id: string }>(
		`SELECT id, at, clerk, subject, subject_id, act, detail, before, after FROM event ORDER BY id DESC LIMIT ?`,
	).all(most)
}

/** Id of the latest event of all: when it is the same, no person has changed anything meanwhile. */
export const latestEventId = ({ sql }: Books): number =>
	sql<[], { id: number | null }>('SELECT max(id) AS id FROM event').get()?.id ?? 0
