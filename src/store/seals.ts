import { createHash } from 'node:crypto'
import type Database from 'better-sqlite3'

// Each row of a sealed table has a seal of what it says, written within the step that wrote the row, with the event which that step recorded.

type Db = Database.Database

/**
 * Tables whose rows have no seal, each with what holds them instead. All others are sealed: a new table is, until it is named here.
 * What is here is either compared with what determines it (`verify`), or is work that nothing hangs on.
 */
export const unsealed = {
	event: 'sealed one after the other',
	row_seal: 'the seals themselves',
	document: 'compared with its content, its orders, the ledger and its register',
	document_content: 'compared with the hash that the record has of it, and priced anew',
	sales_order: 'compared with the document that bills it',
	order_line: 'compared with the document that bills it',
	run_order: 'compared with what the documents of the run came to',
	ledger_item: 'compared with its document, and with what was applied',
	finding: 'what checks find of a draft, found anew whenever it is looked at',
	job: 'what the runner has to do',
	row_taken: 'which row of a file was taken before',
	extract_row: 'what an extract said of an item',
	account_moves: 'how often something was written',
	statement_look: 'when a statement was found true; it is looked at again without it',
} as const satisfies Record<string, string>

/** Tables that are written in steps of no act too, each with what tells of them instead; a change of any other that no act recorded is a fault. */
const withoutAct: Record<string, string> = {
	message: 'its attempts',
	message_copy: 'its attempts',
	attempt: 'says by itself who tried what and when',
	document_file: 'the run has made its files',
	source_file: 'how far it was read and accepted; what a person did with it is recorded',
	source_part: 'a file as it comes in',
	acceptance: 'how far a file was accepted',
	run: 'how far its drafts were looked at again',
	layout: 'which step of a layout in the making is the last',
	layout_draft: 'a layout in the making',
	layout_step: 'says by itself who did what on a layout, and when',
	form: 'how far it was read',
	form_answer: 'says by itself who answered what, and when',
	image: 'goes by the hash of its bytes',
}

type Sealed = {
	name: string
	/** The columns of its key, by their order in it. */
	key: string[]
	columns: string[]
}

/** The tables whose rows are sealed. */
export function sealedTables(db: Db): Sealed[] {
	const names = db
		.prepare<[], string>(
			`SELECT name FROM sqlite_schema WHERE type = 'table' AND name NOT LIKE 'sqlite_%' ORDER BY name`,
		)
		.pluck()
		.all()
	return names
		.filter((name) => !(name in unsealed))
		.map((name) => {
			const columns = db.pragma(`table_info(${name})`) as { name: string; pk: number }[]
			const key = columns.filter(({ pk }) => pk > 0).sort((a, b) => a.pk - b.pk)
			return { name, key: key.map((column) => column.name), columns: columns.map((column) => column.name) }
		})
}

const keyIn = (row: string, { key }: Sealed): string =>
	`json_array(${key.map((column) => `${row}${column}`).join(', ')})`

/** That row `r` is the one of a key, found by its index. */
const rowOf = ({ key: columns }: Sealed, key: string): string =>
	columns.map((column, place) => `r.${column} = json_extract(${key}, '$[${place}]')`).join(' AND ')

type Value = string | number | null | Buffer
/** What a row says, in short. */
function sealOf(values: readonly Value[]): string {
	const said = values.map((value) =>
		Buffer.isBuffer(value) ? createHash('sha256').update(value).digest('hex') : value,
	)
	return createHash('sha256').update(JSON.stringify(said)).digest('hex').slice(0, 32)
}

const sealers = new WeakMap<Db, () => void>()

/**
 * Has every row that is written from now on sealed as its step ends (`sealStep`).
 * @returns says that the books are open: what was written before is what they begin with, and needs no event
 */
export function keepSeals(db: Db): () => void {
	const tables = sealedTables(db)
	db.exec('CREATE TEMP TABLE touched (name TEXT NOT NULL, key TEXT NOT NULL, PRIMARY KEY (name, key)) WITHOUT ROWID')
	const note = (name: string, key: string) =>
		`INSERT INTO touched SELECT '${name}', ${key} WHERE NOT EXISTS (SELECT 1 FROM touched t WHERE t.name = '${name}' AND t.key = ${key});`
	for (const table of tables) {
		const { name } = table
		const [before, after] = [keyIn('OLD.', table), keyIn('NEW.', table)]
		db.exec(`CREATE TEMP TRIGGER added_${name} AFTER INSERT ON main.${name} BEGIN ${note(name, after)} END;
			CREATE TEMP TRIGGER changed_${name} AFTER UPDATE ON main.${name} BEGIN ${note(name, before)} ${note(name, after)} END;
			CREATE TEMP TRIGGER gone_${name} AFTER DELETE ON main.${name} BEGIN ${note(name, before)} END;`)
	}
	db.exec(`CREATE TEMP TRIGGER recorded AFTER INSERT ON main.event BEGIN ${note('event', `CAST(NEW.id AS TEXT)`)} END;`)
	const some = db.prepare<[], string>('SELECT DISTINCT name FROM touched').pluck()
	const event = db
		.prepare<[], number | null>(`SELECT max(CAST(key AS INTEGER)) FROM touched WHERE name = 'event'`)
		.pluck()
	const put = db.prepare<[string, string, string, number | null]>(
		'REPLACE INTO row_seal (name, key, seal, event_id) VALUES (?, ?, ?, ?)',
	)
	const clear = db.prepare('DELETE FROM touched')
	const readers = new Map<string, { rows: Database.Statement<[], Value[]>; gone: Database.Statement<[]> }>()
	const readerOf = (table: Sealed) => {
		const known = readers.get(table.name)
		if (known) return known
		const { name } = table
		const of = (key: string) => rowOf(table, key)
		const made = {
			rows: db
				.prepare<[], Value[]>(
					`SELECT t.key, ${table.columns.map((column) => `r.${column}`).join(', ')} FROM touched t JOIN ${name} r ON ${of('t.key')} WHERE t.name = '${name}'`,
				)
				.raw(),
			gone: db.prepare<[]>(
				`DELETE FROM row_seal WHERE name = '${name}' AND key IN (SELECT key FROM touched WHERE name = '${name}')
					AND NOT EXISTS (SELECT 1 FROM ${name} r WHERE ${of('row_seal.key')})`,
			),
		}
		readers.set(table.name, made)
		return made
	}
	let beginning = true
	sealers.set(db, () => {
		const names = new Set(some.all())
		if (names.size === 0) return
		const by = event.get() ?? (beginning ? 0 : null)
		for (const table of tables) {
			if (!names.has(table.name)) continue
			const { rows, gone: without } = readerOf(table)
			without.run()
			for (const [key, ...values] of rows.all()) put.run(table.name, String(key), sealOf(values), by)
		}
		clear.run()
	})
	return () => {
		beginning = false
	}
}

/** Seals what the step wrote, within it. */
export const sealStep = (db: Db): void => sealers.get(db)?.()

/** Seals all rows as they stand: of books that are new, or from before there were seals. The connection must allow writing while it reads. */
export function sealAll(db: Db): void {
	db.exec('DELETE FROM row_seal')
	const put = db.prepare<[string, string, string]>(
		'INSERT INTO row_seal (name, key, seal, event_id) VALUES (?, ?, ?, 0)',
	)
	for (const table of sealedTables(db)) {
		const rows = db.prepare<[], Value[]>(`SELECT ${keyIn('', table)}, ${table.columns.join(', ')} FROM ${table.name}`)
		for (const [key, ...values] of rows.raw().iterate()) put.run(table.name, String(key), sealOf(values))
	}
}

type Left = {
	key: string
	seal: string | null
	event: number | null
	clerk: string | null
	at: string | null
	act: string | null
}
const leftColumns = 's.seal, s.event_id, e.clerk, e.at, e.act'
const leftOf = ([key, seal, event, clerk, at, act]: Value[]): Left => ({ key, seal, event, clerk, at, act }) as Left

/** Rows that are otherwise than they were left, and rows that no act recorded. */
export function sealFaults({ db }: { db: Db }): { looked: number; wrong: string[] } {
	const wrong: string[] = []
	let looked = 0
	for (const table of sealedTables(db)) {
		const { name, columns } = table
		const what = (key: string) => `${name.replaceAll('_', ' ')} ${(JSON.parse(key) as Value[]).join(', ')}`
		const rows = db.prepare<[], Value[]>(
			`SELECT ${keyIn('r.', table)}, ${leftColumns}, ${columns.map((column) => `r.${column}`).join(', ')}
			 FROM ${name} r LEFT JOIN row_seal s ON s.name = '${name}' AND s.key = ${keyIn('r.', table)} LEFT JOIN event e ON e.id = s.event_id`,
		)
		for (const row of rows.raw().iterate()) {
			looked++
			const left = leftOf(row)
			const said = faultOf(left, sealOf(row.slice(6)), name)
			if (said) wrong.push(`${what(left.key)} ${said}`)
		}
		const gone = db.prepare<[], Value[]>(
			`SELECT s.key, ${leftColumns} FROM row_seal s LEFT JOIN event e ON e.id = s.event_id
			 WHERE s.name = '${name}' AND NOT EXISTS (SELECT 1 FROM ${name} r WHERE ${rowOf(table, 's.key')})`,
		)
		for (const row of gone.raw().iterate()) {
			const left = leftOf(row)
			wrong.push(`${what(left.key)} is gone, and no act took it away${byWhom(left)}`)
		}
	}
	return { looked, wrong }
}

/** What is wrong with a row beside how it was left; empty for nothing. */
function faultOf(left: Left, seal: string, name: string): string {
	if (left.seal === null) return 'was put in by no act'
	if (left.seal !== seal) return `is not as it was left${byWhom(left)}`
	if (left.event === null) return name in withoutAct ? '' : 'was changed, and the record says nothing of it'
	return left.event !== 0 && left.clerk === null ? 'was changed with an event that is gone' : ''
}

const byWhom = ({ clerk, at, act }: Left): string => (clerk === null ? '' : ` by ${clerk} at ${at} (${act})`)
