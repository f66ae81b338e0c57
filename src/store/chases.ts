import type { Day } from '@/core/calendar'
import type { Chase } from '@/core/chase'
import type { Charged } from '@/core/lateCharge'
import type { Written } from '@/core/stages'
import type { Books } from './books'
import type { Span } from './customers'
import type { Desk } from './events'
import { isDone, stands } from './places'

export type Promised = {
	id: number
	customer_id: number
	currency: string
	day: Day
	/** Minor units. */
	amount: number
	/** What came of it so far. */
	received: number
	note: string
	made_at: string
	clerk: string
	/** What became of it; null while it is awaited. */
	ended: 'kept' | 'not kept' | null
}
const columns =
	'p.id, p.customer_id, p.currency, p.day, p.amount, p.received, p.note, p.at AS made_at, p.clerk, p.ended'

/** Enters a promise to pay; its amount in minor units. */
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

/** What a customer promised, the latest day first. */
export const promisesOf = ({ sql }: Books, customerId: number): Promised[] =>
	sql<[number], Promised>(
		`SELECT ${columns} FROM promise p WHERE p.customer_id = ? ORDER BY p.day DESC, p.id DESC`,
	).all(customerId)

/** Says what became of a promise. @returns false where that was known before */
export const endPromise = ({ sql }: Books, id: number, ended: 'kept' | 'not kept'): boolean =>
	sql<[string, number]>('UPDATE promise SET ended = ? WHERE id = ? AND ended IS NULL').run(ended, id).changes > 0

type Receipt = { promise_id: number; item_id: number; amount: number; act_id: number | null }
/**
 * Notes what came of a promise by a payment, or (below zero) went away again with it. One that is covered is kept, one that no longer is is awaited
 * anew; what a person said of it stands.
 */
export function receiveOnPromise({ sql }: Books, { promise_id, item_id, amount, act_id }: Receipt): void {
	sql<[number, number, number, number | null]>(
		'INSERT INTO promise_receipt (promise_id, item_id, amount, act_id) VALUES (?, ?, ?, ?)',
	).run(promise_id, item_id, amount, act_id)
	sql<[{ by: number; id: number }]>(
		`UPDATE promise SET received = received + @by, ended = CASE WHEN ended = 'not kept' THEN ended WHEN received + @by >= amount THEN 'kept'
			WHEN received >= amount THEN NULL ELSE ended END WHERE id = @id`,
	).run({ by: amount, id: promise_id })
}

/** What stands received on promises by a payment, by promise; those of a payment from before it was kept by which are not among them. */
export const receivedBy = ({ sql }: Books, itemId: number): { promise_id: number; amount: number }[] =>
	sql<[number], { promise_id: number; amount: number }>(
		`SELECT promise_id, sum(amount) AS amount FROM promise_receipt WHERE item_id = ? GROUP BY 1 HAVING sum(amount) > 0 ORDER BY 1`,
	).all(itemId)

/** What is known to stand received on a promise by which payment, in all: what went away with one that brought nothing known is not taken off. */
export const receivedOn = ({ sql }: Books, promiseId: number): number =>
	sql<[number], { n: number | null }>(
		`SELECT sum(net) AS n FROM (SELECT sum(amount) AS net FROM promise_receipt WHERE promise_id = ? GROUP BY item_id HAVING sum(amount) > 0)`,
	).get(promiseId)?.n ?? 0

/** What an act received on promises, or took away from them. */
export const receiptsOfAct = ({ sql }: Books, actId: number): Receipt[] =>
	sql<[number], Receipt>(
		'SELECT promise_id, item_id, amount, act_id FROM promise_receipt WHERE act_id = ? ORDER BY id',
	).all(actId)

/** One promise; null where there is none. */
export const readPromise = ({ sql }: Books, id: number): Promised | null =>
	sql<[number], Promised>(`SELECT ${columns} FROM promise p WHERE p.id = ?`).get(id) ?? null

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

/** Until when a customer is left in peace, and why; empty where they are not. */
export const peaceOf = ({ sql }: Books, customerId: number): { until: Day | ''; reason: string } =>
	sql<[number], { until: string; reason: string }>(
		'SELECT peace_until AS until, peace_reason AS reason FROM customer WHERE id = ?',
	).get(customerId) ?? { until: '', reason: '' }

/** What was charged on items of some customers for being late, by item. */
export const chargedBefore = ({ sql }: Books, span: Span): Map<number, Charged> =>
	new Map(
		sql<[Span], Charged & { item_id: number }>(
			`SELECT l.item_id, max(l.charged_to) AS "to", sum(l.amount) AS amount, sum(l.interest) AS interest
			 FROM ledger_item i JOIN late_charge l ON l.item_id = i.id WHERE i.customer_id > @after AND i.customer_id <= @upTo GROUP BY 1`,
		)
			.all(span)
			.map(({ item_id, ...charged }) => [item_id, charged]),
	)

/** Notes what a statement charges on each item, minor units, up to and with a day. */
export function noteCharged(
	{ sql }: Books,
	documentId: number,
	parts: readonly { id: number; amount: number; interest: number }[],
	day: Day,
): void {
	for (const { id, amount, interest } of parts)
		sql<[number, number, Day, number, number]>(
			'INSERT INTO late_charge (item_id, document_id, charged_to, amount, interest) VALUES (?, ?, ?, ?, ?)',
		).run(id, documentId, day, amount, interest)
}

/** Forgets what a statement charged, since it is void. */
export const forgetCharged = ({ sql }: Books, documentId: number): boolean =>
	sql<[number]>('DELETE FROM late_charge WHERE document_id = ?').run(documentId).changes > 0

/** The day of the last charge of each account of some customers, by `customer currency`. */
export const lastCharges = ({ sql }: Books, span: Span): Map<string, Day> =>
	new Map(
		sql<[Span], { account: string; day: Day }>(
			`SELECT i.customer_id || ' ' || i.currency AS account, max(l.charged_to) AS day FROM late_charge l JOIN ledger_item i ON i.id = l.item_id
			 WHERE i.customer_id > @after AND i.customer_id <= @upTo GROUP BY 1`,
		)
			.all(span)
			.map(({ account, day }) => [account, day]),
	)

/** Accounts of some customers with a past-due letter in another open run, which has not gone yet, by `customer currency`: the run. */
export const lettersWaiting = ({ sql }: Books, butRun: number, span: Span): Map<string, number> =>
	new Map(
		sql<[Span & { butRun: number }], { account: string; run: number }>(
			`SELECT d.customer_id || ' ' || d.currency AS account, min(d.run_id) AS run
			 FROM run r CROSS JOIN placed d ON d.run_id = r.id
			 WHERE r.kind = 'statement' AND r.state IN ('gathering', 'open') AND r.id <> @butRun AND d.stage > 0
				AND d.customer_id > @after AND d.customer_id <= @upTo AND ${stands} AND NOT ${isDone} AND d.place <> 'held' GROUP BY 1`,
		)
			.all({ ...span, butRun })
			.map(({ account, run }) => [account, run]),
	)

/** Accounts of some customers with a draft in another open run that proposes a late charge, by `customer currency`: only one may. */
export const chargesWaiting = ({ sql }: Books, butRun: number, span: Span): Set<string> =>
	new Set(
		sql<[Span & { butRun: number }], { account: string }>(
			`SELECT DISTINCT d.customer_id || ' ' || d.currency AS account FROM run r JOIN run_statement s ON s.run_id = r.id
				JOIN document d ON d.run_id = r.id JOIN document_content c ON c.document_id = d.id
			 WHERE r.state IN ('gathering', 'open') AND r.id <> @butRun AND json_extract(s.choice, '$.charges') = 1
				AND d.customer_id > @after AND d.customer_id <= @upTo AND d.number IS NULL AND d.held_reason IS NULL AND d.dropped_at IS NULL
				AND json_type(c.content, '$.charge') = 'object'`,
		)
			.all({ ...span, butRun })
			.map(({ account }) => account),
	)

/** What an account's chasing goes by as of a day: what keeps it from being written to, and the letters that really went. */
export type ChaseOf = Chase & { written: Written[] }

/** The same of every account of some customers. Letters count that went by now, also after the day: who was written to is not written to again. */
export function chasesOf({ sql }: Books, asOf: Day, span: Span): (customerId: number, currency: string) => ChaseOf {
	const peace = new Map(
		sql<[Span & { asOf: Day }], { id: number; peace_until: Day; peace_reason: string }>(
			'SELECT id, peace_until, peace_reason FROM customer WHERE id > @after AND id <= @upTo AND peace_until >= @asOf',
		)
			.all({ ...span, asOf })
			.map((row) => [row.id, row]),
	)
	const byAccount = <Row extends { customer_id: number; currency: string }>(rows: Row[]) => {
		const accounts = new Map<string, Row[]>()
		for (const row of rows) {
			const key = `${row.customer_id} ${row.currency}`
			accounts.set(key, [...(accounts.get(key) ?? []), row])
		}
		return accounts
	}
	type Awaited = { customer_id: number; currency: string; day: Day; left: number }
	const promised = byAccount(
		sql<[Span], Awaited>(
			`SELECT customer_id, currency, day, amount - received AS left FROM promise
			 WHERE customer_id > @after AND customer_id <= @upTo AND ended IS NULL AND amount > received`,
		).all(span),
	)
	type Went = { customer_id: number; currency: string; stage: number; day: Day }
	const written = byAccount(
		sql<[Span], Went>(
			`SELECT d.customer_id, d.currency, d.stage, max(d.day, coalesce(d.went_on, d.day)) AS day
			 FROM document x INDEXED BY document_stage JOIN placed d ON d.id = x.id
			 WHERE x.customer_id > @after AND x.customer_id <= @upTo AND x.stage > 0 AND d.place IN ('sent', 'printed')`,
		).all(span),
	)
	return (customerId, currency) => {
		const key = `${customerId} ${currency}`
		return {
			peaceUntil: peace.get(customerId)?.peace_until ?? '',
			peaceReason: peace.get(customerId)?.peace_reason ?? '',
			promised: promised.get(key) ?? [],
			written: written.get(key) ?? [],
		}
	}
}

type Outgoing = {
	id: number
	customer_id: number
	customer_name: string
	number: string
	message_id: number | null
	let_stand: string
}
/** Statements of a run that have not left, with their messages where these are written. */
export const outgoingStatements = ({ sql }: Books, runId: number): Outgoing[] =>
	sql<[number], Outgoing>(
		`SELECT d.id, d.customer_id, d.customer_name, d.number, m.id AS message_id, d.let_stand FROM placed d LEFT JOIN message m ON m.document_id = d.id
		 WHERE d.run_id = ? AND d.kind = 'statement' AND d.place IN ('made', 'waiting', 'put off') ORDER BY d.position`,
	).all(runId)

/** Notes the work date on which a document reached its customer, as far as is known; the first counts. */
export const noteWent = ({ sql }: Books, documentId: number, day: Day): void => {
	sql<[Day, number]>('UPDATE document SET went_on = ? WHERE id = ? AND went_on IS NULL').run(day, documentId)
}
