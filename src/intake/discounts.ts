import { lineNet, minorOf } from '@/core/lineNet'
import type { OwnField } from '@/core/ownFields'
import { textOf } from './cell'
import { linesIn } from './orderIndex'
import { currencyOrPound } from './orders'
import type { Decided, DiscountForm, Reading } from './reading'
import { cellReader, type Rows, shapeOf } from './rows'

/**
 * What a column of discounts holds, by which form makes quantity × price less discount the line's total in every row that has one (rule 19).
 * Null where that decides nothing.
 */
export function decideDiscount(
	rows: Rows,
	reading: Reading,
	decided: Decided,
	own: readonly OwnField[],
): DiscountForm | null {
	const shape = shapeOf(reading, own)
	const read = cellReader(decided)
	const fits = { percent: true, share: true, amount: true }
	let spoke = 0
	for (const row of rows.each()) {
		if (reading.headRow !== null && row.row <= reading.headRow) continue
		for (let line = 0; line < linesIn(row, shape); line++) {
			const placed = shape.lines[shape.nested ? 0 : line] ?? []
			const at = (key: string, type: 'amount' | 'quantity' | 'percent' | 'number') =>
				read(shape.cell(row, line, placed.find(({ field }) => field.key === key)?.place), type)
			const discount = at('lineDiscount', 'percent')
			const [quantity, price, total] = [
				at('quantity', 'quantity'),
				at('unitPrice', 'amount'),
				at('lineTotal', 'amount'),
			]
			if (discount.percent || discount.text === '' || discount.text === '0') continue
			if (quantity.text === '' || price.text === '' || total.text === '') continue
			const currency = currencyOrPound(
				(textOf(shape.cell(row, 0, reading.columns.currency)) || price.currency || total.currency).toUpperCase(),
			)
			spoke++
			const plain = { quantity: quantity.text, unitPrice: price.text, pricePer: at('pricePer', 'number').text || '1' }
			for (const form of ['percent', 'share', 'amount'] as const) {
				const out = minorOf(total.text, currency) - lineNet(plain, { form, value: discount.text }, currency)
				if (out > 1n || out < -1n) fits[form] = false
			}
		}
	}
	const left = (['percent', 'share', 'amount'] as const).filter((form) => fits[form])
	return spoke > 0 && left.length === 1 ? (left[0] ?? null) : null
}

/** Whether any discount stands that does not say itself what it is. */
export function discountsSpeak(rows: Rows, reading: Reading, decided: Decided, own: readonly OwnField[]): boolean {
	const shape = shapeOf(reading, own)
	const read = cellReader(decided)
	for (const row of rows.each()) {
		if (reading.headRow !== null && row.row <= reading.headRow) continue
		for (let line = 0; line < linesIn(row, shape); line++) {
			const place = (shape.lines[shape.nested ? 0 : line] ?? []).find(
				({ field }) => field.key === 'lineDiscount',
			)?.place
			const { text, percent } = read(shape.cell(row, line, place), 'percent')
			if (text !== '' && text !== '0' && !percent) return true
		}
	}
	return false
}
