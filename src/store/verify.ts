import type { Books } from './books'

/** What the books say of themselves, for `verify`: each gives the rows that are wrong, and how many were looked at. */
export type Finding = { looked: number; wrong: string[] }

const count = ({ sql }: Books, text: string): number => sql<[], { n: number }>(text).get()?.n ?? 0
const words = ({ sql }: Books, text: string): string[] =>
	sql<[], { words: string }>(text)
		.all()
		.map(({ words: found }) => found)

/** SQLite's own check of its pages and of every reference. */
export function databaseSound({ db }: Books): Finding {
	const pages = db.pragma('integrity_check') as { integrity_check: string }[]
	const references = db.pragma('foreign_key_check') as { table: string; rowid: number }[]
	const wrong = pages.map(({ integrity_check }) => integrity_check).filter((result) => result !== 'ok')
	return {
		looked: 2,
		wrong: [...wrong, ...references.map(({ table, rowid }) => `${table} row ${rowid} refers to nothing`)],
	}
}

/** Every register: values rise one by one but for the stretches that a person left out, and the next is above them all. */
export function numbersWithoutGap(books: Books): Finding {
	const wrong = words(
		books,
		`WITH given AS (SELECT register_id, register_year AS year, register_value AS value FROM document WHERE register_value IS NOT NULL),
			step AS (SELECT register_id, value, lead(value) OVER (PARTITION BY register_id, year ORDER BY value) AS following FROM given)
		 SELECT 'after ' || value || ' comes ' || following AS words FROM step
		 WHERE following <> value + 1 AND NOT EXISTS (
			SELECT 1 FROM register_skip s WHERE s.register_id = step.register_id AND s.first = step.value + 1 AND s.last = step.following - 1)`,
	)
	const next = words(
		books,
		`SELECT kind || ' register would give ' || next || ' again' AS words FROM register r
		 WHERE next <= (SELECT max(register_value) FROM document d WHERE d.register_id = r.id AND (r.yearly = 0 OR d.register_year = r.year))`,
	)
	return { looked: count(books, 'SELECT count(register_value) AS n FROM document'), wrong: [...wrong, ...next] }
}

/** A number belongs to one document, is written as its register writes it, and its content is frozen. */
export function numbersOnce(books: Books): Finding {
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
				 WHERE d.number IS NOT NULL AND (c.frozen IS NOT 1 OR json_extract(c.content, '$.number') || iif(d.revision > 1, ' rev. ' || d.revision, '') <> d.number)`,
			),
		],
	}
}

/** Every order that counts as billed stands on one numbered document, and no order on two. */
export function ordersOnce(books: Books): Finding {
	return {
		looked: count(books, 'SELECT count(*) AS n FROM sales_order WHERE billed = 1'),
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
				`SELECT 'order ' || json_extract(o.value, '$.number') || ' stands on ' || group_concat(d.number, ' and ') AS words
				 FROM document d JOIN document_content c ON c.document_id = d.id, json_each(c.content, '$.orders') o
				 WHERE d.number IS NOT NULL AND d.kind = 'invoice' AND d.void_at IS NULL AND d.replaced_at IS NULL
				 GROUP BY json_extract(o.value, '$.id') HAVING count(*) > 1`,
			),
		],
	}
}

/** The nets of a numbered document's orders add up to its own. */
export function tallyTies(books: Books): Finding {
	return {
		looked: count(books, 'SELECT count(*) AS n FROM document WHERE number IS NOT NULL'),
		wrong: words(
			books,
			`SELECT d.number || ' is ' || d.net || ' net, its orders ' || sum(o.net) AS words FROM document d JOIN sales_order o ON o.document_id = d.id
			 WHERE d.number IS NOT NULL GROUP BY d.id HAVING sum(o.net) <> d.net`,
		),
	}
}

/** A message stands on a made file; none was handed over twice; what counts as sent was. */
export function messagesOnce(books: Books): Finding {
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
				 WHERE a.outcome = 'sent' GROUP BY d.id HAVING count(*) > 1`,
			),
			...words(
				books,
				`SELECT d.number || ' counts as sent, but no attempt says so' AS words FROM message m JOIN document d ON d.id = m.document_id
				 WHERE m.state = 'sent' AND NOT EXISTS (SELECT 1 FROM attempt a WHERE a.message_id = m.id AND a.outcome IN ('sent', 'unsure'))`,
			),
			...words(
				books,
				`SELECT d.number || ' was sent with another file than its own' AS words FROM attempt a JOIN message m ON m.id = a.message_id JOIN document d ON d.id = m.document_id
				 WHERE a.file_sha256 <> d.file_sha256`,
			),
		],
	}
}

export type Issued = {
	id: number
	number: string
	content: string
	net: number
	tax: number
	total: number
	file_name: string | null
	file_sha256: string | null
}

/** Every numbered document with what its recomputing and its file are checked against. */
export function* issuedDocuments({ db }: Books): Generator<Issued> {
	yield* db
		.prepare<[], Issued>(
			`SELECT d.id, d.number, c.content, d.net, d.tax, d.total, d.file_name, d.file_sha256
			 FROM document d JOIN document_content c ON c.document_id = d.id WHERE d.number IS NOT NULL ORDER BY d.id`,
		)
		.iterate()
}

/** Message-IDs of what was sent in practice, with the number they belong to. */
export const practiceSent = ({ sql }: Books): { message_id: string; number: string }[] =>
	sql<[], { message_id: string; number: string }>(
		`SELECT DISTINCT m.message_id, d.number FROM attempt a JOIN message m ON m.id = a.message_id JOIN document d ON d.id = m.document_id
		 WHERE a.outcome = 'sent' AND a.practice = 1`,
	).all()
