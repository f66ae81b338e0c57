import { type Day, dayText } from '@/core/calendar'
import type { Books } from '@/store/books'
import type { Desk } from '@/store/events'
import { readSettings, workDate } from '@/store/settings'

/** The latest of some days. */
export const later = (...days: Day[]): Day => days.sort().at(-1) ?? ''

/** The day that is worked on. */
export const today = (books: Books, desk: Desk): Day => workDate(books, desk.now().slice(0, 10))

/** No entry is of an earlier day, nor of one more than a year ahead: such days are slips. */
const first: Day = '2000-01-01'
const yearAhead = (day: Day): Day => `${Number(day.slice(0, 4)) + 1}${day.slice(4)}`

/** Why nothing is entered as of a day, with what to do instead; null where it may be. */
export function whyNotOn(books: Books, desk: Desk, day: Day): string | null {
	const { closedTo } = readSettings(books)
	if (day < first) return `${dayText(day)} is before ${dayText(first)}. Give the day of the entry.`
	if (day > yearAhead(today(books, desk)))
		return `${dayText(day)} is more than a year ahead. Give the day of the entry.`
	if (closedTo !== '' && day <= closedTo)
		return `The books are closed to ${dayText(closedTo)}: nothing is entered as of ${dayText(day)}. Give a later day, or open them under Company.`
	return null
}
