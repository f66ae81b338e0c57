import { bucketEdges, bucketOf, buckets } from '@/core/age'
import { addDays, type Day, daysBetween } from '@/core/calendar'
import type { ItemKind, Side } from '@/core/ledger'
import { type Books, whileUnchanged } from './books'
import { amountThen, anythingAfter, appliedThen, dueThen } from './ledgerThen'

export type AgedRow = {
	customer_id: number
	number: string
	name: string
	currency: string
	items: number
	buckets: number[]
	past_due: number
	disputed: number
	credits: number
	balance: number
}

/**
 * Open items as of a day, of all customers or of `@customer`: those that are open now, and those that something moved since; what was settled by
 * then and is not touched since is not looked at, however much of it there is.
 */
function openAsOf(books: Books, asOf: Day, hint = 'INDEXED BY ledger_item_open', one = false): string {
	const own = one ? ' AND customer_id = @customer' : ''
	if (!anythingAfter(books, asOf))
		return `(SELECT id, customer_id, currency, side, due_day, open FROM ledger_item ${hint} WHERE open > 0${own})`
	const later = (side: string) => `application INDEXED BY application_${side} WHERE ${side}_id = c.id AND day > @asOf`
	const touched = one
		? // Of one customer by their own items, whatever was done on other accounts.
			`SELECT id FROM ledger_item c WHERE customer_id = @customer AND (open > 0 OR EXISTS (SELECT 1 FROM ${later('debit')})
				OR EXISTS (SELECT 1 FROM ${later('credit')}) OR EXISTS (SELECT 1 FROM item_change WHERE item_id = c.id AND day > @asOf))`
		: `SELECT id FROM ledger_item INDEXED BY ledger_item_open WHERE open > 0
			UNION SELECT debit_id FROM application INDEXED BY application_day WHERE day > @asOf AND debit_id IS NOT NULL
			UNION SELECT credit_id FROM application INDEXED BY application_day WHERE day > @asOf AND credit_id IS NOT NULL
			UNION SELECT item_id FROM item_change INDEXED BY item_change_day WHERE day > @asOf`
	// Worked out once: what is open is looked at and added up.
	return `(WITH then_open AS MATERIALIZED (SELECT i.id, i.customer_id, i.currency, i.side, ${dueThen} AS due_day, ${amountThen} - (${appliedThen}) AS open
		FROM (${touched}) t CROSS JOIN ledger_item i ON i.id = t.id
		WHERE i.day <= @asOf${own}) SELECT * FROM then_open)`
}

type Part = [customerId: number, currency: string, side: Side, items: number, open: number, ...dueFrom: number[]]
type Disputed = { customer_id: number; currency: string; open: number; late: number }
export type Account = Omit<AgedRow, 'number' | 'name'>

const inDispute = 'SELECT item_id FROM dispute WHERE since <= @asOf AND (ended IS NULL OR ended > @asOf)'

const accountSums = (books: Books, asOf: Day): readonly Account[] =>
	whileUnchanged(books, `accounts ${asOf}`, () => addUp(books, asOf, null))

/** One customer's accounts with something open as of a day, a currency each. */
export const accountsOfCustomer = (books: Books, customerId: number, asOf: Day): Account[] =>
	addUp(books, asOf, customerId)

/**
 * Every account added up, in the order of customers: the figures of `age`, from the database. What is due from a day on is added
 * up for each bound of the buckets, and a bucket is the difference of two bounds, so that each item is compared once a bound.
 */
function addUp(books: Books, asOf: Day, customer: number | null): Account[] {
	const one = customer !== null
	const bounds = [0, ...bucketEdges].map((edge) => addDays(asOf, -edge))
	const days = Object.fromEntries(bounds.map((day, place) => [`d${place}`, day]))
	const dueFrom = bounds.map((_, place) => `coalesce(sum(open) FILTER (WHERE due_day >= @d${place}), 0)`)
	// As arrays: objects with nine names each take as long to make as the sums.
	const parts = books.db
		.prepare<[Record<string, Day | number>], Part>(
			`SELECT customer_id, currency, side, count(*), sum(open), ${dueFrom.join(', ')}
			 FROM ${openAsOf(books, asOf, undefined, one)} WHERE open > 0 GROUP BY customer_id, currency, side`,
		)
		.raw()
		.all({ asOf, ...days, ...(one ? { customer } : {}) })
	// A cross join is done in its order: the few disputes first.
	const disputed = books
		.sql<[{ asOf: Day; customer?: number }], Disputed>(
			`SELECT o.customer_id, o.currency, sum(o.open) AS open, sum(iif(o.due_day < @asOf, o.open, 0)) AS late
			 FROM (SELECT DISTINCT item_id FROM (${inDispute})) x
				CROSS JOIN ${openAsOf(books, asOf, '', one)} o ON o.id = x.item_id WHERE o.open > 0 AND o.side = 'debit' GROUP BY 1, 2`,
		)
		.all({ asOf, ...(one ? { customer } : {}) })
	const accounts = new Map<string, Account>()
	for (const [customer_id, currency, side, items, open, ...due] of parts) {
		const key = `${customer_id} ${currency}`
		const account = accounts.get(key) ?? {
			...{ customer_id, currency, items: 0, buckets: buckets.map(() => 0) },
			...{ past_due: 0, disputed: 0, credits: 0, balance: 0 },
		}
		accounts.set(key, account)
		account.items += items
		if (side === 'credit') {
			account.credits = open
			account.balance -= open
			continue
		}
		const from = [0, ...due, open]
		account.buckets = buckets.map((_, place) => (from[place + 1] ?? 0) - (from[place] ?? 0))
		account.past_due = open - (due[0] ?? 0)
		account.balance += open
	}
	for (const { customer_id, currency, open, late } of disputed) {
		const account = accounts.get(`${customer_id} ${currency}`)
		if (!account) continue
		account.disputed = open
		account.past_due -= late
	}
	return [...accounts.values()]
}

/** Who owes what as of a day, a row a customer and currency with an open item. */
export const agedAccounts = (books: Books, asOf: Day): readonly AgedRow[] =>
	whileUnchanged(books, `named accounts ${asOf}`, () => {
		const names = new Map(
			books.db
				.prepare<[], [id: number, number: string, name: string]>('SELECT id, number, name FROM customer')
				.raw()
				.all()
				.map(([id, number, name]) => [id, { number, name }]),
		)
		return accountSums(books, asOf).map((account) => ({
			...account,
			...(names.get(account.customer_id) ?? { number: '', name: '' }),
		}))
	})

/** Accounts added up, a row a currency, the one with most accounts first. */
export function sumUp(rows: readonly Account[]): AgedRow[] {
	const sums = new Map<string, AgedRow & { accounts: number }>()
	for (const row of rows) {
		const sum = sums.get(row.currency)
		if (!sum) {
			sums.set(row.currency, { ...row, buckets: [...row.buckets], customer_id: 0, number: '', name: '', accounts: 1 })
			continue
		}
		sum.accounts++
		sum.items += row.items
		sum.past_due += row.past_due
		sum.disputed += row.disputed
		sum.credits += row.credits
		sum.balance += row.balance
		for (const place of sum.buckets.keys()) sum.buckets[place] = (sum.buckets[place] ?? 0) + (row.buckets[place] ?? 0)
	}
	return [...sums.values()].sort((a, b) => b.accounts - a.accounts)
}

/** The whole ledger as of a day, a row a currency. */
export const agedTotals = (books: Books, asOf: Day): AgedRow[] =>
	sumUp(accountSums(books, asOf)).sort((a, b) => (a.currency < b.currency ? -1 : 1))

/**
 * What was owed in a currency at the end of each of several days, by bucket, minor units; disputed items are among it. The ledger
 * is read once for all the days.
 */
export function owedAtEnds(books: Books, currency: string, days: readonly Day[]): number[][] {
	const last = [...days].sort().at(-1) ?? ''
	const sums = days.map(() => buckets.map(() => 0))
	const placesOf = new Map<Day, number[]>()
	const places = (due: Day): number[] => {
		const known = placesOf.get(due)
		if (known) return known
		const found = days.map((day) => buckets.indexOf(bucketOf(daysBetween(due, day), bucketEdges)))
		placesOf.set(due, found)
		return found
	}
	type Row = [id: number, day: Day, due: Day, amount: number, on: Day | null, applied: number | null]
	const rows = books.db
		.prepare<[string, Day], Row>(
			`SELECT i.id, i.day, i.due_day, i.amount, a.day, a.amount FROM ledger_item i LEFT JOIN application a ON a.debit_id = i.id
			 WHERE i.side = 'debit' AND i.currency = ? AND i.day <= ? ORDER BY i.id`,
		)
		.raw()
	let open: number[] = []
	let current = { id: 0, day: '', due: '' }
	const changes = changesByItem(books)
	const close = () => {
		const changed = changes.get(current.id) ?? []
		const into = places(current.due)
		for (let at = 0; at < open.length; at++) {
			const sum = sums[at]
			const day = days[at] ?? ''
			const later = changed.filter((change) => change.day > day)
			for (const { amount_was, amount_is } of later) open[at] = (open[at] ?? 0) + amount_was - amount_is
			const bucket = (later[0] ? places(later[0].due_was) : into)[at] ?? 0
			if (sum && (days[at] ?? '') >= current.day && (open[at] ?? 0) > 0)
				sum[bucket] = (sum[bucket] ?? 0) + (open[at] ?? 0)
		}
	}
	for (const [id, day, due, amount, on, applied] of rows.iterate(currency, last)) {
		if (id !== current.id) {
			close()
			current = { id, day, due }
			open = days.map(() => amount)
		}
		if (on !== null)
			for (let at = 0; at < days.length; at++) if (on <= (days[at] ?? '')) open[at] = (open[at] ?? 0) - (applied ?? 0)
	}
	close()
	return sums
}

type Changed = { item_id: number; day: Day; amount_was: number; amount_is: number; due_was: Day }
/** What of items became otherwise, by item, the earliest first. */
function changesByItem({ sql }: Books): Map<number, Changed[]> {
	const changes = new Map<number, Changed[]>()
	for (const change of sql<[], Changed>(
		'SELECT item_id, day, amount_was, amount_is, due_was FROM item_change ORDER BY day, id',
	).all())
		changes.set(change.item_id, [...(changes.get(change.item_id) ?? []), change])
	return changes
}

export type OwedItem = {
	id: number
	customer_id: number
	customer_number: string
	name: string
	kind: ItemKind
	side: Side
	number: string
	day: Day
	due_day: Day
	their_order: string
	document_id: number | null
	amount: number
	open: number
	disputed: number
}
/** `pick`: a bucket, credits, past due, disputed, or empty for all that is open. `customers`: their ids, or null for all. */
export type OwedQuery = { asOf: Day; currency: string; pick: string; words: string; customers: number[] | null }

/**
 * Items open as of a day on all accounts of a currency, the longest due first: those of one bucket, credits, past due or
 * disputed ones, whose customer, number or order holds the words. At most `most` of them, and how many and how much in all.
 */
export function itemsOwed(
	books: Books,
	query: OwedQuery,
	most: number,
): { rows: OwedItem[]; items: number; open: number } {
	const { asOf, currency, pick, words, customers } = query
	const bucket = buckets.indexOf(pick)
	const edge = (place: number) => addDays(asOf, -(bucketEdges[place] ?? 0))
	const debit = `o.side = 'debit'`
	const of: Record<string, string> = {
		'': '1',
		credits: `o.side = 'credit'`,
		'past due': `${debit} AND o.due_day < @asOf AND o.id NOT IN (${inDispute})`,
		disputed: `${debit} AND o.id IN (${inDispute})`,
		[buckets[bucket] ?? '-']: `${debit} AND o.due_day >= @from AND o.due_day < @before`,
	}
	const from = bucket === 0 ? asOf : bucket > bucketEdges.length ? '' : edge(bucket - 1)
	const before = bucket === 0 ? '9999-12-31' : bucket === 1 ? asOf : edge(bucket - 2)
	const like =
		words === ''
			? ''
			: ` AND instr(lower(c.name || ' ' || c.number || ' ' || i.number || ' ' || i.their_order), lower(@words)) > 0`
	const chosen = customers ? ' AND o.customer_id IN (SELECT value FROM json_each(@customers))' : ''
	const named = 'JOIN ledger_item i ON i.id = o.id JOIN customer c ON c.id = o.customer_id'
	const only = customers?.length === 1 ? customers[0] : undefined
	const all = `FROM ${openAsOf(books, asOf, undefined, only !== undefined)} o ${like && named}
		WHERE o.open > 0 AND o.currency = @currency AND ${of[pick] ?? '0'}${chosen}${like}`
	const values = {
		asOf,
		currency,
		words: words.trim(),
		from,
		before,
		customers: JSON.stringify(customers),
		customer: only ?? 0,
	}
	// What is open is worked out once for the rows and for what they come to.
	const found = books
		.sql<[typeof values & { most: number }], OwedItem & { all_items: number; all_open: number }>(
			`SELECT o.id, o.customer_id, c.number AS customer_number, c.name, i.kind, o.side, i.number, i.day, o.due_day, i.their_order,
				i.document_id, ${amountThen} AS amount, o.open, o.id IN (${inDispute}) AS disputed, o.all_items, o.all_open
			 FROM (SELECT o.*, count(*) OVER () AS all_items, sum(iif(o.side = 'debit', o.open, -o.open)) OVER () AS all_open ${all}
				ORDER BY o.due_day, o.id LIMIT @most) o ${named} ORDER BY o.due_day, c.name, o.id`,
		)
		.all({ ...values, most })
	const [first] = found
	const rows = found.map(({ all_items: _, all_open: __, ...row }): OwedItem => row)
	return { rows, items: first?.all_items ?? 0, open: first?.all_open ?? 0 }
}
