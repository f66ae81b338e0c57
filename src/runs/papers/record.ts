import type { PaperRecord } from '@/store/paperRecords'

/** What a record is called, and where it is looked at. */
export const readRecordLink = ({ id, order_id, number }: PaperRecord): { name: string; path: string } =>
	order_id === null
		? { name: number, path: `/papers/records/${id}` }
		: { name: `order ${number}`, path: `/orders/${order_id}` }
