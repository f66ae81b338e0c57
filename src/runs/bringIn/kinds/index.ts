import type { FileKind } from '@/intake/kinds'
import { customersRules } from './customers'
import { itemsRules } from './items'
import type { KindRules } from './kind'
import { openItemsRules } from './openItems'
import { ordersRules } from './orders'
import { paymentsRules } from './payments'
import { rowsRules } from './rows'
import { taxCodesRules } from './taxCodes'

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
