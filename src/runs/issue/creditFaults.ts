import { amountText, parseAmount } from '@/core/currency'
import { decimalText, parseDecimal, pow10 } from '@/core/decimal'
import { type BillContent, billSchema } from '@/core/document'
import type { Bill } from '@/store/verify'

const contentOf = ({ content }: Pick<Bill, 'content'>): BillContent => billSchema.parse(JSON.parse(content))
const millionths = (text: string): bigint => {
	const { units, scale } = parseDecimal(text, 'quantity', 6)
	return units * pow10(6 - scale)
}
const sum = (amounts: readonly bigint[]): bigint => amounts.reduce((total, amount) => total + amount, 0n)

/**
 * What is wrong with the credit notes of a bill: line by line and charge by charge, in quantity and in money, none is credited beyond what
 * was billed or the other way, and what is credited whole comes to nothing in every figure.
 */
export function creditFaults(bill: Bill, notes: readonly Bill[]): string[] {
	const billed = contentOf(bill)
	const credits = notes.map((note) => ({ ...note, read: contentOf(note) }))
	const minor = (amount: string | undefined) => parseAmount(amount ?? '0', billed.currency, 'credited')
	const money = (amount: bigint) => amountText(amount, billed.currency)
	const wrong: string[] = []
	/** Takes what was billed and what was credited of it; tells whether nothing is left. */
	const look = (what: string, whole: bigint, parts: readonly bigint[], inWords = money): boolean => {
		const left = whole + sum(parts)
		if (whole >= 0n ? left < 0n || left > whole : left > 0n || left < whole)
			wrong.push(
				`${what} of ${bill.number} is credited beyond what was billed: ${inWords(left)} of ${inWords(whole)} is left`,
			)
		return left === 0n
	}
	const linesGone = billed.lines.map((line, place) => {
		const own = credits.flatMap(({ read }) =>
			read.lines.flatMap((one, index) => (one.credits === place ? [{ one, figures: read.priced.lines[index] }] : [])),
		)
		const gone = look(
			`line ${place + 1}`,
			millionths(line.quantity),
			own.map(({ one }) => millionths(one.quantity)),
			(units) => decimalText({ units, scale: 6 }).replace(/\.?0+$/, ''),
		)
		const figures = billed.priced.lines[place]
		for (const key of ['gross', 'net'] as const)
			look(
				`the ${key} of line ${place + 1}`,
				minor(figures?.[key]),
				own.map((each) => minor(each.figures?.[key])),
			)
		return gone
	})
	// Before charges were named by their place, a line that credits none was freight.
	const freight = credits.flatMap(({ read }) =>
		read.lines.flatMap((line, index) => (line.credits === null ? [minor(read.priced.lines[index]?.net)] : [])),
	)
	const chargesGone = look('the freight', sum(billed.priced.charges.map(minor)), freight)
	if (linesGone.every(Boolean) && chargesGone)
		for (const key of ['net', 'taxTotal', 'total'] as const) {
			const left = sum([billed, ...credits.map(({ read }) => read)].map(({ priced }) => minor(priced[key])))
			if (left !== 0n) wrong.push(`${bill.number} is credited whole, and ${money(left)} of its ${key} is left`)
		}
	for (const { number, day, read } of credits) {
		if (day < bill.day) wrong.push(`${number} of ${day} credits ${bill.number} of ${bill.day}`)
		const named = read.lines.flatMap(({ credits: line }) => line ?? [])
		if (new Set(named).size < named.length) wrong.push(`${number} credits a line of ${bill.number} twice`)
		if (read.refersTo?.number !== bill.number)
			wrong.push(`${number} credits ${bill.number}, and names ${read.refersTo?.number}`)
	}
	return wrong
}
