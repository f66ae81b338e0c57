import type { Day } from '@/core/calendar'
import type { Chase } from '@/core/chase'
import type { Books } from './books'
import type { Desk } from './events'

export type Promised = {
	id: number
	customer_id: number
	currency: string
	day: Day
	/** Minor units. */
	amount: number
	note: string
	made_at: string
	clerk: string
	/** What became of it; null while it is awaited. */
	ended: 'kept' | 'not kept' | null
}
const columns = 'p.id, p.customer_id, p.currency, p.day, p.amount, p.note, p.at AS made_at, p.clerk, p.ended'

export function addPromise(
	{ sql }: Books,
	desk: Desk,
	promise: Pick<Promised, 'customer_id' | 'currency' | 'day' | 'amount' | 'note'>,
): void {
	const { customer_id, currency, day, amount, note } = promise
	sql<(string | number)[]>(
		'INSERT INTO promise (customer_id, currency, day, amount, note, at, clerk) VALUES (?, ?, ?, ?, ?, ?, ?)',
	).run(customer_id, currency, day, amount, note, desk.now(), desk.clerk)
}

export const promisesOf = ({ sql }: Books, customerId: number): Promised[] =>
	sql<[number], Promised>(
		`SELECT ${columns} FROM promise p WHERE p.customer_id = ? ORDER BY p.day DESC, p.id DESC`,
	).all(customerId)

export const endPromise = ({ sql }: Books, id: number, ended: 'kept' | 'not kept'): boolean =>
	sql<[string, number]>('UPDATE promise SET ended = ? WHERE id = ? AND ended IS NULL').run(ended, id).changes > 0

/** Promises whose day has passed without what was promised, the oldest first. */
export const passedPromises = ({ sql }: Books, today: Day): (Promised & { customer: string })[] =>
	sql<[Day], Promised & { customer: string }>(
		`SELECT ${columns}, c.name AS customer FROM promise p JOIN customer c ON c.id = p.customer_id
		 WHERE p.ended IS NULL AND p.day < ? ORDER BY p.day, p.id LIMIT 200`,
	).all(today)

/** Sets until when a customer is left in peace, and why; an empty day ends it. */
export function setPeace({ sql }: Books, customerId: number, until: Day | '', reason: string): void {
	sql<[string, string, number]>('UPDATE customer SET peace_until = ?, peace_reason = ? WHERE id = ?').run(
		until,
		reason,
		customerId,
	)
}

export const peaceOf = ({ sql }: Books, customerId: number): { until: Day | ''; reason: string } =>
	sql<[number], { until: string; reason: string }>(
		'SELECT peace_until AS until, peace_reason AS reason FROM customer WHERE id = ?',
	).get(customerId) ?? { until: '', reason: '' }

/** Until which day each item was charged for being late. */
export const chargedTo = ({ sql }: Books): Map<number, Day> =>
	new Map(
		sql<[], { item_id: number; day: Day }>('SELECT item_id, max(charged_to) AS day FROM late_charge GROUP BY item_id')
			.all()
			.map(({ item_id, day }) => [item_id, day]),
	)

export function noteCharged({ sql }: Books, documentId: number, itemIds: number[], day: Day): void {
	for (const id of itemIds)
		sql<[number, number, Day]>('INSERT INTO late_charge (item_id, document_id, charged_to) VALUES (?, ?, ?)').run(
			id,
			documentId,
			day,
		)
}

/** Forgets what a statement charged, since it is void. */
export const forgetCharged = ({ sql }: Books, documentId: number): boolean =>
	sql<[number]>('DELETE FROM late_charge WHERE document_id = ?').run(documentId).changes > 0

/** What keeps each customer from being chased as of a day, by `customer currency`; those whom nothing keeps are left out. */
export function allChases({ sql }: Books, asOf: Day): (customerId: number, currency: string) => Chase {
	const peace = new Map(
		sql<[Day], { id: number; peace_until: Day; peace_reason: string }>(
			'SELECT id, peace_until, peace_reason FROM customer WHERE peace_until >= ?',
		)
			.all(asOf)
			.map((row) => [row.id, row]),
	)
	const byAccount = <Row extends { customer_id: number; currency: string; day: Day }>(rows: Row[]) => {
		const days = new Map<string, Day[]>()
		for (const { customer_id, currency, day } of rows) {
			const key = `${customer_id} ${currency}`
			days.set(key, [...(days.get(key) ?? []), day])
		}
		return days
	}
	type Row = { customer_id: number; currency: string; day: Day }
	const promised = byAccount(sql<[], Row>('SELECT customer_id, currency, day FROM promise WHERE ended IS NULL').all())
	const written = byAccount(
		sql<[Day], Row>(
			`SELECT d.customer_id, d.currency, max(d.day) AS day FROM placed d JOIN document_content c ON c.document_id = d.id
			 WHERE d.kind = 'statement' AND d.day <= ? AND d.place IN ('sent', 'printed')
				AND json_extract(c.content, '$.letter') <> 'statement' GROUP BY 1, 2`,
		).all(asOf),
	)
	return (customerId, currency) => {
		const key = `${customerId} ${currency}`
		return {
			peaceUntil: peace.get(customerId)?.peace_until ?? '',
			peaceReason: peace.get(customerId)?.peace_reason ?? '',
			promised: promised.get(key) ?? [],
			lastLetter: written.get(key)?.[0] ?? null,
		}
	}
}
