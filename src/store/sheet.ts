import { existsSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import Database from 'better-sqlite3'
import type { SheetRow } from '@/intake/cell'
import type { IntakeOrder } from '@/intake/ordersForBooks'
import type { RowRefusal } from '@/intake/reading'
import type { Rows } from '@/intake/rows'

// What was made of a file, beside the books: its rows, what was refused, what it would bring. All of it can be made again from the file, so
// that it may be lost; and reading a long file keeps nobody from writing in the books.

const tables = `
-- Rows stand in blocks of some hundred, JSON, by the number of the last.
CREATE TABLE IF NOT EXISTS block (last INTEGER PRIMARY KEY, rows TEXT NOT NULL, count INTEGER NOT NULL) STRICT;
CREATE TABLE IF NOT EXISTS refusal (
	id INTEGER PRIMARY KEY, row INTEGER NOT NULL, field TEXT NOT NULL, place INTEGER, column_name TEXT NOT NULL, value TEXT NOT NULL, remedy TEXT NOT NULL, offers TEXT NOT NULL
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

/**
 * What a file would bring: `standing` says how it stands with the books, `brief` is what lists show (JSON), `body` the whole (JSON), `said` what
 * its row says, apart from the books.
 */
export type SheetRecord = {
	seq: number
	key: string
	first_row: number
	standing: string
	brief: string
	body: string
	said: string
}
export type Sheet = { db: Database.Database; close: () => void }

// Columns that sheets made by an earlier version do not have yet.
const addedColumns = [
	['staged_order', 'discount_amount'],
	['record', 'said'],
] as const
function addColumn(db: Database.Database, table: string, column: string): void {
	const columns = db.pragma(`table_info(${table})`) as { name: string }[]
	if (columns.length > 0 && columns.every(({ name }) => name !== column))
		db.exec(`ALTER TABLE ${table} ADD COLUMN ${column} TEXT NOT NULL DEFAULT ''`)
}

const pathOf = (folder: string, fileId: number) => join(folder, 'reading', `${fileId}.db`)

/** Opens the sheet of a file, and makes it when there is none. @param fresh begin from nothing */
export function openSheet(folder: string, fileId: number, fresh = false): Sheet {
	const path = pathOf(folder, fileId)
	if (fresh) dropSheet(folder, fileId)
	const db = new Database(path, { timeout: 20_000 })
	db.pragma('journal_mode = WAL')
	db.pragma('synchronous = OFF')
	db.pragma('cache_size = -32000')
	for (const [table, column] of addedColumns) addColumn(db, table, column)
	db.exec(tables)
	return { db, close: () => db.close() }
}

export const hasSheet = (folder: string, fileId: number): boolean => existsSync(pathOf(folder, fileId))

export function dropSheet(folder: string, fileId: number): void {
	for (const end of ['', '-wal', '-shm']) rmSync(`${pathOf(folder, fileId)}${end}`, { force: true })
}

/** Writes in steps of many statements. */
function stepped(db: Database.Database, batch: number) {
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
export function rowKeeper({ db }: Sheet) {
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

function setMeta({ db }: Sheet, key: string, value: string): void {
	db.prepare<[string, string]>('INSERT OR REPLACE INTO meta (key, value) VALUES (?, ?)').run(key, value)
}
const meta = ({ db }: Sheet, key: string): string | null =>
	db.prepare<[string], { value: string }>('SELECT value FROM meta WHERE key = ?').get(key)?.value ?? null

/** Whether all rows of the file are here; a reading that was torn has left some. */
export const isWhole = (sheet: Sheet): boolean => meta(sheet, 'rows') !== null

/** How many rows are kept. */
export const rowCount = ({ db }: Sheet): number =>
	db.prepare<[], { n: number }>('SELECT coalesce(sum(count), 0) AS n FROM block').get()?.n ?? 0

/** The rows that are kept. */
export function rowsIn({ db }: Sheet): Rows {
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

/** More than an order has lines. */
export const linesEach = 1_000_000

/** An order as the books take it, and how it stands with them. */
export type StagedOrder = {
	order: IntakeOrder
	standing: string
	firstRow: number
	/** The waiting order that it changes. */
	replaces: number | null
	words: string
	/** What tells it from another of its number. */
	apart: string
}

/** What is written of an outcome: into which table, and the values of its columns in their order. */
export type Outcome = [into: 'refusal' | 'left' | 'record' | 'order' | 'line', ...values: (string | number | null)[]]

const placesFor = (columns: string): string =>
	columns
		.split(',')
		.map(() => '?')
		.join(', ')
const into: Record<Outcome[0], string> = Object.fromEntries(
	(
		[
			['refusal', 'INSERT', 'refusal', 'row, field, place, column_name, value, remedy, offers'],
			['left', 'INSERT OR IGNORE', 'left_row', 'row, why'],
			['record', 'INSERT', 'record', 'key, first_row, standing, brief, body, said'],
			[
				'order',
				'INSERT',
				'staged_order',
				'seq, standing, first_row, replaces, words, number, apart, customer_id, day, currency, purchase_order, note, discount_percent, discount_amount, discount_label, freight, freight_percent, delivery, own, looked_up, same_as, net, line_count',
			],
			[
				'line',
				'INSERT',
				'staged_line',
				'id, position, source_row, item_code, description, quantity, unit, unit_price, price_per, discount_percent, discount_amount, tax_code, own, looked_up',
			],
		] as const
	).map(([key, how, table, columns]) => [key, `${how} INTO ${table} (${columns}) VALUES (${placesFor(columns)})`]),
) as Record<Outcome[0], string>

/** Writes outcomes into a sheet, in steps of many. */
export function outcomeWriter(db: Database.Database) {
	const steps = stepped(db, 60_000)
	const statements = Object.fromEntries(
		Object.entries(into).map(([key, text]) => [key, db.prepare<(string | number | null)[]>(text)]),
	) as Record<Outcome[0], Database.Statement<(string | number | null)[]>>
	return {
		write: (outcomes: readonly Outcome[]) => {
			for (const [key, ...values] of outcomes) steps.write(() => statements[key].run(...values))
		},
		end: steps.end,
	}
}
type OutcomeWriter = ReturnType<typeof outcomeWriter>

/** Makes a writer that writes a long sheet in a thread of its own; null where there is none. */
let threaded: ((path: string) => OutcomeWriter) | null = null
export const writeLongSheetsBy = (make: typeof threaded): void => {
	threaded = make
}
/** From how many rows on that is worth a thread. */
const longSheet = 20_000
const atOnce = 1500

/** Keeps what comes of the rows, in place of what came of them before. */
export function outcomeKeeper({ db }: Sheet, rows = 0) {
	db.exec(
		'DELETE FROM refusal; DELETE FROM left_row; DELETE FROM record; DELETE FROM staged_order; DELETE FROM staged_line;',
	)
	const writer = threaded && rows >= longSheet ? threaded(db.name) : outcomeWriter(db)
	let outcomes: Outcome[] = []
	const put = (outcome: Outcome) => {
		outcomes.push(outcome)
		if (outcomes.length < atOnce) return
		writer.write(outcomes)
		outcomes = []
	}
	let seq = 0
	return {
		order: ({ order: one, standing, firstRow, replaces, words, apart }: StagedOrder) => {
			seq++
			put([
				'order',
				seq,
				standing,
				firstRow,
				replaces,
				words,
				one.number,
				apart,
				one.customerId,
				one.day,
				one.currency,
				one.purchaseOrder,
				one.note,
				one.discountPercent,
				one.discountAmount,
				one.discountLabel,
				one.freight,
				one.freightPercent,
				one.delivery,
				one.own,
				one.lookedUp,
				one.sameAs,
				// Amounts may be longer than a number holds; the column keeps them as whole numbers all the same.
				String(one.net),
				one.lines.length,
			])
			let position = 0
			for (const each of one.lines) {
				position++
				put([
					'line',
					seq * linesEach + position,
					position,
					each.sourceRow,
					each.item,
					each.description,
					each.quantity,
					each.unit,
					each.unitPrice,
					each.pricePer,
					each.discountPercent,
					each.discountAmount,
					each.taxCode,
					each.own,
					each.lookedUp,
				])
			}
		},
		refuse: ({ row, field, place, column, value, remedy, offers }: RowRefusal) =>
			put(['refusal', row, field, place, column, value.slice(0, 300), remedy, offers ? JSON.stringify(offers) : '[]']),
		left: (row: number, why: string) => put(['left', row, why]),
		record: (one: Omit<SheetRecord, 'seq'>) =>
			put(['record', one.key, one.first_row, one.standing, one.brief, one.body, one.said]),
		end: () => {
			writer.write(outcomes)
			outcomes = []
			writer.end()
		},
		/** Ends it where something broke: what was written is taken for nothing. */
		giveUp: () => {
			try {
				writer.end()
			} catch {
				// What broke the work is told, not that it could not be put away.
			}
		},
	}
}

export type KeptRefusal = {
	id: number
	row: number
	field: string
	place: number | null
	column_name: string
	value: string
	remedy: string
	/** Values that are likely meant, JSON. */
	offers: string
}

/** Rows that were refused, in the order of the file, each with its reasons; `from` of them are passed over. */
export function refusedRows({ db }: Sheet, from: number, most: number): { row: number; reasons: KeptRefusal[] }[] {
	const rows = db
		.prepare<[number, number], { row: number }>('SELECT DISTINCT row FROM refusal ORDER BY row LIMIT ? OFFSET ?')
		.all(most, from)
	const reasons = db.prepare<[number], KeptRefusal>(
		'SELECT id, row, field, place, column_name, value, remedy, offers FROM refusal WHERE row = ? ORDER BY id',
	)
	return rows.map(({ row }) => ({ row, reasons: reasons.all(row) }))
}

export const refusedCount = ({ db }: Sheet): number =>
	db.prepare<[], { n: number }>('SELECT count(DISTINCT row) AS n FROM refusal').get()?.n ?? 0

export type Alike = {
	field: string
	place: number
	column_name: string
	value: string
	remedy: string
	rows: number
	first: number
}

/** Refusals that one correction would mend: the same value in the same column for the same reason, the most rows first. */
export const alikeRefusals = ({ db }: Sheet, most: number): Alike[] =>
	db
		.prepare<[number], Alike>(
			`SELECT field, place, column_name, value, remedy, count(DISTINCT row) AS rows, min(row) AS first FROM refusal
			 WHERE place IS NOT NULL AND value <> '' AND remedy NOT LIKE '% is refused whole, because row %'
			 GROUP BY field, place, value, remedy HAVING count(DISTINCT row) > 1 ORDER BY rows DESC, first LIMIT ?`,
		)
		.all(most)

export const leftCounts = ({ db }: Sheet): { why: string; rows: number }[] =>
	db
		.prepare<[], { why: string; rows: number }>(
			'SELECT why, count(*) AS rows FROM left_row GROUP BY why ORDER BY rows DESC',
		)
		.all()

/** Records of a standing, or of all, some at a time. */
export const recordsIn = ({ db }: Sheet, standing: string | null, after: number, most: number): SheetRecord[] =>
	standing === null
		? db
				.prepare<[number, number], SheetRecord>(
					'SELECT seq, key, first_row, standing, brief, body, said FROM record WHERE seq > ? ORDER BY seq LIMIT ?',
				)
				.all(after, most)
		: db
				.prepare<[string, number, number], SheetRecord>(
					'SELECT seq, key, first_row, standing, brief, body, said FROM record WHERE standing = ? AND seq > ? ORDER BY seq LIMIT ?',
				)
				.all(standing, after, most)

export const standingCounts = ({ db }: Sheet): Record<string, number> =>
	Object.fromEntries(
		db
			.prepare<[], { standing: string; n: number }>(
				`SELECT standing, count(*) AS n FROM record GROUP BY standing
				 UNION ALL SELECT standing, count(*) AS n FROM staged_order GROUP BY standing`,
			)
			.all()
			.map(({ standing, n }) => [standing, n]),
	)

/** What lists show of a staged order. */
export type StagedBrief = {
	seq: number
	number: string
	customer_id: number
	day: string
	currency: string
	net: number
	line_count: number
	first_row: number
	replaces: number | null
	words: string
}

/** Staged orders of a standing, some at a time. */
export const stagedOrders = ({ db }: Sheet, standing: string, after: number, most: number): StagedBrief[] =>
	db
		.prepare<[string, number, number], StagedBrief>(
			`SELECT seq, number, customer_id, day, currency, net, line_count, first_row, replaces, words FROM staged_order
			 WHERE standing = ? AND seq > ? ORDER BY seq LIMIT ?`,
		)
		.all(standing, after, most)

export const stagedCount = ({ db }: Sheet): number =>
	db.prepare<[], { n: number | null }>('SELECT max(seq) AS n FROM staged_order').get()?.n ?? 0

/** Where the sheet of a file is kept, for a line to the books that takes over from it. */
export const sheetPath = pathOf
