import type { BillContent } from '@/core/document'
import type { NumberingKey } from '@/core/numbering'
import type { StatementContent } from '@/core/statement'
import { type AnyContent, keyOf } from '@/kinds'
import type { Books } from './books'
import type { Level } from './documents'
import type { Desk } from './events'

// Drafts: what has no number yet. One that is put on another or given back is put away, never removed.

/** What else of a run goes to a customer in a currency beside one document: totals in minor units, added up. */
export const billedInOthers = (
	{ sql }: Books,
	runId: number,
	butFor: number[],
	customerId: number,
	currency: string,
): bigint =>
	BigInt(
		sql<[number, string, number, string], { total: number | null }>(
			`SELECT sum(total) AS total FROM document
			 WHERE run_id = ? AND id NOT IN (SELECT value FROM json_each(?)) AND customer_id = ? AND currency = ? AND number IS NULL AND dropped_at IS NULL AND held_reason IS NULL`,
		).get(runId, JSON.stringify(butFor), customerId, currency)?.total ?? 0,
	)

/** Drafts of a run with what they can be numbered by. */
export const draftKeys = ({ sql }: Books, runId: number): ({ id: number } & NumberingKey)[] =>
	sql<[number], { id: number } & NumberingKey>(
		`SELECT d.id, d.customer_name AS customer, d.order_numbers AS "order",
			coalesce((SELECT min(o.day) FROM sales_order o WHERE o.document_id = d.id), d.day) AS day
		 FROM document d WHERE d.run_id = ? AND d.number IS NULL AND d.dropped_at IS NULL`,
	).all(runId)

/** Puts a draft at a place of its run; a numbered document keeps its place. */
export function setPosition({ sql }: Books, id: number, position: number): void {
	sql<[number, number]>('UPDATE document SET position = ? WHERE id = ? AND number IS NULL').run(position, id)
}

/** Puts another content in the place of a draft statement's, with its account's figures for the lists. */
export function replaceStatement(
	{ sql }: Books,
	id: number,
	content: StatementContent,
	total: bigint,
	{ open, balance, pastDue }: { open: number; balance: bigint; pastDue: bigint },
	email: string,
): void {
	sql<(bigint | number | string)[]>(
		`UPDATE document SET total = ?, net = ?, past_due = ?, order_count = ?, order_numbers = ?, stage = ?, customer_name = ?, email = ?
		 WHERE id = ? AND number IS NULL`,
	).run(total, balance, pastDue, open, `${open} open`, content.stage, content.customer.name, email, id)
	replaceContent({ sql }, id, content)
}

/** Sets whom a draft is sent to. */
export const setDraftEmail = ({ sql }: Books, id: number, email: string): void => {
	sql<[string, number]>('UPDATE document SET email = ? WHERE id = ? AND number IS NULL').run(email, id)
}

/** Notes what of a statement is otherwise by now, in words; and what of that a person let stand. */
export const noteChanged = ({ sql }: Books, id: number, words: string): void => {
	sql<[string, number]>('UPDATE document SET changed = ? WHERE id = ?').run(words, id)
}
/** Notes what of a statement is no longer true and was let stand, in words. */
export const noteLetStand = ({ sql }: Books, id: number, words: string): void => {
	sql<[string, number]>('UPDATE document SET let_stand = ? WHERE id = ?').run(words, id)
}

/** Takes what is otherwise of a statement as let stand, since a person lets it go. */
export const standAsItIs = ({ sql }: Books, id: number): void => {
	sql<[number]>(`UPDATE document SET let_stand = changed, changed = '' WHERE id = ? AND changed <> ''`).run(id)
}

/** How far a run of statements is gathered: the last customer by id, and how many drafts there are. */
export const draftedUpTo = ({ sql }: Books, runId: number): { customer: number; drafts: number } =>
	sql<[number], { customer: number | null; drafts: number }>(
		'SELECT max(customer_id) AS customer, count(*) AS drafts FROM document WHERE run_id = ? AND dropped_at IS NULL',
	)
		.all(runId)
		.map(({ customer, drafts }) => ({ customer: customer ?? 0, drafts }))[0] ?? { customer: 0, drafts: 0 }

/** Puts another content in a draft's place whose figures are the same. */
export const replaceContent = ({ sql }: Pick<Books, 'sql'>, id: number, content: AnyContent): void => {
	sql<[string, number]>(
		`UPDATE document_content SET content = ? WHERE document_id = ? AND document_id IN (SELECT id FROM document WHERE number IS NULL)`,
	).run(JSON.stringify(content), id)
}

/** The other drafts of the document's run that go to the same customer in the same currency. */
export const otherDrafts = ({ sql }: Books, id: number): { id: number; order_numbers: string; total: number }[] =>
	sql<[number], { id: number; order_numbers: string; total: number }>(
		`SELECT o.id, o.order_numbers, o.total FROM document o JOIN document d
			ON d.run_id = o.run_id AND d.customer_id = o.customer_id AND d.currency = o.currency
		 WHERE d.id = ? AND o.id <> d.id AND d.number IS NULL AND o.number IS NULL AND o.dropped_at IS NULL
			AND d.credits_id IS NULL AND o.credits_id IS NULL ORDER BY o.position, o.id`,
	).all(id)

/** Holds a draft back. @returns false where it is numbered or dropped */
export function hold({ sql }: Books, desk: Desk, id: number, reason: string): boolean {
	return (
		sql<[string, string, string, number]>(
			'UPDATE document SET held_reason = ?, held_by = ?, held_at = ? WHERE id = ? AND number IS NULL AND dropped_at IS NULL',
		).run(reason, desk.clerk, desk.now(), id).changes > 0
	)
}

/** Lets a held draft go on. @returns false where it was not held */
export function release({ sql }: Books, id: number): boolean {
	return (
		sql<[number]>(
			'UPDATE document SET held_reason = NULL, held_by = NULL, held_at = NULL WHERE id = ? AND number IS NULL AND held_reason IS NOT NULL',
		).run(id).changes > 0
	)
}

/** Ids of the other drafts of the run with an order that is the same as one of a document's. */
export const draftsOfTwins = ({ sql }: Books, id: number): number[] =>
	sql<[number], { id: number }>(
		`SELECT DISTINCT t.document_id AS id FROM sales_order o JOIN sales_order t
			ON t.same_as = o.same_as AND t.customer_id = o.customer_id AND t.run_id = o.run_id AND t.document_id <> o.document_id
		 WHERE o.document_id = ?`,
	)
		.all(id)
		.map((row) => row.id)

/** Ids of the drafts of a run that are held back. */
export const heldDrafts = ({ sql }: Books, runId: number): Set<number> =>
	new Set(
		sql<[number], { id: number }>(
			'SELECT id FROM document WHERE run_id = ? AND number IS NULL AND held_reason IS NOT NULL AND dropped_at IS NULL',
		)
			.all(runId)
			.map(({ id }) => id),
	)

/** Notes that a person looked at a flagged document and found it right, or takes that back. */
export function setLooked({ sql }: Books, desk: Desk, id: number, looked: boolean): boolean {
	return (
		sql<[string | null, string | null, number]>(
			`UPDATE document SET looked_by = ?, looked_at = ? WHERE id = ? AND number IS NULL AND level = 'look'`,
		).run(looked ? desk.clerk : null, looked ? desk.now() : null, id).changes > 0
	)
}

/** Puts a draft away, with the reason. Its id and its record stay its own. */
export function dropDraft({ sql }: Books, desk: Desk, id: number, reason: string): void {
	sql<[string, string, string, number]>(
		'UPDATE document SET dropped_at = ?, dropped_by = ?, dropped_reason = ? WHERE id = ? AND number IS NULL AND dropped_at IS NULL',
	).run(desk.now(), desk.clerk, reason, id)
}

/** Takes a draft out again that was put away. */
export function reviveDraft({ sql }: Books, id: number): void {
	sql<[number]>(
		'UPDATE document SET dropped_at = NULL, dropped_by = NULL, dropped_reason = NULL WHERE id = ? AND number IS NULL',
	).run(id)
}

/** Ids of the drafts of a run that are not put away, in order; `only` those of one customer, or of one kind. */
export const draftsOf = (
	{ sql }: Books,
	runId: number,
	only: { customer?: number | null; kind?: string } = {},
): number[] =>
	sql<[{ runId: number; customer: number | null; kind: string | null }], { id: number }>(
		`SELECT id FROM document
		 WHERE run_id = @runId AND number IS NULL AND dropped_at IS NULL
			AND (@customer IS NULL OR customer_id = @customer) AND (@kind IS NULL OR kind = @kind)
		 ORDER BY position, id`,
	)
		.all({ runId, customer: only.customer ?? null, kind: only.kind ?? null })
		.map(({ id }) => id)

type Redraft = { content: BillContent; email: string; net: bigint; tax: bigint; total: bigint; level: Level }

/** Puts another content in the place of a draft's, with its figures for the lists. */
export function replaceDraft(
	{ sql }: Books,
	documentId: number,
	{ content, email, net, tax, total, level }: Redraft,
): void {
	sql<[Record<string, string | number | bigint>]>(
		`UPDATE document SET kind = @kind, net = @net, tax = @tax, total = @total, due_day = @due, email = @email, level = @level,
			customer_name = @name, order_count = @count, order_numbers = @orders, looked_by = NULL, looked_at = NULL WHERE id = @id AND number IS NULL`,
	).run({
		id: documentId,
		kind: keyOf(content),
		name: content.customer.name,
		net,
		tax,
		total,
		email,
		level,
		due: content.dueDay,
		count: content.orders.length,
		orders: content.orders.map(({ number }) => number).join(', '),
	})
	sql<[string, number]>('UPDATE document_content SET content = ? WHERE document_id = ?').run(
		JSON.stringify(content),
		documentId,
	)
	sql<[number]>('DELETE FROM finding WHERE document_id = ?').run(documentId)
}
