import { dayText, isDay } from '@/core/calendar'
import { no, type Outcome } from '@/core/outcome'
import type { StatementChoice } from '@/core/statement'
import { agedTotals } from '@/store/accounts'
import { type Books, inOneStep } from '@/store/books'
import { readCompany } from '@/store/company'
import { type Desk, record } from '@/store/events'
import { askFor } from '@/store/jobs'
import { registerFor } from '@/store/registers'
import { addRun, addStatementChoice } from '@/store/runs'
import { readSettings, workDate } from '@/store/settings'

/** Starts a run of statements; the runner gathers it. @param sure whether a person said that a day after the one that is worked on is meant */
export function startStatements(books: Books, desk: Desk, choice: StatementChoice, sure = false): Outcome {
	if (!isDay(choice.asOf)) return no('Give the day that the statements are as of.')
	if (choice.charges && choice.show === 'past-due')
		return no('Late charges go with statements of all that is open, so that the customer sees them.')
	if (choice.form === 'balance forward' && (!isDay(choice.since) || choice.since > choice.asOf))
		return no('Give the first day of what happened, up to the day that the statements are as of.')
	const { closedTo } = readSettings(books)
	if (choice.charges && closedTo !== '' && choice.asOf <= closedTo)
		return no(
			`The books are closed to ${dayText(closedTo)}: no late charge is entered as of ${dayText(choice.asOf)}. Leave late charges out, or open them under Company.`,
		)
	const worked = workDate(books, desk.now().slice(0, 10))
	if (choice.asOf > worked && !sure)
		return {
			ok: false,
			ask: 'ahead',
			message: `${dayText(choice.asOf)} is after the day that is worked on, ${dayText(worked)}. Are the statements to be as of that day all the same?`,
		}
	return inOneStep(books, () => {
		if (!readCompany(books))
			return no('Give the firm its name under Company first; it stands at the head of every statement.')
		if (!registerFor(books, 'statement'))
			return no('There is no number register for statements. Open one under Number registers.')
		if (agedTotals(books, choice.asOf).length === 0) return no('Nothing is open on any account on that day.')
		const id = addRun(books, desk, choice.asOf, choice.asOf, 'statement')
		addStatementChoice(books, id, JSON.stringify(choice))
		askFor(books, desk, { kind: 'gather', run: id, expected: 0 })
		record(books, desk, { subject: 'run', id, act: 'started the statements', detail: `as of ${dayText(choice.asOf)}` })
		return { ok: true, id }
	})
}
