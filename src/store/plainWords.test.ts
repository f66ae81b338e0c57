import { expect, test } from 'vitest'
import { stated } from '../../tests/stated'
import { plainWords } from './plainWords'

type Column = { name: string; pk: number }

test('whatever the database refuses, of every table and column, a clerk reads a sentence with a reference', async () => {
	const { books } = await stated()
	const { db } = books
	const tables = db
		.prepare<[], string>(`SELECT name FROM sqlite_schema WHERE type = 'table' AND name NOT LIKE 'sqlite_%'`)
		.pluck()
		.all()
	const codes = new Set<string>()
	const refused = new Set<string>()
	const logged: string[] = []
	const attempt = (table: string, sql: string) => {
		try {
			db.transaction(() => {
				db.exec(sql)
				throw new Error('undone')
			})()
		} catch (error) {
			if (!(error instanceof Error) || !('code' in error)) return
			codes.add(String(error.code))
			refused.add(table)
			const words = plainWords(error, (reference) => logged.push(reference))
			expect(words).toContain(logged.at(-1))
			expect(words).not.toMatch(/SQLITE|constraint|UNIQUE|NULL|CHECK/i)
			for (const part of error.message.match(/\w+[._]\w+/g) ?? []) expect(words).not.toContain(part)
		}
	}
	for (const table of tables) {
		attempt(table, `INSERT INTO ${table} DEFAULT VALUES`)
		attempt(table, `DELETE FROM ${table}`)
		attempt(table, `INSERT INTO ${table} SELECT * FROM ${table}`)
		for (const { name } of db.pragma(`table_info(${table})`) as Column[])
			for (const value of ['NULL', "'nonsense'", '-7', '999999999', `(SELECT max(${name}) FROM ${table})`])
				attempt(table, `UPDATE ${table} SET ${name} = ${value}`)
	}
	// Every kind of refusal that the tables have was met, and every table refuses something.
	for (const code of ['NOTNULL', 'CHECK', 'UNIQUE', 'FOREIGNKEY', 'TRIGGER', 'DATATYPE'])
		expect([code, codes.has(`SQLITE_CONSTRAINT_${code}`)]).toEqual([code, true])
	expect(tables.filter((table) => !refused.has(table))).toEqual([])
})

test('a disk that is full says what to do, and an error with words of its own keeps them', () => {
	const full = Object.assign(new Error('database or disk is full'), { code: 'SQLITE_FULL' })
	expect(plainWords(full)).toContain('Try again')
	expect(plainWords(new Error('Line 1 cannot be read.'))).toBe('Line 1 cannot be read.')
})
