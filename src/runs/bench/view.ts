import type { Place } from '@/core/places'
import type { Level } from '@/store/documents'
import type { BenchRow } from '@/store/places'

/** A row of the bench's list: only what the list shows, since there may be ten thousand. */
export type BenchView = {
	id: number
	number: string
	customer: string
	orders: string
	orderCount: number
	net: number
	tax: number
	pastDue: number
	total: number
	currency: string
	level: Level
	brief: string
	findings: number
	held: string
	looked: boolean
	changed: boolean
	/** Of a statement: it is no longer true. */
	stale: boolean
	place: Place
}

/** All that the bench of a run shows, in one reading; null where there is no such run. */
export const benchView = (row: BenchRow): BenchView => ({
	id: row.id,
	number: row.number ?? '',
	customer: row.customer_name,
	orders: row.order_numbers,
	orderCount: row.order_count,
	net: row.net,
	tax: row.tax,
	pastDue: row.past_due,
	total: row.total,
	currency: row.currency,
	level: row.level,
	brief: row.brief ?? '',
	findings: row.findings,
	held: row.held_reason ?? '',
	looked: row.looked_at !== null,
	changed: row.changes > 0,
	stale: row.changed !== '',
	place: row.place,
})
