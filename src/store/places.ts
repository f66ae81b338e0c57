import type { KindName } from '@/kinds'
import type { Books } from './books'
import { type DocumentRow, documentColumns } from './documents'

/** Where a document stands (the view `placed`), and so what may be done with it next. */
export const places = [
	'held',
	'stopped',
	'to number',
	'to make',
	'made',
	'to read',
	'waiting',
	'kept back',
	'put off',
	'refused',
	'unsure',
	'to print',
	'printed',
	'filed',
	'sent',
	'void',
	'replaced',
	'dropped',
] as const
export type Place = (typeof places)[number]

/** Of `placed d`: a document that stands for its orders; not void, not revised, not put away. */
export const stands = `d.place NOT IN ('void', 'replaced', 'dropped')`

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
