import type { Books } from './books'

type Found = { kind: 'customer' | 'document' | 'order' | 'record'; id: number; title: string; detail: string }

/** Customers, documents and orders whose name or number holds the words; at most eight of each. */
export function find({ sql }: Books, words: string): Found[] {
	const like = `%${words.trim().replace(/[\\%_]/g, '\\$&')}%`
	const ask = (text: string) => sql<[{ like: string }], Found>(text).all({ like })
	return [
		...ask(`SELECT 'customer' AS kind, id, name AS title, number AS detail FROM customer
			WHERE id > 0 AND (name LIKE @like ESCAPE '\\' OR number LIKE @like ESCAPE '\\') ORDER BY name LIMIT 8`),
		...ask(`SELECT 'document' AS kind, id, number AS title, customer_name AS detail FROM document
			WHERE number LIKE @like ESCAPE '\\' ORDER BY id DESC LIMIT 8`),
		...ask(`SELECT 'order' AS kind, o.id, 'Order ' || o.number AS title, c.name AS detail FROM order_in o JOIN customer c ON c.id = o.customer_id
			WHERE o.number LIKE @like ESCAPE '\\' ORDER BY o.number LIMIT 8`),
		...ask(`SELECT 'record' AS kind, r.id, json_extract(k.body, '$.name') || ' ' || r.number AS title, c.name AS detail FROM paper_record r
			JOIN paper_kind k ON k.id = r.kind_id JOIN customer c ON c.id = r.customer_id
			WHERE r.order_id IS NULL AND r.number LIKE @like ESCAPE '\\' ORDER BY r.id DESC LIMIT 8`),
	]
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

const likeOf = (words: string) => {
	const plain = words.trim().replace(/[\\%_]/g, '\\$&')
	return { like: `%${plain}%`, begin: `${plain}%`, same: words.trim() }
}

/** Customers whose number or name holds the words: the very number first, then what begins so. */
export const findCustomers = ({ sql }: Books, words: string): Choice[] =>
	sql<[ReturnType<typeof likeOf>], Choice>(
		`SELECT number AS code, name, currency || CASE WHEN hold = '' THEN '' ELSE ', on hold' END AS about FROM customer
		 WHERE id > 0 AND (number LIKE @like ESCAPE '\\' OR name LIKE @like ESCAPE '\\')
		 ORDER BY number = @same COLLATE NOCASE DESC, number LIKE @begin ESCAPE '\\' DESC, name LIKE @begin ESCAPE '\\' DESC, name COLLATE NOCASE LIMIT 8`,
	).all(likeOf(words))

/** Items whose code or text holds the words, in the same order. */
export const findItems = ({ sql }: Books, words: string): Choice[] =>
	sql<[ReturnType<typeof likeOf>], Choice>(
		`SELECT code, description AS name, CASE WHEN unit_price = '' THEN 'no price' ELSE unit_price || ' ' || currency || CASE WHEN unit = '' THEN '' ELSE ', ' || unit END END AS about FROM item
		 WHERE code LIKE @like ESCAPE '\\' OR description LIKE @like ESCAPE '\\'
		 ORDER BY code = @same COLLATE NOCASE DESC, code LIKE @begin ESCAPE '\\' DESC, description LIKE @begin ESCAPE '\\' DESC, code LIMIT 8`,
	).all(likeOf(words))
