import { isDay } from '@/core/calendar'
import { parseAmount } from '@/core/currency'
import { attempt } from '@/core/refusal'
import { type Books, inOneStep } from '@/store/books'
import { allTaxRates } from '@/store/catalogue'
import { readCompany } from '@/store/company'
import {
	benchRows,
	dropDrafts,
	hold,
	markPrinted,
	readAnyDocument,
	release,
	runGroups,
	setLooked,
} from '@/store/documents'
import { type Desk, record } from '@/store/events'
import { askFor, askToHalt, isGoing, latestJob, resume, type Step } from '@/store/jobs'
import { giveBack, waitingOrders } from '@/store/orders'
import { addRun, endRun, readRun, setSourceTotal } from '@/store/runs'
import { readSettings } from '@/store/settings'
import { recheckBeside } from './redraft'
import { nextAct } from './tally'

export type Outcome = { ok: true; id?: number } | { ok: false; message: string }
const no = (message: string): Outcome => ({ ok: false, message })

/** Starts an invoice run over the orders up to and on a day; the runner gathers it. */
export function startRun(books: Books, desk: Desk, upTo: string, documentDay: string): Outcome {
	if (!isDay(upTo) || !isDay(documentDay)) return no('Give both days of the run.')
	return inOneStep(books, () => {
		if (!readCompany(books))
			return no('Give the firm its name under Company first; it stands at the head of every invoice.')
		if (allTaxRates(books).length === 0)
			return no('There are no tax codes yet. Bring them in, or add one under Items and rates.')
		if (waitingOrders(books, upTo).length === 0) return no('No order waits up to that day.')
		const id = addRun(books, desk, upTo, documentDay, 'invoice', readSettings(books).numbering)
		askFor(books, desk, id, 'gather')
		record(books, desk, { subject: 'run', id, act: 'started the run', detail: `orders up to ${upTo}` })
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
): Outcome {
	return inOneStep(books, () => {
		if (readRun(books, runId)?.state !== 'open') return no('This run is not open.')
		const next = nextAct(runGroups(books, runId))
		if (next.act !== step) return no('Something changed meanwhile; look at the run again.')
		if (step === 'number' && next.count !== expected)
			return no(`Now ${next.count} would be numbered, not ${expected}. Look at the run again.`)
		const id = askFor(books, desk, runId, step, expected)
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

function checkOthers(books: Books, desk: Desk, documentId: number): void {
	const document = readAnyDocument(books, documentId)
	if (document?.kind === 'invoice') recheckBeside(books, desk, document)
}

/** Keeps a document out of the numbering, with the reason. */
export function holdBack(books: Books, desk: Desk, documentId: number, reason: string): Outcome {
	const words = reason.trim()
	if (!words) return no('Say why it is held back; the tally shows the reason.')
	return inOneStep(books, () => {
		if (!hold(books, desk, documentId, words)) return no('It is numbered already and can no longer be held back.')
		checkOthers(books, desk, documentId)
		record(books, desk, {
			subject: 'document',
			id: documentId,
			act: 'held back',
			detail: `${nameOf(books, documentId)}: ${words}`,
		})
		return { ok: true }
	})
}

export function releaseHeld(books: Books, desk: Desk, documentId: number): Outcome {
	return inOneStep(books, () => {
		const before = readAnyDocument(books, documentId)?.held_reason
		if (!release(books, documentId)) return no('It is not held back.')
		checkOthers(books, desk, documentId)
		record(books, desk, {
			subject: 'document',
			id: documentId,
			act: 'released',
			detail: `${nameOf(books, documentId)}, held back until now: ${before}`,
		})
		return { ok: true }
	})
}

/** Notes that a flagged document looks right, or takes the note back. */
export function looksRight(books: Books, desk: Desk, documentId: number, right: boolean): Outcome {
	return inOneStep(books, () => {
		if (!setLooked(books, desk, documentId, right)) return no('Only a document that asks for a look can be looked at.')
		record(books, desk, {
			subject: 'document',
			id: documentId,
			act: right ? 'looked right' : 'to be looked at again',
			detail: nameOf(books, documentId),
		})
		return { ok: true }
	})
}

/** Notes that a document without an address was printed and posted. */
export function printed(books: Books, desk: Desk, documentId: number): Outcome {
	return inOneStep(books, () => {
		if (!markPrinted(books, desk, documentId)) return no('It has no PDF yet, or was noted as printed before.')
		record(books, desk, {
			subject: 'document',
			id: documentId,
			act: 'printed and posted',
			detail: nameOf(books, documentId),
		})
		return { ok: true }
	})
}

/** Sets what the source system reports for the run (amount text of the currency), or takes it away when empty. */
export function reportSourceTotal(books: Books, desk: Desk, runId: number, currency: string, text: string): Outcome {
	const amount = attempt(() => (text.trim() === '' ? null : parseAmount(text.replace(/[,\s]/g, ''), currency, 'total')))
	if (!amount.ok) return no(amount.refusal.message)
	return inOneStep(books, () => {
		setSourceTotal(books, runId, currency, amount.value)
		record(books, desk, {
			subject: 'run',
			id: runId,
			act: 'set the source total',
			detail: `${text.trim() || 'none'} ${currency}`,
		})
		return { ok: true }
	})
}

/** Gives every order of a run back to those waiting; only while nothing of it is numbered. */
export function giveRunBack(books: Books, desk: Desk, runId: number): Outcome {
	return inOneStep(books, () => {
		const run = readRun(books, runId)
		if (!run || run.state === 'closed' || run.state === 'given-back') return no('This run is not open.')
		if (going(books, runId)) return no('A step of this run is still going. Stop it first.')
		if (benchRows(books, runId).some(({ number }) => number !== null))
			return no('Some of its invoices are numbered; the run can only be closed.')
		const orders = giveBack(books, runId)
		dropDrafts(books, runId)
		endRun(books, desk, runId, 'given-back')
		record(books, desk, {
			subject: 'run',
			id: runId,
			act: 'gave all orders back',
			detail: `${orders} orders wait again`,
		})
		return { ok: true }
	})
}

/** Closes a run in which everything is sent, printed or held back with a reason. Held orders wait again. */
export function closeRun(books: Books, desk: Desk, runId: number): Outcome {
	return inOneStep(books, () => {
		if (readRun(books, runId)?.state !== 'open') return no('This run is not open.')
		const next = nextAct(runGroups(books, runId))
		if (next.act !== 'close' || going(books, runId)) return no('Not every difference in the tally has a reason yet.')
		const orders = giveBack(books, runId)
		endRun(books, desk, runId, 'closed')
		record(books, desk, {
			subject: 'run',
			id: runId,
			act: 'closed the run',
			detail: orders > 0 ? `${orders} orders held back wait again` : 'everything was billed',
		})
		return { ok: true }
	})
}

const going = (books: Books, runId: number): boolean => isGoing(latestJob(books, runId))

/** How the record names a document: its number once it has one, and its customer. */
function nameOf(books: Books, documentId: number): string {
	const document = readAnyDocument(books, documentId)
	return [document?.number, document?.customer_name].filter(Boolean).join(' ')
}
