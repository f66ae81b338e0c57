import { isTooMuch, parseAmount, plainAmount } from '@/core/currency'
import { no, type Outcome } from '@/core/outcome'
import { attempt } from '@/core/refusal'
import { kindOf } from '@/kinds'
import { joinWaiting, ordersWait } from '@/runs/drafts/waiting'
import { nextAct } from '@/runs/tally/tally'
import { type Books, inOneStep } from '@/store/books'
import { draftsOf, dropDraft } from '@/store/drafts'
import { type Desk, record } from '@/store/events'
import { isGoing, latestJob } from '@/store/jobs'
import { leaveRunWhole } from '@/store/paperRecords'
import { benchRows, runGroups } from '@/store/places'
import { endRun, readRun, setSourceTotal } from '@/store/runs'

// How a run ends, and what it is tied against.

/** Sets what the source system reports for the run (amount text of the currency), or takes it away when empty. */
export function reportSourceTotal(books: Books, desk: Desk, runId: number, currency: string, text: string): Outcome {
	const amount = attempt(() =>
		text.trim() === '' ? null : parseAmount(plainAmount(text.replace(/\s/g, '')), currency, 'total'),
	)
	if (!amount.ok) return no(amount.refusal.message)
	if (amount.value !== null && isTooMuch(amount.value)) return no('That is more than a run can come to. Correct it.')
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

/** Gives every order of a run back to those waiting, with what was agreed on them; only while nothing of it is numbered. */
export function giveRunBack(books: Books, desk: Desk, runId: number): Outcome {
	return inOneStep(books, (): Outcome => {
		const run = readRun(books, runId)
		if (!run || run.state === 'closed' || run.state === 'given-back') return no('This run is not open.')
		if (going(books, runId)) return no('A step of this run is still going. Stop it first.')
		if (benchRows(books, runId).some(({ number }) => number !== null))
			return no('Some of its documents are numbered; the run can only be closed.')
		let orders = 0
		for (const id of draftsOf(books, runId)) {
			orders += ordersWait(books, desk, id, `run ${runId} was given back`)
			dropDraft(books, desk, id, 'the run was given back')
		}
		joinWaiting(books)
		leaveRunWhole(books, desk, runId)
		endRun(books, desk, runId, 'given-back')
		const { bills } = kindOf(run.kind)
		record(books, desk, {
			subject: 'run',
			id: runId,
			act: bills ? 'gave all orders back' : 'dropped all drafts',
			detail: bills ? `${orders} orders wait again` : '',
		})
		return { ok: true }
	})
}

/** Closes a run in which everything is sent, printed or held back with a reason. Held orders wait again, with what was agreed on them. */
export function closeRun(books: Books, desk: Desk, runId: number): Outcome {
	return inOneStep(books, (): Outcome => {
		const run = readRun(books, runId)
		if (run?.state !== 'open') return no('This run is not open.')
		const next = nextAct(runGroups(books, runId))
		if (next.act !== 'close' || going(books, runId)) return no('Not every difference in the tally has a reason yet.')
		const orders = draftsOf(books, runId).reduce(
			(sum, id) => sum + ordersWait(books, desk, id, `held back in run ${runId}, which was closed`),
			0,
		)
		joinWaiting(books)
		endRun(books, desk, runId, 'closed')
		record(books, desk, {
			subject: 'run',
			id: runId,
			act: 'closed the run',
			detail: !kindOf(run.kind).bills
				? ''
				: orders > 0
					? `${orders} orders held back wait again`
					: 'everything was billed',
		})
		return { ok: true }
	})
}

const going = (books: Books, runId: number): boolean => isGoing(latestJob(books, runId))
