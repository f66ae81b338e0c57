import { type Place, placesWhere } from '@/core/places'
import type { KindName } from '@/kinds'
import type { Books } from './books'
import { type DocumentRow, documentColumns } from './documents'

/**
 * When a document is at each place, the first that fits: of `document d`, and of its message `m` where it has one. The view `placed` is
 * made of this when books are opened.
 */
const conditions: Record<Place, string> = {
	dropped: 'd.dropped_at IS NOT NULL',
	void: 'd.void_at IS NOT NULL',
	replaced: 'd.replaced_at IS NOT NULL',
	held: 'd.number IS NULL AND d.held_reason IS NOT NULL',
	stopped: `d.number IS NULL AND d.level = 'stop'`,
	'to number': 'd.number IS NULL',
	'to make': 'd.made_at IS NULL',
	sent: `m.state = 'sent'`,
	printed: 'd.printed_at IS NOT NULL',
	filed: 'd.only_filed_at IS NOT NULL AND m.state IS NULL',
	'to print': `d.email = ''`,
	refused: `m.state = 'refused'`,
	unsure: `m.state = 'unsure'`,
	'kept back': `m.state = 'waiting' AND m.kept_back IS NOT NULL`,
	'put off': `m.state = 'waiting' AND m.due_at IS NOT NULL`,
	waiting: 'm.state IS NOT NULL',
	'to read': 'd.message_held = 1',
	made: 'TRUE',
}
const placedView = `CREATE VIEW placed AS
SELECT d.*, m.state AS message_state, m.last_answer AS message_answer,
	CASE
${Object.entries(conditions)
	.map(([place, condition]) => `\t\tWHEN ${condition} THEN '${place}'`)
	.join('\n')}
	END AS place
FROM document d LEFT JOIN message m ON m.document_id = d.id`

/** Makes the view `placed` as it is declared here, where the books have it otherwise. */
export function bringPlaces(db: Books['db']): void {
	const kept = db.prepare<[], string>(`SELECT sql FROM sqlite_schema WHERE type = 'view' AND name = 'placed'`).pluck()
	if (kept.get() === placedView) return
	db.transaction(() => db.exec(`DROP VIEW IF EXISTS placed; ${placedView}`)).exclusive()
}

const listed = (so: Parameters<typeof placesWhere>[0]): string =>
	`(${placesWhere(so)
		.map((place) => `'${place}'`)
		.join(', ')})`
/** Of `placed d`: a document that stands for its orders; not void, not revised, not put away. */
export const stands = `d.place NOT IN ${listed((rule) => rule.stands === 'no')}`
/** Of `placed d`: one that reached its customer, or is filed as it was to be. */
export const isDone = `d.place IN ${listed((rule) => rule.stands === 'done')}`

export type BenchRow = DocumentRow & {
	place: Place
	/** The worst finding in brief, and how many there are. */
	brief: string | null
	findings: number
	/** Changes that stand. */
	changes: number
	message_state: string | null
	message_answer: string | null
}

/** How many documents of a run are to be numbered, by kind. */
export const toNumberByKind = ({ sql }: Books, runId: number): { kind: KindName; count: number }[] =>
	sql<[number], { kind: KindName; count: number }>(
		`SELECT d.kind, count(*) AS count FROM placed d WHERE d.run_id = ? AND d.place = 'to number' GROUP BY d.kind ORDER BY count(*) DESC`,
	).all(runId)

/** The documents of a run at one place in one currency, added up. */
export type RunGroup = { currency: string; place: Place; documents: number; orders: number; net: number }

/** A run's documents by currency and place: how many, their orders and net, minor units. */
export const runGroups = ({ sql }: Books, runId: number): RunGroup[] =>
	sql<[number], RunGroup>(
		`SELECT d.currency, d.place, count(*) AS documents, sum(d.order_count) AS orders, sum(d.net) AS net
		 FROM placed d WHERE d.run_id = ? AND d.place <> 'dropped' GROUP BY 1, 2`,
	).all(runId)

const benchColumns = `${documentColumns}, d.place, d.message_state, d.message_answer, f.brief,
	(SELECT count(*) FROM finding n WHERE n.document_id = d.id) AS findings,
	(SELECT count(*) FROM document_change x WHERE (x.document_id = d.id OR x.other_id = d.id) AND x.undone_at IS NULL) AS changes`
const benchFrom = `placed d LEFT JOIN finding f ON f.document_id = d.id AND f.place = 0`

const worstFirst = `CASE WHEN d.number IS NOT NULL THEN 2 WHEN d.level = 'stop' THEN 0 WHEN d.level = 'look' THEN 1 ELSE 2 END, d.position, d.id`

/** The documents of a run: drafts that are stopped first, then those worth a look, then the rest, each in their order; at most `most`. */
export const benchRows = ({ sql }: Books, runId: number, most = -1): BenchRow[] =>
	sql<[number, number], BenchRow>(
		`SELECT ${benchColumns} FROM ${benchFrom}
		 WHERE d.id IN (SELECT d.id FROM document d WHERE d.run_id = ? AND d.dropped_at IS NULL ORDER BY ${worstFirst} LIMIT ?) ORDER BY ${worstFirst}`,
	).all(runId, most)

/** The documents of a run in a currency that stand at one of the places. */
export const rowsAt = ({ sql }: Books, runId: number, currency: string, places: Place[], most: number): BenchRow[] =>
	sql<[number, string, string, number], BenchRow>(
		`SELECT ${benchColumns} FROM ${benchFrom}
		 WHERE d.run_id = ? AND d.currency = ? AND d.place IN (SELECT value FROM json_each(?)) ORDER BY ${worstFirst} LIMIT ?`,
	).all(runId, currency, JSON.stringify(places), most)

/** Numbered bills and statements of a customer, the latest 500, the latest first. */
export const documentsOfCustomer = ({ sql }: Books, customerId: number): BenchRow[] =>
	sql<[number], BenchRow>(
		`SELECT ${benchColumns} FROM ${benchFrom}
		 WHERE d.customer_id = ? AND d.number IS NOT NULL AND NOT EXISTS (SELECT 1 FROM paper p WHERE p.document_id = d.id)
		 ORDER BY d.day DESC, d.id DESC LIMIT 500`,
	).all(customerId)

/** Of `placed d`: what the index of papers to print has. */
export const mayPrint = `d.number IS NOT NULL AND d.email = '' AND d.printed_at IS NULL AND d.void_at IS NULL`

/** Made, without an address to send to, and not yet printed. */
export const toPrint = ({ sql }: Books): BenchRow[] =>
	sql<[], BenchRow>(
		`SELECT ${benchColumns} FROM ${benchFrom}
		 WHERE ${mayPrint} AND d.place = 'to print' ORDER BY d.number LIMIT 2000`,
	).all()
