import { chmodSync, mkdirSync, readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { isMainThread } from 'node:worker_threads'
import Database from 'better-sqlite3'
import { type Books, inOneStep, type Sql } from './books'
import { bringLooks } from './layouts'
import { bringPlaces } from './places'
import { keepSeals, sealAll } from './seals'
import { movePasswordOut } from './secrets'

const migrationsFolder = () => join(process.env.NORTH_TALLY_ROOT ?? process.cwd(), 'src/store/migrations')

const migrations = () =>
	readdirSync(migrationsFolder())
		.filter((name) => name.endsWith('.sql'))
		.sort()

/** The version of books that this program makes. */
export const newestVersion = (): number => migrations().length

/** Where the books are when nothing else is said. */
export const dataFolder = (): string => process.env.NORTH_TALLY_DATA ?? join(process.cwd(), 'data')

/** Why books cannot be opened, and what to do. */
export class BooksFault extends Error {}

/** Ms that a step waits for another process that is writing. */
const patience = Number(process.env.NORTH_TALLY_PATIENCE ?? 20_000)

/**
 * Opens the books in `folder`, makes them when there are none, and brings their tables up to date. They are for their owner alone.
 * @throws {BooksFault} where they are damaged or of a newer version
 */
export function openBooks(folder = dataFolder()): Books {
	// A worker thread has the mask of its process.
	if (isMainThread) process.umask(0o077)
	for (const part of ['files', 'logs', 'reading'])
		mkdirSync(join(/*turbopackIgnore: true*/ folder, part), { recursive: true })
	chmodSync(folder, 0o700)
	const file = join(folder, 'north-tally.db')
	try {
		return opened(file, folder)
	} catch (error) {
		const code = error instanceof Error && 'code' in error ? String(error.code) : ''
		if (/^SQLITE_(NOTADB|CORRUPT)/.test(code)) throw new BooksFault(damaged(file, String(error)))
		throw error
	}
}

const damaged = (file: string, what: string) =>
	`${file} is damaged (${what.replace(/^\w*Error: /, '')}). Keep it aside, and lay a backup out in a new folder: npm run tally -- restore FILE --data FOLDER.`

/** Whether the file of the books holds together (PRAGMA quick_check). @throws {BooksFault} where it does not */
export function lookIfSound({ db, folder }: Books): void {
	const [first] = db.pragma('quick_check(1)') as { quick_check: string }[]
	if (first?.quick_check !== 'ok')
		throw new BooksFault(damaged(join(folder, 'north-tally.db'), first?.quick_check.split('\n')[0] ?? 'no answer'))
}

function opened(file: string, folder: string): Books {
	const db = new Database(file, { timeout: patience })
	chmodSync(file, 0o600)
	db.pragma('journal_mode = WAL')
	// What the world outside learns of is on disk first: numbers that were given, messages that are leaving, answers (docs/decisions.md).
	db.pragma('synchronous = FULL')
	// A run of ten thousand is one transaction: its pages should not be written out in the middle of it.
	db.pragma('cache_size = -96000')
	db.pragma('temp_store = MEMORY')
	// Tables that are declared anew are let go of what points to them while that is done; all is checked before it counts.
	db.pragma('foreign_keys = OFF')
	migrate(db)
	bringPlaces(db)
	db.pragma('foreign_keys = ON')
	const open = keepSeals(db)
	movePasswordOut({ db, folder })
	const statements = new Map<string, Database.Statement<never[], never>>()
	const sql = (text: string) => {
		const known = statements.get(text)
		if (known) return known
		const statement = db.prepare<never[], never>(text)
		if (!statement.readonly) asStep(db, statement)
		statements.set(text, statement)
		return statement
	}
	const books: Books = { db, folder, sql: sql as Sql }
	bringLooks(books)
	open()
	return books
}

/** A statement that writes outside a step is a step of its own, so that it is sealed as any. */
function asStep(db: Database.Database, statement: Database.Statement<never[], never>): void {
	for (const how of ['run', 'get', 'all'] as const) {
		const own = statement[how].bind(statement) as (...values: never[]) => never
		statement[how] = (...values: never[]) =>
			db.inTransaction ? own(...values) : inOneStep({ db }, () => own(...values))
	}
}

function migrate(db: Database.Database): void {
	const files = migrations()
	const done = () => Number(db.pragma('user_version', { simple: true }))
	if (done() > files.length) throw new BooksFault('These books were made by a newer North Tally. Start that one.')
	if (done() === files.length) return
	// Changing how a table is declared, which `neverReuseIds` does, is refused otherwise.
	db.unsafeMode(true)
	try {
		db.transaction(() => {
			for (const name of files.slice(done())) db.exec(readFileSync(join(migrationsFolder(), name), 'utf8'))
			neverReuseIds(db)
			// A table that is made anew lets go of what points to it for as long as that takes.
			const [torn] = db.pragma('foreign_key_check') as { table: string; parent: string }[]
			if (torn) throw new Error(`A row of ${torn.table} points to none of ${torn.parent}. Nothing was changed.`)
			sealAll(db)
			db.pragma(`user_version = ${files.length}`)
		}).exclusive()
	} finally {
		db.unsafeMode(false)
	}
}

const plainId = 'id INTEGER PRIMARY KEY,'

/**
 * Declares the ids of every table as AUTOINCREMENT, so that none is given twice, also when the row that had it is gone. It changes nothing in
 * the file but the declaration and the highest id of each (sqlite.org/lang_altertable.html, other kinds of table schema changes).
 */
function neverReuseIds(db: Database.Database): void {
	const tables = db
		.prepare<[], { name: string }>(`SELECT name FROM sqlite_schema WHERE type = 'table' AND sql LIKE '%${plainId}%'`)
		.all()
	if (tables.length === 0) return
	db.exec('CREATE TABLE first_of_its_kind (id INTEGER PRIMARY KEY AUTOINCREMENT); DROP TABLE first_of_its_kind;')
	db.pragma('writable_schema = ON')
	db.prepare(
		`UPDATE sqlite_schema SET sql = replace(sql, '${plainId}', 'id INTEGER PRIMARY KEY AUTOINCREMENT,') WHERE type = 'table' AND sql LIKE '%${plainId}%'`,
	).run()
	db.pragma('writable_schema = RESET')
	for (const { name } of tables) {
		db.prepare(`INSERT INTO sqlite_sequence (name, seq) SELECT ?, coalesce(max(id), 0) FROM ${name}`).run(name)
	}
}
