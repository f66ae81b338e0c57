import type { FileKind } from '@/intake/kinds'
import type { KindRules } from './kind'
import { openItemsRules } from './openItems'
import { ordersRules } from './orders'
import { paymentsRules } from './payments'
import { customersRules, itemsRules, taxCodesRules } from './records'
import { rowsRules } from './rows'

/** The rules of every kind of file. */
export const kindRules: Record<FileKind, KindRules> = {
	orders: ordersRules,
	customers: customersRules,
	items: itemsRules,
	'tax codes': taxCodesRules,
	payments: paymentsRules,
	'open items': openItemsRules,
	rows: rowsRules,
}
