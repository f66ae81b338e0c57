import type { PaperRecord } from '@/store/paperRecords'

/** What a record is called, and where it is looked at. */
export const readRecordLink = (record: PaperRecord): { name: string; path: string } => {
	const { id, order_id, first_row, number, body } = record
	if (order_id !== null) return { name: `order ${number}`, path: `/orders/${order_id}` }
	const from = first_row === null ? '' : `, row ${first_row} of ${body?.order.source_file}`
	return { name: `${number}${from}`, path: `/papers/records/${id}` }
}
