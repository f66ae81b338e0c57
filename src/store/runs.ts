import type { Day } from '@/core/calendar'
import type { Numbering } from '@/core/numbering'
import type { KindName } from '@/kinds'
import type { Books } from './books'
import type { Desk } from './events'

type RunState = 'gathering' | 'open' | 'closed' | 'given-back'
export type Run = {
	id: number
	kind: KindName
	up_to: Day
	document_day: Day
	started_at: string
	started_by: string
	state: RunState
	closed_at: string | null
	closed_by: string | null
	/** What its documents are numbered by. */
	numbering: Numbering
	/** The event of the record up to which its drafts were checked. */
	checked_to: number
}
export type RunSummary = Run & {
	documents: number
	numbered: number
	made: number
	sent: number
	printed: number
	filed: number
}

const columns =
	'id, kind, up_to, document_day, started_at, started_by, state, closed_at, closed_by, numbering, checked_to'

/** Begins a run. @param upTo the last day of what it gathers @param documentDay the date of its documents @returns its id */
export function addRun(
	{ sql }: Books,
	desk: Desk,
	upTo: Day,
	documentDay: Day,
	kind: KindName = 'invoice',
	numbering: Numbering = 'customer',
	state: 'gathering' | 'open' = 'gathering',
): number {
	return Number(
		sql<[string, Day, Day, string, string, string, Numbering]>(
			`INSERT INTO run (kind, up_to, document_day, started_at, started_by, state, numbering) VALUES (?, ?, ?, ?, ?, ?, ?)`,
		).run(kind, upTo, documentDay, desk.now(), desk.clerk, state, numbering).lastInsertRowid,
	)
}

/** One run; null where there is none. */
export function readRun({ sql }: Books, id: number): Run | null {
	return sql<[number], Run>(`SELECT ${columns} FROM run WHERE id = ?`).get(id) ?? null
}

/** The latest 300 runs with how far each is, the latest first. */
export const allRuns = ({ sql }: Books): RunSummary[] =>
	sql<[], RunSummary>(
		`SELECT ${columns},
			(SELECT count(*) FROM document d WHERE d.run_id = run.id AND d.dropped_at IS NULL) AS documents,
			(SELECT count(*) FROM document d WHERE d.run_id = run.id AND d.number IS NOT NULL) AS numbered,
			(SELECT count(*) FROM document d WHERE d.run_id = run.id AND d.made_at IS NOT NULL) AS made,
			(SELECT count(*) FROM message m WHERE m.run_id = run.id AND m.state = 'sent') AS sent,
			(SELECT count(*) FROM placed d WHERE d.run_id = run.id AND d.place = 'printed') AS printed,
			(SELECT count(*) FROM placed d WHERE d.run_id = run.id AND d.place = 'filed') AS filed
		 FROM run ORDER BY id DESC LIMIT 300`,
	).all()

/** Notes up to which event of the record the run's drafts were checked. */
export function noteChecked({ sql }: Books, id: number, eventId: number): void {
	sql<[number, number]>('UPDATE run SET checked_to = ? WHERE id = ?').run(eventId, id)
}

/** Runs whose drafts can still change. */
export const runsOpen = ({ sql }: Books): number[] =>
	sql<[], { id: number }>(`SELECT id FROM run WHERE state = 'open' ORDER BY id`)
		.all()
		.map(({ id }) => id)

/** How many runs are being gathered or open. */
export const openRuns = ({ sql }: Books): number =>
	sql<[], { n: number }>(`SELECT count(*) AS n FROM run WHERE state IN ('gathering', 'open')`).get()?.n ?? 0

/** Sets how a run stands. */
export function setRunState({ sql }: Books, id: number, state: RunState): void {
	sql<[RunState, number]>('UPDATE run SET state = ? WHERE id = ?').run(state, id)
}

/** Sets by what the documents of a run are numbered. */
export function setNumbering({ sql }: Books, id: number, numbering: Numbering): void {
	sql<[Numbering, number]>('UPDATE run SET numbering = ? WHERE id = ?').run(numbering, id)
}

/** What a run of statements is for, as JSON. */
export const statementChoice = ({ sql }: Books, runId: number): string | null =>
	sql<[number], { choice: string }>('SELECT choice FROM run_statement WHERE run_id = ?').get(runId)?.choice ?? null

/** Keeps what a run of statements was asked to gather, as JSON. */
export function addStatementChoice({ sql }: Books, runId: number, choice: string): void {
	sql<[number, string]>('INSERT INTO run_statement (run_id, choice) VALUES (?, ?)').run(runId, choice)
}

/** Closes a run, or gives its orders back. */
export function endRun({ sql }: Books, desk: Desk, id: number, state: 'closed' | 'given-back'): void {
	sql<[RunState, string, string, number]>('UPDATE run SET state = ?, closed_at = ?, closed_by = ? WHERE id = ?').run(
		state,
		desk.now(),
		desk.clerk,
		id,
	)
}

/** What the source reports, minor units by currency. */
export function sourceTotals({ sql }: Books, runId: number): Map<string, number> {
	const rows = sql<[number], { currency: string; total: number }>(
		'SELECT currency, total FROM run_source_total WHERE run_id = ?',
	).all(runId)
	return new Map(rows.map(({ currency, total }) => [currency, total]))
}

/** Sets what the source reports for a currency; null takes it away. */
export function setSourceTotal({ sql }: Books, runId: number, currency: string, total: bigint | null): void {
	if (total === null) {
		sql<[number, string]>('DELETE FROM run_source_total WHERE run_id = ? AND currency = ?').run(runId, currency)
		return
	}
	sql<[number, string, bigint]>(
		`INSERT INTO run_source_total (run_id, currency, total) VALUES (?, ?, ?)
		 ON CONFLICT (run_id, currency) DO UPDATE SET total = excluded.total`,
	).run(runId, currency, total)
}
