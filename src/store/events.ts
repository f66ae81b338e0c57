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
	sql<[string, string, string, string, string, string, string | null, string | null]>(
		`INSERT INTO event (at, clerk, subject, subject_id, act, detail, before, after) VALUES (?, ?, ?, ?, ?, ?, ?, ?)`,
	).run(desk.now(), desk.clerk, subject, String(id), act, detail, kept(before), kept(after))
}

/** What happened to one thing, the newest first. */
export function eventsOf({ sql }: Books, subject: Subject, id: string | number, most = 200): EventRow[] {
	return sql<[string, string, number], EventRow>(
		`SELECT id, at, clerk, act, detail, before, after FROM event
		 WHERE subject = ? AND subject_id = ? ORDER BY id DESC LIMIT ?`,
	).all(subject, String(id), most)
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
