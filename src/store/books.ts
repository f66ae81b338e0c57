import type Database from 'better-sqlite3'
import { sealStep } from './seals'

/** One firm's books: the open database and the folder that it and its files live in. */
export type Books = { db: Database.Database; folder: string; sql: Sql }

/** Gives the prepared statement of a text, prepared once. */
export type Sql = <Params extends unknown[], Row = unknown>(text: string) => Database.Statement<Params, Row>

/**
 * Runs `work` in one transaction that takes the write lock at once, so that what it reads stays true until it has written. What it wrote is
 * sealed at its end.
 */
export function inOneStep<T>({ db }: Pick<Books, 'db'>, work: () => T): T {
	if (db.inTransaction) return work()
	return db
		.transaction(() => {
			const made = work()
			sealStep(db)
			return made
		})
		.immediate()
}

const readingOnly = new WeakSet<Database.Database>()

/** What `work` reads, all of one moment, also while another process writes. It writes nothing. */
export function inOneReading<T>({ db }: Books, work: () => T): T {
	if (db.inTransaction) return work()
	readingOnly.add(db)
	try {
		return db.transaction(work).deferred()
	} finally {
		readingOnly.delete(db)
	}
}

const kept = new WeakMap<Database.Database, { state: string; values: Map<string, unknown> }>()

/**
 * What `work` gives, kept under `key` until anything in the books changes, by this process or another (SQLite's data_version and
 * total_changes). Within a step, whose changes may yet be undone, it is worked out anew. Callers share it and leave it as it is.
 */
export function whileUnchanged<T>({ db, sql }: Books, key: string, work: () => T): T {
	if (db.inTransaction && !readingOnly.has(db)) return work()
	const own = sql<[], { changes: number }>('SELECT total_changes() AS changes').get()?.changes
	const state = `${db.pragma('data_version', { simple: true })} ${own}`
	let memory = kept.get(db)
	if (memory?.state !== state || memory.values.size > 50) {
		memory = { state, values: new Map() }
		kept.set(db, memory)
	}
	if (!memory.values.has(key)) memory.values.set(key, work())
	return memory.values.get(key) as T
}
