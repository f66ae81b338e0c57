import { addDays, type Day, endOfMonth, isDay, weekday } from './calendar'
import { attempt, type Result, refuse } from './refusal'

/** `net` days from the document date (or from the end of its month), or a day of a later month (CALCULATION, a due date). */
type Terms = { net: number; endOfMonth?: boolean } | { dayOfMonth: number; monthsAfter: number }
type DueInput = { date: Day; terms: Terms; roll?: 'next-business-day' }

const whole = (value: number, path: string, from: number, to: number): number =>
	Number.isInteger(value) && value >= from && value <= to
		? value
		: refuse(path, `${value} is not a whole number from ${from} to ${to}.`)

/** The day by which a document of `date` is to be paid. Refused: a date that does not exist, days or months out of range. */
export function dueDate({ date, terms, roll }: DueInput): Result<Day> {
	return attempt(() => {
		if (!isDay(date)) return refuse('date', `"${date}" is not a date. Write it as 2026-10-31.`)
		const due = 'net' in terms ? netDue(date, terms) : dayDue(date, terms)
		if (roll !== 'next-business-day') return due
		const day = weekday(due)
		return day === 6 ? addDays(due, 2) : day === 0 ? addDays(due, 1) : due
	})
}

function netDue(date: Day, terms: { net: number; endOfMonth?: boolean }): Day {
	return addDays(terms.endOfMonth ? endOfMonth(date) : date, whole(terms.net, 'terms.net', 0, 3650))
}

function dayDue(date: Day, terms: { dayOfMonth: number; monthsAfter: number }): Day {
	const last = endOfMonth(date, whole(terms.monthsAfter, 'terms.monthsAfter', 0, 120))
	const wanted = `${last.slice(0, 8)}${String(whole(terms.dayOfMonth, 'terms.dayOfMonth', 1, 31)).padStart(2, '0')}`
	return wanted < last ? wanted : last
}

/** Terms in words, as printed on a document. */
export function termsText(terms: Terms): string {
	if ('net' in terms) {
		if (terms.net === 0 && !terms.endOfMonth) return 'On receipt'
		return terms.endOfMonth
			? terms.net === 0
				? 'End of month'
				: `${terms.net} days from end of month`
			: `${terms.net} days`
	}
	const after = ['this month', 'next month'][terms.monthsAfter] ?? `${terms.monthsAfter} months on`
	return `Day ${terms.dayOfMonth} of ${after}`
}

// Words for terms in English, German, French, Spanish, Dutch, Norwegian, Danish and Swedish, without accents, and what is meant.
const atOnce =
	/^(on receipt|due on receipt|immediate|immediately|cash|0 days?|sofort|sofort fallig|netto kasse|bar|comptant|a reception|contado|al contado|a la recepcion|direct|contant|per omgaande|kontant|netto kontant|omgaende)$/
const monthEnd =
	'end of (?:the )?month|eom|month end|ende (?:des )?monats?|monatsende|fin (?:de|du) mois|fdm|fin de mes|einde (?:van de )?maand|lopende maand|utgangen av maneden|lopende maned|lob\\.? ?md\\.?|lobende maned|manadens slut|slutet av manaden'
const dayWords = 'days?|tagen?|tage|jours?|j|dias?|dagen|dage|dager|dagar|d'
const onlyMonthEnd = new RegExp(`^(?:${monthEnd})$`)
const counted = new RegExp(
	`^(?:within |payable in |due in |binnen |innen |innerhalb von |a |i )?(?:net(?:to)? ?|n ?)?(\\d{1,4}) ?(?:${dayWords})?\\.?(?:,? net(?:to|t)?)?(?:,? ?(?:from |after |ab |nach |vanaf |na |fra |efter |etter |a |desde )?(?:the |dem |de |het )?(${monthEnd}))?$`,
)

/**
 * Reads terms as firms write them: "30 days", "net 14", "NET30", "30 Tage netto", "30 jours fin de mois", "on receipt", "15th of next month",
 * "Day 20 of next month". Gives null when it is none of these.
 */
export function parseTerms(text: string): Terms | null {
	const plain = text
		.trim()
		.toLowerCase()
		.normalize('NFD')
		.replace(/\p{M}/gu, '')
		.replace(/ø/g, 'o')
		.replace(/\s+/g, ' ')
	if (atOnce.test(plain)) return { net: 0 }
	if (onlyMonthEnd.test(plain)) return { net: 0, endOfMonth: true }
	const net = counted.exec(plain)
	if (net) return net[2] ? { net: Number(net[1]), endOfMonth: true } : { net: Number(net[1]) }
	const day = /^(?:day )?(\d{1,2})(?:st|nd|rd|th)? of (this month|next month|(\d{1,2}) months? on)$/.exec(plain)
	if (!day || Number(day[1]) < 1 || Number(day[1]) > 31) return null
	const monthsAfter = day[2] === 'this month' ? 0 : day[2] === 'next month' ? 1 : Number(day[3])
	return { dayOfMonth: Number(day[1]), monthsAfter }
}
