import type Database from 'better-sqlite3'
import type { IntakeOrder } from '@/intake/ordersForBooks'
import type { RowRefusal } from '@/intake/reading'
import { type Staging, stepped } from './staging'

// What came of a file's rows, kept in its staging file: what was refused, what was left, what it would bring.

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
			['refusal', 'INSERT', 'refusal', 'row, field, place, column_name, value, remedy, offers, follows'],
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

/** Writes outcomes into a staging file, in steps of many. */
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

/** Makes a writer that writes a long staging file in a thread of its own; null where there is none. */
let threaded: ((path: string) => OutcomeWriter) | null = null
/** Says what writes a long staging file; without it the caller's own thread does. */
export const writeLongStagingBy = (make: typeof threaded): void => {
	threaded = make
}
/** From how many rows on that is worth a thread. */
const longStaging = 20_000
const atOnce = 1500

/** Keeps what comes of the rows, in place of what came of them before. */
export function outcomeKeeper({ db }: Staging, rows = 0) {
	db.exec(
		'DELETE FROM refusal; DELETE FROM left_row; DELETE FROM record; DELETE FROM staged_order; DELETE FROM staged_line;',
	)
	const writer = threaded && rows >= longStaging ? threaded(db.name) : outcomeWriter(db)
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
		refuse: ({ row, field, place, column, value, remedy, offers, follows }: RowRefusal) =>
			put([
				'refusal',
				row,
				field,
				place,
				column,
				value.slice(0, 300),
				remedy,
				offers ? JSON.stringify(offers) : '[]',
				follows ? 'its order' : '',
			]),
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
export function refusedRows({ db }: Staging, from: number, most: number): { row: number; reasons: KeptRefusal[] }[] {
	const rows = db
		.prepare<[number, number], { row: number }>('SELECT DISTINCT row FROM refusal ORDER BY row LIMIT ? OFFSET ?')
		.all(most, from)
	const reasons = db.prepare<[number], KeptRefusal>(
		'SELECT id, row, field, place, column_name, value, remedy, offers FROM refusal WHERE row = ? ORDER BY id',
	)
	return rows.map(({ row }) => ({ row, reasons: reasons.all(row) }))
}

/** How many rows were refused. */
export const refusedCount = ({ db }: Staging): number =>
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
export const alikeRefusals = ({ db }: Staging, most: number): Alike[] =>
	db
		.prepare<[number], Alike>(
			`SELECT field, place, column_name, value, remedy, count(DISTINCT row) AS rows, min(row) AS first FROM refusal
			 WHERE place IS NOT NULL AND value <> '' AND follows = ''
			 GROUP BY field, place, value, remedy HAVING count(DISTINCT row) > 1 ORDER BY rows DESC, first LIMIT ?`,
		)
		.all(most)

/** How many rows were passed over, by why, the most first. */
export const leftCounts = ({ db }: Staging): { why: string; rows: number }[] =>
	db
		.prepare<[], { why: string; rows: number }>(
			'SELECT why, count(*) AS rows FROM left_row GROUP BY why ORDER BY rows DESC',
		)
		.all()

/** Records of a standing, or of all, some at a time. */
export const recordsIn = ({ db }: Staging, standing: string | null, after: number, most: number): SheetRecord[] =>
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

/** How many records and orders stand how. */
export const standingCounts = ({ db }: Staging): Record<string, number> =>
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
export const stagedOrders = ({ db }: Staging, standing: string, after: number, most: number): StagedBrief[] =>
	db
		.prepare<[string, number, number], StagedBrief>(
			`SELECT seq, number, customer_id, day, currency, net, line_count, first_row, replaces, words FROM staged_order
			 WHERE standing = ? AND seq > ? ORDER BY seq LIMIT ?`,
		)
		.all(standing, after, most)

/** How many orders are staged. */
export const stagedCount = ({ db }: Staging): number =>
	db.prepare<[], { n: number | null }>('SELECT max(seq) AS n FROM staged_order').get()?.n ?? 0
