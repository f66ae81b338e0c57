import Database from 'better-sqlite3'
import { newestVersion } from './openBooks'

// Databases as they lie in a folder: whether they are sound, copies of them, whether they are books.

/** What SQLite finds wrong with a database (PRAGMA integrity_check); null for nothing. */
export function faultOf(file: string): string | null {
	let db: Database.Database | undefined
	try {
		db = new Database(file, { readonly: true, fileMustExist: true })
		const [first] = db.pragma('integrity_check(1)') as { integrity_check: string }[]
		return first?.integrity_check === 'ok' ? null : (first?.integrity_check.split('\n')[0] ?? 'no answer')
	} catch (error) {
		return error instanceof Error ? error.message : String(error)
	} finally {
		db?.close()
	}
}

/** A copy as of one moment, however much is written meanwhile (VACUUM INTO: one read transaction; an online backup would begin again at each write). */
function copyDatabase(from: string, to: string): void {
	const db = new Database(from, { fileMustExist: true, timeout: 20_000 })
	try {
		db.prepare('VACUUM INTO ?').run(to)
	} finally {
		db.close()
	}
}

/** Copies a database; what is wrong with it or its copy, null for nothing. */
export function copyFault(from: string, to: string): string | null {
	try {
		copyDatabase(from, to)
	} catch (error) {
		return error instanceof Error ? error.message : String(error)
	}
	return faultOf(to)
}

/** Why a sound database is not one of ours; null where it is. */
export function notBooks(file: string): string | null {
	const db = new Database(file, { readonly: true })
	try {
		const tables = db
			.prepare<[], { n: number }>(
				"SELECT count(*) AS n FROM sqlite_schema WHERE type = 'table' AND name IN ('setting', 'event', 'document', 'message')",
			)
			.get()?.n
		if (tables !== 4) return 'it has other tables than ours'
		const version = Number(db.pragma('user_version', { simple: true }))
		return version > newestVersion() ? 'it is of a newer North Tally' : null
	} finally {
		db.close()
	}
}
