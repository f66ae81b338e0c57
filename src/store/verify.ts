import { documentKinds } from '@/kinds'
import type { Books } from './books'
import { frozenBy } from './events'
import { stands } from './places'

/** What a check of `verify` came to: how many it looked at, and what is wrong, in words. */
export type Verdict = { looked: number; wrong: string[] }

const count = ({ sql }: Books, text: string): number => sql<[], { n: number }>(text).get()?.n ?? 0
const words = ({ sql }: Books, text: string): string[] =>
	sql<[], { words: string }>(text)
		.all()
		.map(({ words: found }) => found)

/** SQLite's own check of its pages and of every reference. */
export function databaseSound({ db }: Books): Verdict {
	const pages = db.pragma('integrity_check') as { integrity_check: string }[]
	const references = db.pragma('foreign_key_check') as { table: string; rowid: number }[]
	const wrong = pages.map(({ integrity_check }) => integrity_check).filter((result) => result !== 'ok')
	return {
		looked: 2,
		wrong: [...wrong, ...references.map(({ table, rowid }) => `${table} row ${rowid} refers to nothing`)],
	}
}

/** Every register, kind by kind and year by year: values rise one by one but for the stretches that a person left out, and the next is above them all. */
export function numbersWithoutGap(books: Books): Verdict {
	const wrong = words(
		books,
		`WITH given AS (SELECT register_id, register_year AS year, register_value AS value FROM document WHERE register_value IS NOT NULL),
			step AS (SELECT register_id, year, value, lead(value) OVER (PARTITION BY register_id, year ORDER BY value) AS following FROM given)
		 SELECT r.kind || ' register: after ' || value || ' comes ' || following AS words FROM step JOIN register r ON r.id = step.register_id
		 WHERE following <> value + 1 AND NOT EXISTS (
			SELECT 1 FROM register_skip s WHERE s.register_id = step.register_id AND s.year = step.year AND s.first = step.value + 1 AND s.last = step.following - 1)`,
	)
	const next = words(
		books,
		`SELECT r.kind || ' register would give ' || c.next || ' again' AS words FROM register r JOIN register_count c ON c.register_id = r.id
		 WHERE c.next <= (SELECT max(register_value) FROM document d WHERE d.register_id = r.id AND d.register_year = c.year)`,
	)
	const kinds = words(
		books,
		`SELECT d.number || ' has its number from the register of another kind' AS words FROM document d JOIN register r ON r.id = d.register_id
		 WHERE r.kind <> d.kind AND d.credits_id IS NULL`,
	)
	return {
		looked: count(books, 'SELECT count(register_value) AS n FROM document'),
		wrong: [...wrong, ...next, ...kinds],
	}
}

/** A number belongs to one document, is written as its register writes it, and its content is frozen. */
export function numbersOnce(books: Books): Verdict {
	return {
		looked: count(books, 'SELECT count(number) AS n FROM document'),
		wrong: [
			...words(
				books,
				`SELECT number || ' is on ' || count(*) || ' documents' AS words FROM document WHERE number IS NOT NULL GROUP BY number HAVING count(*) > 1`,
			),
			...words(
				books,
				`SELECT d.number || ' is not frozen, or frozen under another number' AS words FROM document d LEFT JOIN document_content c ON c.document_id = d.id
				 WHERE d.number IS NOT NULL AND (c.frozen IS NOT 1 OR coalesce(nullif(json_extract(c.content, '$.number'), ''), json_extract(c.content, '$.paper.mark'), '') || iif(d.revision > 1, ' rev. ' || d.revision, '') <> d.number)`,
			),
		],
	}
}

/** Every order that counts as billed stands on one numbered document that is valid, and what is void or revised holds none. */
export function ordersOnce(books: Books): Verdict {
	return {
		looked: count(books, 'SELECT count(*) AS n FROM sales_order WHERE joined_to IS NULL'),
		wrong: [
			...words(
				books,
				`SELECT 'order ' || o.number || ' counts as billed but stands on no numbered document' AS words
				 FROM sales_order o LEFT JOIN document d ON d.id = o.document_id WHERE o.billed = 1 AND d.number IS NULL`,
			),
			...words(
				books,
				`SELECT 'order ' || o.number || ' stands on a numbered document but does not count as billed' AS words
				 FROM sales_order o JOIN document d ON d.id = o.document_id WHERE o.billed = 0 AND d.number IS NOT NULL`,
			),
			...words(
				books,
				`SELECT 'order ' || o.number || ' stands on ' || coalesce(d.number, 'a draft') || ', which is ' || d.place AS words
				 FROM sales_order o JOIN placed d ON d.id = o.document_id WHERE d.place IN ('void', 'replaced', 'dropped')`,
			),
			...words(
				books,
				`SELECT 'order ' || o.number || ' waits, but a line of it stands on a document' AS words FROM sales_order o
				 WHERE o.run_id IS NULL AND EXISTS (SELECT 1 FROM order_line l WHERE l.order_id = o.id AND l.document_id IS NOT NULL)`,
			),
		],
	}
}

/** A line of an order with where it is by the books: its order, and whether that waits. */
type LineSource = {
	id: number
	order_id: number
	source_row: number
	number: string
	place: 'waits' | 'in a run'
}

/** Every line of every order. */
export function* allLines({ db }: Books): Generator<LineSource> {
	yield* db
		.prepare<[], LineSource>(
			`SELECT l.id, l.order_id, l.source_row, o.number, iif(o.run_id IS NULL, 'waits', 'in a run') AS place
			 FROM order_line l JOIN sales_order o ON o.id = l.order_id`,
		)
		.iterate()
}

export type Bill = {
	id: number
	number: string | null
	order_numbers: string
	content: string
	day: string
	total: number
	credits_id: number | null
}
const billColumns = 'd.id, d.number, d.order_numbers, c.content, d.day, d.total, d.credits_id'

/** Every document that bills orders and is valid: issued and standing, or a draft of an open run. */
export function* validBills({ db }: Books): Generator<Bill> {
	yield* db
		.prepare<[], Bill>(
			`SELECT ${billColumns} FROM placed d JOIN document_content c ON c.document_id = d.id JOIN run r ON r.id = d.run_id
			 WHERE d.kind IN (SELECT value FROM json_each(@kinds)) AND d.credits_id IS NULL AND ${stands} AND (d.number IS NOT NULL OR r.state = 'open') ORDER BY d.id`.replace(
				'@kinds',
				`'${JSON.stringify(documentKinds.filter(({ bills }) => bills).map(({ kind }) => kind))}'`,
			),
		)
		.iterate()
}

type Credited = { bill: Bill; notes: Bill[] }
/** One bill with its credit notes that stand and are issued; null where there is no such bill. */
export function creditedBill({ sql }: Books, id: number): Credited | null {
	const bill = sql<[number], Bill>(
		`SELECT ${billColumns} FROM document d JOIN document_content c ON c.document_id = d.id WHERE d.id = ?`,
	).get(id)
	const notes = sql<[number], Bill>(
		`SELECT ${billColumns} FROM placed d JOIN document_content c ON c.document_id = d.id
		 WHERE d.credits_id = ? AND d.number IS NOT NULL AND ${stands} ORDER BY d.id`,
	)
	return bill ? { bill, notes: notes.all(id) } : null
}

/** Bills that are credited, each with its credit notes that stand and are issued. */
export function* creditedBills(books: Books): Generator<Credited> {
	const ids = books.sql<[], { id: number }>(
		'SELECT DISTINCT credits_id AS id FROM document WHERE credits_id IS NOT NULL ORDER BY 1',
	)
	for (const { id } of ids.all()) {
		const found = creditedBill(books, id)
		if (found) yield found
	}
}

/** The ledger beside documents and applications: what stands is entered once and as issued, what is void or revised is settled by nothing but its own adjustment. */
export function ledgerHolds(books: Books): Verdict {
	return {
		looked: count(books, 'SELECT count(*) AS n FROM ledger_item'),
		wrong: [
			...words(
				books,
				`SELECT i.number || ' has ' || i.open || ' open, but ' || (i.amount - coalesce(a.applied, 0)) || ' by what was applied' AS words
				 FROM ledger_item i LEFT JOIN (
					SELECT item_id, sum(amount) AS applied FROM (
						SELECT debit_id AS item_id, amount FROM application UNION ALL SELECT credit_id, amount FROM application)
					WHERE item_id IS NOT NULL GROUP BY item_id) a ON a.item_id = i.id
				 WHERE i.open <> i.amount - coalesce(a.applied, 0)`,
			),
			...words(
				books,
				`SELECT number || ' has ' || open || ' open at the end of ' || day || ', of ' || amount AS words FROM (
					SELECT m.number, m.day, m.amount, sum(m.by) OVER (PARTITION BY m.id ORDER BY m.day) AS open FROM (
						SELECT i.id, i.number, i.amount, i.day, i.amount - coalesce((SELECT sum(amount_is - amount_was) FROM item_change h WHERE h.item_id = i.id), 0) AS by FROM ledger_item i
						UNION ALL SELECT i.id, i.number, i.amount, h.day, h.amount_is - h.amount_was FROM item_change h JOIN ledger_item i ON i.id = h.item_id
						UNION ALL SELECT i.id, i.number, i.amount, a.day, -a.amount FROM application a JOIN ledger_item i ON i.id = a.debit_id
						UNION ALL SELECT i.id, i.number, i.amount, a.day, -a.amount FROM application a JOIN ledger_item i ON i.id = a.credit_id) m)
				 WHERE open < 0 GROUP BY number, day LIMIT 50`,
			),
			...words(
				books,
				`SELECT d.number || ' is ' || d.place || ', but ' || o.number || ' is still applied to or from it' AS words
				 FROM placed d JOIN ledger_item i ON i.document_id = d.id JOIN application a ON i.id IN (a.debit_id, a.credit_id)
					JOIN ledger_item o ON o.id = iif(a.debit_id = i.id, a.credit_id, a.debit_id)
				 WHERE d.place IN ('void', 'replaced') AND o.kind <> 'adjustment' AND a.takes_back IS NULL
					AND NOT EXISTS (SELECT 1 FROM application b WHERE b.takes_back = a.id)`,
			),
			...words(
				books,
				`SELECT d.number || ' is ' || d.place || ', but ' || i.open || ' of it is open' AS words
				 FROM placed d JOIN ledger_item i ON i.document_id = d.id WHERE d.place IN ('void', 'replaced') AND i.open <> 0`,
			),
			...words(
				books,
				`SELECT i.number || ' is in the ledger for a document without a number' AS words
				 FROM ledger_item i JOIN document d ON d.id = i.document_id WHERE d.number IS NULL`,
			),
		],
	}
}

/** Documents with the event by which they were issued; those from before the record had their hashes are not among them. */
const withNumbering = `WITH numbering AS MATERIALIZED (SELECT CAST(j.key AS INTEGER) AS document, e.id AS event FROM ${frozenBy})`
/** Of `event x` and `document d`: recorded before it was issued, in the order of the record, whatever the clock said. */
const before = 'iif(n.event IS NULL, x.at < d.numbered_at, x.id < n.event)'

/** What was known when bills were numbered, by the record: customers on hold and closed books. */
export function numberedAllTheSame(books: Books): Verdict {
	return {
		looked: count(books, 'SELECT count(*) AS n FROM document WHERE number IS NOT NULL'),
		wrong: [
			...words(
				books,
				`${withNumbering} SELECT d.number || ' was numbered while ' || d.customer_name || ' was on hold: ' || json_extract(e.after, '$.hold') AS words
				 FROM document d LEFT JOIN numbering n ON n.document = d.id JOIN event e ON e.id = (
					SELECT max(x.id) FROM event x WHERE x.subject = 'customer' AND x.subject_id = CAST(d.customer_id AS TEXT)
						AND x.after IS NOT NULL AND json_extract(x.after, '$.hold') IS NOT NULL AND ${before})
				 WHERE d.kind = 'invoice' AND d.register_value IS NOT NULL AND json_extract(e.after, '$.hold') <> ''`,
			),
			...words(
				books,
				`${withNumbering} SELECT d.number || ' was numbered in books that were closed to ' || json_extract(e.after, '$.closedTo') AS words
				 FROM document d LEFT JOIN numbering n ON n.document = d.id JOIN event e ON e.id = (
					SELECT max(x.id) FROM event x WHERE x.subject = 'setting' AND x.after IS NOT NULL AND json_extract(x.after, '$.closedTo') IS NOT NULL
						AND ${before})
				 WHERE d.register_value IS NOT NULL AND json_extract(e.after, '$.closedTo') >= (SELECT i.day FROM ledger_item i WHERE i.document_id = d.id)`,
			),
		],
	}
}

type KnownRate = { event: number; code: string; from_day: string; rate: string; at: string }
/** Rates of tax with when they were set, by the record. */
export const knownRates = ({ sql }: Books): KnownRate[] =>
	sql<[], KnownRate>(
		`SELECT id AS event, json_extract(after, '$.code') AS code, json_extract(after, '$.from_day') AS from_day, json_extract(after, '$.rate') AS rate, at
		 FROM event WHERE subject = 'item' AND json_extract(after, '$.code') IS NOT NULL AND json_extract(after, '$.rate') IS NOT NULL
			AND json_extract(after, '$.from_day') IS NOT NULL ORDER BY id`,
	).all()

/** The record speaks of what is there, and of nothing from before that began. */
export function recordHolds(books: Books): Verdict {
	return {
		looked: count(books, 'SELECT count(*) AS n FROM event'),
		wrong: words(
			books,
			`SELECT 'the record of ' || e.at || ' (' || e.clerk || ' ' || e.act || ') speaks of draft ' || e.subject_id || ', which was thrown away'
				|| '; its id went to ' || coalesce(d.number, 'a draft') || ' of ' || d.customer_name AS words
			 FROM event e JOIN document d ON d.id = CAST(e.subject_id AS INTEGER) WHERE e.subject = 'document' AND e.document_id IS NULL`,
		),
	}
}

type Divided = {
	kind: 'divided' | 'merged'
	document_id: number
	other_id: number | null
	content_before: string
	kept: string
}
/** Standing divisions and puttings together of documents that were issued, the first first; none where discounts or freight were changed by a person. */
export const dividedAndIssued = ({ sql }: Books): Divided[] =>
	sql<[], Divided>(
		`SELECT x.kind, x.document_id, x.other_id, x.content_before, x.kept FROM document_change x JOIN placed d ON d.id = x.document_id
		 WHERE x.kind <> 'content' AND x.undone_at IS NULL AND d.number IS NOT NULL AND ${stands}
			AND NOT EXISTS (SELECT 1 FROM document_change y WHERE y.undone_at IS NULL AND y.kind = 'content'
				AND y.document_id IN (x.document_id, x.other_id) AND instr(y.touches, 'terms') > 0)
		 ORDER BY x.id`,
	).all()

/** The first order that each order is a part of, by id. */
export const rootsOf = ({ sql }: Books): Map<number, number> =>
	new Map(
		sql<[], { id: number; root: number }>('SELECT id, coalesce(part_of, id) AS root FROM sales_order')
			.all()
			.map(({ id, root }) => [id, root]),
	)

/** A message stands on a made file; none was handed over twice; what counts as sent was. */
export function messagesOnce(books: Books): Verdict {
	return {
		looked: count(books, 'SELECT count(*) AS n FROM message'),
		wrong: [
			...words(
				books,
				`SELECT 'the message of ' || d.number || ' has no file' AS words FROM message m JOIN document d ON d.id = m.document_id WHERE d.made_at IS NULL`,
			),
			...words(
				books,
				`SELECT d.number || ' was sent ' || count(*) || ' times' AS words FROM attempt a JOIN message m ON m.id = a.message_id JOIN document d ON d.id = m.document_id
				 WHERE a.outcome = 'sent' AND a.copy = '' GROUP BY d.id HAVING count(*) > 1`,
			),
			...words(
				books,
				`SELECT d.number || ' counts as sent, but no attempt says so' AS words FROM message m JOIN document d ON d.id = m.document_id
				 WHERE m.state = 'sent' AND NOT EXISTS (SELECT 1 FROM attempt a WHERE a.message_id = m.id AND a.copy = '' AND a.outcome IN ('sent', 'unsure'))`,
			),
			...words(
				books,
				`SELECT d.number || ' was sent with another file than its own' AS words FROM attempt a JOIN message m ON m.id = a.message_id JOIN document d ON d.id = m.document_id
				 WHERE a.file_sha256 <> d.file_sha256`,
			),
		],
	}
}

/** Messages that practice mail took, each with how often it may have arrived without anybody knowing. */
export const practiceSent = ({
	sql,
}: Books): { message_id: string; recipient: string; number: string; unsure: number }[] =>
	sql<[], { message_id: string; recipient: string; number: string; unsure: number }>(
		`SELECT m.message_id, a.recipient, d.number, (SELECT count(*) FROM attempt u WHERE u.message_id = m.id AND u.outcome = 'unsure') AS unsure
		 FROM attempt a JOIN message m ON m.id = a.message_id JOIN document d ON d.id = m.document_id
		 WHERE a.outcome = 'sent' AND a.copy = '' AND a.practice = 1 GROUP BY m.id`,
	).all()

/** Whether an order waits with lines on it. */
export const waits = ({ sql }: Books, orderId: number): boolean =>
	sql<[number], unknown>(
		'SELECT 1 FROM sales_order o JOIN order_line l ON l.order_id = o.id WHERE o.id = ? AND o.run_id IS NULL LIMIT 1',
	).get(orderId) !== undefined
