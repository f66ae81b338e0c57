import type { BenchRow, Level } from '@/store/documents'

/** How far a document has come. */
export type Stage =
	| 'draft'
	| 'numbered'
	| 'made'
	| 'waiting'
	| 'sent'
	| 'refused'
	| 'unsure'
	| 'to print'
	| 'printed'
	| 'to read'
	| 'void'
	| 'replaced'
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
	stage: Stage
}

function stageOf(row: BenchRow): Stage {
	if (row.void_at !== null) return 'void'
	if (row.replaced_at !== null) return 'replaced'
	if (row.number === null) return 'draft'
	if (row.made_at === null) return 'numbered'
	if (row.printed_at !== null) return 'printed'
	if (row.email === '') return 'to print'
	if (row.message_state === null) return row.message_held === 1 ? 'to read' : 'made'
	return row.message_state === 'sent' || row.message_state === 'refused' || row.message_state === 'unsure'
		? row.message_state
		: 'waiting'
}

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
	stage: stageOf(row),
})
