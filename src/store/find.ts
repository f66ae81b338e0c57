import type { Books } from './books'
import { closest, likeOf } from './like'

type Found = {
	kind: 'customer' | 'document' | 'order' | 'record'
	id: number
	number: string
	title: string
	detail: string
}

/** Customers, documents and orders whose name or number holds the words: what is exactly so first, then what begins so; at most eight of each. */
export function find({ sql }: Books, words: string): Found[] {
	const wanted = likeOf(words)
	if (wanted.same === '') return []
	const ask = (text: string) => sql<[typeof wanted], Found & { rank: number }>(text).all(wanted)
	const found = [
		...ask(`SELECT 'customer' AS kind, id, number, name AS title, number AS detail, ${closest('number', 'name')} AS rank FROM customer
			WHERE id > 0 AND (name LIKE @like ESCAPE '\\' OR number LIKE @like ESCAPE '\\') ORDER BY rank, name LIMIT 8`),
		...ask(`SELECT 'document' AS kind, id, number, number AS title, customer_name AS detail, ${closest('number')} AS rank FROM document
			WHERE number LIKE @like ESCAPE '\\' ORDER BY rank, id DESC LIMIT 8`),
		...ask(`SELECT 'order' AS kind, o.id, o.number, 'Order ' || o.number AS title, c.name AS detail, ${closest('o.number')} AS rank
			FROM order_in o JOIN customer c ON c.id = o.customer_id
			WHERE o.number LIKE @like ESCAPE '\\' ORDER BY rank, o.number LIMIT 8`),
		...ask(`SELECT 'record' AS kind, r.id, r.number, json_extract(k.body, '$.name') || ' ' || r.number AS title, c.name AS detail, ${closest('r.number')} AS rank
			FROM paper_record r JOIN paper_kind k ON k.id = r.kind_id JOIN customer c ON c.id = r.customer_id
			WHERE r.order_id IS NULL AND r.number LIKE @like ESCAPE '\\' ORDER BY rank, r.id DESC LIMIT 8`),
	]
	const exact = (one: { rank: number }) => one.rank === 0
	return [...found.filter(exact), ...found.filter((one) => !exact(one))].map(({ rank: _, ...one }) => one)
}

/** Where an order is now: the document it is on, its run, or its customer. */
export const placeOfOrder = (
	{ sql }: Books,
	id: number,
): { document_id: number | null; run_id: number | null; customer_id: number } | null =>
	sql<[number], { document_id: number | null; run_id: number | null; customer_id: number }>(
		'SELECT document_id, run_id, customer_id FROM sales_order WHERE id = ?',
	).get(id) ?? null

/** A customer or an item by its code, for being chosen as one types. */
export type Choice = { code: string; name: string; about: string }

/** Customers whose number or name holds the words: the very number first, then what begins so. */
export const findCustomers = ({ sql }: Books, words: string): Choice[] =>
	sql<[ReturnType<typeof likeOf>], Choice>(
		`SELECT number AS code, name, currency || CASE WHEN hold = '' THEN '' ELSE ', on hold' END AS about FROM customer
		 WHERE id > 0 AND (number LIKE @like ESCAPE '\\' OR name LIKE @like ESCAPE '\\')
		 ORDER BY number = @same COLLATE NOCASE DESC, ${closest('number', 'name')}, name COLLATE NOCASE LIMIT 8`,
	).all(likeOf(words))

/** Items whose code or text holds the words, in the same order. */
export const findItems = ({ sql }: Books, words: string): Choice[] =>
	sql<[ReturnType<typeof likeOf>], Choice>(
		`SELECT code, description AS name, CASE WHEN unit_price = '' THEN 'no price' ELSE unit_price || ' ' || currency || CASE WHEN unit = '' THEN '' ELSE ', ' || unit END END AS about FROM item
		 WHERE code LIKE @like ESCAPE '\\' OR description LIKE @like ESCAPE '\\'
		 ORDER BY code = @same COLLATE NOCASE DESC, ${closest('code', 'description')}, code LIMIT 8`,
	).all(likeOf(words))
