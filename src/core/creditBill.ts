import { creditedDiscounts, restOf, withinWhatIsLeft } from './creditRest'
import { amountText, parseAmount } from './currency'
import { decimalText, parseDecimal, pow10, roundQuotient } from './decimal'
import { type BillContent, noLayout, type Unpriced } from './document'
import { priceBill } from './priceBill'
import { attempt, type Result, refuse } from './refusal'

/** Which lines are credited, by their place, and how much of each; `freight` credits the charges too. */
type Crediting = { lines: { line: number; quantity: string }[]; freight: boolean }
/** What of each line, and whether the freight, can still be credited. */
export type Creditable = { lines: string[]; freight: boolean }

const exact = (text: string) => parseDecimal(text, 'quantity', 6)
const millionths = (text: string): bigint => {
	const { units, scale } = exact(text)
	return units * pow10(6 - scale)
}
const written = (units: bigint): string => {
	const text = decimalText({ units, scale: 6 })
	return text.includes('.') ? text.replace(/\.?0+$/, '') : text
}
const plus = (a: string, b: string): string => written(millionths(a) + millionths(b))
const turned = (quantity: string): string => written(-millionths(quantity))

/** The part of a line's discount in money that goes with a part of its quantity; the last part takes what is left, as every figure does. */
function partOfDiscount(
	line: { quantity: string; discountAmount?: string | undefined },
	quantity: string,
	currency: string,
): { discountAmount?: string } {
	if (line.discountAmount === undefined) return {}
	const [part, whole] = [millionths(quantity), millionths(line.quantity)]
	if (whole === 0n) return { discountAmount: line.discountAmount }
	const amount = parseAmount(line.discountAmount, currency, 'discount') * part
	return { discountAmount: amountText(roundQuotient(amount, whole, 'half-away'), currency) }
}

/** Whether a quantity goes beyond what is left, or the other way. */
function exceeds(quantity: string, left: string): boolean {
	const [asked, most] = [millionths(quantity), millionths(left)]
	return most >= 0n ? asked < 0n || asked > most : asked > 0n || asked < most
}

/** What can still be credited of a bill beside the credit notes that it has. */
export function creditable(bill: BillContent, notes: readonly BillContent[]): Creditable {
	const lines = bill.lines.map(({ quantity }, index) =>
		notes
			.flatMap((note) => note.lines.filter(({ credits }) => credits === index))
			.reduce((left, line) => plus(left, line.quantity), quantity),
	)
	// Before charges were named by their place, a line that credits none was freight.
	const freight =
		bill.charges.length > 0 &&
		!notes.some((note) => note.lines.some(({ credits, creditsCharge }) => credits === null || creditsCharge !== null))
	return { lines, freight }
}

/**
 * The credit note of a bill: the quantities turned, at its own prices and discounts, never beyond what is left. Whatever takes the last
 * of a line, or of the bill, takes what is left of its figures to the smallest unit.
 * @param base what the credit note says besides; `chargeName` what it calls a charge that it credits, by its place
 */
export function creditBill(
	bill: BillContent,
	notes: readonly BillContent[],
	{ lines: asked, freight }: Crediting,
	base: Pick<BillContent, 'number' | 'day' | 'reason'> & {
		of: { number: string; day: string }
		chargeName: (place: number) => string
	},
): Result<Unpriced> {
	return attempt(() => {
		const left = creditable(bill, notes)
		const twice = asked.find(({ line }, place) => asked.findIndex((one) => one.line === line) !== place)
		if (twice) return refuse(`lines.${twice.line}`, `Line ${twice.line + 1} is named twice. Say once how much of it.`)
		const wanted = asked.filter(({ quantity }) => millionths(quantity) !== 0n)
		const over = wanted.find(({ line, quantity }) => exceeds(quantity, left.lines[line] ?? '0'))
		if (over)
			return refuse(
				`lines.${over.line}`,
				`Line ${over.line + 1}: ${over.quantity} is more than the ${left.lines[over.line] ?? '0'} that can still be credited.`,
			)
		const charges = freight && left.freight ? bill.charges : []
		if (wanted.length + charges.length === 0) return refuse('lines', 'Nothing is left to credit on this invoice.')
		const credited = wanted.flatMap(({ line, quantity }) => {
			const own = bill.lines[line]
			return own
				? [
						{
							...own,
							...partOfDiscount(own, quantity, bill.currency),
							line: 0,
							quantity: turned(quantity),
							credits: line,
							creditsCharge: null,
						},
					]
				: []
		})
		const charged = charges.map(({ order, taxCode }, index) => {
			const amount = bill.priced.charges[index] ?? '0'
			const below = amount.startsWith('-')
			return {
				order,
				line: 0,
				sourceRow: 0,
				item: '',
				description: base.chargeName(index),
				quantity: below ? '1' : '-1',
				unit: '',
				unitPrice: below ? amount.slice(1) : amount,
				pricePer: '1',
				discountPercent: '0',
				taxCode,
				discountable: false,
				credits: null,
				creditsCharge: index,
			}
		})
		const whole = left.lines.every((most, line) => {
			const own = wanted.find((one) => one.line === line)?.quantity ?? '0'
			return millionths(own) === millionths(most)
		})
		const { priced: _, ...content } = bill
		const note: Unpriced = {
			...content,
			kind: 'credit-note',
			revision: 1,
			refersTo: base.of,
			reason: base.reason,
			number: base.number,
			day: base.day,
			orders: bill.orders.map(({ brings: _, ...order }) => order),
			dueDay: base.day,
			layout: noLayout,
			charges: [],
			lines: [...credited, ...charged],
			discounts: creditedDiscounts(bill, credited),
			rest: restOf(bill, notes, {
				last: whole && (freight || !left.freight),
				lines: wanted.filter(({ line, quantity }) => millionths(quantity) === millionths(left.lines[line] ?? '0')),
				charges: charges.length,
			}),
		}
		const credit = withinWhatIsLeft(bill, notes, note, left.lines)
		const priced = priceBill(credit)
		const comesTo = priced.ok ? priced.value.lines.some(({ gross }) => gross !== 0n) : true
		if (!comesTo && bill.priced.lines.some(({ gross }) => Number(gross) !== 0))
			return refuse(
				'lines',
				`What is chosen comes to ${amountText(0n, bill.currency)} ${bill.currency}. Credit more of it, or another line with it.`,
			)
		return credit
	})
}
