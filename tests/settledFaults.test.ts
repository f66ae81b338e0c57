import { expect, test } from 'vitest'
import { inOneStep } from '@/store/books'
import { record } from '@/store/events'
import { sealedTables, sealFaults, unsealed } from '@/store/seals'
import { openState, states } from './ofState'
import { desk } from './support'

// All that is settled rather than in work: every column of every table is sealed, but for the tables that are named with what holds them.

test('whatever is settled is seen when any column of it is changed or emptied, a row is gone, or one is put in', () => {
	const { books } = openState(Math.max(...states))
	const { db } = books
	expect(sealFaults(books)).toEqual({ looked: expect.any(Number), wrong: [] })
	db.pragma('foreign_keys = OFF')
	db.pragma('ignore_check_constraints = ON')
	const triggers = db.prepare<[], string>(`SELECT name FROM sqlite_schema WHERE type = 'trigger'`).pluck().all()
	for (const name of triggers) db.exec(`DROP TRIGGER ${name}`)
	const tables = sealedTables(db).map((table) => ({
		...table,
		columns: db.pragma(`table_info(${table.name})`) as { name: string; type: string; notnull: number; pk: number }[],
		rows: db.prepare<[], number>(`SELECT count(*) FROM ${table.name}`).pluck().get() ?? 0,
	}))
	const all = db
		.prepare<[], string>(`SELECT name FROM sqlite_schema WHERE type = 'table' AND name NOT LIKE 'sqlite_%'`)
		.pluck()
		.all()
	expect([...tables.map(({ name }) => name), ...Object.keys(unsealed)].sort()).toEqual(all.sort())

	const plain = (type: string) => (type === 'INTEGER' || type === 'REAL' ? '7' : type === 'BLOB' ? `x'07'` : `'seven'`)
	// Tables that this month left empty get a row by an act.
	inOneStep(books, () => {
		record(books, desk, { subject: 'setting', id: 'all', act: 'put in what was missing' })
		for (const { name, columns, rows } of tables)
			if (rows === 0)
				db.exec(
					`INSERT INTO ${name} (${columns.map((column) => column.name).join(', ')}) VALUES (${columns.map(({ type }) => plain(type)).join(', ')})`,
				)
	})
	expect(sealFaults(books).wrong).toEqual([])

	/** Plants one fault in each table, looks, and takes them back; says which were planted and which of them were not seen. */
	const plant = (faults: { name: string; sql: string }[]): number => {
		const planted: string[] = []
		db.exec('SAVEPOINT faults')
		for (const { name, sql } of faults) if (db.prepare(sql).run().changes > 0) planted.push(name)
		const seen = sealFaults(books).wrong.join('\n')
		db.exec('ROLLBACK TO faults; RELEASE faults')
		expect(planted.filter((name) => !seen.includes(`${name.replaceAll('_', ' ')} `))).toEqual([])
		return planted.length
	}
	let planted = 0
	const one = (table: (typeof tables)[number]) =>
		`(${table.key.join(', ')}) IN (SELECT ${table.key.join(', ')} FROM ${table.name} ORDER BY ${table.key.join(', ')} LIMIT 1)`
	const most = Math.max(...tables.map(({ columns }) => columns.length))
	for (let place = 0; place < most; place++) {
		const here = tables.flatMap((table) => {
			const column = table.columns[place]
			return column ? [{ ...table, column, where: one(table) }] : []
		})
		planted += plant(
			here.map(({ name, column: { name: column, type }, where }) => {
				const other =
					type === 'INTEGER' || type === 'REAL'
						? `coalesce(${column}, 0) + 1`
						: type === 'BLOB'
							? `x'0708'`
							: `coalesce(${column}, '') || 'x'`
				return { name, sql: `UPDATE OR IGNORE ${name} SET ${column} = ${other} WHERE ${where}` }
			}),
		)
		planted += plant(
			here.map(({ name, column: { name: column, type, notnull, pk }, where }) => {
				const empty =
					notnull === 0 && pk === 0
						? 'NULL'
						: type === 'INTEGER' || type === 'REAL'
							? '0'
							: type === 'BLOB'
								? `x''`
								: `''`
				return {
					name,
					sql: `UPDATE OR IGNORE ${name} SET ${column} = ${empty} WHERE ${where} AND ${column} IS NOT ${empty}`,
				}
			}),
		)
	}
	planted += plant(tables.map((table) => ({ name: table.name, sql: `DELETE FROM ${table.name} WHERE ${one(table)}` })))
	planted += plant(
		tables.map((table) => {
			const columns = table.columns.map(({ name }) => name)
			const changed = table.columns.map(({ name, type, pk }) =>
				pk === 0 ? name : type === 'INTEGER' ? `${name} + 1000` : `${name} || 'x'`,
			)
			return {
				name: table.name,
				sql: `INSERT OR IGNORE INTO ${table.name} (${columns.join(', ')}) SELECT ${changed.join(', ')} FROM ${table.name} WHERE ${one(table)}`,
			}
		}),
	)
	for (const fault of [
		`DELETE FROM row_seal`,
		`UPDATE row_seal SET seal = seal || 'x'`,
		'UPDATE row_seal SET event_id = 9999',
	])
		planted += plant([{ name: 'customer', sql: `${fault} WHERE name = 'customer'` }])
	expect(planted).toBeGreaterThan(600)
	expect(sealFaults(books).wrong).toEqual([])
})
