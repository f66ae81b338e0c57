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
	/** The entries of the ledger that are its own. */
	entries: Ledgered[]
	/** 1 where credit notes were made for it. */
	credited: number
	/** 1 where it, or a draft that it comes of, was changed, divided, put together or revised. */
	touched: number
}
/** What an entry of the ledger said when it was entered; what extracts changed since is left aside. */
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
}

/** A row as the text of an object, by its names, each with what it is. */
const asJson = (columns: Record<string, string>): string =>
	`json_object(${Object.entries(columns)
		.map(([name, is]) => `'${name}', ${is}`)
		.join(', ')})`
/** Columns of a table by their own names. */
const plain = <Name extends string>(table: string, names: readonly Name[]) =>
	Object.fromEntries(names.map((name) => [name, `${table}.${name}`])) as Record<Name, string>

/** What an item `i` was before the first change of it; where nothing changed, what it is (SQL). */
const first = (was: string, is: string) =>
	`coalesce((SELECT nullif(h.${was}, '') FROM item_change h WHERE h.item_id = i.id ORDER BY h.id LIMIT 1), i.${is})`
const entryColumns: Record<keyof Ledgered, string> = {
	...plain('i', ['side', 'number', 'day', 'currency', 'customer_id', 'their_order', 'note', 'called', 'away']),
	kind: first('kind_was', 'kind'),
	due_day: first('due_was', 'due_day'),
	dated: `coalesce((SELECT h.dated_was FROM item_change h WHERE h.item_id = i.id ORDER BY h.id LIMIT 1), i.dated)`,
	amount: `i.amount - coalesce((SELECT sum(h.amount_is - h.amount_was) FROM item_change h WHERE h.item_id = i.id), 0)`,
}
const listedColumns: Record<keyof Omit<Listed, 'content'>, string> = {
	...plain('d', ['id', 'run_id', 'kind', 'customer_id', 'customer_name', 'email', 'currency', 'order_count']),
	...plain('d', [
		'order_numbers',
		'line_count',
		'net',
		'tax',
		'total',
		'past_due',
		'day',
		'due_day',
		'stage',
		'number',
	]),
	...plain('d', ['revision', 'register_id', 'register_year', 'register_value', 'numbered_at', 'place', 'credits_id']),
	...plain('d', ['revises_id', 'file_name', 'file_sha256', 'files_away_at', 'filed_as']),
	customer_number: 'k.number',
	register_kind: 'r.kind',
	yearly: 'r.yearly',
	credits: 'o.number',
	credits_day: 'o.day',
	revises: 'v.number',
	frozen: 'c.frozen',
	entries: `json((SELECT json_group_array(${asJson(entryColumns)}) FROM ledger_item i WHERE i.document_id = d.id))`,
	credited: 'EXISTS (SELECT 1 FROM document n WHERE n.credits_id = d.id)',
	touched: `(d.revises_id IS NOT NULL OR EXISTS (SELECT 1 FROM document_change x WHERE x.document_id = d.id)
		OR EXISTS (SELECT 1 FROM document_change x WHERE x.other_id = d.id))`,
}
// As one text: forty columns of each row, handed over one by one, took several times as long as the query.
const listed = `SELECT ${asJson(listedColumns)} AS row, c.content FROM placed d JOIN document_content c ON c.document_id = d.id JOIN customer k ON k.id = d.customer_id
	LEFT JOIN register r ON r.id = d.register_id LEFT JOIN document o ON o.id = d.credits_id LEFT JOIN document v ON v.id = d.revises_id
	WHERE d.number IS NOT NULL`
type ListedText = { row: string; content: string }
const readListed = ({ row, content }: ListedText): Listed => ({
	...(JSON.parse(row) as Omit<Listed, 'content'>),
	content,
})
const oneOrNone = (found: ListedText | undefined): Listed | null => (found ? readListed(found) : null)

/** Every issued document, the first first. */
export function* allListed({ db }: Books): Generator<Listed> {
	for (const row of db.prepare<[], ListedText>(`${listed} ORDER BY d.id`).iterate()) yield readListed(row)
}

const listedById = `${listed} AND d.id = ?`
/** One issued document; null where there is none. */
export const oneListed = ({ sql }: Books, id: number): Listed | null =>
	oneOrNone(sql<[number], ListedText>(listedById).get(id))

/** The issued document of a number, as lists show it; null where there is none. */
export const listedByNumber = ({ sql }: Books, number: string): Listed | null =>
	oneOrNone(sql<[string], ListedText>(`${listed} AND d.number = ?`).get(number))

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

const lineColumns = plain('order_line', [
	...(['id', 'order_id', 'document_id', 'source_row', 'item_code', 'description', 'quantity', 'unit'] as const),
	...(['unit_price', 'price_per', 'discount_percent', 'discount_amount', 'tax_code', 'own', 'agreed'] as const),
]) satisfies Record<keyof SourceLine, string>
const oneLine = `SELECT ${asJson(lineColumns)} FROM order_line WHERE id = ?`
const linesOn = `SELECT json_group_array(${asJson(lineColumns)}) FROM order_line WHERE document_id = ?`

/** A line of an order; null where there is none. */
export const sourceLine = ({ sql }: Books, id: number): SourceLine | null => {
	const text = sql<[number], string>(oneLine).pluck().get(id)
	return text === undefined ? null : (JSON.parse(text) as SourceLine)
}

/** The lines of orders that stand on a document, by their ids. */
export const sourceLinesOn = ({ sql }: Books, documentId: number): Map<number, SourceLine> => {
	const text = sql<[number], string>(linesOn).pluck().get(documentId) ?? '[]'
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
	/** With what net, minor units of which currency, its run took it in; null where it took it not. */
	gathered_net: number | null
	gathered_currency: string | null
}
const orderColumns: Record<keyof SourceOrder, string> = {
	...plain('o', ['id', 'number', 'customer_id', 'day', 'currency', 'purchase_order', 'delivery', 'own']),
	...plain('o', ['document_id', 'run_id', 'billed', 'away_how']),
	source_file: 'f.name',
	gathered_net: 'g.net',
	gathered_currency: 'g.currency',
}
const oneOrder = `SELECT ${asJson(orderColumns)} FROM sales_order o JOIN source_file f ON f.id = o.source_file_id
	LEFT JOIN run_order g ON g.run_id = o.run_id AND g.order_id = o.id WHERE o.id = ?`
/** An order; null where there is none. */
export const sourceOrder = ({ sql }: Books, id: number): SourceOrder | null => {
	const text = sql<[number], string>(oneOrder).pluck().get(id)
	return text === undefined ? null : (JSON.parse(text) as SourceOrder)
}

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
