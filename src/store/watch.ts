import type { Books } from './books'
import { frozenBy, type Said } from './events'
import { stands } from './places'

// What `verify` reads of one issued document after the other, and of the record: rows as they stand, to be compared with what determines them.

/** An issued document as the lists have it. */
export type Listed = {
	id: number
	run_id: number
	kind: string
	customer_id: number
	customer_number: string
	customer_name: string
	email: string
	currency: string
	order_count: number
	order_numbers: string
	line_count: number
	net: number
	tax: number
	total: number
	past_due: number
	day: string
	due_day: string
	stage: number
	number: string
	revision: number
	register_id: number | null
	register_kind: string | null
	register_year: number | null
	register_value: number | null
	yearly: number | null
	numbered_at: string
	place: string
	credits_id: number | null
	revises_id: number | null
	/** Number of what it credits, and of what it revises. */
	credits: string | null
	credits_day: string | null
	revises: string | null
	content: string
	frozen: number
	file_name: string | null
	file_sha256: string | null
	files_away_at: string | null
	filed_as: string | null
	/** How many entries of the ledger are its own. */
	entries: number
	/** 1 where credit notes were made for it. */
	credited: number
	/** 1 where it, or a draft that it comes of, was changed, divided, put together or revised. */
	touched: number
}
const columns = `d.id, d.run_id, d.kind, d.customer_id, k.number AS customer_number, d.customer_name, d.email, d.currency, d.order_count, d.order_numbers, d.line_count,
	d.net, d.tax, d.total, d.past_due, d.day, d.due_day, d.stage, d.number, d.revision, d.register_id, r.kind AS register_kind, d.register_year, d.register_value, r.yearly,
	d.numbered_at, d.place, d.credits_id, d.revises_id, o.number AS credits, o.day AS credits_day, v.number AS revises, c.content, c.frozen,
	d.file_name, d.file_sha256, d.files_away_at, d.filed_as,
	(SELECT count(*) FROM ledger_item i WHERE i.document_id = d.id) AS entries,
	EXISTS (SELECT 1 FROM document n WHERE n.credits_id = d.id) AS credited,
	(d.revises_id IS NOT NULL OR EXISTS (SELECT 1 FROM document_change x WHERE x.document_id = d.id)
		OR EXISTS (SELECT 1 FROM document_change x WHERE x.other_id = d.id)) AS touched`
const from = `placed d JOIN document_content c ON c.document_id = d.id JOIN customer k ON k.id = d.customer_id
	LEFT JOIN register r ON r.id = d.register_id LEFT JOIN document o ON o.id = d.credits_id LEFT JOIN document v ON v.id = d.revises_id`

/** Every issued document, the first first. */
export function* allListed({ db }: Books): Generator<Listed> {
	yield* db.prepare<[], Listed>(`SELECT ${columns} FROM ${from} WHERE d.number IS NOT NULL ORDER BY d.id`).iterate()
}

/** One issued document; null where there is none. */
export const oneListed = ({ sql }: Books, id: number): Listed | null =>
	sql<[number], Listed>(`SELECT ${columns} FROM ${from} WHERE d.id = ? AND d.number IS NOT NULL`).get(id) ?? null

/** The issued document of a number, as lists show it; null where there is none. */
export const listedByNumber = ({ sql }: Books, number: string): Listed | null =>
	sql<[string], Listed>(`SELECT ${columns} FROM ${from} WHERE d.number = ?`).get(number) ?? null

/** A line of an order as it was brought, and what was agreed of it. */
export type SourceLine = {
	id: number
	order_id: number
	document_id: number | null
	source_row: number
	item_code: string
	description: string
	quantity: string
	unit: string
	unit_price: string | null
	price_per: string
	discount_percent: string
	discount_amount: string
	tax_code: string
	/** Values of the firm's own fields, as JSON. */
	own: string
	/** JSON of what a person agreed; null for nothing. */
	agreed: string | null
}

const lineColumns = [
	...['id', 'order_id', 'document_id', 'source_row', 'item_code', 'description', 'quantity', 'unit', 'unit_price'],
	...['price_per', 'discount_percent', 'discount_amount', 'tax_code', 'own', 'agreed'],
] as const satisfies (keyof SourceLine)[]
/** Lines as one text: fifteen columns of each line, handed over one by one, took five times as long as the query. */
const linesAsJson = `SELECT json_group_array(json_object(${lineColumns.map((name) => `'${name}', ${name}`).join(', ')})) FROM order_line WHERE document_id = ?`

/** A line of an order; null where there is none. */
export const sourceLine = ({ sql }: Books, id: number): SourceLine | null =>
	sql<[number], SourceLine>(`SELECT ${lineColumns.join(', ')} FROM order_line WHERE id = ?`).get(id) ?? null

/** The lines of orders that stand on a document, by their ids. */
export const sourceLinesOn = ({ sql }: Books, documentId: number): Map<number, SourceLine> => {
	const text = sql<[number], string>(linesAsJson).pluck().get(documentId) ?? '[]'
	return new Map((JSON.parse(text) as SourceLine[]).map((line) => [line.id, line]))
}

type SourceOrder = {
	id: number
	number: string
	customer_id: number
	day: string
	currency: string
	purchase_order: string
	delivery: string
	own: string
	source_file: string
	document_id: number | null
	run_id: number | null
	billed: number
	away_how: string | null
}
/** An order; null where there is none. */
export const sourceOrder = ({ sql }: Books, id: number): SourceOrder | null =>
	sql<[number], SourceOrder>(
		`SELECT o.id, o.number, o.customer_id, o.day, o.currency, o.purchase_order, o.delivery, o.own, f.name AS source_file, o.document_id, o.run_id, o.billed, o.away_how
		 FROM sales_order o JOIN source_file f ON f.id = o.source_file_id WHERE o.id = ?`,
	).get(id) ?? null

type Gathered = { net: number; currency: string }
/** With what net, minor units, a run took an order in; null where it took it not. */
export const gatheredNet = ({ sql }: Books, runId: number, orderId: number): Gathered | null =>
	sql<[number, number], Gathered>('SELECT net, currency FROM run_order WHERE run_id = ? AND order_id = ?').get(
		runId,
		orderId,
	) ?? null

type Ledgered = {
	kind: string
	side: string
	number: string
	day: string
	due_day: string
	currency: string
	amount: number
	customer_id: number
	their_order: string
	note: string
	called: string
	dated: string
	away: number
	changed: number
}
/** What a document entered in the ledger, and whether an extract changed it since; null for nothing. */
export const ledgeredFor = ({ sql }: Books, documentId: number): Ledgered | null =>
	sql<[number], Ledgered>(
		`SELECT kind, side, number, day, due_day, currency, amount, customer_id, their_order, note, called, dated, away,
			(SELECT count(*) FROM item_change h WHERE h.item_id = ledger_item.id) AS changed
		 FROM ledger_item WHERE document_id = ?`,
	).get(documentId) ?? null

/** The hash of a frozen content, and the event by which it was issued. */
type Frozen = { hash: string; event: number }
/** The hashes of frozen contents by their documents, as the record has them from when they were issued. */
export const frozenHashes = ({ sql }: Books): Map<number, Frozen> =>
	new Map(
		sql<[], Frozen & { id: string }>(`SELECT j.key AS id, j.value AS hash, e.id AS event FROM ${frozenBy}`)
			.all()
			.map(({ id, hash, event }) => [Number(id), { hash, event }]),
	)

/** Messages that were handed over by an attempt, and count as something else. */
export const handedOver = ({ sql }: Books): { number: string; state: string }[] =>
	sql<[], { number: string; state: string }>(
		`SELECT DISTINCT d.number, m.state FROM attempt a JOIN message m ON m.id = a.message_id JOIN document d ON d.id = m.document_id
		 WHERE a.outcome = 'sent' AND a.copy = '' AND m.state NOT IN ('sent', 'sending')`,
	).all()

type Known = { event: number; subject: string; subject_id: string; at: string; after: string }
/** What customers and the firm were set to, by the record, the first first. */
export const particulars = ({ sql }: Books): Known[] =>
	sql<[], Known>(
		`SELECT id AS event, subject, subject_id, at, after FROM event
		 WHERE subject IN ('customer', 'company') AND json_extract(after, '$.address') IS NOT NULL AND json_extract(after, '$.name') IS NOT NULL ORDER BY id`,
	).all()

type Sent = {
	id: number
	document_id: number
	number: string
	run_id: number
	document_run: number
	message_id: string
	sender: string
	recipient: string
	file_sha256: string | null
	state: string
	stands: number
}
/** Every message with what it goes with. */
export function* allMessages({ db }: Books): Generator<Sent> {
	yield* db
		.prepare<[], Sent>(
			`SELECT m.id, m.document_id, d.number, m.run_id, d.run_id AS document_run, m.message_id, m.sender, m.recipient, d.file_sha256, m.state, ${stands} AS stands
			 FROM message m JOIN placed d ON d.id = m.document_id ORDER BY m.id`,
		)
		.iterate()
}

type Tried = {
	id: number
	number: string
	recipient: string
	subject: string
	copy: string
	file_sha256: string
	locked: string
	their: string
	their_subject: string
	their_locked: string
}
/** Every attempt with its message. */
export function* allAttempts({ db }: Books): Generator<Tried> {
	yield* db
		.prepare<[], Tried>(
			`SELECT a.id, d.number, a.recipient, a.subject, a.copy, a.file_sha256, a.locked, m.recipient AS their, m.subject AS their_subject, m.locked AS their_locked
			 FROM attempt a JOIN message m ON m.id = a.message_id JOIN document d ON d.id = m.document_id ORDER BY a.id`,
		)
		.iterate()
}

type Recorded = Said & { id: number; seal: string }
/** Every event, the first first. */
export function* allEvents({ db }: Books): Generator<Recorded> {
	yield* db
		.prepare<[], Recorded>(
			'SELECT id, at, clerk, subject, subject_id, act, detail, before, after, document_id, order_id, run_id, seal FROM event ORDER BY id',
		)
		.iterate()
}

/** How registers were set, by the record: the kind, and the value that was to come next. */
export const registersSet = ({ sql }: Books): { kind: string; next: number }[] =>
	sql<[], { kind: string; next: number }>(
		`SELECT subject_id AS kind, json_extract(after, '$.next') AS next FROM event WHERE subject = 'register' AND json_extract(after, '$.next') IS NOT NULL`,
	).all()

type Count = {
	kind: string
	register_id: number
	year: number
	next: number
	highest: number | null
	lowest: number | null
	given: number
}
/** Where each register stands, with what it gave. */
export const registerCounts = ({ sql }: Books): Count[] =>
	sql<[], Count>(
		`SELECT r.kind, c.register_id, c.year, c.next, max(d.register_value) AS highest, min(d.register_value) AS lowest, count(d.register_value) AS given
		 FROM register_count c JOIN register r ON r.id = c.register_id LEFT JOIN document d ON d.register_id = c.register_id AND d.register_year = c.year
		 GROUP BY c.register_id, c.year`,
	).all()

type Skip = { kind: string; first: number; last: number; before: number; after: number; within: number }
/** What registers left out, with whether the values before and after were given, and how many within. */
export const registerSkips = ({ sql }: Books): Skip[] =>
	sql<[], Skip>(
		`SELECT r.kind, s.first, s.last,
			(SELECT count(*) FROM document d WHERE d.register_id = s.register_id AND d.register_year = s.year AND d.register_value = s.first - 1) AS before,
			(SELECT count(*) FROM document d WHERE d.register_id = s.register_id AND d.register_year = s.year AND d.register_value = s.last + 1) AS after,
			(SELECT count(*) FROM document d WHERE d.register_id = s.register_id AND d.register_year = s.year AND d.register_value BETWEEN s.first AND s.last) AS within
		 FROM register_skip s JOIN register r ON r.id = s.register_id`,
	).all()

type Whole = { what: string; sha256: string; size: number | null; bytes: Iterable<Buffer> }
/** Everything that is kept with its hash: files as they came, pictures, forms. */
export function* keptWhole({ sql }: Books): Generator<Whole> {
	const parts = sql<[number], { bytes: Buffer }>('SELECT bytes FROM source_part WHERE file_id = ? ORDER BY part')
	const files = sql<[], { id: number; name: string; sha256: string; size: number }>(
		`SELECT id, name, sha256, size FROM source_file WHERE state <> 'arriving' AND sha256 <> '' AND EXISTS (SELECT 1 FROM source_part p WHERE p.file_id = source_file.id)`,
	)
	for (const { id, name, sha256, size } of files.all())
		yield { what: `the file ${name}`, sha256, size, bytes: parts.all(id).map(({ bytes }) => bytes) }
	const rest = sql<[], { what: string; sha256: string; bytes: Buffer }>(
		`SELECT 'picture ' || sha256 AS what, sha256, bytes FROM image UNION ALL SELECT 'the form ' || name, sha256, bytes FROM form`,
	)
	for (const { what, sha256, bytes } of rest.all()) yield { what, sha256, size: null, bytes: [bytes] }
}
