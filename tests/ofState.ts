import { mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { gunzipSync } from 'node:zlib'
import Database from 'better-sqlite3'
import { openBooks } from '@/store/openBooks'
import { opened } from './support'

// Books of the demo firm as the program of each state of its tables made them: a month's invoices and messages, an extract, credit notes
// (one of them void, one a draft), and from the states on that have them layouts, a form, and papers of other kinds. The number in a
// file's name is that state's. A state that is made later adds its own: see CONTRIBUTING, "a migration".
const folder = join(import.meta.dirname, 'books/states')
export const states = readdirSync(folder).map((file) => Number(file.slice(0, 3)))

/** Books of a state, brought up to date; with what they were before. */
export function openState(state: number) {
	const data = mkdtempSync(join(tmpdir(), 'north-tally-state-'))
	writeFileSync(
		join(data, 'north-tally.db'),
		gunzipSync(readFileSync(join(folder, `${String(state).padStart(3, '0')}.db.gz`))),
	)
	const before = new Database(join(data, 'north-tally.db'), { readonly: true })
	const version = before.pragma('user_version', { simple: true })
	const count = 'SELECT count(*) FROM document WHERE number IS NOT NULL'
	const issued = before.prepare<[], number>(count).pluck().get()
	before.close()
	const books = openBooks(data)
	opened.push(books)
	return { books, version, issued, now: books.db.prepare<[], number>(count).pluck().get() }
}
