import { existsSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import Database from 'better-sqlite3'
import type { SheetRow } from '@/intake/cell'
import type { Rows } from '@/intake/rows'

// What was made of a file, beside the books: its rows, what was refused, what it would bring. All of it can be made again from the file, so
// that it may be lost; and reading a long file keeps nobody from writing in the books.

const tables = `
-- Rows stand in blocks of some hundred, JSON, by the number of the last.
CREATE TABLE IF NOT EXISTS block (last INTEGER PRIMARY KEY, rows TEXT NOT NULL, count INTEGER NOT NULL) STRICT;
CREATE TABLE IF NOT EXISTS refusal (
	id INTEGER PRIMARY KEY, row INTEGER NOT NULL, field TEXT NOT NULL, place INTEGER, column_name TEXT NOT NULL, value TEXT NOT NULL, remedy TEXT NOT NULL, offers TEXT NOT NULL,
	-- Set where nothing is wrong with the row itself: another of its order was refused.
	follows TEXT NOT NULL DEFAULT ''
) STRICT;
CREATE INDEX IF NOT EXISTS refusal_row ON refusal (row);
CREATE TABLE IF NOT EXISTS left_row (row INTEGER PRIMARY KEY, why TEXT NOT NULL) STRICT;
CREATE TABLE IF NOT EXISTS record (
	seq INTEGER PRIMARY KEY, key TEXT NOT NULL, first_row INTEGER NOT NULL, standing TEXT NOT NULL, brief TEXT NOT NULL, body TEXT NOT NULL,
	said TEXT NOT NULL DEFAULT ''
) STRICT;
CREATE INDEX IF NOT EXISTS record_standing ON record (standing, seq);
-- Orders as the books take them, so that they go over without being looked at one by one. \`words\`: what it changes, or why it is asked about.
CREATE TABLE IF NOT EXISTS staged_order (
	seq INTEGER PRIMARY KEY, standing TEXT NOT NULL, first_row INTEGER NOT NULL, replaces INTEGER, words TEXT NOT NULL,
	number TEXT NOT NULL, apart TEXT NOT NULL, customer_id INTEGER NOT NULL, day TEXT NOT NULL, currency TEXT NOT NULL, purchase_order TEXT NOT NULL,
	note TEXT NOT NULL, discount_percent TEXT NOT NULL, discount_amount TEXT NOT NULL, discount_label TEXT NOT NULL, freight TEXT NOT NULL, freight_percent TEXT NOT NULL,
	delivery TEXT NOT NULL, own TEXT NOT NULL, looked_up TEXT NOT NULL, same_as TEXT NOT NULL, net INTEGER NOT NULL, line_count INTEGER NOT NULL
) STRICT;
CREATE INDEX IF NOT EXISTS staged_order_standing ON staged_order (standing, seq) WHERE standing <> 'new';
CREATE TABLE IF NOT EXISTS staged_line (
	-- The order's place and the line's in it, as one number (linePlace), so that lines are only ever added at the end.
	id INTEGER PRIMARY KEY, position INTEGER NOT NULL, source_row INTEGER NOT NULL, item_code TEXT NOT NULL, description TEXT NOT NULL, quantity TEXT NOT NULL,
	unit TEXT NOT NULL, unit_price TEXT, price_per TEXT NOT NULL, discount_percent TEXT NOT NULL, discount_amount TEXT NOT NULL, tax_code TEXT NOT NULL,
	own TEXT NOT NULL, looked_up TEXT NOT NULL
) STRICT;
CREATE TABLE IF NOT EXISTS meta (key TEXT PRIMARY KEY, value TEXT NOT NULL) STRICT;
`

export type Staging = { db: Database.Database; close: () => void }

// Columns that staging files made by an earlier version do not have yet.
const addedColumns = [
	['staged_order', 'discount_amount'],
	['record', 'said'],
	['refusal', 'follows'],
] as const
function addColumn(db: Database.Database, table: string, column: string): void {
	const columns = db.pragma(`table_info(${table})`) as { name: string }[]
	if (columns.length > 0 && columns.every(({ name }) => name !== column))
		db.exec(`ALTER TABLE ${table} ADD COLUMN ${column} TEXT NOT NULL DEFAULT ''`)
}

const pathOf = (folder: string, fileId: number) => join(folder, 'reading', `${fileId}.db`)

/** Opens the staging file of a file that was brought in, and makes it when there is none. @param fresh begin from nothing */
export function openStaging(folder: string, fileId: number, fresh = false): Staging {
	const path = pathOf(folder, fileId)
	if (fresh) dropStaging(folder, fileId)
	const db = new Database(path, { timeout: 20_000 })
	db.pragma('journal_mode = WAL')
	db.pragma('synchronous = OFF')
	db.pragma('cache_size = -32000')
	for (const [table, column] of addedColumns) addColumn(db, table, column)
	db.exec(tables)
	return { db, close: () => db.close() }
}

/** Whether a file has been read into a staging file. */
export const hasStaging = (folder: string, fileId: number): boolean => existsSync(pathOf(folder, fileId))

/** Takes away the staging file of a file, if there is one. */
export function dropStaging(folder: string, fileId: number): void {
	for (const end of ['', '-wal', '-shm']) rmSync(`${pathOf(folder, fileId)}${end}`, { force: true })
}

/** Writes in steps of many statements. */
export function stepped(db: Database.Database, batch: number) {
	let open = 0
	const end = () => {
		if (db.inTransaction) db.exec('COMMIT')
		open = 0
	}
	return {
		write: (work: () => void) => {
			if (!db.inTransaction) db.exec('BEGIN IMMEDIATE')
			work()
			if (++open >= batch) end()
		},
		end,
	}
}

const blockSize = 500
/** A row in a block: its number, its cells, its lines where it is nested (else null), and its trouble. */
type Kept = [number, SheetRow['cells'], (SheetRow['lines'] | null)?, string?]
const asRow = ([row, cells, lines, trouble]: Kept): SheetRow => {
	if (trouble) return lines ? { row, cells, lines, trouble } : { row, cells, trouble }
	return lines ? { row, cells, lines } : { row, cells }
}
const asKept = ({ row, cells, lines, trouble }: SheetRow): Kept =>
	trouble ? [row, cells, lines ?? null, trouble] : lines ? [row, cells, lines] : [row, cells]

/** Keeps rows as they are read. */
export function rowKeeper({ db }: Staging) {
	const steps = stepped(db, 40)
	const insert = db.prepare<[number, string, number]>('INSERT INTO block (last, rows, count) VALUES (?, ?, ?)')
	let block: Kept[] = []
	const put = () => {
		const [last] = block.at(-1) ?? []
		if (last === undefined) return
		const [text, count] = [JSON.stringify(block), block.length]
		steps.write(() => insert.run(last, text, count))
		block = []
	}
	return {
		add: (row: SheetRow) => {
			block.push(asKept(row))
			if (block.length >= blockSize) put()
		},
		end: () => {
			put()
			steps.end()
			setMeta({ db, close: () => {} }, 'rows', 'whole')
		},
	}
}

function setMeta({ db }: Staging, key: string, value: string): void {
	db.prepare<[string, string]>('INSERT OR REPLACE INTO meta (key, value) VALUES (?, ?)').run(key, value)
}
const meta = ({ db }: Staging, key: string): string | null =>
	db.prepare<[string], { value: string }>('SELECT value FROM meta WHERE key = ?').get(key)?.value ?? null

/** Whether all rows of the file are here; a reading that was torn has left some. */
export const isWhole = (staging: Staging): boolean => meta(staging, 'rows') !== null

/** How many rows are kept. */
export const rowCount = ({ db }: Staging): number =>
	db.prepare<[], { n: number }>('SELECT coalesce(sum(count), 0) AS n FROM block').get()?.n ?? 0

/** The rows that are kept. */
export function rowsIn({ db }: Staging): Rows {
	const following = db.prepare<[number], { last: number; rows: string }>(
		'SELECT last, rows FROM block WHERE last >= ? ORDER BY last LIMIT 1',
	)
	const blockFrom = (row: number): { last: number; rows: Kept[] } | null => {
		const found = following.get(row)
		return found ? { last: found.last, rows: JSON.parse(found.rows) } : null
	}
	function* each() {
		for (let block = blockFrom(0); block; block = blockFrom(block.last + 1))
			for (const kept of block.rows) yield asRow(kept)
	}
	return {
		last: db.prepare<[], { last: number | null }>('SELECT max(last) AS last FROM block').get()?.last ?? 0,
		each,
		get: (row) => {
			const kept = blockFrom(row)?.rows.find(([number]) => number === row)
			return kept && asRow(kept)
		},
		// Each as short text in memory, since they would be looked for in blocks all over the place.
		anywhere: () => {
			const texts: string[] = []
			for (const row of each()) texts[row.row] = JSON.stringify(asKept(row))
			return (row) => {
				const text = texts[row]
				return text === undefined ? undefined : asRow(JSON.parse(text))
			}
		},
	}
}

/** Where the staging file is kept, for a line to the books that takes over from it. */
export const stagingPath = pathOf
