import type { RowsOut } from './rows'

/** A line as its source has it: plain decimals; empty or null for what it does not carry. */
export type ReadLine = {
	row: number
	item: string
	description: string
	quantity: string
	unit: string
	unitPrice: string | null
	pricePer: string
	/** '0' where a discount is an amount. */
	discountPercent: string
	discountAmount: string
	taxCode: string
	own: string
	/** What the line comes to by the source, or by its own figures; minor units. Null where there is no price. */
	net: bigint | null
}
/** An order as its source has it, apart from any books. */
export type ReadOrder = {
	number: string
	day: string
	customer: string
	/** Empty where the source says none. */
	currency: string
	purchaseOrder: string
	note: string
	/** Of the whole order: '0' where it is an amount. */
	discountPercent: string
	discountAmount: string
	discountName: string
	freight: string
	freightPercent: string
	/** What the source says that it comes to; empty where it does not. */
	total: string
	delivery: string
	own: string
	lines: ReadLine[]
	rows: number[]
}
export type OrdersOut = RowsOut & {
	/** @returns what hinders it by row, beyond what its values say; then it is refused whole */
	order: (order: ReadOrder, refuse: RefuseIn) => void
	/** What the lines of a refused order come to, as far as that can be told. */
	refusedLines: (customer: string, currency: string, lines: ReadLine[]) => void
	/** A figure that the source itself gives as its total. */
	sourceTotal: (row: number, figure: string) => void
}
/** Refuses a field of an order: of its first row, or of the row and line that are named. */
export type RefuseIn = (field: string, remedy: string, line?: number) => void
