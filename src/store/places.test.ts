import Database from 'better-sqlite3'
import { expect, test } from 'vitest'
import { type Place, placeRules, places, placesWhere, stepNames } from '@/core/places'
import { nextAct } from '@/runs/tally/tally'
import { bringPlaces, isDone, stands } from './places'

type Row = Partial<Record<(typeof columns)[number], string | number | null>>
const columns = [
	...['dropped_at', 'void_at', 'replaced_at', 'number', 'held_reason', 'level', 'made_at', 'printed_at'],
	...['only_filed_at', 'email', 'message_held'],
] as const
type Message = { state: string; kept_back?: string; due_at?: string }

/** Books of nothing but what places go by. */
function bare() {
	const db = new Database(':memory:')
	db.exec(`CREATE TABLE document (id INTEGER PRIMARY KEY, ${columns.join(', ')});
		CREATE TABLE message (document_id, state, last_answer, kept_back, due_at);`)
	bringPlaces(db)
	const add = (row: Row, message?: Message) => {
		const given = { email: 'a@shore.example', level: 'clear', message_held: 0, ...row }
		const names = Object.keys(given)
		const { lastInsertRowid: id } = db
			.prepare(`INSERT INTO document (${names.join()}) VALUES (${names.map((name) => `@${name}`).join()})`)
			.run(given)
		const { state, kept_back = null, due_at = null } = message ?? {}
		if (state)
			db.prepare('INSERT INTO message VALUES (?, ?, ?, ?, ?)').run(id, state, 'the server said so', kept_back, due_at)
		return db.prepare<[number], Place>('SELECT place FROM placed WHERE id = ?').pluck().get(Number(id))
	}
	return { db, add }
}

const numbered = { number: 'T-1' }
const made = { ...numbered, made_at: 'x' }
/** What brings a document to each place. */
const ways: Record<Place, [Row, Message?]> = {
	held: [{ held_reason: 'wait', level: 'stop' }],
	stopped: [{ level: 'stop' }],
	'to number': [{ level: 'look' }],
	'to make': [numbered],
	made: [made],
	'to read': [{ ...made, message_held: 1 }],
	waiting: [made, { state: 'sending' }],
	'kept back': [made, { state: 'waiting', kept_back: 'ask first', due_at: 'x' }],
	'put off': [made, { state: 'waiting', due_at: 'x' }],
	refused: [made, { state: 'refused' }],
	unsure: [made, { state: 'unsure' }],
	'to print': [{ ...made, email: '' }],
	printed: [{ ...made, email: '', printed_at: 'x' }],
	filed: [{ ...made, only_filed_at: 'x' }],
	sent: [{ ...made, printed_at: 'x' }, { state: 'sent' }],
	void: [{ ...made, void_at: 'x', replaced_at: 'x' }, { state: 'sent' }],
	replaced: [{ ...made, replaced_at: 'x' }],
	dropped: [{ dropped_at: 'x', held_reason: 'wait' }],
}

test.each(places)('a document may be %s, and the view says so', (place) => {
	const [row, message] = ways[place]
	expect(bare().add(row, message)).toBe(place)
})

test('what was filed goes by its message once it has one', () => {
	expect(bare().add({ ...made, only_filed_at: 'x' }, { state: 'waiting' })).toBe('waiting')
})

test('books that have the view otherwise get it as it is declared, and those that have it so are left alone', () => {
	const { db } = bare()
	const view = () => db.prepare("SELECT sql FROM sqlite_schema WHERE name = 'placed'").pluck().get()
	const declared = view()
	const version = () => db.pragma('schema_version', { simple: true })
	const before = version()
	bringPlaces(db)
	expect(version()).toBe(before)
	db.exec(`DROP VIEW placed; CREATE VIEW placed AS SELECT d.*, 'made' AS place FROM document d`)
	bringPlaces(db)
	expect(view()).toBe(declared)
})

test('conditions on places say what their records say', () => {
	const { db, add } = bare()
	for (const place of places) add(...ways[place])
	const where = (condition: string) =>
		db.prepare<[], string>(`SELECT place FROM placed d WHERE ${condition} ORDER BY id`).pluck().all()
	expect(where(stands)).toEqual(placesWhere((rule) => rule.stands !== 'no'))
	expect(where(isDone)).toEqual(placesWhere((rule) => rule.stands === 'done'))
})

test('a run asks for the first step that any of its documents waits for, and is closed when none does', () => {
	const group = (place: Place, documents = 1) => ({ currency: 'GBP', place, documents, orders: documents, net: 100 })
	for (const place of places) {
		const { next } = placeRules[place]
		expect([place, nextAct([group(place, 3)]).act]).toEqual([place, next ?? 'close'])
	}
	const waiting = places.filter((place) => placeRules[place].next !== null)
	const all = waiting.map((place) => group(place))
	for (const step of stepNames.filter((name) => name !== 'close')) {
		expect(nextAct(all).act).toBe(step)
		for (const place of waiting.filter((one) => placeRules[one].next === step))
			all.splice(
				all.findIndex((one) => one.place === place),
				1,
			)
	}
	expect(all).toEqual([])
	expect(nextAct([group('sent', 2), group('held'), group('filed')])).toEqual({ act: 'close', count: 3 })
	expect(nextAct([])).toEqual({ act: 'none', count: 0 })
})
