import { isDay } from '@/core/calendar'
import { parseTerms, termsText } from '@/core/dueDate'
import { nameParts } from '@/core/entryNames'
import { formatAmount, formatDay } from '@/core/format'
import type { Movement } from '@/core/statement'
import type { Said } from './languages'
import { word, wordIfKnown } from './words'

/** How a paper says a word, and the locale of its amounts and days. */
type Saying = { say: (said: Said) => string; locale: string }

/** The name of an entry in the language of the paper. */
export function entryNameOn(name: string, { say, locale }: Saying): string {
	const { before, of, after } = nameParts(name)
	const what = before && isDay(of) ? formatDay(of, locale) : of
	return [before ? say(word(before)) : '', what, ...after.map((one) => say(word(one)))].filter(Boolean).join(' ')
}

/** What happened on an account, in the language of the paper; as it was written where that is all that was kept. */
export function movementOn({ words, said }: Movement, saying: Saying): string {
	if (!said) return words
	const { say } = saying
	const name = entryNameOn(said.number, saying)
	// What an extract calls an entry stays as it has it.
	const what = say(wordIfKnown(said.what))
	if (happenings.has(said.what)) return `${name}: ${[what, ...changes(said, saying)].join(', ')}`
	// A name with words of its own says what it is.
	const { before, after } = nameParts(said.number)
	return before || after.length > 0 ? name : `${what} ${name}`
}

/** What happens to an entry that is there; all else is an entry that came. */
const happenings: ReadonlySet<string> = new Set(['changed', 'settled', 'open again'])

/** What of an entry became otherwise. */
function changes({ amounts, due, dated }: NonNullable<Movement['said']>, { say, locale }: Saying): string[] {
	return [
		...(amounts ? [amounts.map((amount) => formatAmount(amount, locale)).join(' → ')] : []),
		...(due ? [`${say(word('Due'))} ${due.map((day) => formatDay(day, locale)).join(' → ')}`] : []),
		...(dated ? [`${say(word('Date'))} ${formatDay(dated, locale)}`] : []),
	]
}

/** Terms in the language of the paper, where they are as the program words them; a firm's own words stay. */
export function termsOn(terms: string, say: Saying['say']): string {
	const meant = parseTerms(terms)
	if (!meant || termsText(meant) !== terms) return terms
	if ('net' in meant) {
		const { net, endOfMonth } = meant
		if (net === 0) return say(word(endOfMonth ? 'End of month' : 'On receipt'))
		return say(word(endOfMonth ? '{n} days from end of month' : '{n} days')).replace('{n}', String(net))
	}
	const { dayOfMonth, monthsAfter } = meant
	const of = ['Day {d} of this month', 'Day {d} of next month'][monthsAfter] ?? 'Day {d} of {n} months on'
	return say(word(of)).replace('{d}', String(dayOfMonth)).replace('{n}', String(monthsAfter))
}
