import { dayText, isDay } from '@/core/calendar'
import { no, type Outcome } from '@/core/outcome'
import { changedSince } from '@/runs/drafts/meanwhile'
import { nextAct } from '@/runs/tally/tally'
import { type Books, inOneStep } from '@/store/books'
import { allTaxRates } from '@/store/catalogue'
import { readCompany } from '@/store/company'
import { type Desk, latestEventId, record } from '@/store/events'
import { askFor, askToHalt, resume, type Step } from '@/store/jobs'
import { waitingOrders } from '@/store/orders'
import { runGroups } from '@/store/places'
import { addRun, readRun } from '@/store/runs'
import { readSettings } from '@/store/settings'

// What a clerk asks of a run: to begin, to go on with its next step, to halt.

/**
 * Starts an invoice run over the orders up to and on a day; the runner gathers it.
 * @param only the ids of the orders that it is to take; none for all that wait
 */
export function startRun(
	books: Books,
	desk: Desk,
	upTo: string,
	documentDay: string,
	only: readonly number[] = [],
): Outcome {
	if (!isDay(upTo) || !isDay(documentDay)) return no('Give both days of the run.')
	return inOneStep(books, () => {
		if (!readCompany(books))
			return no('Give the firm its name under Company first; it stands at the head of every invoice.')
		if (allTaxRates(books).length === 0)
			return no('There are no tax codes yet. Bring them in, or add one under Items and rates.')
		const wanted = new Set(only)
		const waiting = waitingOrders(books, upTo).filter(
			({ id, held_reason }) => held_reason === null && (wanted.size === 0 || wanted.has(id)),
		)
		if (waiting.length === 0) return no('No order waits up to that day.')
		if (wanted.size > waiting.length)
			return no(`${wanted.size} orders were chosen, and ${waiting.length} of them wait now. Look at the list again.`)
		const id = addRun(books, desk, upTo, documentDay, 'invoice', readSettings(books).numbering)
		askFor(books, desk, { kind: 'gather', run: id, expected: 0, ...(only.length > 0 ? { only: [...only] } : {}) })
		const which = only.length > 0 ? `${only.length} chosen orders` : 'orders'
		record(books, desk, { subject: 'run', id, act: 'started the run', detail: `${which} up to ${dayText(upTo)}` })
		return { ok: true, id }
	})
}

/** Asks the runner for a step; refused while another step of the run is going, or when there is nothing to do. */
export function askStep(
	books: Books,
	desk: Desk,
	runId: number,
	step: Exclude<Step, 'gather'>,
	expected: number,
	/** The record's latest event as the clerk saw the drafts; what changed since is asked about. */
	seen = latestEventId(books),
): Outcome {
	return inOneStep(books, () => {
		if (readRun(books, runId)?.state !== 'open') return no('This run is not open.')
		const changed = step === 'number' ? changedSince(books, runId, seen) : null
		if (changed) return changed
		const next = nextAct(runGroups(books, runId))
		if (next.act !== step) return no('Something changed meanwhile; look at the run again.')
		if (step === 'number' && next.count !== expected)
			return no(`Now ${next.count} would be numbered, not ${expected}. Look at the run again.`)
		const id = askFor(books, desk, {
			kind: step,
			run: runId,
			expected,
			...(step === 'number' ? { seen: latestEventId(books) } : {}),
		})
		if (id === null) return no('Another step of this run is still going.')
		record(books, desk, { subject: 'run', id: runId, act: `asked to ${step}`, detail: `${expected} documents` })
		return { ok: true, id }
	})
}

/** Stops the step that is going, or pauses it, after the batch it is in. What is done stays done. */
export function haltStep(books: Books, desk: Desk, runId: number, how: 'stop' | 'pause'): Outcome {
	return inOneStep(books, () => {
		if (!askToHalt(books, runId, how, desk.now())) return no('Nothing is going in this run.')
		record(books, desk, { subject: 'run', id: runId, act: `asked to ${how}` })
		return { ok: true }
	})
}

/** Lets a paused step go on from where it is. */
export function resumeStep(books: Books, desk: Desk, runId: number): Outcome {
	return inOneStep(books, () => {
		if (!resume(books, runId)) return no('Nothing is paused in this run.')
		record(books, desk, { subject: 'run', id: runId, act: 'asked to go on' })
		return { ok: true }
	})
}
