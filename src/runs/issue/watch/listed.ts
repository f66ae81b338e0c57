import { parseAmount } from '@/core/currency'
import { type AnyContent, billsOrders, isBill, isPaper, keyOf } from '@/kinds'
import type { Listed } from '@/store/watch'

/**
 * What of an issued document's row is otherwise than its frozen content, its register and what it corrects: each column that lists and
 * searches go by, and each part of the content that the row determines.
 */
export function listedFaults(row: Listed, content: AnyContent): string[] {
	const wrong: string[] = []
	const same = (what: string, is: unknown, said: unknown) => {
		if (is !== said) wrong.push(`${row.number}: ${what} is ${is}, and ${said} as it was issued`)
	}
	const minor = (amount: string) => Number(parseAmount(amount || '0', content.currency, 'issued'))
	if (row.frozen !== 1) wrong.push(`${row.number} is not frozen`)
	same('its kind', row.kind, keyOf(content))
	same('its revision', row.revision, content.revision)
	same('its day', row.day, content.day)
	same('its due day', row.due_day, content.dueDay)
	same('its currency', row.currency, content.currency)
	same('its customer', row.customer_name, content.customer.name)
	if (!isPaper(content)) same('whose it is', row.customer_number, content.customer.number)
	wrong.push(...numberFaults(row, content))
	if (isBill(content)) {
		const { priced, orders, refersTo } = content
		if (!isPaper(content)) {
			same('its orders', row.order_numbers, orders.map(({ number }) => number).join(', '))
			same('how many orders it has', row.order_count, orders.length)
		}
		same('its net', row.net, minor(priced.net))
		same('its tax', row.tax, minor(priced.taxTotal))
		same('its total', row.total, minor(priced.total))
		if (refersTo) {
			same('what it credits', row.credits, refersTo.number)
			same('the day of what it credits', row.credits_day, refersTo.day)
		} else if (row.credits !== null) wrong.push(`${row.number} credits ${row.credits}, and says nothing of it`)
	} else {
		same('its tax', row.tax, 0)
		// The list has the account as it was found; the late charge comes with the statement.
		same('its balance', row.net, minor(content.balance) - minor(content.charge?.amount ?? ''))
		same('what it asks for', row.total, minor(content.total))
		same('what is past due', row.past_due, minor(content.pastDue))
		same('its stage', row.stage, content.stage)
	}
	if (row.revises !== null && row.revision < 2) wrong.push(`${row.number} revises ${row.revises}, and is no revision`)
	const bills = billsOrders(content) && row.credits_id === null
	// Documents from before it was noted have none.
	if (row.line_count !== 0) same('how many lines it has', row.line_count, bills ? content.lines.length : 0)
	if ((row.file_name === null) !== (row.file_sha256 === null))
		wrong.push(`${row.number} has a file without its hash, or a hash without its file`)
	if (isBill(content) && content.supply && !isPaper(content)) {
		const days = content.orders.map(({ day }) => day).sort()
		same('the first day of supply', content.supply.from, days[0])
		same('the last day of supply', content.supply.to, days.at(-1))
	}
	return wrong
}

/** The number beside what its register gave: the prefix and value that were frozen with it. */
function numberFaults(row: Listed, content: AnyContent): string[] {
	const { number, revision, issued } = content
	const mark = isPaper(content) ? content.paper.mark : ''
	const shown = number === '' ? mark : revision > 1 ? `${number} rev. ${revision}` : number
	const wrong: string[] = []
	if (shown !== row.number) wrong.push(`${row.number} is frozen as ${shown || 'a draft'}`)
	if (row.register_value === null) {
		if (revision === 1 && mark === '') wrong.push(`${row.number} has no value in a register`)
		return wrong
	}
	const digits = issued && number.startsWith(issued.prefix) ? number.slice(issued.prefix.length) : number
	if (!digits.endsWith(String(row.register_value)) || (issued && Number(digits) !== row.register_value))
		wrong.push(`${row.number} has ${row.register_value} in its register`)
	if (issued && issued.value !== row.register_value)
		wrong.push(`${row.number} was given as ${issued.value}, not ${row.register_value}`)
	if (issued && issued.run !== row.run_id)
		wrong.push(`${row.number} was numbered in run ${issued.run}, and stands in run ${row.run_id}`)
	if (row.register_kind === null) wrong.push(`${row.number} is of no register`)
	const year = Number(content.day.slice(0, 4))
	if (row.register_year !== 0 && row.register_year !== year)
		wrong.push(`${row.number} of ${content.day} is counted under ${row.register_year}`)
	return wrong
}
