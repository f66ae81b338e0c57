import type { Day } from '@/core/calendar'
import type { Books } from './books'
import { isDone, stands } from './places'

/** So many, and what they come to in minor units of a currency. */
export type Figure = { currency: string; count: number; amount: number }
type Month = { billed: Figure[]; sent: Figure[]; paid: Figure[] }

/** What a month came to, by the days that stand on invoices and payments; of credit notes the amount is below zero. */
export function monthOf({ sql }: Books, month: string): Month {
	const span: [Day, Day] = [`${month}-01`, `${month}-31`]
	const figures = (text: string) => sql<[Day, Day], Figure>(text).all(...span)
	const bills = (where: string) =>
		figures(
			`SELECT currency, count(*) AS count, sum(total) AS amount FROM placed d
			 WHERE kind IN ('invoice', 'credit-note') AND number IS NOT NULL AND ${stands} AND day BETWEEN ? AND ? ${where}
			 GROUP BY currency ORDER BY count(*) DESC`,
		)
	return {
		billed: bills(''),
		sent: bills(`AND ${isDone}`),
		paid: figures(
			`SELECT currency, count(*) AS count, sum(amount) AS amount FROM ledger_item WHERE kind = 'payment' AND day BETWEEN ? AND ?
			 GROUP BY currency ORDER BY count(*) DESC`,
		),
	}
}

/** What was billed and paid in one currency in each of some months, in their order. */
export const billedAndPaid = (
	{ sql }: Books,
	currency: string,
	months: readonly string[],
): { month: string; billed: number; paid: number }[] =>
	sql<[string, string, string], { month: string; billed: number; paid: number }>(
		`SELECT j.value AS month,
			coalesce((SELECT sum(total) FROM placed d WHERE kind IN ('invoice', 'credit-note') AND number IS NOT NULL
				AND ${stands} AND currency = ? AND day BETWEEN j.value || '-01' AND j.value || '-31'), 0) AS billed,
			coalesce((SELECT sum(amount) FROM ledger_item WHERE kind = 'payment' AND currency = ?
				AND day BETWEEN j.value || '-01' AND j.value || '-31'), 0) AS paid
		 FROM json_each(?) j ORDER BY j.value`,
	).all(currency, currency, JSON.stringify(months))

/** Who brought each file that waits to be accepted. */
export const filesWith = ({ sql }: Books): { id: number; name: string; clerk: string }[] =>
	sql<[], { id: number; name: string; clerk: string }>(
		`SELECT id, name, received_by AS clerk FROM source_file WHERE state IN ('arriving', 'read') ORDER BY id LIMIT 20`,
	).all()
