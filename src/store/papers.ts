import { type AnyContent, type KindName, readContent } from '@/kinds'
import type { Books } from './books'
import { likeOf } from './like'

// Papers to see a layout with: any document of its kind, numbered or not.

type PaperRow = {
	id: number
	number: string | null
	customer_name: string
	day: string
	total: number
	currency: string
}
const columns = 'd.id, d.number, d.customer_name, d.day, d.total, d.currency'

/** Documents of a kind whose number or customer has the text, the latest first. */
export const findPapers = ({ sql }: Books, kind: KindName, text: string, most = 40): PaperRow[] =>
	sql<[string, string, string, number], PaperRow>(
		`SELECT ${columns} FROM document d WHERE d.kind = ? AND d.dropped_at IS NULL
		 AND (d.number LIKE ? ESCAPE '\\' OR d.customer_name LIKE ? ESCAPE '\\') ORDER BY d.id DESC LIMIT ?`,
	).all(kind, likeOf(text).like, likeOf(text).like, most)

/** The document of a kind next to another in order of making, of one run or of all (0); null at the end. */
export const adjacentPaper = ({ sql }: Books, kind: KindName, id: number, by: 1 | -1, run = 0): number | null =>
	sql<[{ kind: string; id: number; run: number }], { id: number }>(
		`SELECT id FROM document WHERE kind = @kind AND dropped_at IS NULL AND (@run = 0 OR run_id = @run)
		 AND ${by === 1 ? 'id > @id ORDER BY id' : 'id < @id ORDER BY id DESC'} LIMIT 1`,
	).get({ kind, id, run })?.id ?? null

/** The latest runs with documents of a kind: how many, and the first of each. */
export const runsWithPapers = (
	{ sql }: Books,
	kind: KindName,
	most = 30,
): { id: number; day: string; papers: number; first: number }[] =>
	sql<[string, number], { id: number; day: string; papers: number; first: number }>(
		`SELECT run_id AS id, max(day) AS day, count(*) AS papers, min(id) AS first FROM document
		 WHERE kind = ? AND dropped_at IS NULL GROUP BY run_id ORDER BY run_id DESC LIMIT ?`,
	).all(kind, most)

export type PaperTraits = PaperRow & {
	lines: number
	address: number
	name: number
	length: number
	locale: string
	tax: string
	their_name: string
	orders: string
}

/** What makes papers of a kind hard to lay out, of the latest so many. */
export const paperTraits = ({ sql }: Books, kind: KindName, most = 20_000): PaperTraits[] =>
	sql<[string, number], PaperTraits>(
		`SELECT ${columns}, length(c.content) AS length, length(d.customer_name) AS name,
			coalesce(json_array_length(c.content, '$.lines'), json_array_length(c.content, '$.items'), 0) AS lines,
			length(json_extract(c.content, '$.customer.address')) AS address,
			json_extract(c.content, '$.locale') AS locale, json_extract(c.content, '$.customer.tax') AS tax,
			json_extract(c.content, '$.customer.name') || json_extract(c.content, '$.customer.address') AS their_name,
			d.order_numbers AS orders
		 FROM document d JOIN document_content c ON c.document_id = d.id
		 WHERE d.kind = ? AND d.dropped_at IS NULL ORDER BY d.id DESC LIMIT ?`,
	).all(kind, most)

/** Contents of the latest documents of a kind. */
export const latestContents = ({ sql }: Books, kind: KindName, most: number): { id: number; content: AnyContent }[] =>
	sql<[string, number], { id: number; content: string }>(
		`SELECT d.id, c.content FROM document d JOIN document_content c ON c.document_id = d.id
		 WHERE d.kind = ? AND d.dropped_at IS NULL ORDER BY d.id DESC LIMIT ?`,
	)
		.all(kind, most)
		.map(({ id, content }) => ({ id, content: readContent(content) }))

/** How many documents were made or are drafted by a layout, by its version. */
export const papersBy = ({ sql }: Books, layoutId: number): { version: number; issued: number; drafts: number }[] =>
	sql<[number], { version: number; issued: number; drafts: number }>(
		`SELECT json_extract(c.content, '$.layout.version') AS version, count(d.number) AS issued, count(*) - count(d.number) AS drafts
		 FROM document d JOIN document_content c ON c.document_id = d.id
		 WHERE d.dropped_at IS NULL AND json_extract(c.content, '$.layout.id') = ? GROUP BY 1 ORDER BY 1 DESC`,
	).all(layoutId)
