import { fileSource } from '@/archive/source'
import type { DayFormat } from '@/core/readDay'
import type { SheetRow } from '@/intake/cell'
import { formatNamed } from '@/intake/formats'
import { type FileKind, fileKinds } from '@/intake/kinds'
import { proposeReading, readSource } from '@/intake/look'
import { takeOrders } from '@/intake/orders'
import { type DiscountForm, discountForms, missingFields, notUsed, type RowRefusal } from '@/intake/reading'
import type { ReadOrder } from '@/intake/readOrder'
import { cellReader, rowsOf, type SkipReason } from '@/intake/rows'
import { settled } from '@/intake/settled'
import type { DecimalMark } from '@/intake/values/figure'

type ReadOptions = { as?: string; days?: string; decimal?: string; discount?: string; orderDiscount?: string }

const dayFormats: Record<string, DayFormat> = {
	'day-first': 'day first',
	'month-first': 'month first',
	'year-first': 'year first',
}
const oneOf = <T extends string>(list: readonly T[], text: string | undefined): T | null =>
	list.find((one) => one === text) ?? null

type OrdersAnswer =
	| { error: { why: string } }
	| {
			format: string
			headRow: number | null
			questions: string[]
			notUsed: string[]
			sourceTotal: string | null
			orders: ReturnType<typeof orderAnswer>[]
			refused: ReturnType<typeof byRow>
			left: { row: number; why: SkipReason }[]
	  }

/**
 * Reads one file of orders as the page would on first sight, without books (READING, the answer).
 * @returns what is to be printed; `error` in it where the file is refused whole
 */
export async function readFileOfOrders(path: string, options: ReadOptions): Promise<OrdersAnswer> {
	const kind = oneOf<FileKind>(fileKinds, options.as ?? 'orders')
	if (kind !== 'orders') return { error: { why: `tally read reads orders; “${options.as}” it does not.` } }
	const source = fileSource(path)
	try {
		const kept: SheetRow[] = []
		const look = await readSource(source, { add: (row) => kept.push(row) })
		if (!look.ok) return { error: { why: look.refusal.message } }
		const rows = rowsOf(kept)
		const { reading } = proposeReading(look.value, [], 'orders')
		reading.days = options.days === undefined ? null : (dayFormats[options.days] ?? null)
		reading.decimal = oneOf<DecimalMark>(['point', 'comma'], options.decimal)
		reading.discount = oneOf<DiscountForm>(discountForms, options.discount)
		reading.orderDiscount = oneOf<DiscountForm>(discountForms, options.orderDiscount)
		const missing = missingFields(reading)
		if (formatNamed(look.value.format)?.unmarked?.(look.value.settings))
			return {
				error: { why: 'It is a text report. Bring it in, and mark on one of its pages what is what.' },
			}
		if (missing.length > 0)
			return {
				error: {
					why: `No column is ${missing.map(({ label }) => label).join(', or ')}. Name one so, or say which it is.`,
				},
			}
		const decided = settled(rows, reading, look.value.evidence, [])
		let orders: ReadOrder[] = []
		let refusals: RowRefusal[] = []
		let left: { row: number; why: SkipReason }[] = []
		let sourceTotal: string | null = null
		const read = cellReader(decided)
		takeOrders(rows, reading, decided, [], () => {
			orders = []
			refusals = []
			left = []
			return {
				order: (order) => orders.push(order),
				refuse: (refusal) => refusals.push(refusal),
				left: (row, why) => left.push({ row, why }),
				refusedLines: () => {},
				sourceTotal: (_, figure) => {
					sourceTotal = read(figure, 'amount').text || sourceTotal
				},
			}
		})
		const open = decided.questions.length > 0
		return {
			format: look.value.format,
			headRow: reading.headRow,
			questions: decided.questions.map(({ name }) => name),
			notUsed: notUsed(reading).map(({ name }) => name),
			sourceTotal: open ? null : sourceTotal,
			orders: open ? [] : orders.map(orderAnswer),
			refused: open ? [] : byRow(refusals),
			left: left.sort((a, b) => a.row - b.row),
		}
	} finally {
		source.close()
	}
}

const orderAnswer = ({ number, day, customer, currency, purchaseOrder, lines }: ReadOrder) => ({
	number,
	day,
	customer,
	currency: currency || null,
	purchaseOrder,
	lines: lines.map(({ item, description, quantity, unit, unitPrice, discountPercent, discountAmount }) => ({
		item,
		description,
		quantity,
		unit,
		unitPrice,
		...(discountAmount === '' ? { discountPercent } : { discountAmount }),
	})),
})

function byRow(refusals: RowRefusal[]) {
	const rows = new Map<number, { column: string; value: string; why: string }[]>()
	for (const { row, column, value, remedy } of refusals)
		rows.set(row, [...(rows.get(row) ?? []), { column, value, why: remedy }])
	return [...rows].sort(([a], [b]) => a - b).map(([row, reasons]) => ({ row, reasons }))
}
